"""What the coach is asked with: what is left out is the usual, and impossible cuts are refused."""

from typing import Any

import pytest
from pydantic import ValidationError

from nomisma.core.cutting.coach_model import MeasuredCut, NextCutInput

GIVEN = {"size": "27 mm", "lower": "24.9 mm", "upper": "25 mm", "dial_line": "0.01 mm"}


def test_two_equal_last_cuts_on_whole_lines_are_the_usual() -> None:
    found = NextCutInput.model_validate(GIVEN)
    assert (found.approach, found.parts_of_line, found.kind, found.cuts) == ("equal_cuts", 1, "shaft", [])


@pytest.mark.parametrize("wrong", [{"approach": "guess"}, {"parts_of_line": 3}, {"school": "creep"}])
def test_what_is_no_choice_is_refused(wrong: dict[str, Any]) -> None:
    with pytest.raises(ValidationError):
        NextCutInput.model_validate({**GIVEN, **wrong})


def test_a_cut_is_of_the_first_piece_unless_it_is_said() -> None:
    assert MeasuredCut.model_validate({"dialled": "0.2 mm", "before": "27 mm", "after": "26.8 mm"}).piece == 1
