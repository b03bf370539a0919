"""Work or bar that sticks out: how far the cut bends it, the taper that leaves, and what would help."""

from decimal import Decimal
from math import pi, sqrt
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.cutting.force import cutting_force_n
from nomisma.core.cutting.speeds import cutting_speed_of
from nomisma.core.errors import InputError
from nomisma.core.materials.material import material_named
from nomisma.core.model import Model
from nomisma.core.quantity.display import show_small
from nomisma.core.quantity.fields import Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step

Hold = Literal["chuck", "chuck_and_centre", "between_centres", "boring_bar"]
BENDS: dict[Hold, float] = {
    "chuck": 1 / 3,
    "boring_bar": 1 / 3,
    "chuck_and_centre": (2 - sqrt(2)) ** 3 * (sqrt(2) - 1) ** 2 * (2 + sqrt(2)) / 12,
    "between_centres": 1 / 48,
}
"""Deflection under the tool as a part of F·L³/(E·I), where it is worst: a cantilever at its end, between centres in the
middle, held in the chuck and by a centre at 2 − √2 = 0.586 of the length from the chuck. Source: beam tables: under a
load at a it gives a³·(1−a)²·(4−a)/12, greatest at a = 2 − √2."""
RADIAL_SHARE = 0.4
"""How much of the cutting force pushes the work away from the tool. Source: common practice, no source (0.3 to 0.6)."""
FREE_DIAMETERS = 3
"""How many diameters may stick out without a centre. Source: common practice, no source."""


class DeflectionInput(Model):
    """A round of `diameter` sticking out by `overhang`; of a boring bar, the bar's. `depth` of the cut on radius,
    `feed` a turn.

    `stiff_material`: what bends (its stiffness); `work_material`: what is cut (its cutting force). `force_n` overrides
    the estimate.
    """

    hold: Hold = "chuck"
    diameter: Size
    bore: Size | None = None
    overhang: Size
    stiff_material: str = "carbon_steel"
    work_material: str = "carbon_steel"
    depth: Size = Length.of("0.010", "in")
    feed: Size = Length.of("0.004", "in")
    force_n: Number | None = Field(default=None, gt=0, le=100_000)
    unit: Unit = "in"


class DeflectionResult(Model):
    """How far it bends, and twice that on diameter: what a cut leaves larger (a bore smaller) where it gives most."""

    force_n: float
    deflection: Size
    on_diameter: Size
    where: str
    diameters_out: float
    rule_kept: bool
    sentence: str
    helps: list[str]
    cautions: list[str]
    working: list[Step]


