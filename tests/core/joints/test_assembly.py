"""The steps of putting a joint together, and what each method must be told."""

from typing import Any

import pytest

from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.joints.assembly import AssemblyInput, assembly


def steps(**given: Any) -> str:
    return " ".join(one.text for one in assembly(AssemblyInput(**given)).steps)


@pytest.mark.parametrize(
    "given",
    [
        {"method": "push"},
        {"method": "press", "force_greatest_n": 6900},
        {"method": "shrink", "hub_c": 180},
        {"method": "bond"},
    ],
)
def test_every_method_begins_with_marking_and_clean_edges(given: dict[str, Any]) -> None:
    found = steps(**given)
    assert found.startswith("Mark both parts")
    assert "Deburr" in found


def test_a_bush_finished_after_pressing_is_bored_then() -> None:
    given = {"method": "press", "force_greatest_n": 6900, "is_bush": True}
    assert "ream" in steps(**given, finish_after=True).lower() or "bore it" in steps(**given, finish_after=True).lower()


def test_a_press_stands_its_caution_where_the_force_is() -> None:
    found = assembly(AssemblyInput(method="press", force_greatest_n=6900))
    assert any("stand aside" in one.caution for one in found.steps)


def test_the_force_is_said_in_both_units() -> None:
    found = assembly(AssemblyInput(method="press", force_least_n=3000, force_greatest_n=6900))
    assert "kN" in found.headline
    assert "lbf" in found.headline


@pytest.mark.parametrize(
    ("given", "error", "field"),
    [
        ({"method": "press"}, InputError, "force_greatest_n"),
        ({"method": "press", "force_least_n": 7000, "force_greatest_n": 6900}, OutOfRange, "force_greatest_n"),
        ({"method": "press", "force_greatest_n": -1}, OutOfRange, "force_greatest_n"),
        ({"method": "shrink"}, InputError, "hub_c"),
    ],
)
def test_a_method_without_its_figures_asks_for_them(given: dict[str, Any], error: type[InputError], field: str) -> None:
    with pytest.raises(error) as refused:
        assembly(AssemblyInput(**given))
    assert refused.value.field == field


def test_cold_and_hot_have_their_own_cautions() -> None:
    cold = assembly(AssemblyInput(method="shrink", hub_c=20, shaft_c=-196))
    hot = assembly(AssemblyInput(method="shrink", hub_c=180))
    said = [" ".join([*found.cautions, *(one.caution for one in found.steps)]) for found in (cold, hot)]
    assert "air out of the room" in said[0].lower()
    assert "glove" in said[1].lower()


def test_a_press_that_knows_its_lead_says_how_long_and_how_flat() -> None:
    assert "a lead 3.000 mm (0.1181 in) long at 5° or flatter" in steps(
        method="press", force_greatest_n=6900, press_lead="3 mm"
    )
