"""The slips on the shelf: a common set less what is missing, with what is the shop's own, and the wear pieces that go
outside.
"""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.errors import InputError, NotDefined, OutOfRange
from nomisma.core.quantity.length import MM_PER, Length, Unit
from nomisma.core.quantity.writing import parse_length, split_sizes
from nomisma.core.table import Row, loaded, rows_of

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


class SlipRun(Row):
    """Pieces of a set from one size to another by a step, in its unit; a step of 0 is one piece. The title stands in
    the first row.
    """

    name: str
    title: str
    unit: Unit
    first: Decimal = Field(alias="from")
    last: Decimal = Field(alias="to")
    step: Decimal

    @property
    def pieces_mm(self) -> list[Decimal]:
        """Its pieces, mm."""
        count = int((self.last - self.first) / self.step) + 1 if self.step else 1
        return [((self.first + number * self.step) * MM_PER[self.unit]).normalize() for number in range(count)]


@loaded
def slip_sets() -> dict[str, SlipSet]:
    """Every common set by name, sizes in mm. Source: slip_sets.csv (common sets, recalled).

    >>> len(slip_sets()["in81"].pieces_mm), len(slip_sets()["m112"].pieces_mm)
    (81, 112)
    """
    found: dict[str, SlipSet] = {}
    for row in rows_of("lengths", "slip_sets.csv", SlipRun):
        before = found.get(row.name)
        pieces = (*(before.pieces_mm if before else ()), *row.pieces_mm)
        found[row.name] = SlipSet(row.name, before.title if before else row.title, row.unit, tuple(sorted(pieces)))
    return found


def shelf_of(name: str, *, missing: str = "", own: str = "", wear: str = "", unit: Unit = "mm") -> SlipShelf:
    """A set less what is missing, with one's own pieces and wear pieces, as typed with spaces between. Raises
    InputError.

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


class SlipTolerance(Row):
    """How far (µm) a slip up to a size (mm) may be from it, either way, by grade."""

    up_to_mm: Decimal
    k: Decimal
    grade_0: Decimal = Field(alias="0")
    grade_1: Decimal = Field(alias="1")
    grade_2: Decimal = Field(alias="2")

    def of_grade(self, grade: SlipGrade) -> Decimal:
        """That of a grade, µm."""
        return {"k": self.k, "0": self.grade_0, "1": self.grade_1, "2": self.grade_2}[grade]


@loaded
def slip_tolerances() -> list[SlipTolerance]:
    """By size, smallest first: sizes in mm, deviations in µm. Source: ISO 3650:1998, Table 2 (recalled).

    >>> slip_tolerances()[0].grade_0
    Decimal('0.12')
    """
    return rows_of("lengths", "slip_grades.csv", SlipTolerance)


def limit_deviation_um(size_mm: Decimal, grade: SlipGrade) -> Decimal:
    """How far (µm) a slip of that size may be from it, either way. Raises OutOfRange above 500 mm.

    Source: ISO 3650:1998, Table 2 (recalled).

    >>> limit_deviation_um(Decimal(20), "1")
    Decimal('0.30')
    """
    for row in slip_tolerances():
        if size_mm <= row.up_to_mm:
            return row.of_grade(grade)
    raise OutOfRange(f"No slip is {size_mm:f} mm long here.", "They go up to 500 mm.", field="own")
