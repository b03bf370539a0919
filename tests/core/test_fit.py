"""The fit calculation and its contract."""

import json
from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.fits.fit import FitInput, FitResult, fit
from nomisma.core.fits.iso286 import PREFERRED_FITS
from nomisma.core.registry import calculation_named

nominals = st.decimals("1", "500", places=2)


def answer(callout: str) -> dict[str, object]:
    return json.loads(calculation_named("fit").run({"callout": callout}).model_dump_json())


def test_the_first_contract_holds() -> None:
    found = answer("25 H7/g6")
    assert {key: found[key] for key in ("clearance_um", "kind")} == {
        "clearance_um": {"min": 7, "max": 41},
        "kind": "clearance",
    }
    for member, lower, upper in (("hole", 0, 21), ("shaft", -20, -7)):
        limits = found[member]
        assert isinstance(limits, dict)
        assert (limits["lower_um"], limits["upper_um"]) == (lower, upper)


def test_a_single_code_gives_the_one_member() -> None:
    found = answer("25 H7")
    assert "hole" in found
    assert not {"shaft", "clearance_um", "kind"} & set(found)


@pytest.mark.parametrize(
    ("callout", "kind"), [("25 H7/h6", "clearance"), ("25 H7/k6", "transition"), ("25 H7/s6", "interference")]
)
def test_the_kind_of_fit_follows_the_clearances(callout: str, kind: str) -> None:
    assert answer(callout)["kind"] == kind


@given(nominals, st.sampled_from(PREFERRED_FITS))
def test_clearances_are_the_differences_of_the_limits(nominal: Decimal, code: str) -> None:
    result = fit(FitInput(callout=f"{nominal} mm {code}"))
    assert isinstance(result, FitResult)
    assert result.hole is not None
    assert result.shaft is not None
    assert result.clearance_um is not None
    assert result.clearance_um.min * Decimal("0.001") == result.hole.lower_limit.mm - result.shaft.upper_limit.mm
    assert result.clearance_um.max * Decimal("0.001") == result.hole.upper_limit.mm - result.shaft.lower_limit.mm


@given(nominals)
def test_preferred_fits_run_from_loose_to_tight(nominal: Decimal) -> None:
    greatest = [fit(FitInput(callout=f"{nominal} mm {code}")).clearance_um.max for code in PREFERRED_FITS]
    assert greatest == sorted(greatest, reverse=True)


@given(nominals.filter(lambda size: size > 1), st.integers(1, 18))
def test_js_lies_evenly_about_the_nominal(nominal: Decimal, grade: int) -> None:
    hole = fit(FitInput(callout=f"{nominal} mm JS{grade}")).hole
    assert hole is not None
    assert hole.lower_um == -hole.upper_um


def test_an_inch_nominal_is_taken_in_inches() -> None:
    result = fit(FitInput(callout="7/8 in H7"))
    assert str(result.nominal) == "0.875 in"
    assert result.hole is not None
    assert result.hole.upper_um == 21


REFUSED = [
    ("", "Nothing was entered."),
    ("25", "“25” has a size but no fit code."),
    ("H7", "“h7” is not understood as a size."),
    ("25 Q7", "Q7 is not a code of ISO 286."),
    ("1 RC10", "RC10 is not a class of ANSI B4.1."),
    ("25 H19", "H19 has no such grade."),
    ("25 K9", "K9 is not defined at 25 mm."),
    ("51 CD7", "CD7 is not defined at 51 mm."),
    ("3151 H7", "3151 mm is outside the ISO 286 ranges."),
    ("24 t6", "t6 is not defined at 24 mm."),
    ("0.5 a11", "a11 is not used up to and including 1 mm."),
    ("-25 H7", "-25 is not a size: a size is above zero."),
    ("1e9 H7", "“1e9” is written with an exponent."),
]


@pytest.mark.parametrize(("callout", "problem"), REFUSED)
def test_what_the_tables_do_not_hold_is_refused_with_the_reason(callout: str, problem: str) -> None:
    with pytest.raises(BadInput) as refused:
        answer(callout)
    (error,) = refused.value.errors
    assert error.problem == problem
