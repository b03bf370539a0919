"""The one shape of an answer that one template shows."""

import pytest
from pydantic import ValidationError

from nomisma.core.told import Fact, Told


def test_an_answer_has_a_headline_a_sentence_and_its_working() -> None:
    with pytest.raises(ValidationError, match="working"):
        Told(headline="1:20", sentence="So it is.")  # type: ignore[call-arg]
    assert Told(headline="1:20", sentence="So it is.", working=[]).facts == []


def test_a_fact_is_a_length_a_range_or_words() -> None:
    assert Fact(name="End", length="0.2 mm", to="0.6 mm").to is not None  # type: ignore[arg-type]
    assert Fact(words="tight").length is None
