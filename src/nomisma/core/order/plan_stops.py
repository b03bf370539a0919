"""The stops of a set-up from its plan: a line a step for the turret, counted from the face that is worked from."""

from collections.abc import Callable, Iterator
from decimal import Decimal

from nomisma.core.cutting.amount import DialReads
from nomisma.core.metal.cut import Cut
from nomisma.core.order.order import PlannedOperation, PlannedSetUp
from nomisma.core.quantity.length import Unit, in_unit

RpmOf = Callable[[PlannedOperation], float | None]
"""How fast an operation is run, rpm; none by hand."""
FEWEST_STOPS = 2
_FINEST = {"mm": Decimal("0.001"), "in": Decimal("0.0001")}


def stop_lines(
    one: PlannedSetUp, length_mm: Decimal, unit: Unit, rpm_of: RpmOf, cross_reads: DialReads = "diameter"
) -> str:
    """What runs against a stop of the carriage in a set-up of a part so long (mm), a line a cut in the order of the
    work, sizes in `unit`, as core/lengths/stops.py reads them; empty where fewer than two places are stopped at.

    A bar is drawn out first; roughing stops short of its mark. `rpm_of`: how fast each operation is run; `cross_reads`:
    whether the cross-slide's dial shows diameters or radii.
    Source: geometry; common practice, no source.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.order import order_of_work
    >>> lines = FeatureLinesInput(text="od 20 x 30\\nod 30 x 10", unit="mm")
    >>> plan = order_of_work([lettered(one) for one in feature_lines(lines).features])
    >>> stop_lines(plan.set_ups[0], plan.piece.length_mm, "mm", lambda one: 310).splitlines()[1:3]
    ['Face, tool 1, at 0.000 mm, 310 rpm', 'Rough turn A B, tool 1, at 30.000 mm, dial 20.750 mm, 310 rpm, short']
    """
    face_mm = one.set_up.face_mm(length_mm)
    tools = list(
        dict.fromkeys(each.operation.tool for each in one.operations if any(cut.traits.is_stopped for cut in each.cuts))
    )
    lines = [*_drawn_out(one, face_mm, unit)]
    places = set()
    for each in one.operations:
        for cut in each.cuts:
            if not cut.traits.is_stopped:
                continue
            at = abs(_ends_mm(cut, one) - face_mm)
            places.add(at)
            name = each.operation.title.replace(",", "")
            name = f"{name} by its far corner" if cut.kind == "part_off" else name
            tool = f"tool {tools.index(each.operation.tool) + 1}"
            lines.append(", ".join([name, tool, *_said(cut, at, unit, rpm_of(each), cross_reads)]))
    return "\n".join(dict.fromkeys(lines)) if len(places) >= FEWEST_STOPS else ""


def _ends_mm(cut: Cut, one: PlannedSetUp) -> Decimal:
    """Where the carriage stands at the end of a cut: roughing at the mark of the cut that finishes it."""
    finished = [
        each
        for other in one.operations
        for each in other.cuts
        if each.traits.finishes and set(each.letters) & set(cut.letters) and each.inside == cut.inside
    ]
    last = finished[0] if cut.traits.roughs and finished else cut
    if last.kind == "face":
        return last.to_mm
    return last.high_mm if one.set_up.worked == "left" else last.low_mm


def _drawn_out(one: PlannedSetUp, face_mm: Decimal, unit: Unit) -> Iterator[str]:
    """A bar that is parted from is drawn out at the stop of the face, with what is faced off before it: two stops so
    near would not stand beside each other.
    """
    before = one.set_up.before
    if before is None or not any(cut.traits.takes == "piece" for each in one.operations for cut in each.cuts):
        return
    end_mm = before.left_mm if one.set_up.worked == "left" else before.right_mm
    yield f"Stock out with {_size(abs(end_mm - face_mm), unit)} to face off, at {_size(Decimal(0), unit)}"


def _said(cut: Cut, at: Decimal, unit: Unit, rpm: float | None, cross_reads: DialReads) -> Iterator[str]:
    yield f"at {_size(at, unit)}"
    if cut.after_mm and cut.traits.takes not in ("face", "piece"):
        shows = cut.after_mm / 2 if cross_reads == "radius" else cut.after_mm
        yield f"dial {_size(shows, unit)}"
    if rpm:
        yield f"{rpm:.0f} rpm"
    if cut.traits.roughs:
        yield "short"


def _size(mm: Decimal, unit: Unit) -> str:
    return f"{in_unit(mm, unit).quantize(_FINEST[unit]):f} {unit}"
