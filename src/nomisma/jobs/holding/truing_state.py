"""One truing as it stands: its rounds judged, what comes next, where the next reading belongs."""

from dataclasses import dataclass
from datetime import timedelta
from decimal import Decimal

from sqlalchemy.orm import Session

from nomisma.core.planning.holding import BY_HAND_ROUND, FIRST_START
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.course import (
    Phase,
    RoundJudged,
    RoundRead,
    TruingSetUp,
    drifts_of,
    judged_rounds,
    learned_from,
    phase_of,
)
from nomisma.core.truing.surface import Place, places_of, surfaces, uses
from nomisma.core.truing.tightening import TighteningInput, TighteningResult, tightening
from nomisma.store.by_version import by_version
from nomisma.store.models import Chuck, Truing, TruingEvent
from nomisma.store.truing import LoggedRound, events_of, rounds_of, rounds_of_chuck

SAFETY = (
    ("key_out", "The key is out of the chuck."),
    ("clear", "Indicator, parallels and packing are out."),
    ("tight", "All four jaws are tight; none stands out farther than it may."),
    ("by_hand", BY_HAND_ROUND),
    ("first_start", FIRST_START),
)
"""What is confirmed before the first start. Source: common practice, no source."""


@dataclass(frozen=True)
class TruingState:
    """A set-up with its rounds. `learned`: what its chuck does when tightened, from earlier set-ups."""

    truing: Truing
    logged: list[LoggedRound]
    rounds: list[RoundJudged]
    events: list[TruingEvent]
    learned: TighteningResult | None
    places: tuple[Place, ...]
    set_up: TruingSetUp

    @property
    def unit(self) -> Unit:
        """The indicator's."""
        return self.set_up.unit

    @property
    def open_round(self) -> LoggedRound | None:
        """The round that is being read."""
        last = self.logged[-1] if self.logged else None
        return last if last and not last.whole and not last.set_aside else None

    @property
    def ready(self) -> TruingEvent | None:
        """When it was said to be ready, if nothing was read since."""
        said = next((event for event in reversed(self.events) if event.kind == "ready"), None)
        newest = max((row.at for one in self.logged for row in one.rows), default=None)
        return said if said and (newest is None or said.at >= newest) else None

    @property
    def phase(self) -> Phase:
        """What comes next."""
        return phase_of(self.set_up, self.rounds, in_round=self.open_round is not None, ready=self.ready is not None)

    @property
    def last(self) -> RoundJudged | None:
        """The newest whole round."""
        return self.rounds[-1] if self.rounds else None

    @property
    def next_round(self) -> int:
        """The number of the round the next reading belongs to."""
        if self.open_round:
            return self.open_round.number
        return self.logged[-1].number + 1 if self.logged else 1

    @property
    def next_place(self) -> int:
        """The first place of it that was not read."""
        done = self.open_round.by_place if self.open_round else {}
        return next((index for index in range(len(self.places)) if index not in done), 0)

    @property
    def passed_over(self) -> list[str]:
        """Places left out while a later one was read."""
        done = self.open_round.by_place if self.open_round else {}
        return [self.places[index].name for index in range(max(done, default=0)) if index not in done]

    @property
    def next_circle(self) -> str:
        """near or far."""
        if self.open_round:
            return self.open_round.circle
        return "far" if self.phase is Phase.READ_FAR else "near"

    @property
    def next_tightened(self) -> bool:
        """Whether the next round is one with the chuck tight."""
        if self.open_round:
            return self.open_round.tightened
        return self.phase in (Phase.TIGHTEN, Phase.SAFE, Phase.READY) or (
            self.last is not None and self.last.read.tightened
        )

    @property
    def counted(self) -> list[RoundJudged]:
        """Rounds that are used."""
        return [one for one in self.rounds if one.counts]

    @property
    def moves_made(self) -> int:
        """How many rounds it took: near rounds before the one that asked for no more."""
        return sum(bool(one.result.moves) for one in self.counted if one.read.circle == "near")

    @property
    def moved_by_tightening(self) -> TighteningResult | None:
        """What tightening did in this set-up, the last time it was tightened without a move before."""
        seen = drifts_of(self.rounds)
        if not seen:
            return None
        x, y = ([Length.of(f"{seen[-1][axis]:.7f}", "mm")] for axis in (0, 1))
        return tightening(TighteningInput(towards_1=x, towards_2=y, unit=self.unit))

    @property
    def took(self) -> timedelta | None:
        """From the first reading to the last."""
        whole = [one for one in self.logged if one.whole]
        return whole[-1].ended_at - whole[0].began_at if whole else None

    @property
    def surface_title(self) -> str:
        """What is indicated."""
        return surfaces()[self.truing.surface].title

    @property
    def how(self) -> str:
        """How each place is read."""
        return surfaces()[self.truing.surface].how

    @property
    def use_words(self) -> str:
        """What the swing wanted goes by."""
        return uses()[self.truing.use].words if self.truing.use else ""


