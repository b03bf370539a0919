"""The four-jaw solved: which jaw to ease, which to drive, how far in turns of the key, and when to stop."""

from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum
from math import cos, hypot, radians, sin, sqrt
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.truing.harmonics import Round, taken_apart
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

Surface = Literal["outside", "bore"]
Keys = Literal["one", "two"]
NOISE_SHARE = Decimal("0.2")
"""One standard deviation of a reading in graduations: a needle is read to a fifth. Source: common practice, no source."""
SHAPE_WORDS = {2: "oval", 3: "three-lobed", 4: "four-lobed", 5: "five-lobed"}
_MOST = 72


class Stop(StrEnum):
    """What to do after a round."""

    MOVE = "move"
    TRUE = "true"
    WORK_NOT_CHUCK = "work_not_chuck"
    TOO_COARSE = "too_coarse"


class TrueUpInput(Model):
    """One round of readings, from jaw 1 on in the order of the jaws, evenly spaced; the indicator reads up when it is pushed.

    `readings`: 4 at the jaws, or 8, 12 … round the turn. Or `highest` and `lowest` with the direction of the highest
    (`highest_at_deg`, jaw 1 at 0°, jaw 2 at 90°). `screw_lead`: travel of a jaw in one turn of the key. `range`: of the indicator.
    """

    surface: Surface = "outside"
    readings: list[Difference] = Field(default=[], max_length=_MOST)
    highest: Difference | None = None
    lowest: Difference | None = None
    highest_at_deg: float | None = Field(default=None, ge=0, lt=360)
    target: Size
    screw_lead: Size
    graduation: Size
    range: Size | None = None
    keys: Keys = "one"
    unit: Unit = "in"


class JawMove(Model):
    """One pair of jaws: ease one, drive the other by `move`; what the needle should say at the driven jaw afterwards."""

    ease_jaw: int
    drive_jaw: int
    move: Difference
    turns: float
    degrees: float
    reads_now: Difference | None = None
    reads_after: Difference | None = None


class TrueUpResult(Model):
    """Where the work stands and what to do. `offset` is half of what it swings; `shape` is the swing that no jaw can remove."""

    stop: Stop
    swing: Difference
    offset: Difference
    offset_at_deg: float
    offset_x_mm: float
    offset_y_mm: float
    offset_doubt: Difference
    shape: Difference | None = None
    shape_words: str = ""
    moves: list[JawMove]
    target: Size
    headline: str
    steps: list[str]
    unseen: list[str]
    cautions: list[str]
    readings: list[Difference]
    working: list[Step]


@dataclass(frozen=True, slots=True)
class _Seen:
    """A round as understood, mm: where the work stands (x towards jaw 1, y towards jaw 2), its shape's swing if seen."""

    x: float
    y: float
    swing: float
    shape: float | None
    round: Round | None

    @property
    def offset(self) -> float:
        return hypot(self.x, self.y)


@calculation(
    name="true_up",
    title="True up in a four-jaw",
    validity="Independent jaws at right angles; an offset small against the diameter; readings square to the surface at centre height.",
    source="discrete Fourier series; half the difference of opposite readings: common practice, no source",
    example={
        "readings": ["0.012 in", "0.005 in", "0 in", "0.006 in"], "target": "0.0005 in", "screw_lead": "0.125 in", "graduation": "0.0005 in",
    },
)  # fmt: skip
def true_up(given: TrueUpInput) -> TrueUpResult:
    """Offset, shape and the next move of each pair of jaws, from one round of readings. Raises InputError, OutOfRange.

    Source: arithmetic: opposite jaws are independent and the work moves by half their difference; harmonics above the first are
    the work's own shape (discrete Fourier series).

    >>> found = true_up(TrueUpInput(readings=["0.012 in", "0.005 in", "0 in", "0.006 in"], target="0.0005 in",
    ...     screw_lead="0.125 in", graduation="0.0005 in")); str(found.moves[0].move), found.moves[0].ease_jaw, found.moves[0].drive_jaw
    ('0.006 in', 3, 1)
    """
    _check(given)
    seen = _seen(given)
    noise = float(given.graduation.mm * NOISE_SHARE)
    count = len(given.readings) or 2
    doubt = 4 * noise * sqrt(2 / count)
    target = float(given.target.mm)
    stop = _stop(seen, target, doubt)
    moves = _moves(given, seen, target, doubt) if stop is Stop.MOVE else []
    unit = given.unit
    found = seen.round
    words = _shape_words(found, noise) if found else ""
    return TrueUpResult(
        stop=stop,
        swing=_length(seen.swing, unit),
        offset=_length(seen.offset, unit),
        offset_at_deg=_direction(seen),
        offset_x_mm=seen.x,
        offset_y_mm=seen.y,
        offset_doubt=_length(doubt, unit),
        shape=_length(seen.shape, unit) if seen.shape is not None else None,
        shape_words=words,
        moves=moves,
        target=given.target,
        headline=_headline(stop, seen, moves, unit),
        steps=_steps(stop, moves, given.keys, unit),
        unseen=_unseen(given),
        cautions=["Key out of the chuck; spin it by hand before power. The chuck’s and the machine’s manuals come first."],
        readings=given.readings,
        working=_working(given, seen, doubt, unit),
    )


