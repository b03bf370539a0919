"""One request by one person: the database session, who it is, and the form they sent."""

import hmac
from collections.abc import AsyncIterator
from contextlib import nullcontext
from dataclasses import dataclass
from uuid import UUID, uuid4

from fastapi import Depends, Request
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import sessionmaker
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import FormData

from nomisma.core.errors import InputError, NomismaError
from nomisma.core.errors import needed as text_needed
from nomisma.core.number import is_whole
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.jobs.shop.clock import now
from nomisma.settings import Settings
from nomisma.store.by_version import ReadByVersion, versions_now
from nomisma.store.digest import digest
from nomisma.store.models import Account, Session
from nomisma.store.sign_ins import signed_in_with, written_for
from nomisma.store.together import Together

UNIT_COOKIE = "nomisma_unit"
THEME_COOKIE = "nomisma_theme"
LONGEST_FIELD = 2000


ACCOUNT_PATH = "/account"
OPEN_TO_A_GIVEN_PASSWORD = (
    ACCOUNT_PATH, f"{ACCOUNT_PATH}/password", f"{ACCOUNT_PATH}/password/strength", f"{ACCOUNT_PATH}/sign-out",
    "/sign-out",
)  # fmt: skip


class OwnPasswordNeeded(NomismaError):
    """The password was given by somebody else, and is still that one."""


class SignInNeeded(NomismaError):
    """Nobody is signed in, or the sign-in has run out."""


class StaleForm(NomismaError):
    """The form is from another sign-in; it has to be confirmed before it is taken."""


@dataclass
class Visit:
    """Who asks, with which sign-in, and the database session for this request."""

    request: Request
    db: OrmSession
    session: Session

    @property
    def account(self) -> Account:
        """Who is signed in."""
        return self.session.account

    @property
    def writing(self) -> sessionmaker[OrmSession]:
        """Sessions that may write, for what a page works out and keeps."""
        found: sessionmaker[OrmSession] = self.request.app.state.sessions
        return found

    @property
    def together(self) -> Together:
        """What is written with what others write at the same moment."""
        found: Together = self.request.app.state.together
        return found

    @property
    def settings(self) -> Settings:
        """The application's settings."""
        found: Settings = self.request.app.state.settings
        return found

    def look_again(self, job_number: int) -> None:
        """Read what was written by now, by its version again: for the answer to what was just written."""
        reading: ReadByVersion = self.request.app.state.reading
        reading.begin(self.db, versions_now(self.db, job_number))


async def database(request: Request) -> AsyncIterator[OrmSession]:
    """A database session for one request; what was not committed is rolled back. A GET only reads.

    Making one asks nothing, and so does closing one that left nothing open: neither is worth a thread's turn.
    """
    state, only_reads = request.app.state, request.method == "GET"
    session: OrmSession = (state.reading_sessions if only_reads else state.sessions)()
    try:
        yield session
    finally:
        if session.in_transaction() and not only_reads:
            await run_in_threadpool(session.close)
        else:
            session.close()


def session_cookie(request: Request) -> str:
    """The name of the sign-in's cookie; where it goes over HTTPS only, browsers hold it to this host and the whole of
    it.
    """
    return own_cookie(request, "nomisma_session")


def own_cookie(request: Request, name: str) -> str:
    """A cookie's name with the prefix that browsers hold to its promise, where everything goes over HTTPS."""
    settings: Settings = request.app.state.settings
    return f"__Host-{name}" if settings.secure_cookies else name


def find_visit(request: Request, db: OrmSession) -> Visit | None:
    """The visit if somebody is signed in."""
    token = request.cookies.get(session_cookie(request))
    row = _signed_in(request, db, token) if token else None
    visit = Visit(request, db, row) if row else None
    request.state.visit = visit
    return visit


def _signed_in(request: Request, db: OrmSession, token: str) -> Session | None:
    """Who is signed in; from then on what is kept is read by the versions that were asked for with it. Nothing of it
    belongs to the request's own session: one that writes nothing by it opens no transaction.
    """
    state, number = request.app.state, _job_number(request)
    with nullcontext(db) if request.method == "GET" else state.reading_sessions() as own:
        versions = written_for(own, token, now(), number)
    if versions is None:
        return None
    state.reading.begin(db, versions)
    return signed_in_with(db, digest(token))


