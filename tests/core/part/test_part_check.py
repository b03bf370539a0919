"""What cannot be true of one piece of metal is said; what can be is not."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.part.feature import Feature
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.part.lettered import LetteredFeature
from nomisma.core.part.part_check import part_contradictions
from nomisma.core.planning.feature_lines import FeatureLinesInput, feature_lines


def said(text: str) -> list[tuple[str, ...]]:
    """The letters of what contradicts itself in the lines of a sketch."""
    found = feature_lines(FeatureLinesInput(text=text, unit="mm"))
    assert not found.not_understood
    return [one.letters for one in found.contradictions]


@pytest.mark.parametrize(
    ("lines", "letters"),
    [
        ("od 20 ±0.1\nbore 22 ±0.1", [("B", "A")]),
        # 16 and 30 are 46 long: a hole of 20 is in it, one of 50 is not.
        ("od 28 x 16\nod 20 x 30\nbore 8 x 20 deep", []),
        ("od 28 x 16\nod 20 x 30\nbore 8 x 50 deep", [("F", "B", "D")]),
        ("od 30 ±0.1\nod 20 ±0.1\nbore 22 ±0.1", []),  # it may sit in the larger step
        ("od 30 ±0.1\nod 20 ±0.1\nhole 22 ±0.1 thru", [("C", "B")]),
        ("od 20.0 ±0.2\nbore 20.1 ±0.2", []),  # they can still be apart
        ("od 20 ±0.1 x 30 ±0.1\nbore 8 ±0.1 x 40 ±0.1 deep", [("D", "B")]),
        ("od 20 ±0.1 x 30 ±0.1\nlength 50 ±0.1\nbore 8 ±0.1 x 40 ±0.1 deep", []),
        ("od 20 ±0.1\ngroove 2 ±0.1 wide to 21 ±0.1", [("C", "A")]),
        ("od 20 ±0.1\nhole 12 ±0.1 thru\ngroove 2 ±0.1 wide to 11 ±0.1", [("D", "B")]),
        ("od 20 ±0.1 x 30 ±0.1\ngroove 2 ±0.1 wide to 18 ±0.1 at 31 ±0.1 from the left", [("E", "B")]),
        ("od 20 ±0.1\nhole 18 ±0.1 thru\ncham 2 x 45", [("C",)]),
        ("od 20 ±0.1\nhole 10 ±0.1 thru\ncham 2 x 45", []),
        ("od 30 ±0.1 x 20 ±0.1\nboss 20 ±0.1 x 10.3 ±0.1 high\nlength 30 ±0.05", [("B", "D", "E")]),
        ("od 30 ±0.1 x 20 ±0.1\nboss 20 ±0.1 x 10.2 ±0.1 high\nlength 30 ±0.05", []),  # 19.9 and 10.1 are 30
        ("od 30 ±0.1 x 20 ±0.1\nod 20 ±0.1\noverall 35 ±0.05", []),  # how long C is nobody said
        ("od 30 ±0.1\nhole 20 ±0.1 thru\nwall 5.3 ±0.1", [("C", "A", "B")]),
        ("od 30 ±0.1\nhole 20 ±0.1 thru\nwall 4.7 ±0.1", [("C", "A", "B")]),
        ("od 30 ±0.1\nhole 20 ±0.1 thru\nwall 5.2 ±0.1", []),  # 30.1 around 19.9 leaves 5.1
    ],
)
def test_only_what_cannot_be_is_said(lines: str, letters: list[tuple[str, ...]]) -> None:
    assert said(lines) == letters


sizes = st.decimals("1", "100", places=2)


@given(
    st.lists(st.tuples(st.sampled_from(["outside_diameter", "bore", "length", "depth", "chamfer"]), sizes), max_size=6),
    st.data(),
)
def test_a_wider_tolerance_never_makes_a_new_contradiction(
    found: list[tuple[KindName, Decimal]], data: st.DataObject
) -> None:
    more = [data.draw(st.decimals("0", "5", places=2)) for _ in found]

    def part(extra: list[Decimal]) -> list[LetteredFeature]:
        return [
            LetteredFeature(chr(65 + index), Feature(kind, size - wide, size + wide))
            for index, ((kind, size), wide) in enumerate(zip(found, extra, strict=True))
        ]

    narrow = {one.letters for one in part_contradictions(part([Decimal("0.01")] * len(found)))}
    wide = {one.letters for one in part_contradictions(part([Decimal("0.01") + one for one in more]))}
    assert {letters[0] for letters in wide} <= {letters[0] for letters in narrow}


def test_nothing_is_said_of_what_is_not_known() -> None:
    assert part_contradictions([LetteredFeature("A", Feature("bore", Decimal(10), Decimal(11)))]) == []
    assert part_contradictions([]) == []


@pytest.mark.parametrize(("lines", "said"), [("8 20", True), ("20 8", False), ("20 20", False)])
def test_a_bore_inside_a_larger_one_that_goes_through_is_none(lines: str, said: bool) -> None:
    small, through = map(Decimal, lines.split())
    part = [
        LetteredFeature("A", Feature("outside_diameter", Decimal(40), Decimal(41))),
        LetteredFeature("B", Feature("bore", small, small)),
        LetteredFeature("C", Feature("bore", through, through), through=True),
    ]
    found = [one.sentence for one in part_contradictions(part)]
    assert any("nothing of it is left" in sentence for sentence in found) == said
