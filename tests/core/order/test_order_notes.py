"""What a plan leaves to be looked after, in words."""

from nomisma.core.order.order_notes import notes_of
from tests.core.planning.sketched import planned


def test_a_bar_that_is_too_long_to_be_parted_from_is_sawn_first_and_it_is_said_how_long() -> None:
    """160 and 0.8 on either end."""
    found = planned("od 12 h7 x 160")
    assert notes_of(found)[0] == (
        "It is too long to be parted off: saw a blank 161.6 mm long first, with both faces to come."
    )
    assert planned("od 12 h7 x 20").sawn_mm is None
