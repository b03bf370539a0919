"""Tables beside the code: every one is read by one loader at the start, and a wrong cell says where it stands."""

import csv
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest

import nomisma.core
from nomisma.core import table as tables
from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.materials.material import materials
from nomisma.core.part.duty import duties
from nomisma.core.table import Row, load_tables, rows_of, table_lines

ROOM = Path(nomisma.core.__file__).parent
EVERY = sorted(path.relative_to(ROOM) for path in ROOM.rglob("*.csv"))
BY_MARKS = "b41_limits.csv"
"""A table with marks of its own between the cells."""
WORDS_ONLY = {
    "title", "words", "said", "mind", "for_what", "how", "caution", "measured_with", "tool", "change", "why",
    "standard", "first_start",
    "if_out", "places", "also",
}  # fmt: skip
"""Columns in which anything may stand."""
NAMES = {"name", "cause"}
"""Columns of names that this table alone gives."""
NAMED_ELSEWHERE = {"usual", "close", "free"}
"""Columns whose cells are known by other tables: what is wrong is said by the name of the row."""


@pytest.mark.parametrize("path", EVERY, ids=str)
def test_every_table_names_its_source_and_has_rows(path: Path) -> None:
    assert len(table_lines(str(path.parent), path.name)) > 1


def spoil(monkeypatch: pytest.MonkeyPatch, folder: Path, name: str, text: str) -> None:
    """The table of that name has other text; the others are as they are."""
    true_files = tables.files

    class Spoilt:
        def __init__(self, package: str) -> None:
            self.package = package

        def joinpath(self, wanted: str) -> Path:
            return folder / name if wanted == name else Path(str(true_files(self.package).joinpath(wanted)))

    (folder / name).write_text(text, encoding="utf-8")
    monkeypatch.setattr(tables, "files", Spoilt)


@contextmanager
def anew() -> Iterator[None]:
    """Nothing is kept of what was read before, nor afterwards."""
    for loader in tables.loaders().values():
        loader.cache_clear()
    try:
        yield
    finally:
        for loader in tables.loaders().values():
            loader.cache_clear()


class Pair(Row):
    """Two columns of numbers."""

    a: int
    b: int


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("# nothing said\na,b\n1,2\n", "names no source"),
        ("# Source: here\na,a\n1,2\n", "a column is named twice"),
        ("# Source: here\na,b\n1,2\n3\n", "x.csv, line 4: 1 cells, and there are 2 columns"),
        ("# Source: here\na,c\n1,2\n", r"its columns are not those that are read \(b, c\)"),
        ("# Source: here\na,b,c\n1,2,3\n", r"its columns are not those that are read \(c\)"),
        ("# Source: here\na,b\n1,2\n1,two\n", "x.csv, line 4, column b: “two”: Input should be a valid integer"),
    ],
)
def test_a_table_that_is_none_says_where(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path, text: str, sentence: str
) -> None:
    spoil(monkeypatch, tmp_path, "x.csv", text)
    with pytest.raises(ValueError, match=sentence):
        rows_of("planning", "x.csv", Pair)


def cells_that_mean_something() -> list[tuple[str, int, str]]:
    """File, line and column of the first row's cells that are numbers, or name something."""
    found = []
    for path in EVERY:
        if path.name == BY_MARKS:
            continue
        lines = (ROOM / path).read_text(encoding="utf-8").splitlines()
        at = [number for number, line in enumerate(lines) if line.strip() and not line.startswith("#")][:2]
        head, cells = next(csv.reader([lines[at[0]]])), next(csv.reader([lines[at[1]]]))
        found += [
            (path.name, at[1], column)
            for column, cell in zip(head, cells, strict=True)
            if (cell and column not in WORDS_ONLY | NAMES)
        ]
    return found


@pytest.mark.parametrize(("name", "at", "column"), cells_that_mean_something())
def test_a_wrong_cell_stops_the_start_and_says_where(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path, name: str, at: int, column: str
) -> None:
    lines = next(ROOM.rglob(name)).read_text(encoding="utf-8").splitlines()
    head = next(csv.reader([next(line for line in lines if not line.startswith("#"))]))
    cells = next(csv.reader([lines[at]]))
    cells[head.index(column)] = "turnning"
    quoted = ",".join(f'"{cell}"' for cell in cells)
    spoil(monkeypatch, tmp_path, name, "\n".join([*lines[:at], quoted, *lines[at + 1 :]]))
    with pytest.raises(ValueError, match=name) as refused, anew():
        load_tables()
    assert column in str(refused.value)
    assert "turnning" in str(refused.value)
    assert f"line {at + 1}" in str(refused.value) or column in NAMED_ELSEWHERE


def test_every_table_is_read_at_the_start(monkeypatch: pytest.MonkeyPatch) -> None:
    read: list[str] = []
    true_lines = tables.numbered_lines
    monkeypatch.setattr(tables, "numbered_lines", lambda room, name: read.append(name) or true_lines(room, name))
    with anew():
        load_tables()
    assert set(read) == {path.name for path in EVERY}


def test_a_mark_of_doubt_is_taken_off_the_cell_and_kept_with_the_row() -> None:
    assert any(material.unsure for material in materials().values())
    assert all(speed.kc_n_mm2 > 0 for speed in cutting_speeds().values())
    assert "kc_n_mm2" in cutting_speeds()["mild_steel"].unsure
    assert not duties()["seen"].unsure
