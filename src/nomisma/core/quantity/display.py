"""How lengths are shown: decimals by the instrument's resolution, thou and µm, nearest fraction."""

from decimal import Decimal
from typing import Literal

from nomisma.core.quantity.length import M_PER_FOOT, MM_PER_INCH, UM_PER_MICROINCH, Unit, in_unit, plain, round_to

# What a shop works to when nothing finer is known: tenths of a thou, thousandths of a millimetre.
WORKING_DECIMALS: dict[Unit, int] = {"in": 4, "mm": 3}
MOST_DECIMALS: dict[Unit, int] = {"in": 6, "mm": 4}
"""A 64th ends at six decimals of an inch; a tenth of a µm is finer than anything measured here."""


def decimals_of(resolution_mm: Decimal, unit: Unit) -> int:
    """Decimals that show a resolution (mm) in `unit`, at least the resolution itself, at most 6.

    Source: none, wording; conversions by exact factors.

    >>> decimals_of(Decimal("0.00254"), "in"), decimals_of(Decimal("0.00254"), "mm")
    (4, 3)
    """
    step = in_unit(resolution_mm, unit)
    for decimals in range(2, 6):
        if Decimal(1).scaleb(-decimals) <= step * Decimal("1.1"):
            return decimals
    return 6


def show(mm: Decimal, unit: Unit, *, decimals: int | None = None, signed: bool = False) -> str:
    """A length (mm) as text in `unit` with its unit; exact values that need fewer decimals still show them all.

    Source: none, wording; conversions by exact factors.

    >>> show(Decimal("22.2377"), "in"), show(Decimal("-0.0254"), "mm", signed=True)
    ('0.8755 in', '−0.025 mm')
    """
    places = WORKING_DECIMALS[unit] if decimals is None else decimals
    return f"{show_number(mm, unit, places, signed=signed)} {unit}"


def show_number(mm: Decimal, unit: Unit, decimals: int, *, signed: bool = False) -> str:
    """The number alone, with a true minus sign, and a plus where `signed`. Source: none, wording; conversions by exact
    factors.

    >>> show_number(Decimal("25.4"), "in", 4), show_number(Decimal("-0.5"), "mm", 3, signed=True)
    ('1.0000', '−0.500')
    """
    value = round_to(in_unit(mm, unit), decimals)
    sign = "−" if value < 0 else "+" if signed and value > 0 else ""
    return f"{sign}{plain(abs(value))}"


def show_at_resolution(mm: Decimal, unit: Unit, resolution_mm: Decimal) -> str:
    """An amount (mm) to the decimals an instrument of that resolution (mm) gives, rounded towards zero: never more to
    take.

    Source: none, wording; conversions by exact factors.

    >>> show_at_resolution(Decimal("0.0863"), "in", Decimal("0.0254")), show_at_resolution(Decimal("0.0863"), "mm",
    ...     Decimal("0.001"))
    ('0.003 in', '0.086 mm')
    """
    decimals = decimals_of(resolution_mm, unit)
    value = round_to(in_unit(abs(mm), unit), decimals, "down")
    return f"{'−' if mm < 0 and value else ''}{plain(value)} {unit}"


def show_exact(mm: Decimal, unit: Unit) -> str:
    """A length (mm) in `unit` with the working decimals, more (six of an inch, four of a mm) where it ends there, else
    one more, rounded.

    Source: none, wording; conversions by exact factors.

    >>> show_exact(Decimal("22.235160"), "in"), show_exact(Decimal("25.0075"), "mm")
    ('0.8754 in', '25.0075 mm')
    """
    value = in_unit(mm, unit)
    for decimals in range(WORKING_DECIMALS[unit], MOST_DECIMALS[unit] + 1):
        if round_to(value, decimals) == value:
            return show(mm, unit, decimals=decimals)
    return show(mm, unit, decimals=WORKING_DECIMALS[unit] + 1)


LARGEST_IN_SMALL: dict[Unit, Decimal] = {"in": Decimal("0.1"), "mm": Decimal(1)}
"""From here on an amount is said in the whole unit: a tenth of an inch, a millimetre. Source: common practice, no
source.
"""


def show_between(low_mm: Decimal, high_mm: Decimal, unit: Unit) -> str:
    """Two sizes in mm as a callout in a unit, one where they are the same. Source: common practice, no source.

    >>> show_between(Decimal("12.7"), Decimal("12.954"), "in"), show_between(Decimal(5), Decimal(5), "mm")
    ('0.5000/0.5100 in', '5.000 mm')
    """
    low, high = (show_exact(mm, unit) for mm in (low_mm, high_mm))
    return low if low == high else f"{low.rsplit(' ', 1)[0]}/{high}"


