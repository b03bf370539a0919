"""A profile along the axis: exact, whole, and never larger outside after a cut."""

from decimal import Decimal
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.metal.profile import Profile, Stretch, cylinder, profile_of

PLACES = st.integers(0, 60).map(Decimal)
SIZES = st.integers(1, 50).map(Decimal)
cuts = st.tuples(PLACES, PLACES, SIZES, SIZES).filter(lambda one: one[0] < one[1]).map(lambda one: Stretch(*one))


def bar() -> Profile:
    return profile_of([cylinder(Decimal(0), Decimal(60), Decimal(40))])


@given(st.lists(cuts, max_size=5), st.integers(0, 119).map(lambda half: Decimal(half) / 2 + Decimal("0.25")))
def test_anywhere_it_is_the_smallest_of_all_that_was_cut_there(lines: list[Stretch], at: Decimal) -> None:
    found = bar()
    for one in lines:
        found = found.turned(one)
    (there,) = [one for one in found.stretches if one.from_mm <= at < one.to_mm]
    expected = min([Decimal(40), *(one.at(at) for one in lines if one.from_mm <= at < one.to_mm)])
    assert abs(there.at(at) - expected) < Decimal("1e-9")


@given(st.lists(cuts, max_size=5))
def test_its_stretches_stand_one_behind_the_other_from_end_to_end(lines: list[Stretch]) -> None:
    found = bar()
    for one in lines:
        found = found.opened(one)
    ends = [(one.from_mm, one.to_mm) for one in found.stretches]
    assert ends[0][0] == 0
    assert ends[-1][1] == 60
    assert all(before[1] == after[0] for before, after in pairwise(ends))
    turned = found.mirrored(Decimal(60))
    off = turned.largest_mm(Decimal(10), Decimal(30)) - found.largest_mm(Decimal(30), Decimal(50))
    assert abs(off) < Decimal("1e-20")


def test_a_taper_that_crosses_a_step_leaves_both_parts() -> None:
    found = bar().turned(Stretch(Decimal(0), Decimal(60), Decimal(60), Decimal(30)))
    assert found.largest_mm(Decimal(0), Decimal(40)) == 40
    assert found.smallest_mm(Decimal(0), Decimal(60)) == 30
    assert [one.to_mm for one in found.stretches] == [40, 60]
