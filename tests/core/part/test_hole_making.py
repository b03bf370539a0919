"""How a hole is said to be made, and that the plan makes it so: a drilled hole is never bored, a reamed one is drilled
under and reamed.
"""

from decimal import Decimal

import pytest

from nomisma.core.operations.drilling import drills_before
from nomisma.core.order.order import order_of_work
from nomisma.core.part.hole_making import making_of
from nomisma.core.part.section import section_of
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines, lettered


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("drill 17/32", ("drilled", "17/32")),
        ("Ream .3755", ("reamed", ".3755")),
        ("12 H7", ("bored", "12 H7")),
        ("drill", ("bored", "drill")),
    ],
)
def test_the_word_before_a_size_says_how(text: str, found: tuple[str, str]) -> None:
    assert making_of(text) == found


@pytest.mark.parametrize(
    ("line", "kinds", "drill"),
    [
        ("drill 17 thru", ["drill"], "17 mm"), ("ream 10 H7 thru", ["drill", "ream"], "9.6 mm"),
        ("bore 20 H7 thru", ["drill", "bore"], "19.2 mm"),
        ("tap M8 thru", ["drill", "tap"], "6.8 mm"), ("drill 12 x 20 deep from the right", ["drill"], "12 mm"),
    ],
)  # fmt: skip
def test_a_hole_is_made_as_its_line_says(line: str, kinds: list[str], drill: str) -> None:
    parts = [lettered(one) for one in feature_lines(FeatureLinesInput(text=f"od 60 x 30\n{line}", unit="mm")).features]
    assert section_of(parts) is not None
    order = order_of_work(parts, stock="bar")
    assert order is not None
    made = [
        one.operation
        for one in order.operations
        if one.operation.kind in ("drill", "rough_bore", "bore", "ream", "tap")
    ]
    assert [one.kind for one in made] == kinds
    first = made[0]
    assert drills_before(first.diameter_mm or Decimal(0), "mm", first.hole, first.thread)[-1].name == drill
