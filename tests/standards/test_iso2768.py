"""General tolerances against ISO 2768-1:1989, recalled a second time, and against the order they must have."""

from decimal import Decimal
from itertools import pairwise

import pytest

from nomisma.core.errors import NotDefined
from nomisma.core.part.general_tolerance import iso_2768_mm

# Source: ISO 2768-1:1989, Table 1, from memory a second time: one size inside each range, then f, m, c, v; none where
# a class is not defined.
LINEAR = [
    ("2", 0.05, 0.1, 0.2, None), ("5", 0.05, 0.1, 0.3, 0.5), ("20", 0.1, 0.2, 0.5, 1.0), ("100", 0.15, 0.3, 0.8, 1.5),
    ("250", 0.2, 0.5, 1.2, 2.5), ("800", 0.3, 0.8, 2.0, 4.0), ("1500", 0.5, 1.2, 3.0, 6.0),
    ("3000", None, 2.0, 4.0, 8.0),
]  # fmt: skip
# Source: ISO 2768-1:1989, Table 2 (external radii and chamfer heights), from memory a second time.
EDGES = [("1", 0.2, 0.2, 0.4, 0.4), ("4", 0.5, 0.5, 1.0, 1.0), ("10", 1.0, 1.0, 2.0, 2.0)]


@pytest.mark.parametrize(("size", "f", "m", "c", "v"), LINEAR)
def test_linear_sizes(size: str, f: float | None, m: float | None, c: float | None, v: float | None) -> None:
    for name, wanted in zip("fmcv", (f, m, c, v), strict=True):
        if wanted is None:
            with pytest.raises(NotDefined, match="gives no general tolerance"):
                iso_2768_mm(Decimal(size), name)
        else:
            assert float(iso_2768_mm(Decimal(size), name)) == wanted


@pytest.mark.parametrize(("size", "f", "m", "c", "v"), EDGES)
def test_radii_and_chamfers(size: str, f: float, m: float, c: float, v: float) -> None:
    assert tuple(float(iso_2768_mm(Decimal(size), name, "edge")) for name in "fmcv") == (f, m, c, v)


def test_a_range_ends_with_its_upper_size_and_begins_at_half_a_millimetre() -> None:
    assert iso_2768_mm(Decimal(30), "m") == Decimal("0.2")
    assert iso_2768_mm(Decimal("30.001"), "m") == Decimal("0.3")
    assert iso_2768_mm(Decimal("0.5"), "m") == Decimal("0.1")
    with pytest.raises(NotDefined):
        iso_2768_mm(Decimal("0.499"), "m")


def test_coarser_classes_and_larger_sizes_have_no_smaller_tolerance() -> None:
    sizes = [Decimal(text) for text in ("1", "4", "10", "60", "200", "700", "1800")]
    for size in sizes[1:]:
        assert all(a <= b for a, b in pairwise([iso_2768_mm(size, name) for name in "fmcv"]))
    for name in "fmc":
        assert all(a <= b for a, b in pairwise([iso_2768_mm(size, name) for size in sizes]))
