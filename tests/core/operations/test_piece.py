"""The part as it is to be cut: tapers, undercuts and edges as lines on the metal."""

from decimal import Decimal

import pytest

from nomisma.core.order.laid_out import StockSaid
from tests.core.planning.sketched import piece


def test_a_taper_begins_with_its_large_end_and_falls_by_its_rate() -> None:
    """1:20 over 30: 1.5 on diameter (ISO 3040)."""
    own = piece("taper 1:20 over 30 from 25\nlength 30")
    (cut,) = [cut for one in own.surfaces for cut in own.cuts_in_outside(one)]
    assert (cut.from_mm, cut.to_mm, cut.before_mm, cut.after_mm) == (0, 30, 25, Decimal("23.5"))
    turned = own.mirrored()
    (back,) = [cut for one in turned.surfaces for cut in turned.cuts_in_outside(one)]
    assert (back.before_mm, back.after_mm) == (Decimal("23.5"), 25)


def test_a_taper_shorter_than_its_outside_lies_at_its_small_end() -> None:
    own = piece("od 30 x 40\ntaper 1:10 over 15 on A")
    (cut,) = [cut for one in own.surfaces for cut in own.cuts_in_outside(one)]
    assert (cut.from_mm, cut.to_mm, cut.after_mm) == (25, 40, Decimal("28.5"))


def test_an_undercut_lies_at_its_shoulder_in_the_smaller_diameter() -> None:
    """DIN 509 F 0.6 x 0.3 is 2.5 wide (recalled)."""
    own = piece("od 40 x 20\nod 30 h7 x 15\nundercut F 0.6 x 0.3 at 20")
    (cut,) = [cut for one in own.surfaces for cut in own.cuts_in_outside(one)]
    assert (cut.from_mm, cut.to_mm) == (20, Decimal("22.5"))
    assert cut.after_mm == cut.before_mm - Decimal("0.6") if cut.before_mm else False


@pytest.mark.parametrize(("line", "radial"), [("cham 1 x 45", "1"), ("cham 1 x 30", "0.577"), ("cham 2 x 15", "0.536")])
def test_an_edge_goes_along_by_its_leg_and_in_by_its_angle(line: str, radial: str) -> None:
    """tan 30° is 0.57735, 2·tan 15° is 0.53590."""
    own = piece(f"od 30 x 40\n{line}")
    (edge,) = [one for one in own.surfaces if one.kind == "edge"]
    right = next(own.edges_at(edge, "right"))
    assert right.before_mm == 30
    assert right.after_mm == 30 - 2 * Decimal(radial)


def test_no_edge_is_broken_where_there_is_no_corner() -> None:
    own = piece("od 30 x 20\nod 40 x 20\ncham 1 x 45 on A")
    (edge,) = [one for one in own.surfaces if one.kind == "edge"]
    assert list(own.edges_at(edge, "right")) == []
    assert len(list(own.edges_at(edge, "left"))) == 1


def test_stock_in_limits_is_left_unless_it_must_be_true() -> None:
    stock = StockSaid(across_mm=Decimal(40))
    assert piece("od 40 ±0.2 x 30", stock).as_bought == {"A"}
    assert piece("od 40 ±0.2 x 30 true to C\nbore 12 H7 thru", stock).as_bought == frozenset()
    assert piece("od 40 h7 x 30", StockSaid(across_mm=Decimal("40.5"))).as_bought == frozenset()
