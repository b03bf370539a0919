"""Labels in rows: none covers another, none leaves the figure, and a line goes behind a label only where it must."""

from hypothesis import given
from hypothesis import strategies as st

from nomisma.web.drawings.label_rows import Placed, Wanted, pointing, rows_of, spanning

LEFT, RIGHT = 10.0, 700.0
PLACES = st.floats(60, 640)
WIDTHS = st.floats(40, 180)


@st.composite
def wanted(draw: st.DrawFn) -> list[Wanted]:
    labels = []
    for index in range(draw(st.integers(1, 14))):
        low, high = sorted((draw(PLACES), draw(PLACES)))
        make = draw(st.sampled_from((pointing, spanning)))
        labels.append(make(str(index), draw(WIDTHS), low, high))
    return labels


@given(wanted())
def test_every_label_stands_once_inside_the_figure_and_covers_no_other(labels: list[Wanted]) -> None:
    placed = rows_of(tuple(labels), left=LEFT, right=RIGHT)
    assert sorted(one.name for one in placed) == sorted(one.name for one in labels)
    assert all(one.left >= LEFT and one.right <= RIGHT + 1e-6 for one in placed)
    for one in placed:
        for other in placed:
            if one is not other and one.row == other.row:
                assert one.reach[1] <= other.reach[0] or other.reach[1] <= one.reach[0]


def crossed(placed: tuple[Placed, ...]) -> list[tuple[str, str]]:
    return [
        (one.name, other.name)
        for one in placed
        for other in placed
        if one.row > other.row and any(other.left < x < other.right for x in one.lines)
    ]


def test_two_labels_over_one_place_make_room_for_each_others_lines() -> None:
    placed = rows_of(
        (
            pointing("A", 80, 100, 300),
            pointing("B", 80, 100, 300),
        ),
        left=LEFT,
        right=RIGHT,
    )
    assert crossed(placed) == []


def test_a_label_on_a_span_that_is_too_short_for_it_stands_beside_it() -> None:
    (on,) = rows_of((spanning("A", 60, 100, 300),), left=LEFT, right=RIGHT)
    (beside,) = rows_of((spanning("A", 60, 100, 120),), left=LEFT, right=RIGHT)
    (before,) = rows_of((spanning("A", 60, 640, 660),), left=LEFT, right=RIGHT)
    assert 100 < on.left < on.right < 300
    assert beside.left > 120
    assert before.right < 640


def test_shorter_spans_given_first_stand_nearer_to_the_part() -> None:
    placed = rows_of(
        (
            spanning("A", 50, 100, 250),
            spanning("B", 50, 100, 500),
        ),
        left=LEFT,
        right=RIGHT,
    )
    assert [(one.name, one.row) for one in placed] == [("A", 0), ("B", 1)]
