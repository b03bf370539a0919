"""How far a thread may run out, behind its own line or on one of its own."""

import pytest

from tests.core.part.kinds.reading import again, read


@pytest.mark.parametrize("line", ["M20x1.5 6g x 30 runout 3", "M20x1.5 6g x 30, runout 3 max", "M20x1.5 6g, runout 3"])
def test_it_is_said_behind_the_thread(line: str) -> None:
    found = next(one for one in read(line) if one.kind == "thread_runout")
    assert (found.lower, str(found.upper), found.along) == (None, "3 mm", "on C")


def test_it_may_stand_behind_what_the_thread_is_on() -> None:
    found = read("M40x2 6g on A, runout 3, blunt start")
    assert {(one.kind, one.along) for one in found} == {
        ("thread", "on A"),
        ("thread_runout", "on C"),
        ("blunt_start", "on C"),
    }


def test_it_is_said_again_on_a_line_of_its_own() -> None:
    assert "thread-runout 3 max on C" in again("M20x1.5 6g x 30 runout 3")


def test_a_runout_to_a_letter_is_another_thing() -> None:
    assert [one.kind for one in read("runout 0.02 to A")][-1] == "runout"