def _length(mm: float, unit: Unit) -> Length:
    return Length(Decimal(f"{mm:.7f}").normalize() + 0, unit)


def _direction(seen: _Seen) -> float:
    from math import atan2, degrees

    return degrees(atan2(seen.y, seen.x)) % 360 if seen.offset else 0.0


def _check(given: TrueUpInput) -> None:
    ends = [given.highest, given.lowest, given.highest_at_deg]
    if bool(given.readings) == any(end is not None for end in ends):
        raise InputError(
            "One round is needed: readings in order from jaw 1, or the highest and the lowest with their direction.",
            "Give 4, 8, 12 or 24 readings.",
            field="readings",
        )
    if not given.readings and any(end is None for end in ends):
        raise InputError(
            "Highest, lowest and the direction of the highest belong together.", "Give all three.", field="highest"
        )
    if given.readings and (len(given.readings) < 4 or len(given.readings) % 4):
        raise InputError(
            f"{len(given.readings)} readings do not meet all four jaws.",
            "One was missed, or one too many: give 4, 8, 12 or 24, from jaw 1 on.",
            field="readings",
        )
    if given.highest and given.lowest and given.highest.mm < given.lowest.mm:
        raise InputError("The highest reading is below the lowest.", "Exchange them.", field="highest")
    sizes = [one.mm for one in given.readings or (given.highest, given.lowest) if one is not None]
    swing = max(sizes) - min(sizes)
    if given.range and swing > given.range.mm:
        raise OutOfRange(
            f"A swing of {show(swing, given.unit)} is more than the indicator's range of {given.range}: it has gone round or run out.",
            "Bring the work nearer by the chuck's rings first, then read again.",
            field="readings",
        )
    if swing > 25:
        raise OutOfRange(
            f"A swing of {show(swing, given.unit)} is no indicator's.", "Check the unit of the readings.", field="readings"
        )


def _seen(given: TrueUpInput) -> _Seen:
    """Work off towards a jaw reads high there on an outside, and low in a bore."""
    sense = 1 if given.surface == "outside" else -1
    if not given.readings:
        assert given.highest is not None
        assert given.lowest is not None
        swing = float(given.highest.mm - given.lowest.mm)
        at = radians(given.highest_at_deg or 0.0)
        return _Seen(sense * swing / 2 * cos(at), sense * swing / 2 * sin(at), swing, None, None)
    values = [float(one.mm) for one in given.readings]
    found = taken_apart([360 * index / len(values) for index in range(len(values))], values)
    return _Seen(sense * found.cosine, sense * found.sine, max(values) - min(values), found.shape_swing, found)


def _stop(seen: _Seen, target: float, doubt: float) -> Stop:
    """Whether another move would do anything for the swing wanted."""
    of_offset = 2 * seen.offset
    if seen.swing <= target:
        return Stop.TRUE
    if of_offset > target:
        return Stop.MOVE if of_offset > doubt else Stop.TOO_COARSE
    # The offset is good enough: what is left is shape, or was not seen apart.
    if seen.shape is not None and seen.shape > target:
        return Stop.WORK_NOT_CHUCK
    # Together they pass the target: the offset may still be halved, where the indicator can tell.
    return Stop.MOVE if of_offset > doubt else Stop.WORK_NOT_CHUCK


def _moves(given: TrueUpInput, seen: _Seen, target: float, doubt: float) -> list[JawMove]:
    """The larger move first; a pair that is true within the doubt is left alone."""
    unit = given.unit
    lead = float(given.screw_lead.mm)
    found = []
    for amount, (first, opposite) in ((seen.x, (1, 3)), (seen.y, (2, 4))):
        if abs(amount) <= max(doubt / 4, target / 20):
            continue
        drive, ease = (first, opposite) if amount > 0 else (opposite, first)
        turns = abs(amount) / lead
        now, after = _at_jaw(given, seen, drive)
        found.append(
            JawMove(
                ease_jaw=ease, drive_jaw=drive, move=_length(abs(amount), unit), turns=turns, degrees=turns * 360,
                reads_now=now, reads_after=after,
            )
        )  # fmt: skip
    return sorted(found, key=lambda move: -move.move.mm)


def _at_jaw(given: TrueUpInput, seen: _Seen, jaw: int) -> tuple[Length | None, Length | None]:
    """What the needle says at a jaw now, and what it should say when both pairs have been moved."""
    if not given.readings or seen.round is None:
        return None, None
    index = (jaw - 1) * len(given.readings) // 4
    return given.readings[index], _length(seen.round.left[index], given.unit)


