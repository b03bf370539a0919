"""What stands beside a step: its speed and its time; nothing unsafe, nothing claimed of what nobody knows."""

from decimal import Decimal
from math import pi
from typing import Any, get_args

import pytest

from nomisma.core.materials.material import materials
from nomisma.core.metal.cut import Cut, CutKind, Tool
from nomisma.core.operations.operations import Operation, OperationKind, operation_rows
from nomisma.core.planning.sheet import Run, minutes_of, rpm_of, run_of

KINDS: tuple[OperationKind, ...] = get_args(OperationKind)
TURN = Operation("turn", ("A",), Decimal(20), Decimal(40))


def cut(kind: CutKind = "turn", long: int = 40, before: int = 22, after: int = 20, **more: Any) -> Cut:
    return Cut(kind, ("A",), Decimal(0), Decimal(long), Decimal(before), Decimal(after), **more)


def run(one: Operation = TURN, *cuts: Cut, **given: Any) -> Run | None:
    said: dict[str, Any] = {"material": "mild_steel", "machine_speeds": "", "most_rpm": None, **given}
    return run_of(one, cuts or (cut(),), **said)


@pytest.mark.parametrize("kind", KINDS)
def test_every_operation_has_its_caution(kind: OperationKind) -> None:
    assert len(operation_rows()[kind].caution) > 20


def test_the_rim_runs_at_the_surface_speed_it_says() -> None:
    """The largest diameter that is being cut decides: 22, which is turned to 20."""
    found = run()
    assert found
    assert found.surface_m_min == pytest.approx(pi * 22 * found.rpm / 1000)


def test_a_drill_runs_at_its_own_speed_and_a_facing_cut_at_the_rims() -> None:
    drill = cut("drill", before=0, after=10, tool=Tool("drill", diameter_mm=Decimal(10)))
    small, large = (
        rpm_of(Operation("drill"), one, material="mild_steel")
        for one in (drill, cut("drill", after=20, tool=Tool("drill", diameter_mm=Decimal(20))))
    )
    assert small
    assert large
    assert small == pytest.approx(2 * large, abs=1)
    assert rpm_of(Operation("deburr"), Cut("deburr"), material="mild_steel") is None


def test_the_machines_and_the_chucks_speeds_hold_it_down() -> None:
    found = run(machine_speeds="60 140 250 400 800", most_rpm=300)
    assert found
    assert found.rpm == 250


def test_a_material_nobody_knows_is_begun_slower() -> None:
    sure, unsure = run(), run(cautious=True)
    assert sure
    assert unsure
    assert unsure.rpm == pytest.approx(sure.rpm * 0.67, rel=0.01)


@pytest.mark.parametrize("material", materials())
def test_every_material_of_the_table_has_a_speed(material: str) -> None:
    assert run(material=material)


def test_by_hand_there_is_no_speed() -> None:
    assert run(Operation("deburr")) is None


def test_the_time_is_length_over_feed_and_speed_and_what_is_usual_beside() -> None:
    """40 mm at 0.08 mm a turn and 500 rpm is one minute; half a minute to begin, one and a half to measure, one for
    another tool.
    """
    assert minutes_of(TURN, [cut()], Run(500, 31), new_tool=False) == pytest.approx(3)
    assert minutes_of(TURN, [cut()], Run(500, 31), new_tool=True) == pytest.approx(4)


def test_roughing_takes_as_long_as_its_passes() -> None:
    rough = Operation("rough_turn", ("A",), Decimal(20), Decimal(40))
    one, three = (
        minutes_of(rough, [cut("rough_turn", passes=passes)], Run(500, 31), new_tool=False) - 0.5 for passes in (1, 3)
    )
    assert three == pytest.approx(3 * one)


def test_facing_and_grooving_travel_in_from_the_rim() -> None:
    """From 47 to the middle: 23.5 mm at 0.12 mm a turn and 200 rpm."""
    found = minutes_of(Operation("face"), [cut("face", long=1, before=47, after=0)], Run(200, 30), new_tool=False)
    assert found == pytest.approx(0.5 + 23.5 / (0.12 * 200))
