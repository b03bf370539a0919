"""Kinds of feature: the trade word, the side on which metal is left, what cuts it and what measures it."""

from dataclasses import dataclass
from functools import cache
from typing import Literal, cast

from nomisma.core.errors import NotDefined
from nomisma.core.table import table

MaterialSide = Literal["external", "internal", "two_sided", "upper_only"]
UnitFamily = Literal["size", "angle", "roughness"]
CoachedBy = Literal["cross_slide", "carriage", "none"]
SIDE_WORDS: dict[MaterialSide, str] = {
    "external": "over the upper limit there is metal to go",
    "internal": "under the lower limit there is metal to go",
    "two_sided": "no side is safe: what is out is out",
    "upper_only": "there is only an upper limit",
}


@dataclass(frozen=True, slots=True)
class FeatureKind:
    """One kind: its trade word, its material side, what it is written in, the slide that cuts it, what it is measured with."""

    name: str
    title: str
    material_side: MaterialSide
    family: UnitFamily
    coached_by: CoachedBy
    measured_with: str


@cache
def feature_kinds() -> dict[str, FeatureKind]:
    """Every kind by name. Source: feature_kinds.csv (common practice, no source)."""
    return {
        row["name"]: FeatureKind(
            name=row["name"], title=row["title"], material_side=cast(MaterialSide, row["material_side"]),
            family=cast(UnitFamily, row["family"]), coached_by=cast(CoachedBy, row["coached_by"]), measured_with=row["measured_with"],
        )
        for row in table("part", "feature_kinds.csv")
    }  # fmt: skip


def feature_kind(name: str, *, field: str = "kind") -> FeatureKind:
    """The kind of that name. Raises NotDefined with the list.

    >>> feature_kind("depth").material_side
    'internal'
    """
    if name not in feature_kinds():
        raise NotDefined(
            f"“{name[:40]}” is not a kind of feature here.",
            f"Choose one of {', '.join(feature_kinds())}.",
            field=field,
            value=name,
        )
    return feature_kinds()[name]
