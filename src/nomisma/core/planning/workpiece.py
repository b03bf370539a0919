"""The workpiece before an operation: how wide the stock is there, the face that is worked on, the hole a bore begins
with.
"""

from dataclasses import dataclass
from decimal import Decimal
from typing import assert_never

from nomisma.core.part.section import Section
from nomisma.core.planning.drilling import drills_before
from nomisma.core.planning.operations import Operation, cutting_of
from nomisma.core.planning.order import OrderOfWork, PlannedOperation, PlannedSetUp
from nomisma.core.quantity.length import Unit


@dataclass(frozen=True, slots=True)
class Workpiece:
    """The workpiece where an operation is done, before it, mm: across, across its face, how wide its hole is drilled,
    the hole in its face.

    `skin_mm`: all round, of a casting or the like that has the part's own shape already; none: a bar, as wide
    everywhere.
    """

    across_mm: Decimal
    faced_mm: Decimal
    drilled_mm: Decimal = Decimal(0)
    hole_in_face_mm: Decimal = Decimal(0)
    skin_mm: Decimal | None = None

    def diameter_before_mm(self, one: Operation) -> Decimal:
        """The diameter an operation begins from, mm. Source: geometry; a casting: its size and its skin (common
        practice, no source).

        >>> bar = Workpiece(Decimal(70), Decimal(70), Decimal(12))
        >>> casting = Workpiece(Decimal(182), Decimal(47), skin_mm=Decimal("1.5"))
        >>> rough = Operation("rough_turn", ("C",), Decimal(44), Decimal(16))
        >>> face = Operation("face")
        >>> bar.diameter_before_mm(rough), casting.diameter_before_mm(rough), casting.diameter_before_mm(face)
        (Decimal('70'), Decimal('47.0'), Decimal('47'))
        """
        match one.kind:
            case "face" | "part_off" | "centre" | "chamfer":
                return self.faced_mm
            case "rough_bore" | "bore" | "ream" | "drill" | "centre_drill":
                return self.drilled_mm
            case "thread" | "thread_inside" | "tap" | "knurl" | "undercut" | "face_groove":
                return one.diameter_mm or self.across_mm
            case "rough_turn" | "turn" | "taper" | "groove" | "v_groove" | "deburr":
                if self.skin_mm is None or one.diameter_mm is None:
                    return self.across_mm
                return one.diameter_mm + 2 * self.skin_mm
            case _:
                assert_never(one.kind)


@dataclass(frozen=True, slots=True)
class StockAsHeld:
    """The stock a plan begins with, mm: across, the bore of a tube (0: solid), its skin all round (none: a bar, as wide
    everywhere).
    """

    across_mm: Decimal
    tube_bore_mm: Decimal = Decimal(0)
    skin_mm: Decimal | None = None


def workpiece_before(
    one: PlannedOperation, order: OrderOfWork, section: Section, stock: StockAsHeld, unit: Unit
) -> Workpiece:
    """The workpiece before one operation of an order of work, mm; drills in `unit`. Source: geometry; drills:
    core/cutting/hole.py.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.planning.order import order_of_work
    >>> from nomisma.core.part.section import section_of
    >>> lines = FeatureLinesInput(text="od 60 x 20\\nbore 30 thru", unit="mm")
    >>> ring = [lettered(one) for one in feature_lines(lines).features]
    >>> order = order_of_work(ring, stock="bar")
    >>> last_face = [one for one in order.operations if one.operation.kind == "face"][-1]
    >>> found = workpiece_before(last_face, order, section_of(ring), StockAsHeld(Decimal(65)), "mm")
    >>> found.drilled_mm, found.hole_in_face_mm
    (Decimal('29'), Decimal('30.0'))
    """
    here = next(each for each in order.set_ups if one in each.operations)
    hole = stock.tube_bore_mm or _hole_in_face_mm(one, here, order, section)
    drilled = stock.tube_bore_mm or _drilled_mm(order, unit)
    faced = stock.across_mm if stock.skin_mm is None else _face_mm(here, section) + 2 * stock.skin_mm
    return Workpiece(stock.across_mm, faced, drilled, hole, stock.skin_mm)


def _drilled_mm(order: OrderOfWork, unit: Unit) -> Decimal:
    """How wide the last drill leaves a hole; 0 where nothing is drilled."""
    drills = [
        one.operation
        for one in order.operations
        if one.operation.kind == "drill" and one.operation.diameter_mm is not None
    ]
    sizes = (
        drill.size.mm
        for one in drills
        for drill in drills_before(one.diameter_mm or Decimal(0), unit, one.hole, one.thread)
    )
    return max(sizes, default=Decimal(0))


def _hole_in_face_mm(one: PlannedOperation, here: PlannedSetUp, order: OrderOfWork, section: Section) -> Decimal:
    """The hole in the face that is faced or parted: of a bore that was cut before and comes out there."""
    if one.operation.kind not in ("face", "part_off"):
        return Decimal(0)
    parts = one.operation.kind == "part_off"
    at_mm = section.length_mm if (here.set_up.worked == "right") != parts else Decimal(0)
    done = [each for each in order.set_ups if each.number < here.number or (parts and each is here)]
    bores = [each for one in done for each in one.set_up.surfaces if cutting_of(each.kind).is_hole]
    return max((each.diameter_mm for each in bores if at_mm in (each.from_mm, each.to_mm)), default=Decimal(0))


def _face_mm(here: PlannedSetUp, section: Section) -> Decimal:
    """The outside at the end that is worked on."""
    at_right = here.set_up.worked == "right"
    end = (
        max(section.outside, key=lambda step: step.to_mm)
        if at_right
        else min(section.outside, key=lambda step: step.from_mm)
    )
    return end.diameter_mm
