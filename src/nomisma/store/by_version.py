"""What was read of the database, kept for as long as nothing was written that it depends on.

A request asks once which version its job and the shop are; what was read at that version before is found ready,
whichever request read it. Every row that is written counts a version on in its own transaction, so nothing older than
its version is ever shown, however many servers there are. From its first write on a request reads everything itself.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterable, Iterator, Sequence
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass, field, replace
from datetime import datetime
from functools import wraps
from threading import Lock
from typing import Any, Concatenate, Literal, ParamSpec, TypeVar
from uuid import UUID

from sqlalchemy import BigInteger, bindparam, literal_column, select
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import sessionmaker

from nomisma.store.models import Job, JobSummary, ShopVersion
from nomisma.store.models.base import Base

Of = Literal["shop", "said", "job", "log"]
"""What an answer depends on: the shop's own tables; what is said of the job in hand too (its features, limits, joints,
plan and decisions); what is cut and read of it as well; or anything at all.
"""
_WIDTH: tuple[Of, ...] = ("shop", "said", "job", "log")
MOST_KEPT = 800
"""So many answers are kept in one process; those not asked for longest go first. Source: this tool's own choice."""
_INFO = "by_version"

P = ParamSpec("P")
T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class Versions:
    """What was written when a request began: all of it by PostgreSQL's own snapshot, the shop's, and that of the job in
    hand.
    """

    log: str
    shop: int
    job: int | None = None
    said: int | None = None
    job_number: int | None = None

    def of(self, which: Of) -> Hashable:
        """The version of what an answer depends on."""
        by_job = (self.shop, self.job_number)
        found: dict[Of, Hashable] = {
            "shop": self.shop,
            "said": (*by_job, self.said),
            "job": (*by_job, self.job),
            "log": self.log,
        }
        return found[which]


WRITTEN: tuple[Any, ...] = (
    literal_column("pg_current_snapshot()::text"),
    select(ShopVersion.version).scalar_subquery(),
    *(
        select(counted)
        .join(Job, Job.id == JobSummary.job_id)
        .where(Job.number == bindparam("number", type_=BigInteger))
        .scalar_subquery()
        for counted in (JobSummary.version, JobSummary.said)
    ),
)
"""What `Versions` says, as columns of a question that asks more; `number` is the job's."""
_NOW = select(*WRITTEN)


def versions_now(session: OrmSession, job_number: int | None) -> Versions:
    """What was written until now, of the job of a number too."""
    return versions_from(session.execute(_NOW, {"number": job_number}).one(), job_number)


def versions_from(written: Sequence[Any], job_number: int | None) -> Versions:
    """What the columns of `WRITTEN` say."""
    log, shop, job, said = written
    return Versions(log, shop, job, said, job_number)


class KeptAnswers:
    """Answers by what was asked, each with what it depends on and the version of that it was read at."""

    def __init__(self, most: int = MOST_KEPT) -> None:
        self._most = most
        self._lock = Lock()
        self._answers: OrderedDict[Hashable, tuple[Of, Hashable, Any]] = OrderedDict()

    def find(self, asked: Hashable, versions: Versions) -> tuple[Of, Any] | None:
        """An answer that still holds, with what it depends on; None where there is none."""
        with self._lock:
            known = self._answers.get(asked)
            if known is None or versions.of(known[0]) != known[1]:
                return None
            self._answers.move_to_end(asked)
            return known[0], known[2]

    def keep(self, asked: Hashable, versions: Versions, of: Of, answer: Any) -> None:
        """Keep an answer in the place of an older one."""
        with self._lock:
            self._answers[asked] = (of, versions.of(of), answer)
            self._answers.move_to_end(asked)
            while len(self._answers) > self._most:
                self._answers.popitem(last=False)

    def __len__(self) -> int:
        return len(self._answers)


@dataclass(slots=True)
class _Reading:
    """How a request reads: at which versions, from what is kept, else in sessions of its own.

    `ids`: what belongs to the job in hand. `widest`: the most that what is being read depends on so far. `is_own`:
    whether the session is one that was opened to read what is kept.
    """

    versions: Versions
    kept: KeptAnswers
    sessions: sessionmaker[OrmSession]
    ids: set[UUID] = field(default_factory=set)
    widest: Of = "shop"
    is_own: bool = False

    def widened(self, of: Of) -> None:
        """What is being read depends on so much as well."""
        self.widest = max(self.widest, of, key=_WIDTH.index)

    def learned(self, answer: object) -> None:
        """Rows of the job in hand, by whose ids may be asked as well."""
        for row in answer if isinstance(answer, list) else (answer,):
            if isinstance(row, Base) and getattr(row, "job_id", None) in self.ids:
                self.ids.add(UUID(row.asked_by[1]))


