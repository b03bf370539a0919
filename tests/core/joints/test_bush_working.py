"""The rules a bush goes by, and its working, which can be followed by hand."""

from decimal import Decimal

import pytest

from nomisma.core.joints.bush_model import BushInput, BushResult
from nomisma.core.joints.bush_working import press_rule, rule_of, run_rule
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named
from tests.core.joints.test_bush_model import GIVEN


@pytest.mark.parametrize(("size", "name"), [("31.75", "small_bush_press"), ("80", "press_thin")])
def test_a_large_bush_is_pressed_by_the_rule_of_a_thin_housing(size: str, name: str) -> None:
    assert press_rule(BushInput.model_validate(GIVEN), Decimal(size)).name == name


@pytest.mark.parametrize(("size", "name"), [("25.4", "small_bush_running"), ("25.5", "running")])
def test_above_an_inch_a_bush_runs_by_the_rule_of_plain_bearings(size: str, name: str) -> None:
    assert run_rule(BushInput.model_validate(GIVEN), Decimal(size)).name == name


def test_the_shops_own_version_of_a_rule_counts() -> None:
    rule = rule_of(BushInput.model_validate(GIVEN), "small_bush_press").model_copy(update={"note": "ours"})
    assert rule_of(BushInput.model_validate({**GIVEN, "shop_rules": [rule]}), "small_bush_press").note == "ours"


def test_how_far_the_small_bushs_rule_goes_is_the_rules_own_range() -> None:
    shorter = rule_of(BushInput.model_validate(GIVEN), "small_bush_press").model_copy(
        update={"to_size": Length.of("15", "mm")}
    )
    given = BushInput.model_validate({**GIVEN, "shop_rules": [shorter]})
    assert (press_rule(given, Decimal(15)).name, press_rule(given, Decimal(16)).name) == (
        "small_bush_press",
        "press_thin",
    )


def test_every_step_of_the_working_has_a_source_and_the_wanted_interference_is_among_them() -> None:
    found = calculation_named("bush").run(GIVEN)
    assert isinstance(found, BushResult)
    assert all(step.source for step in found.working)
    assert "Interference wanted" in [step.name for step in found.working]
