"""Accounts: who may sign in, in what role, by which password; what changes one ends the sign-ins it has."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from uuid import UUID, uuid4

from argon2 import PasswordHasher
from argon2.exceptions import Argon2Error, InvalidHashError
from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import InputError, NotDefined
from nomisma.store.models import Account, Session
from nomisma.store.models.people import Role

ROLES = tuple(Role)
SHORTEST_PASSWORD, LONGEST_PASSWORD = 12, 200
FEWEST_SIGNS = 5
"""So many different characters at least: twelve times the same letter is no password."""
MOST_HASHES_AT_ONCE = 2
HASH_WAIT_SECONDS = 20
_hasher = PasswordHasher()
_hashing = threading.BoundedSemaphore(MOST_HASHES_AT_ONCE)


class TooManyAtOnce(InputError):
    """More passwords are being checked than this machine has memory for; each takes 64 MB."""


@contextmanager
def _a_turn() -> Iterator[None]:
    if not _hashing.acquire(timeout=HASH_WAIT_SECONDS):
        raise TooManyAtOnce("Too many are signing in at once.", "Wait a moment, then try again.", field="password")
    try:
        yield
    finally:
        _hashing.release()


def hash_of(password: str) -> str:
    """The Argon2 hash of a password; a few at a time. Raises TooManyAtOnce."""
    with _a_turn():
        return _hasher.hash(password)


def matches(password_hash: str, password: str) -> bool:
    """Whether a password is the one behind a hash; a few at a time. Raises TooManyAtOnce."""
    with _a_turn():
        try:
            return _hasher.verify(password_hash, password[: LONGEST_PASSWORD + 1])
        except (Argon2Error, InvalidHashError):
            return False


def check_password(password: str, field: str = "password") -> None:
    """Raises InputError for a password that may not be set: nothing of it is trimmed or cut, edge spaces count."""
    if not SHORTEST_PASSWORD <= len(password) <= LONGEST_PASSWORD:
        raise InputError(
            f"The password has {len(password)} characters.",
            f"Use {SHORTEST_PASSWORD} to {LONGEST_PASSWORD}; four words that do not belong together are easy to keep.",
            field=field,
        )
    if len(set(password)) < FEWEST_SIGNS or not password.isprintable():
        raise InputError(
            "The password repeats a few signs, or has one no keyboard types.",
            f"Use at least {FEWEST_SIGNS} different ones.",
            field=field,
        )


def add_account(session: OrmSession, *, sign_in_name: str, name: str, role: str, password: str, unit: str = "in") -> Account:
    """A new account. Raises InputError for a taken name, an unknown role or a password that may not be."""
    sign_in_name, name = sign_in_name.strip().lower(), name.strip()
    if not sign_in_name or not name:
        raise InputError("A name is missing.", "Give the name and the word to sign in with.", field="sign_in_name")
    if len(sign_in_name) > 80 or len(name) > 80:
        raise InputError("That name is too long.", "Use at most 80 characters.", field="sign_in_name")
    _check_role(role)
    check_password(password)
    if session.scalar(select(Account.id).where(Account.sign_in_name == sign_in_name)):
        raise InputError(f"“{sign_in_name}” is taken.", "Choose another word to sign in with.", field="sign_in_name")
    account = Account(
        id=uuid4(), sign_in_name=sign_in_name, name=name, role=role, password_hash=hash_of(password), unit=unit
    )
    session.add(account)
    session.flush()
    return account


def account_named(session: OrmSession, sign_in_name: str) -> Account:
    """The account of a word to sign in with. Raises NotDefined."""
    found = session.scalar(select(Account).where(Account.sign_in_name == sign_in_name.strip().lower()))
    if found is None:
        raise NotDefined(
            f"Nobody signs in as “{sign_in_name[:40]}”.", "./nomisma user list names everyone.", field="sign_in_name"
        )
    return found


def set_password(session: OrmSession, account: Account, password: str, *, field: str = "password") -> None:
    """Another password; every sign-in by the old one ends. The caller commits. Raises InputError."""
    check_password(password, field)
    account.password_hash = hash_of(password)
    sign_out_everywhere(session, account.id)


def set_role(session: OrmSession, account: Account, role: str) -> None:
    """Another role; sign-ins in the old one end. The caller commits. Raises InputError for an unknown role, or the last lead's."""
    _check_role(role)
    if role != Role.LEAD:
        _check_another_lead(session, account)
    account.role = role
    sign_out_everywhere(session, account.id)


def disable(session: OrmSession, account: Account, now: datetime) -> None:
    """The account may not sign in from now on, and is signed out; what it wrote stays. The caller commits. Raises InputError."""
    _check_another_lead(session, account)
    account.disabled_at = now
    sign_out_everywhere(session, account.id)


def enable(account: Account) -> None:
    """The account may sign in again. The caller commits."""
    account.disabled_at = None


def sign_out_everywhere(session: OrmSession, account_id: UUID) -> None:
    """End every sign-in of an account. The caller commits."""
    session.execute(delete(Session).where(Session.account_id == account_id))


def accounts(session: OrmSession) -> list[Account]:
    """Everyone, by name."""
    return list(session.scalars(select(Account).order_by(Account.name)))


def _check_role(role: str) -> None:
    if role not in ROLES:
        raise InputError(f"“{role}” is not a role.", f"Choose {', '.join(ROLES)}.", field="role", value=role)


def _check_another_lead(session: OrmSession, account: Account) -> None:
    if account.role != Role.LEAD or account.disabled_at is not None:
        return
    others = select(func.count()).where(Account.role == Role.LEAD, Account.disabled_at.is_(None), Account.id != account.id)
    if not session.scalar(others):
        raise InputError(
            f"{account.name} is the only lead.", "Make somebody else the lead first: some decisions need one.", field="role"
        )
