"""Readings from CSV: what a file's rows say, understood or refused row by row; nothing is written here."""

import csv
import io
import re
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from nomisma.core.errors import InputError, refused_as
from nomisma.core.measuring.place import parse_place
from nomisma.core.number import number_from, whole_from
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length

DecimalMark = Literal["either", "point", "comma"]
MOST_ROWS = 1000
MOST_CUTS = 10_000
NAMES = {
    "size": ("size", "entered", "reading", "value"),
    "unit": ("unit", "entered_unit", "size_unit"),
    "place": ("place",),
    "instrument": ("instrument",),
    "piece": ("piece", "serial"),
    "cut_number": ("cut_number", "cut"),
    "temperature_c": ("temperature_c",),
    "material": ("material",),
    "zero_error_mm": ("zero_error_mm",),
    "member": ("member",),
    "feature": ("feature",),
    "stands": ("stands",),
}
"""What a column may be called, ours first."""
_FORMULA = re.compile(r"^'(?=[=+\-@\t\r])")


@dataclass(frozen=True, slots=True)
class RowRead:
    """One row as understood: where it stands in the file, its size and place; or the sentence that refuses it."""

    number: int
    size_text: str = ""
    size: Length | None = None
    place: str = ""
    instrument: str = ""
    piece: str = ""
    cut_number: int = 0
    temperature_c: Decimal | None = None
    material: str = ""
    zero_error_mm: Decimal = Decimal(0)
    refused: str = ""


def rows_of(
    text: str, *, unit: Unit, decimal_mark: DecimalMark = "either", member: str = "made", feature: str = ""
) -> list[RowRead]:
    """Every row of a CSV text. Raises InputError where the text as a whole is no table.

    Comma, semicolon or tab between columns; `decimal_mark` settles 24,981. A row of another feature or member, or one
    that was superseded, is refused with its reason. `unit` counts where no column and no size says one.
    """
    try:
        table = list(_table(text))
    except csv.Error as error:
        raise InputError(f"This is no table ({error}).", "Save it as CSV with one row a line.", field="csv") from None
    if not table:
        raise InputError("There is nothing to bring in.", "Paste the table with its heading line.", field="csv")
    heading, *rows = table
    columns = _columns(heading)
    if "size" not in columns or "place" not in columns:
        raise InputError(
            f"The heading line has no {'size' if 'size' not in columns else 'place'} column.",
            "Name the columns in the first line: place, size, unit, instrument, piece.",
            field="csv",
            value=", ".join(heading)[:80],
        )
    if len(rows) > MOST_ROWS:
        raise InputError(f"That is {len(rows)} rows; at most {MOST_ROWS} at once.", "Split the file.", field="csv")
    return [
        _row(
            number,
            dict(zip(columns_by_place(columns, len(heading)), row, strict=False)),
            unit,
            decimal_mark,
            (member, feature),
        )
        for number, row in enumerate(rows, start=2)
    ]


def _table(text: str) -> Iterator[list[str]]:
    """Non-empty rows; the separator is whichever of tab, semicolon, comma the heading has most of."""
    plain = text.removeprefix("\ufeff").replace("\x00", "")
    first = plain.splitlines()[0] if plain.strip() else ""
    separator = max("\t;,", key=first.count)
    for row in csv.reader(io.StringIO(plain, newline=""), delimiter=separator):
        if any(cell.strip() for cell in row):
            yield [_FORMULA.sub("", cell.strip()) for cell in row]


def _columns(heading: list[str]) -> dict[str, int]:
    """Where each column we know stands; the first name of ours that is there wins."""
    names = [name.strip().lower().replace(" ", "_") for name in heading]
    return {ours: names.index(called) for ours, known in NAMES.items() for called in reversed(known) if called in names}


def columns_by_place(columns: dict[str, int], count: int) -> list[str]:
    """Our name of every column, by where it stands; empty for one we do not know.

    >>> columns_by_place({"size": 1}, 2)
    ['', 'size']
    """
    names = [""] * count
    for name, index in columns.items():
        names[index] = name
    return names


def _row(number: int, cells: dict[str, str], unit: Unit, mark: DecimalMark, of: tuple[str, str]) -> RowRead:
    try:
        return _understood(number, cells, unit, mark, of)
    except InputError as error:
        return RowRead(
            number=number,
            size_text=cells.get("size", "")[:40],
            place=cells.get("place", "")[:40],
            refused=error.sentence,
        )


def _understood(number: int, cells: dict[str, str], unit: Unit, mark: DecimalMark, of: tuple[str, str]) -> RowRead:
    member, feature = of
    if feature and cells.get("feature") and cells["feature"].upper() != feature:
        raise InputError(f"This row is of feature {cells['feature'][:8]}.", "Bring it in there.", field="feature")
    if not cells.get("feature") and cells.get("member", member) not in ("", member):
        raise InputError("This row is of the other member.", "Bring it in there.", field="member")
    if cells.get("stands", "").lower() in ("false", "no"):
        raise InputError(
            "This row was superseded where it comes from.", "The row that stands is taken instead.", field="stands"
        )
    own: Unit = _unit(cells.get("unit", ""), unit)
    text = cells.get("size", "")
    size = _size(text, own, mark)
    return RowRead(
        number=number,
        size_text=text,
        size=size,
        place=parse_place(cells.get("place", ""), own).text,
        instrument=cells.get("instrument", ""),
        piece=cells.get("piece", "")[:40],
        cut_number=_whole(cells.get("cut_number", "")),
        temperature_c=_decimal(cells.get("temperature_c", ""), "temperature_c"),
        material=cells.get("material", ""),
        zero_error_mm=_decimal(cells.get("zero_error_mm", ""), "zero_error_mm") or Decimal(0),
    )


def _size(text: str, unit: Unit, mark: DecimalMark) -> Length:
    """A size with the file's decimal mark. Raises InputError where a comma may be either."""
    if mark == "either":
        return parse_length(text, unit)
    other = "." if mark == "comma" else ","
    plain = text.replace(other, "").replace(",", ".")
    found = parse_length(plain, unit)
    return Length(found.mm, found.unit, text, found.decimals)


def _unit(text: str, unit: Unit) -> Unit:
    word = text.strip().lower()
    if word in ("", "in", "inch", "mm"):
        return "mm" if word == "mm" else "in" if word else unit
    raise InputError(f"“{text[:20]}” is not a unit here.", "Use in or mm.", field="unit")


def _whole(text: str) -> int:
    with refused_as(f"“{text[:20]}” is not the number of a cut.", "Give 0, 1, 2 …", field="cut_number"):
        return whole_from(text or "0", most=MOST_CUTS)


def _decimal(text: str, field: str) -> Decimal | None:
    if not text:
        return None
    with refused_as(f"“{text[:20]}” is not a number here.", "Correct it, or leave it empty.", field=field):
        return number_from(text, least=-1000, most=1000)
