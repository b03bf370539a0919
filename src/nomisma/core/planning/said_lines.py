"""Features back to the lines that say them, so that another part can be begun from them."""

from collections.abc import Sequence
from dataclasses import dataclass

from nomisma.core.part.along import NOT_SAID, AxialPlace
from nomisma.core.part.duty import NO_DUTY, TRUE_TO, DutyName, FeatureDuty, duties
from nomisma.core.part.feature_kinds import KindName

FIRST_WORD: dict[KindName, str] = {
    "shaft": "od", "outside_diameter": "od", "bore": "bore", "length": "length", "height": "height", "depth": "depth", "groove_width": "groove",
    "groove_floor_diameter": "dia", "position": "position", "width": "width", "wall": "wall", "chamfer": "cham", "corner_radius": "rad",
    "taper": "taper",
    "runout": "runout", "surface_finish": "ra", "plain_size": "", "by_trial": "trial",
}  # fmt: skip
"""What a line of each kind begins with (core/planning/sketch_line.py). Source: common practice, no source."""


@dataclass(frozen=True, slots=True)
class SaidFeature:
    """One feature as its line says it: its letter and kind, its size with limits as written, where it lies and what it is for."""

    letter: str
    kind: KindName
    text: str
    through: bool = False
    along: AxialPlace = NOT_SAID
    duty: FeatureDuty = NO_DUTY


def said_lines(features: Sequence[SaidFeature]) -> list[str]:
    """The lines that say these features, in their order; a groove with its floor and its place is one. Source: common practice, no source.

    >>> said_lines([SaidFeature("A", "outside_diameter", "24 h9"), SaidFeature("B", "length", "18 ±0.1")])
    ['od 24 h9', 'length 18 ±0.1']
    """
    lines: list[str] = []
    waiting = list(features)
    while waiting:
        one = waiting.pop(0)
        if one.kind == "groove_width":
            floor = waiting.pop(0) if waiting and waiting[0].kind == "groove_floor_diameter" else None
            position = waiting.pop(0) if waiting and waiting[0].kind == "position" else None
            lines.append(_groove(one, floor, position))
        else:
            place = f" {one.along.words}" if one.along.is_said else ""
            through = " thru" if one.through else ""
            lines.append(f"{FIRST_WORD[one.kind]} {one.text}{through}{place}{_duty(one)}".strip())
    return lines


def _groove(width: SaidFeature, floor: SaidFeature | None, position: SaidFeature | None) -> str:
    to = f" to {floor.text}" if floor else ""
    at = f" at {position.text} {position.along.words}".rstrip() if position else ""
    return f"groove {width.text} wide{to}{at}{_duty(width)}"


def _duty(one: SaidFeature) -> str:
    names: list[DutyName] = [one.duty.name] if one.duty.name else []
    if one.duty.true_to and one.duty.name != TRUE_TO:
        names.append(TRUE_TO)
    return "".join(f", {duties()[name].said[0].replace('{letter}', one.duty.true_to)}" for name in names)
