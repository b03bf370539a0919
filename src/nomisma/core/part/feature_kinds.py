"""Kinds of feature: the trade word, the side on which metal is left, what cuts it and what measures it."""

from functools import cache
from typing import Annotated, Literal, get_args

from nomisma.core.errors import NotDefined
from nomisma.core.table import MAYBE, WORDS, Row, loaded, parted_by, rows_of

MaterialSide = Literal["external", "internal", "two_sided", "upper_only"]
UnitFamily = Literal["size", "angle", "roughness", "feel"]
Measures = Literal["shaft", "bore", "both", "length"]
"""What an instrument measures."""
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


class FeatureKind(Row):
    """One kind: its trade word and side, what it is written in, the slide that cuts it, what it is measured with and where.

    `instruments`: which instruments of the shop come into question, by what they measure; `usual`: which are taken first.
    `taken_as`: one reading is its size, or the difference of two may be.
    `ways`: how its size may follow from readings of something else. `places`: the usual ones, in order.
    `also`: another word that is taken for it.
    """

    name: KindName
    also: Annotated[KindName | None, MAYBE]
    title: str
    material_side: MaterialSide
    family: UnitFamily
    coached_by: CoachedBy
    is_diameter: bool
    measured_with: str
    instruments: Annotated[tuple[Measures, ...], WORDS]
    usual: Annotated[tuple[str, ...], WORDS]
    taken_as: TakenAs
    cut_as: CutAs
    ways: Annotated[tuple[Way, ...], WORDS]
    places: Annotated[tuple[str, ...], parted_by(";")]

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


@loaded
def feature_kinds() -> dict[str, FeatureKind]:
    """Every kind by name. Source: feature_kinds.csv (common practice, no source).

    >>> feature_kinds()["depth"].coached_by
    'carriage'
    """
    return {row.name: row for row in rows_of("part", "feature_kinds.csv", FeatureKind)}


@cache
def _by_any_word() -> dict[str, FeatureKind]:
    """Every kind by its name and by the words taken for it; said by such a word it keeps that word as its title."""
    found = feature_kinds() | {kind.also: kind.but(title=kind.also) for kind in feature_kinds().values() if kind.also}
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
