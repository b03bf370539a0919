"""A centre drill for a wanted mouth: which one, how deep, and how fast by its pilot."""

from dataclasses import dataclass
from decimal import Decimal
from math import pi

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact, show_surface_speed
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import MM_PER, Length, Unit
from nomisma.core.table import Row, loaded, rows_of
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer

CONE = Decimal("0.8660254")
"""How deep a 60° cone goes for each unit its mouth grows on diameter: 1/(2·tan 30°). Source: geometry."""
HALF_UP = Decimal("0.5")
"""How far up its cone a centre drill is let in. Source: common practice, no source."""
MOUTH_SHARE = Decimal("0.25")
"""The mouth for a piece of some diameter where nobody says one. Source: common practice, no source (a quarter to a
third).
"""


@dataclass(frozen=True, slots=True)
class CentreDrill:
    """One size: its name and unit, its pilot and its body in mm."""

    name: str
    unit: Unit
    pilot_mm: Decimal
    body_mm: Decimal

    @property
    def usual_mouth_mm(self) -> Decimal:
        """The mouth when it is let in half way up its cone, mm."""
        return self.pilot_mm + HALF_UP * (self.body_mm - self.pilot_mm)


class CentreDrillRow(Row):
    """One size as its table has it, in its unit."""

    name: str
    unit: Unit
    pilot: Decimal
    body: Decimal


@loaded
def centre_drills() -> tuple[CentreDrill, ...]:
    """Every size, sizes in mm, small to large by unit. Source: centre_drills.csv (ASME B94.11M, ISO 866; recalled).

    >>> centre_drills()[2].name, centre_drills()[2].body_mm
    ('no. 3', Decimal('6.350'))
    """
    return tuple(
        CentreDrill(row.name, row.unit, row.pilot * MM_PER[row.unit], row.body * MM_PER[row.unit])
        for row in rows_of("lengths", "centre_drills.csv", CentreDrillRow)
    )


class CentreDrillInput(Model):
    """The mouth wanted, or the work's diameter (a quarter of it is taken); the surface speed in m/min."""

    mouth: Size | None = None
    work: Size | None = None
    surface_speed_m_min: Number = Field(default=Decimal(20), gt=0, le=300)
    unit: Unit = "mm"


class CentreDrillResult(WorksheetAnswer):
    """The drill, how deep its tip goes for the mouth, and the spindle speed by its pilot."""

    drill: str
    mouth: Size
    depth: Size
    rpm: int


@calculation(
    name="centre_drill",
    title="A centre drill",
    validity="Centre holes of 60° for centres; plain centre drills.",
    source="ASME B94.11M, ISO 866 (recalled); geometry of a 60° cone; common practice, no source (half way up)",
    example={"work": "1 in", "unit": "in"},
)
def centre_drill(given: CentreDrillInput) -> CentreDrillResult:
    """The drill whose usual mouth is nearest, and its depth. Raises OutOfRange where none has such a mouth.

    Source: geometry: depth = pilot + (mouth − pilot) × 0.866; the pilot about as long as it is thick.

    >>> found = centre_drill(CentreDrillInput(mouth="0.25 in", unit="in")); found.drill
    'no. 4'
    """
    unit = given.unit
    mouth = given.mouth.mm if given.mouth else given.work.mm * MOUTH_SHARE if given.work else None
    if mouth is None:
        raise OutOfRange("Neither a mouth nor the work is given.", "Give one of the two.", field="mouth")
    if given.work and mouth >= given.work.mm:
        raise OutOfRange("The mouth is as large as the work.", "A smaller one.", field="mouth")
    able = [one for one in centre_drills() if one.unit == unit and one.pilot_mm < mouth < one.body_mm]
    if not able:
        raise OutOfRange(
            f"No centre drill of the table makes a mouth of {show_exact(mouth, unit)}.", "Another mouth.", field="mouth"
        )
    best = min(able, key=lambda one: abs(one.usual_mouth_mm - mouth))
    depth = best.pilot_mm + (mouth - best.pilot_mm) * CONE
    rpm = round(float(given.surface_speed_m_min) * 1000 / (pi * float(best.pilot_mm)))
    return CentreDrillResult(
        drill=best.name,
        mouth=Length(mouth, unit),
        depth=Length(depth, unit),
        rpm=rpm,
        headline=best.name,
        sentence=(
            f"Its tip {show_exact(depth, unit)} deep gives a mouth of {show_exact(mouth, unit)}; up to {rpm} rpm by its"
            " pilot."
        ),
        facts=[
            Fact(name="Depth of its tip", length=Length(depth, unit)),
            Fact(name="Mouth", length=Length(mouth, unit)),
            Fact(name="Pilot", length=Length(best.pilot_mm, unit)),
            Fact(name="Speed by the pilot", words=f"{rpm} rpm, or the fastest there is below"),
        ],
        table=AnswerTable(
            head=["Drill", "Pilot", "Body", "Mouth half way up"],
            rows=[
                [
                    Fact(words=one.name),
                    *(Fact(length=Length(mm, unit)) for mm in (one.pilot_mm, one.body_mm, one.usual_mouth_mm)),
                ]
                for one in centre_drills()
                if one.unit == unit
            ],
        ),
        steps=[
            "In and out for the chips, oil; a broken pilot stays in the work.",
            "It makes a seat for a centre: to start a drill, a spotting drill.",
        ],
        working=[
            Step(
                name="Depth",
                formula="pilot + (mouth − pilot) × 0.866",
                values=f"{both(best.pilot_mm, unit)} + ({both(mouth, unit)} − {both(best.pilot_mm, unit)}) × 0.866",
                result=both(depth, unit),
                source="geometry of a 60° cone",
            ),
            Step(
                name="Speed",
                formula="surface speed/(π·pilot)",
                values=f"{show_surface_speed(float(given.surface_speed_m_min), unit)}",
                result=f"{rpm} rpm",
                source=COMMON_PRACTICE,
            ),
        ],
    )
