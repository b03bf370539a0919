"""Dimensions between faces: which lead from one to another, checked against trying every way."""

from itertools import permutations

from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.lengths.faces import Faces, dimensions_between, said_twice

faces = st.sampled_from("ABCDE")
dimensions = st.lists(st.tuples(faces, faces).filter(lambda pair: pair[0] != pair[1]), min_size=1, max_size=6)


def every_way(given_dimensions: list[Faces], first: str, last: str) -> list[int]:
    """How many dimensions each way from face to face takes, by trying all orders of all of them."""
    lengths = []
    for size in range(1, len(given_dimensions) + 1):
        for order in permutations(given_dimensions, size):
            at = first
            for left, right in order:
                at = right if at == left else left if at == right else ""
            if at == last:
                lengths.append(size)
    return lengths


@given(dimensions, faces, faces)
def test_the_fewest_dimensions_are_found_where_any_lead_there(parts: list[Faces], first: str, last: str) -> None:
    ways = every_way(parts, first, last) if first != last else [0]
    found = dimensions_between(parts, first, last)
    assert (None if found is None else len(found)) == min(ways, default=None)


@given(dimensions, faces, faces)
def test_gone_along_and_back_they_lead_from_the_one_to_the_other(parts: list[Faces], first: str, last: str) -> None:
    at = first
    for index, way in dimensions_between(parts, first, last) or []:
        begins, ends = parts[index][::way]
        assert at == begins
        at = ends
    assert at in (first, last)


@given(dimensions)
def test_without_those_said_twice_no_ring_is_left_and_nothing_falls_apart(parts: list[Faces]) -> None:
    twice = said_twice(parts)
    left = [one for index, one in enumerate(parts) if index not in twice]
    assert said_twice(left) == []
    assert all(dimensions_between(left, *parts[index]) for index in twice)
