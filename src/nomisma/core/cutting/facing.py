"""A face to its length or a depth to its size: what is left, in passes, set by readout, indicator, carriage dial or
compound.
"""

from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from itertools import pairwise
from math import acos, cos, degrees, radians
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.cutting.dial import turns_and_lines
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.feature import cut_direction
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.display import both, show, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

By = Literal["readout", "indicator", "carriage", "compound"]
TENTH_DEG = degrees(acos(0.1))
"""The compound's angle from the lathe's axis at which a line moves the tool a tenth of itself along: 84.26°. Source:
geometry.
"""
MOST_PASSES = 200


class FacingInput(Model):
    """A length as measured and as wanted. `kind`: a length gets shorter; a step's length, a height or a depth grows.

    `line`: one line of the dial that is wound (carriage or compound, as it travels).

    `turn`: what a whole turn of that dial travels. `compound_deg`: from the lathe's axis. `depth`: a pass at most;
    `finish`: left for the last. `may_stay`: how much of it the limits allow to be left.
    """

    kind: KindName = "length"
    measured: Size
    wanted: Size
    by: By = "compound"
    line: Size | None = None
    turn: Size | None = None
    may_stay: Difference | None = None
    compound_deg: Number = Field(default=Decimal(0), ge=0, lt=90)
    depth: Size = Length.of("0.030", "in")
    finish: Size = Length.of("0.005", "in")
    unit: Unit = "in"


class FacingResult(Model):
    """What is faced off, or gone deeper (`does`), in each pass; for the last the lines that are wound, never past, and
    what they leave.
    """

    does: Literal["face off", "go deeper"]
    to_take: Size
    passes: list[Size]
    line_takes: Size | None = None
    exact_lines: Number | None = None
    whole_lines: int | None = None
    left: Difference | None = None
    sentence: str
    steps: list[str]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="facing",
    title="A face to its length",
    validity="A face turned square; the length measured from the face everything is measured from, cool and clean.",
    source="arithmetic; geometry of the compound; common practice, no source",
    example={
        "measured": "1.0230 in",
        "wanted": "1.0000 in",
        "by": "compound",
        "line": "0.001 in",
        "compound_deg": "60",
    },
)
def facing(given: FacingInput) -> FacingResult:
    """Passes and dial for a face. Raises InputError, OutOfRange, NotDefined.

    Source: arithmetic; a compound at an angle from the axis moves the tool along by its travel × cos of it (geometry).

    >>> found = facing(FacingInput(measured="1.023 in", wanted="1 in", line="0.001 in", compound_deg="60"))
    >>> str(found.to_take), [str(one) for one in found.passes], found.whole_lines
    ('0.023 in', ['0.018 in', '0.005 in'], 46)
    """
    take = cut_direction(given.kind) * (given.measured.mm - given.wanted.mm)
    if take <= 0:
        is_so = "deep as wanted, or deeper" if _deepens(given) else "short as wanted, or shorter"
        raise InputError(
            f"There is nothing to {_verb(given)}: it is as {is_so}.", "Check the two lengths.", field="wanted"
        )
    if given.by in ("compound", "carriage") and given.line is None:
        raise InputError(
            "One line of that dial is needed.", "It is written on the dial: 0.001 in, 0.02 mm.", field="line"
        )
    along = _line_along(given)
    lines = take / along if along else None
    whole = int((lines + Decimal("1e-9")).to_integral_value(ROUND_FLOOR)) if lines is not None else None
    left = take - whole * along if along and whole is not None else None
    passes = _passes(take, given) if along is None or whole is None else _in_whole_lines(whole, along, given)
    unit = given.unit
    return FacingResult(
        does=_verb(given),
        to_take=Length(take, unit),
        passes=[Length(one, unit) for one in passes],
        line_takes=Length(along, unit) if along else None,
        exact_lines=lines.quantize(Decimal("0.01")) if lines is not None else None,
        whole_lines=whole,
        left=Length(left, unit) if left is not None else None,
        sentence=_sentence(given, take, len(passes), whole, left),
        steps=_steps(given, passes, along),
        cautions=[
            *_not_landed(given, left),
            (
                "Carriage locked; tool on centre; no faster than the largest diameter stands. The machine’s manual"
                " comes first."
            ),
        ],
        working=_working(given, take, along, lines, whole),
    )


def _not_landed(given: FacingInput, left: Decimal | None) -> list[str]:
    """That whole lines do not land it, where more is left than the limits allow."""
    if left is None or given.may_stay is None or left <= given.may_stay.mm:
        return []
    unit = given.unit
    return [
        f"{show_small(left, unit)} is left and {show_small(given.may_stay.mm, unit)} may stay: whole lines of that dial"
        f" do not land it. Set the compound to {TENTH_DEG:.1f}°, or take the last by readout or indicator."
    ]


def _deepens(given: FacingInput) -> bool:
    return cut_direction(given.kind) == -1


def _verb(given: FacingInput) -> Literal["face off", "go deeper"]:
    return "go deeper" if _deepens(given) else "face off"


