"""Limits of the ten preferred hole-basis fits against the published tables.

Source: ANSI B4.2-1978 (R1999), Table 4 "Preferred hole basis clearance/transition/interference fits" (limits of size in
mm), whose values are those of ISO 286-2. Recalled from memory of the printed table, size by size, apart from the
deviation tables of this project, which hold neither limits nor fits.
"""

from decimal import Decimal

import pytest

from nomisma.core.fits.iso286 import zone
from nomisma.core.fits.tables import grades, large_shafts, shafts

# size: hole upper limits for H11, H9, H8, H7; then shaft max/min for c11 d9 f7 g6 h6 k6 n6 p6 s6 u6
HOLES = ("H11", "H9", "H8", "H7")
SHAFTS = ("c11", "d9", "f7", "g6", "h6", "k6", "n6", "p6", "s6", "u6")
PUBLISHED = """
1    1.060 1.025 1.014 1.010 | 0.940 0.880 | 0.980 0.955 | 0.994 0.984 | 0.998 0.992 | 1.000 0.994 | 1.006 1.000 | 1.010 1.004 | 1.012 1.006 | 1.020 1.014 | 1.024 1.018
5    5.075 5.030 5.018 5.012 | 4.930 4.855 | 4.970 4.940 | 4.990 4.978 | 4.996 4.988 | 5.000 4.992 | 5.009 5.001 | 5.016 5.008 | 5.020 5.012 | 5.027 5.019 | 5.031 5.023
10   10.090 10.036 10.022 10.015 | 9.920 9.830 | 9.960 9.924 | 9.987 9.972 | 9.995 9.986 | 10.000 9.991 | 10.010 10.001 | 10.019 10.010 | 10.024 10.015 | 10.032 10.023 | 10.037 10.028
16   16.110 16.043 16.027 16.018 | 15.905 15.795 | 15.950 15.907 | 15.984 15.966 | 15.994 15.983 | 16.000 15.989 | 16.012 16.001 | 16.023 16.012 | 16.029 16.018 | 16.039 16.028 | 16.044 16.033
25   25.130 25.052 25.033 25.021 | 24.890 24.760 | 24.935 24.883 | 24.980 24.959 | 24.993 24.980 | 25.000 24.987 | 25.015 25.002 | 25.028 25.015 | 25.035 25.022 | 25.048 25.035 | 25.061 25.048
40   40.160 40.062 40.039 40.025 | 39.880 39.720 | 39.920 39.858 | 39.975 39.950 | 39.991 39.975 | 40.000 39.984 | 40.018 40.002 | 40.033 40.017 | 40.042 40.026 | 40.059 40.043 | 40.076 40.060
50   50.160 50.062 50.039 50.025 | 49.870 49.710 | 49.920 49.858 | 49.975 49.950 | 49.991 49.975 | 50.000 49.984 | 50.018 50.002 | 50.033 50.017 | 50.042 50.026 | 50.059 50.043 | 50.086 50.070
80   80.190 80.074 80.046 80.030 | 79.850 79.660 | 79.900 79.826 | 79.970 79.940 | 79.990 79.971 | 80.000 79.981 | 80.021 80.002 | 80.039 80.020 | 80.051 80.032 | 80.078 80.059 | 80.121 80.102
100  100.220 100.087 100.054 100.035 | 99.830 99.610 | 99.880 99.793 | 99.964 99.929 | 99.988 99.966 | 100.000 99.978 | 100.025 100.003 | 100.045 100.023 | 100.059 100.037 | 100.093 100.071 | 100.146 100.124
160  160.250 160.100 160.063 160.040 | 159.790 159.540 | 159.855 159.755 | 159.957 159.917 | 159.986 159.961 | 160.000 159.975 | 160.028 160.003 | 160.052 160.027 | 160.068 160.043 | 160.125 160.100 | 160.215 160.190
200  200.290 200.115 200.072 200.046 | 199.760 199.470 | 199.830 199.715 | 199.950 199.904 | 199.985 199.956 | 200.000 199.971 | 200.033 200.004 | 200.060 200.031 | 200.079 200.050 | 200.151 200.122 | 200.265 200.236
300  300.320 300.130 300.081 300.052 | 299.670 299.350 | 299.810 299.680 | 299.944 299.892 | 299.983 299.951 | 300.000 299.968 | 300.036 300.004 | 300.066 300.034 | 300.088 300.056 | 300.202 300.170 | 300.382 300.350
400  400.360 400.140 400.089 400.057 | 399.600 399.240 | 399.790 399.650 | 399.938 399.881 | 399.982 399.946 | 400.000 399.964 | 400.040 400.004 | 400.073 400.037 | 400.098 400.062 | 400.244 400.208 | 400.471 400.435
500  500.400 500.155 500.097 500.063 | 499.520 499.120 | 499.770 499.615 | 499.932 499.869 | 499.980 499.940 | 500.000 499.960 | 500.045 500.005 | 500.080 500.040 | 500.108 500.068 | 500.292 500.252 | 500.580 500.540
"""  # noqa: E501


