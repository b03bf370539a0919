"""A list of sizes: one by one, by a step, a unit behind each group."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.quantity.size_list import groups_of, sizes_listed

ONE_BY_ONE = st.lists(st.decimals(Decimal("0.5"), Decimal(60), places=2), min_size=1, max_size=20)


@given(ONE_BY_ONE, st.sampled_from([" ", ", ", "  "]))
def test_sizes_come_back_as_they_were_written(sizes: list[Decimal], between: str) -> None:
    found = sizes_listed(f"{between.join(str(one) for one in sizes)} mm", "reamers", most=20)
    assert [one.mm for one in found] == sizes


@pytest.mark.parametrize(
    ("text", "count"),
    [("1 to 2 by 0.1 mm", 11), ("1/64 to 1/16 by 1/64 in", 4), ("5 to 5 by 1 mm", 1), ("5 to 4 by 1 mm", 0)],
)
def test_a_step_goes_from_the_first_to_the_last(text: str, count: int) -> None:
    assert len(sizes_listed(text, "drills", most=50)) == count


def test_too_many_are_refused_before_they_are_counted_out() -> None:
    with pytest.raises(InputError, match="more than 50"):
        sizes_listed("1 to 900 by 0.0001 mm", "drills", most=50)


def test_groups_stand_behind_a_semicolon_or_on_a_line_of_their_own() -> None:
    assert groups_of(" 6 mm;\n; 1/4 in\n") == ["6 mm", "1/4 in"]
