"""A keyseat: how deep from the edge, from the top of the round, and as measured from the far side."""

from decimal import Decimal

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_exact
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

GEOMETRY = "geometry: the flat of width w lies (D − √(D² − w²))/2 under the top"


class KeyseatInput(Model):
    """A shaft, the key's width and height; `in_shaft`: how much of its height goes into the shaft (empty: half).
    `clearance` over the key.
    """

    shaft: Size
    width: Size
    height: Size
    in_shaft: Size | None = None
    clearance: Difference = Length(Decimal(0))
    unit: Unit = "mm"


class KeyseatResult(WorksheetAnswer):
    """Depth at the key's side and from the top, the size over the far side, and over the key's seat in the hub."""

    at_side: Size
    from_top: Size
    over_far_side: Size
    hub_over: Size


@calculation(
    name="keyseat",
    title="Depth of a keyseat",
    validity="Parallel keys along the axis of a round shaft; the key's own standard says its height and tolerances.",
    source=GEOMETRY,
    example={"shaft": "1 in", "width": "0.25 in", "height": "0.25 in", "clearance": "0.005 in", "unit": "in"},
)
def keyseat(given: KeyseatInput) -> KeyseatResult:
    """Depths of a keyseat in shaft and hub. Raises OutOfRange for a key wider than the shaft, or deeper than half of
    it.

    Source: geometry.

    >>> found = keyseat(KeyseatInput(shaft="25 mm", width="7 mm", height="7 mm"))
    >>> str(found.from_top), str(found.over_far_side)
    ('4 mm', '21 mm')
    """
    shaft, width, unit = given.shaft.mm, given.width.mm, given.unit
    if width >= shaft:
        raise OutOfRange("The key is as wide as the shaft.", "Check the two.", field="width")
    side = given.in_shaft.mm if given.in_shaft else given.height.mm / 2
    if side >= given.height.mm:
        raise OutOfRange("The whole key would be in the shaft.", "Less of it.", field="in_shaft")
    drop = ((shaft - (shaft**2 - width**2).sqrt()) / 2).quantize(Decimal("1e-9"))
    top = (drop + side).normalize() + 0
    if top >= shaft / 2:
        raise OutOfRange("The seat would reach the middle of the shaft.", "A smaller key.", field="height")
    far = shaft - top
    hub = far + given.height.mm + given.clearance.mm
    return KeyseatResult(
        at_side=Length(side, unit),
        from_top=Length(top, unit),
        over_far_side=Length(far, unit),
        hub_over=Length(hub, unit),
        headline=show_exact(top, unit),
        headline_length=Length(top, unit),
        sentence="Deep, from where the cutter touches the top of the round.",
        facts=[
            Fact(name="At the key’s side", length=Length(side, unit)),
            Fact(name="From its floor to the far side", length=Length(far, unit)),
            Fact(name="In the hub, from the far side to the top of its slot", length=Length(hub, unit)),
        ],
        steps=["Measure from the floor to the far side with a micrometer; the top of the round is gone."],
        working=[
            Step(
                name="Drop of the flat",
                formula="(D − √(D² − w²))/2",
                values=f"D {both(shaft, unit)}, w {both(width, unit)}",
                result=both(drop, unit, decimals=5),
                source=GEOMETRY,
            ),
            Step(
                name="Half in the shaft",
                formula="as said, or half the key’s height",
                result=both(side, unit),
                source=COMMON_PRACTICE,
            ),
        ],
    )