def set_up_of(truing: Truing) -> TruingSetUp:
    """A set-up's row as the calculations take it."""
    unit = truing.unit

    def length(mm: Decimal | None, text: str) -> Length | None:
        return Length(mm, unit, text) if mm is not None else None

    return TruingSetUp(
        surface=truing.surface,
        at_deg=tuple(place.at_deg for place in places_of(truing.surface, truing.places, teeth=truing.teeth or 0)),
        target=Length(truing.target_mm, unit),
        screw_lead=Length(truing.screw_lead_mm, unit),
        graduation=Length(truing.graduation_mm, unit),
        keys=truing.keys,
        unit=unit,
        range=length(truing.range_mm, truing.range_text),
        needle_turn=length(truing.needle_turn_mm, truing.needle_turn_text),
        far=length(truing.far_mm, truing.far_text),
        length=length(truing.length_mm, truing.length_text),
        grip=truing.grip,
    )


def as_read(found: LoggedRound, unit: Unit) -> RoundRead:
    """A whole logged round as the calculations take it."""
    rows = sorted(found.rows, key=lambda row: row.place)
    return RoundRead(
        number=found.number,
        readings=tuple(Length(row.read_mm, unit) for row in rows),
        tightened=found.tightened,
        circle=found.circle,
        confirmed=found.confirmed,
        highest_at_deg=float(rows[0].at_deg) if found.by_ends else None,
    )


def whole_rounds(logged: list[LoggedRound], unit: Unit) -> list[RoundRead]:
    """The rounds that may be judged."""
    return [as_read(one, unit) for one in logged if one.whole and not one.set_aside]


def habit_of(session: Session, chuck: Chuck) -> TighteningResult | None:
    """What a chuck was seen to do when tightened, by all of its newest set-ups."""
    return _learned(rounds_of_chuck(session, chuck), chuck.unit)


def _learned(earlier: list[tuple[Truing, list[LoggedRound]]], unit: Unit) -> TighteningResult | None:
    return learned_from([(set_up_of(one), whole_rounds(rounds, unit)) for one, rounds in earlier], unit)


def learned_of(session: Session, truing: Truing) -> TighteningResult | None:
    """What this set-up's chuck was seen to do when tightened, before it."""
    if truing.chuck is None:
        return None
    return _learned(rounds_of_chuck(session, truing.chuck, before=truing.sequence), truing.unit)


@by_version("job")
def truing_state(session: Session, truing: Truing) -> TruingState:
    """A truing with everything that decides what comes next."""
    events = list(events_of(session, [truing.id]))
    logged = rounds_of(session, truing, events)
    set_up = set_up_of(truing)
    learned = learned_of(session, truing)
    return TruingState(
        truing=truing,
        logged=logged,
        rounds=judged_rounds(set_up, whole_rounds(logged, set_up.unit), learned),
        events=events,
        learned=learned,
        places=places_of(truing.surface, truing.places, teeth=truing.teeth or 0),
        set_up=set_up,
    )
