"""The one shape of an answer that one template shows."""

import pytest
from pydantic import ValidationError

from nomisma.core.quantity.writing import parse_length
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer


def test_an_answer_has_a_headline_a_sentence_and_its_working() -> None:
    with pytest.raises(ValidationError, match="working"):
        WorksheetAnswer.model_validate({"headline": "1:20", "sentence": "So it is."})
    assert WorksheetAnswer(headline="1:20", sentence="So it is.", working=[]).facts == []


def test_a_fact_is_a_length_a_range_or_words() -> None:
    assert Fact.model_validate({"name": "End", "length": "0.2 mm", "to": "0.6 mm"}).to == parse_length("0.6 mm")
    assert Fact(words="tight").length is None
