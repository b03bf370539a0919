"""True up, tilt and throw: what is said, when it says stop, and what is caught."""

from math import cos, radians
from random import Random
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.registry import calculation_named
from nomisma.core.truing.four_jaw import TrueUpResult
from nomisma.core.truing.seen import Stop
from nomisma.core.truing.turn_words import turns_in_words

BASE = {"target": "0.0005 in", "screw_lead": "0.125 in", "graduation": "0.0005 in"}


def round_of(*thou: float, **more: Any) -> TrueUpResult:
    values = {"readings": [f"{value / 1000:.5f} in" for value in thou], **BASE, **more}
    found = calculation_named("true_up").run({key: value for key, value in values.items() if value is not None})
    assert isinstance(found, TrueUpResult)
    return found


def test_opposite_pairs_are_independent_and_the_larger_move_comes_first() -> None:
    found = round_of(12, 5, 0, 11)
    assert [(move.ease_jaw, move.drive_jaw) for move in found.moves] == [(3, 1), (2, 4)]
    assert [float(move.move.value("in")) for move in found.moves] == pytest.approx([0.006, 0.003])
    assert found.headline == "Ease jaw 3, drive jaw 1"
    assert "then drive jaw 1 by the same" in found.steps[0]


def test_a_bore_is_read_the_other_way_round() -> None:
    outside, bore = round_of(12, 6, 0, 6), round_of(12, 6, 0, 6, surface="bore")
    assert (outside.moves[0].ease_jaw, outside.moves[0].drive_jaw) == (3, 1)
    assert (bore.moves[0].ease_jaw, bore.moves[0].drive_jaw) == (1, 3)


def test_what_the_needle_should_say_afterwards_is_said() -> None:
    found = round_of(12, 6, 0, 6)
    assert found.moves[0].reads_now is not None
    assert found.moves[0].reads_after is not None
    assert float(found.moves[0].reads_after.value("in")) == pytest.approx(0.006)
    assert "At jaw 1 the needle goes from 0.0120 in to about 0.0060 in." in found.steps


def test_two_keys_turn_together() -> None:
    assert "Both keys together: ease jaw 3, drive jaw 1" in round_of(12, 6, 0, 6, keys="two").steps[0]


def test_an_oval_bar_is_the_work_and_not_the_chuck() -> None:
    found = round_of(4, 0, 4, 0)
    assert found.stop is Stop.WORK_NOT_CHUCK
    assert found.headline == "Stop: this is the work, not the chuck"
    assert found.shape_words == "oval"
    assert found.shape is not None
    assert float(found.shape.value("in")) == pytest.approx(0.004)
    assert found.moves == []


def test_it_does_not_say_stop_while_the_chuck_can_still_do_something() -> None:
    found = round_of(10, 2, 4, 2)
    assert found.stop is Stop.MOVE
    assert found.moves


def test_eight_readings_tell_three_lobes_from_offset() -> None:
    from math import cos, pi

    lobes = [2 * cos(3 * n * pi / 4) for n in range(8)]
    found = round_of(*lobes)
    assert found.stop is Stop.WORK_NOT_CHUCK
    assert found.shape_words == "three-lobed"


def test_four_readings_say_what_they_cannot_see() -> None:
    assert any("three lobes look like offset" in line for line in round_of(12, 6, 0, 6).unseen)


def test_highest_and_lowest_alone_give_the_first_move() -> None:
    found = round_of(highest="0.020 in", lowest="0 in", highest_at_deg=90, readings=[])
    assert [(move.ease_jaw, move.drive_jaw) for move in found.moves] == [(4, 2)]
    assert "do not tell offset from shape" in found.unseen[0]


def test_a_coarse_indicator_is_not_chased() -> None:
    found = round_of(0.1, 0, 0, 0.05, graduation="0.001 in", target="0.00005 in")
    assert found.stop is Stop.TOO_COARSE
    assert "finer" in found.headline