@calculation(
    name="deflection",
    title="Overhang and taper",
    validity=(
        "A plain round of one diameter, small deflection, held stiffly; the chuck's and the machine's own give is not"
        " in it."
    ),
    source="beam tables; cutting force by specific cutting force, an estimate",
    example={"diameter": "0.75 in", "overhang": "4 in", "depth": "0.015 in", "feed": "0.005 in"},
)
def deflection(given: DeflectionInput) -> DeflectionResult:
    """Bending under an estimated cutting force, the taper it leaves, and what would help. Raises NotDefined,
    InputError.

    Source: beam tables (F·L³/(3·E·I), /(48·E·I), and 0.009812·F·L³/(E·I) between chuck and centre); F = kc·depth·feed,
    of which two fifths push away (common practice).

    >>> found = deflection(DeflectionInput(diameter="20 mm", overhang="100 mm", force_n=100, unit="mm"))
    >>> str(found.deflection)
    '0.0207 mm'
    """
    if given.bore and given.bore.mm >= given.diameter.mm:
        raise InputError("The hole is not smaller than the round.", "Check the two.", field="bore")
    d, bore, out = float(given.diameter.mm), float(given.bore.mm) if given.bore else 0.0, float(given.overhang.mm)
    e = material_named(given.stiff_material, field="stiff_material").e_mpa
    kc = cutting_speed_of(given.work_material).kc_n_mm2
    cutting = cutting_force_n(given.work_material, depth_mm=float(given.depth.mm), feed_mm=float(given.feed.mm))
    force = float(given.force_n) if given.force_n else RADIAL_SHARE * cutting
    inertia = pi * (d**4 - bore**4) / 64
    bend = BENDS[given.hold] * force * out**3 / (e * inertia)
    unit = given.unit
    ratio = out / d
    free = ratio <= FREE_DIAMETERS or given.hold in ("chuck_and_centre", "between_centres")
    where = {
        "chuck": "at the free end",
        "boring_bar": "all along, most where the bar reaches farthest",
        "chuck_and_centre": "a little past the middle, 0.59 of the length from the chuck",
        "between_centres": "in the middle",
    }[given.hold]
    return DeflectionResult(
        force_n=force,
        deflection=_length(bend, unit),
        on_diameter=_length(2 * bend, unit),
        where=where,
        diameters_out=ratio,
        rule_kept=free,
        sentence=_sentence(given, bend, ratio, where, free=free),
        helps=_helps(given, bend, ratio),
        cautions=[
            "Long work without a centre can whip: never above the speed it runs quietly at, and nothing out of the"
            " spindle's back."
        ],
        working=[
            Step(
                name="Force",
                formula=(
                    "kc × depth × feed, two fifths of it away from the tool" if given.force_n is None else "as given"
                ),
                values=f"kc = {kc:.0f} N/mm², {given.depth} deep, {given.feed} a turn" if given.force_n is None else "",
                result=f"{force:.0f} N",
                source="handbook order, an estimate; the share: common practice, no source",
            ),
            Step(
                name="Bending",
                formula="c·F·L³ / (E·I), I = π·(D⁴ − d⁴)/64",
                values=f"c = {BENDS[given.hold]:.5f}, L = {out:.1f} mm, D = {d:.2f} mm, E = {e / 1000:.0f} GPa",
                result=f"{bend * 1000:.1f} µm, on diameter twice that",
                source="beam tables",
            ),
            Step(
                name="Three diameters",
                formula="what sticks out over its diameter, against 3",
                result=f"{ratio:.1f}",
                source=COMMON_PRACTICE,
            ),
        ],
    )


def _length(mm: float, unit: Unit) -> Length:
    return Length(Decimal(f"{max(mm, 1e-7):.4f}") if mm >= 1e-4 else Decimal(f"{max(mm, 1e-7):.7f}"), unit)


def _sentence(given: DeflectionInput, bend: float, ratio: float, where: str, *, free: bool) -> str:
    amount = show_small(_length(2 * bend, given.unit).mm, given.unit)
    small = "smaller" if given.hold == "boring_bar" else "larger"
    rule = "" if free else f" It sticks out {ratio:.1f} diameters: more than three asks for a centre."
    return f"The cut leaves it about {amount} {small} on diameter {where}.{rule}"


def _helps(given: DeflectionInput, bend: float, ratio: float) -> list[str]:
    """What would help, each with its figure."""
    amount = show_small(_length(bend, given.unit).mm, given.unit)
    found = [
        f"Half the overhang: an eighth of the bending ({amount} becomes"
        f" {show_small(_length(bend / 8, given.unit).mm, given.unit)})."
    ]
    if given.hold == "chuck":
        share = BENDS["chuck_and_centre"] / BENDS["chuck"]
        found.append(
            f"A centre at its end: {show_small(_length(bend * share, given.unit).mm, given.unit)}, a little past the"
            " middle."
        )
    if given.hold == "boring_bar":
        found.append(
            "A bar a quarter thicker bends less than half as much; smaller nose radius, sharp tip, lighter cut."
        )
    elif ratio > 8:
        found.append("A steady on a clean round track, its rollers kept free of chips.")
    return [*found, "A last cut half as deep: half the bending; take it twice at the same dial."]
