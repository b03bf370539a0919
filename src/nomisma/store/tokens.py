"""Tokens by which a gauge or a program proves itself: made in the shop, shown once, kept as a digest only."""

import secrets
from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID, uuid4

from sqlalchemy import bindparam, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import joinedload

from nomisma.store.append import append
from nomisma.store.by_version import by_version
from nomisma.store.digest import digest
from nomisma.store.models import AccessToken

TokenKind = Literal["gauge", "program"]
TOKEN_KINDS: dict[TokenKind, str] = {
    "gauge": "a gauge: its readings land on the page of the job it speaks to",
    "program": "a program: it may ask for calculations",
}
"""What a token lets its holder do; none of them signs anybody in."""

_NEWEST = (
    select(AccessToken)
    .where(AccessToken.kind == bindparam("kind"), AccessToken.name == bindparam("name"))
    .order_by(AccessToken.sequence.desc())
    .limit(1)
)
_BY_DIGEST = select(AccessToken).where(
    AccessToken.kind == bindparam("kind"), AccessToken.token_sha256 == bindparam("digest")
)


@dataclass(frozen=True, slots=True)
class TokenHolder:
    """A gauge or a program whose token holds now, who made it and when."""

    kind: str
    name: str
    by: str
    at: datetime


def make_token(
    session: OrmSession, *, kind: TokenKind, name: str, by_id: UUID, id: UUID | None = None, token: str = ""
) -> str:
    """A new token in place of any the holder had; returned once, never to be read again. The caller commits."""
    token = token or secrets.token_urlsafe(24)
    append(session, AccessToken(id=id or uuid4(), kind=kind, name=name, token_sha256=digest(token), by_id=by_id))
    return token


def withdraw_token(session: OrmSession, *, kind: TokenKind, name: str, by_id: UUID) -> None:
    """The holder's token holds no more. The caller commits."""
    append(session, AccessToken(id=uuid4(), kind=kind, name=name, token_sha256=None, by_id=by_id))


@by_version("shop")
def _newest(session: OrmSession, kind: TokenKind, name: str) -> AccessToken | None:
    return session.scalar(_NEWEST, {"kind": kind, "name": name})


@by_version("shop")
def _with_digest(session: OrmSession, kind: TokenKind, token_digest: str) -> AccessToken | None:
    return session.scalar(_BY_DIGEST, {"kind": kind, "digest": token_digest})


def holds(session: OrmSession, *, kind: TokenKind, name: str, token: str) -> bool:
    """Whether a token is the one its holder was given last."""
    row = _newest(session, kind, name)
    return bool(row and row.token_sha256 and secrets.compare_digest(row.token_sha256, digest(token)))


def holder_of(session: OrmSession, *, kind: TokenKind, token: str) -> str:
    """Whose token it is; empty where it is nobody's, or was replaced or withdrawn."""
    row = _with_digest(session, kind, digest(token))
    return row.name if row and holds(session, kind=kind, name=row.name, token=token) else ""


def token_holders(session: OrmSession) -> list[TokenHolder]:
    """Everyone whose token holds now, gauges first, by name."""
    newest = (
        select(AccessToken)
        .ext(distinct_on(AccessToken.kind, AccessToken.name))
        .order_by(AccessToken.kind, AccessToken.name, AccessToken.sequence.desc())
        .options(joinedload(AccessToken.by))
    )
    return [TokenHolder(row.kind, row.name, row.by.name, row.at) for row in session.scalars(newest) if row.token_sha256]
