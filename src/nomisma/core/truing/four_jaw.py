"""The four-jaw solved: which jaw to ease, which to drive, how far in turns of the key, and when to stop."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.truing.seen import SAME_MM, RoundAnalysis, Stop, seen_ends, seen_round, stop_for
from nomisma.core.truing.surface import Grip, TruedSurface, sense_of
from nomisma.core.truing.turn_words import shape_words, towards, turns_in_words
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

Keys = Literal["one", "two"]
NOISE_SHARE = Decimal("0.2")
"""One standard deviation of a reading in graduations: a needle is read to a fifth. Source: common practice, no source.
"""
LARGEST_SWING_MM = 25
_MOST = 72


class TrueUpInput(Model):
    """One round of readings, from jaw 1 on in the order of the jaws; the indicator reads up when it is pushed.

    `readings`: 4 at the jaws, or 8, 12 … round the turn, evenly spaced unless `at_deg` says where (jaw 1 at 0°, jaw 2
    at 90°; six flats, pins). Or `highest` and `lowest` with the direction of the highest. `screw_lead`: travel of a jaw
    in one turn of the key. `grip`: jaws round the work, or inside
    it pushing out. `range`: of the indicator. `drift_towards_1`, `drift_towards_2`: what tightening this chuck moves
    the work by, while it is only snug (`tightened` no).
    """

    surface: TruedSurface = "outside"
    grip: Grip = "outside"
    readings: list[Difference] = Field(default=[], max_length=_MOST)
    at_deg: list[float] = Field(default=[], max_length=_MOST)
    highest: Difference | None = None
    lowest: Difference | None = None
    highest_at_deg: float | None = Field(default=None, ge=0, lt=360)
    target: Size
    screw_lead: Size
    graduation: Size
    range: Size | None = None
    keys: Keys = "one"
    tightened: bool = False
    drift_towards_1: Difference = Length(Decimal(0))
    drift_towards_2: Difference = Length(Decimal(0))
    unit: Unit = "in"


class JawMove(Model):
    """One pair of jaws: ease one, drive the other by `move`; what the needle should say at the driven jaw afterwards.

    A jaw is driven when its key tightens it: inwards round the work, outwards where it grips from inside.
    """

    ease_jaw: int
    drive_jaw: int
    move: Difference
    turns: float
    degrees: float
    reads_now: Difference | None = None
    reads_after: Difference | None = None


class RoundShape(Model):
    """One wave of the work's own shape: `waves` a turn, half of what it swings, and where its first crest is."""

    waves: int
    amplitude: Difference
    crest_deg: float


class TrueUpResult(Model):
    """Where the work stands and what to do. `offset` is half of what it swings; `shape` is the swing that no jaw can
    remove.

    `mean`: what the needle says on the average; `residuals`: what each reading keeps without mean and offset.
    `expected`: what the needle should say at each place when the moves are made.
    """

    stop: Stop
    grip: Grip
    total_indicator_reading: Difference
    total_indicator_reading_after_tightening: Difference
    offset: Difference
    offset_at_deg: float
    offset_towards: str
    offset_x_mm: float
    offset_y_mm: float
    offset_uncertainty: Difference
    mean: Difference | None = None
    residuals: list[Difference]
    shape: Difference | None = None
    shape_uncertainty: Difference | None = None
    shape_words: str = ""
    shapes: list[RoundShape]
    moves: list[JawMove]
    target: Size
    headline: str
    steps: list[str]
    unseen: list[str]
    cautions: list[str]
    readings: list[Difference]
    expected: list[Difference]
    working: list[Step]


