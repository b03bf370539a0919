"""A tool off centre height: by how much, from the pip it leaves, and what that does to a diameter."""

from decimal import Decimal
from math import sqrt
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

GEOMETRY = "geometry: the radius is √(reach² + height²)"


class ToolHeightInput(Model):
    """The pip's diameter when a face is cut to its middle (above centre it is rubbed, below it stands); or the height
    itself.

    `at`: the diameter that was measured when the dial was set; `to`: the one wound to from there.
    """

    pip: Size | None = None
    height: Size | None = None
    side: Literal["below", "above"] = "below"
    at: Size
    to: Size
    unit: Unit = "mm"


class ToolHeightResult(WorksheetAnswer):
    """How far the tool is off centre, what diameter comes of the dial's, and how much that is off."""

    height: Size
    comes_out: Size
    off: Difference


@calculation(
    name="tool_height",
    title="A tool off centre height",
    validity="Turning and facing; both diameters larger than twice the height.",
    source=GEOMETRY,
    example={"pip": "0.060 in", "at": "1.000 in", "to": "0.250 in", "unit": "in"},
)
def tool_height(given: ToolHeightInput) -> ToolHeightResult:
    """Height off centre and the diameter that comes of it. Raises OutOfRange where the tool cannot reach that diameter.

    Source: geometry: half the pip is the height; radius = √((√(R² − h²) − wound in)² + h²).

    >>> found = tool_height(ToolHeightInput(pip="2 mm", at="20 mm", to="10 mm"))
    >>> str(found.height), round(float(found.off.mm), 4)
    ('1 mm', 0.0998)
    """
    unit = given.unit
    height = given.height.mm if given.height else given.pip.mm / 2 if given.pip else Decimal(0)
    if height <= 0:
        raise OutOfRange("How far the tool is off is not said.", "Give the pip, or the height.", field="pip")
    if 2 * height >= min(given.at.mm, given.to.mm):
        raise OutOfRange("So far off centre the tool never reaches that diameter.", "Set the tool first.", field="to")
    h, start = float(height), float(given.at.mm) / 2
    reach = sqrt(start**2 - h**2) - float(given.at.mm - given.to.mm) / 2
    comes = as_mm(2 * sqrt(reach**2 + h**2))
    off = comes - given.to.mm
    way = "larger" if off > 0 else "smaller"
    return ToolHeightResult(
        height=Length(height, unit),
        comes_out=Length(comes, unit),
        off=Length(off, unit),
        headline=show_small(height, unit),
        headline_length=Length(height, unit),
        sentence=(
            f"So far {given.side} centre. Wound from {given.at} to {given.to}, it comes out"
            f" {show_small(abs(off), unit)} {way}."
        ),
        facts=[
            Fact(name="Comes out at", length=Length(comes, unit)),
            Fact(name="Off by, on diameter", length=Length(off, unit)),
        ],
        steps=[
            (
                f"{'Raise' if given.side == 'below' else 'Lower'} the tool by {show_small(height, unit)}, face to the"
                " middle again: no pip is left."
            ),
            "Lock the holder’s nut, then look once more.",
        ],
        cautions=[
            "Spindle stopped before the tool is raised or lowered.",
            "Above centre the tool rubs under its edge; below, small work may climb over it.",
        ],
        working=[
            Step(name="Height", formula="half the pip", result=both(height, unit), source=GEOMETRY),
            Step(
                name="Comes out at",
                formula="2·√((√(R² − h²) − wound in)² + h²)",
                values=f"R {start:.4f}, h {h:.4f}, wound in {float(given.at.mm - given.to.mm) / 2:.4f} mm",
                result=both(comes, unit, decimals=5),
                source=GEOMETRY,
            ),
        ],
    )
