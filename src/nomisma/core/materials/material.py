"""One material by its name, from the table of materials."""

import re
from dataclasses import dataclass
from functools import lru_cache

from nomisma.core.errors import InputError, NotDefined, OutOfRange, refused_as
from nomisma.core.number import number_from
from nomisma.core.table import Row, loaded, rows_of

SOURCE = "handbook value, typical; the certificate of the bar comes first"


@dataclass(frozen=True, slots=True)
class Material:
    """Stiffness, expansion, strength and heat limits; `unsure` names the values recalled without certainty."""

    name: str
    title: str
    e_mpa: float
    poisson: float
    alpha_per_k: float
    alpha_dry_ice_per_k: float
    alpha_nitrogen_per_k: float
    density_kg_m3: float
    heat_j_kg_k: float
    yield_mpa: float
    brittle: bool
    limit_c: float
    unsure: tuple[str, ...]

    @property
    def short(self) -> str:
        """The name without its grade, for a picture."""
        return self.title.split(" (")[0].split(",")[0].lower()


class MaterialRow(Row):
    """A material as its table has it: E in GPa, alpha in µm/(m·K)."""

    name: str
    title: str
    e_gpa: float
    poisson: float
    alpha_um_m_k: float
    alpha_dry_ice: float
    alpha_nitrogen: float
    density_kg_m3: float
    heat_j_kg_k: float
    yield_mpa: float
    brittle: bool
    limit_c: float


@loaded
def materials() -> dict[str, Material]:
    """Every material by name. Source: handbook values, recalled; see materials.csv.

    >>> "carbon_steel" in materials()
    True
    """
    return {row.name: _material(row) for row in rows_of("materials", "materials.csv", MaterialRow)}


def _material(row: MaterialRow) -> Material:
    return Material(
        name=row.name,
        title=row.title,
        e_mpa=row.e_gpa * 1000,
        poisson=row.poisson,
        alpha_per_k=row.alpha_um_m_k * 1e-6,
        alpha_dry_ice_per_k=row.alpha_dry_ice * 1e-6,
        alpha_nitrogen_per_k=row.alpha_nitrogen * 1e-6,
        density_kg_m3=row.density_kg_m3,
        heat_j_kg_k=row.heat_j_kg_k,
        yield_mpa=row.yield_mpa,
        brittle=row.brittle,
        limit_c=row.limit_c,
        unsure=row.unsure,
    )


OWN_EXAMPLE = "own E=205 nu=0.29 alpha=11.7 yield=310"
_OWN: dict[str, tuple[float, float, str]] = {
    "e": (0.1, 1200, "E in GPa"), "nu": (0, 0.499, "Poisson's ratio"), "alpha": (-5, 300, "alpha in µm/(m·K)"),
    "yield": (1, 5000, "yield in MPa"), "density": (10, 25_000, "density in kg/m³"), "limit": (20, 2000, "limit in °C"),
}  # fmt: skip
"""The words of a material of one's own, with the range and the unit of each. Source: this tool's own choice."""
_OWN_DEFAULTS = {"density": 7850.0, "limit": 150.0}


@lru_cache(maxsize=256)
def own_material(text: str, *, field: str = "material") -> Material:
    """A material by its own figures: E in GPa, nu, alpha in µm/(m·K) and yield in MPa; density in kg/m³ and limit in °C
    if known.

    What cools it far or heats it is worked with alpha as given, which the result's `unsure` says. Raises InputError,
    OutOfRange.

    Source: the values given.

    >>> own_material("own E=205 nu=0.29 alpha=11.7 yield=310").e_mpa
    205000.0
    """
    pairs = dict(re.findall(r"([A-Za-z]+)\s*=\s*([-+]?[0-9.]+)", text[3:]))
    given = {key.lower(): value for key, value in pairs.items()}
    missing = [words for key, (_, _, words) in _OWN.items() if key not in given and key not in _OWN_DEFAULTS]
    strange = [key for key in given if key not in _OWN]
    if missing or strange or re.sub(r"([A-Za-z]+)\s*=\s*([-+]?[0-9.]+)|[\s,;]", "", text[3:]):
        raise InputError(
            f"“{text[:60]}” does not say all of a material.",
            f"Write it like {OWN_EXAMPLE}.",
            field=field,
            value=text[:60],
        )
    found = dict(_OWN_DEFAULTS)
    for key, value in given.items():
        low, high, words = _OWN[key]
        with refused_as(
            f"“{value[:20]}” is not a number.", f"Write it like {OWN_EXAMPLE}.", field=field, value=text[:60]
        ):
            found[key] = float(number_from(value))
        if not low <= found[key] <= high:
            raise OutOfRange(
                f"{words}: {value} is outside {low:g} to {high:g}.",
                "Check it and its unit.",
                field=field,
                value=text[:60],
            )
    alpha = found["alpha"] * 1e-6
    return Material(
        name=text,
        title=f"own material (E {given['e']} GPa)",
        e_mpa=found["e"] * 1000,
        poisson=found["nu"],
        alpha_per_k=alpha,
        alpha_dry_ice_per_k=alpha,
        alpha_nitrogen_per_k=alpha,
        density_kg_m3=found["density"],
        heat_j_kg_k=460.0,
        yield_mpa=found["yield"],
        brittle=False,
        limit_c=found["limit"],
        unsure=("alpha_dry_ice", "alpha_nitrogen", "heat_j_kg_k", *(key for key in _OWN_DEFAULTS if key not in given)),
    )


def material_named(name: str, *, field: str = "material") -> Material:
    """The material of that name, or one of your own (`own_material`). Raises NotDefined with the list, InputError.

    Source: materials.csv, where each value's source stands.

    >>> material_named("bearing_bronze").e_mpa
    100000.0
    """
    if name.split(" ", 1)[0].lower() == "own":
        return own_material(name, field=field)
    try:
        return materials()[name]
    except KeyError:
        raise NotDefined(
            f"“{name[:40]}” is not in the table of materials.",
            f"Choose one of {', '.join(materials())}; or give your own: {OWN_EXAMPLE}.",
            field=field,
            value=name,
        ) from None
