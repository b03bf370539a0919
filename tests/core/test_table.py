"""Tables beside the code: every one is read by one loader, which checks it and keeps the marks of doubt."""

from pathlib import Path

import pytest

import nomisma.core
from nomisma.core import table as tables
from nomisma.core.cutting.speeds import cutting_speeds
from nomisma.core.materials.material import materials
from nomisma.core.table import TableRow, table, table_lines

ROOM = Path(nomisma.core.__file__).parent
EVERY = sorted(path.relative_to(ROOM) for path in ROOM.rglob("*.csv"))


@pytest.mark.parametrize("path", EVERY, ids=str)
def test_every_table_names_its_source_and_has_rows(path: Path) -> None:
    assert len(table_lines(str(path.parent), path.name)) > 1


@pytest.mark.parametrize("path", [path for path in EVERY if path.name != "b41_limits.csv"], ids=str)
def test_every_row_has_a_cell_for_each_column(path: Path) -> None:
    rows = table(str(path.parent), path.name)
    assert len({tuple(row) for row in rows}) == 1


def spoilt(monkeypatch: pytest.MonkeyPatch, tmp_path: Path, text: str) -> None:
    (tmp_path / "x.csv").write_text(text, encoding="utf-8")
    monkeypatch.setattr(tables, "files", lambda _package: tmp_path)


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("# nothing said\na,b\n1,2\n", "names no source"),
        ("# Source: here\na,a\n1,2\n", "a column is named twice"),
        ("# Source: here\na,b\n1,2\n3\n", "row 2 has 1 cells, and there are 2 columns"),
    ],
)
def test_a_table_that_is_none_says_where(monkeypatch: pytest.MonkeyPatch, tmp_path: Path, text: str, sentence: str) -> None:
    spoilt(monkeypatch, tmp_path, text)
    with pytest.raises(ValueError, match=sentence):
        table("anywhere", "x.csv")


def test_a_mark_of_doubt_is_taken_off_the_cell_and_kept_with_the_row() -> None:
    row = TableRow({"name": "brass", "e_gpa": "97?", "words": "soft"})
    assert (row["e_gpa"], row.unsure) == ("97", ("e_gpa",))
    assert any(material.unsure for material in materials().values())
    assert all(speed.kc_n_mm2 > 0 for speed in cutting_speeds().values())