def published() -> list[tuple[str, str, Decimal, Decimal]]:
    rows = []
    for line in PUBLISHED.strip().splitlines():
        first, *pairs = line.split("|")
        size, *uppers = first.split()
        rows += [(size, code, Decimal(size), Decimal(upper)) for code, upper in zip(HOLES, uppers, strict=True)]
        for code, pair in zip(SHAFTS, pairs, strict=True):
            upper, lower = map(Decimal, pair.split())
            rows.append((size, code, lower, upper))
    return rows


@pytest.mark.parametrize(("size", "code", "lower", "upper"), published())
def test_limits_are_those_of_the_published_table(size: str, code: str, lower: Decimal, upper: Decimal) -> None:
    z = zone(code, Decimal(size))
    assert (Decimal(size) + z.lower_um / 1000, Decimal(size) + z.upper_um / 1000) == (lower, upper)


# Range ends: "over ... up to and including". Source: ISO 286-1:2010, Table 1 heading; deviations from Tables 4 and 5.
ENDS = [
    ("18", "f7", -34, -16),
    ("18.001", "f7", -41, -20),
    ("30", "f7", -41, -20),
    ("30.001", "f7", -50, -25),
    ("50", "g6", -25, -9),
    ("50.001", "g6", -29, -10),
    ("80", "s6", 59, 78),
    ("80.001", "s6", 71, 93),
    ("3", "H7", 0, 10),
    ("3.001", "H7", 0, 12),
    ("500", "H7", 0, 63),
]


@pytest.mark.parametrize(("size", "code", "lower", "upper"), ENDS)
def test_a_range_end_belongs_to_the_lower_range(size: str, code: str, lower: int, upper: int) -> None:
    z = zone(code, Decimal(size))
    assert (z.lower_um, z.upper_um) == (lower, upper)


def test_both_tables_run_from_nothing_to_500_mm() -> None:
    assert (grades().up_to_mm[-1], shafts().up_to_mm[-1], large_shafts().up_to_mm[-1]) == (3150, 500, 3150)


def test_k_is_shifted_only_in_grades_4_to_7() -> None:
    """Source: ISO 286-1:2010, Table 5, column k."""
    assert [zone(f"k{grade}", Decimal(25)).lower_um for grade in (3, 4, 7, 8)] == [0, 2, 2, 0]


@pytest.mark.parametrize(
    ("code", "lower", "upper"),
    [("F8", 20, 53), ("G7", 7, 28), ("D10", 65, 149), ("JS7", Decimal("-10.5"), Decimal("10.5"))],
)
def test_holes_mirror_the_shafts(code: str, lower: Decimal, upper: Decimal) -> None:
    """At 25 mm. Source: ISO 286-2:2010, tables for holes D, F, G and JS (recalled)."""
    z = zone(code, Decimal(25))
    assert (z.lower_um, z.upper_um) == (lower, upper)
