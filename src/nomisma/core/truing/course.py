"""A truing from its first round to the last: each round judged, held against the one before, and what it needs next."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.four_jaw import Keys, TrueUpInput, TrueUpResult, true_up
from nomisma.core.truing.round_check import RoundCheckInput, RoundCheckResult, round_check
from nomisma.core.truing.seen import Stop
from nomisma.core.truing.surface import Grip, TruedSurface
from nomisma.core.truing.tightening import TighteningInput, TighteningResult, tightening
from nomisma.core.truing.tilt import TiltInput, TiltResult, tilt


class Phase(StrEnum):
    """What a truing needs next."""

    READ = "read"
    IN_ROUND = "in_round"
    ASKED = "asked"
    MOVE = "move"
    READ_FAR = "read_far"
    TAP = "tap"
    TIGHTEN = "tighten"
    TOO_COARSE = "too_coarse"
    SAFE = "safe"
    READY = "ready"


@dataclass(frozen=True, slots=True)
class TruingSetUp:
    """What is indicated, with what, and how true it is wanted. `far`: from the near circle to the far one, where both
    are read.
    """

    surface: TruedSurface
    at_deg: tuple[float, ...]
    target: Length
    screw_lead: Length
    graduation: Length
    keys: Keys
    unit: Unit
    range: Length | None = None
    needle_turn: Length | None = None
    far: Length | None = None
    length: Length | None = None
    grip: Grip = "outside"


@dataclass(frozen=True, slots=True)
class RoundRead:
    """One whole round as read, from jaw 1 on; or its highest and lowest with the direction of the highest."""

    number: int
    readings: tuple[Length, ...]
    tightened: bool
    circle: str = "near"
    confirmed: bool = False
    highest_at_deg: float | None = None


@dataclass(frozen=True, slots=True)
class RoundJudged:
    """A round with its advice, what is asked about it, and the tilt where it is a far circle."""

    read: RoundRead
    result: TrueUpResult
    asked: RoundCheckResult | None = None
    tilt: TiltResult | None = None

    @property
    def counts(self) -> bool:
        """Whether it may be used: nothing is asked about it, or that was answered."""
        return self.asked is None or not self.asked.to_confirm or self.read.confirmed


def advise(set_up: TruingSetUp, read: RoundRead, learned: TighteningResult | None = None) -> TrueUpResult:
    """What one round says. Raises InputError, OutOfRange. Source: true_up."""
    drift = learned if learned is not None and learned.counts else None
    none = Length.of(0, set_up.unit)
    ends = read.highest_at_deg is not None
    return true_up(
        TrueUpInput(
            surface=set_up.surface,
            grip=set_up.grip,
            readings=[] if ends else list(read.readings),
            at_deg=[] if ends else list(set_up.at_deg),
            highest=read.readings[0] if ends else None,
            lowest=read.readings[1] if ends else None,
            highest_at_deg=read.highest_at_deg,
            target=set_up.target,
            screw_lead=set_up.screw_lead,
            graduation=set_up.graduation,
            range=set_up.range,
            keys=set_up.keys,
            tightened=read.tightened,
            drift_towards_1=drift.towards_1 if drift else none,
            drift_towards_2=drift.towards_2 if drift else none,
            unit=set_up.unit,
        )
    )


def judged_rounds(
    set_up: TruingSetUp, rounds: Sequence[RoundRead], learned: TighteningResult | None = None
) -> list[RoundJudged]:
    """Every round in order, each held against the one of the same circle before it. Raises InputError, OutOfRange.

    Source: arithmetic of the readings.
    """
    found: list[RoundJudged] = []
    for read in rounds:
        result = advise(set_up, read, learned)
        usable = [one for one in found if one.counts]
        near = next((one for one in reversed(usable) if one.read.circle == "near"), None)
        leaning = _tilt(set_up, near, read) if read.circle == "far" else None
        # After a tap, or a first far circle, nothing is known of what to expect.
        before = usable[-1] if usable and usable[-1].read.circle == read.circle == "near" else None
        found.append(RoundJudged(read, result, _check(set_up, before, read), leaning))
    return found


def _check(set_up: TruingSetUp, before: RoundJudged | None, read: RoundRead) -> RoundCheckResult | None:
    if read.highest_at_deg is not None:
        return None
    comparable = before is not None and len(before.read.readings) == len(read.readings)
    checked = round_check(
        RoundCheckInput(
            readings=list(read.readings),
            expected=before.result.expected if before and comparable else [],
            before=list(before.read.readings) if before and comparable else [],
            graduation=set_up.graduation,
            needle_turn=set_up.needle_turn,
            grip=set_up.grip,
            unit=set_up.unit,
        )
    )
    return checked if checked.suspicion else None


def _tilt(set_up: TruingSetUp, near: RoundJudged | None, read: RoundRead) -> TiltResult | None:
    if near is None or set_up.far is None or len(near.read.readings) != len(read.readings) or len(read.readings) % 4:
        return None
    return tilt(
        TiltInput(
            surface=set_up.surface,
            near=list(near.read.readings),
            far=list(read.readings),
            distance=set_up.far,
            length=set_up.length or set_up.far,
            target=set_up.target,
            graduation=set_up.graduation,
            unit=set_up.unit,
        )
    )


def phase_of(set_up: TruingSetUp, rounds: Sequence[RoundJudged], *, in_round: bool, ready: bool) -> Phase:
    """What comes next. Source: true the near circle, then the axis, then tighten and read again (common practice)."""
    if ready:
        return Phase.READY
    if in_round:
        return Phase.IN_ROUND
    if not rounds:
        return Phase.READ
    last = rounds[-1]
    if not last.counts:
        return Phase.ASKED
    if last.read.circle == "far":
        if last.tilt is not None and last.tilt.matters == "yes":
            return Phase.TAP
        return Phase.SAFE if last.read.tightened else Phase.TIGHTEN
    return _after_near(set_up, rounds, last)


def _after_near(set_up: TruingSetUp, rounds: Sequence[RoundJudged], last: RoundJudged) -> Phase:
    if last.result.stop is Stop.MOVE:
        return Phase.MOVE
    if last.result.stop is Stop.TOO_COARSE:
        return Phase.TOO_COARSE
    if last.read.tightened:
        return Phase.SAFE
    far_seen = any(one.read.circle == "far" and one.tilt and one.tilt.matters != "yes" for one in rounds)
    return Phase.READ_FAR if set_up.far is not None and not far_seen else Phase.TIGHTEN


def drifts_of(rounds: Sequence[RoundJudged]) -> list[tuple[float, float]]:
    """What each tightening did (mm, towards jaw 1 and 2): a snug round that asked for no move, then a tightened one.

    Source: arithmetic of the readings.

    >>> drifts_of([])
    []
    """
    near = [one for one in rounds if one.counts and one.read.circle == "near"]
    return [
        (after.result.offset_x_mm - before.result.offset_x_mm, after.result.offset_y_mm - before.result.offset_y_mm)
        for before, after in pairwise(near)
        if not before.read.tightened and after.read.tightened and before.result.stop is not Stop.MOVE
    ]


def learned_from(set_ups: Sequence[tuple[TruingSetUp, Sequence[RoundRead]]], unit: Unit) -> TighteningResult | None:
    """What a chuck does when it is tightened, from its set-ups in order; each is judged with what was known by then.

    Source: arithmetic of the readings.

    >>> learned_from([], "mm") is None
    True
    """
    seen: list[tuple[float, float]] = []
    learned: TighteningResult | None = None
    for set_up, rounds in set_ups:
        seen += drifts_of(judged_rounds(set_up, rounds, learned))
        if seen:
            columns = [[Length.of(f"{pair[axis]:.7f}", "mm") for pair in seen] for axis in (0, 1)]
            learned = tightening(TighteningInput(towards_1=columns[0], towards_2=columns[1], unit=unit))
    return learned