@calculation(
    name="true_up",
    title="True up in a four-jaw",
    validity="Independent jaws at right angles; an offset small against the diameter; readings square to the surface "
        "at centre height.",
    source="discrete Fourier series; half the difference of opposite readings: common practice, no source",
    example={
        "readings": ["0.012 in", "0.005 in", "0 in", "0.006 in"], "target": "0.0005 in", "screw_lead": "0.125 in",
        "graduation": "0.0005 in",
    },
)  # fmt: skip
def true_up(given: TrueUpInput) -> TrueUpResult:
    """Offset, shape and the next move of each pair of jaws, from one round of readings. Raises InputError, OutOfRange.

    Source: arithmetic: opposite jaws are independent and the work moves by half their difference; harmonics above the
    first are the work's own shape (discrete Fourier series). Gripped from inside, ease and drive change over.

    >>> found = true_up(TrueUpInput(readings=["0.012 in", "0.005 in", "0 in", "0.006 in"], target="0.0005 in",
    ...     screw_lead="0.125 in", graduation="0.0005 in"))
    >>> str(found.moves[0].move), found.moves[0].ease_jaw, found.moves[0].drive_jaw
    ('0.006 in', 3, 1)
    """
    _check(given)
    seen = _seen(given)
    stop = stop_for(seen, float(given.target.mm))
    moves = _moves(given, seen) if stop is Stop.MOVE else []
    if stop is Stop.MOVE and not moves:
        stop = Stop.TOO_COARSE
    unit = given.unit
    found = seen.round
    return TrueUpResult(
        stop=stop,
        grip=given.grip,
        total_indicator_reading=Length.from_mm(seen.total_indicator_reading, unit),
        total_indicator_reading_after_tightening=Length.from_mm(seen.total_indicator_reading_then, unit),
        offset=Length.from_mm(seen.offset, unit),
        offset_at_deg=seen.direction_deg,
        offset_towards=towards(seen.direction_deg),
        offset_x_mm=seen.x,
        offset_y_mm=seen.y,
        offset_uncertainty=Length.from_mm(seen.offset_uncertainty, unit),
        mean=Length.from_mm(seen.mean, unit) if seen.mean is not None else None,
        residuals=[Length.from_mm(left - found.mean, unit) for left in found.left] if found else [],
        shape=Length.from_mm(seen.shape, unit) if seen.shape is not None else None,
        shape_uncertainty=Length.from_mm(seen.shape_uncertainty, unit) if seen.shape is not None else None,
        shape_words=shape_words(found, seen.noise) if found else "",
        shapes=[
            RoundShape(waves=one.number, amplitude=Length.from_mm(one.amplitude, unit), crest_deg=one.crest_deg)
            for one in (found.shapes if found else ())
        ],
        moves=moves,
        target=given.target,
        headline=_headline(stop, seen, moves, given.keys, unit),
        steps=_steps(stop, moves, given),
        unseen=_unseen(given),
        cautions=[
            "Key out of the chuck; spin it by hand before power. The chuck’s and the machine’s manuals come first."
        ],
        readings=given.readings,
        expected=_expected(seen, moves, unit),
        working=_working(given, seen, unit),
    )


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
    if given.at_deg:
        _check_places(given)
    elif given.readings and (len(given.readings) < 4 or len(given.readings) % 4):
        raise InputError(
            f"{len(given.readings)} readings do not meet all four jaws.",
            "One was missed, or one too many: give 4, 8, 12 or 24, from jaw 1 on.",
            field="readings",
        )
    if given.highest and given.lowest and given.highest.mm < given.lowest.mm:
        raise InputError("The highest reading is below the lowest.", "Exchange them.", field="highest")
    sizes = [one.mm for one in given.readings or (given.highest, given.lowest) if one is not None]
    total_indicator_reading = max(sizes) - min(sizes)
    if given.range and total_indicator_reading > given.range.mm:
        raise OutOfRange(
            f"A swing of {show(total_indicator_reading, given.unit)} is more than the indicator's range of"
            f" {given.range}: it has gone round or run out.",
            "Bring the work nearer by the chuck's rings first, then read again.",
            field="readings",
        )
    if total_indicator_reading > LARGEST_SWING_MM:
        raise OutOfRange(
            f"A swing of {show(total_indicator_reading, given.unit)} is no indicator's.",
            "Check the unit of the readings.",
            field="readings",
        )


def _check_places(given: TrueUpInput) -> None:
    """Places that leave half a turn unread say nothing of one direction. Raises InputError."""
    at = sorted(one % 360 for one in given.at_deg)
    gaps = [b - a for a, b in zip(at, [*at[1:], at[0] + 360], strict=True)]
    if len(at) != len(given.readings) or len(at) < 3 or max(gaps) >= 180:
        raise InputError(
            f"{len(given.readings)} readings at {len(at)} places do not go round the work.",
            "Give a place for every reading, at least three, and none more than half a turn from the next.",
            field="at_deg",
        )


