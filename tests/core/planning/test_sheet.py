"""What stands beside a step: its speed, its time, how it is held; nothing unsafe, nothing claimed of what
nobody knows.
"""

from decimal import Decimal
from math import pi
from typing import Any, get_args

import pytest

from nomisma.core.materials.material import materials
from nomisma.core.planning.operations import Operation, OperationKind, operation_rows
from nomisma.core.planning.set_ups import Worked
from nomisma.core.planning.sheet import Run, held_words, minutes_of, run_of
from nomisma.core.planning.workpiece import Workpiece

KINDS: tuple[OperationKind, ...] = get_args(OperationKind)
TURN = Operation("turn", ("A",), Decimal(20), Decimal(40))


def bar(across: int, opened: int = 0) -> Workpiece:
    return Workpiece(Decimal(across), Decimal(across), Decimal(opened))


def run(one: Operation = TURN, **given: Any) -> Run | None:
    said: dict[str, Any] = {
        "material": "mild_steel",
        "workpiece": bar(25),
        "machine_speeds": "",
        "most_rpm": None,
        **given,
    }
    return run_of(one, **said)


@pytest.mark.parametrize("kind", KINDS)
def test_every_operation_has_its_caution(kind: OperationKind) -> None:
    assert len(operation_rows()[kind].caution) > 20


def test_the_rim_runs_at_the_surface_speed_it_says() -> None:
    found = run()
    assert found
    assert found.surface_m_min == pytest.approx(pi * 20 * found.rpm / 1000)


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
    assert minutes_of(TURN, Run(500, 31), workpiece=bar(22), new_tool=False) == pytest.approx(3)
    assert minutes_of(TURN, Run(500, 31), workpiece=bar(22), new_tool=True) == pytest.approx(4)


def test_roughing_takes_as_many_passes_as_there_is_metal() -> None:
    rough = Operation("rough_turn", ("A",), Decimal(20), Decimal(40))
    one, three = (minutes_of(rough, Run(500, 31), workpiece=bar(stock), new_tool=False) - 0.5 for stock in (23, 29))
    assert three == pytest.approx(3 * one)


def test_a_bore_is_roughed_from_the_hole_that_was_drilled() -> None:
    """From 17 to 23 at 3 mm a pass: two passes of 40 mm at 0.15 mm a turn and 300 rpm."""
    found = minutes_of(
        Operation("rough_bore", ("B",), Decimal(23), Decimal(40)), Run(300, 20), workpiece=bar(90, 17), new_tool=False
    )
    assert found == pytest.approx(0.5 + 2 * 40 / (0.15 * 300))


def test_the_boss_of_a_casting_is_faced_across_itself_and_no_faster_than_its_rim_may_go() -> None:
    casting = Workpiece(Decimal(182), Decimal(47), skin_mm=Decimal("1.5"))
    face = Operation("face")
    assert minutes_of(face, Run(200, 30), workpiece=casting, new_tool=False) == pytest.approx(0.5 + 23.5 / (0.12 * 200))
    as_bar, as_casting = run(face, workpiece=bar(182)), run(face, workpiece=casting)
    assert as_bar
    assert as_casting
    assert as_bar.rpm < as_casting.rpm


@pytest.mark.parametrize("worked", get_args(Worked))
def test_each_way_of_holding_says_what_is_looked_at_first(worked: Worked) -> None:
    assert len(held_words(worked, "A")) >= 3


def test_a_finished_surface_is_not_gripped_bare() -> None:
    assert "soft jaws" in held_words("left", "A")[0]
    assert "soft jaws" not in held_words("right", "")[0]


def test_a_casting_is_begun_on_its_skin_and_goes_on_like_any_other() -> None:
    assert (
        held_words("left", "", with_skin=True)[0]
        == "Hold it on its skin just to make a good outside; the rest is held on that."
    )
    assert held_words("right", "C", with_skin=True) == held_words("right", "C")


def test_the_spare_end_stays_rough_while_the_stock_itself_is_held() -> None:
    spare = "The spare end stays rough: if the piece is spoiled, it can be turned round and begun again."
    assert spare in held_words("right", "")
    assert spare not in held_words("left", "A")
