"""What a worksheet's answer hands on to the plan of assembly."""

import pytest

from nomisma.core.errors import InputError
from nomisma.core.joints.assembly_inputs import assembly_inputs
from nomisma.core.joints.bush_model import BushResult
from nomisma.core.joints.interference import InterferenceResult
from nomisma.core.joints.shrink import ShrinkResult
from nomisma.core.registry import calculation_named


def test_a_bush_hands_on_its_forces_and_when_it_is_finished() -> None:
    calculation = calculation_named("bush")
    answer = calculation.run(calculation.example)
    found = assembly_inputs("press", answer)
    assert isinstance(answer, BushResult)
    assert found["is_bush"]
    assert found["finish_after"] is (answer.order == "after")
    assert float(found["force_least_n"]) < float(found["force_greatest_n"])


def test_a_press_hands_on_the_force_of_the_least_and_the_greatest_interference() -> None:
    calculation = calculation_named("interference")
    answer = calculation.run({**calculation.example, "interference_max": "0.0014 in"})
    assert isinstance(answer, InterferenceResult)
    forces = [one.press_in_n for one in answer.cases]
    found = assembly_inputs("press", answer)
    assert (found["force_least_n"], found["force_greatest_n"]) == (f"{forces[0]:.1f}", f"{forces[-1]:.1f}")


def test_a_press_that_is_overstressed_is_not_planned() -> None:
    calculation = calculation_named("interference")
    over = calculation.run({**calculation.example, "interference_max": "0.02 in"})
    with pytest.raises(InputError, match="overstressed"):
        assembly_inputs("press", over)


def test_a_shrink_hands_on_its_temperatures_and_its_seconds() -> None:
    calculation = calculation_named("shrink")
    answer = calculation.run(calculation.example)
    found = assembly_inputs("shrink", answer)
    assert isinstance(answer, ShrinkResult)
    best = next(one for one in answer.methods if one.method == answer.recommended)
    assert found["hub_c"] == f"{best.hub_c or 20:.1f}"
    assert float(found["hub_c"]) > 100
    assert float(found["seconds"]) > 0
