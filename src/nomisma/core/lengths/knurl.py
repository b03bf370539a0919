"""A knurl's blank: round which a whole number of teeth goes, and how far the knurl stands over it."""

from decimal import Decimal
from math import ceil, cos, floor, pi, radians
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

Pattern = Literal["straight", "slanted", "diamond"]
PATTERN_WORDS: dict[Pattern, str] = {"straight": "straight", "slanted": "slanted one way", "diamond": "diamond"}
GEOMETRY = "geometry: n = π·d·cos(slant)/pitch teeth go round a blank d"
GROWTH = "geometry: the metal that is pressed out of the grooves stands over the blank; a 90° tooth, full, none lost"
STANDS_OVER: dict[Pattern, Decimal] = {
    "straight": Decimal(1) / 2,
    "slanted": Decimal(1) / 2,
    "diamond": Decimal(2) / 3,
}
"""How far a full knurl stands over its blank on diameter, in pitches. A 90° tooth is half a pitch high: of a ridge half
of that stands over the blank, of a pyramid two thirds. Source: geometry.
"""
FEWEST_TEETH = 12
"""Fewer teeth round a blank are no knurl. Source: this tool's own choice."""
USUAL_SLANT_DEG = Decimal(30)
"""How far the teeth of a slanted or diamond wheel usually lean. Source: common practice, no source."""


class KnurlInput(Model):
    """`over`: what the finished knurl is to measure; `pitch` of the wheel, from tooth to tooth square to them, or how
    many go `per_inch`.

    `slant_deg`: how far the teeth lean from the axis; of a straight knurl it is not asked.
    """

    over: Size
    pattern: Pattern = "diamond"
    pitch: Size | None = None
    per_inch: Number | None = Field(default=None, gt=4, le=130)
    slant_deg: Number = Field(default=USUAL_SLANT_DEG, ge=0, le=60)
    unit: Unit = "mm"


class KnurlResult(WorksheetAnswer):
    """The blank to turn, how many teeth go round it, and what a full knurl on it measures; both whole numbers near."""

    blank: Size
    teeth: int
    over: Size
    pitch: Size
    other_blank: Size


@calculation(
    name="knurl",
    title="The blank of a knurl",
    validity="Pressed knurls with wheels of 90° teeth; a cut knurl does not grow.",
    source=f"{GEOMETRY}; {GROWTH}",
    example={"over": "25 mm", "pattern": "diamond", "pitch": "1 mm", "unit": "mm"},
)
def knurl(given: KnurlInput) -> KnurlResult:
    """The blanks a whole number of teeth goes round, nearest to what the knurl is to measure. Raises OutOfRange without
    a pitch, or where fewer than a dozen teeth would go round.

    Source: geometry.

    >>> found = knurl(KnurlInput(over="25 mm", pattern="straight", pitch="1 mm"))
    >>> found.teeth, str(found.blank)
    (77, '24.5099 mm')
    """
    pitch_mm, unit = _pitch_mm(given), given.unit
    slant = 0.0 if given.pattern == "straight" else float(given.slant_deg)
    round_mm = pitch_mm / Decimal(repr(cos(radians(slant))))
    grows_mm = STANDS_OVER[given.pattern] * pitch_mm
    wanted_mm = given.over.mm - grows_mm
    count = float(wanted_mm) * pi / float(round_mm)
    if count < FEWEST_TEETH:
        raise OutOfRange("Too few teeth would go round it.", "A finer pitch, or a larger diameter.", field="over")
    near = sorted({floor(count), ceil(count)}, key=lambda teeth: abs(teeth - count))
    blanks = [(teeth, as_mm(teeth * float(round_mm) / pi).quantize(Decimal("0.0001"))) for teeth in near]
    (teeth, blank_mm), other_mm = blanks[0], blanks[-1][1]
    over_mm = (blank_mm + grows_mm).quantize(Decimal("0.0001"))
    return KnurlResult(
        blank=Length(blank_mm, unit),
        teeth=teeth,
        over=Length(over_mm, unit),
        pitch=Length(pitch_mm, unit),
        other_blank=Length(other_mm, unit),
        headline=show_exact(blank_mm, unit),
        headline_length=Length(blank_mm, unit),
        sentence=f"Turn the blank to that: {teeth} teeth go round it, and the wheel falls into its own marks again.",
        table=AnswerTable(
            head=["Teeth", "Blank", "Over it, at most"],
            rows=[
                [Fact(words=str(number)), Fact(length=Length(mm, unit)), Fact(length=Length(mm + grows_mm, unit))]
                for number, mm in sorted(blanks)
            ],
        ),
        facts=[
            Fact(name="Pitch round the blank", length=Length(as_mm(float(round_mm)).quantize(Decimal("0.0001")), unit)),
            Fact(name="A full knurl stands over its blank, on diameter, by at most", length=Length(grows_mm, unit)),
        ],
        notes=["Try it on scrap of the same stuff: how far it really stands over depends on how full it is pressed."],
        steps=[
            "Turn the blank, break its edges: they crumble under the wheel.",
            "Slow, with oil, wheel square to the work; press in hard at once over part of the wheel, then feed.",
            "After one turn stop and look: where the marks are doubled, start again a little further along, or turn the"
            " blank a hair smaller.",
        ],
        cautions=["Spindle stopped before the marks are looked at or brushed: the wheel draws fingers and cloth in."],
        working=[
            Step(
                name="Over the blank",
                formula="pitch/2 for ridges, 2/3 pitch for diamonds",
                values=f"pitch {both(pitch_mm, unit)}",
                result=both(grows_mm, unit),
                source=GROWTH,
            ),
            Step(
                name="Teeth",
                formula="π·d·cos(slant)/pitch, the nearest whole number",
                values=f"d {both(wanted_mm, unit)}, slant {slant:g}°",
                result=f"{count:.3f}, so {teeth}",
                source=GEOMETRY,
            ),
            Step(
                name="Blank",
                formula="teeth·pitch/(π·cos(slant))",
                result=both(blank_mm, unit),
                source=f"{GEOMETRY}; a whole number of teeth: {COMMON_PRACTICE}",
            ),
        ],
    )


def _pitch_mm(given: KnurlInput) -> Decimal:
    if given.pitch is not None:
        return given.pitch.mm
    if given.per_inch is None:
        raise OutOfRange("No pitch is given.", "The wheel’s pitch, or its teeth to the inch.", field="pitch")
    return (Decimal("25.4") / given.per_inch).quantize(Decimal("1e-9"))