def _job_number(request: Request) -> int | None:
    """The job a request is about, by its address; None of one that names none."""
    said = request.path_params.get("number") or request.query_params.get("job", "")
    return int(said) if is_whole(str(said)) and len(str(said)) < 12 else None


class Form:
    """The fields of a sent form: text, sizes and ids, each with a sentence when it is wrong."""

    def __init__(self, data: FormData) -> None:
        self.data = data

    def text(self, name: str, *, needed: bool = False, longest: int = LONGEST_FIELD) -> str:
        """A field's text, trimmed. Raises InputError when it is needed and empty, or far too long."""
        value = self.data.get(name, "")
        text = value.strip() if isinstance(value, str) else ""
        if needed:
            text_needed(text, name)
        if "\x00" in text:
            raise InputError("That holds a sign that is no text.", "Type it again.", field=name)
        if len(text) > longest:
            raise InputError(
                f"That is {len(text)} characters; at most {longest} fit here.",
                "Shorten it.",
                field=name,
                value=text[:80],
            )
        return text

    def secret(self, name: str) -> str:
        """A password as it was typed: edge spaces count, nothing is cut."""
        value = self.data.get(name, "")
        return value if isinstance(value, str) else ""

    def shown(self, name: str) -> str:
        """A field to show again as it was typed, whatever is wrong with it; cut at 200 characters."""
        value = self.data.get(name, "")
        return value.replace("\x00", "")[:200] if isinstance(value, str) else ""

    def size(self, name: str, unit: Unit, *, positive: bool = True) -> Length:
        """A size, in the unit in force unless it names one. Raises InputError."""
        try:
            return parse_length(self.text(name, longest=20_000), unit, positive=positive)
        except InputError as error:
            raise error.at(name) from None

    def choice(self, name: str, allowed: tuple[str, ...]) -> str:
        """One of a few words. Raises InputError."""
        text = self.text(name, needed=True)
        if text not in allowed:
            raise InputError(
                f"“{text[:40]}” is not one of the choices.", f"Choose {', '.join(allowed)}.", field=name, value=text
            )
        return text

    def unit(self, name: str = "unit") -> Unit:
        """in or mm. Raises InputError."""
        return "in" if self.choice(name, ("in", "mm")) == "in" else "mm"

    def id(self, name: str) -> UUID:
        """A UUID. Raises InputError."""
        try:
            return UUID(self.text(name, needed=True))
        except ValueError:
            raise InputError("This was not chosen from the list.", "Choose it again.", field=name) from None

    def seen(self) -> str | None:
        """What the page showed in the place of what is sent, by its id; empty where nothing was, none where the form
        does not say.
        """
        return self.text("seen", longest=40) if "seen" in self.data else None

    def client_id(self) -> UUID:
        """The UUID the client made for this form, so that a repeat is harmless; a new one if it made none."""
        return self.id("client_id") if self.text("client_id") else uuid4()


async def read_form(request: Request) -> Form:
    """The form in the request's body; kept on the request, so that no failure after this loses it."""
    request.state.form = await request.form(max_fields=200, max_files=0)
    return Form(request.state.form)


def signed_in(request: Request, db: OrmSession = Depends(database)) -> Visit:
    """The visit of somebody signed in. Raises SignInNeeded, OwnPasswordNeeded."""
    visit = find_visit(request, db)
    if visit is None:
        raise SignInNeeded("Sign in first.")
    if visit.account.password_is_given and request.url.path not in OPEN_TO_A_GIVEN_PASSWORD:
        raise OwnPasswordNeeded("Change your password first: somebody else knows this one.")
    return visit


@dataclass
class Post:
    """A form sent by somebody signed in, with its CSRF token checked."""

    visit: Visit
    form: Form


async def posted(form: Form = Depends(read_form), visit: Visit = Depends(signed_in)) -> Post:
    """Check the form's CSRF token. Raises StaleForm."""
    token = form.text("csrf_token") or visit.request.headers.get("x-csrf-token", "")
    if not hmac.compare_digest(token.encode(), visit.session.csrf_token.encode()):
        raise StaleForm("This page is from an earlier sign-in.")
    return Post(visit, form)


def unit_shown(request: Request, own: str, *, asked: str = "") -> Unit:
    """The unit in force: the one asked for with the request, else swapped to, else the page's own (job's or
    person's).
    """
    unit = asked if asked in ("in", "mm") else request.cookies.get(UNIT_COOKIE, own)
    return "mm" if unit == "mm" else "in"
