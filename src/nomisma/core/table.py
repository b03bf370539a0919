"""Tables of data that lie beside the code: one loader, each row a typed model, each cell checked before anything is
worked with it.
"""

import pkgutil
import re
from collections.abc import Callable, Iterator
from csv import reader
from functools import cache
from importlib import import_module
from importlib.resources import files
from typing import Annotated, Any, Self, TypeVar

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, ValidationError

import nomisma.core

UNSURE = "?"
"""Behind a cell: its value is recalled without certainty, and the working says so."""
WORDS = BeforeValidator(lambda cell: tuple(cell.split()))
"""A cell of words with spaces between."""
MAYBE = BeforeValidator(lambda cell: cell or None)
"""A cell that may be empty."""


def _number(cell: str) -> str:
    if cell and not _NUMBER.fullmatch(cell):
        raise ValueError("it is no number")
    return cell


_NUMBER = re.compile(r"-?[0-9]*\.?[0-9]+")
NumberText = Annotated[str, AfterValidator(_number)]
"""A number as it is written, or nothing."""


def parted_by(mark: str) -> BeforeValidator:
    """A cell of parts with a mark between; an empty one has none.

    Source: none, bookkeeping.

    >>> from pydantic import TypeAdapter
    >>> TypeAdapter(Annotated[tuple[str, ...], parted_by(";")]).validate_python("wiped; tight")
    ('wiped', 'tight')
    """
    return BeforeValidator(lambda cell: tuple(part.strip() for part in cell.split(mark) if part.strip()))


class Row(BaseModel):
    """A row of a table: a field a column, its type what a cell may hold; `unsure` names the columns whose cell bore the
    mark of doubt.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", populate_by_name=True)

    unsure: tuple[str, ...] = ()

    @classmethod
    def columns(cls) -> set[str]:
        """The columns it must have, by the names they bear in the table."""
        return {one.alias or name for name, one in cls.model_fields.items() if name != "unsure"}

    def but(self, **changed: object) -> Self:
        """The same row with something else in its place."""
        return self.model_copy(update=changed)


RowType = TypeVar("RowType", bound=Row)
Loaded = TypeVar("Loaded")
_LOADERS: dict[str, Callable[[], Any]] = {}


def loaded(loader: Callable[[], Loaded]) -> Callable[[], Loaded]:
    """A loader without arguments, whose tables are read once, and at the start (`load_tables`).

    Source: none, bookkeeping.

    >>> loaded(lambda: 7)()
    7
    """
    kept = cache(loader)
    _LOADERS[f"{loader.__module__}.{loader.__name__}"] = kept
    return kept


def loaders() -> dict[str, Any]:
    """Every loader by module and name, each with its cache.

    Source: none, bookkeeping.

    >>> from nomisma.core.part.duty import duties
    >>> loaders()["nomisma.core.part.duty.duties"] is duties
    True
    """
    return dict(_LOADERS)


def load_tables() -> list[str]:
    """Read every table of the core, so that a wrong cell stops the start and not a page; the loaders that were run.

    Raises ValueError with file, line, column and what is allowed. Source: none, bookkeeping.

    >>> "nomisma.core.part.duty.duties" in load_tables()
    True
    """
    for module in pkgutil.walk_packages(nomisma.core.__path__, f"{nomisma.core.__name__}."):
        import_module(module.name)
    for loader in _LOADERS.values():
        loader()
    return sorted(_LOADERS)


def table_lines(room: str, name: str) -> list[str]:
    """The lines of a table in a room of the core, without its head of comments. Raises ValueError where that names no
    source.

    Source: none, bookkeeping.

    >>> len(table_lines("part", "duty.csv"))
    6
    """
    return [line for _, line in numbered_lines(room, name)]


def numbered_lines(room: str, name: str) -> list[tuple[int, str]]:
    """The same with the number of each in its file. Raises ValueError.

    Source: none, bookkeeping.

    >>> numbered_lines("part", "duty.csv")[0]
    (5, 'name,title,gives,least_places,said')
    """
    lines = files(f"nomisma.core.{room}").joinpath(name).read_text(encoding="utf-8").splitlines()
    if not any(line.startswith("#") and "Source:" in line for line in lines):
        raise ValueError(f"{name}: the table names no source")
    return [(number, line) for number, line in enumerate(lines, 1) if line.strip() and not line.startswith("#")]


def rows_of(room: str, name: str, row_type: type[RowType]) -> list[RowType]:
    """The rows of a table with commas between. Raises ValueError with file, line, column and what is allowed.

    Source: none, bookkeeping.

    >>> class Named(Row):
    ...     name: str
    ...     diameter_in: float
    >>> rows_of("quantity", "drill_sizes.csv", Named)[0].name
    '1'
    """
    return list(_rows(room, name, row_type))


def _rows(room: str, name: str, row_type: type[RowType]) -> Iterator[RowType]:
    (_, first), *lines = numbered_lines(room, name)
    (head,) = reader([first])
    if len(set(head)) != len(head):
        raise ValueError(f"{name}: a column is named twice")
    needed = row_type.columns()
    if (row_type.model_config.get("extra") != "allow" and set(head) != needed) or not needed <= set(head):
        odd = ", ".join(sorted(needed ^ set(head)))
        raise ValueError(f"{name}: its columns are not those that are read ({odd})")
    for number, line in lines:
        (cells,) = reader([line])
        if len(cells) != len(head):
            raise ValueError(f"{name}, line {number}: {len(cells)} cells, and there are {len(head)} columns")
        yield _row(f"{name}, line {number}", dict(zip(head, cells, strict=True)), row_type)


def _row(where: str, cells: dict[str, str], row_type: type[RowType]) -> RowType:
    marked = tuple(column for column, cell in cells.items() if cell.endswith(UNSURE))
    bare: dict[str, Any] = {column: cell.removesuffix(UNSURE) for column, cell in cells.items()}
    try:
        return row_type.model_validate({**bare, "unsure": marked})
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        column = str(first["loc"][0]) if first["loc"] else "?"
        raise ValueError(f"{where}, column {column}: “{bare.get(column, '')}”: {first['msg']}") from None
