"""Find the fit from a window of clearance."""

import itertools
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.errors import NotDefined
from nomisma.core.fits.find import PREFERRED_MIRRORS, FindResult
from nomisma.core.fits.fit import FitInput, fit
from nomisma.core.fits.iso286 import PREFERRED_FITS
from nomisma.core.registry import calculation_named


def find(nominal: str, least: str, greatest: str, **more: object) -> FindResult:
    result = calculation_named("find_fit").run(
        {"nominal": nominal, "clearance_min": least, "clearance_max": greatest, **more}
    )
    assert isinstance(result, FindResult)
    return result


def test_the_preferred_pair_stands_first() -> None:
    found = find("25 mm", "5 um", "45 um")
    assert found.fits[0].name == "H7/g6"
    assert found.sentence.endswith("try H7/g6 first.")
    assert found.misses == []


def test_inch_windows_find_inch_classes() -> None:
    found = find("1 in", "0.8 thou", "2.8 thou")
    assert found.fits[0].name == "RC4"
    assert {"RC4", "RC3"} <= {fit.name for fit in found.fits}
    assert {fit.fit_system for fit in find("1 in", "0.8 thou", "2.8 thou", fit_system="iso").fits} == {"iso"}


def test_interference_is_a_window_below_zero() -> None:
    found = find("25 mm", "-50 um", "-10 um")
    assert found.fits[0].name in ("H7/s6", "S7/h6")
    assert {fit.kind for fit in found.fits} == {"interference"}


def test_preferred_then_coarser_then_hole_basis() -> None:
    found = find("50 mm", "0 um", "200 um").fits
    assert [fit.preferred for fit in found] == sorted((fit.preferred for fit in found), reverse=True)
    rest = [fit for fit in found if not fit.preferred and not fit.unsure]
    assert [fit.tolerance.mm for fit in rest] == sorted((fit.tolerance.mm for fit in rest), reverse=True)
    for first, second in itertools.pairwise(rest):
        if first.tolerance.mm == second.tolerance.mm:
            assert (first.basis, second.basis) != ("shaft", "hole")


@settings(max_examples=25)
@given(st.decimals("1", "490", places=1), st.sampled_from([*PREFERRED_FITS, *PREFERRED_MIRRORS]))
def test_a_fits_own_clearances_find_it_again(nominal: Decimal, name: str) -> None:
    try:
        own = fit(FitInput(callout=f"{nominal} mm {name}")).clearance_mm
    except NotDefined:
        return
    assert own is not None
    assert name in {one.name for one in find(f"{nominal} mm", f"{own[0]:f} mm", f"{own[1]:f} mm").fits}


@settings(max_examples=20)
@given(st.decimals("3", "400", places=1), st.integers(-200, 200), st.integers(5, 150))
def test_everything_found_lies_inside_and_no_miss_does(nominal: Decimal, least: int, wide: int) -> None:
    found = find(f"{nominal} mm", f"{least} um", f"{least + wide} um")
    for one in found.fits:
        assert least <= one.clearance_min.mm * 1000 <= one.clearance_max.mm * 1000 <= least + wide
    assert bool(found.fits) != bool(found.misses)
    assert all(miss.missed_by.mm > 0 for miss in found.misses)
    assert [miss.missed_by.mm for miss in found.misses] == sorted(miss.missed_by.mm for miss in found.misses)


def test_where_none_fits_the_nearest_are_named_and_make_to_suit_is_offered() -> None:
    found = find("7/8 in", "0.0005 in", "0.0006 in")
    assert found.count == 0
    assert len(found.misses) == 6
    assert "misses it by" in found.sentence
    assert "Make to suit" in found.sentence


def test_over_19_69_in_only_iso_answers_and_over_3150_mm_nobody() -> None:
    assert {fit.fit_system for fit in find("600 mm", "0 mm", "0.3 mm").fits} == {"iso"}
    with pytest.raises(BadInput, match="3200 mm is larger than any standard fit"):
        find("3200 mm", "0 mm", "0.5 mm")


def test_a_window_out_of_order_is_refused() -> None:
    with pytest.raises(BadInput, match="is not below the greatest"):
        find("25 mm", "45 um", "5 um")


def test_inch_classes_end_where_their_table_ends() -> None:
    with pytest.raises(BadInput, match="larger than the inch classes go"):
        calculation_named("find_fit").run(
            {**calculation_named("find_fit").example, "fit_system": "inch", "nominal": "20 in"}
        )
