"""Why nothing was started: errors of starting and stopping, light enough for every command to know them."""


class StartError(Exception):
    """The server cannot start; the message says why and what to do."""


class ClusterError(Exception):
    """PostgreSQL cannot be made, started or reached; the message says why and what to do."""
