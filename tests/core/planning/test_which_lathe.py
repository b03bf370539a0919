"""Which lathe: each thing a piece of work asks, by what the shop entered, and nothing claimed of what it did not."""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.planning.which_lathe import Check, MachineRoom, Verdict, WorkSize, checks, fits, room_mm

LATHE = {
    "swing_over_bed": "300 mm", "swing_over_cross_slide": "180 mm", "swing_over_gap": "420 mm",
    "between_centres": "600 mm",
    "spindle_bore": "38 mm",
    "grips_from": "6 mm", "grips_to": "120 mm", "grips_to_reversed": "200 mm", "steady_from": "10 mm",
    "steady_to": "80 mm",
    "gap_length": "90 mm",
    "cross_slide_back": "320 mm", "tailstock_travel": "90 mm",
}  # fmt: skip


def asked(work: dict[str, Any], room: dict[str, str] | None = None, **machine: Any) -> dict[str, Check]:
    sizes = {"swings_mm": "60", "length_mm": "100", "held_mm": "60"} | work
    values = {name: Decimal(value) if name.endswith("_mm") and value else value for name, value in sizes.items()}
    lathe = MachineRoom(name="Long lathe", room_mm=room_mm(LATHE if room is None else room), **machine)
    return {one.asked: one for one in checks(WorkSize(**values), lathe, "mm")}


@pytest.mark.parametrize(
    ("work", "what", "verdict"),
    [
        ({}, "swing", "fits"),
        ({"swings_mm": "310"}, "swing", "does_not"),
        ({"swings_mm": "310", "large_length_mm": "60"}, "swing", "fits"),
        ({"swings_mm": "430"}, "swing", "does_not"),
        ({"swings_mm": "190", "beyond_chuck_mm": "250"}, "over the cross-slide", "does_not"),
        ({"swings_mm": "170", "beyond_chuck_mm": "250"}, "over the cross-slide", "fits"),
        ({"swings_mm": "330", "large_length_mm": "50"}, "cross-slide back", "does_not"),
        ({"held_mm": "5"}, "chuck", "does_not"),
        ({"held_mm": "150"}, "chuck", "fits"),
        ({"held_mm": "210"}, "chuck", "does_not"),
        ({"holding": "between_centres", "length_mm": "700"}, "between centres", "does_not"),
        ({"steadied_mm": "90"}, "steady", "does_not"),
        ({"steadied_mm": "40"}, "steady", "fits"),
        ({"drilled_mm": "120"}, "drilling", "fits"),
    ],
)
def test_each_thing_is_held_against_the_machines_figure(work: dict[str, Any], what: str, verdict: Verdict) -> None:
    assert asked(work)[what].verdict == verdict


def test_the_gap_has_a_length_as_well_as_a_height() -> None:
    assert "it is 90 mm long, needed 100 mm" in asked({"swings_mm": "310", "large_length_mm": "100"})["swing"].sentence


@pytest.mark.parametrize(
    ("work", "what"), [({"holding": "between_centres"}, "between centres"), ({"swings_mm": "310"}, "swing")]
)
def test_of_a_length_nobody_said_nothing_is_claimed(work: dict[str, Any], what: str) -> None:
    found = asked(work | {"length_mm": None})[what]
    assert found.verdict == "not_said"
    assert found.sentence.endswith("how long the work is nobody said.")


def test_a_machine_without_figures_claims_nothing() -> None:
    found = asked({}, {})
    assert {one.verdict for one in found.values()} == {"not_said"}
    assert fits(list(found.values())) == "not_said"


def test_what_does_not_pass_the_spindle_is_sawn_first() -> None:
    assert "saw the blank first" in asked({"held_mm": "60"})["through the spindle"].sentence
    assert "parted off" in asked({"held_mm": "30"})["through the spindle"].sentence


@pytest.mark.parametrize(("speeds", "verdict"), [("25 60 140", "fits"), ("60 140", "does_not"), ("20-2000", "fits")])
def test_the_slowest_speed_decides_the_largest_rim(speeds: str, verdict: Verdict) -> None:
    """A rim of 300 mm at 60 rpm runs at 56.5 m/min; at 25 rpm at 23.6."""
    assert asked({"swings_mm": "300", "cutting_m_min": 25.0}, speeds=speeds)["slowest speed"].verdict == verdict


def test_one_thing_that_does_not_fit_is_enough() -> None:
    assert fits(list(asked({"held_mm": "210"}).values())) == "does_not"


def test_room_that_cannot_be_read_is_left_out() -> None:
    assert room_mm({"spindle_bore": "wide", "grips_to": "8 in"}) == {"grips_to": Decimal("203.2")}


def test_how_far_a_cross_slide_comes_back_is_asked_where_it_matters() -> None:
    room = {name: size for name, size in LATHE.items() if name != "cross_slide_back"}
    assert asked({"swings_mm": "200"}, room)["cross-slide back"].verdict == "not_said"
    assert "cross-slide back" not in asked({"swings_mm": "100"}, room)
