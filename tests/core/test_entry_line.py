"""The entry line."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.entry_line import FORMS, EntryResult, nearest_forms
from nomisma.core.registry import calculation_named

LINES = [
    ("25 H7/g6", "in", "fit", "fit H7/g6 on 25 mm"),
    ("1.229 to 1.125", "in", "amount_to_take", "from 1.229 in to 1.125 in, on diameter"),
    ("29.43 to 28.00 mm", "in", "amount_to_take", "from 29.43 mm to 28 mm, on diameter"),
    ("29.43 mm to 28.00", "in", "amount_to_take", "from 29.43 mm to 28 mm, on diameter"),
    ("1-3/8 to 1.350", "mm", "amount_to_take", "from 1.375 in to 1.35 in, on diameter"),
    ("7/8 slip", "mm", "fit_options", "0.875 in, slides by hand"),
    ("25 mm running fit", "in", "fit_options", "25 mm, turns freely"),
    ("7/8", "mm", "size", "a size: 0.875 in"),
    ("0.3755/0.3760", "in", "size", "a size: 0.3755/0.3760"),
    ("#32", "mm", "size", "a size: 0.116 in"),
    ("1 RC4", "mm", "fit", "inch class RC4 on 1 in"),
    ("3/4 swings", "in", "fit_options", "0.75 in, turns slowly"),
    ("40 mm shrink", "in", "fit_options", "40 mm, shrunk for torque"),
    (
        "bush 3/8 on 1/4 x 1/2",
        "mm",
        "bush",
        "a bush of 0.375 in on a shaft of 0.25 in, 0.5 in long; housing twice the bush",
    ),
    ("press 1 into 2 x 1-1/2", "in", "interference", "press 1 in into 2 in, 1.5 in long, FN1"),
    ("press 25 mm into 60 mm x 40 mm by 0.02", "in", "interference", "press 25 mm into 60 mm, 40 mm long, by 0.02 mm"),
    ("shrink 40 into 80 x 50", "mm", "shrink", "shrink a hub of 80 mm on 40 mm, 50 mm long, by 0.08 mm"),
    ("bond 12 mm x 20 mm at 20 MPa", "in", "retaining_compound", "bond 12 mm x 20 mm at 20 MPa, H8 on f7"),
    (
        "warm 25 mm steel in aluminium to 60",
        "in",
        "expansion",
        "25 mm steel in aluminium from 0 to 60 °C, H7/g6 at 20 °C",
    ),
    ("clearance .0005 to .0015 on 7/8", "in", "find_fit", "clearance .0005 to .0015 on 0.875 in: every standard pair"),
    (
        "interference 10 um to 50 um on 25 mm",
        "in",
        "find_fit",
        "interference 10 um to 50 um on 25 mm: every standard pair",
    ),
    ("clearance 5 to 45 um on 25 mm", "in", "find_fit", "clearance 5 to 45 um on 25 mm: every standard pair"),
    ("25 x6", "in", "fit", "fit x6 on 25 mm"),
    ("aim 24.980/24.993 shaft", "mm", "aim", "where to aim on a shaft of 24.980/24.993"),
    ("recess .500/.504 boss .492/.496", "in", "depths", "a recess of .500/.504 and a boss of .492/.496"),
    ("corner 1/32 chamfer 1/64", "in", "corner", "a corner radius of 0.03125 in against chamfer 1/64"),
    ("25 H7 on 24.98/24.99 mm", "in", "together", "a bore of 25 H7 on a shaft of 24.98/24.99 mm"),
    (".8755/.8760 on .8745/.8750", "in", "together", "a bore of .8755/.8760 on a shaft of .8745/.8750"),
    (".8374 slips", "in", "slips", "a pile of slips of 0.8374 in"),
    ("speed 1 in mild steel", "in", "speeds", "speed and feed, mild steel of 1 in"),
    ("speed for 40 brass", "mm", "speeds", "speed and feed, free-cutting brass of 40 mm"),
    ("speed 25 mm aluminum", "in", "speeds", "speed and feed, aluminium alloy of 25 mm"),
    ("face 1.030 to 1.000", "in", "facing", "face from 1.03 in to 1 in"),
    ("true 0 .010 .016 .006", "in", "true_up", "true up a round of 4; a jaw screw of 0.125 in, to 0.0005 in"),
    ("true up 0 0.25 0.4 0.15", "mm", "true_up", "true up a round of 4; a jaw screw of 3 mm, to 0.01 mm"),
    ("drill for 1/4-20", "in", "tapping", "a drill for 1/4-20"),
    ("drill for M8", "in", "tapping", "a drill for M8"),
    ("1/4-20", "in", "tapping", "a drill for 1/4-20"),
    ("10-32 UNF", "in", "tapping", "a drill for 10-32"),
    ("M8x1.25", "in", "tapping", "a drill for M8"),
    ("drill 7.2 mm", "in", "drill_sizes", "the drills near 7.2 mm"),
    ("drill 17/32", "mm", "drill_sizes", "the drills near 0.53125 in"),
    ("MT3", "in", "taper", "a taper of MT3"),
    ("H7 3/4", "in", "fit", "fit H7 on 0.75 in"),
    ("H7/g6 on 25", "in", "fit", "fit H7/g6 on 25 mm"),
]


def understand(text: str, unit: str | None = "in") -> EntryResult:
    result = calculation_named("entry_line").run({"text": text, "unit": unit})
    assert isinstance(result, EntryResult)
    return result


@pytest.mark.parametrize(("text", "unit", "calculation", "understood"), LINES)
def test_a_line_opens_the_tool_that_answers_it(text: str, unit: str, calculation: str, understood: str) -> None:
    result = understand(text, unit)
    assert (result.calculation, result.understood) == (calculation, understood)


@pytest.mark.parametrize(("text", "unit", "calculation"), [line[:3] for line in LINES])
def test_what_it_opens_runs_with_the_numbers_in_it(text: str, unit: str, calculation: str) -> None:
    result = understand(text, unit)
    if calculation != "fit_options":  # the partner is still to be measured there
        assert calculation_named(result.calculation).run(result.inputs)


@pytest.mark.parametrize("text", ["hello", "H7/g6"])
def test_what_it_does_not_understand_it_says_plainly(text: str) -> None:
    with pytest.raises(BadInput) as refused:
        understand(text)
    (error,) = refused.value.errors
    assert error.problem == f"“{text.lower()}” is not understood as a size."
    assert error.remedy.startswith("Perhaps one of these: ")


@pytest.mark.parametrize(
    ("text", "form"),
    [
        ("bushing 3/8 on 1/4 by 1/2 long", "bush 3/8 on 1/4 x 1/2"),
        ("press 1 in 2 x 1", "press 1 into 2 x 1-1/2 by .001"),
        ("shrink 40 on 80 x 50", "shrink 40 mm into 80 mm x 50 mm"),
        ("7/8 tight", "7/8 slip"),
        ("clearance .001 .003 on 1", "clearance .0005 to .0015 on 7/8"),
    ],
)
def test_a_line_not_understood_is_offered_the_form_it_is_most_like(text: str, form: str) -> None:
    assert form in nearest_forms(text)


def test_every_form_that_is_offered_is_understood() -> None:
    for form in FORMS:
        assert understand(form).understood


def test_a_size_without_a_unit_is_asked_about_where_none_is_in_force() -> None:
    with pytest.raises(BadInput, match="has no unit"):
        understand("1.229 to 1.125", None)


def test_a_unit_behind_a_range_stands_for_both_its_ends() -> None:
    window = understand("clearance 5 to 45 um on 25 mm").inputs
    assert (window["clearance_min"], window["clearance_max"]) == ("0.005 mm", "0.045 mm")


def test_a_fraction_does_not_make_inches_of_the_millimetres_beside_it() -> None:
    with pytest.raises(
        BadInput, match=re.escape("1.375 in to 34.9 in is far apart for one cut. Write the unit of each")
    ):
        understand("1-3/8 to 34.9", "mm")


@given(st.text(max_size=200))
def test_any_line_is_answered_or_refused_with_a_sentence(text: str) -> None:
    try:
        assert understand(text).understood
    except BadInput as refused:
        assert all(error.field == "text" and error.sentence for error in refused.errors)


@pytest.mark.parametrize(
    ("line", "nearest"),
    [("spede 1 mild steal", "speed 1 in mild steel"), ("truing four readings", "true 0 .010 .016 .006"),
     ("tapers 1 in 20", "taper 1 to 3/4 over 5"), ("shrinking on", "shrink 40 mm into 80 mm x 50 mm"),
     ("holes six", "6 holes on 4")],
)  # fmt: skip
def test_what_is_not_known_is_answered_with_what_is_nearest_by_words(line: str, nearest: str) -> None:
    assert nearest in nearest_forms(line)


@pytest.mark.parametrize("line", ["qwertz", "???", "hello there", "12 34 56"])
def test_with_no_word_known_nothing_far_fetched_is_offered(line: str) -> None:
    assert not any("bush" in form for form in nearest_forms(line))
