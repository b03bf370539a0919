"""Will it go together, from readings of both."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.joints.feel import feel_of, feels
from nomisma.core.joints.mating import MatingResult
from nomisma.core.registry import calculation_named


def member(*sizes: str, places: tuple[str, ...] = ("mouth 0°", "mouth 90°", "deep 0°"), **more: Any) -> dict[str, Any]:
    readings = [{"place": place, "size": f"{size} in"} for place, size in zip(places, sizes, strict=False)]
    return {"readings": readings, "uncertainty": "0.0002 in", "shared_uncertainty": "0.00015 in", **more}


def mating_of(bore: dict[str, Any], shaft: dict[str, Any], **more: Any) -> MatingResult:
    found = calculation_named("mating").run({"bore": bore, "shaft": shaft, **more})
    assert isinstance(found, MatingResult)
    return found


def test_the_smallest_bore_meets_the_largest_shaft() -> None:
    found = mating_of(member("0.8756", "0.8757", "0.8754"), member("0.8747", "0.8748", "0.8746"))
    assert str(found.clearance_min) == "0.0006 in"
    assert str(found.clearance_max) == "0.0011 in"
    assert (found.binds_bore_at, found.binds_shaft_at) == ("deep 0°", "mouth 90°")


def test_one_instrument_for_both_makes_the_clearance_better_known_than_either_size() -> None:
    apart = mating_of(member("0.8756"), member("0.8747"))
    together = mating_of(member("0.8756"), member("0.8747"), same_instrument=True)
    assert together.uncertainty.mm < Decimal("0.0002") * Decimal("25.4")
    assert together.uncertainty.mm < apart.uncertainty.mm
    assert float(apart.uncertainty.mm) == pytest.approx(0.0002 * 25.4 * 2**0.5, rel=1e-6)


# Common practice, no source: near 7/8 in a snug slip is 0.0005 to 0.0010 in; 0.001 in plus 0.001 in/in runs.
@pytest.mark.parametrize(
    ("clearance_in", "feel"),
    [
        ("-0.0010", "press"),
        ("0", "wring"),
        ("0.0003", "push"),
        ("0.00075", "slide"),
        ("0.00095", "slide"),
        ("0.00188", "run"),
        ("0.006", "shake"),
    ],
)
def test_the_feel_near_seven_eighths(clearance_in: str, feel: str) -> None:
    assert feel_of(Decimal(clearance_in) * Decimal("25.4"), Decimal("22.225")).name == feel


@given(st.floats(1, 300), st.floats(-0.2, 0.5), st.floats(0, 0.2))
def test_more_clearance_never_feels_tighter(diameter: float, clearance: float, more: float) -> None:
    names = [feel.name for feel in feels()]
    at = Decimal(repr(diameter))
    tight, loose = (feel_of(Decimal(repr(value)), at).name for value in (clearance, clearance + more))
    assert names.index(tight) <= names.index(loose)


def test_two_ovals_are_turned_large_into_large() -> None:
    bore = member("0.8760", "0.8754", places=("mouth 0°", "mouth 90°"))
    shaft = member("0.8745", "0.8750", places=("near end 0°", "near end 90°"))
    found = mating_of(bore, shaft)
    assert found.turn_by_deg == 90
    assert any("turn the shaft by 90°" in line for line in found.advice)


def test_too_close_to_say_is_said() -> None:
    found = mating_of(member("0.8750"), member("0.8750"))
    assert "too close to say" in found.sentence
    assert float(found.goes_on_percent) == pytest.approx(50)


def test_an_aluminium_bore_opens_when_it_is_warm() -> None:
    cold = mating_of(member("0.8756"), member("0.8750"))
    warm = mating_of(member("0.8756", material="aluminium_6061", working_c=60), member("0.8750", working_c=60))
    gain = 22.2377 * (23.6e-6 - 11.5e-6) * 40
    assert float(warm.warm_min.mm - cold.clearance_min.mm) == pytest.approx(gain, rel=0.02)


@pytest.mark.parametrize(
    ("bore", "shaft", "sentence"),
    [
        (member("0.8756"), member("0.4"), "are no pair"),
        (member("0.8756", shared_uncertainty="0.001 in"), member("0.875"), "not within the whole"),
        (member("0.8756", working_c=900), member("0.875"), "Working temperatures go from"),
        (member("0.8756", material="cheese"), member("0.875"), "is not in the table of materials"),
    ],
)
def test_what_cannot_be_has_its_sentence(bore: dict[str, Any], shaft: dict[str, Any], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        mating_of(bore, shaft)
