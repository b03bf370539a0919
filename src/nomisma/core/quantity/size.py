"""The `size` calculation: what a piece of shop writing says, in inch and metric."""

from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import NotDefined
from nomisma.core.model import Model
from nomisma.core.quantity.callout import Chamfer, FitCode, InchFitCode, Limits, parse_callout
from nomisma.core.quantity.display import nearest_fraction, show, show_exact
from nomisma.core.quantity.drills import drills_of_size
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, Step


class SizeInput(Model):
    """A size, a size with limits, a drill or a chamfer; `unit` for numbers that name none."""

    text: str = Field(examples=["7/8", "0.800 +.004/-.000", "#32"])
    unit: Unit | None = None


class SizeResult(Model):
    """What was understood. For limits, `size` is the nominal (or their middle); for a chamfer, the leg along the axis.

    `drills`: the drills of just that size."""

    meaning: Literal["size", "limits", "chamfer"]
    size: Size
    inch: str
    metric: str
    drills: list[str]
    nearest_64th: str
    above_64th: Difference
    lower: Size | None = None
    upper: Size | None = None
    angle_deg: Number | None = None
    working: list[Step]


@calculation(
    name="size",
    title="What a size says, inch and metric",
    validity="Above 0 up to 10 000 mm.",
    source="the inch of 25.4 mm exactly: ISO 80000-3; drill names: ASME B94.11M",
    example={"text": "7/8"},
)
def size(given: SizeInput) -> SizeResult:
    """Read shop writing. Raises InputError with the way to write it. Source: ISO 80000-3 (1 in = 25.4 mm exactly).

    >>> size(SizeInput(text="#32")).metric
    '2.9464 mm'
    """
    callout = parse_callout(given.text, given.unit)
    if isinstance(callout, FitCode | InchFitCode):
        raise NotDefined(
            f"“{given.text[:40]}” is a fit code.", "Ask for the fit instead.", field="text", value=given.text
        )
    if isinstance(callout, Limits):
        middle = callout.lower.with_mm((callout.lower.mm + callout.upper.mm) / 2)
        return _result("limits", callout.nominal or middle, callout.lower, callout.upper)
    if isinstance(callout, Chamfer):
        return _result("chamfer", callout.leg).model_copy(update={"angle_deg": callout.angle_deg})
    return _result("size", callout)


def _result(
    meaning: Literal["size", "limits", "chamfer"],
    length: Length,
    lower: Length | None = None,
    upper: Length | None = None,
) -> SizeResult:
    fraction, off = nearest_fraction(length.mm)
    step = Step(
        name="Inch and millimetre",
        formula="1 in = 25.4 mm, exactly",
        values=str(length),
        result=f"{show_exact(length.mm, 'in')} = {show_exact(length.mm, 'mm')}",
        source="ISO 80000-3",
    )
    near = Step(
        name="Nearest 64th",
        formula="the nearest rule fraction, and how far above it the size is",
        values=f"{fraction} in",
        result=show(off, "in", signed=True),
        source=ARITHMETIC,
    )
    return SizeResult(
        meaning=meaning,
        size=length,
        inch=show_exact(length.mm, "in"),
        metric=show_exact(length.mm, "mm"),
        drills=drills_of_size(length.mm),
        nearest_64th=f"{fraction} in",
        above_64th=Length(off, "in"),
        lower=lower,
        upper=upper,
        working=[step, near],
    )
