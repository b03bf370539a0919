"""Signing in: every try is counted before it is checked, pauses grow, sessions end."""

import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import ColumnElement, bindparam, delete, func, select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.errors import NomismaError
from nomisma.store.by_version import WRITTEN, Versions, by_version, versions_from
from nomisma.store.digest import digest
from nomisma.store.models import Account, Session, SignInAttempt
from nomisma.store.passwords import TooManyAtOnce, hash_of, matches

OF_NAME, OF_ADDRESS = 4, 12
"""How many times the tries of one name from one address the whole of a name, or of an address, may fail in an hour."""
COUNTED = timedelta(hours=1)
KNOWN_HERE = timedelta(days=30)
"""So long after a good sign-in from an address others' failures under that name do not shut it out there."""
KEPT = timedelta(days=30)
DOUBLINGS = 4
"""The first pause is the longest one halved so often."""
ANYWHERE = ""
"""The address of a good mark made by the lead, which lifts pauses wherever they were earned."""
# Verified against when there is no such account, so that a guess takes as long either way.
_NOBODY = hash_of(secrets.token_hex(8))


class SignInRefused(NomismaError):
    """Wrong name or password, or too many tries; the message is for the person."""


@dataclass(frozen=True)
class SignInRules:
    """How often one may fail before a pause, how long the longest pause is, how long a sign-in lasts."""

    tries: int
    pause: timedelta
    lasts: timedelta


def sign_in(
    session: OrmSession, *, sign_in_name: str, password: str, address: str, now: datetime, rules: SignInRules
) -> tuple[str, Session]:
    """Check and open a session: the token for the cookie, and the row. Commits. Raises SignInRefused."""
    sign_in_name = sign_in_name.strip().lower()[:80]
    count_the_try(session, sign_in_name, address, now, rules)
    account = session.scalar(select(Account).where(Account.sign_in_name == sign_in_name))
    try:
        good = matches(account.password_hash if account else _NOBODY, password)
    except TooManyAtOnce as error:
        raise SignInRefused(error.sentence) from None
    if not good or account is None or account.disabled_at is not None:
        raise SignInRefused("That name and password do not go together. Check both, and Caps Lock.")
    note_good(session, sign_in_name, address, now)
    session.execute(delete(SignInAttempt).where(SignInAttempt.at < now - KEPT))
    session.execute(delete(Session).where(Session.expires_at < now))
    token = secrets.token_urlsafe(32)
    row = Session(
        token_sha256=digest(token),
        account_id=account.id,
        csrf_token=secrets.token_urlsafe(24),
        expires_at=now + rules.lasts,
    )
    session.add(row)
    session.commit()
    return token, row


def count_the_try(session: OrmSession, sign_in_name: str, address: str, now: datetime, rules: SignInRules) -> None:
    """Write a try down as failed before its password is looked at; thirty at once are thirty tries. Commits. Raises
    SignInRefused.
    """
    name = digest(sign_in_name)
    for lock in (f"name {name}", f"address {address}"):
        session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(lock, 0))))
    wait = _pause_left(session, name, address, now, rules)
    if wait > timedelta(0):
        session.rollback()
        raise SignInRefused(f"Too many tries. Wait {_in_words(wait)}, then try again; the lead can lift it.")
    session.add(SignInAttempt(name_sha256=name, address=address, succeeded=False, at=now))
    session.commit()


def note_good(session: OrmSession, sign_in_name: str, address: str, now: datetime) -> None:
    """The try just counted was a good one. The caller commits."""
    session.add(SignInAttempt(name_sha256=digest(sign_in_name), address=address, succeeded=True, at=now))


def lift_pause(session: OrmSession, sign_in_name: str, now: datetime) -> None:
    """Forget the failed tries under a name, wherever they were made. The caller commits."""
    note_good(session, sign_in_name.strip().lower(), ANYWHERE, now)


@dataclass(frozen=True, slots=True)
class ShutOut:
    """Somebody under whose name so many tries failed that new devices wait: how many, from how many addresses, when it
    ends.
    """

    name: str
    sign_in_name: str
    failed: int
    addresses: int
    ends_at: datetime