def show_small(mm: Decimal, unit: Unit, *, signed: bool = False) -> str:
    """An amount (mm) as it is spoken of: thou or µm while it is small, inches or millimetres from a tenth of an inch or
    1 mm on.

    Source: none, wording; conversions by exact factors.

    >>> show_small(Decimal("0.0127"), "in"), show_small(Decimal("0.0127"), "mm")
    ('0.50 thou', '12.7 µm')
    >>> show_small(Decimal("9.6012"), "in"), show_small(Decimal("-1.999"), "mm")
    ('0.378 in', '−1.999 mm')
    """
    value = in_unit(mm, unit)
    if abs(value) >= LARGEST_IN_SMALL[unit]:
        rounded = round_to(value, WORKING_DECIMALS[unit])
        # Three decimals are said of an inch too where the fourth is nothing.
        return (
            show_number(mm, unit, 3 if round_to(rounded, 3) == rounded else WORKING_DECIMALS[unit], signed=signed)
            + f" {unit}"
        )
    return f"{show_in_small_unit(mm, unit, signed=signed)} {SMALL_UNITS[unit]}"


TIDY_WITHIN = Decimal("0.04")
"""So near (as a share of it) one figure may stand for an amount of practice; else two do. Source: none, wording."""


def show_usual(mm: Decimal, unit: Unit) -> str:
    """An amount (mm) that is usual, or marked on an instrument, as people say it in `unit`: one figure where that is
    near enough, else two.

    What was measured or worked out is never said so. Source: none, wording; conversions by exact factors.

    >>> show_usual(Decimal("0.05"), "in"), show_usual(Decimal("0.13"), "in"), show_usual(Decimal("0.01"), "in")
    ('2 thou', '5 thou', '0.4 thou')
    >>> show_usual(Decimal("0.0127"), "mm"), show_usual(Decimal("0.00254"), "mm"), show_usual(Decimal("0.0381"), "in")
    ('13 µm', '2.5 µm', '1.5 thou')
    """
    value = abs(in_unit(mm, unit))
    if value == 0:
        return f"0 {SMALL_UNITS[unit]}"
    word = unit if value >= LARGEST_IN_SMALL[unit] else SMALL_UNITS[unit]
    amount = value if word == unit else value * 1000
    first = amount.adjusted()
    for figures in (1, 2):
        rounded = round_to(amount, figures - 1 - first)
        if figures == 2 or abs(rounded - amount) <= TIDY_WITHIN * amount:
            break
    return f"{plain(rounded.normalize())} {word}"


def show_marked(mm: Decimal, unit: Unit) -> str:
    """What is marked on an instrument (mm) in its own `unit`, to the last figure it was given with. Source: none,
    wording.

    >>> show_marked(Decimal("0.00381"), "in"), show_marked(Decimal("0.0125"), "mm")
    ('0.15 thou', '12.5 µm')
    """
    value = in_unit(mm, unit)
    word = unit if abs(value) >= LARGEST_IN_SMALL[unit] else SMALL_UNITS[unit]
    return f"{plain((value if word == unit else value * 1000).normalize())} {word}"


SAWN_DECIMALS: dict[Unit, int] = {"in": 3, "mm": 1}


def show_sawn(mm: Decimal, unit: Unit) -> str:
    """A size nobody holds to limits, of stock or of the lathe that takes it (mm), in `unit`: to a thou or 0.1 mm, no
    zeros behind.

    Source: none, wording; conversions by exact factors.

    >>> show_sawn(Decimal("611.124"), "in"), show_sawn(Decimal("611.124"), "mm"), show_sawn(Decimal(300), "mm")
    ('24.06 in', '611.1 mm', '300 mm')
    """
    value = round_to(in_unit(mm, unit), SAWN_DECIMALS[unit])
    return f"{'−' if value < 0 else ''}{plain(abs(value).normalize())} {unit}"


SMALL_UNITS: dict[Unit, str] = {"in": "thou", "mm": "µm"}


def show_in_small_unit(mm: Decimal, unit: Unit, *, signed: bool = False) -> str:
    """An amount (mm) in thou or µm whatever its size, without the unit: for a column whose head says it.

    Source: none, wording; conversions by exact factors.

    >>> show_in_small_unit(Decimal("9.6012"), "in")
    '378.00'
    """
    value = round_to(in_unit(mm, unit) * 1000, 2 if unit == "in" else 1)
    sign = "−" if value < 0 else "+" if signed and value > 0 else ""
    return f"{sign}{plain(abs(value))}"


def both(mm: Decimal, unit: Unit, *, decimals: int | None = None) -> str:
    """In the unit of entry first, the other in brackets: for the working, which both shops may read.

    Source: none, wording; conversions by exact factors.

    >>> both(Decimal("22.225"), "in")
    '0.8750 in (22.225 mm)'
    """
    other: Unit = "mm" if unit == "in" else "in"
    return f"{show(mm, unit, decimals=decimals)} ({show(mm, other)})"


