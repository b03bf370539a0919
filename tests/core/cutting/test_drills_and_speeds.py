"""Bars, faces, drills, ends and forces: each by hand, each with what is refused."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.drill_sizes import DrillSizesResult
from nomisma.core.cutting.facing import FacingResult
from nomisma.core.cutting.force import cutting_force_n, deepest_on_diameter_mm
from nomisma.core.cutting.speeds import SpeedsResult, surface_speed_m_min
from nomisma.core.errors import InputError
from nomisma.core.registry import calculation_named


def face(**more: object) -> FacingResult:
    found = calculation_named("facing").run({"measured": "26.4 mm", "wanted": "25 mm", "unit": "mm", **more})
    assert isinstance(found, FacingResult)
    return found


def drill(size: str, **more: object) -> DrillSizesResult:
    found = calculation_named("drill_sizes").run({"size": size, **more})
    assert isinstance(found, DrillSizesResult)
    return found


def test_a_face_goes_in_equal_passes_and_a_last_one() -> None:
    found = face(by="readout", depth="0.5 mm", finish="0.2 mm")
    assert [str(one) for one in found.passes] == ["0.4 mm", "0.4 mm", "0.4 mm", "0.2 mm"]
    assert "enter 26.400 mm in the readout" in found.steps[0]


def test_the_compound_at_a_tenth_takes_ten_lines_for_one() -> None:
    found = face(line="0.02 mm", compound_deg="84.2608")
    assert found.line_takes is not None
    assert float(found.line_takes.mm) == pytest.approx(0.002, abs=1e-7)
    assert found.whole_lines in (699, 700)


def test_whole_lines_never_go_past_the_length() -> None:
    found = face(line="0.05 mm", by="carriage", measured="26.43 mm")
    assert (found.whole_lines, str(found.exact_lines), str(found.left)) == (28, "28.60", "0.03 mm")


@given(st.integers(1, 9000), st.integers(1, 100), st.integers(0, 89))
def test_passes_add_up_and_no_line_is_past(take_um: int, line_um: int, degrees: int) -> None:
    found = face(
        measured=f"{25 + take_um / 1000:.3f} mm",
        line=f"{line_um / 1000:.3f} mm",
        compound_deg=str(degrees),
        depth="0.5 mm",
        finish="0.1 mm",
    )
    assert found.left is not None
    assert sum(one.mm for one in found.passes) + found.left.mm == pytest.approx(Decimal(take_um) / 1000)
    assert found.line_takes is not None
    assert -1e-6 <= float(found.left.mm) < float(found.line_takes.mm) + 1e-6


@pytest.mark.parametrize(
    ("wrong", "sentence"),
    [
        ({"measured": "24 mm", "line": "0.02 mm"}, "There is nothing to face off"),
        ({"by": "compound"}, "One line of that dial is needed."),
        ({"line": "0.02 mm", "depth": "0.001 mm"}, "more than the depth of a pass"),
        ({"by": "readout", "depth": "0.001 mm"}, "That would be 1273 passes."),
    ],
)
def test_a_face_that_cannot_be_is_refused(wrong: dict[str, str], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        face(**wrong)


@pytest.mark.parametrize(
    ("size", "name"),
    [
        ("0.2031 in", "13/64 in"),
        ("0.201 in", "#7"),
        ("0.257 in", "letter F"),
        ("8.5 mm", "8.5 mm"),
        ("25.4 mm", "1 in"),
    ],
)
def test_a_drill_is_known_by_its_size(size: str, name: str) -> None:
    found = drill(size)
    known_as = {one.name for one in found.row if abs(one.over.mm) < Decimal("0.002")}
    assert name in known_as


def test_a_drill_between_two_says_how_far_off_the_nearest_is() -> None:
    found = drill("5.13 mm", unit="mm")
    assert found.sentence == "The nearest is #7, 24.6 µm under."
    sizes = [one.size.mm for one in found.row]
    assert sizes == sorted(sizes)
    assert len(sizes) == 10


@pytest.mark.parametrize("size", ["0.05 mm", "3 in"])
def test_no_drill_is_that_small_or_large(size: str) -> None:
    with pytest.raises(BadInput, match="No drill of the tables is near"):
        drill(size)


@given(st.floats(50, 20_000), st.floats(0.02, 1.0))
def test_the_deepest_cut_takes_just_that_force(force: float, feed: float) -> None:
    deep = deepest_on_diameter_mm("mild_steel", force_n=Decimal(f"{force:.3f}"), feed_mm=Decimal(f"{feed:.3f}"))
    taken = cutting_force_n("mild_steel", depth_mm=float(deep) / 2, feed_mm=round(feed, 3))
    assert taken == pytest.approx(force, rel=0.02, abs=2000 * round(feed, 3) * 0.006)


@pytest.mark.parametrize(("text", "value"), [("30", 30), ("30 m/min", 30), ("100 ft/min", 30.48), ("98,5 ft", 30.0228)])
def test_a_surface_speed_is_read_in_both_units(text: str, value: float) -> None:
    assert float(surface_speed_m_min(text)) == pytest.approx(value)


@pytest.mark.parametrize("text", ["fast", "", "0", "3000", "-30"])
def test_what_is_no_surface_speed_is_refused(text: str) -> None:
    with pytest.raises(InputError):
        surface_speed_m_min(text)


def test_a_wanted_finish_asks_for_a_feed_that_leaves_it() -> None:
    asked = {"diameter": "40 mm", "nose_radius": "0.8 mm", "unit": "mm"}
    found = calculation_named("speeds").run({**asked, "ra_um": "1.6"})
    assert isinstance(found, SpeedsResult)
    assert found.feed_for_ra is not None
    back = calculation_named("speeds").run({**asked, "feed": str(found.feed_for_ra)})
    assert isinstance(back, SpeedsResult)
    assert back.ra_um == pytest.approx(1.6, rel=1e-3)


def test_a_finish_without_a_nose_is_asked_for_it() -> None:
    with pytest.raises(BadInput, match="nose radius"):
        calculation_named("speeds").run({"diameter": "40 mm", "ra_um": "1.6"})


def test_the_shops_own_speed_takes_the_tables_place_operation_and_all() -> None:
    asked = {"diameter": "100 mm", "material": "mild_steel", "operation": "reaming"}
    own = calculation_named("speeds").run({**asked, "own_m_min": "60"})
    table = calculation_named("speeds").run(asked)
    assert isinstance(own, SpeedsResult)
    assert isinstance(table, SpeedsResult)
    assert own.wanted_rpm == pytest.approx(2 * table.wanted_rpm)


def test_the_smallest_of_a_shaft_not_round_says_what_is_safe() -> None:
    asked = {
        "kind": "shaft",
        "size": "25.100 mm",
        "lower": "24.95 mm",
        "upper": "25.00 mm",
        "dial_line": "0.01 mm",
        "unit": "mm",
    }
    round_: Any = calculation_named("next_cut").run(asked)
    oval: Any = calculation_named("next_cut").run({**asked, "smallest": "25.02 mm", "largest": "25.18 mm"})
    assert oval.chance_gone_percent <= 0.2
    assert oval.dialled is None or oval.dialled.mm < round_.dialled.mm


def test_a_place_already_past_its_limit_is_gone_whatever_the_mean_says() -> None:
    asked = {
        "kind": "bore",
        "size": "25.000 mm",
        "lower": "24.99 mm",
        "upper": "25.01 mm",
        "dial_line": "0.01 mm",
        "unit": "mm",
    }
    found: Any = calculation_named("next_cut").run({**asked, "largest": "25.012 mm"})
    assert found.next.value == "gone"


def speed(**more: object) -> SpeedsResult:
    found = calculation_named("speeds").run(
        {"diameter": "1 in", "material": "mild_steel", "speeds": "45 75 130 210 360 600 1000", **more}
    )
    assert isinstance(found, SpeedsResult)
    return found


def test_a_bore_is_held_down_by_the_largest_thing_that_turns() -> None:
    """5 in across corners, not balanced, 30 m/min at its rim: 75 rpm. Source: n = v/(π·d); the rim's speed is this
    tool's own choice.
    """
    free, held = speed(operation="boring"), speed(operation="boring", largest_outside="5 in", balanced=False)
    assert (free.rpm, held.rpm) == (210, 75)
    assert "held to what the outside stands" in held.sentence
    assert any("outside of the work is not said" in one for one in free.cautions)
    assert held.rpm <= 30_000 / (3.14159 * 127) <= speed(operation="boring", largest_outside="5 in").rpm


def test_a_machine_that_is_too_fast_says_so_and_one_too_fast_for_the_work_is_refused() -> None:
    assert any("above the 47 rpm wanted" in one for one in speed(diameter="8 in", speeds="60 90").cautions)
    with pytest.raises(BadInput, match="that is not balanced"):
        speed(operation="boring", largest_outside="12 in", balanced=False)
    with pytest.raises(BadInput, match="smaller than the hole"):
        speed(operation="boring", largest_outside="0.9 in")


def test_what_limits_the_speed_is_named() -> None:
    assert "held to the fastest the machine runs" in speed(diameter="0.1 in", most_rpm=3000).sentence
    assert "held to what is marked on the chuck" in speed(diameter="0.1 in", most_rpm=700).sentence


@pytest.mark.parametrize(("operation", "says"), [("turning", True), ("boring", False), ("drilling", False)])
def test_only_an_outside_gets_faster_as_it_gets_smaller(operation: str, says: bool) -> None:
    assert ("go up a speed" in speed(operation=operation).sentence) is says


def test_a_drill_leaves_no_roughness_that_a_nose_would() -> None:
    assert speed(operation="drilling", feed="0.004 in", nose_radius="0.031 in").ra_um is None
    assert speed(operation="boring", feed="0.004 in", nose_radius="0.031 in").ra_um is not None


@given(st.integers(1, 400), st.sampled_from(["0", "29.5", "60", "84.3"]), st.sampled_from(["0.001 in", "0.02 mm"]))
def test_a_face_is_wound_in_whole_lines_and_never_past(thousandths: int, angle: str, line: str) -> None:
    found = face(measured=f"{25 + thousandths / 100:.2f} mm", compound_deg=angle, line=line)
    if found.whole_lines is None or found.line_takes is None or found.left is None:
        raise AssertionError("a dial has lines")
    for one in found.passes:
        lines = one.mm / found.line_takes.mm
        assert abs(lines - lines.to_integral_value()) < Decimal("1e-6")
    assert sum(one.mm for one in found.passes) + found.left.mm == pytest.approx(found.to_take.mm)
    assert 0 <= found.left.mm < found.line_takes.mm
    assert not any("." in step.split(" lines")[0].split("in to ")[-1] for step in found.steps if " lines" in step)
