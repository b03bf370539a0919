"""An inside thread: its own hole, no size that is read, a gauge."""

from tests.core.part.kinds.reading import read


def test_the_hole_has_the_limits_and_the_thread_is_gauged() -> None:
    """Source: ISO 965-2 (recalled): the minor diameter of M24x2 6H is 21.835 to 22.210, its basic pitch diameter
    22.701.
    """
    hole, thread = read("M24x2 thru")
    assert (str(hole.lower), str(hole.upper), hole.limits_from, hole.through) == ("21.835 mm", "22.21 mm", "code", True)
    assert (thread.lower, thread.upper, str(thread.nominal), thread.along) == (None, None, "22.701 mm", "on C")
