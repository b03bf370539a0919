"""Kinds of feature: the trade word, the side on which metal is left, what cuts it and what measures it."""

from dataclasses import dataclass, replace
from functools import cache
from typing import Literal, cast, get_args

from nomisma.core.errors import NotDefined
from nomisma.core.table import table

MaterialSide = Literal["external", "internal", "two_sided", "upper_only"]
UnitFamily = Literal["size", "angle", "roughness", "feel"]
TakenAs = Literal["size", "difference"]
Way = Literal["pile", "chord", "plate_rollers", "taper_rollers", "sine_bar"]
"""How a size may follow from what is read (core/measuring/indirect.py)."""
CutAs = Literal["outside", "bore", "groove", "edge", "taper", "with_another", "none"]
"""What a lathe cuts for a feature: a surface, nothing of its own (it comes with another), or nothing."""
CoachedBy = Literal["cross_slide", "carriage", "none"]
KindName = Literal[
    "shaft", "outside_diameter", "bore", "length", "height", "depth", "groove_width", "groove_floor_diameter", "position", "width",
    "wall", "chamfer", "corner_radius", "taper", "runout", "surface_finish", "plain_size", "by_trial",
]  # fmt: skip
"""Every kind of the table, and the words taken for one."""
SIDE_WORDS: dict[MaterialSide, str] = {
    "external": "over the upper limit there is metal to go",
    "internal": "under the lower limit there is metal to go",
    "two_sided": "no side is safe: what is out is out",
    "upper_only": "there is only an upper limit",
}


@dataclass(frozen=True, slots=True)
class FeatureKind:
    """One kind: its trade word and side, what it is written in, the slide that cuts it, what it is measured with and where.

    `instruments`: which instruments of the shop come into question, by what they measure; `usual`: which are taken first.
    `taken_as`: one reading is its size, or the difference of two may be.
    `ways`: how its size may follow from readings of something else. `places`: the usual ones, in order.
    """

    name: KindName
    title: str
    material_side: MaterialSide
    family: UnitFamily
    coached_by: CoachedBy
    is_diameter: bool
    measured_with: str
    instruments: tuple[str, ...]
    usual: tuple[str, ...]
    taken_as: TakenAs
    cut_as: CutAs
    ways: tuple[Way, ...]
    places: tuple[str, ...]

    @property
    def is_compared(self) -> bool:
        """Whether it is tried or compared by hand and eye: no size is read of it."""
        return self.family in ("feel", "roughness")

    @property
    def can_be_stoned(self) -> bool:
        """Whether stone or cloth may take something off it: an outside that turns."""
        return self.name == "outside_diameter"

    @property
    def a_title(self) -> str:
        """Its title with its article: an outside diameter, a bore."""
        return f"{'an' if self.title[0] in 'aeiou' else 'a'} {self.title}"


@cache
def feature_kinds() -> dict[str, FeatureKind]:
    """Every kind by name. Source: feature_kinds.csv (common practice, no source).

    >>> feature_kinds()["depth"].coached_by
    'carriage'
    """
    return {
        row["name"]: FeatureKind(
            name=cast(KindName, row["name"]), title=row["title"], material_side=cast(MaterialSide, row["material_side"]),
            family=cast(UnitFamily, row["family"]), coached_by=cast(CoachedBy, row["coached_by"]), is_diameter=row["is_diameter"] == "yes",
            measured_with=row["measured_with"],
            instruments=tuple(row["instruments"].split()), usual=tuple(row["usual"].split()),
            taken_as=cast(TakenAs, row["taken_as"]),
            cut_as=cast(CutAs, row["cut_as"]), ways=tuple(cast(Way, one) for one in row["ways"].split()), places=tuple(row["places"].split(";")),
        )
        for row in table("part", "feature_kinds.csv")
    }  # fmt: skip


@cache
def _by_any_word() -> dict[str, FeatureKind]:
    """Every kind by its name and by the words taken for it; said by such a word it keeps that word as its title."""
    also = {row["also"]: row["name"] for row in table("part", "feature_kinds.csv") if row["also"]}
    found = feature_kinds() | {word: replace(feature_kinds()[name], title=word) for word, name in also.items()}
    if set(found) != set(get_args(KindName)):
        raise ValueError("feature_kinds.csv and KindName name different kinds")
    return found


def feature_kind(name: str, *, field: str = "kind") -> FeatureKind:
    """The kind of that name. Raises NotDefined with the list.

    Source: feature_kinds.csv (common practice, no source).

    >>> feature_kind("depth").material_side, feature_kind("shaft").name
    ('internal', 'outside_diameter')
    """
    found = _by_any_word().get(name)
    if found is None:
        raise NotDefined(
            f"“{name[:40]}” is not a kind of feature here.",
            f"Choose one of {', '.join(feature_kinds())}.",
            field=field,
            value=name,
        )
    return found
