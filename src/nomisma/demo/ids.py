"""The same id for the same thing at every load of the demo."""

from uuid import UUID, uuid5

_NAMESPACE = UUID("6f1a52be-0c3b-4d50-9d3c-6e2f1e6b8a11")


def demo_id(*words: str) -> UUID:
    """The same id for the same thing at every load."""
    return uuid5(_NAMESPACE, "/".join(words))
