"""How many pieces, asked when a job starts, shown on Plan; and Cut for what no dial is wound to."""

import re

import pytest

from tests.web.conftest import Hand
from tests.web.parts import number_of, start


def test_pieces_are_asked_at_the_start_and_stand_on_plan(orla: Hand) -> None:
    number = number_of(start(orla, "od 24 h9 x 30 ±0.1", pieces="12"))
    assert re.search(r">12</span>\s*pieces", orla.get(f"/jobs/{number}/plan").text)
    assert 'name="pieces" value="12"' in orla.get(f"/jobs/{number}/batch").text
    assert 'name="pieces" value="12"' in orla.get(f"/?like={number}").text


@pytest.mark.parametrize("pieces", ["0", "many", "-3", "1e9"])
def test_a_number_of_pieces_that_is_none_starts_nothing(orla: Hand, pieces: str) -> None:
    orla.get("/")
    refused = start(orla, "od 24 h9 x 30 ±0.1", pieces=pieces)
    assert refused.status_code == 422
    assert "is not a number of pieces" in refused.text
    assert f'value="{pieces}"' in refused.text


def test_cut_of_an_edge_names_the_step_that_breaks_it(orla: Hand) -> None:
    number = number_of(start(orla, "od 24 h9 x 30 ±0.1\ncham 0.5 x 45 on A"))
    page = orla.get(f"/jobs/{number}/cut?feature=C").text
    assert "Not cut pass by pass" in page
    step = re.search(r'href="(/jobs/\d+/make[^"]*)">Break the edges', page)
    assert step
    assert "File with a handle, left arm clear of the chuck" in page
    assert "Break the edges" in orla.get(step[1].replace("&amp;", "&")).text
    assert "Not cut pass by pass" not in orla.get(f"/jobs/{number}/cut?feature=A").text
