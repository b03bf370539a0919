"""The blank: how long and how far across the stock must be for a part, what it weighs, and how many come from a bar."""

from decimal import ROUND_FLOOR, Decimal
from math import pi, sqrt
from typing import Literal, assert_never

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.materials.material import material_named
from nomisma.core.metal.stock import FACING
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact, show_sawn
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

Shape = Literal["round", "square", "hexagon", "octagon", "tube"]
SHAPE_WORDS: dict[Shape, str] = {
    "round": "round, its diameter", "square": "square, across flats", "hexagon": "hexagon, across flats",
    "octagon": "octagon, across flats",
    "tube": "tube, its outside",
}  # fmt: skip
StockSurface = Literal["bright", "rolled", "cast", "flame_cut"]
SURFACE_WORDS: dict[StockSurface, str] = {
    "bright": "bright drawn or turned", "rolled": "black, hot rolled or forged", "cast": "cast, with its skin",
    "flame_cut": "cut by flame",
}  # fmt: skip
SKIN: dict[StockSurface, dict[Unit, Length]] = {
    "bright": {"in": Length.of("0.015", "in"), "mm": Length.of("0.4", "mm")},
    "rolled": {"in": Length.of("0.030", "in"), "mm": Length.of("0.8", "mm")},
    "cast": {"in": Length.of("0.060", "in"), "mm": Length.of("1.5", "mm")},
    "flame_cut": {"in": Length.of("0.060", "in"), "mm": Length.of("1.5", "mm")},
}
"""What comes off all round, on radius, until no skin is left. Source: common practice, no source."""
LIFT_KG = Decimal(20)
"""From here on two people or a hoist. Source: common practice, no source; the shop's own figure and local rules come
first.
"""
MOST_PIECES = 1000
KG_PER_LB = Decimal("0.45359237")


def sound_mm(across_mm: Decimal, surface: StockSurface, unit: Unit) -> Decimal:
    """What stock is across where it is sound, mm: as measured, less its skin all round unless it is bright.

    Source: common practice, no source.

    >>> sound_mm(Decimal(182), "cast", "mm")
    Decimal('179.0')
    """
    return across_mm if surface == "bright" else across_mm - 2 * SKIN[surface][unit].mm


class BlankInput(Model):
    """The finished part, and what the stock is; lengths as finished, `bore` of a tube's wall that must clean up.

    `facing`: left on each end (none said: what is usual). `parting`: the width of the parting tool, or of the saw,
    a piece. `grip`: what stays in the chuck at last, once.
    `stock_across`, `stock_bore`, `stock_length`: what there is, if it is to be looked at; `outside_stays`: the largest
    outside stays as that came, and nothing of it has to clean up.
    """

    finished_length: Size
    finished_diameter: Size
    bore: Size | None = None
    shape: Shape = "round"
    surface: StockSurface = "bright"
    pieces: int = Field(default=1, ge=1, le=MOST_PIECES)
    facing: Difference | None = None
    parting: Difference = Length(Decimal(0))
    grip: Difference = Length(Decimal(0))
    oval_or_bent: Difference = Length(Decimal(0))
    stock_across: Size | None = None
    stock_bore: Size | None = None
    stock_length: Size | None = None
    outside_stays: bool = False
    material: str = "carbon_steel"
    lift_kg: Number = Field(default=LIFT_KG, gt=0, le=1000)
    unit: Unit = "mm"

    @property
    def facing_mm(self) -> Decimal:
        """What is left for facing an end, mm."""
        return (self.facing or FACING[self.unit]).mm

    @property
    def skin_mm(self) -> Decimal:
        """What comes off all round for the skin, mm on radius."""
        return SKIN[self.surface][self.unit].mm


class BlankResult(WorksheetAnswer):
    """Length for all pieces and for one, the least across, how many the stock gives, whether it cleans up, and what it
    weighs.
    """

    blank_length: Size
    a_piece: Size
    least_across: Size
    pieces_of_stock: int | None = None
    cleans_up: bool | None = None
    weight_kg: float


