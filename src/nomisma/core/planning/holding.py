"""How a set-up is held: the ways that come into question, in order, with reasons and what each costs in trueness."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Annotated, Literal

from nomisma.core.cutting.deflection import DeflectionInput, deflection
from nomisma.core.errors import NomismaError
from nomisma.core.metal.cut import Way, Workholding
from nomisma.core.metal.run import run_set_up
from nomisma.core.order.order import OrderOfWork
from nomisma.core.order.set_ups import SetUp
from nomisma.core.planning.blank import Shape
from nomisma.core.quantity.length import Length
from nomisma.core.table import Row, loaded, parted_by, rows_of

OVERHANG_STEADY = Decimal(12)
"""Beyond so many diameters a steady is wanted. Source: common
practice, no source.
"""
THIN_WALL = Decimal("0.08")
"""A wall thinner than this share of the diameter is bent by jaws. Source: common practice, no source."""


ReadAs = Literal["swing", "jaws", "rounds"]
FarEnd = Literal["free", "centre", "steady"]
BY_HAND_ROUND = "The spindle was turned by hand, all the way round: nothing touches."
FIRST_START = "First start slow, standing clear of the chuck’s plane, below the speed marked on it."
ALWAYS = ("The key is out of the chuck; indicator and parallels are out.", BY_HAND_ROUND, FIRST_START)
"""What is said before the first start whatever holds the work. Source: common practice, no source."""


class Holding(Row):
    """One way of holding: what it is called, how far work may run out so (µm, total indicator reading), what it is for.

    `read_as`: how its runout is read; `far_end`: what holds the end away from the chuck.

    `first_start`: what is looked at before the first start, in order. `if_out`: what is done where it runs out more
    than it may.
    """

    name: str
    title: str
    least_um: Decimal
    most_um: Decimal
    repeats: bool
    read_as: ReadAs
    far_end: FarEnd
    for_what: str
    mind: str
    first_start: Annotated[tuple[str, ...], parted_by(";")]
    if_out: Annotated[tuple[str, ...], parted_by(";")]

    @property
    def before_first_start(self) -> tuple[str, ...]:
        """Everything that is confirmed before the first start, in sentences."""
        return (*(f"{one[0].upper()}{one[1:]}." for one in self.first_start), *ALWAYS)


@loaded
def holdings() -> dict[str, Holding]:
    """Every way by name, what is tried first in front; runout in µm. Source: holding.csv (common practice, no source).

    >>> holdings()["three_jaw"].most_um
    Decimal('130')
    """
    return {row.name: row for row in rows_of("planning", "holding.csv", Holding)}


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldWork:
    """What is to be held, mm: its diameter where it is gripped, how far it stands out, its wall (none: solid), its
    section, how many pieces.

    `runs_with`: whether it must run with what was finished before; `finished`: whether a finished surface is gripped.
    """

    diameter_mm: Decimal
    stands_out_mm: Decimal
    wall_mm: Decimal | None = None
    shape: Shape = "round"
    pieces: int = 1
    runs_with: bool = False
    finished: bool = False

    @property
    def is_thin(self) -> bool:
        """Whether jaws would bend it."""
        return self.wall_mm is not None and self.wall_mm < THIN_WALL * self.diameter_mm

    @property
    def is_flat(self) -> bool:
        """Whether it is wide and stands out little: jaws hold it by a step alone."""
        return self.stands_out_mm < self.diameter_mm / 2

    @property
    def diameters_out(self) -> Decimal:
        """How many of its diameters it stands out."""
        return self.stands_out_mm / self.diameter_mm if self.diameter_mm > 0 else Decimal(0)


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A way that comes into question, and why."""

    holding: Holding
    why: str