@dataclass(frozen=True, slots=True)
class ReadByVersion:
    """How the requests and gauges of a process read by version: what it kept, and the sessions that read anew."""

    sessions: sessionmaker[OrmSession]
    kept: KeptAnswers = field(default_factory=KeptAnswers)

    def begin(self, session: OrmSession, versions: Versions) -> None:
        """From now on a session takes what is kept at those versions; what has to be read is read in sessions of its
        own: nothing of it belongs to this one.
        """
        session.info[_INFO] = _Reading(versions, self.kept, self.sessions)

    @contextmanager
    def session(self, job_number: int | None = None) -> Iterator[OrmSession]:
        """A session that reads by what is written until now, of the job of a number too."""
        with self.sessions() as session:
            self.begin(session, versions_now(session, job_number))
            yield session


def read_anew(session: OrmSession) -> None:
    """From now on a session reads everything itself: something is written in it, or waited for to be written."""
    session.info.pop(_INFO, None)


def is_in_hand(session: OrmSession, job_number: int) -> bool:
    """Whether a session reads by version, and of the job of that number."""
    reading: _Reading | None = session.info.get(_INFO)
    return reading is not None and reading.versions.job is not None and reading.versions.job_number == job_number


def belongs_to_the_job(session: OrmSession, ids: Iterable[UUID]) -> None:
    """Ids of rows of the job in hand: what is asked about them alone depends on nothing else."""
    reading: _Reading | None = session.info.get(_INFO)
    if reading is not None:
        reading.ids.update(ids)


def by_version(
    of: Of,
) -> Callable[[Callable[Concatenate[OrmSession, P], T]], Callable[Concatenate[OrmSession, P], T]]:
    """A function that only reads, kept by the version of what it depends on, where the session reads by version. What
    it answers with is shared: nobody may change it.

    Of the job in hand it depends on that job alone where every id it is asked about is one of that job; else on the
    whole log. So does whatever asked for it.
    """

    def kept(load: Callable[Concatenate[OrmSession, P], T]) -> Callable[Concatenate[OrmSession, P], T]:
        name = f"{load.__module__}.{load.__qualname__}"

        @wraps(load)
        def found(session: OrmSession, /, *args: P.args, **named: P.kwargs) -> T:
            reading: _Reading | None = session.info.get(_INFO)
            if reading is None:
                return load(session, *args, **named)
            asked = (name, _plain(args), _plain(tuple(sorted(named.items()))))
            known = reading.kept.find(asked, reading.versions)
            if known is not None:
                reading.widened(known[0])
                answer: T = known[1]
                reading.learned(answer)
                return answer
            within = replace(reading, widest=of, is_own=True)
            with nullcontext(session) if reading.is_own else reading.sessions() as own:
                own.info[_INFO] = within
                answer = load(own, *args, **named)
                own.info[_INFO] = reading
            if within.widest in ("said", "job") and not _is_of_the_job(reading, asked):
                within.widened("log")
            reading.kept.keep(asked, reading.versions, within.widest, answer)
            reading.widened(within.widest)
            reading.learned(answer)
            return answer

        return found

    return kept


def _is_of_the_job(reading: _Reading, asked: Hashable) -> bool:
    return reading.versions.job is not None and all(one in reading.ids for one in _flat(asked) if isinstance(one, UUID))


def _plain(asked: Any) -> Hashable:
    """What is asked by, without the objects it was asked with. Raises TypeError for one that says not by what it is
    known.
    """
    if isinstance(asked, tuple | list):
        return tuple(map(_plain, asked))
    if asked is None or isinstance(asked, str | int | float | bool | UUID | datetime):
        return asked
    if (known_by := getattr(asked, "asked_by", None)) is not None:
        return _plain(known_by)
    raise TypeError(f"a {type(asked).__name__} does not say by what it is known")


def _flat(asked: Hashable) -> list[Hashable]:
    return [inner for one in asked for inner in _flat(one)] if isinstance(asked, tuple) else [asked]
