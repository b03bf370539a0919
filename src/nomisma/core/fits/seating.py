"""Do the faces seat: recess against boss depth, and the corner radius against the mating edge."""

from decimal import Decimal
from typing import Literal

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, OutOfRange
from nomisma.core.fits.called_out import called_out
from nomisma.core.model import Model
from nomisma.core.part.corner import LARGEST_MM, Edge, stand_off_mm
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Size, SizeOrZero
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step


class DepthInput(Model):
    """Depth of the recess and height of the boss, each with limits (0.500/0.502, 12±0.05)."""

    recess_depth: str
    boss_height: str
    unit: Unit | None = None


class DepthResult(Model):
    """The gap under the boss when the outer faces meet; below zero the boss bottoms first and the faces stay apart."""

    gap_min: Difference
    gap_max: Difference
    gap_rss_min: Difference
    gap_rss_max: Difference
    bottoms: Literal["never", "sometimes", "always"]
    sentence: str
    recess_lower: Size
    recess_upper: Size
    boss_lower: Size
    boss_upper: Size
    working: list[Step]


@calculation(
    name="depths",
    title="Recess against boss: do the outer faces seat?",
    validity="One recess and one boss, each with two limits.",
    source="arithmetic; that a boss must not bottom in its recess: common practice, no source",
    example={"recess_depth": "0.500/0.504 in", "boss_height": "0.492/0.496 in"},
)
def depths(given: DepthInput) -> DepthResult:
    """Gap under the boss, worst case and root-sum-square. Raises InputError. Source: arithmetic.

    >>> depths(DepthInput(recess_depth="0.500/0.504 in", boss_height="0.492/0.496 in")).bottoms
    'never'
    """
    recess = called_out("bore", given.recess_depth, unit=given.unit, field="recess_depth")
    boss = called_out("shaft", given.boss_height, unit=given.unit, field="boss_height")
    unit = given.unit or recess.unit
    least, greatest = recess.lower_mm - boss.upper_mm, recess.upper_mm - boss.lower_mm
    mean = (least + greatest) / 2
    reach = ((recess.upper_mm - recess.lower_mm) ** 2 + (boss.upper_mm - boss.lower_mm) ** 2).sqrt() / 2
    bottoms: Literal["never", "sometimes", "always"] = (
        "never" if least >= 0 else "always" if greatest < 0 else "sometimes"
    )
    sentence = {
        "never": f"The outer faces always seat; {show_small(least, unit)} is left under the boss at the least.",
        "sometimes": (
            f"The boss can bottom first and hold the faces {show_small(-least, unit)} apart. Deepen the recess or face"
            " the boss."
        ),
        "always": (
            f"The boss always bottoms first, by {show_small(-greatest, unit)} at the least: the outer faces never meet."
        ),
    }[bottoms]
    decimals = 5 if unit == "in" else 4
    return DepthResult(
        gap_min=Length(least, unit),
        gap_max=Length(greatest, unit),
        gap_rss_min=Length(mean - reach, unit),
        gap_rss_max=Length(mean + reach, unit),
        bottoms=bottoms,
        sentence=sentence,
        recess_lower=Length(recess.lower_mm, unit),
        recess_upper=Length(recess.upper_mm, unit),
        boss_lower=Length(boss.lower_mm, unit),
        boss_upper=Length(boss.upper_mm, unit),
        working=[
            Step(
                name="Gap under the boss, worst case",
                formula="shallowest recess − tallest boss; deepest recess − shortest boss",
                values=(
                    f"{both(recess.lower_mm, unit)} − {both(boss.upper_mm, unit)}; "
                    f"{both(recess.upper_mm, unit)} − {both(boss.lower_mm, unit)}"
                ),
                result=f"{both(least, unit, decimals=decimals)} to {both(greatest, unit, decimals=decimals)}",
                source=ARITHMETIC,
            ),
            Step(
                name="Gap under the boss, root sum square",
                formula="middle ± ½·√(tolerance of recess² + tolerance of boss²)",
                result=(
                    f"{both(mean - reach, unit, decimals=decimals)} to {both(mean + reach, unit, decimals=decimals)}"
                ),
                source="independent sizes: JCGM 100:2008, 5.1.2",
            ),
        ],
    )


