"""What the handwheels show: turns and lines of the carriage, turns of the tailstock; nothing where nobody said it."""

from decimal import Decimal

import pytest

from nomisma.core.operations.figures import figures
from nomisma.core.operations.slide_dials import SlideDials, on_the_carriage, on_the_tailstock, slide_dials
from tests.core.planning.sketched import planned

BENCH = slide_dials(
    {"carriage_line": Decimal("0.1"), "carriage_turn": Decimal(15), "tailstock_turn": Decimal(3)}, "radius"
)


@pytest.mark.parametrize(
    ("away", "said"),
    [
        ("40", "carriage 2 turns + 100 lines, 0 at the face"),
        ("14.95", "carriage 149.5 lines, 0 at the face"),
        ("0", ""),
    ],
)
def test_the_carriage_is_wound_from_the_face(away: str, said: str) -> None:
    assert on_the_carriage(Decimal(away), BENCH) == said


def test_what_nobody_said_of_a_lathe_is_not_said() -> None:
    assert on_the_carriage(Decimal(40), SlideDials()) == ""
    assert on_the_tailstock(Decimal(40), SlideDials()) == ""
    assert on_the_carriage(Decimal(40), SlideDials(Decimal("0.1"))) == "carriage 400 lines, 0 at the face"


def test_a_steps_figures_stand_in_the_turns_of_the_lathe() -> None:
    """By hand: D ends 10 mm from the face, 100 lines; A at the blade, 43.8 mm, 438 lines of 150 a turn."""
    order = planned("od 30 x 30\nod 20 x 10\nbore 12 H7 x 20 deep from the right")
    held = order.set_ups[0].set_up.workholding
    assert held is not None
    said = {
        one.operation.title: " ".join(figures(one.cuts, held, Decimal(40), "mm", one.before, BENCH))
        for one in order.set_ups[0].operations
    }
    assert "carriage 100 lines, 0 at the face" in said["Finish turn C, D"]
    assert "carriage 2 turns + 138 lines, 0 at the face" in said["Finish turn A, B"]
    deepest = max(40 - cut.point_mm for one in order.operations for cut in one.cuts if cut.point_mm is not None)
    drilled = next(words for title, words in said.items() if title.startswith("Drill"))
    assert f"{deepest / 3:.1f} turns of the tailstock" in drilled
    assert "carriage" not in said["Face"]
