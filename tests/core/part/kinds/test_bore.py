"""A bore: from the left where it has a depth, through where it has none, and made as its line says."""

import pytest

from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered
from tests.core.part.kinds.reading import again


@pytest.mark.parametrize(
    ("line", "lies", "assumed"),
    [
        ("bore 12 H7 thru", (0, 30), ()), ("bore 12 H7", (0, 30), ("that C goes through",)),
        ("bore 12 H7 x 9 deep", (0, 9), ("that C comes in from the left",)),
        ("bore 12 H7 x 9 deep from the right", (21, 30), ()),
    ],
)  # fmt: skip
def test_where_it_lies_is_said_or_assumed(line: str, lies: tuple[int, int], assumed: tuple[str, ...]) -> None:
    read = feature_lines(FeatureLinesInput(text=f"od 40 x 30\n{line}", unit="mm")).features
    section = section_of([lettered(one) for one in read])
    assert section is not None
    (bore,) = section.bores
    assert (bore.from_mm, bore.to_mm) == lies
    assert section.assumed == assumed


@pytest.mark.parametrize("line", ["drill 8.5 thru", "ream 10 H7 thru", "bore 12 H7 thru"])
def test_how_it_is_made_is_said_again(line: str) -> None:
    assert again(line) == [line]