@calculation(
    name="blank",
    title="The blank a part is made from",
    validity="Round parts turned from a bar or a tube; the stock straight enough to be held.",
    source="geometry; common practice, no source (what facing, skin and grip want)",
    example={"finished_length": "1.980 in", "finished_diameter": "1.375 in", "surface": "bright", "parting": "0.125 in",
        "grip": "0.75 in",
             "stock_across": "1.5 in", "stock_length": "12 in", "unit": "in"},
)  # fmt: skip
def blank(given: BlankInput) -> BlankResult:
    """Blank, stock and weight. Raises OutOfRange for allowances below nothing or a wall that is none, NotDefined for a
    material.

    Source: geometry: a round of diameter D is the circle within the flats; common practice, no source, for what is
    left.

    >>> found = blank(BlankInput(finished_length="50 mm", finished_diameter="30 mm", pieces=3, parting="3 mm",
    ...     grip="20 mm"))
    >>> str(found.blank_length), str(found.a_piece), str(found.least_across)
    ('183.8 mm', '54.6 mm', '30.8 mm')
    """
    _check(given)
    a_piece = given.finished_length.mm + 2 * given.facing_mm + given.parting.mm
    whole = a_piece * given.pieces + given.grip.mm
    across = given.finished_diameter.mm + 2 * given.skin_mm + given.oval_or_bent.mm
    if given.outside_stays and given.stock_across:
        across = given.stock_across.mm
    cleans = _cleans_up(given, across)
    kilograms = _weight_kg(given, float(whole), float(across))
    unit = given.unit
    count = None
    if given.stock_length:
        count = max(int(((given.stock_length.mm - given.grip.mm) / a_piece).to_integral_value(ROUND_FLOOR)), 0)
    return BlankResult(
        blank_length=Length(whole, unit),
        a_piece=Length(a_piece, unit),
        least_across=Length(across, unit),
        pieces_of_stock=count,
        cleans_up=cleans,
        weight_kg=kilograms,
        headline=show_sawn(whole, unit),
        headline_length=Length(whole, unit),
        headline_sawn=True,
        sentence=_sentence(given, across, count, cleans=cleans),
        facts=_facts(given, a_piece, across, kilograms, count),
        notes=_notes(given, count, cleans=cleans),
        cautions=(
            ["From here on it is lifted by two, or by a hoist; a licensed rigger where the shop wants one."]
            if kilograms > float(given.lift_kg)
            else []
        ),
        working=_working(given, a_piece, whole, across, kilograms),
    )


def _check(given: BlankInput) -> None:
    for name in ("facing", "parting", "grip", "oval_or_bent"):
        if (said := getattr(given, name)) is not None and said.mm < 0:
            raise OutOfRange("That is less than nothing.", "Leave it empty, or say what is left.", field=name)
    if (
        given.shape == "tube"
        and given.stock_bore
        and given.stock_across
        and given.stock_bore.mm >= given.stock_across.mm
    ):
        raise OutOfRange("The tube has no wall.", "Check its outside and its bore.", field="stock_bore")
    if given.shape == "tube" and given.stock_across and given.stock_bore is None:
        raise InputError("The bore of the tube is needed.", "Measure it at both ends.", field="stock_bore")
    if given.bore and given.bore.mm >= given.finished_diameter.mm:
        raise OutOfRange("The bore is as wide as the part.", "Check the two.", field="bore")


def _cleans_up(given: BlankInput, across: Decimal) -> bool | None:
    """Whether the stock there is gives the part: outside, and in a tube the bore as well; None where no stock was
    measured.
    """
    if given.stock_across is None:
        return None
    outside = given.stock_across.mm >= across
    if given.shape != "tube" or given.stock_bore is None:
        return outside
    within = given.bore.mm - 2 * given.skin_mm - given.oval_or_bent.mm if given.bore else Decimal(0)
    return outside and given.stock_bore.mm <= within


def area_mm2(shape: Shape, across_mm: float, bore_mm: float = 0.0) -> float:
    """The cross-section of stock (mm²) from its size across flats or its diameter (mm), and a tube's bore. Source:
    geometry.

    >>> round(area_mm2("hexagon", 10), 3), round(area_mm2("octagon", 10), 3)
    (86.603, 82.843)
    """
    match shape:
        case "round":
            return pi / 4 * across_mm**2
        case "square":
            return across_mm**2
        case "hexagon":
            return sqrt(3) / 2 * across_mm**2
        case "octagon":
            return 2 * (sqrt(2) - 1) * across_mm**2
        case "tube":
            return pi / 4 * (across_mm**2 - bore_mm**2)
        case _:
            assert_never(shape)