def _passes(take: Decimal, given: FacingInput) -> list[Decimal]:
    """Equal rough passes no deeper than `depth`, then the finishing one. Source: common practice, no source."""
    finish = min(given.finish.mm, take)
    rough = take - finish
    count = int((rough / given.depth.mm).to_integral_value(ROUND_CEILING))
    if count > MOST_PASSES:
        raise OutOfRange(f"That would be {count} passes.", "Saw it first, or take more a pass.", field="depth")
    return [*(rough / count for _ in range(count)), finish]


def _in_whole_lines(whole: int, along: Decimal, given: FacingInput) -> list[Decimal]:
    """The same passes, each of whole lines that move the tool `along` (mm); where not one line is left to wind, no
    pass.

    Raises OutOfRange. Source: common practice, no source.
    """
    finish = min(max(int((given.finish.mm / along).to_integral_value(ROUND_CEILING)), 1), whole)
    rough, deepest = whole - finish, int((given.depth.mm / along).to_integral_value(ROUND_FLOOR))
    if rough and deepest < 1:
        raise OutOfRange(
            f"One line of that dial takes {show_small(along, given.unit)}, more than the depth of a pass.",
            "Allow a deeper pass, or set the compound over.",
            field="depth",
            value=str(given.depth),
        )
    count = -(-rough // deepest) if rough else 0
    if count > MOST_PASSES:
        raise OutOfRange(f"That would be {count} passes.", "Saw it first, or take more a pass.", field="depth")
    ends = [rough * number // count for number in range(count + 1)] if count else [0]
    each = [later - earlier for earlier, later in pairwise(ends)] + ([finish] if finish else [])
    return [lines * along for lines in each]


def _line_along(given: FacingInput) -> Decimal | None:
    """What one line moves the tool along, mm."""
    if given.line is None or given.by not in ("compound", "carriage"):
        return None
    share = Decimal(f"{cos(radians(float(given.compound_deg))):.9f}") if given.by == "compound" else Decimal(1)
    return given.line.mm * share


def _sentence(given: FacingInput, take: Decimal, passes: int, whole: int | None, left: Decimal | None) -> str:
    unit = given.unit
    first = f"{show(take, unit)} to {_verb(given)}, in {passes} pass{'es' if passes != 1 else ''}."
    if whole is None or left is None:
        return first
    rest = f", and {show_small(left, unit)} is left" if left > Decimal("1e-6") else ""
    return f"{first} {_lines(Decimal(whole), given)} of the {given.by} in all{rest}."


def _steps(given: FacingInput, passes: list[Decimal], along: Decimal | None) -> list[str]:
    unit = given.unit
    how = {
        "readout": (
            f"Touch the face, enter {show(given.measured.mm, unit)} in the readout, and work to"
            f" {show(given.wanted.mm, unit)}."
        ),
        "indicator": (
            "Indicator against the carriage, 0 with the tool on the face; every pass is what the needle moves."
        ),
        "carriage": (
            "Carriage dial to 0 with the tool on the face, backlash taken up towards the work; lock it for each pass."
        ),
        "compound": (
            f"Compound at {given.compound_deg}° from the axis, carriage locked, dial to 0 with the tool on the face."
        ),
    }[given.by]
    found = [how]
    total = Decimal(0)
    for number, one in enumerate(passes, 1):
        total += one
        words = show(total, unit) if along is None else f"{_lines(total / along, given)} ({show(total, unit)})"
        last = (
            " The last: measure before it, and set it by what was measured."
            if number == len(passes) and len(passes) > 1
            else ""
        )
        found.append(f"Pass {number}: in to {words} from the face.{last}")
    if given.by in ("compound", "carriage"):
        found.append(
            "Come to each reading in the direction of the cut: past it, go well back first, so that the backlash is"
            " taken up."
        )
    if given.by == "compound" and float(given.compound_deg) < 60:
        found.append(
            f"For finer setting: the compound at {TENTH_DEG:.1f}° from the axis moves a tenth of what its dial says."
        )
    return [*found, "Measure from the one face everything is measured from."]


def _lines(lines: Decimal, given: FacingInput) -> str:
    """Whole lines, in turns where it is known how many go round."""
    around = given.turn.mm / given.line.mm if given.turn and given.line else None
    return turns_and_lines(lines.to_integral_value(), around)


def _working(
    given: FacingInput, take: Decimal, along: Decimal | None, lines: Decimal | None, whole: int | None
) -> list[Step]:
    unit = given.unit
    found = [
        Step(
            name=f"To {_verb(given)}",
            formula="wanted − measured" if _deepens(given) else "measured − wanted",
            values=f"{given.wanted} − {given.measured}" if _deepens(given) else f"{given.measured} − {given.wanted}",
            result=both(take, unit),
            source=ARITHMETIC,
        )
    ]
    if along is not None and lines is not None:
        found += [
            Step(
                name="One line moves along",
                formula=(
                    "line × cos of the compound's angle from the axis" if given.by == "compound" else "as the dial says"
                ),
                values=f"{given.line}, {given.compound_deg}°" if given.by == "compound" else str(given.line),
                result=both(along, unit, decimals=6 if unit == "in" else 5),
                source="geometry",
            ),
            Step(
                name="Lines",
                formula="to face off / that; whole ones, never past",
                result=f"{lines:.2f}: {whole}",
                source=COMMON_PRACTICE,
            ),
        ]
    return found
