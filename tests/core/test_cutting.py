"""The coach at the dial: what it advises, what it notices, where the dial is wound to, and whether stock cleans up."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.depth import CutRules, Next, ToGo, next_depth
from nomisma.core.cutting.dial import DialSchool, wind
from nomisma.core.cutting.findings import findings
from nomisma.core.cutting.learned import CutSeen, learned
from nomisma.core.cutting.next_cut import NextCutResult
from nomisma.core.registry import calculation_named

SHAFT = {"kind": "shaft", "lower": "24.967 mm", "upper": "24.993 mm", "dial_line": "0.01 mm"}


def coach(size: str, cuts: list[tuple[str, str, str]] = [], **more: Any) -> NextCutResult:  # noqa: B006
    """Cuts as dialled, before, after."""
    taken = [{"dialled": d, "before": b, "after": a} for d, b, a in cuts]
    found = calculation_named("next_cut").run({**SHAFT, "size": size, "cuts": taken, **more})
    assert isinstance(found, NextCutResult)
    return found


def test_the_first_cut_spoils_nothing_even_on_a_dial_that_takes_twice_as_much() -> None:
    found = coach("26.900 mm")
    assert found.dialled is not None
    assert found.plan[0].why.startswith("a first cut small enough")
    assert 2 * found.dialled.mm < Decimal("26.9") - Decimal("24.967")


def test_a_set_up_that_takes_more_than_dialled_is_dialled_less() -> None:
    honest = [("0.40 mm", "26.300 mm", "25.900 mm"), ("0.40 mm", "25.900 mm", "25.500 mm")]
    greedy = [("0.40 mm", "26.400 mm", "25.950 mm"), ("0.40 mm", "25.950 mm", "25.500 mm")]
    one, other = coach("25.500 mm", honest), coach("25.500 mm", greedy)
    assert one.dialled is not None
    assert other.dialled is not None
    assert other.dialled.mm < one.dialled.mm


def test_two_equal_cuts_half_and_the_same_again() -> None:
    cuts = [("1.00 mm", "27.38 mm", "26.38 mm"), ("1.00 mm", "26.38 mm", "25.38 mm")]
    half = coach("25.380 mm", cuts)
    assert half.plan[0].why in ("half of what is left", "held back: more could pass the limit")
    assert half.dialled is not None
    assert float(half.dialled.mm) == pytest.approx(0.2, abs=0.03)
    again = coach("25.180 mm", [*cuts, ("0.20 mm", "25.38 mm", "25.180 mm")])
    assert again.dialled is not None
    assert again.plan[0].why in ("the same again: the same depth, the same pressure", "held back: more could pass the limit")
    assert float(again.dialled.mm) == pytest.approx(0.18, abs=0.03)


@pytest.mark.parametrize(("school", "least"), [("creep", 1), ("polish", 1), ("equal_cuts", 1)])
def test_every_school_plans_down_to_the_limits(school: str, least: int) -> None:
    found = coach("27.000 mm", [("0.50 mm", "27.5 mm", "27.0 mm")], school=school)
    assert len(found.plan) >= least
    sizes = [one.after.mm for one in found.plan]
    assert sizes == sorted(sizes, reverse=True)
    assert sizes[-1] >= Decimal("24.967")


@pytest.mark.parametrize(
    ("size", "state", "words"),
    [
        ("24.980 mm", Next.DONE, "In limits: leave it"),
        ("24.900 mm", Next.GONE, "Gone too far"),
        ("24.998 mm", Next.POLISH, "Stone or cloth takes the rest"),
    ],
)
def test_it_says_when_to_stop(size: str, state: Next, words: str) -> None:
    found = coach(size, [("0.40 mm", "25.80 mm", "25.40 mm")])
    assert found.next is state
    assert found.headline == words
    assert found.plan == []


def test_a_bore_goes_the_other_way() -> None:
    found = coach("24.500 mm", [("0.40 mm", "24.10 mm", "24.50 mm")], kind="bore", lower="25.000 mm", upper="25.021 mm")
    assert found.after is not None
    assert found.after.mm > Decimal("24.5")
    assert found.after.mm < Decimal("25.021")
    assert coach("25.1 mm", kind="bore", lower="25.000 mm", upper="25.021 mm").next is Next.GONE


def test_half_lines_only_where_they_can_be_set() -> None:
    cuts = [("0.50 mm", "26.0 mm", "25.5 mm"), ("0.25 mm", "25.5 mm", "25.25 mm")]
    whole, half = (
        coach("25.250 mm", cuts, dial_line="0.05 mm"),
        coach("25.250 mm", cuts, dial_line="0.05 mm", parts_of_line=2),
    )
    assert whole.lines is not None
    assert half.lines is not None
    assert whole.lines % 1 == 0
    assert half.lines % Decimal("0.5") == 0
    assert half.lines >= whole.lines


def test_cuts_of_the_piece_before_teach_the_next() -> None:
    before = [
        {"dialled": "0.50 mm", "before": "26.50 mm", "after": "25.95 mm", "piece": 1},
        {"dialled": "0.50 mm", "before": "25.95 mm", "after": "25.40 mm", "piece": 1},
    ]
    fresh = calculation_named("next_cut").run({**SHAFT, "size": "25.9 mm"})
    taught = calculation_named("next_cut").run({**SHAFT, "size": "25.9 mm", "cuts": before, "piece": 2})
    assert taught.working[0].values == "2 cuts seen"
    assert taught.dialled.mm > fresh.dialled.mm  # the dial is known: no need to fear that it takes twice as much


@given(
    st.floats(0.03, 3), st.floats(0.005, 0.1), st.lists(st.tuples(st.floats(0.05, 1), st.floats(0.8, 1.2)), max_size=5),
    st.sampled_from(["equal_cuts", "creep", "polish"]), st.floats(0.0005, 0.02),
)  # fmt: skip
def test_no_cut_is_ever_advised_whose_risk_is_above_the_one_set(
    aim: float, half: float, ratios: list[tuple[float, float]], school: Any, risk: float
) -> None:
    cuts, before = [], 0.0
    for dialled, ratio in ratios:
        cuts.append(CutSeen(dialled, dialled * ratio, before, before == 0.0))
        before = dialled * ratio
    found = next_depth(ToGo(aim, aim + half, aim - half), cuts, CutRules(step=0.01, risk=risk), school)
    if found.next is Next.CUT:
        assert found.chance_gone <= risk * 1.05 + 1e-9
        assert found.dialled > 0


@given(st.lists(st.tuples(st.floats(0.05, 1.5), st.floats(0.9, 1.1)), min_size=1, max_size=8))
def test_more_cuts_never_make_it_believe_less_than_before_the_first(cuts: list[tuple[float, float]]) -> None:
    model = learned([CutSeen(dialled, dialled * ratio) for dialled, ratio in cuts])
    assert model.predict(0.3, 0.3).freedom > learned([]).predict(0.3, 0.3).freedom


def noticed(cuts: list[CutSeen], **more: Any) -> list[str]:
    values = {"size_mm": 25.0, "unit": "mm", "reading_mm": 0.0015, "least_mm": 0.02, **more}
    return [one.name for one in findings(cuts, **values)]


def run(*removed: float, dialled: float = 0.4) -> list[CutSeen]:
    before = [0.0, *removed]
    return [CutSeen(dialled, one, before[index], index == 0) for index, one in enumerate(removed)]


@pytest.mark.parametrize(
    ("cuts", "name"),
    [
        (run(0.8), "radius_dial"),
        (run(0.2), "diameter_dial"),
        (run(0.4, 0.4, 0.9), "misread"),
        (run(0.4, 0.4, 0.4, 0.25), "moved"),
        (run(0.4, 0.4, 0.4, 0.395), None),
    ],
)
def test_what_a_cut_shows_is_said(cuts: list[CutSeen], name: str | None) -> None:
    assert noticed(cuts) == ([name] if name else [])


def test_backlash_that_was_not_taken_up_is_named() -> None:
    assert noticed(run(0.4, 0.4, 0.4, 0.3), backlash_mm=0.1) == ["backlash"]


def test_a_cut_too_thin_to_cut_is_named() -> None:
    thin = [*run(0.4, 0.4, 0.4), CutSeen(0.01, 0.012, 0.4)]
    assert "too_thin" in noticed(thin)


def test_a_part_that_measures_larger_than_it_should_may_be_warm() -> None:
    assert noticed([*run(0.4, 0.4, 0.4, 0.4, 0.4), CutSeen(0.4, 0.34, 0.4)], size_mm=200.0) == ["hot"]


def test_a_warm_bore_measures_larger_too() -> None:
    cuts = [*run(0.4, 0.4, 0.4, 0.4, 0.4), CutSeen(0.4, 0.46, 0.4)]
    assert noticed(cuts, size_mm=200.0, kind="bore") == ["hot"]
    assert noticed(cuts, size_mm=200.0) == ["moved"]


def test_a_spring_pass_is_no_cut_too_thin() -> None:
    assert noticed([*run(0.4, 0.4, 0.4), CutSeen(0.0, 0.012, 0.4)]) == []


def test_one_cut_that_nothing_explains_does_not_unsettle_the_rest() -> None:
    """Backlash that was not taken up once: the next is still expected as before."""
    steady = [CutSeen(0.4, 0.4, 0.4 if n else 0.0, first=n == 0) for n in range(6)]
    before, after = (
        learned(cuts, reading_mm=0.0015).predict(0.4, 0.4) for cuts in (steady, [*steady, CutSeen(0.4, 0.3, 0.4)])
    )
    assert after.middle == pytest.approx(before.middle, abs=0.01)
    assert after.scale < 2 * before.scale


def test_much_left_after_a_heavy_cut_is_touched_on_anew_not_stoned() -> None:
    found = coach("25.180 mm", [("1.4 mm", "29 mm", "27.6 mm"), ("2.4 mm", "27.6 mm", "25.180 mm")])
    assert found.next.value == "touch_on"
    assert "go on as with a new set-up" in found.sentence
    assert found.dialled is not None
    assert found.dialled.mm < Decimal("25.180") - Decimal("24.967")


def test_a_size_just_inside_is_too_close_to_call() -> None:
    found = coach("24.9925 mm", [("0.50 mm", "25.4925 mm", "24.9925 mm")])
    assert found.next.value == "polish"
    assert "too close to call" in found.sentence


def test_growing_push_off_is_a_dull_tool() -> None:
    assert "push_off" in noticed(run(0.4, 0.4, 0.4, 0.4, 0.395, 0.388, 0.379, 0.368))


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        ({"lower": "25 mm", "upper": "24 mm"}, "The lower limit is not below the upper."),
        ({"aim": "30 mm"}, "The aim lies outside the limits."),
        ({"least_cut": "3 mm"}, "The least cut is not below the most."),
        ({"cuts": [{"dialled": "0.4 mm", "before": "25 mm", "after": "27 mm"}]}, "made the shaft grow"),
    ],
)
def test_what_cannot_be_is_said(wrong: dict[str, Any], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        calculation_named("next_cut").run({**SHAFT, "size": "26 mm", **wrong})


@pytest.mark.parametrize(
    ("school", "words", "face"),
    [
        ("count_in", "wind in 28 lines", (0, 28)),
        ("zero_at_size", "stands 28.6 lines before it; wind in to 0.6 lines before 0", (31.4, 59.4)),
        ("readout", "Enter 29.430 mm in the readout at the last cut; wind in until it reads 28.030 mm", (0, 28)),
        ("indicator", "until it has moved 0.700 mm, the radius", (0, 28)),
    ],
)
def test_where_the_dial_is_wound_to_by_school(school: DialSchool, words: str, face: tuple[float, float]) -> None:
    found = wind(
        dialled_mm=Decimal("1.40"), size_mm=Decimal("29.43"), to_aim_mm=Decimal("1.43"), kind="shaft", line_mm=Decimal("0.05"),
        turn_mm=Decimal(3), reads="diameter", school=school, unit="mm",
    )  # fmt: skip
    assert words in found.words
    assert (float(found.from_line), float(found.to_line)) == pytest.approx(face)


def test_whole_turns_are_counted() -> None:
    found = wind(
        dialled_mm=Decimal("2.54"), size_mm=Decimal("40"), to_aim_mm=Decimal("5"), kind="shaft", line_mm=Decimal("0.0254"),
        turn_mm=Decimal("1.27"), reads="radius", school="count_in", unit="in",
    )  # fmt: skip
    assert (found.turns, float(found.lines)) == (1, 0.0)
    assert "1 turn and 0 lines (50 lines in all)" in found.words


def clean_up(**given: str) -> Any:
    return calculation_named("clean_up").run({"wanted": "1.375 in", **given})


def test_stock_that_runs_out_too_far_does_not_clean_up_and_what_gives_is_said() -> None:
    found = clean_up(stock="1.388 in", runout="0.010 in", scale="0.003 in")
    assert not found.cleans_up
    assert "0.0030 in short all round" in found.sentence
    assert "True it within 0.0070 in" in found.gives[0]


def test_stock_with_enough_says_how_deep_the_first_cut_goes() -> None:
    found = clean_up(stock="1.388 in", runout="0.004 in", scale="0.002 in", ovality="0.001 in")
    assert found.cleans_up
    assert "Get under the skin in one cut: 0.0090 in on diameter or more." in found.sentence


def test_a_bore_cleans_up_outwards() -> None:
    assert clean_up(kind="bore", stock="1.360 in", runout="0.005 in").cleans_up
    assert not clean_up(kind="bore", stock="1.374 in", runout="0.005 in").cleans_up


def shoulder(**given: Any) -> Any:
    return calculation_named("shoulder").run(
        {"length": "0.75 in", "from_diameter": "1.5 in", "to_diameter": "1 in", **given}
    )


def test_passes_stop_short_and_the_last_goes_to_the_mark() -> None:
    found = shoulder(set_by="slips")
    assert found.passes == 5
    assert str(found.stops_at) == "0.747 in"
    assert "4 passes 0.0500 in deep, each stopped at 0.7470 in." in found.steps
    assert "face out in one sweep" in found.steps[2]
    assert "Slips of 0.7500 in" in found.steps[0]


@pytest.mark.parametrize(
    ("chamfer", "clearance", "held_off_thou"),
    [("0.010 in", "0 in", 6.0), ("0.016 in", "0 in", 0), ("0.012 in", "0.004 in", 0), ("0.002 in", "0.001 in", 8.432)],
)
def test_a_shoulder_and_the_corner_worksheet_say_the_same(chamfer: str, clearance: str, held_off_thou: float) -> None:
    found = shoulder(tool_radius="0.016 in", partner_chamfer=chamfer, radial_clearance=clearance)
    worksheet: Any = calculation_named("corner").run(
        {"fillet_radius": "0.016 in", "edge": "chamfer", "edge_size": chamfer, "radial_clearance": clearance}
    )
    assert found.held_off.mm == worksheet.stand_off.mm
    assert float(found.held_off.value("in")) * 1000 == pytest.approx(held_off_thou, abs=1e-3)
    assert found.seats is worksheet.seats is (held_off_thou == 0)
    assert ("never seat" in " ".join(found.steps)) is not found.seats


def test_nothing_is_said_about_a_corner_nobody_described() -> None:
    found = shoulder(tool_radius="0.016 in")
    assert found.seats is None
    assert "corner" not in found.sentence


def test_a_chamfer_is_measured_along_the_axis() -> None:
    assert str(shoulder(chamfer="1/16 in").chamfer_on_diameter) == "0.125 in"
    assert float(shoulder(chamfer="1/16 in", chamfer_deg=30).chamfer_on_diameter.value("in")) == pytest.approx(
        0.0722, abs=1e-4
    )


def test_the_compound_moves_more_than_the_tool_goes_along() -> None:
    assert float(shoulder(compound_deg=60).compound_move.value("in")) == pytest.approx(0.006)


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [({"to_diameter": "2 in"}, "from the larger diameter"), ({"stop_short": "1 in"}, "more than the shoulder is long")],
)
def test_a_shoulder_that_is_none_has_its_sentence(wrong: dict[str, str], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        shoulder(**wrong)


def test_where_a_whole_line_is_too_much_the_part_of_one_that_is_safe_is_said() -> None:
    cuts = [("0.40 mm", "26.2 mm", "25.81 mm"), ("0.38 mm", "25.81 mm", "25.44 mm"), ("0.33 mm", "25.44 mm", "25.104 mm"),
            ("0 mm", "25.104 mm", "25.086 mm")]  # fmt: skip
    whole = coach("25.086 mm", cuts, dial_line="0.1 mm")
    assert whole.next.value == "too_thin"
    assert whole.headline == "Between the lines"
    assert whole.between_lines in (Decimal("0.5"), Decimal("0.25"))
    assert "is safe and cuts cleanly" in whole.sentence
    finer = coach("25.086 mm", cuts, dial_line="0.1 mm", parts_of_line=4 if whole.between_lines == Decimal("0.25") else 2)
    assert finer.next.value == "cut"
    assert finer.lines == whole.between_lines


def test_where_no_part_of_a_line_is_safe_nothing_is_said_of_parts() -> None:
    found = coach("25.010 mm", [("0.40 mm", "25.41 mm", "25.010 mm")], dial_line="0.1 mm")
    assert found.between_lines is None
    assert found.headline in ("Stone or cloth takes the rest", "Too little to cut safely")


def test_where_more_would_be_too_much_and_less_would_rub_the_same_dial_is_taken_again() -> None:
    cuts = [
        ("0.35 mm", "20.873 mm", "21.209 mm"),
        ("0.40 mm", "21.209 mm", "21.593 mm"),
        ("0.40 mm", "21.593 mm", "21.971 mm"),
    ]
    bore = {
        "kind": "bore",
        "lower": "22.036 mm",
        "upper": "22.069 mm",
        "dial_line": "0.05 mm",
        "smallest": "21.965 mm",
        "largest": "21.977 mm",
    }
    found = coach("21.971 mm", cuts, **bore)
    assert (found.next.value, found.headline) == ("cut", "Same dial again")
    assert found.dialled is not None
    assert found.dialled.mm == 0
    assert found.after is not None
    assert found.after.mm > Decimal("21.976")
    assert found.chance_gone_percent <= 0.2


def test_it_is_never_touched_on_for_nothing() -> None:
    """Touch on anew leads somewhere: to a cut, or to a part of a line."""
    for um in range(25_000, 25_200, 5):
        size = um / 1000
        found = coach(
            f"{size} mm", [("1.4 mm", "29 mm", "27.6 mm"), ("2.4 mm", "27.6 mm", f"{size} mm")], dial_line="0.05 mm"
        )
        assert found.next.value != "touch_on" or found.dialled or found.between_lines


@pytest.mark.parametrize("school", ["count_in", "zero_at_size", "readout", "indicator"])
def test_for_the_same_dial_again_the_wheel_stays_where_it_stands(school: DialSchool) -> None:
    found = wind(
        dialled_mm=Decimal(0), size_mm=Decimal("21.971"), to_aim_mm=Decimal("0.076"), kind="bore", line_mm=Decimal("0.05"),
        turn_mm=Decimal(3), reads="diameter", school=school, unit="mm",
    )  # fmt: skip
    assert found.from_line == found.to_line
    assert found.words == "Leave the dial where it stands, and take the cut again."