def corners_mm(shape: Shape, across_mm: Decimal) -> Decimal:
    """The circle (mm) that stock swings in: over its corners. Source: geometry.

    >>> corners_mm("square", Decimal(10)), corners_mm("round", Decimal(10))
    (Decimal('14.1421356'), Decimal('10'))
    """
    over = {"square": sqrt(2), "hexagon": 2 / sqrt(3), "octagon": sqrt(4 - 2 * sqrt(2))}
    return as_mm(float(across_mm) * over[shape]) if shape in over else across_mm


def _weight_kg(given: BlankInput, long_mm: float, across_mm: float) -> float:
    size = float(given.stock_across.mm) if given.stock_across else across_mm
    bore = float(given.stock_bore.mm) if given.stock_bore else 0.0
    return area_mm2(given.shape, size, bore) * long_mm * material_named(given.material).density_kg_m3 * 1e-9


def _sentence(given: BlankInput, across: Decimal, count: int | None, *, cleans: bool | None) -> str:
    pieces = "the piece" if given.pieces == 1 else f"{given.pieces} pieces"
    said = f"Long for {pieces}; at least {show_sawn(across, given.unit)} across."
    if cleans is False:
        return f"{said} The stock does not clean up."
    if count is not None and count < given.pieces:
        return f"{said} The stock gives {count} of {given.pieces}."
    return said


def _facts(given: BlankInput, a_piece: Decimal, across: Decimal, kilograms: float, count: int | None) -> list[Fact]:
    unit = given.unit
    facts = [
        Fact(name="A piece", length=Length(a_piece, unit), sawn=True),
        Fact(name="Stock, at least across", length=Length(across, unit), sawn=True),
        Fact(name="It weighs", words=show_weight(kilograms)),
    ]
    if given.shape in ("square", "hexagon", "octagon"):
        facts.append(
            Fact(
                name="It swings in",
                length=Length(corners_mm(given.shape, given.stock_across.mm if given.stock_across else across), unit),
            )
        )
    if count is not None and given.stock_length:
        facts += [
            Fact(name="Pieces from the stock", words=str(count)),
            Fact(name="Left of it", length=Length(given.stock_length.mm - count * a_piece, unit), sawn=True),
        ]
    return facts


def show_weight(weight_kg: float) -> str:
    """A weight in both units, to three figures. Source: none, wording; the pound is exact.

    >>> show_weight(2.5)
    '2.5 kg (5.51 lb)'
    """
    return f"{weight_kg:.3g} kg ({weight_kg / float(KG_PER_LB):.3g} lb)"


def _notes(given: BlankInput, count: int | None, *, cleans: bool | None) -> list[str]:
    notes = []
    if cleans is False:
        notes.append(
            "What can give: the surface that is only seen keeps its skin, true it to the low side, or take larger"
            " stock."
        )
    if count is not None and count < given.pieces:
        notes.append("Less grip, a narrower parting tool or the saw, or another bar.")
    if given.surface in ("cast", "flame_cut"):
        notes.append(
            "Get under the skin in the first cut: a chilled or scaled surface blunts a tool that only rubs on it."
        )
    return notes


def _working(given: BlankInput, a_piece: Decimal, whole: Decimal, across: Decimal, kilograms: float) -> list[Step]:
    unit = given.unit
    sizes = (
        f"{both(given.finished_length.mm, unit)} + 2 × {both(given.facing_mm, unit)} + {both(given.parting.mm, unit)}"
    )
    return [
        Step(
            name="A piece",
            formula="finished + facing of both ends + parting",
            values=sizes,
            result=both(a_piece, unit),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="Blank",
            formula="pieces × a piece + grip",
            values=f"{given.pieces} × {both(a_piece, unit)} + {both(given.grip.mm, unit)}",
            result=both(whole, unit),
            source=ARITHMETIC,
        ),
        Step(
            name="Across",
            formula="finished + 2 × skin + what is oval or bent",
            values=(
                f"{both(given.finished_diameter.mm, unit)} + 2 × {show_exact(given.skin_mm, unit)} + "
                f"{both(given.oval_or_bent.mm, unit)}"
            ),
            result=both(across, unit),
            source=COMMON_PRACTICE,
        ),
        Step(
            name="Weight",
            formula="cross-section × length × density",
            values=f"{material_named(given.material).title}, {material_named(given.material).density_kg_m3:.0f} kg/m³",
            result=show_weight(kilograms),
            source="geometry; densities: materials.csv, handbook values, recalled",
        ),
    ]
