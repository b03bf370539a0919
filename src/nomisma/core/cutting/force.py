"""The force a cut takes, an estimate by specific cutting force, and the deepest cut a force allows."""

from decimal import Decimal

from nomisma.core.cutting.speeds import cutting_speed_of


def cutting_force_n(material: str, *, depth_mm: float, feed_mm: float) -> float:
    """The main cutting force, N, at a depth on radius and a feed a turn, mm. Raises NotDefined. Source: F =
    kc·depth·feed, kc recalled.

    >>> round(cutting_force_n("mild_steel", depth_mm=1.0, feed_mm=0.2))
    400
    """
    return cutting_speed_of(material).kc_n_mm2 * depth_mm * feed_mm


def deepest_on_diameter_mm(material: str, *, force_n: Decimal, feed_mm: Decimal) -> Decimal:
    """The most that may come off the diameter in one cut under a force, mm. Raises NotDefined. Source: as of
    cutting_force_n.

    >>> deepest_on_diameter_mm("mild_steel", force_n=Decimal(400), feed_mm=Decimal("0.2"))
    Decimal('2.00')
    """
    kc = Decimal(str(cutting_speed_of(material).kc_n_mm2))
    return (2 * force_n / (kc * feed_mm)).quantize(Decimal("0.01"))
