"""A feature of any kind: its side of the metal, what comes off it, and how a reading of it stands."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import NotDefined
from nomisma.core.part.feature import Feature, State, cut_direction, toward_metal
from nomisma.core.part.feature_kinds import KindName, every_name, feature_kind, feature_kinds

KINDS = every_name()
sizes = st.decimals("0.001", "900", places=3)
widths = st.decimals("0.001", "2", places=3)
doubts = st.decimals("0", "0.05", places=4)
CUT = [kind for kind in KINDS if toward_metal(feature_kind(kind).material_side)]


@given(st.sampled_from(KINDS), sizes, sizes, widths, doubts)
def test_nothing_outside_its_limits_is_ever_called_in(
    kind: KindName, size: Decimal, low: Decimal, width: Decimal, doubt: Decimal
) -> None:
    feature = Feature(kind, low, low + width)
    assert feature.judge(size, doubt) is not State.IN_LIMITS or low + doubt < size < low + width - doubt


@given(st.sampled_from(KINDS), sizes, sizes, widths)
def test_metal_is_left_on_one_side_and_gone_on_the_other(
    kind: KindName, size: Decimal, low: Decimal, width: Decimal
) -> None:
    feature = Feature(kind, low, low + width)
    state = feature.judge(size, Decimal(0), "simple")
    out = size < low or size > low + width
    assert (state is State.IN_LIMITS) == (not out)
    if out and toward_metal(feature.side):
        assert (state is State.METAL_TO_GO) == (feature.metal_to_take(size, low + width / 2) > 0)
    elif out:
        assert state is State.GONE_TOO_FAR


@given(st.sampled_from(CUT), sizes, sizes)
def test_what_a_cut_takes_off_is_what_was_left_to_take(kind: KindName, before: Decimal, after: Decimal) -> None:
    feature = Feature(kind)
    assert (
        feature.metal_removed(before, after)
        == feature.metal_to_take(before, after)
        == -feature.metal_removed(after, before)
    )


@given(st.sampled_from(CUT), sizes, widths)
def test_a_cut_brings_a_size_nearer_to_the_limit_where_metal_is_gone(
    kind: KindName, low: Decimal, width: Decimal
) -> None:
    feature = Feature(kind, low, low + width)
    gone = feature.metal_gone_limit_mm
    assert gone is not None
    assert feature.metal_to_take(gone, low + width / 2) < 0


@pytest.mark.parametrize("kind", ["position", "runout", "surface_finish", "plain_size", "corner_radius"])
def test_what_has_no_safe_side_is_not_cut_to_size(kind: KindName) -> None:
    assert Feature(kind, Decimal(1), Decimal(2)).metal_gone_limit_mm is None
    with pytest.raises(NotDefined, match="is not cut to its size from one side"):
        cut_direction(kind)


def test_a_feature_for_reference_is_not_judged() -> None:
    with pytest.raises(NotDefined, match="no limits"):
        Feature("length").judge(Decimal(10), Decimal(0))


def test_each_kind_has_places_and_a_title_of_its_own() -> None:
    titles = [kind.title for kind in feature_kinds().values()]
    assert len(set(titles)) == len(titles)
    assert all(kind.places and all(kind.places) for kind in feature_kinds().values())
    assert feature_kind("shaft").title == "shaft"
