"""What every table shares: its names, exact lengths, ids made by the client, the time it was written."""

from datetime import datetime
from typing import Any, get_args
from uuid import UUID, uuid4

from sqlalchemy import DateTime, MetaData, Numeric, Text, TypeDecorator, func
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

MM = Numeric(24, 12)  # exact mm; twelve decimals hold any inch size written to ten


class OneOf(TypeDecorator[Any]):
    """A text that is one of a Literal's words; another one is refused where it is written, and where it is read."""

    impl = Text
    cache_ok = True

    def __init__(self, allowed: tuple[str, ...]) -> None:
        super().__init__()
        self.allowed = allowed

    def process_bind_param(self, value: Any, dialect: Any) -> Any:  # noqa: ARG002
        """What is written."""
        return self._checked(value)

    def process_result_value(self, value: Any, dialect: Any) -> Any:  # noqa: ARG002
        """What is read."""
        return self._checked(value)

    def _checked(self, value: Any) -> Any:
        if value is not None and value not in self.allowed:
            raise ValueError(f"“{value}” is not one of {', '.join(self.allowed)}")
        return value


def one_of(words: Any, **more: Any) -> Mapped[Any]:
    """A column whose text is one of a Literal's words, or of the words given."""
    return mapped_column(OneOf(words if isinstance(words, tuple) else get_args(words)), **more)


class Base(DeclarativeBase):
    """Names every constraint, so that migrations can speak of them."""

    @property
    def asked_by(self) -> tuple[str, str, UUID | None]:
        """By what an answer about a row is found again: its table, itself, and the job it is of."""
        known: Any = self
        return (known.__tablename__, str(known.id), getattr(known, "job_id", None))

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


def client_uuid() -> Mapped[UUID]:
    """A UUID made by the client that wrote the row, so that a repeat is harmless."""
    return mapped_column(primary_key=True, default=uuid4)


def written_at() -> Mapped[datetime]:
    """When the row was written, UTC, by the database's clock."""
    return mapped_column(DateTime(timezone=True), server_default=func.now())