def shut_out(session: OrmSession, now: datetime, rules: SignInRules) -> list[ShutOut]:
    """Whose names are shut out on new devices now, for the lead to know."""
    attempt = SignInAttempt
    failed = ~attempt.succeeded
    query = (
        select(
            attempt.name_sha256,
            func.count().filter(failed),
            func.count(attempt.address.distinct()),
            func.max(attempt.at),
        )
        .where(attempt.at > now - max(COUNTED, 4 * rules.pause))
        .group_by(attempt.name_sha256)
        .having(func.count().filter(failed) >= OF_NAME * rules.tries)
    )
    found = {name: (count, addresses, last + rules.pause) for name, count, addresses, last in session.execute(query)}
    if not found:
        return []
    lifted = {name: _newest_good(session, attempt.name_sha256 == name, attempt.address == ANYWHERE) for name in found}
    return [
        ShutOut(account.name, account.sign_in_name, *found[name])
        for account in session.scalars(select(Account).order_by(Account.name))
        if (name := digest(account.sign_in_name)) in found and found[name][2] > now and not lifted[name]
    ]


def _pause_left(session: OrmSession, name: str, address: str, now: datetime, rules: SignInRules) -> timedelta:
    """How long this name waits at this address; nothing where it need not."""
    attempt = SignInAttempt
    here, of_name = attempt.address == address, attempt.name_sha256 == name
    recent = attempt.at > now - max(COUNTED, 4 * rules.pause)
    good_here = _newest_good(session, of_name, attempt.address.in_((address, ANYWHERE)))
    failed, last = _failures(session, of_name, here, recent, attempt.at > (good_here or now - KNOWN_HERE))
    if failed >= rules.tries and last is not None:
        pause = min(rules.pause, rules.pause / (1 << DOUBLINGS) * (1 << min(failed - rules.tries, DOUBLINGS)))
        if now < last + pause:
            return last + pause - now
    lifted = _newest_good(session, of_name, attempt.address == ANYWHERE)
    known = good_here is not None and good_here > now - KNOWN_HERE
    wide = [(OF_ADDRESS, _failures(session, here, recent))]
    if not known:
        wide.append((OF_NAME, _failures(session, of_name, recent, attempt.at > (lifted or now - KNOWN_HERE))))
    for times, (failed, last) in wide:
        if failed >= times * rules.tries and last is not None and now < last + rules.pause:
            return last + rules.pause - now
    return timedelta(0)


def _newest_good(session: OrmSession, *where: ColumnElement[bool]) -> datetime | None:
    return session.scalar(select(func.max(SignInAttempt.at)).where(SignInAttempt.succeeded, *where))


def _failures(session: OrmSession, *where: ColumnElement[bool]) -> tuple[int, datetime | None]:
    """How many tries failed (each is written down as failed before it is known to be good), and when the last did."""
    failed = ~SignInAttempt.succeeded
    asked = select(
        func.count().filter(failed) - func.count().filter(SignInAttempt.succeeded),
        func.max(SignInAttempt.at).filter(failed),
    ).where(*where)
    count, last = session.execute(asked).one()
    return count, last


def _in_words(wait: timedelta) -> str:
    seconds = int(wait.total_seconds()) + 1
    if seconds <= 90:
        return f"{seconds} seconds"
    return f"{(seconds + 59) // 60} minutes"


_WRITTEN = select(*WRITTEN).where(Session.token_sha256 == bindparam("digest"), Session.expires_at > bindparam("now"))


def written_for(session: OrmSession, token: str, now: datetime, job_number: int | None = None) -> Versions | None:
    """What was written until now, of the job of a number too, for who is signed in with a cookie's token; None where
    nobody is.
    """
    asked = {"digest": digest(token), "now": now, "number": job_number}
    found = session.execute(_WRITTEN, asked).one_or_none()
    return None if found is None else versions_from(found, job_number)


@by_version("shop")
def signed_in_with(session: OrmSession, token_digest: str) -> Session:
    """The session of a token that is there, with its account; nothing of it but its end changes while the account does
    not.
    """
    return session.execute(select(Session).where(Session.token_sha256 == token_digest)).scalar_one()


def sign_out(session: OrmSession, token: str) -> None:
    """End a session; harmless if there is none."""
    session.execute(delete(Session).where(Session.token_sha256 == digest(token)))
    session.commit()