def _seen(given: TrueUpInput) -> RoundAnalysis:
    """Work off towards a jaw reads high there on an outside, and low in a bore."""
    sense, noise = sense_of(given.surface), float(given.graduation.mm * NOISE_SHARE)
    drift = (0.0, 0.0) if given.tightened else (float(given.drift_towards_1.mm), float(given.drift_towards_2.mm))
    if not given.readings:
        assert given.highest is not None
        assert given.lowest is not None
        total_indicator_reading = float(given.highest.mm - given.lowest.mm)
        return seen_ends(total_indicator_reading, given.highest_at_deg or 0.0, sense=sense, drift=drift, noise=noise)
    values = [float(one.mm) for one in given.readings]
    places = given.at_deg or [360 * index / len(values) for index in range(len(values))]
    return seen_round(places, values, sense=sense, drift=drift, noise=noise, target=float(given.target.mm))


def _moves(given: TrueUpInput, seen: RoundAnalysis) -> list[JawMove]:
    """The larger move first; the other pair only where it is off by more than its doubt and the first alone does not
    do.
    """
    pairs = sorted(((seen.then_x, (1, 3)), (seen.then_y, (2, 4))), key=lambda pair: -round(abs(pair[0]), 8))
    target = float(given.target.mm) + SAME_MM
    found: list[JawMove] = []
    for amount, jaws in pairs:
        if abs(amount) <= seen.offset_uncertainty / 4 + SAME_MM:
            continue
        left = (0.0, seen.then_y) if jaws == (2, 4) else (seen.then_x, 0.0)
        if found and seen.total_indicator_reading_at(*left) <= target:
            continue
        found.append(_move(given, seen, amount, jaws))
    return found


def _move(given: TrueUpInput, seen: RoundAnalysis, amount: float, jaws: tuple[int, int]) -> JawMove:
    """What a pair is moved by; `amount` is how far the work stands off towards the first of the two, mm."""
    first, opposite = jaws
    # Round the work the jaw on its high side pushes it back; from inside the one opposite does, and ease and drive
    # change over.
    drives_first = (amount > 0) == (given.grip == "outside")
    drive, ease = (first, opposite) if drives_first else (opposite, first)
    turns = abs(amount) / float(given.screw_lead.mm)
    now, after = _at_jaw(given, seen, drive)
    return JawMove(
        ease_jaw=ease,
        drive_jaw=drive,
        move=Length.from_mm(abs(amount), given.unit),
        turns=turns,
        degrees=turns * 360,
        reads_now=now,
        reads_after=after,
    )


def _at_jaw(given: TrueUpInput, seen: RoundAnalysis, jaw: int) -> tuple[Length | None, Length | None]:
    """What the needle says at a jaw now, and what it should say when both pairs have been moved; none where no place is
    read there.
    """
    near = [index for index, at in enumerate(seen.angles_deg) if abs((at - 90 * (jaw - 1) + 180) % 360 - 180) < 15]
    if not near:
        return None, None
    after = seen.at(near[0], -seen.drift_x, -seen.drift_y)
    return given.readings[near[0]], Length.from_mm(after, given.unit)


def _expected(seen: RoundAnalysis, moves: list[JawMove], unit: Unit) -> list[Length]:
    """The next round, if the moves are made; a pair left alone stays where it is."""
    moved = {move.drive_jaw % 2 for move in moves}
    x = -seen.drift_x if 1 in moved else seen.x
    y = -seen.drift_y if 0 in moved else seen.y
    return [Length.from_mm(seen.at(index, x, y), unit) for index in range(len(seen.angles_deg))]


def _headline(stop: Stop, seen: RoundAnalysis, moves: list[JawMove], keys: Keys, unit: Unit) -> str:
    if moves and keys == "two":
        return f"Together: ease jaw {moves[0].ease_jaw}, drive jaw {moves[0].drive_jaw}"
    if moves:
        return f"Ease jaw {moves[0].ease_jaw}, drive jaw {moves[0].drive_jaw}"
    if stop is Stop.WORK_NOT_CHUCK:
        return "Stop: this is the work, not the chuck"
    if stop is Stop.TOO_COARSE:
        return "This indicator cannot say more: use a finer one"
    return f"True: it swings {show_small(as_mm(seen.total_indicator_reading), unit)}"


