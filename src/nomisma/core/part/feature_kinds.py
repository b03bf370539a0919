"""The kinds of feature of a turned part, by name: one for each module of `kinds/`."""

import pkgutil
from functools import cache
from importlib import import_module
from typing import Annotated

from pydantic import AfterValidator, WithJsonSchema

from nomisma.core.calculation import CarriedError
from nomisma.core.errors import NotDefined
from nomisma.core.part import kinds
from nomisma.core.part.kind import SIDE_WORDS, CoachedBy, FeatureKind, Measures, TakenAs, UnitFamily, Way, names_known
from nomisma.core.part.requirement import MaterialSide
from nomisma.core.table import loaded

__all__ = [
    "SIDE_WORDS",
    "CoachedBy",
    "FeatureKind",
    "KindName",
    "MaterialSide",
    "Measures",
    "TakenAs",
    "UnitFamily",
    "Way",
    "by_first_word",
    "every_name",
    "feature_kind",
    "feature_kinds",
]


@loaded
def feature_kinds() -> dict[str, FeatureKind]:
    """Every kind by name, in the order in which the modules of `kinds/` stand. Raises ValueError where they do not go
    together.

    Source: each kind's own module.

    >>> feature_kinds()["depth"].coached_by
    'carriage'
    """
    names = sorted(module.name for module in pkgutil.iter_modules(kinds.__path__))
    found: list[FeatureKind] = [import_module(f"{kinds.__name__}.{name}").KIND for name in names]
    names_known(found)
    return {kind.name: kind for kind in found}


@cache
def _by_any_word() -> dict[str, FeatureKind]:
    """Every kind by its name and by the words taken for it; said by such a word it keeps that word as its title."""
    return feature_kinds() | {kind.also: kind.but(title=kind.also) for kind in feature_kinds().values() if kind.also}


def every_name() -> tuple[str, ...]:
    """Every name a kind may be given by. Source: each kind's own module.

    >>> "shaft" in every_name(), "bore" in every_name()
    (True, True)
    """
    return tuple(_by_any_word())


@cache
def by_first_word() -> dict[str, FeatureKind]:
    """The kinds by the words a line of them begins with. Source: common practice, no source.

    >>> by_first_word()["boss"].name
    'outside_diameter'
    """
    return {word: kind for kind in feature_kinds().values() for word in kind.words}


def feature_kind(name: str, *, field: str = "kind") -> FeatureKind:
    """The kind of that name. Raises NotDefined with the list.

    Source: each kind's own module.

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


def _known(name: str) -> str:
    try:
        feature_kind(name)
    except NotDefined as error:
        raise CarriedError(error) from None
    return name


KindName = Annotated[str, AfterValidator(_known), WithJsonSchema({"type": "string", "enum": list(every_name())})]
"""The name of a kind of feature, or a word taken for one."""
