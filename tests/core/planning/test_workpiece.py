"""The workpiece before an operation takes anything off."""

from decimal import Decimal
from typing import get_args

import pytest

from nomisma.core.planning.operations import THREADING, Operation, OperationKind
from nomisma.core.planning.workpiece import Workpiece

BAR = Workpiece(Decimal(70), Decimal(70), Decimal(17))
CASTING = Workpiece(Decimal(182), Decimal(47), skin_mm=Decimal("1.5"))


@pytest.mark.parametrize("kind", get_args(OperationKind))
def test_of_every_operation_it_is_known(kind: OperationKind) -> None:
    """What is cut into a face or a crest begins there, everything else from the bar or from the drill's hole."""
    begins = {Decimal(51)} if kind in (*THREADING, "knurl", "undercut", "face_groove") else {Decimal(70), Decimal(17)}
    assert BAR.diameter_before_mm(Operation(kind, ("A",), Decimal(51), Decimal(6))) in begins


@pytest.mark.parametrize(
    ("kind", "bar", "casting"),
    [("face", 70, 47), ("rough_turn", 70, 54), ("rough_bore", 17, 0), ("part_off", 70, 47)],
)
def test_a_bar_is_as_wide_everywhere_and_a_casting_has_its_shape_already(
    kind: OperationKind, bar: int, casting: int
) -> None:
    one = Operation(kind, ("A",), Decimal(51), Decimal(6))
    assert (BAR.diameter_before_mm(one), CASTING.diameter_before_mm(one)) == (bar, casting)
