"""Form from readings at places: what is seen, what is not, and which place speaks."""

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.calculation import BadInput
from nomisma.core.measuring.form import FormResult
from nomisma.core.measuring.place import parse_place
from nomisma.core.quantity.length import Length
from nomisma.core.registry import calculation_named

PLACES = ("mouth 0°", "mouth 90°", "middle 0°", "middle 90°", "deep 0°", "deep 90°")


def form_of(kind: str, *sizes: str, places: tuple[str, ...] = PLACES, **more: Any) -> FormResult:
    readings = [{"place": place, "size": f"{size} mm"} for place, size in zip(places, sizes, strict=False)]
    found = calculation_named("form").run({"kind": kind, "readings": readings, "resolution": "0.001 mm", **more})
    assert isinstance(found, FormResult)
    return found


@pytest.mark.parametrize(
    ("kind", "sizes", "shape"),
    [
        ("bore", ("25.006", "25.006", "25.006", "25.006", "25.006", "25.006"), "straight"),
        ("bore", ("25.020", "25.020", "25.005", "25.005", "25.004", "25.004"), "bell_mouthed"),
        ("bore", ("25.020", "25.020", "25.012", "25.012", "25.004", "25.004"), "tapered"),
        ("shaft", ("24.990", "24.990", "24.998", "24.998", "24.991", "24.991"), "barrelled"),
        ("shaft", ("24.998", "24.998", "24.990", "24.990", "24.997", "24.997"), "waisted"),
    ],
)
def test_a_form_has_its_name(kind: str, sizes: tuple[str, ...], shape: str) -> None:
    assert form_of(kind, *sizes).shape == shape


def test_ovality_is_the_difference_of_two_directions_at_one_depth() -> None:
    found = form_of("bore", "25.006", "25.009", "25.006", "25.007", "25.006", "25.006")
    assert found.ovality is not None
    assert str(found.ovality) == "0.003 mm"
    assert found.ovality_at == "mouth"


@pytest.mark.parametrize(("kind", "size"), [("bore", "25.004 mm"), ("shaft", "25.02 mm")])
def test_the_go_side_is_judged_by_the_worst_place_not_the_mean(kind: str, size: str) -> None:
    found = form_of(kind, "25.020", "25.010", "25.010", "25.010", "25.010", "25.004")
    assert str(found.go_side) == size


def test_measured_depths_count_in_their_own_length() -> None:
    found = form_of("bore", "25.000", "25.004", places=("0 mm 0°", "20 mm 0°"), length="40 mm")
    assert found.taper is not None
    assert str(found.taper) == "0.004 mm"
    assert [round(one.share, 2) for one in found.sections] == [0, 0.5]


@pytest.mark.parametrize(("points", "sentence"), [(2, "odd number of lobes"), (3, "even number of lobes")])
def test_what_an_instrument_cannot_see_is_said(points: int, sentence: str) -> None:
    found = form_of("bore", "25.000", "25.001", points=points)
    assert any(sentence in line for line in found.unseen)
    assert any("One depth only" in line for line in found.unseen)


@pytest.mark.parametrize(
    ("values", "sentence"),
    [
        ({"kind": "bore", "readings": []}, "needs at least 1"),
        ({"kind": "bore", "readings": [{"place": "moon", "size": "25 mm"}]}, "is not understood as a place"),
        ({"kind": "bore", "readings": [{"place": "mouth", "size": "25 mm"}, {"place": "deep", "size": "1 in"},
         {"place": "deep", "size": "3 in"}]},
         "too far apart for one feature"),
        ({"kind": "bore", "readings": [{"place": "30 mm", "size": "25 mm"}], "length": "20 mm"},
            "past the end of a feature"),
    ],
)  # fmt: skip
def test_wrong_places_have_their_sentence(values: dict[str, Any], sentence: str) -> None:
    with pytest.raises(BadInput, match=sentence):
        calculation_named("form").run(values)


@pytest.mark.parametrize(
    ("text", "kept"),
    [
        ("mouth", "mouth"),
        ("Near End 90 deg", "near end 90°"),
        ("12.5", "12.5 mm"),
        ("1/2 in 45°", "1/2 in 45°"),
        ("120°", "120°"),
    ],
)
def test_a_place_is_kept_as_it_is_said(text: str, kept: str) -> None:
    assert parse_place(text, "mm").text == kept


@given(st.text(max_size=60))
def test_any_text_is_a_place_or_refused_with_a_sentence(text: str) -> None:
    from nomisma.core.errors import InputError

    try:
        place = parse_place(text, "mm")
    except InputError as error:
        assert error.sentence
    else:
        assert place.text
        assert place.direction_deg is None or 0 <= place.direction_deg < 360


@given(st.lists(st.integers(-20, 20), min_size=6, max_size=6), st.integers(-50, 50))
def test_size_moves_with_the_part_and_form_does_not(offs: list[int], shift: int) -> None:
    sizes = [f"{25 + off / 1000:.3f}" for off in offs]
    moved = [f"{25 + (off + shift) / 1000:.3f}" for off in offs]
    first, second = form_of("shaft", *sizes), form_of("shaft", *moved)
    assert first.shape == second.shape
    assert first.taper == Length(second.taper.mm) if second.taper else first.taper is None
    assert round(second.go_side.mm - first.go_side.mm, 6) == round(shift * first.go_side.mm.__class__("0.001"), 6)


def test_a_taper_per_length_is_over_the_depths_that_were_read() -> None:
    """0.020 between 5 and 25 mm of a bore 30 long: 0.001 a millimetre, not 0.020 over 30. Source: arithmetic."""
    found = form_of("bore", "25.020", "25.000", places=("5 mm 0°", "25 mm 0°"), length="30 mm")
    assert found.taper_per_length == pytest.approx(0.001)


def test_a_straight_taper_read_at_uneven_depths_is_no_bell_mouth() -> None:
    found = form_of("bore", "25.025", "25.020", "25.000", places=("5 mm 0°", "10 mm 0°", "30 mm 0°"), length="40 mm")
    assert found.shape == "tapered"