def nearest_fraction(mm: Decimal, denominator: Literal[8, 16, 32, 64] = 64) -> tuple[str, Decimal]:
    """The nearest inch fraction, lowest terms, and how far the size (mm) is above it (mm).

    Source: none, wording; conversions by exact factors.

    >>> nearest_fraction(Decimal("22.2504"))
    ('7/8', Decimal('0.0254'))
    """
    parts = int(round_to(in_unit(mm, "in") * denominator, 0))
    off_mm = mm - Decimal(parts) * MM_PER_INCH / denominator
    return fraction_text(parts, denominator), off_mm


def fraction_text(parts: int, denominator: int) -> str:
    """`parts`/`denominator` inches in lowest terms, written 1-3/8.

    Source: none, wording; conversions by exact factors.

    >>> fraction_text(88, 64)
    '1-3/8'
    """
    while parts % 2 == 0 and denominator > 1:
        parts //= 2
        denominator //= 2
    whole, rest = divmod(parts, denominator)
    if not rest:
        return str(whole)
    return f"{whole}-{rest}/{denominator}" if whole else f"{rest}/{denominator}"


N_PER_LBF = 4.4482216152605  # exact: pound-force, ISO 80000-4
NM_PER_LBF_FT = 1.3558179483314004  # exact, from the pound-force and the foot
MPA_PER_KPSI = 6.894757293168361  # exact, from the pound-force and the inch


def _figures(value: float, count: int = 3) -> str:
    """A number to so many figures, without an exponent.

    >>> _figures(7573.2), _figures(0.04567)
    ('7570', '0.0457')
    """
    rounded = float(f"{value:.{count}g}")
    return plain(Decimal(repr(rounded)).normalize() + 0).replace("-", "−")


def show_force(newtons: float, unit: Unit) -> str:
    """A force: pounds-force in an inch shop, kilonewtons in a metric one (newtons below 100 N), three figures.

    Source: none, wording; conversions by exact factors.

    >>> show_force(8410, "in"), show_force(8410, "mm")
    ('1890 lbf', '8.41 kN')
    """
    if unit == "in":
        return f"{_figures(newtons / N_PER_LBF)} lbf"
    return f"{_figures(newtons)} N" if abs(newtons) < 100 else f"{_figures(newtons / 1000)} kN"


def show_forces(least_n: float, greatest_n: float, unit: Unit) -> str:
    """Two forces in the unit of the greater.

    Source: none, wording; conversions by exact factors.

    >>> show_forces(80, 210, "mm"), show_forces(4890, 7950, "in")
    ('0.08 to 0.21 kN', '1100 to 1790 lbf')
    """
    if unit == "in":
        return f"{_figures(least_n / N_PER_LBF)} to {_figures(greatest_n / N_PER_LBF)} lbf"
    if abs(greatest_n) < 100:
        return f"{_figures(least_n)} to {_figures(greatest_n)} N"
    return f"{_figures(least_n / 1000)} to {_figures(greatest_n / 1000)} kN"


def show_surface_speed(m_min: float, unit: Unit) -> str:
    """A surface speed: ft/min in an inch shop, m/min in a metric one, each with the other behind it.

    Source: none, wording; conversions by exact factors.

    >>> show_surface_speed(24, "in"), show_surface_speed(24, "mm")
    ('79 ft/min (24 m/min)', '24 m/min (79 ft/min)')
    """
    metric, inch = f"{m_min:.0f} m/min", f"{m_min / float(M_PER_FOOT):.0f} ft/min"
    return f"{inch} ({metric})" if unit == "in" else f"{metric} ({inch})"


def show_roughness(micrometres: float, unit: Unit) -> str:
    """A roughness: microinches in an inch shop, micrometres in a metric one.

    Source: none, wording; conversions by exact factors.

    >>> show_roughness(1.6, "in"), show_roughness(1.6, "mm")
    ('63 µin', '1.6 µm')
    """
    return f"{micrometres / float(UM_PER_MICROINCH):.0f} µin" if unit == "in" else f"{micrometres:.1f} µm"


def show_torque(newton_metres: float, unit: Unit) -> str:
    """A torque: lbf·ft in an inch shop, N·m in a metric one, three figures.

    Source: none, wording; conversions by exact factors.

    >>> show_torque(107, "in"), show_torque(107, "mm")
    ('78.9 lbf·ft', '107 N·m')
    """
    return f"{_figures(newton_metres / NM_PER_LBF_FT)} lbf·ft" if unit == "in" else f"{_figures(newton_metres)} N·m"


def show_stress(megapascals: float, unit: Unit) -> str:
    """A stress or a pressure: kpsi in an inch shop, MPa in a metric one; compression below zero.

    Source: none, wording; conversions by exact factors.

    >>> show_stress(-92.3, "in"), show_stress(-92.3, "mm")
    ('−13.4 kpsi', '−92.3 MPa')
    """
    return f"{_figures(megapascals / MPA_PER_KPSI)} kpsi" if unit == "in" else f"{_figures(megapascals)} MPa"
