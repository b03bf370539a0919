"""What a chuck's jaws do to a thin ring: how far out of round it is once it is let go, and what force would not."""

from decimal import Decimal
from math import cos, pi, sin
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.materials.material import material_named
from nomisma.core.model import Model
from nomisma.core.quantity.display import both, show_force, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.working import Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

SOURCE = (
    "a thin ring under equal radial loads (Roark, circular rings, recalled; its two-load case is the textbook ring)"
)
THICKEST = 0.35
"""How thick the wall may be, by its mean radius, for the thin ring to be an estimate. Source: this tool's own choice.
"""


class JawSqueezeInput(Model):
    """A ring in a chuck: its sizes, how many jaws press on it, each with what force (N); `may_be`: how far out of round
    it may come out.
    """

    outside: Size
    bore: Size
    length: Size
    jaws: Literal["2", "3", "4", "6", "8"] = "3"
    force_n: Number = Field(default=Decimal(3000), gt=0, le=200_000)
    may_be: Difference | None = None
    material: str = "carbon_steel"
    unit: Unit = "mm"


class JawSqueezeResult(WorksheetAnswer):
    """How far out of round on radius, how much in at a jaw and out between two, and the force that keeps to what it may
    be.
    """

    jaws: int
    out_of_round: Difference
    in_at_a_jaw: Difference
    out_between: Difference
    force_for_it_n: float | None = None
    in_range: bool


def ring_shares(jaws: int) -> tuple[float, float]:
    """By what share of F·R³/(E·I) a ring under so many loads (`jaws`) goes in at each, and out between two. Source:
    Roark (recalled).

    >>> [round(share, 4) for share in ring_shares(2)]
    [0.0744, 0.0683]
    """
    half = pi / jaws
    s, c = sin(half), cos(half)
    return ((half + s * c) / (2 * s**2) - 1 / half) / 2, (2 / half - 1 / s - half * c / s**2) / 4


@calculation(
    name="jaw_squeeze",
    title="What the jaws do to a thin ring",
    validity=(
        "Thin rings, jaws narrow and evenly spaced; an estimate: a wall thicker than a third of its radius gives less,"
        " soft jaws far less."
    ),
    source=SOURCE,
    example={
        "outside": "100 mm",
        "bore": "90 mm",
        "length": "30 mm",
        "jaws": "3",
        "force_n": 3000,
        "may_be": "0.01 mm",
    },
)
def jaw_squeeze(given: JawSqueezeInput) -> JawSqueezeResult:
    """Out of round after release, mm within. Raises OutOfRange for a ring without a wall, NotDefined for a material.

    Source: a thin ring under equal radial loads: in at a load F·R³/(2·E·I)·((θ + s·c)/(2·s²) − 1/θ), θ half the angle
    between jaws.

    >>> found = jaw_squeeze(JawSqueezeInput(outside="100 mm", bore="90 mm", length="30 mm"))
    >>> str(found.out_of_round)
    '0.1515439 mm'
    """
    if given.bore.mm >= given.outside.mm:
        raise OutOfRange("The ring has no wall.", "Check the two sizes.", field="bore")
    wall = float(given.outside.mm - given.bore.mm) / 2
    radius = float(given.outside.mm + given.bore.mm) / 4
    inertia = float(given.length.mm) * wall**3 / 12
    unit, count = given.unit, int(given.jaws)
    scale = float(given.force_n) * radius**3 / (material_named(given.material).e_mpa * inertia)
    within, out = (share * scale for share in ring_shares(count))
    total = within + out
    force = float(given.force_n) * float(given.may_be.mm) / total if given.may_be and given.may_be.mm > 0 else None
    thin = wall / radius <= THICKEST
    return JawSqueezeResult(
        jaws=count,
        out_of_round=Length.from_mm(total, unit),
        in_at_a_jaw=Length.from_mm(within, unit),
        out_between=Length.from_mm(out, unit),
        force_for_it_n=force,
        in_range=thin,
        headline=show_small(as_mm(total), unit),
        headline_length=Length.from_mm(total, unit),
        sentence=f"Out of round on radius once the {count} jaws let go, if it was bored round in them.",
        facts=_facts(within, out, force, unit),
        notes=_notes(thin=thin, odd=count % 2 == 1),
        steps=[
            "Rough it first; ease the jaws and take them up again just enough to hold, before the last cuts.",
            "Soft jaws bored to its size, or a split sleeve round it: the more of it is held, the less it is bent.",
            "For the finest: held by its ends with a ring and bolts, on a mandrel, or bonded.",
        ],
        cautions=["Less grip holds less cut: light cuts only, and never a long overhang on an eased chuck."],
        working=[
            Step(
                name="Stiffness",
                formula="I = length × wall³/12",
                values=f"wall {both(as_mm(wall), unit)}, mean radius {both(as_mm(radius), unit)}",
                result=f"{inertia:.4g} mm⁴",
                source=SOURCE,
            ),
            Step(
                name="In at a jaw",
                formula="F·R³/(E·I) × share",
                values=f"share {ring_shares(count)[0]:.5f}",
                result=both(as_mm(within), unit, decimals=5),
                source=SOURCE,
            ),
            Step(
                name="Out between",
                formula="F·R³/(E·I) × share",
                values=f"share {ring_shares(count)[1]:.5f}",
                result=both(as_mm(out), unit, decimals=5),
                source=SOURCE,
            ),
        ],
    )


def _facts(within: float, out: float, force: float | None, unit: Unit) -> list[Fact]:
    facts = [
        Fact(name="In at a jaw", length=Length.from_mm(within, unit), small=True),
        Fact(name="Out between two", length=Length.from_mm(out, unit), small=True),
    ]
    if force is not None:
        facts.append(Fact(name="A jaw's force that keeps to it", words=f"{show_force(force, unit)}"))
    return facts


def _notes(*, thin: bool, odd: bool) -> list[str]:
    notes = []
    if odd:
        notes.append(
            "An odd number of lobes: a two-point micrometer or bore gauge reads it round. Three points, or a needle on"
            " a mandrel, see it."
        )
    if not thin:
        notes.append("The wall is thick for this sum: it bends less than it says.")
    return notes
