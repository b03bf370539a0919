"""What the metal measures before an operation takes anything off: across the stock, across a face, where a hole is opened."""

from dataclasses import dataclass
from decimal import Decimal
from typing import assert_never

from nomisma.core.planning.operations import Operation


@dataclass(frozen=True, slots=True)
class Metal:
    """Stock before it is cut, mm: across, across the face that is worked on, how wide it is opened before it is bored.

    `hollow_mm`: the hole in the face that is faced or parted, 0 where it is solid. `skin_mm`: all round, of a casting or the like that has
    the part's own shape already; none: a bar, as wide everywhere.
    """

    across_mm: Decimal
    faced_mm: Decimal
    opened_mm: Decimal = Decimal(0)
    hollow_mm: Decimal = Decimal(0)
    skin_mm: Decimal | None = None

    def before_mm(self, one: Operation) -> Decimal:
        """The diameter at an operation's place before it, mm. Source: geometry; a casting: its size and its skin (common practice, no source).

        >>> bar, casting = Metal(Decimal(70), Decimal(70), Decimal(12)), Metal(Decimal(182), Decimal(47), skin_mm=Decimal("1.5"))
        >>> rough = Operation("rough_turn", ("C",), Decimal(44), Decimal(16))
        >>> bar.before_mm(rough), casting.before_mm(rough), casting.before_mm(Operation("face"))
        (Decimal('70'), Decimal('47.0'), Decimal('47'))
        """
        match one.kind:
            case "face" | "part_off" | "centre" | "chamfer":
                return self.faced_mm
            case "rough_bore" | "bore" | "drill" | "centre_drill":
                return self.opened_mm
            case "rough_turn" | "turn" | "taper" | "groove" | "deburr":
                if self.skin_mm is None or one.diameter_mm is None:
                    return self.across_mm
                return one.diameter_mm + 2 * self.skin_mm
            case _:
                assert_never(one.kind)
