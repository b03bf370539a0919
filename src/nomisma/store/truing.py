"""Set-ups in a four-jaw and their rounds: what counts of what was logged, and what a chuck was seen to do when
tightened.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from sqlalchemy import bindparam, select, true
from sqlalchemy.orm import Session as OrmSession
from sqlalchemy.orm import joinedload

from nomisma.store.by_version import by_version
from nomisma.store.models import Chuck, Truing, TruingEvent, TruingReading
from nomisma.store.shop import as_they_are

LEARNED_FROM = 12
"""How many of a chuck's newest set-ups speak for what tightening does."""
ENDS = ("highest", "lowest")


@dataclass(frozen=True)
class LoggedRound:
    """One pass round at one circle: the newest reading of each place, by place; `wanted` is how many make it whole."""

    number: int
    circle: str
    by_place: dict[int, TruingReading]
    again: int
    set_aside: bool
    confirmed: bool
    wanted: int

    @property
    def rows(self) -> list[TruingReading]:
        """Its readings, from jaw 1 on."""
        return [self.by_place[place] for place in sorted(self.by_place)]

    @property
    def by_ends(self) -> bool:
        """Whether it is only the highest and the lowest."""
        return any(row.kind in ENDS for row in self.by_place.values())

    @property
    def whole(self) -> bool:
        """Whether every place was read."""
        return len(self.by_place) == (2 if self.by_ends else self.wanted)

    @property
    def tightened(self) -> bool:
        """Whether the chuck was tight for it."""
        return self.rows[-1].tightened

    @property
    def began_at(self) -> datetime:
        """When its first reading was logged."""
        return min(row.at for row in self.rows)

    @property
    def ended_at(self) -> datetime:
        """When its last reading was logged."""
        return max(row.at for row in self.rows)

    @property
    def last(self) -> TruingReading:
        """The newest reading of it."""
        return max(self.rows, key=lambda row: row.sequence)


_CHUCKS = as_they_are(Chuck)
_NEWEST = (
    select(Truing)
    .where(Truing.job_id == bindparam("job_id"))
    .options(joinedload(Truing.by), joinedload(Truing.chuck))
    .order_by(Truing.sequence.desc())
    .limit(1)
)
_ALL = (
    select(Truing)
    .where(Truing.job_id == bindparam("job_id"))
    .options(joinedload(Truing.by), joinedload(Truing.chuck))
    .order_by(Truing.sequence)
)
_READINGS = (
    select(TruingReading)
    .where(TruingReading.truing_id.in_(bindparam("ids", expanding=True)))
    .options(joinedload(TruingReading.by))
    .order_by(TruingReading.sequence)
)
_EVENTS = (
    select(TruingEvent)
    .where(TruingEvent.truing_id.in_(bindparam("ids", expanding=True)))
    .options(joinedload(TruingEvent.by))
    .order_by(TruingEvent.sequence)
)


@by_version("shop")
def chucks(session: OrmSession) -> list[Chuck]:
    """Chucks as they are now, by name."""
    return list(session.scalars(_CHUCKS))


@by_version("said")
def truing_of(session: OrmSession, job_id: UUID) -> Truing | None:
    """The newest set-up of a job."""
    return session.scalars(_NEWEST, {"job_id": job_id}).first()


@by_version("said")
def truings_of(session: OrmSession, job_id: UUID) -> Sequence[Truing]:
    """Every set-up of a job, oldest first."""
    return session.scalars(_ALL, {"job_id": job_id}).all()


@by_version("job")
def events_of(session: OrmSession, ids: Sequence[UUID]) -> Sequence[TruingEvent]:
    """What was done in these set-ups, oldest first."""
    return session.scalars(_EVENTS, {"ids": list(ids)}).all()


def rounds_of(session: OrmSession, truing: Truing, events: Sequence[TruingEvent]) -> list[LoggedRound]:
    """The rounds of a set-up in order; what was set aside is among them and says so."""
    return rounds_from(truing, session.scalars(_READINGS, {"ids": [truing.id]}).all(), events)


def rounds_from(truing: Truing, rows: Sequence[TruingReading], events: Sequence[TruingEvent]) -> list[LoggedRound]:
    """Readings of one set-up gathered into rounds."""
    marks: dict[str, set[int]] = {"set_aside": set(), "confirmed": set()}
    for event in events:
        if event.kind in marks:
            marks[event.kind].add(int(event.detail["round"]))
    gathered: dict[int, list[TruingReading]] = {}
    for row in rows:
        gathered.setdefault(row.round, []).append(row)
    return [
        LoggedRound(
            number=number,
            circle=of_round[0].circle,
            by_place={row.place: row for row in of_round},
            again=len(of_round) - len({row.place for row in of_round}),
            set_aside=number in marks["set_aside"],
            confirmed=number in marks["confirmed"],
            wanted=truing.places,
        )
        for number, of_round in sorted(gathered.items())
    ]


@by_version("log")
def rounds_of_chuck(
    session: OrmSession, chuck: Chuck, *, before: int | None = None
) -> list[tuple[Truing, list[LoggedRound]]]:
    """The rounds of a chuck's newest set-ups, oldest first, each with its set-up; only those before a sequence."""
    family = select(Chuck.id).where((Chuck.id == chuck.first_id) | (Chuck.of_id == chuck.first_id))
    asked = (
        select(Truing)
        .where(Truing.chuck_id.in_(family), true() if before is None else Truing.sequence < before)
        .order_by(Truing.sequence.desc())
        .limit(LEARNED_FROM)
    )
    found = session.scalars(asked).all()
    ids = [truing.id for truing in found]
    rows = session.scalars(_READINGS, {"ids": ids}).all()
    events = events_of(session, ids)
    return [
        (
            truing,
            rounds_from(
                truing,
                [row for row in rows if row.truing_id == truing.id],
                [event for event in events if event.truing_id == truing.id],
            ),
        )
        for truing in reversed(found)
    ]
