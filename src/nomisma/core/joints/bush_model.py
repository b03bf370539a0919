"""What the bush worksheet is given and what it answers."""

from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.fits.aim import AimMethod
from nomisma.core.fits.partner import PartnerInput
from nomisma.core.fits.shop_rules import ShopRule
from nomisma.core.model import Model
from nomisma.core.quantity.fields import Celsius, Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import Step

Order = Literal["before", "after"]


class BushInput(Model):
    """Housing, bush and shaft. What is already made is given as it is; what is to be made follows.

    `housing` is a bore, `shaft` a shaft, each by readings or callout. `bush_outside` and `bush_bore` (before pressing)
    only where the bush is already made. `interference_*` and `clearance_*` replace the shop's rules. `close_in_factor`
    is what this shop's own bushes closed in, over what was predicted.
    """

    housing: PartnerInput
    shaft: PartnerInput
    housing_outer: Size
    length: Size
    housing_material: str = "carbon_steel"
    bush_material: str = "bearing_bronze"
    shaft_material: str = "carbon_steel"
    bush_outside: PartnerInput | None = None
    bush_bore: PartnerInput | None = None
    interference_min: Difference | None = None
    interference_max: Difference | None = None
    clearance_min: Difference | None = None
    clearance_max: Difference | None = None
    flange: bool = False
    working_c: Celsius = Decimal(60)
    shaft_warmer_by_k: Number = Decimal(0)
    friction: Number = Decimal("0.12")
    roughness: Difference = Length(Decimal(0))
    close_in_factor: Number = Decimal(1)
    shop_rules: list[ShopRule] = Field(default=[], max_length=60)
    aim: AimMethod = "middle"
    unit: Unit


class Span(Model):
    """A least and a greatest length."""

    least: Difference
    greatest: Difference


class SizeSpan(Model):
    """Limits of a size and, where one is to be made, what to aim at."""

    lower: Size
    upper: Size
    aim: Size | None = None


class BushResult(Model):
    """Every answer of the worksheet; lengths on diameter, clearances below zero bind.

    `rough_bore_at_most` leaves metal to finish after pressing. `bore_before` is absent where close-in spreads over more
    than the running clearance allows. `bore_after_found` and `ream` speak of a bush that is already made.
    """

    outside: SizeSpan
    outside_made: bool
    interference: Span
    close_in: Span
    close_in_share_percent: tuple[int, int]
    bore_after: SizeSpan
    bore_before: SizeSpan | None
    rough_bore_at_most: Size
    bore_after_found: Span | None
    ream: Span | None
    clearance_cold: Span
    clearance_warm: Span
    interference_warm: Span
    press_force_n: tuple[float, float]
    pressure_mpa: tuple[float, float]
    housing_use_percent: float
    housing_working_use_percent: float
    bush_yields: bool
    bush_yields_warm: bool
    order: Order
    order_reason: str
    loose_at_c: float | None
    binds_at_c: float | None
    working_c: float
    wall: Difference
    flange: bool
    sentence: str
    cautions: list[str]
    working: list[Step]
    press_lead: Size | None = None


class PlannedBush(Model):
    """What the assembly of a bush needs of its worksheet's answer, whichever version of the program answered: the rest
    is passed over.
    """

    outside: SizeSpan
    close_in: Span
    bore_after: SizeSpan
