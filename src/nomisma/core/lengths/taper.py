"""A taper from any two things that are known of it: its ends, its rate, and how the lathe is set to cut it."""

from dataclasses import dataclass
from decimal import Decimal
from math import atan, degrees, sin, tan

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.standard_tapers import standard_taper_named
from nomisma.core.part.taper import taper_rate
from nomisma.core.quantity.angle import show_angle
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

ISO_3040 = "ISO 3040:2016, 3 (recalled): C = (D − d)/L = 2·tan(α/2)"
LATHE = "geometry of the lathe"
STEEP_FOR_TAILSTOCK = 1 / Decimal(15)
"""From what taper (1:15) a tailstock set over wears the centre holes. Source: common practice, no source."""
AGREE_WITHIN = Decimal("0.01")
"""How far (of the change) what is typed twice may disagree. Source: this tool's own choice."""


class TaperInput(Model):
    """Any two: the taper (1:20, .600 per foot, 5 %, 8°, Morse 3) and one end with the length, or both ends with the
    length.

    `at`: a place so far from the large end. `between_centres`: how long the part is between its centres;
    `set_over_room`: how far the tailstock goes over. `stands_off`: how much too far out of its partner it sits.
    """

    taper: str = Field(default="", max_length=80)
    large: Size | None = None
    small: Size | None = None
    length: Size | None = None
    at: Size | None = None
    between_centres: Size | None = None
    set_over_room: Size | None = None
    stands_off: Size | None = None
    unit: Unit = "mm"


class TaperResult(WorksheetAnswer):
    """Everything of a taper: its rate in all ways of saying it, its angles in degrees, its ends, and how the lathe is
    set.
    """

    rate: Number
    one_in: Number
    per_foot_in: Number
    percent: Number
    included_deg: float
    half_deg: float
    large: Size | None = None
    small: Size | None = None
    length: Size | None = None
    size_at: Size | None = None
    set_over: Size | None = None
    infeed: Difference | None = None


@dataclass(frozen=True, slots=True)
class _Known:
    """The taper's rate and, in mm, its ends and length as far as they are known."""

    rate: Decimal
    large_mm: Decimal | None
    small_mm: Decimal | None
    length_mm: Decimal | None
    source: str
    note: str = ""


@calculation(
    name="taper",
    title="A taper, and how to set it",
    validity="Straight tapers up to about 127° included; the set-over of a tailstock for slender ones.",
    source=f"{ISO_3040}; ANSI/ASME B5.10, ISO 296, ISO 7388-1 (recalled); {LATHE}",
    example={"taper": "Morse 3", "between_centres": "8 in", "unit": "in"},
)
def taper(given: TaperInput) -> TaperResult:
    """Rate, angles, ends and settings. Raises InputError where too little or what disagrees is known, OutOfRange.

    Source: ISO 3040:2016, 3 (recalled); set-over = rate × length between centres / 2; compound at half the included
    angle (geometry).

    >>> found = taper(TaperInput(large="1 in", small="0.75 in", length="5 in", between_centres="8 in", unit="in"))
    >>> str(found.set_over), found.one_in, round(found.half_deg, 4)
    ('0.2 in', Decimal('20'), 1.4321)
    """
    known = _complete(_known(given))
    half = atan(float(known.rate) / 2)
    unit = given.unit
    set_over = known.rate * given.between_centres.mm / 2 if given.between_centres else None
    infeed = known.rate * given.stands_off.mm if given.stands_off else None
    size_at = _size_at(known, given)
    return TaperResult(
        rate=_short(known.rate),
        one_in=_short(1 / known.rate),
        per_foot_in=_short(known.rate * 12),
        percent=_short(known.rate * 100),
        included_deg=degrees(2 * half),
        half_deg=degrees(half),
        large=_length(known.large_mm, unit),
        small=_length(known.small_mm, unit),
        length=_length(known.length_mm, unit),
        size_at=_length(size_at, unit),
        set_over=_length(set_over, unit),
        infeed=_length(infeed, unit),
        headline=f"{degrees(half):.3f}°",
        sentence=(
            f"Compound {show_angle(degrees(half))} from the lathe’s axis: half of the {show_angle(degrees(2 * half))}"
            " the taper includes."
        ),
        facts=_facts(known, half, size_at, set_over, infeed, given),
        table=_marks(known, unit),
        notes=[known.note] if known.note else [],
        steps=_steps(half, set_over, unit),
        cautions=_cautions(known, set_over, given),
        working=_working(known, half, set_over, infeed, given),
    )


