"""The coach at the dial: what it advises, what it notices, where the dial is wound to, and whether stock cleans up."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.coach_model import NextCutResult
from nomisma.core.cutting.depth import CutRules, Next, ToGo, next_depth
from nomisma.core.cutting.dialled import MOST_PASSES
from nomisma.core.cutting.learned import CutSeen, learned
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
    assert 2 * found.dialled.mm < Decimal("26.9") - Decimal("24.967")


def test_a_dial_that_is_known_is_not_begun_timidly() -> None:
    taught = [
        [
            {"dialled": "0.50 mm", "before": f"{26 - n * 0.56:.2f} mm", "after": f"{25.44 - n * 0.56:.2f} mm"}
            for n in range(4)
        ]
    ] * 3
    fresh, known = coach("26.900 mm"), coach("26.900 mm", earlier_set_ups=taught)
    assert fresh.dialled is not None
    assert known.dialled is not None
    assert known.dialled.mm > Decimal("1.5") * fresh.dialled.mm
    assert known.machine_words.startswith("This dial takes 1.1")
    assert "seen in 3 set-ups on this machine" in known.machine_words


def test_a_radius_dial_seen_once_at_a_tenth_is_not_forgotten_on_the_next_piece() -> None:
    """Dialled 0.1, took 0.2: what is dialled next passes the limit neither as said nor doubled."""
    seen = [{"dialled": "0.1 mm", "before": "25.400 mm", "after": "25.200 mm", "piece": 1}]
    found = calculation_named("next_cut").run(
        {
            "kind": "shaft",
            "size": "27.536 mm",
            "lower": "24.950 mm",
            "upper": "24.976 mm",
            "dial_line": "0.01 mm",
            "approach": "creep",
            "piece": 2,
            "cuts": seen,
        }
    )
    assert 2 * found.dialled.mm < Decimal("27.536") - Decimal("24.950")


def test_an_exception_once_explained_does_not_make_a_shaft_grow() -> None:
    """Dials of 0.1, 0.1, 0.1; 0.036 took 0.026, and that was so; 0.046 took 0.046: it reads 0.6250, on its
    upper limit.
    """
    inch = {
        "kind": "shaft",
        "lower": "0.6241 in",
        "upper": "0.6250 in",
        "dial_line": "0.001 in",
        "unit": "in",
        "guard": "0.0001 in",
    }
    sizes = ["1.000", "0.900", "0.799", "0.697", "0.671", "0.625"]
    cuts = [
        {"dialled": f"{d} in", "before": f"{b} in", "after": f"{a} in"}
        for d, b, a in zip(("0.1", "0.1", "0.1", "0.036", "0.046"), sizes, sizes[1:], strict=False)
    ]
    found = calculation_named("next_cut").run({**inch, "size": "0.6250 in", "cuts": cuts})
    assert found.next is Next.MEASURE
    over = calculation_named("next_cut").run(
        {**inch, "size": "0.6350 in", "cuts": [*cuts[:-1], {**cuts[-1], "after": "0.635 in", "dialled": "0.036 in"}]}
    )
    assert all(one.after.mm < Decimal("0.635") * Decimal("25.4") for one in over.plan)
    assert over.plan_note or Decimal("0.6241") <= over.plan[-1].after.value("in") <= Decimal("0.6250")


def test_a_set_up_that_takes_more_than_dialled_is_dialled_less() -> None:
    honest = [("0.40 mm", "26.300 mm", "25.900 mm"), ("0.40 mm", "25.900 mm", "25.500 mm")]
    greedy = [("0.40 mm", "26.400 mm", "25.950 mm"), ("0.40 mm", "25.950 mm", "25.500 mm")]
    one, other = coach("25.500 mm", honest), coach("25.500 mm", greedy)
    assert one.dialled is not None
    assert other.dialled is not None
    assert other.dialled.mm < one.dialled.mm


def test_two_equal_cuts_half_and_the_same_again() -> None:
    cuts = [
        ("1.00 mm", "27.38 mm", "26.38 mm"),
        ("0.60 mm", "26.38 mm", "25.78 mm"),
        ("0.40 mm", "25.78 mm", "25.38 mm"),
    ]
    half = coach("25.380 mm", cuts)
    assert half.plan[0].why == "half of what is left"
    assert half.dialled is not None
    assert float(half.dialled.mm) == pytest.approx(0.2, abs=0.03)
    wider = {"lower": "24.950 mm", "upper": "25.010 mm"}
    again = coach("25.180 mm", [*cuts, ("0.20 mm", "25.38 mm", "25.180 mm")], **wider)
    assert again.dialled is not None
    assert again.plan[0].why.startswith("the same again: ")
    assert float(again.dialled.mm) == pytest.approx(0.19, abs=0.03)


def test_roughing_ends_with_a_light_pass_before_it_is_measured() -> None:
    cuts = [
        ("0.50 mm", "29.50 mm", "29.00 mm"),
        ("0.50 mm", "29.00 mm", "28.50 mm"),
        ("0.50 mm", "28.50 mm", "28.00 mm"),
    ]
    found = coach("28.000 mm", cuts)
    assert [float(one) for one in found.parts][-1] == 20
    assert sum(found.parts) == found.lines
    assert max(found.parts) * Decimal("0.01") <= Decimal("2.5")
    assert found.sentence.count("In 3 passes, nothing measured between") == 1


def test_a_bore_is_never_stoned_and_a_plan_that_ends_outside_says_what_to_do() -> None:
    bore = coach("24.990 mm", [("0.40 mm", "24.59 mm", "24.99 mm")], kind="bore", lower="25.000 mm", upper="25.021 mm")
    assert bore.next is Next.TOO_THIN
    assert "set the compound over to 5.7° from the lathe’s axis" in bore.sentence
    assert "emery" not in bore.sentence
    coarse = coach(
        "25.180 mm", [("0.40 mm", "25.98 mm", "25.58 mm"), ("0.40 mm", "25.58 mm", "25.180 mm")], dial_line="0.05 mm"
    )
    assert coarse.plan[-1].after.mm > Decimal("24.993")
    assert coarse.plan_note.startswith("The passes end ")
    assert "half lines" in coarse.plan_note.lower()


def test_one_line_is_not_called_roughing_nor_five_after_two_the_same_again() -> None:
    inch = {"kind": "shaft", "lower": "0.3755 in", "upper": "0.3765 in", "dial_line": "0.001 in", "unit": "in"}
    cuts = [{"dialled": "0.002 in", "before": "0.3840 in", "after": "0.3820 in"}]
    found = calculation_named("next_cut").run({**inch, "size": "0.3820 in", "cuts": cuts})
    assert all("roughing" not in one.why for one in found.plan if one.lines <= 2)
    assert found.plan[0].lines <= 3 or "same again" not in found.plan[0].why


def test_what_one_dials_oneself_is_answered_with_its_chances() -> None:
    cuts = [("0.50 mm", "26.0 mm", "25.5 mm"), ("0.25 mm", "25.5 mm", "25.25 mm")]
    near, far = (coach("25.250 mm", cuts, if_dialled=amount).tried for amount in ("0.10 mm", "0.40 mm"))
    assert near is not None
    assert far is not None
    assert near.chance_gone_percent < 0.1 < 99 < far.chance_gone_percent
    assert near.after_low.mm < near.after.mm < near.after_high.mm


def test_the_verdict_counts_before_the_size_alone() -> None:
    for judged, state in (("in_limits", Next.DONE), ("too_close_to_call", Next.MEASURE), ("gone_too_far", Next.GONE)):
        assert coach("24.994 mm", judged=judged).next is state


@pytest.mark.parametrize(("approach", "least"), [("creep", 1), ("polish", 1), ("equal_cuts", 1)])
def test_every_approach_plans_down_to_the_limits(approach: str, least: int) -> None:
    found = coach("27.000 mm", [("0.50 mm", "27.5 mm", "27.0 mm")], approach=approach)
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
        ("25.010 mm", Next.TOO_THIN, "Too little for whole lines"),
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
    aim: float, half: float, ratios: list[tuple[float, float]], approach: Any, risk: float
) -> None:
    model = learned([CutSeen(dialled, dialled * ratio, n == 0) for n, (dialled, ratio) in enumerate(ratios)])
    found = next_depth(ToGo(aim, aim + half, aim - half), model, CutRules(step=0.01, risk=risk), approach)
    if found.next is Next.CUT:
        assert found.chance_gone <= risk * 1.05 + 1e-9
        assert (found.dialled == 0) is (found.why == "spring")


def test_much_left_after_a_heavy_cut_is_touched_on_anew_not_stoned() -> None:
    found = coach("25.180 mm", [("1.4 mm", "29 mm", "27.6 mm"), ("2.4 mm", "27.6 mm", "25.180 mm")])
    assert found.next is Next.TOUCH_ON
    assert "go on as with a new set-up" in found.sentence
    assert found.dialled is not None
    assert found.dialled.mm < Decimal("25.180") - Decimal("24.967")


def test_a_size_just_inside_is_too_close_to_call() -> None:
    found = coach("24.9925 mm", [("0.50 mm", "25.4925 mm", "24.9925 mm")], guard="0.003 mm")
    assert found.next is Next.MEASURE
    assert found.headline == "Too close to call: measure again"
    assert "Read it again, cool and with care" in found.sentence


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


def test_where_a_whole_line_is_too_much_the_part_of_one_that_is_safe_is_said() -> None:
    cuts = [
        ("0.10 mm", "25.475 mm", "25.375 mm"),
        ("0.10 mm", "25.375 mm", "25.275 mm"),
        ("0.10 mm", "25.275 mm", "25.175 mm"),
        ("0.10 mm", "25.175 mm", "25.077 mm"),
        ("0 mm", "25.077 mm", "25.075 mm"),
    ]
    whole = coach("25.075 mm", cuts, dial_line="0.1 mm")
    assert whole.next.value == "too_thin"
    assert whole.headline == "Between the lines"
    assert whole.between_lines in (Decimal("0.5"), Decimal("0.25"))
    assert "is safe and cuts cleanly" in whole.sentence
    finer = coach(
        "25.075 mm", cuts, dial_line="0.1 mm", parts_of_line=4 if whole.between_lines == Decimal("0.25") else 2
    )
    assert finer.next.value == "cut"
    assert finer.lines == whole.between_lines


def test_where_no_part_of_a_line_is_safe_nothing_is_said_of_parts() -> None:
    found = coach("25.010 mm", [("0.40 mm", "25.41 mm", "25.010 mm")], dial_line="0.1 mm")
    assert found.between_lines is None
    assert found.headline in ("Stone or cloth takes the rest", "Too little for whole lines")


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


def test_a_blank_far_too_large_is_roughed_a_row_of_passes_at_a_time() -> None:
    example = calculation_named("next_cut").example
    found = calculation_named("next_cut").run({**example, "size": "9999 mm"})
    assert isinstance(found, NextCutResult)
    assert 1 < len(found.parts) <= MOST_PASSES + 1
