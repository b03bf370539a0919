"""Accounts, sign-in and sessions."""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import uuid4

from argon2 import PasswordHasher
from argon2.exceptions import Argon2Error, InvalidHashError
from sqlalchemy import bindparam, delete, func, select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import InputError, NomismaError
from nomisma.store.models import Account, Session, SignInAttempt

ROLES = ("machinist", "lead", "apprentice")
SHORTEST_PASSWORD = 8
_hasher = PasswordHasher()
# Verified against when there is no such account, so that a guess takes as long either way.
_NOBODY = _hasher.hash(secrets.token_hex(8))


class SignInRefused(NomismaError):
    """Wrong name or password, or too many tries; the message is for the person."""


@dataclass(frozen=True)
class SignInRules:
    """How often one may try, how long the pause is, how long a sign-in lasts."""

    tries: int
    pause: timedelta
    lasts: timedelta


def add_account(session: OrmSession, *, sign_in_name: str, name: str, role: str, password: str, unit: str = "in") -> Account:
    """A new account. Raises InputError for a taken name, an unknown role or a short password."""
    sign_in_name, name = sign_in_name.strip().lower(), name.strip()
    if not sign_in_name or not name:
        raise InputError("A name is missing.", "Give the name and the word to sign in with.", field="sign_in_name")
    if role not in ROLES:
        raise InputError(f"“{role}” is not a role.", f"Choose {', '.join(ROLES)}.", field="role", value=role)
    if len(password) < SHORTEST_PASSWORD:
        raise InputError("The password is too short.", f"Use at least {SHORTEST_PASSWORD} characters.", field="password")
    if session.scalar(select(Account.id).where(Account.sign_in_name == sign_in_name)):
        raise InputError(f"“{sign_in_name}” is taken.", "Choose another word to sign in with.", field="sign_in_name")
    account = Account(
        id=uuid4(), sign_in_name=sign_in_name, name=name, role=role, password_hash=_hasher.hash(password), unit=unit
    )
    session.add(account)
    session.flush()
    return account


def sign_in(
    session: OrmSession, *, sign_in_name: str, password: str, address: str, now: datetime, rules: SignInRules
) -> tuple[str, Session]:
    """Check and open a session: the token for the cookie, and the row. Commits the attempt, failed ones too.

    Raises SignInRefused.
    """
    sign_in_name = sign_in_name.strip().lower()[:80]
    if _failures(session, sign_in_name, address, now - rules.pause) >= rules.tries:
        minutes = int(rules.pause.total_seconds() // 60) or 1
        raise SignInRefused(f"Too many tries. Wait {minutes} minutes, then try again.")
    account = session.scalar(select(Account).where(Account.sign_in_name == sign_in_name))
    good = _matches(account.password_hash if account else _NOBODY, password) and account is not None
    session.add(SignInAttempt(sign_in_name=sign_in_name, address=address, succeeded=good))
    if not good or account is None:
        session.commit()
        raise SignInRefused("That name and password do not go together. Check both, and Caps Lock.")
    session.execute(delete(Session).where(Session.expires_at < now))
    token = secrets.token_urlsafe(32)
    row = Session(
        token_sha256=_digest(token),
        account_id=account.id,
        csrf_token=secrets.token_urlsafe(24),
        expires_at=now + rules.lasts,
    )
    session.add(row)
    session.commit()
    return token, row


def _failures(session: OrmSession, sign_in_name: str, address: str, since: datetime) -> int:
    """Failed tries for this name from this address since the last good one."""
    attempt = SignInAttempt
    mine = (attempt.sign_in_name == sign_in_name, attempt.address == address, attempt.at > since)
    last_good = select(func.max(attempt.at)).where(*mine, attempt.succeeded).scalar_subquery()
    failed = select(func.count()).where(*mine, ~attempt.succeeded, attempt.at > func.coalesce(last_good, since))
    return session.scalar(failed) or 0


def _matches(password_hash: str, password: str) -> bool:
    try:
        return _hasher.verify(password_hash, password[:500])
    except (Argon2Error, InvalidHashError):
        return False


_SESSION = select(Session).where(Session.token_sha256 == bindparam("digest"), Session.expires_at > bindparam("now"))


def session_of(session: OrmSession, token: str, now: datetime) -> Session | None:
    """The session of a cookie's token with its account, unless it has run out."""
    return session.scalar(_SESSION, {"digest": _digest(token), "now": now})


def sign_out(session: OrmSession, token: str) -> None:
    """End a session; harmless if there is none."""
    session.execute(delete(Session).where(Session.token_sha256 == _digest(token)))
    session.commit()


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def accounts(session: OrmSession) -> list[Account]:
    """Everyone, by name."""
    return list(session.scalars(select(Account).order_by(Account.name)))
