"""How a set-up is held: the ways that come into question, in order, with reasons and what each costs in trueness."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated, Literal

from nomisma.core.cutting.deflection import DeflectionInput, deflection
from nomisma.core.errors import NomismaError
from nomisma.core.planning.blank import Shape
from nomisma.core.planning.set_ups import SetUp
from nomisma.core.quantity.length import Length
from nomisma.core.table import Row, loaded, parted_by, rows_of

OVERHANG_CENTRE, OVERHANG_STEADY = Decimal(4), Decimal(12)
"""Beyond so many diameters out of the chuck a centre holds the end, beyond so many a steady is wanted. Source: common
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
    def diameters_out(self) -> Decimal:
        """How many of its diameters it stands out."""
        return self.stands_out_mm / self.diameter_mm if self.diameter_mm > 0 else Decimal(0)


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A way that comes into question, and why."""

    holding: Holding
    why: str


def ways_to_hold(set_up: SetUp, work: HeldWork) -> list[Suggestion]:
    """The ways for a set-up, the first one suggested; sizes in mm. Source: common practice, no source.

    >>> bar = HeldWork(diameter_mm=Decimal(25), stands_out_mm=Decimal(40))
    >>> [one.holding.name for one in ways_to_hold(SetUp("right", "", (), ()), bar)][0]
    'three_jaw'
    """
    if set_up.worked == "mandrel":
        return _suggested(
            ("mandrel", "its bore is finished, and its outside runs with it"),
            ("expanding_mandrel", "for a bore of no standard size"),
            ("bonded_mandrel", "where no press may be on it"),
        )
    if set_up.worked == "centres":
        slender = work.diameters_out > OVERHANG_STEADY
        follow = (
            [("follow_rest", f"it is {work.diameters_out:.0f} diameters long: it bends away from the tool")]
            if slender
            else []
        )
        return _suggested(
            ("centres", "every diameter true to the others, and to be put back"),
            *follow,
            ("chuck_and_centre", "where one end may stay"),
        )
    return _in_a_chuck(work)


def _suggested(*pairs: tuple[str, str]) -> list[Suggestion]:
    return [Suggestion(holdings()[name], why) for name, why in pairs]


def _in_a_chuck(work: HeldWork) -> list[Suggestion]:
    found: list[tuple[str, str]] = []
    if work.is_thin:
        found += [
            ("soft_jaws", "its wall is thin: as much of it held as can be, or jaws bend it"),
            ("bonded_mandrel", "thin: held without being squeezed"),
        ]
    elif work.runs_with:
        why = "a finished surface is gripped, and it must run with what was cut before"
        many = ("soft_jaws", f"{why}; {work.pieces} pieces come as true without a needle")
        one = ("four_jaw", f"{why}; strips under the jaws, by the needle")
        found += [many, one] if work.pieces > 2 else [one, many]
    elif work.finished:
        why = "nothing that is cut now must run with what was cut before"
        jaws = ("three_jaw", f"{why}; strips under the jaws, hard against their steps")
        soft = ("soft_jaws", f"a finished surface is gripped{f', of {work.pieces} pieces' if work.pieces > 1 else ''}")
        found += [soft, jaws] if work.pieces > 2 else [jaws, soft]
        found.append(("four_jaw", "where it is to be true all the same"))
    elif work.shape in ("square", "octagon"):
        found.append(("four_jaw", f"three jaws do not hold {work.shape} stock"))
    else:
        found.append(("three_jaw", "all that must be true is cut before it is taken out"))
        if work.pieces > 2 and work.shape == "round":
            found.append(("collet", "many pieces from bright bar"))
        found.append(("four_jaw", "where the stock is rough or there is little to clean up"))
    out = f"it stands {work.diameters_out:.1f} diameters out"
    if work.diameters_out > OVERHANG_STEADY:
        found.insert(0, ("steady", f"{out}: it bends and whips"))
        found.insert(1, ("follow_rest", "where its outside is turned along, with a centre in its end"))
    elif work.diameters_out > OVERHANG_CENTRE:
        found.insert(0, ("chuck_and_centre", f"{out}: a centre holds its end"))
    return _suggested(*found)


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
