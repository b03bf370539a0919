"""A thread as a drawing calls it out: every part of it is understood, and what is none is refused."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.errors import InputError
from nomisma.core.threads.called_out import looks_like_a_thread, thread_called_out


@pytest.mark.parametrize(
    ("text", "words", "side", "lead"),
    [("M24x2-6g", "M24x2 6g", "outside", "2"), ("M24 × 2 6H", "M24x2 6H", "inside", "2"), ("m8", "M8", None, "1.25"),
     ("M16x1.5 2 starts", "M16x1.5 2 starts", None, "3.0"),
     ("M20x1.5 5g6g left-hand", "M20x1.5 5g6g LH", "outside", "1.5"),
     ("1/2-13 UNC-2A", "1/2-13 UNC 2A", "outside", "1.953846"),
     ("3/4-16 unf 2b lh", "3/4-16 UNF 2B LH", "inside", "1.5875"),
     ("#10-32 UNF", "10-32 UNF", None, "0.79375"), ("7/8-20 UNEF-2A", "7/8-20 UNEF 2A", "outside", "1.27"),
     ("30 x 2 pitch 55°", "30 mm x 2 mm pitch 55°", None, "2"),
     ("1.25 in x 8 tpi", "1.25 in x 8 tpi 60°", None, "3.175")],
)  # fmt: skip
def test_a_thread_is_read_as_it_is_called_out(text: str, words: str, side: str | None, lead: str) -> None:
    found = thread_called_out(text)
    assert (found.words, found.side) == (words, side)
    assert abs(found.lead_mm - Decimal(lead)) < Decimal("0.00001")


@pytest.mark.parametrize(
    "text", ["M24x2 6g", "M24x2-6H LH", "1/2-13 UNC 2A", "30 x 2 pitch 55° 2 starts", "M16x1.5 2 starts LH"]
)
def test_its_words_are_read_as_the_same_thread(text: str) -> None:
    found = thread_called_out(text)
    assert thread_called_out(found.words) == found


@pytest.mark.parametrize("text", ["", "M", "M24x", "hello", "30 x 40 pitch", "30 x 2 pitch 179°", "25 H7", "2A"])
def test_what_is_no_thread_has_its_sentence(text: str) -> None:
    with pytest.raises(InputError):
        thread_called_out(text)


def test_a_class_of_the_other_side_is_refused_and_none_is_the_usual() -> None:
    assert thread_called_out("M8").of_class_for("inside").thread_class == "6H"
    assert thread_called_out("1/4-20").of_class_for("outside").thread_class == "2A"
    assert thread_called_out("30 x 2 pitch").of_class_for("outside").thread_class == ""
    with pytest.raises(InputError, match="6g is a class of outside threads"):
        thread_called_out("M8 6g").of_class_for("inside")


@pytest.mark.parametrize("text", ["25 H7", "28 ±0.1", "1-1/2", "1 1/2", "od 25", "0.3755/0.3760", "12-15", "M", "1/2"])
def test_a_size_does_not_look_like_a_thread(text: str) -> None:
    assert not looks_like_a_thread(text)


@given(st.text(max_size=40))
def test_any_text_is_a_thread_or_refused(text: str) -> None:
    looks_like_a_thread(text)
    try:
        assert thread_called_out(text).lead_mm > 0
    except InputError as error:
        assert error.sentence


def test_a_free_thread_is_the_same_in_whatever_unit_its_words_are_read() -> None:
    found = thread_called_out("1.25 x 8 tpi", "in")
    assert thread_called_out(found.words, "mm").form == found.form