class CornerInput(Model):
    """The radius a tool leaves in a corner, and the mating edge: sharp, a chamfer (leg along the axis, 45°) or a
    radius.

    An edge broken by 0 is sharp. `radial_clearance` is the gap on the radius between the two members where they meet
    (zero at the tightest).
    """

    fillet_radius: SizeOrZero
    edge: Edge = "chamfer"
    edge_size: SizeOrZero | None = None
    radial_clearance: Difference = Length(Decimal(0))
    unit: Unit | None = None


class CornerResult(Model):
    """Whether the faces seat; how far the corner holds them apart; what chamfer or undercut would clear it."""

    seats: bool
    edge: Edge
    edge_size: Difference | None = None
    radial_clearance: Difference
    stand_off: Difference
    least_chamfer: Difference
    least_radius: Difference
    undercut_width: Difference
    sentence: str
    working: list[Step]


@calculation(
    name="corner",
    title="A corner's radius against the mating edge",
    validity="A round fillet in a square corner; 45° chamfer or round edge; all above 0, at most 25 mm.",
    source="geometry of a circle in a corner; that faces held off by a corner never seat: common practice, no source",
    example={"fillet_radius": "1/32 in", "edge": "chamfer", "edge_size": "1/64 in"},
)
def corner(given: CornerInput) -> CornerResult:
    """How far a fillet holds the mating face off. Raises InputError or OutOfRange.

    Source: geometry (core.part.corner).

    >>> found = corner(CornerInput(fillet_radius="0.8 mm", edge="radius", edge_size="0.5 mm"))
    >>> found.seats, str(found.stand_off)
    (False, '0.3 mm')
    """
    radius, gap = given.fillet_radius.mm, given.radial_clearance.mm
    if radius > LARGEST_MM:
        raise OutOfRange(
            f"A corner radius of {given.fillet_radius} is no tool's.", "Check the unit.", field="fillet_radius"
        )
    if gap < 0:
        raise InputError(
            "The clearance between the two is below zero.", "A press fit has none: enter 0.", field="radial_clearance"
        )
    edge = Decimal(0)
    if given.edge != "sharp":
        if given.edge_size is None:
            raise InputError(f"The {given.edge} has no size.", "Give its leg or its radius.", field="edge_size")
        edge = given.edge_size.mm
        if edge > LARGEST_MM:
            raise OutOfRange(f"An edge broken by {given.edge_size} is no edge.", "Check the unit.", field="edge_size")
    unit = given.unit or given.fillet_radius.unit
    off = stand_off_mm(
        fillet_radius_mm=float(radius), edge=given.edge, edge_size_mm=float(edge), radial_clearance_mm=float(gap)
    )
    stand_off = Decimal(f"{off:.6f}")
    seats = stand_off == 0
    at_least = max(radius - gap, Decimal(0))
    named = (
        "a sharp edge"
        if edge == 0
        else f"{'a chamfer' if given.edge == 'chamfer' else 'an edge radius'} of {given.edge_size}"
    )
    return CornerResult(
        seats=seats,
        edge=given.edge,
        edge_size=given.edge_size if given.edge != "sharp" else None,
        radial_clearance=given.radial_clearance,
        stand_off=Length(stand_off, unit),
        least_chamfer=Length(at_least, unit),
        least_radius=Length(at_least, unit),
        undercut_width=Length(radius, unit),
        sentence=(
            "The edge clears the corner: the faces seat."
            if seats
            else (
                f"The corner holds the faces {show_small(stand_off, unit)} apart. Chamfer or round the edge to at least"
                f" {both(at_least, unit)}, or undercut the corner at least as wide as its radius."
            )
        ),
        working=[
            Step(
                name="How far the corner holds the face off",
                formula="height of the fillet where the edge meets it, less what the edge is broken by",
                values=f"corner radius {given.fillet_radius}, {named}, radial clearance {both(gap, unit, decimals=5)}",
                result=both(stand_off, unit, decimals=5 if unit == "in" else 4),
                source="geometry of a circle in a square corner",
            ),
            Step(
                name="What clears it",
                formula=(
                    "chamfer leg or edge radius at least the corner radius, less the radial clearance; or an undercut"
                ),
                result=both(at_least, unit),
                source=COMMON_PRACTICE,
            ),
        ],
    )
