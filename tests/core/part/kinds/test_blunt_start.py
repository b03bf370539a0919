"""A blunt start is a feature of its thread, and looked at."""

from tests.core.part.kinds.reading import again, read


def test_it_is_said_behind_the_thread_and_looked_at() -> None:
    found = read("M20x1.5 6g x 30, blunt start")
    assert [one.kind for one in found] == ["outside_diameter", "step_length", "thread", "blunt_start"]
    assert found[-1].along == "on C"
    assert "first full turn" in found[-1].sentence


def test_it_is_said_again_on_a_line_of_its_own() -> None:
    assert "blunt-start to the first full turn on C" in again("M20x1.5 6g x 30 blunt start")
