"""People and their sign-ins."""

from datetime import datetime
from enum import StrEnum
from uuid import UUID

from sqlalchemy import BigInteger, DateTime, ForeignKey, Identity, Index, Text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from nomisma.core.quantity.length import Unit
from nomisma.store.models.base import Base, client_uuid, one_of, written_at


class Role(StrEnum):
    """What somebody is in the shop."""

    MACHINIST = "machinist"
    LEAD = "lead"
    APPRENTICE = "apprentice"

    @property
    def is_always_needed(self) -> bool:
        """Whether a shop is never without one who may sign in: some decisions are a lead's."""
        return self is Role.LEAD

    @property
    def named(self) -> str:
        """As one of them is spoken of: there is one lead, and any machinist."""
        return f"the {self}" if self.is_always_needed else f"a {self}"


class Account(Base):
    """Someone who may sign in: machinist, lead or apprentice."""

    __tablename__ = "account"
    id: Mapped[UUID] = client_uuid()
    sign_in_name: Mapped[str] = mapped_column(Text, unique=True)
    name: Mapped[str] = mapped_column(Text)
    role: Mapped[str] = mapped_column(Text)
    password_hash: Mapped[str] = mapped_column(Text)
    unit: Mapped[Unit] = one_of(Unit, server_default="in")
    created_at: Mapped[datetime] = written_at()
    password_set_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))  # none: as the account was made
    password_set_from: Mapped[str] = mapped_column(Text, server_default="")  # an address, or the server itself
    password_is_given: Mapped[bool] = mapped_column(
        server_default="false"
    )  # somebody else knows it: it has to be changed
    disabled_at: Mapped[datetime | None] = mapped_column(DateTime(timezone=True))  # may not sign in since then


class Session(Base):
    """A sign-in on one browser; the cookie holds the token, this table only its SHA-256."""

    __tablename__ = "session"
    token_sha256: Mapped[str] = mapped_column(Text, primary_key=True)
    account_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    csrf_token: Mapped[str] = mapped_column(Text)
    created_at: Mapped[datetime] = written_at()
    expires_at: Mapped[datetime] = mapped_column(DateTime(timezone=True))
    account: Mapped[Account] = relationship(lazy="joined", innerjoin=True)


class SignInAttempt(Base):
    """Every try to sign in of the last weeks, for limiting them; what was typed as a name is kept as a digest only."""

    __tablename__ = "sign_in_attempt"
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    name_sha256: Mapped[str] = mapped_column(Text)
    address: Mapped[str] = mapped_column(Text)
    succeeded: Mapped[bool]
    at: Mapped[datetime] = written_at()
    __table_args__ = (
        Index("ix_sign_in_attempt_name_sha256_at", "name_sha256", "at"),
        Index("ix_sign_in_attempt_address_at", "address", "at"),
    )


class AccessToken(Base):
    """A token of a gauge or a program, as a digest; the newest row of a holder counts, and one without a digest
    withdraws.
    """

    __tablename__ = "access_token"
    id: Mapped[UUID] = client_uuid()
    sequence: Mapped[int] = mapped_column(BigInteger, Identity(), unique=True)
    kind: Mapped[str] = mapped_column(Text)  # gauge or program
    name: Mapped[str] = mapped_column(Text)
    token_sha256: Mapped[str | None] = mapped_column(Text)
    by_id: Mapped[UUID] = mapped_column(ForeignKey("account.id"))
    at: Mapped[datetime] = written_at()
    by: Mapped[Account] = relationship()
    __table_args__ = (Index("ix_access_token_kind_name_sequence", "kind", "name", "sequence"),)