def _steps(stop: Stop, moves: list[JawMove], given: TrueUpInput) -> list[str]:
    unit = given.unit
    tighten = "" if given.tightened else "Tighten pair by pair with the indicator on, and read once more."
    if stop is Stop.TRUE:
        return [tighten or "Leave it. Key out, indicator away."]
    if stop is Stop.WORK_NOT_CHUCK:
        return ["No jaw can remove what is left: it is the work's own shape.", tighten or "Leave it, and cut."]
    if stop is Stop.TOO_COARSE:
        return ["The offset left is within the needle's doubt. Read with a finer indicator, or take it as it is."]
    found = []
    for move in moves:
        amount = f"{show_small(move.move.mm, unit)}, {turns_in_words(move.turns)} ({move.degrees:.0f}°)"
        if given.keys == "two":
            found.append(f"Both keys together: ease jaw {move.ease_jaw}, drive jaw {move.drive_jaw}, by {amount}.")
        else:
            found.append(f"Ease jaw {move.ease_jaw} by {amount}; then drive jaw {move.drive_jaw} by the same.")
        if move.reads_after is not None and move.reads_now is not None:
            found.append(
                f"At jaw {move.drive_jaw} the needle goes from {show(move.reads_now.mm, unit)} to about"
                f" {show(move.reads_after.mm, unit)}."
            )
    return [*found, "Read the next round."]


def _unseen(given: TrueUpInput) -> list[str]:
    """What so many readings cannot show. Source: discrete Fourier series (aliasing)."""
    if not given.readings:
        return ["Highest and lowest alone do not tell offset from shape: read at the jaws as it comes near."]
    if len(given.readings) == 4:
        return [
            "Four readings see ovality only in line with the jaws; three lobes look like offset. Read eight if it will"
            " not settle."
        ]
    if len(given.readings) == 6:
        return ["Six flats tell offset from a bar that is wider one way; they say nothing of the corners."]
    if len(given.readings) == 8:
        return ["Eight readings see up to three lobes; finer waves and roughness hide."]
    return []


def _working(given: TrueUpInput, seen: RoundAnalysis, unit: Unit) -> list[Step]:
    def shown(mm: float) -> str:
        return both(as_mm(mm), unit, decimals=5 if unit == "in" else 4)

    stands = "work stands towards the high side" if seen.sense > 0 else "in a bore the work stands towards the low side"
    how = "half the difference of opposite readings" if len(given.readings) == 4 else "first harmonic of the round"
    if seen.by_least_swing:
        how = (
            "the centre that leaves the least swing (minimum zone), for the first harmonic’s leaves more than is wanted"
        )
    shape = f", shape {shown(seen.shape)} ± {shown(seen.shape_uncertainty)}" if seen.shape is not None else ""
    steps = [
        Step(
            name="Offset",
            formula=f"{how}; {stands}"
            + (
                "; the jaws push outwards, so the one across from the high side drives"
                if given.grip == "inside"
                else ""
            ),
            values=f"towards jaw 1 {shown(seen.x)}, towards jaw 2 {shown(seen.y)}",
            result=shown(seen.offset),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="Of the swing",
            formula="the offset swings twice itself; the rest is the work's shape",
            values=(
                f"between the places read {shown(seen.raw_total_indicator_reading)}, whole swing"
                f" {shown(seen.total_indicator_reading)}"
            ),
            result=f"offset {shown(2 * seen.offset)}{shape}",
            source="discrete Fourier series",
        ),
        Step(
            name="Doubt of the offset's swing",
            formula="4·s·√(2/n), s a fifth of a graduation; k = 2, and the offset swings twice itself",
            values=f"n = {seen.count}",
            result=shown(seen.offset_uncertainty),
            source="JCGM 100:2008, 5.1.2; a fifth of a graduation: common practice, no source",
        ),
    ]
    if seen.drift_x or seen.drift_y:
        steps.append(
            Step(
                name="What tightening will add",
                formula="learned from this chuck; the work is left off by as much the other way",
                values=f"towards jaw 1 {shown(seen.drift_x)}, towards jaw 2 {shown(seen.drift_y)}",
                result=f"offset then {shown(seen.offset_then)}",
                source="this shop's own rounds before and after tightening",
            )
        )
    steps.append(
        Step(
            name="Turns of the key",
            formula="move / lead of the jaw screw",
            values=f"lead {given.screw_lead}",
            result=" · ".join(
                f"{abs(amount) / float(given.screw_lead.mm):.3f} for {pair}"
                for amount, pair in ((seen.then_x, "1–3"), (seen.then_y, "2–4"))
            ),
            source=ARITHMETIC,
        )
    )
    return steps
