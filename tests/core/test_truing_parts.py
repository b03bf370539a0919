"""The parts of truing: surfaces and their places, a round as seen, tapping, levels, and what a hand does with the advice."""

from decimal import Decimal
from math import cos, hypot, radians, sin
from random import Random
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.practice.chuck import FEEL_WORDS, Feel, SimulatedChuck
from nomisma.core.practice.follow import advice, follow, make_move
from nomisma.core.practice.levels import FAR_MM, levels
from nomisma.core.registry import calculation_named
from nomisma.core.truing.seen import seen_ends, seen_round
from nomisma.core.truing.surface import place_name, places_of, sense_of, surfaces, uses
from nomisma.core.truing.turn_words import towards, turns_in_words

AT_JAWS = (0.0, 90.0, 180.0, 270.0)


def off(x: float, y: float, *, at: tuple[float, ...] = AT_JAWS, sense: int = 1, **more: Any) -> Any:
    """A round piece standing off by x and y mm, as an indicator sees it."""
    readings = [sense * (x * cos(radians(a)) + y * sin(radians(a))) for a in at]
    return seen_round(at, readings, **{"sense": sense, "drift": (0.0, 0.0), "noise": 0.0, **more})


@pytest.mark.parametrize("name", sorted(surfaces()))
def test_places_go_round_from_jaw_1_in_order(name: str) -> None:
    kind = surfaces()[name]
    for count in kind.counts:
        at = [place.at_deg for place in places_of(name, count, teeth=48)]
        assert at[0] == 0
        assert at == sorted(at)
        assert len(at) == count
        assert at[-1] < 360
    assert kind.how.endswith(".")


@pytest.mark.parametrize("name", ["bore", "rim_inside", "pins_inside"])
def test_holes_read_the_other_way(name: str) -> None:
    assert sense_of(name) == -1


@pytest.mark.parametrize(("at", "name"), [(0.0, "jaw 1"), (45.0, "1–2"), (225.0, "3–4"), (330.0, "330°"), (360.0, "jaw 1")])
def test_a_place_is_called_as_it_is_read_out(at: float, name: str) -> None:
    assert place_name(at) == name


@pytest.mark.parametrize(
    ("name", "count", "teeth", "sentence"), [("square", 8, 0, "8 places do not go round"), ("pins", 4, 3, "teeth")]
)
def test_places_that_are_none_have_their_sentence(name: str, count: int, teeth: int, sentence: str) -> None:
    with pytest.raises(InputError, match=sentence):
        places_of(name, count, teeth=teeth)


def test_uses_say_which_steps_are_the_tools_own() -> None:
    assert [one.unsure for one in uses().values()] == [False, True, False, True]
    assert float(uses()["second_operation"].total_indicator_reading.value("in")) == 0.0005


@given(st.floats(-1, 1), st.floats(-1, 1), st.sampled_from([1, -1]))
def test_where_the_work_stands_is_seen_from_either_side(x: float, y: float, sense: int) -> None:
    found = off(x, y, sense=sense)
    assert (found.x, found.y) == pytest.approx((x, y), abs=1e-9)
    assert found.offset == pytest.approx(hypot(x, y), abs=1e-9)


def test_work_off_between_two_jaws_swings_more_than_the_needle_shows_at_them() -> None:
    found = off(0.1, 0.1)
    assert found.raw_total_indicator_reading == pytest.approx(0.2)
    assert found.total_indicator_reading == pytest.approx(2 * hypot(0.1, 0.1))


def test_a_difference_within_the_doubt_is_not_chased() -> None:
    assert off(0.010, 0.001, noise=0.002).total_indicator_reading == pytest.approx(0.020)


@given(st.floats(-0.05, 0.05), st.floats(-0.05, 0.05), st.floats(-0.02, 0.02), st.floats(-0.02, 0.02))
def test_after_tightening_it_stands_where_the_drift_takes_it(x: float, y: float, dx: float, dy: float) -> None:
    found = off(x, y, drift=(dx, dy))
    assert found.offset_then == pytest.approx(hypot(x + dx, y + dy), abs=1e-9)
    assert found.at(0, -dx, -dy) == pytest.approx(found.round.left[0] - dx, abs=1e-9)


@given(st.floats(0.001, 2), st.floats(0, 359.9), st.sampled_from([1, -1]))
def test_highest_and_lowest_say_the_same_offset(total_indicator_reading: float, at: float, sense: int) -> None:
    found = seen_ends(total_indicator_reading, at, sense=sense, drift=(0.0, 0.0), noise=0.001)
    assert 2 * found.offset == pytest.approx(total_indicator_reading)
    assert found.shape is None
    way = found.direction_deg if sense == 1 else (found.direction_deg + 180) % 360
    assert abs((way - at + 180) % 360 - 180) < 1e-6


