"""Accounts: who may sign in, in what role, by which password; what changes one ends the sign-ins it has."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID, uuid4

from sqlalchemy import delete, func, select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import InputError, NotDefined
from nomisma.store.by_version import by_version
from nomisma.store.models import Account, Session
from nomisma.store.models.people import Role
from nomisma.store.passwords import check_password, hash_of

ROLES = tuple(Role)
AT_THE_SERVER = "the server"
"""From where a password was set that was set from the shell."""


def add_account(
    session: OrmSession,
    *,
    sign_in_name: str,
    name: str,
    role: str,
    password: str,
    unit: str = "in",
    given: bool = False,
) -> Account:
    """A new account. Raises InputError for a taken name, an unknown role or a password that may not be.

    `given`: somebody else knows the password, so it has to be changed at the first sign-in.
    """
    sign_in_name, name = sign_in_name.strip().lower(), name.strip()
    if not sign_in_name or not name:
        raise InputError("A name is missing.", "Give the name and the word to sign in with.", field="sign_in_name")
    if len(sign_in_name) > 80 or len(name) > 80:
        raise InputError("That name is too long.", "Use at most 80 characters.", field="sign_in_name")
    _check_role(role)
    check_password(password, (sign_in_name, name))
    if session.scalar(select(Account.id).where(Account.sign_in_name == sign_in_name)):
        raise InputError(f"“{sign_in_name}” is taken.", "Choose another word to sign in with.", field="sign_in_name")
    account = Account(
        id=uuid4(),
        sign_in_name=sign_in_name,
        name=name,
        role=role,
        password_hash=hash_of(password),
        unit=unit,
        password_is_given=given,
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


@dataclass(frozen=True, slots=True)
class SetBy:
    """When and from where a password was set; `given`: by somebody else than who signs in with it."""

    at: datetime
    where: str
    given: bool


def set_password(session: OrmSession, account: Account, password: str, by: SetBy, *, field: str = "password") -> None:
    """Another password; every sign-in by the old one ends. The caller commits. Raises InputError."""
    check_password(password, (account.sign_in_name, account.name), field=field)
    account = session.get_one(Account, account.id)  # who is signed in was read by another session
    account.password_hash = hash_of(password)
    account.password_set_at, account.password_set_from, account.password_is_given = by.at, by.where, by.given
    sign_out_everywhere(session, account.id)


def set_role(session: OrmSession, account: Account, role: str) -> None:
    """Another role; sign-ins in the old one end. The caller commits. Raises InputError for an unknown role, or the last
    lead's.
    """
    _check_role(role)
    if role != account.role:
        _check_another(session, account)
    account.role = role
    sign_out_everywhere(session, account.id)


def disable(session: OrmSession, account: Account, now: datetime) -> None:
    """The account may not sign in from now on, and is signed out; what it wrote stays. The caller commits. Raises
    InputError.
    """
    _check_another(session, account)
    account.disabled_at = now
    sign_out_everywhere(session, account.id)


def enable(account: Account) -> None:
    """The account may sign in again. The caller commits."""
    account.disabled_at = None


def sign_out_everywhere(session: OrmSession, account_id: UUID) -> None:
    """End every sign-in of an account. The caller commits."""
    session.execute(delete(Session).where(Session.account_id == account_id))


@by_version("shop")
def accounts(session: OrmSession) -> list[Account]:
    """Everyone, by name."""
    return list(session.scalars(select(Account).order_by(Account.name)))


def _check_role(role: str) -> None:
    if role not in ROLES:
        raise InputError(f"“{role}” is not a role.", f"Choose {', '.join(ROLES)}.", field="role", value=role)


def _check_another(session: OrmSession, account: Account) -> None:
    """Refuse to go on without anybody in a role that is always needed. Raises InputError."""
    if not Role(account.role).is_always_needed or account.disabled_at is not None:
        return
    others = select(func.count()).where(
        Account.role == account.role, Account.disabled_at.is_(None), Account.id != account.id
    )
    if not session.scalar(others):
        raise InputError(
            f"{account.name} is the only {account.role}.",
            f"Make somebody else the {account.role} first: some decisions need one.",
            field="role",
        )
