"""Tables of data that lie beside the code: read in one way, checked, with the cells marked that are recalled without certainty."""

from csv import reader
from importlib.resources import files

UNSURE = "?"
"""Behind a cell: its value is recalled without certainty, and the working says so."""


class TableRow(dict[str, str]):
    """The cells of a row by column, without their marks; `unsure` names the columns that bore one."""

    def __init__(self, cells: dict[str, str]) -> None:
        super().__init__({column: cell.removesuffix(UNSURE) for column, cell in cells.items()})
        self.unsure = tuple(column for column, cell in cells.items() if cell.endswith(UNSURE))


def table_lines(room: str, name: str) -> list[str]:
    """The lines of a table in a room of the core, without its head of comments. Raises ValueError where that names no source.

    Source: none, bookkeeping.

    >>> len(table_lines("part", "duty.csv"))
    6
    """
    lines = files(f"nomisma.core.{room}").joinpath(name).read_text(encoding="utf-8").splitlines()
    if not any(line.startswith("#") and "Source:" in line for line in lines):
        raise ValueError(f"{name}: the table names no source")
    return [line for line in lines if line.strip() and not line.startswith("#")]


def table(room: str, name: str) -> list[TableRow]:
    """The rows of a table with commas between. Raises ValueError for a row of another length, or a column named twice.

    Source: none, bookkeeping.

    >>> table("measuring", "control_chart.csv")[0]["n"]
    '2'
    """
    head, *rows = reader(table_lines(room, name))
    if len(set(head)) != len(head):
        raise ValueError(f"{name}: a column is named twice")
    for number, row in enumerate(rows, 1):
        if len(row) != len(head):
            raise ValueError(f"{name}: row {number} has {len(row)} cells, and there are {len(head)} columns")
    return [TableRow(dict(zip(head, row, strict=True))) for row in rows]
