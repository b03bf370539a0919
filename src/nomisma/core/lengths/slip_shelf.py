"""The slips on the shelf: a common set less what is missing, with what is the shop's own, and the wear pieces that go outside."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from typing import Literal, cast

from nomisma.core.errors import InputError, NotDefined, OutOfRange
from nomisma.core.quantity.length import MM_PER, Length, Unit
from nomisma.core.quantity.writing import parse_length, split_sizes
from nomisma.core.table import table

SetName = Literal["m112", "m88", "m47", "m32", "in81", "in36", "none"]
SlipGrade = Literal["k", "0", "1", "2"]
GRADE_WORDS: dict[SlipGrade, str] = {
    "k": "grade K (calibration)", "0": "grade 0 (inspection)", "1": "grade 1 (tool room)", "2": "grade 2 (shop)",
}  # fmt: skip
MOST_PIECES = 250


@dataclass(frozen=True, slots=True)
class SlipSet:
    """A common set: its title, unit and pieces in mm, each once."""

    name: str
    title: str
    unit: Unit
    pieces_mm: tuple[Decimal, ...]


@dataclass(frozen=True, slots=True)
class SlipShelf:
    """What piles are built of: pieces and wear pieces in mm, smallest first; the unit they are marked in."""

    unit: Unit
    pieces_mm: tuple[Decimal, ...]
    wear_mm: tuple[Decimal, ...] = ()

    def without(self, used_mm: Iterable[Decimal]) -> "SlipShelf":
        """What is left on it when a pile is taken off."""
        left = Counter(self.pieces_mm) - Counter(used_mm)
        return SlipShelf(self.unit, tuple(sorted(left.elements())), self.wear_mm)


@cache
def slip_sets() -> dict[str, SlipSet]:
    """Every common set by name, sizes in mm. Source: slip_sets.csv (common sets, recalled).

    >>> len(slip_sets()["in81"].pieces_mm), len(slip_sets()["m112"].pieces_mm)
    (81, 112)
    """
    found: dict[str, SlipSet] = {}
    for row in table("lengths", "slip_sets.csv"):
        unit = cast(Unit, row["unit"])
        before = found.get(row["name"])
        pieces = (*(before.pieces_mm if before else ()), *_run(row["from"], row["to"], row["step"], unit))
        found[row["name"]] = SlipSet(row["name"], before.title if before else row["title"], unit, tuple(sorted(pieces)))
    return found


def _run(first: str, last: str, step: str, unit: Unit) -> list[Decimal]:
    size, found = Decimal(first), []
    while size <= Decimal(last):
        found.append((size * MM_PER[unit]).normalize())
        if not Decimal(step):
            break
        size += Decimal(step)
    return found


def shelf_of(name: str, *, missing: str = "", own: str = "", wear: str = "", unit: Unit = "mm") -> SlipShelf:
    """A set less what is missing, with one's own pieces and wear pieces, as typed with spaces between. Raises InputError.

    A number without a unit is in the set's unit. `none`: only one's own, in `unit`. Source: common practice, no source.

    >>> shelf = shelf_of("m32", missing="1.005 60", own="75", wear="2 2")
    >>> len(shelf.pieces_mm), shelf.wear_mm
    (31, (Decimal('2'), Decimal('2')))
    """
    if name != "none" and name not in slip_sets():
        raise NotDefined(f"“{name[:20]}” is no set of slips.", f"Choose one of {', '.join(slip_sets())}.", field="set")
    base = slip_sets().get(name) or SlipSet("none", "only one's own", unit, ())
    pieces = Counter(base.pieces_mm)
    for size in _sizes(missing, base.unit, "missing"):
        if not pieces[size.mm.normalize()]:
            raise InputError(
                f"There is no {size} in the set.", "Strike only what belongs to it.", field="missing", value=str(size)
            )
        pieces[size.mm.normalize()] -= 1
    pieces.update(size.mm.normalize() for size in _sizes(own, base.unit, "own"))
    if pieces.total() > MOST_PIECES:
        raise OutOfRange(f"That is {pieces.total()} pieces.", f"A shelf has at most {MOST_PIECES} here.", field="own")
    wearing = sorted(size.mm.normalize() for size in _sizes(wear, base.unit, "wear"))
    return SlipShelf(base.unit, tuple(sorted(pieces.elements())), tuple(wearing))


def _sizes(text: str, unit: Unit, field: str) -> list[Length]:
    try:
        return [parse_length(part, unit) for part in split_sizes(text)] if text.strip() else []
    except InputError as error:
        error.field = field
        raise


def limit_deviation_um(size_mm: Decimal, grade: SlipGrade) -> Decimal:
    """How far (µm) a slip of that size may be from it, either way. Raises OutOfRange above 500 mm.

    Source: ISO 3650:1998, Table 2 (recalled).

    >>> limit_deviation_um(Decimal(20), "1")
    Decimal('0.30')
    """
    for row in table("lengths", "slip_grades.csv"):
        if size_mm <= Decimal(row["up_to_mm"]):
            return Decimal(row[grade])
    raise OutOfRange(f"No slip is {size_mm:f} mm long here.", "They go up to 500 mm.", field="own")
