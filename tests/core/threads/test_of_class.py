"""What a class gives a thread, whichever standard it belongs to."""

import pytest

from nomisma.core.errors import InputError
from nomisma.core.threads.called_out import Side, thread_called_out
from nomisma.core.threads.of_class import limits_of


@pytest.mark.parametrize("text", ["M6", "M24x2", "M64x4", "1/4-20", "2-12 UN", "#4-40", "7/8-20 UNEF"])
def test_an_outside_thread_goes_into_an_inside_one(text: str) -> None:
    said = thread_called_out(text)
    outside, inside = (limits_of(said, side) for side in ("outside", "inside"))
    assert outside.pitch.upper_mm < inside.pitch.lower_mm
    assert outside.crest.lower_mm > inside.crest.upper_mm > said.thread.diameter_mm - 2 * said.thread.pitch_mm


@pytest.mark.parametrize(
    ("text", "side"),
    [("M8 9H", "inside"), ("M8 3g5g", "outside"), ("M24x2.2", "outside"), ("M400x4", "inside"), ("M8 4e", "inside")],
)
def test_what_the_standard_has_not_is_told(text: str, side: Side) -> None:
    with pytest.raises(InputError):
        limits_of(thread_called_out(text), side)


def test_a_pitch_the_table_has_not_for_a_diameter_is_marked() -> None:
    assert limits_of(thread_called_out("M60x1"), "outside").unsure
    assert not limits_of(thread_called_out("M24x2"), "outside").unsure
