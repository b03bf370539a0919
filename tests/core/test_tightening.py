"""What tightening does, learned per chuck; soft jaws; several throws."""

from random import Random
from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.registry import calculation_named
from nomisma.core.truing.seen import Stop


def tightening(*pairs: tuple[float, float]) -> Any:
    """Movements in thou, towards jaw 1 and jaw 2."""
    columns = [[f"{pair[axis] / 1000:.5f} in" for pair in pairs] for axis in (0, 1)]
    return calculation_named("tightening").run({"towards_1": columns[0], "towards_2": columns[1], "unit": "in"})


def test_a_habit_is_said_with_the_jaw_it_goes_to() -> None:
    found = tightening((0, 0.3), (0.05, 0.3), (-0.05, 0.35))
    assert found.counts
    assert found.sentence == "This chuck moves the work 0.32 thou towards jaw 2 when it is tightened (seen 3 times)."


def test_twice_is_too_seldom_to_count_on() -> None:
    found = tightening((0, 0.3), (0, 0.3))
    assert not found.counts
    assert "too seldom" in found.sentence


def test_movements_every_way_are_no_habit() -> None:
    found = tightening((0.3, 0), (-0.3, 0), (0, 0.3), (0, -0.3))
    assert not found.counts
    assert "no way in particular" in found.sentence


@pytest.mark.parametrize("times", [3, 5, 12])
def test_a_chuck_without_a_habit_is_seldom_said_to_have_one(times: int) -> None:
    """2,000 chucks that move the work any way at all: one in twenty, within what 2,000 can show."""
    chance = Random(times)
    found = sum(
        tightening(*((chance.gauss(0, 0.3), chance.gauss(0, 0.3)) for _ in range(times))).counts for _ in range(2000)
    )
    assert 70 <= found <= 135


def test_both_directions_are_needed() -> None:
    with pytest.raises(BadInput, match="one towards jaw 2"):
        calculation_named("tightening").run({"towards_1": ["0 in"], "towards_2": ["0 in", "0 in"]})


BASE = {"target": "0.0005 in", "screw_lead": "0.125 in", "graduation": "0.0001 in"}


def advised(thou: list[float], **more: Any) -> Any:
    return calculation_named("true_up").run({"readings": [f"{one / 1000:.5f} in" for one in thou], **BASE, **more})


def test_the_work_is_left_off_by_what_tightening_will_add() -> None:
    """0.3 thou towards jaw 2 to come: the work is left 0.3 thou towards jaw 4."""
    found = advised([5, 5, 5, 5], drift_towards_2="0.0003 in")
    assert found.stop is Stop.MOVE
    assert [(move.ease_jaw, move.drive_jaw) for move in found.moves] == [(4, 2)]
    left_off = advised([5, 4.7, 5, 5.3], drift_towards_2="0.0003 in")
    assert left_off.stop is Stop.TRUE
    assert [float(one.value("in")) * 1000 for one in found.expected] == pytest.approx([5, 4.7, 5, 5.3])


def test_once_tightened_the_habit_counts_no_more() -> None:
    assert advised([5, 5, 5, 5], drift_towards_2="0.0003 in", tightened=True).stop is Stop.TRUE
    assert "Tighten" not in " ".join(advised([5, 5, 5, 5], tightened=True).steps)


def test_six_flats_of_a_hexagon_are_read_at_their_own_angles() -> None:
    at = [0.0, 60.0, 120.0, 180.0, 240.0, 300.0]
    found = advised([4, 2, -2, -4, -2, 2], surface="hex", at_deg=at)
    assert float(found.offset.value("in")) == pytest.approx(0.004)
    assert [(move.ease_jaw, move.drive_jaw) for move in found.moves] == [(3, 1)]
    assert "corners" in found.unseen[0]


def test_places_that_leave_half_the_turn_unread_are_refused() -> None:
    with pytest.raises(BadInput, match="do not go round the work"):
        advised([1, 2, 3], at_deg=[0.0, 30.0, 60.0])


def soft_jaws(**given: str) -> Any:
    return calculation_named("soft_jaws").run(given)


@pytest.mark.parametrize(
    ("given", "state", "words"),
    [
        ({"held": "2.25 in"}, "to_do", "Bore the jaws to 2.2500 in to 2.2510 in"),
        ({"held": "2.25 in", "bored": "2.2505 in"}, "good", "holds 2.25 in all along the arc"),
        ({"held": "2.25 in", "bored": "2.240 in"}, "more_to_cut", "0.0100 in still to cut"),
        (
            {"held": "2.25 in", "bored": "2.254 in", "preload": "1.75 in"},
            "start_again",
            "Reset the preload smaller to 1.7260 in",
        ),
        (
            {"held": "50 mm", "grip": "inside", "bored": "49.9 mm", "preload": "30 mm", "unit": "mm"},
            "start_again",
            "larger to 30.608 mm",
        ),
    ],
)
def test_soft_jaws_say_what_to_do(given: dict[str, str], state: str, words: str) -> None:
    found = soft_jaws(**given)
    assert found.state == state
    assert words in f"{found.headline} {found.sentence}"
    assert "preload" in " ".join(found.steps)


def test_a_round_too_small_for_jaws_inside_is_refused() -> None:
    with pytest.raises(BadInput, match="do not go into a bore"):
        soft_jaws(held="0.001 in", grip="inside")


THROW = {"throw": "0.125 in", "diameter": "1.5 in"}


def test_the_next_throw_says_how_each_pair_moves() -> None:
    found = calculation_named("throw").run({**THROW, "more": [{"throw": "0.125 in", "towards_deg": 180}]})
    # The work goes from jaw 1's side to jaw 3's: jaw 1 pushes it there.
    assert found.others[0].moves == ["Ease jaw 3, drive jaw 1, by 0.2500 in."]
    assert [round(float(one.reading.value("in")), 4) for one in found.others[0].aimed] == [-0.125, 0, 0.125, 0]


def test_what_is_out_of_balance_pulls() -> None:
    found = calculation_named("throw").run(
        {"throw": "10 mm", "diameter": "60 mm", "unit": "mm", "mass_kg": 2, "speed_rpm": 300}
    )
    assert found.pull_n == pytest.approx(2 * 0.010 * (2 * 3.141592653589793 * 5) ** 2)
    assert "counterweight it" in found.cautions[0]


def test_a_speed_above_the_chucks_is_refused() -> None:
    with pytest.raises(BadInput, match="above the 900 rpm marked"):
        calculation_named("throw").run({**THROW, "speed_rpm": 1000, "chuck_rpm": 900})


def test_a_further_throw_past_the_round_is_refused() -> None:
    with pytest.raises(BadInput, match="outside a round"):
        calculation_named("throw").run({**THROW, "more": [{"throw": "1 in"}]})
