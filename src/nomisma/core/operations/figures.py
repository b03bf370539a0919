"""The figures of a step: to which size, from where to where, in how many passes, counted from the face it is worked
from.
"""

from collections.abc import Iterator, Sequence
from decimal import Decimal
from math import atan, degrees

from nomisma.core.metal.cut import Cut, Workholding
from nomisma.core.metal.workpiece import Workpiece
from nomisma.core.operations.slide_dials import NO_DIALS, SlideDials, on_the_carriage, on_the_tailstock
from nomisma.core.quantity.display import show_exact, show_sawn
from nomisma.core.quantity.length import Unit

FLUTES = Decimal(8)
"""The flutes of a common twist drill are about so many of its diameters long. Source: handbook order, recalled (jobber
drills: 5 mm 52, 10 mm 87, 20 mm 140).
"""


def figures(
    cuts: Sequence[Cut],
    held: Workholding,
    length_mm: Decimal,
    unit: Unit,
    before: Workpiece | None = None,
    dials: SlideDials = NO_DIALS,
    left_on_mm: Decimal = Decimal(0),
) -> list[str]:
    """What is set and read at the slides for an operation's cuts, in `unit`; lengths from the face that the set-up
    works from (of a part so long, mm); of stock that is not round yet (`before`), where it is; on the handwheels of the
    lathe (`dials`), how far they are wound; `left_on_mm`: what stays on that face. Source: geometry; common practice,
    no source (what is said).

    >>> held = Workholding("right", "three_jaw", Decimal(48), None)
    >>> rough = Cut("rough_turn", ("A",), Decimal("10.3"), Decimal(40), Decimal(42), Decimal("24.75"), passes=6)
    >>> figures([rough], held, Decimal(40), "mm")
    ['from ⌀42.000 mm to ⌀24.750 mm in 6 passes, back to 29.700 mm from the face']
    """
    face_mm = length_mm + left_on_mm if held.worked == "right" else -left_on_mm
    said = [words for one in cuts for words in (*_stood_by(one), *_said(one, face_mm, unit, dials))]
    return [*said, *(_until_round(cuts, before, unit) if before is not None else ())]


def _stood_by(one: Cut) -> Iterator[str]:
    """What is put up before a cut, or taken away."""
    if one.supports:
        yield "first the centre up: quill short and locked, no harder than the needle allows"
    elif one.supports is not None:
        yield "first the centre away, the tailstock back"


def _until_round(cuts: Sequence[Cut], before: Workpiece, unit: Unit) -> Iterator[str]:
    """Of stock with corners, or set over, where the cut stops being broken."""
    for one in cuts:
        if one.kind not in ("rough_turn", "turn") or one.before_mm is None or one.after_mm is None:
            continue
        there = min(before.outside.largest_mm(one.from_mm, one.to_mm), before.round_mm)
        round_mm = there - 2 * one.throw_mm
        if round_mm < one.before_mm and one.after_mm < round_mm:
            yield f"the cut is broken down to {_size(round_mm, unit)}: slow, and out of balance, until it is round"
            return


def _size(mm: Decimal | None, unit: Unit) -> str:
    return f"⌀{show_exact(mm or Decimal(0), unit)}"


def _said(one: Cut, face_mm: Decimal, unit: Unit, dials: SlideDials) -> Iterator[str]:
    """What is said of a cut, and what the handwheel shows at its end."""
    wound = ""
    if one.traits.is_stopped and one.kind != "face":
        wound = on_the_carriage(max(abs(mm - face_mm) for mm in (one.from_mm, one.to_mm)), dials)
    elif one.kind == "drill":
        wound = on_the_tailstock(abs((one.point_mm if one.point_mm is not None else one.to_mm) - face_mm), dials)
    for words in _set(one, face_mm, unit):
        yield f"{words}; {wound}" if wound else words


def _set(one: Cut, face_mm: Decimal, unit: Unit) -> Iterator[str]:
    before, after = _size(one.before_mm, unit), _size(one.after_mm, unit)
    near, far = sorted(abs(mm - face_mm) for mm in (one.from_mm, one.to_mm))
    near_by, back_to = show_exact(near, unit), show_exact(far, unit)
    match one.kind:
        case "face":
            hole = f", down to the hole {after}" if one.after_mm else ""
            yield f"{show_exact(abs(one.from_mm - one.to_mm), unit)} off{_in_passes(one)}{hole}"
        case "rough_turn" | "rough_bore":
            passes = f" in {one.passes} passes" if one.passes > 1 else ""
            yield f"from {before} to {after}{passes}, back to {back_to} from the face"
        case "turn" | "bore" | "ream":
            pins = "; slow, oil, pins afterwards" if one.kind == "ream" else ""
            yield f"to {after}, {back_to} from the face{pins}"
        case "groove" | "v_groove" | "undercut":
            plunges = f" in {one.passes} plunges side by side" if one.passes > 1 else ""
            corners = f"its near corner {near_by} and its far corner {back_to} from the face"
            yield f"from {before} to {after}{plunges}, {corners}"
        case "taper":
            compound = f", the compound at {_half_angle_deg(one):.3f}°" if one.before_mm and one.after_mm else ""
            yield f"{before} to {after} between {near_by} and {back_to} from the face{_in_passes(one)}{compound}"
        case "thread" | "knurl":
            yield f"{near_by} to {back_to} from the face{_in_passes(one)}"
        case "chamfer" | "radius":
            along = abs(one.to_mm - one.from_mm)
            across = abs((one.before_mm or Decimal(0)) - (one.after_mm or Decimal(0))) / 2
            mouth = f" of the hole, to {after}" if one.inside else ""
            end = f"the {one.end} edge{mouth}: " if one.end else ""
            yield f"{end}{show_exact(along, unit)} along, {show_exact(across, unit)} in"
        case "face_groove":
            yield f"{before} to {after}, {back_to} deep"
        case "saw":
            yield f"{near_by} to {back_to} from the face"
        case "part_off":
            width, reach = (show_sawn(mm or Decimal(0), unit) for mm in (one.tool.width_mm, one.tool.reach_mm))
            corners = f"near corner {near_by}, far corner {back_to} from the face"
            yield f"blade {width} wide: {corners}; it must reach {reach}"
        case "spot" | "drill" | "centre_hole":
            yield from _drilled(one, face_mm, unit)
        case "deburr":
            return


def _half_angle_deg(one: Cut) -> float:
    """Half the included angle of a taper."""
    rise = abs((one.before_mm or Decimal(0)) - (one.after_mm or Decimal(0))) / 2
    return degrees(atan(rise / (one.to_mm - one.from_mm)))


def _drilled(one: Cut, face_mm: Decimal, unit: Unit) -> Iterator[str]:
    size, deep = _size(one.after_mm, unit), show_sawn(abs(one.to_mm - face_mm), unit)
    if one.kind == "centre_hole":
        yield f"mouth {size}"
    elif one.kind == "spot":
        yield f"{deep} deep"
    else:
        flutes = "; no common drill's flutes are so long: a long one, or the rest from the other end"
        long_drill = flutes if abs(one.to_mm - one.from_mm) > FLUTES * (one.after_mm or Decimal(0)) else ""
        point = f", its point at {show_sawn(abs(one.point_mm - face_mm), unit)}" if one.point_mm is not None else ""
        yield f"{size}: full diameter {deep} deep{point}{long_drill}"


def _in_passes(one: Cut) -> str:
    return f", {one.passes} passes" if one.passes > 1 else ""