def _length(mm: Decimal | None, unit: Unit) -> Length | None:
    return None if mm is None else Length(mm, unit)


def _short(value: Decimal) -> Decimal:
    """A rate to eight figures behind the point, without what division leaves."""
    return value.quantize(Decimal("1e-8")).normalize() + 0


def _known(given: TaperInput) -> _Known:
    large, small, length = (one.mm if one else None for one in (given.large, given.small, given.length))
    if large is not None and small is not None and small >= large:
        raise OutOfRange("The large end is not larger than the small one.", "Exchange the two.", field="small")
    ends = (large - small) / length if large is not None and small is not None and length is not None else None
    if standard := standard_taper_named(given.taper):
        alone = large is None and small is None and length is None
        note = f"{standard.words} is recalled without certainty: hold it against a gauge." if standard.unsure else ""
        found = _Known(
            standard.rate,
            standard.large_mm if alone else large,
            standard.small_mm if alone else small,
            standard.length_mm if alone else length,
            standard.source,
            note,
        )
    elif given.taper.strip():
        try:
            found = _Known(taper_rate(given.taper), large, small, length, ISO_3040)
        except InputError as error:
            raise error.at("taper") from None
    elif ends is not None:
        return _Known(ends, large, small, length, ISO_3040)
    else:
        raise InputError(
            "Too little is known of the taper.",
            "Give both ends and the length, or the taper itself (1:20, Morse 3).",
            field="taper",
        )
    if ends is not None and abs(ends - found.rate) > AGREE_WITHIN * found.rate:
        raise InputError(
            f"The ends make 1:{float(1 / ends):.4g} over that length, the taper says 1:{float(1 / found.rate):.4g}.",
            "Leave one of them out.",
            field="taper",
        )
    return found


def _complete(known: _Known) -> _Known:
    """What follows from the rate and two of the rest."""
    large, small, length = known.large_mm, known.small_mm, known.length_mm
    if large is not None and length is not None and small is None:
        small = large - known.rate * length
        if small <= 0:
            raise OutOfRange(
                "It comes to a point before its length is over.", "Check the length and the taper.", field="length"
            )
    elif small is not None and length is not None and large is None:
        large = small + known.rate * length
    elif large is not None and small is not None and length is None:
        length = (large - small) / known.rate
    return _Known(known.rate, large, small, length, known.source, known.note)


def _size_at(known: _Known, given: TaperInput) -> Decimal | None:
    if given.at is None:
        return None
    if known.large_mm is None:
        raise InputError("The size at a place needs an end.", "Give one end, with the length.", field="at")
    size = known.large_mm - known.rate * given.at.mm
    if size <= 0:
        raise OutOfRange("There the taper has come to a point.", "Check the distance from the large end.", field="at")
    return size


def _facts(
    known: _Known,
    half: float,
    size_at: Decimal | None,
    set_over: Decimal | None,
    infeed: Decimal | None,
    given: TaperInput,
) -> list[Fact]:
    unit = given.unit
    travel = Decimal("25.4") if unit == "in" else Decimal(25)
    rate = float(known.rate)
    lengths = (
        ("Tailstock set over", set_over),
        (f"Size {given.at} from the large end", size_at),
        ("Large end", known.large_mm),
        ("Small end", known.small_mm),
        ("Length", known.length_mm),
        ("To come off, on diameter", infeed),
    )
    return [
        Fact(name="Taper", words=f"1:{1 / rate:.4g}, {rate * 12:.5f} in per foot, {rate * 100:.3f} %"),
        Fact(name="Included angle", words=show_angle(degrees(2 * half))),
        *(Fact(name=name, length=Length(mm, unit)) for name, mm in lengths if mm is not None),
        Fact(
            name=f"Needle against a true bar, over {show_exact(travel, unit)} of the compound",
            length=Length.from_mm(float(travel) * sin(half), unit),
        ),
    ]


