"""What is at hand for holes decides how they are made: the shop's drills, and the smallest hole a bar goes into."""

from decimal import Decimal

import pytest

from nomisma.core.errors import InputError
from nomisma.core.operations.hole_tools import USUAL_TOOLS, HoleTools, hole_tools
from nomisma.core.order.order import order_of_work
from tests.core.planning.sketched import features


def drilled(lines: str, tools: HoleTools = USUAL_TOOLS) -> tuple[list[Decimal | None], list[str]]:
    order = order_of_work(features(lines), tools=tools)
    assert order is not None
    cuts = [cut for one in order.operations for cut in one.cuts]
    kinds = [cut.kind for cut in cuts if cut.is_hole and cut.traits.finishes]
    return [cut.after_mm for cut in cuts if cut.kind == "drill"], kinds


def test_a_plan_takes_the_drills_of_the_shop() -> None:
    assert drilled("od 40 x 20\nbore 17 H7 thru, true to A", hole_tools(drills="4 14 mm"))[0] == [4, 14]
    assert drilled("od 40 x 20\nbore 17 H7 thru, true to A")[0][-1] == Decimal("16.2")


def test_the_smallest_bar_decides_what_is_bored() -> None:
    line = "od 30 x 20\nbore 5 H7 x 10 deep from the right, true to A"
    assert drilled(line)[1] == ["ream"]
    assert drilled(line, hole_tools(least_bored_mm=Decimal("4.5")))[1] == ["bore"]


def test_a_hole_that_is_said_to_be_bored_is_bored() -> None:
    assert drilled("od 40 x 20\nbore 12 H7 thru")[1] == ["ream"]
    assert drilled("od 40 x 20\nbored 12 H7 thru")[1] == ["bore"]


@pytest.mark.parametrize(("field", "reamers", "drills"), [("reamers", "8", ""), ("drills", "8 mm", "x mm")])
def test_a_list_that_cannot_be_read_is_refused_at_its_field(field: str, reamers: str, drills: str) -> None:
    with pytest.raises(InputError) as raised:
        hole_tools(reamers, drills)
    assert raised.value.field == field
