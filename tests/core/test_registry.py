"""Every calculation keeps the contract: documented, runnable, and strict about its input."""

import inspect
from decimal import Decimal

import pytest

from nomisma.core.calculation import BadInput, Calculation
from nomisma.core.cutting.speeds import SpeedsResult
from nomisma.core.quantity.fields import celsius
from nomisma.core.registry import calculation_named, calculations

ALL = list(calculations().values())


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_its_example_runs_and_survives_json(calculation: Calculation) -> None:
    result = calculation.run(calculation.example)
    written = result.model_dump_json()
    assert type(result).model_validate_json(written).model_dump_json() == written


@pytest.mark.parametrize("calculation", ALL, ids=lambda c: c.name)
def test_its_docstring_names_a_source_and_what_it_raises(calculation: Calculation) -> None:
    text = inspect.getdoc(calculation.function) or ""
    assert "Source:" in text
    assert "Raises" in text or calculation.name == "measuring_uncertainty"


def test_an_unknown_name_lists_the_known_ones() -> None:
    with pytest.raises(
        BadInput,
        match=(
            "amount_to_take, assembly, batch, belt, blank, boring_bar, bush, centre_drill, centre_grinding, chain,"
            " chatter, clean_up"
        ),
    ):
        calculation_named("fitt")


@pytest.mark.parametrize(
    ("text", "degrees"), [("68 F", "20"), ("68 °F", "20"), ("20", "20"), ("-4 f", "-20"), ("24,5 °C", "24.5")]
)
def test_a_temperature_is_read_as_it_is_written(text: str, degrees: str) -> None:
    assert celsius(text) == Decimal(degrees)


def test_a_calculation_takes_fahrenheit_and_feet_a_minute() -> None:
    warm = calculation_named("interference")
    hot, same = (
        warm.run({**warm.example, "temperature_c": degrees}).model_dump()["cases"] for degrees in ("140 F", 60)
    )
    assert hot == same
    speed = calculation_named("speeds").run({"diameter": "1 in", "surface_m_min": "100 ft/min"})
    assert isinstance(speed, SpeedsResult)
    assert speed.wanted_rpm == pytest.approx(30.48 * 1000 / (3.14159265 * 25.4), rel=1e-6)
