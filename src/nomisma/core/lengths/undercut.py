"""An undercut beside a shoulder, form E or F: its sizes, what grinding adds to it, and whether the partner's edge
clears it.
"""

from collections.abc import Sequence
from decimal import Decimal
from math import radians, tan
from typing import Annotated, Literal

from pydantic import BeforeValidator

from nomisma.core.calculation import calculation
from nomisma.core.errors import OutOfRange
from nomisma.core.model import Model
from nomisma.core.part.corner import fillet_height_mm
from nomisma.core.quantity.display import both, show_exact, show_small
from nomisma.core.quantity.fields import Difference, Size
from nomisma.core.quantity.length import Length, Unit, as_mm
from nomisma.core.table import Row, loaded, rows_of
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import Fact, WorksheetAnswer

Form = Literal["e", "f"]
FORM_WORDS: dict[Form, str] = {"e": "E: only the diameter is worked on", "f": "F: the diameter and the face are"}
Load = Literal["usual", "alternating"]
LOAD_WORDS: dict[Load, str] = {"usual": "usual", "alternating": "alternating: a larger radius"}
STANDARD = (
    "DIN 509:2006 (recalled; widths checked by geometry, diameters not: look in the standard before it goes on a"
    " drawing)"
)
RUN_OUT_DEG, FACE_DEG = 15, 8
"""How the undercut runs out along the axis, and on the face. Source: DIN 509:2006 (recalled)."""
EDGE_TO_SPARE_MM = 0.1
"""What the partner's edge is broken by more than it must. Source: common practice, no source."""
_CORNER = "geometry of the undercut's round against a 45° edge (core.part.corner)"


class UndercutInput(Model):
    """The finished diameter beside the shoulder; `radius` and `depth` choose another of the standard's sizes.

    `to_grind`: what is left on the diameter (and on the face, form F) when it is cut, on radius. `partner_chamfer`: the
    leg of the 45° edge of the part that seats against the shoulder.
    """

    diameter: Size
    form: Form = "f"
    load: Load = "usual"
    radius: Size | None = None
    depth: Size | None = None
    to_grind: Difference = Length(Decimal(0))
    partner_chamfer: Difference | None = None
    unit: Unit = "mm"


class UndercutResult(WorksheetAnswer):
    """The standard's sizes, as they are cut before grinding, the floor's diameter, and the least chamfer of the partner
    that clears it.
    """

    designation: str
    radius: Size
    depth: Size
    width: Size
    face_depth: Size | None = None
    face_width: Size | None = None
    floor: Size
    cut_depth: Size
    cut_width: Size
    least_chamfer: Difference
    clears: bool | None = None


Millimetres = Annotated[Decimal, BeforeValidator(lambda cell: cell or "0")]
"""A cell in mm; an empty one is none of it."""


class Undercut(Row):
    """One size of the table, mm: radius, depth, width along the axis, width on the face, depth in the face.

    `over_mm`, `to_mm`: the diameters it is usual for.
    """

    radius_mm: Millimetres
    depth_mm: Millimetres
    width_mm: Millimetres
    face_width_mm: Millimetres
    face_depth_mm: Millimetres
    over_mm: Millimetres
    to_mm: Millimetres
    load: Load | Literal[""]

    def least_chamfer_mm(self, form: Form) -> float:
        """The least leg (mm) of a 45° edge with which the partner seats: its two ends clear the round. Source:
        geometry.

        >>> round(undercuts()[5].least_chamfer_mm("e"), 3), round(undercuts()[10].least_chamfer_mm("f"), 3)
        (0.5, 0.525)
        """
        radius, depth = float(self.radius_mm), float(self.depth_mm)
        face = float(self.face_depth_mm) if form == "f" else 0.0
        return max(fillet_height_mm(radius, depth) - face, fillet_height_mm(radius, face) - depth, 0.0)


@loaded
def undercuts() -> tuple[Undercut, ...]:
    """The table of undercuts, smallest first, mm. Source: undercuts.csv.

    >>> undercuts()[0].radius_mm, len(undercuts())
    (Decimal('0.1'), 13)
    """
    return tuple(rows_of("lengths", "undercuts.csv", Undercut))


