"""How work is held: never three jaws where they do not hold, and a finished or a thin surface is not squeezed bare."""

from decimal import Decimal
from typing import Any

import pytest

from nomisma.core.planning.holding import HeldWork, holdings, ways_to_hold
from nomisma.core.planning.set_ups import SetUp, Worked


def first(worked: Worked = "right", **work: Any) -> str:
    given = {"diameter_mm": Decimal(40), "stands_out_mm": Decimal(50), **work}
    return ways_to_hold(SetUp(worked, "", (), ()), HeldWork(**given))[0].holding.name


@pytest.mark.parametrize(
    ("worked", "work", "held"),
    [
        ("right", {}, "three_jaw"),
        ("right", {"shape": "square"}, "four_jaw"),
        ("right", {"shape": "octagon"}, "four_jaw"),
        ("left", {"finished": True, "runs_with": True}, "four_jaw"),
        ("left", {"finished": True, "runs_with": True, "pieces": 12}, "soft_jaws"),
        ("left", {"finished": True}, "three_jaw"),
        ("left", {"finished": True, "pieces": 12}, "soft_jaws"),
        ("right", {"wall_mm": Decimal(2)}, "soft_jaws"),
        ("right", {"stands_out_mm": Decimal(200)}, "chuck_and_centre"),
        ("mandrel", {}, "mandrel"),
        ("centres", {}, "centres"),
    ],
)
def test_the_first_way_is_the_one_the_work_asks_for(worked: Worked, work: dict[str, Any], held: str) -> None:
    assert first(worked, **work) == held


def test_what_stands_far_out_gets_a_steady() -> None:
    ways = ways_to_hold(SetUp("right", "", (), ()), HeldWork(diameter_mm=Decimal(20), stands_out_mm=Decimal(300)))
    assert [one.holding.name for one in ways[:2]] == ["steady", "follow_rest"]


def test_a_long_thin_shaft_between_centres_may_have_a_follow_rest() -> None:
    slender, short = (HeldWork(diameter_mm=Decimal(20), stands_out_mm=Decimal(mm)) for mm in (300, 100))
    names = [
        [one.holding.name for one in ways_to_hold(SetUp("centres", "", (), ()), work)] for work in (slender, short)
    ]
    assert names == [["centres", "follow_rest", "chuck_and_centre"], ["centres", "chuck_and_centre"]]


@pytest.mark.parametrize("name", holdings())
def test_each_way_says_what_it_costs_what_it_is_for_and_what_to_mind(name: str) -> None:
    one = holdings()[name]
    assert 0 < one.least_um < one.most_um
    assert one.for_what
    assert one.mind


def test_a_three_jaw_loses_what_the_trade_says() -> None:
    """Trade notes, 10: 0.002 to 0.005 in when the work is turned round."""
    assert holdings()["three_jaw"].most_um == pytest.approx(Decimal("127"), abs=5)