def _marks(known: _Known, unit: Unit) -> AnswerTable | None:
    """Sizes at quarters of the length, to look at on the way."""
    if known.large_mm is None or known.length_mm is None:
        return None
    places = [known.length_mm * quarter / 4 for quarter in range(5)]
    rows = [
        [Fact(length=Length(at, unit)), Fact(length=Length(known.large_mm - known.rate * at, unit))] for at in places
    ]
    return AnswerTable(head=["From the large end", "Diameter"], rows=rows)


def _steps(half: float, set_over: Decimal | None, unit: Unit) -> list[str]:
    found = [
        f"Tool on centre height: off it, the taper comes out curved and not {show_angle(degrees(2 * half))}.",
        (
            "Set the compound by the needle against a true bar, not by its graduations; cut, measure at two marks,"
            " correct."
        ),
    ]
    if set_over is not None:
        found.append(
            f"Or set the tailstock over {show_small(set_over, unit)} and turn between centres: towards the tool where"
            " the end at the headstock is to be larger."
        )
    return found


def _cautions(known: _Known, set_over: Decimal | None, given: TaperInput) -> list[str]:
    found = []
    if set_over is not None and given.set_over_room and set_over > given.set_over_room.mm:
        found.append(
            f"{show_small(set_over, given.unit)} is beyond what this tailstock goes over: cut it with the compound or a"
            " taper attachment."
        )
    if set_over is not None and known.rate > STEEP_FOR_TAILSTOCK:
        found.append("Steeper than 1:15 the centres no longer bear in their holes: ball centres, or the compound.")
    if set_over is not None:
        found.append("Every piece must be as long between its centres, or its taper is another.")
        found.append(
            "The centres stand askew: oil them, look often, and see the dog clear bed, tool and compound all round"
            " before it turns."
        )
    return found


def _working(
    known: _Known, half: float, set_over: Decimal | None, infeed: Decimal | None, given: TaperInput
) -> list[Step]:
    unit = given.unit
    said = given.taper
    if known.large_mm is not None and known.small_mm is not None and known.length_mm is not None:
        said = f"({both(known.large_mm, unit)} − {both(known.small_mm, unit)})/{both(known.length_mm, unit)}"
    found = [
        Step(
            name="Taper",
            formula="(large − small)/length",
            values=said,
            result=f"{float(known.rate):.8f} = 1:{float(1 / known.rate):.5g}",
            source=known.source,
        ),
        Step(
            name="Half angle",
            formula="atan(taper/2)",
            values=f"atan({float(known.rate) / 2:.8f})",
            result=show_angle(degrees(half)),
            source=ISO_3040,
        ),
        Step(
            name="Needle against a true bar",
            formula="travel of the compound × sin(half angle)",
            values=f"sin {degrees(half):.5f}° = {sin(half):.6f}; tan = {tan(half):.6f}",
            result="as above",
            source=LATHE,
        ),
    ]
    if set_over is not None and given.between_centres:
        found.append(
            Step(
                name="Set-over of the tailstock",
                formula="taper × length between centres/2",
                values=f"{float(known.rate):.8f} × {both(given.between_centres.mm, unit)}/2",
                result=both(set_over, unit),
                source=LATHE,
            )
        )
    if infeed is not None and given.stands_off:
        found.append(
            Step(
                name="What comes off for it to go in",
                formula="taper × how far it stands off",
                values=f"{float(known.rate):.8f} × {both(given.stands_off.mm, unit)}",
                result=both(infeed, unit, decimals=5),
                source=ARITHMETIC,
            )
        )
    if set_over is not None:
        found.append(
            Step(
                name="Up to what taper the tailstock is set over",
                formula="1:15",
                result="steeper wears the centre holes",
                source=COMMON_PRACTICE,
            )
        )
    return found