@pytest.mark.parametrize(
    ("more", "sentence"),
    [
        ({"readings": ["0 in"] * 5}, "do not meet all four jaws"),
        ({"readings": ["0 in"] * 3}, "do not meet all four jaws"),
        ({"readings": []}, "One round is needed"),
        ({"readings": ["0 in", "0.4 in", "0 in", "0 in"], "range": "0.03 in"}, "it has gone round or run out"),
        ({"readings": ["0 in", "2 in", "0 in", "0 in"]}, "is no indicator's"),
        ({"readings": [], "highest": "0.01 in"}, "belong together"),
        ({"readings": [], "highest": "0 in", "lowest": "0.1 in", "highest_at_deg": 0}, "below the lowest"),
        ({"readings": ["0 in"] * 4, "highest": "1 in"}, "One round is needed"),
    ],
)
def test_a_round_that_is_none_has_its_sentence(more: dict[str, Any], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        calculation_named("true_up").run({**BASE, **more})


@pytest.mark.parametrize(
    ("turns", "words"),
    [(0.01, "a touch of the key"), (0.048, "a twentieth of a turn"), (0.5, "half a turn"), (2.4, "2.4 turns")],
)
def test_turns_are_said_as_the_hand_knows_them(turns: float, words: str) -> None:
    assert turns_in_words(turns) == words


TILT = {"length": "2 in", "target": "0.001 in", "graduation": "0.0005 in"}


def test_a_tilt_says_where_to_tap_and_how_far() -> None:
    found = calculation_named("tilt").run(
        {"near": ["0 in"] * 4, "far": ["0.006 in", "0.003 in", "0 in", "0.003 in"], "distance": "3 in", **TILT}
    )
    assert found.matters == "yes"
    assert found.tap_jaw == 1
    assert float(found.tap.value("in")) == pytest.approx(0.003)
    assert "Tap the outer end at jaw 1" in found.sentence


@pytest.mark.parametrize("jaw", [1, 2, 3, 4])
def test_a_plates_high_place_is_pushed_back_to_the_chuck_and_then_it_is_true(jaw: int) -> None:
    """A plate is made to stand out at one jaw, pushed back there by what is advised, and read again."""
    radius, out = 40.0, 0.05

    def read(pushed: dict[int, float]) -> list[str]:
        """Heights at the jaws of a plate that tips about its middle: pushed back at a jaw it comes out as far
        opposite.
        """
        heights = [out * cos(radians(90 * (n - jaw))) for n in (1, 2, 3, 4)]
        for at, amount in pushed.items():
            heights = [height - amount * cos(radians(90 * (n + 1 - at))) for n, height in enumerate(heights)]
        return [f"{height:.6f} mm" for height in heights]

    asked = {
        "face_radius": f"{radius} mm",
        "length": "60 mm",
        "target": "0.02 mm",
        "graduation": "0.01 mm",
        "unit": "mm",
    }
    found = calculation_named("tilt").run({**asked, "face": read({})})
    assert found.matters == "yes"
    assert found.tap_jaw == jaw
    assert found.sentence.startswith(f"The face stands out at jaw {jaw}: push it back towards the chuck there")
    assert float(found.tap.mm) == pytest.approx(out, abs=1e-6)
    after = calculation_named("tilt").run({**asked, "face": read({found.tap_jaw: float(found.tap.mm)})})
    assert after.matters == "no"
    assert float(after.total_indicator_reading_over_length.mm) == pytest.approx(0, abs=1e-5)


def test_work_that_would_reach_its_target_by_its_offset_is_moved() -> None:
    """Its own shape swings 0.0412 of 0.050: taking the offset away is enough, so it is not the work."""
    found = calculation_named("true_up").run(
        {
            "readings": ["0.02716 in", "-0.01407 in", "0.01407 in", "-0.02716 in"],
            "target": "0.05 in",
            "screw_lead": "0.125 in",
            "graduation": "0.0005 in",
        }
    )
    assert found.stop is Stop.MOVE
    assert float(found.shape.value("in")) == pytest.approx(0.0412, abs=1e-4)
    after = [float(one.value("in")) for one in found.expected]
    assert max(after) - min(after) <= 0.05


def test_a_round_says_its_mean_and_what_each_reading_keeps() -> None:
    found = calculation_named("true_up").run(
        {
            "readings": ["5 thou", "1 thou", "-1 thou", "3 thou"],
            "target": "0.5 thou",
            "screw_lead": "0.125 in",
            "graduation": "0.5 thou",
        }
    )
    assert str(found.mean) == "0.002 in"
    assert [float(one.value("in")) * 1000 for one in found.residuals] == pytest.approx([0, 0, 0, 0], abs=1e-9)


def test_noise_alone_is_seldom_called_a_shape_and_the_doubt_of_a_shape_holds_it() -> None:
    """Round work, 250 rounds of each number of places: a shape is named in at most one of twenty (5 % and its own
    scatter).
    """
    chance = Random(20_260)
    for count in (4, 8, 12, 24):
        named = held = 0
        for _ in range(250):
            readings = [f"{chance.gauss(0, 0.002):.6f} mm" for _ in range(count)]
            found = calculation_named("true_up").run(
                {
                    "readings": readings,
                    "target": "0.0001 mm",
                    "screw_lead": "3 mm",
                    "graduation": "0.01 mm",
                    "unit": "mm",
                }
            )
            named += found.shape_words != ""
            held += found.shape.mm <= found.shape_uncertainty.mm
        assert named <= 22, count
        assert held >= 227, count


@pytest.mark.parametrize("surface", ["outside", "rim_inside"])
@pytest.mark.parametrize("keys", ["one", "two"])
def test_gripped_from_inside_ease_and_drive_change_over(surface: str, keys: str) -> None:
    asked = {
        "readings": ["12 thou", "6 thou", "0 thou", "6 thou"],
        "target": "0.5 thou",
        "screw_lead": "0.125 in",
        "graduation": "0.5 thou",
        "surface": surface,
        "keys": keys,
    }
    outside, inside = (calculation_named("true_up").run({**asked, "grip": grip}) for grip in ("outside", "inside"))
    assert (inside.moves[0].ease_jaw, inside.moves[0].drive_jaw) == (
        outside.moves[0].drive_jaw,
        outside.moves[0].ease_jaw,
    )
    assert inside.moves[0].move == outside.moves[0].move
    assert inside.expected == outside.expected
    assert inside.headline.startswith("Together: ease jaw" if keys == "two" else "Ease jaw")


def test_a_short_register_does_not_mind() -> None:
    found = calculation_named("tilt").run(
        {
            "near": ["0 in"] * 4,
            "far": ["0.006 in", "0.003 in", "0 in", "0.003 in"],
            "distance": "3 in",
            **TILT,
            "length": "0.1 in",
        }
    )
    assert found.matters == "no"
    assert "Leave it." in found.sentence


@pytest.mark.parametrize(
    ("more", "sentence"),
    [
        ({"near": ["0 in"] * 4}, "Two circles are needed"),
        ({"near": ["0 in"] * 4, "far": ["0 in"] * 3, "distance": "1 in"}, "do not meet all four jaws"),
        ({"face": ["0 in"] * 4}, "Either two circles, or the face with its radius"),
    ],
)
def test_a_tilt_that_is_none_has_its_sentence(more: dict[str, Any], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        calculation_named("tilt").run({**TILT, **more})


def test_the_needle_swings_twice_the_throw() -> None:
    found = calculation_named("throw").run(
        {"throw": "0.125 in", "diameter": "1.5 in", "range": "0.2 in", "towards_deg": 90}
    )
    assert str(found.total_indicator_reading) == "0.25 in"
    assert found.in_range is False
    assert "more than its range" in found.sentence
    assert [round(float(one.reading.value("in")), 4) for one in found.aimed] == [0, 0.125, 0, -0.125]


def test_a_throw_past_the_round_is_refused() -> None:
    with pytest.raises(BadInput, match="outside a round"):
        calculation_named("throw").run({"throw": "1 in", "diameter": "1.5 in"})


METRIC = {"screw_lead": "3 mm", "graduation": "0.001 mm", "unit": "mm"}


def test_another_centre_that_meets_the_target_is_gone_for() -> None:
    readings = [
        f"{one} mm"
        for one in ["0.00608", "0.00782", "0.00410", "-0.01850", "0.00084", "0.02220", "-0.01102", "-0.01152"]
    ]
    found = round_of(readings=readings, target="0.0383 mm", **METRIC)
    assert found.stop is Stop.MOVE
    assert found.shape is not None
    assert round(float(found.shape.mm), 4) == 0.0321  # the least of a grid of offsets, worked out beside it
    after = [float(one.mm) for one in found.expected]
    assert max(after) - min(after) <= 0.0383
    assert "minimum zone" in found.working[0].formula


@given(st.lists(st.integers(-400, 400), min_size=8, max_size=8), st.integers(60, 900))
@settings(max_examples=150, deadline=None)
def test_no_jaw_can_remove_it_only_where_no_offset_does(tenths: list[int], target: int) -> None:
    """Against a grid of offsets: "the work, not the chuck" is said only where none of them meets the target (tenths of
    a micrometre).
    """
    shown = {"readings": [f"{one / 10000:.4f} mm" for one in tenths], "target": f"{target / 10000:.4f} mm"}
    if round_of(**shown, **METRIC).stop is not Stop.WORK_NOT_CHUCK:
        return
    at, grid = np.radians(np.arange(8) * 45)[:, None, None], np.linspace(-500, 500, 201)
    x, y = np.meshgrid(grid, grid)
    left = np.array(tenths)[:, None, None] - np.cos(at) * x - np.sin(at) * y
    assert (left.max(0) - left.min(0)).min() > target
