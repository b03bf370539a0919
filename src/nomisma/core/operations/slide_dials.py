"""What a lathe's handwheels show at a place: the carriage in turns and lines from the face, the tailstock in turns."""

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.cutting.amount import DialReads
from nomisma.core.cutting.dial import turns_and_lines


@dataclass(frozen=True, slots=True)
class SlideDials:
    """How the handwheels of a lathe are graduated, mm: one line and one turn of the carriage, one turn of the
    tailstock (none: nobody said); whether its cross-slide shows diameters or radii.
    """

    carriage_line_mm: Decimal | None = None
    carriage_turn_mm: Decimal | None = None
    tailstock_turn_mm: Decimal | None = None
    cross_reads: DialReads = "diameter"


NO_DIALS = SlideDials()


def slide_dials(room_mm: Mapping[str, Decimal], cross_reads: DialReads = "diameter") -> SlideDials:
    """The handwheels by what the shop entered of its lathe (mm). Source: the lathe's own dials.

    >>> slide_dials({"carriage_line": Decimal("0.1")}).carriage_line_mm
    Decimal('0.1')
    """
    line, turn, tailstock = (room_mm.get(name) for name in ("carriage_line", "carriage_turn", "tailstock_turn"))
    return SlideDials(line, turn, tailstock, cross_reads)


def on_the_carriage(away_mm: Decimal, dials: SlideDials) -> str:
    """How far the carriage is wound to a place so far from the face (mm), its dial 0 there; empty where nobody said
    what a line is. Source: arithmetic.

    >>> on_the_carriage(Decimal("29.7"), SlideDials(Decimal("0.1"), Decimal(20)))
    'carriage 1 turn + 97 lines, 0 at the face'
    >>> on_the_carriage(Decimal("29.7"), NO_DIALS)
    ''
    """
    line = dials.carriage_line_mm
    if not line or away_mm <= 0:
        return ""
    around = dials.carriage_turn_mm / line if dials.carriage_turn_mm else None
    return f"carriage {turns_and_lines(away_mm / line, around)}, 0 at the face"


def on_the_tailstock(deep_mm: Decimal, dials: SlideDials) -> str:
    """How many turns of the tailstock a drill goes in (mm); empty where nobody said what a turn is. Source:
    arithmetic.

    >>> on_the_tailstock(Decimal(21), SlideDials(tailstock_turn_mm=Decimal(4)))
    '5.2 turns of the tailstock'
    """
    if not dials.tailstock_turn_mm:
        return ""
    return f"{deep_mm / dials.tailstock_turn_mm:.1f} turns of the tailstock"
