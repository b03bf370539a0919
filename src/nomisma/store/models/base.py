"""What every table shares: its names, exact lengths, ids made by the client, the time it was written."""

from datetime import datetime
from uuid import UUID, uuid4

from sqlalchemy import DateTime, MetaData, Numeric, func
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

MM = Numeric(24, 12)  # exact mm; twelve decimals hold any inch size written to ten


class Base(DeclarativeBase):
    """Names every constraint, so that migrations can speak of them."""

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