def turns_in_words(turns: float) -> str:
    """A part of a turn as the hand knows it. Source: common practice, no source.

    >>> turns_in_words(0.048), turns_in_words(0.26), turns_in_words(1.5)
    ('a twentieth of a turn', 'a quarter turn', '1.5 turns')
    """
    known = {
        1: "one turn", 2: "half a turn", 3: "a third of a turn", 4: "a quarter turn", 6: "a sixth of a turn", 8: "an eighth of a turn",
        12: "a twelfth of a turn", 16: "a sixteenth of a turn", 20: "a twentieth of a turn", 32: "a thirty-second of a turn",
    }  # fmt: skip
    if turns > 1.2:
        return f"{turns:.1f} turns"
    if turns < 1 / 40:
        return "a touch of the key"
    part = min(known, key=lambda n: abs(1 / n - turns) / turns)
    return known[part]


def _headline(stop: Stop, seen: _Seen, moves: list[JawMove], unit: Unit) -> str:
    if stop is Stop.MOVE and moves:
        first = moves[0]
        return f"Ease jaw {first.ease_jaw}, drive jaw {first.drive_jaw}"
    if stop is Stop.WORK_NOT_CHUCK or stop is Stop.MOVE:
        return "Stop: this is the work, not the chuck"
    if stop is Stop.TOO_COARSE:
        return "This indicator cannot say more: use a finer one"
    return f"True: it swings {show_small(_length(seen.swing, unit).mm, unit)}"


def _steps(stop: Stop, moves: list[JawMove], keys: Keys, unit: Unit) -> list[str]:
    if stop is Stop.TRUE:
        return ["Tighten pair by pair with the indicator on, and read once more."]
    if stop is Stop.WORK_NOT_CHUCK or not moves:
        return ["No jaw can remove what is left: it is the work's own shape. Tighten, read once more, and cut."]
    if stop is Stop.TOO_COARSE:
        return ["The offset left is within the needle's doubt. Read with a finer indicator, or take it as it is."]
    found = []
    for move in moves:
        amount = f"{show_small(move.move.mm, unit)}, {turns_in_words(move.turns)} ({move.degrees:.0f}°)"
        if keys == "two":
            found.append(f"Both keys together: jaw {move.ease_jaw} out, jaw {move.drive_jaw} in, by {amount}.")
        else:
            found.append(f"Ease jaw {move.ease_jaw} by {amount}; then drive jaw {move.drive_jaw} by the same.")
        if move.reads_after is not None and move.reads_now is not None:
            found.append(
                f"At jaw {move.drive_jaw} the needle goes from {show(move.reads_now.mm, unit)} to about {show(move.reads_after.mm, unit)}."
            )
    return [*found, "Read the next round."]


def _shape_words(found: Round, noise: float) -> str:
    """The largest shape that stands clear of the needle's noise."""
    seen = [shape for shape in found.shapes if shape.amplitude > 2 * noise * sqrt(2 / len(found.left))]
    largest = max(seen, key=lambda shape: shape.amplitude, default=None)
    return SHAPE_WORDS.get(largest.number, "") if largest else ""


def _unseen(given: TrueUpInput) -> list[str]:
    """What so many readings cannot show. Source: discrete Fourier series (aliasing)."""
    if not given.readings:
        return ["Highest and lowest alone do not tell offset from shape: read at the jaws as it comes near."]
    if len(given.readings) == 4:
        return [
            "Four readings see ovality only in line with the jaws; three lobes look like offset. Read eight if it will not settle."
        ]
    if len(given.readings) == 8:
        return ["Eight readings see up to three lobes; finer waves and roughness hide."]
    return []


def _working(given: TrueUpInput, seen: _Seen, doubt: float, unit: Unit) -> list[Step]:
    def shown(mm: float) -> str:
        return both(_length(mm, unit).mm, unit, decimals=5 if unit == "in" else 4)

    sense = (
        "work stands towards the high side"
        if given.surface == "outside"
        else "in a bore the work stands towards the low side"
    )
    how = "half the difference of opposite readings" if len(given.readings) == 4 else "first harmonic of the round"
    steps = [
        Step(
            name="Offset",
            formula=f"{how}; {sense}",
            values=f"towards jaw 1 {shown(seen.x)}, towards jaw 2 {shown(seen.y)}",
            result=shown(seen.offset),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="Of the swing",
            formula="the offset swings twice itself; the rest is the work's shape",
            values=f"whole swing {shown(seen.swing)}",
            result=f"offset {shown(2 * seen.offset)}" + (f", shape {shown(seen.shape)}" if seen.shape is not None else ""),
            source="discrete Fourier series",
        ),
        Step(
            name="Doubt of the offset's swing",
            formula="4·s·√(2/n), s a fifth of a graduation; k = 2, and the offset swings twice itself",
            values=f"n = {len(given.readings) or 2}",
            result=shown(doubt),
            source="JCGM 100:2008, 5.1.2; a fifth of a graduation: common practice, no source",
        ),
    ]
    if given.screw_lead:
        steps.append(
            Step(
                name="Turns of the key",
                formula="move / lead of the jaw screw",
                values=f"lead {given.screw_lead}",
                result=f"{abs(seen.x) / float(given.screw_lead.mm):.3f} for 1–3, {abs(seen.y) / float(given.screw_lead.mm):.3f} for 2–4",
                source=ARITHMETIC,
            )
        )
    return steps
