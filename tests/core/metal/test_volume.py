"""The metal that is left at the end against the drawing, integrated apart from it: slices, and polygons turned about
the axis (Pappus).
"""

from math import pi

import numpy as np
import pytest

from nomisma.core.order.order import OrderOfWork, order_of_work
from tests.core.planning.generated import stock_input
from tests.core.planning.sketched import features

SLICES = 20_000


def planned(number: int) -> OrderOfWork:
    given = stock_input(number)
    found = order_of_work(features(given.lines), stock=given.stock_said, face_as_parted=given.face_as_parted)
    assert found is not None
    assert found.set_ups
    return found


def by_slices(outer: np.ndarray, inner: np.ndarray, wide: float) -> float:
    return float(np.sum(outer**2 - inner**2) * pi / 4 * wide)


@pytest.mark.parametrize("number", [0, 12, 18, 24, 30, 36, 42, 48, 54])
def test_stock_less_every_cut_is_what_is_left(number: int) -> None:
    """Of each cut what it takes is the difference of two workpieces; the piece that a blade takes off is not a chip."""
    order = planned(number)
    assert order.finished is not None
    for one in order.operations:
        work = one.before
        assert work is not None
        for cut in one.cuts:
            taken = work.volume_mm3()
            work = work.after(cut)
            taken -= work.volume_mm3()
            assert taken >= -1e-6, "no cut puts metal on"
    places = np.linspace(0, float(order.finished.right_mm), SLICES, endpoint=False)
    wide = places[1]
    middles = places + wide / 2

    def across(name: str) -> np.ndarray:
        stretches = getattr(order.finished, name).stretches
        ends = np.array([float(one.to_mm) for one in stretches])
        at = np.minimum(np.searchsorted(ends, middles), len(stretches) - 1)
        begins, lasts, first, last = (
            np.array([float(getattr(one, field)) for one in stretches])[at]
            for field in ("from_mm", "to_mm", "at_from_mm", "at_to_mm")
        )
        return np.asarray(first + (middles - begins) / (lasts - begins) * (last - first))

    assert order.finished.volume_mm3() == pytest.approx(by_slices(across("outside"), across("hole"), wide), rel=1e-3)


def pappus(points: list[tuple[float, float]]) -> float:
    """The volume that a polygon (along, radius) sweeps about the axis: its area by the shoelace, times the way of its
    centroid.
    """
    x, r = (np.array(values) for values in zip(*points, strict=True))
    cross = x * np.roll(r, -1) - np.roll(x, -1) * r
    area = cross.sum() / 2
    centroid = ((r + np.roll(r, -1)) * cross).sum() / (6 * area)
    return abs(float(2 * pi * centroid * area))


@pytest.mark.parametrize(
    ("lines", "section"),
    [
        ("od 30 x 40", [(0, 0), (40, 0), (40, 15), (0, 15)]),
        ("od 40 x 20\nod 30 x 15", [(0, 0), (35, 0), (35, 15), (20, 15), (20, 20), (0, 20)]),
        ("od 40 x 20\nbore 16 thru", [(0, 8), (20, 8), (20, 20), (0, 20)]),
        ("od 30 x 20\ncham 1 x 45 both ends", [(0, 0), (20, 0), (20, 14), (19, 15), (1, 15), (0, 14)]),
    ],
)
def test_what_is_left_is_the_drawing_turned_about_its_axis(lines: str, section: list[tuple[float, float]]) -> None:
    order = order_of_work(features(lines))
    assert order is not None
    assert order.finished is not None
    drilled = sum(cut.kind == "drill" for one in order.operations for cut in one.cuts)
    assert order.finished.volume_mm3() == pytest.approx(pappus(section), rel=1e-2 if drilled else 1e-6)
