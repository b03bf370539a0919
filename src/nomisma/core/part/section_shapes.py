"""What a section is drawn of: cylinders along the axis, grooves, and where each lies."""

from dataclasses import dataclass
from decimal import Decimal


@dataclass(frozen=True, slots=True)
class Cylinder:
    """A cylinder of the section: its diameter and where it begins and ends along the axis, mm, with the letters that
    say so.
    """

    letter: str
    diameter_mm: Decimal
    from_mm: Decimal
    to_mm: Decimal
    along_letter: str = ""

    def holds(self, along_mm: Decimal) -> bool:
        """Whether a place along the axis (mm) lies in it: its beginning does, its end is the next one's."""
        return self.from_mm <= along_mm < self.to_mm


@dataclass(frozen=True, slots=True)
class Eccentric:
    """An outside off the part's axis: its letters (diameter, height, throw), its own diameter, how far its axis lies
    off, where it begins and ends, mm; and the holes that run on its axis.
    """

    letters: tuple[str, ...]
    diameter_mm: Decimal
    throw_mm: Decimal
    from_mm: Decimal
    to_mm: Decimal
    holes: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class ThreadLines:
    """A thread by the thin line that stands for it: its letter, where it begins and ends, the line's diameter, mm; and
    whether it is inside.
    """

    letter: str
    from_mm: Decimal
    to_mm: Decimal
    line_diameter_mm: Decimal
    is_inside: bool


@dataclass(frozen=True, slots=True)
class Groove:
    """A groove of the outside: where it begins, how wide it is at the top and its floor's diameter, mm.

    `angle_deg`: the included angle of a V, none where its walls stand square.
    """

    letters: tuple[str, ...]
    at_mm: Decimal
    width_mm: Decimal
    floor_diameter_mm: Decimal
    angle_deg: Decimal | None = None


@dataclass(frozen=True, slots=True)
class FaceGroove:
    """A ring cut in a face: its letters (outer wall, inner wall, depth), where it begins and ends along the axis and
    the diameters of its walls, mm.
    """

    letters: tuple[str, ...]
    from_mm: Decimal
    to_mm: Decimal
    inner_mm: Decimal
    outer_mm: Decimal
