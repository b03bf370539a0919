"""The bench: jobs found by number, word, callout, person and machine; pages of what was found."""

import re

import pytest

from nomisma.web.job.bench import JOBS_A_PAGE
from tests.web.conftest import Hand


def found(hand: Hand, **asked: str) -> list[int]:
    """The numbers of the jobs shown."""
    page = hand.get("/", params=asked)
    assert page.status_code == 200
    return [int(number) for number in re.findall(r'class="job-number">(\d+)<', page.text)]


@pytest.mark.parametrize(
    ("words", "numbers"),
    [
        ("104", [104]), ("dome bush", [112, 104]), ("DOME", [123, 116, 115, 112, 104]), ("32 H7", [102]),
        ("Pim spacer", [113]),
        ("encoder", [117, 103]),
        ("no such job", []), ("%", []), ("_____", []), ("99999999999999999999", []), ("\\", []),
    ],
)  # fmt: skip
def test_jobs_are_found_by_their_words(orla: Hand, words: str, numbers: list[int]) -> None:
    assert found(orla, q=words) == numbers


def test_open_and_handed_over_jobs_are_told_apart(orla: Hand) -> None:
    everything, still_open, closed = found(orla), found(orla, which="open"), found(orla, which="closed")
    assert sorted(still_open + closed)[-JOBS_A_PAGE:] == sorted(everything)
    assert 101 in closed


def test_mine_are_the_open_ones_i_started(orla: Hand) -> None:
    mine = found(orla, which="mine")
    assert 104 in mine
    assert 113 not in mine


def test_a_machine_shows_its_own_jobs(orla: Hand) -> None:
    page = orla.get("/").text
    machine = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Bench lathe<', page)
    assert machine
    shown = found(orla, machine=machine[1])
    assert 103 in shown
    assert 104 not in shown


def test_what_is_not_found_says_so_and_leads_back(orla: Hand) -> None:
    assert "No job is like that" in orla.get("/", params={"q": "nothing of the kind"}).text


def test_a_strange_choice_shows_everything(orla: Hand) -> None:
    assert found(orla, which="\x00", machine="x") == found(orla)


def test_open_jobs_are_listed_by_the_day_they_are_needed(orla: Hand) -> None:
    assert found(orla, which="due") == [128, 129]
    page = orla.get("/", params={"which": "due"}).text
    assert page.count("needed by ") == 2


def test_a_person_shows_what_they_started_or_worked_on_last(orla: Hand) -> None:
    page = orla.get("/").text
    pim = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Pim Larkwhistle<', page)
    assert pim
    shown = found(orla, person=pim[1])
    assert 129 in shown
    assert 104 not in shown


def test_what_stands_on_the_lathes_comes_first_with_its_next_step(orla: Hand) -> None:
    page = orla.get("/").text
    there = page[page.index('class="on-the-lathes"') : page.index('class="jobs"')]
    assert re.search(r"Bench lathe</strong>: <span class=\"num\">128</span>", there)
    assert "Set-up 2: finish turn A, B is next (12 of 15 steps done)." in there
    assert 'class="on-the-lathes"' not in orla.get("/", params={"which": "open"}).text