def undercut_width_mm(radius_mm: Decimal, depth_mm: Decimal) -> Decimal:
    """How wide an undercut of a radius and a depth is along the axis, mm; of a size the table lacks what its run-out
    takes.

    Source: undercuts.csv; geometry: r + t1/tan 15° + r·tan 7.5°.

    >>> undercut_width_mm(Decimal("0.6"), Decimal("0.3"))
    Decimal('2.5')
    """
    for one in undercuts():
        if (one.radius_mm, one.depth_mm) == (radius_mm, depth_mm):
            return one.width_mm
    radius, depth = float(radius_mm), float(depth_mm)
    out = radians(RUN_OUT_DEG)
    return as_mm(radius + depth / tan(out) + radius * tan(out / 2)).quantize(Decimal("0.01"))


@calculation(
    name="undercut",
    title="An undercut beside a shoulder",
    validity="Round parts that shoulder, finished diameters to 1000 mm; forms E and F with their sizes by table.",
    source=STANDARD,
    example={"diameter": "25 mm", "form": "f", "load": "usual", "to_grind": "0.2 mm", "partner_chamfer": "0.5 mm"},
)
def undercut(given: UndercutInput) -> UndercutResult:
    """The undercut for a diameter. Raises OutOfRange for a size the table lacks, or a diameter it leaves nothing of.

    Source: DIN 509:2006 (recalled); geometry for what grinding adds and for the partner's edge.

    >>> found = undercut(UndercutInput(diameter="25 mm", to_grind="0.2 mm"))
    >>> found.designation, str(found.floor), str(found.cut_width)
    ('F 0.8 x 0.3', '24.4 mm', '3.2464102 mm')
    """
    unit = given.unit
    one = _chosen(given)
    grind = given.to_grind.mm
    if grind < 0:
        raise OutOfRange(
            "What is left to grind is less than nothing.",
            "On radius, for the diameter as it is turned.",
            field="to_grind",
        )
    floor = given.diameter.mm - 2 * one.depth_mm
    if floor <= given.diameter.mm / 2:
        raise OutOfRange(
            "That undercut takes half of the diameter away.",
            "A smaller one, or the size of the table for it.",
            field="diameter",
        )
    longer = as_mm(float(grind) / tan(radians(RUN_OUT_DEG)))
    least = as_mm(one.least_chamfer_mm(given.form))
    clears = None if given.partner_chamfer is None else given.partner_chamfer.mm >= least
    on_face = given.form == "f"
    return UndercutResult(
        designation=_designation(one, given.form),
        radius=Length(one.radius_mm, unit),
        depth=Length(one.depth_mm, unit),
        width=Length(one.width_mm, unit),
        face_depth=Length(one.face_depth_mm, unit) if on_face else None,
        face_width=Length(one.face_width_mm, unit) if on_face else None,
        floor=Length(floor, unit),
        cut_depth=Length(one.depth_mm + grind, unit),
        cut_width=Length(one.width_mm + longer, unit),
        least_chamfer=Length(least, unit),
        clears=clears,
        headline=_designation(one, given.form),
        sentence=f"Radius by depth in mm; its floor comes to {show_exact(floor, unit)}.",
        facts=_facts(one, given, longer),
        notes=_notes(given, least, clears=clears),
        steps=[
            f"A tool with a nose of {both(one.radius_mm, unit)} or less, its side {RUN_OUT_DEG}° off the axis.",
            *(
                [f"Into the face by {both(one.face_depth_mm + grind, unit)} as well, running out at {FACE_DEG}°."]
                if on_face
                else []
            ),
            "Cut it after the diameter and before grinding; no scratch in it where the load alternates.",
        ],
        cautions=["Feed by hand into the corner, carriage stop set: no power feed against a shoulder."],
        working=_working(one, given, longer, least),
    )


def _designation(one: Undercut, form: Form) -> str:
    return f"{form.upper()} {one.radius_mm} x {one.depth_mm}"