@pytest.mark.parametrize("count", [4, 8, 12, 24])
def test_more_places_leave_less_doubt_of_the_offset(count: int) -> None:
    at = tuple(360 * n / count for n in range(count))
    assert off(0.1, 0.0, at=at, noise=0.002).offset_uncertainty == pytest.approx(4 * 0.002 * (2 / count) ** 0.5)


@given(st.floats(0, 359.99))
def test_a_direction_names_the_jaw_it_is_nearest_to(at: float) -> None:
    words = towards(at)
    nearest = round(at / 90) % 4 + 1
    assert words.startswith("jaw") is (abs((at - 90 * round(at / 90) + 180) % 360 - 180) <= 22.5)
    assert str(nearest) in words


@given(st.floats(0.0001, 40))
def test_a_turn_is_always_said(turns: float) -> None:
    words = turns_in_words(turns)
    assert "turn" in words or "touch" in words


def test_every_feel_has_its_words() -> None:
    assert set(FEEL_WORDS) == set(Feel)


@pytest.mark.parametrize("name", sorted(levels()))
def test_every_level_starts_too_far_off_to_be_left_alone(name: str) -> None:
    level = levels()[name]
    for seed in range(20):
        held = SimulatedChuck(level, seed)
        assert held.offset() <= level.offset_mm
        assert held.total_indicator_reading() > float(level.target.mm)
        assert held.floor() <= held.total_indicator_reading()


def test_a_move_made_is_the_move_that_was_asked_for() -> None:
    held = SimulatedChuck(levels()["cast_rim"], 11)
    move = advice(held).moves[0]
    before = held.offset_along(move.drive_jaw)
    make_move(held, move, 1.0)
    assert before - held.offset_along(move.drive_jaw) == pytest.approx(float(move.move.mm), abs=0.01)
    assert all(one.gap < 0.05 for one in held.jaws.values())


def test_a_heavy_hand_takes_more_rounds_than_a_sure_one() -> None:
    level = levels()["round_bar"]
    chance = Random(5)
    sure = sum(follow(SimulatedChuck(level, seed), lambda: 1.0).rounds for seed in range(40))
    heavy = sum(follow(SimulatedChuck(level, seed), lambda: chance.uniform(0.5, 1.5)).rounds for seed in range(40))
    assert heavy > sure


def test_the_far_circle_of_a_leaning_piece_swings_by_its_lean() -> None:
    held = SimulatedChuck(levels()["leaning_sleeve"], 4)
    held.x = held.y = 0.0
    lean = hypot(held.lean_x, held.lean_y) * FAR_MM
    assert held.total_indicator_reading("far") == pytest.approx(2 * lean, abs=0.004)


# Three throws at 120° on one shaft: what each pair of jaws moves is the way between them.
def test_three_throws_bring_the_work_round_to_the_first_again() -> None:
    found = calculation_named("throw").run(
        {
            "throw": "10 mm", "towards_deg": 0, "diameter": "60 mm", "unit": "mm",
            "more": [{"throw": "10 mm", "towards_deg": 120}, {"throw": "10 mm", "towards_deg": 240}, {"throw": "10 mm", "towards_deg": 0}],
        }
    )  # fmt: skip
    x = y = 0.0
    for one in found.others:
        for words in one.moves:
            jaw = int(words.split("drive jaw ")[1][0])
            amount = float(Decimal(words.split("by ")[1].split()[0]))
            x += amount * {1: -1, 3: 1}.get(jaw, 0)
            y += amount * {2: -1, 4: 1}.get(jaw, 0)
    assert (x, y) == pytest.approx((0, 0), abs=2e-3)
    assert [round(float(one.aimed[0].reading.mm), 3) for one in found.others] == [-5.0, -5.0, 10.0]


@pytest.mark.parametrize("text", ["0.125", "0.125 at", "0.125 at noon", "0.125 at 120 at 240"])
def test_throws_that_are_none_have_their_sentence(text: str) -> None:
    from nomisma.web.worksheets.catalog import TOOLS

    with pytest.raises(InputError):
        TOOLS["throw"].inputs({"throw": "0.1", "diameter": "1", "more": text}, "in")


def test_throws_are_read_as_they_are_written() -> None:
    from nomisma.web.worksheets.catalog import TOOLS

    values = TOOLS["throw"].inputs({"throw": "0.1", "diameter": "1", "more": "0.125 at 120°; 3 mm at 240"}, "in")
    assert [one["towards_deg"] for one in values["more"]] == [120.0, 240.0]
    assert [str(one["throw"]) for one in values["more"]] == ["0.125 in", "3 mm"]


def test_a_wrong_place_list_is_refused_at_the_door() -> None:
    with pytest.raises(BadInput):
        calculation_named("round_check").run({"readings": ["0 in"], "graduation": "0.001 in"})
