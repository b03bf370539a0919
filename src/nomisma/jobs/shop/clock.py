"""The clock; the one place where the work of a shop looks at it."""

from datetime import UTC, datetime


def now() -> datetime:
    """The time now, in UTC."""
    return datetime.now(UTC)