def other_ways(set_up: SetUp, order: OrderOfWork, work: HeldWork) -> list[Suggestion]:
    """The other ways a set-up may be held on the same grip, each run on the metal before it is named; sizes in mm.
    Source: common practice, no source.

    >>> from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
    >>> from nomisma.core.order.order import order_of_work
    >>> pin = [lettered(one) for one in feature_lines(FeatureLinesInput(text="od 20 x 30", unit="mm")).features]
    >>> plan = order_of_work(pin)
    >>> work = HeldWork(diameter_mm=Decimal(20), stands_out_mm=Decimal(37), pieces=12)
    >>> [one.holding.name for one in other_ways(plan.set_ups[0].set_up, plan, work)]
    ['collet', 'four_jaw']
    """
    held = set_up.workholding
    if held is None or held.grip is None or order.drawing is None or set_up.before is None:
        return []
    found = []
    for name, why in _others(held, work):
        grip = replace(held.grip, against="" if name not in ("soft_jaws", "faceplate") else held.grip.against)
        otherwise = replace(held, way=name, grip=grip)
        if name == "faceplate":  # it counts from the work's own end at the plate
            otherwise = replace(otherwise, stands_out_mm=set_up.before.right_mm - set_up.before.left_mm)
        if name == held.way or not _runs(otherwise, set_up, order):
            continue
        found.append(Suggestion(holdings()[name], why))
    return found


def _runs(held: Workholding, set_up: SetUp, order: OrderOfWork) -> bool:
    assert order.drawing is not None, "a plan that runs has a drawing"
    assert set_up.before is not None, "a plan that runs has its workpiece"
    work, drawing = set_up.before, order.drawing
    if held.worked == "left":
        held, drawing = held.mirrored(drawing.length_mm), drawing.mirrored()
        work = work.mirrored(drawing.length_mm)
    return not run_set_up(held, work, drawing).complaints


def _others(held: Workholding, work: HeldWork) -> Iterator[tuple[Way, str]]:
    """What comes into question beside the plan's own way, in order."""
    if held.way in ("expanding_mandrel", "mandrel", "bonded_mandrel"):
        yield "mandrel", "pressed in its bore, between centres: the truest"
        yield "bonded_mandrel", "where no press may be on it"
        return
    is_faced = any(cut.kind == "face" for cut in held.cuts)  # clamps would stand on what is cut
    if held.grip is not None and held.grip.against == "step" and work.is_flat and not is_faced:
        yield "faceplate", "wide and flat: bolts through its hole, or clamps on a rim that is not cut now; balance it"
    if work.is_thin:
        yield "bonded_mandrel", "thin: held without being squeezed"
    if work.finished:
        runs = "a finished surface is gripped, and it must run with what was cut before"
        yield (
            "four_jaw",
            f"{runs}; strips under the jaws, by the needle"
            if work.runs_with
            else "where it is to be true all the same",
        )
        if not work.runs_with:
            yield "three_jaw", "nothing that is cut now must run with what was cut before; strips under the jaws"
        yield "soft_jaws", f"a finished surface is gripped{f', of {work.pieces} pieces' if work.pieces > 1 else ''}"
        return
    if work.pieces > 2 and work.shape == "round":
        yield "collet", "many pieces from bright bar"
    yield "four_jaw", "where the stock is rough or there is little to clean up"


def bends_mm(
    work: HeldWork, diameter_mm: Decimal, *, stiff_material: str, cut_material: str, at_centre: bool
) -> Decimal | None:
    """How much too large work comes out at its worst place for bending under a light cut, mm on diameter; None where it
    cannot be said.

    An estimate for a cut of 0.25 mm at 0.1 mm a turn. Source: beam tables (core/cutting/deflection.py).

    >>> bar = HeldWork(diameter_mm=Decimal(20), stands_out_mm=Decimal(100))
    >>> round(bends_mm(bar, Decimal(20), stiff_material="mild_steel", cut_material="mild_steel", at_centre=False), 4)
    Decimal('0.0083')
    """
    if work.stands_out_mm <= 0 or diameter_mm <= 0:
        return None
    try:
        found = deflection(
            DeflectionInput(
                hold="chuck_and_centre" if at_centre else "chuck",
                diameter=Length(diameter_mm, "mm"),
                overhang=Length(work.stands_out_mm, "mm"),
                stiff_material=stiff_material,
                work_material=cut_material,
                depth=Length.of("0.25", "mm"),
                feed=Length.of("0.1", "mm"),
                unit="mm",
            )
        )
    except NomismaError:
        return None
    return found.on_diameter.mm
