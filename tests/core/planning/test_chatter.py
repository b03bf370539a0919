"""Chatter: one change at a time, in order, with its figure."""

from typing import Any

import pytest

from nomisma.core.calculation import BadInput
from nomisma.core.planning.chatter import ChatterResult, changes_for, chatter_causes
from nomisma.core.registry import calculation_named


def chatter(**given: Any) -> ChatterResult:
    found = calculation_named("chatter").run(
        {"cause": "thin_wall", "rpm": 500, "feed": "0.1 mm", "depth": "0.4 mm", **given}
    )
    assert isinstance(found, ChatterResult)
    return found


@pytest.mark.parametrize("cause", chatter_causes())
def test_the_changes_come_one_after_the_other_until_all_were_tried(cause: str) -> None:
    tried: list[int] = []
    while (found := chatter(cause=cause, tried=" ".join(map(str, tried)))).next_change:
        assert found.next_change == len(tried) + 1
        tried.append(found.next_change)
    assert len(tried) == len(changes_for(cause))
    assert found.headline == "All of it was tried"


def test_a_change_comes_with_its_figure_from_what_is_set() -> None:
    assert chatter().headline == "Lower the speed: 300 rpm"
    assert chatter(tried="1 2").headline == "Less depth: 0.200 mm"


def test_without_a_setting_it_says_the_share() -> None:
    assert chatter(rpm=None).headline == "Lower the speed: to 60 % of it"


@pytest.mark.parametrize(
    ("given", "field"), [({"cause": "ghosts"}, "cause"), ({"tried": "9"}, "tried"), ({"tried": "one"}, "tried")]
)
def test_what_is_not_in_the_list_is_refused(given: dict[str, str], field: str) -> None:
    with pytest.raises(BadInput) as refused:
        chatter(**given)
    assert refused.value.errors[0].field == field
