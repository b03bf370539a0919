"""Edges of which nothing is asked but that they are free of burrs."""

import pytest

from tests.core.part.kinds.reading import again, read


@pytest.mark.parametrize(
    "line", ["break sharp edges", "break all edges", "deburr", "no burrs", "file edges", "remove burrs"]
)
def test_however_it_is_said_it_is_looked_at(line: str) -> None:
    (edges,) = read(line)
    assert (edges.kind, edges.lower, edges.upper) == ("burr_free", None, None)
    assert again(line) == ["burr-free all over"]