def _chosen(given: UndercutInput) -> Undercut:
    if given.radius is None and given.depth is None:
        return _usual(given)
    fitting = [
        one
        for one in undercuts()
        if (given.radius is None or one.radius_mm == given.radius.mm)
        and (given.depth is None or one.depth_mm == given.depth.mm)
    ]
    if not fitting:
        raise OutOfRange("The table has no such undercut.", f"There are {_sizes(undercuts())} mm.", field="radius")
    return fitting[0]


def _usual(given: UndercutInput) -> Undercut:
    of_load = [one for one in undercuts() if one.load == given.load]
    found = next((one for one in of_load if one.over_mm < given.diameter.mm <= one.to_mm), None)
    if found is None:
        low, high = (show_exact(mm, "mm") for mm in (of_load[0].over_mm, of_load[-1].to_mm))
        raise OutOfRange(
            f"For that load the table says nothing of this diameter, only over {low} to {high}.",
            "Take the usual load, or choose radius and depth.",
            field="diameter",
        )
    return found


def _sizes(these: Sequence[Undercut]) -> str:
    return ", ".join(f"{one.radius_mm} x {one.depth_mm}" for one in these)


def _facts(one: Undercut, given: UndercutInput, longer: Decimal) -> list[Fact]:
    unit, grind = given.unit, given.to_grind.mm
    facts = [
        Fact(name="Radius", length=Length(one.radius_mm, unit)),
        Fact(name="Deep, on radius", length=Length(one.depth_mm, unit)),
        Fact(name="Wide, along the axis", length=Length(one.width_mm, unit)),
    ]
    if given.form == "f":
        facts += [
            Fact(name="Deep in the face", length=Length(one.face_depth_mm, unit)),
            Fact(name="Wide on the face", length=Length(one.face_width_mm, unit)),
        ]
    if grind:
        facts += [
            Fact(name="Cut before grinding: deep", length=Length(one.depth_mm + grind, unit)),
            Fact(name="and wide", length=Length(one.width_mm + longer, unit)),
        ]
    return facts


def _notes(given: UndercutInput, least: Decimal, *, clears: bool | None) -> list[str]:
    spare = as_mm(float(least) + EDGE_TO_SPARE_MM)
    unit = given.unit
    if clears is None:
        return [
            f"The partner's edge: a 45° chamfer of {show_exact(spare, unit)} or more seats; {show_exact(least, unit)}"
            " is the least that can."
        ]
    if clears:
        return ["The partner's edge clears the round: its face seats."]
    or_else = ", or take form F" if given.form == "e" else ""
    return [
        f"The partner's edge rides on the round: its face does not seat. Chamfer it by {show_exact(spare, unit)} or"
        f" more{or_else}."
    ]


def _working(one: Undercut, given: UndercutInput, longer: Decimal, least: Decimal) -> list[Step]:
    unit, grind = given.unit, given.to_grind.mm
    by_table = f"by diameter and load, {LOAD_WORDS[given.load]}"
    steps = [
        Step(
            name="Size",
            formula=by_table if given.radius is None and given.depth is None else "as chosen",
            values=f"diameter {both(given.diameter.mm, unit)}",
            result=_designation(one, given.form),
            source=STANDARD,
        ),
        Step(
            name="Least chamfer of the partner",
            formula="both ends of a 45° edge clear the round: h(x) = r − √(r² − (r − x)²)",
            values=f"r {both(one.radius_mm, unit)}",
            result=both(least, unit),
            source=_CORNER,
        ),
        Step(
            name="To spare on it",
            formula="added",
            result=show_small(Decimal(str(EDGE_TO_SPARE_MM)), unit),
            source=COMMON_PRACTICE,
        ),
    ]
    if grind:
        steps.append(
            Step(
                name="Wider before grinding",
                formula=f"what is left, over tan {RUN_OUT_DEG}°",
                values=both(grind, unit),
                result=both(longer, unit),
                source="geometry",
            ),
        )
    return steps
