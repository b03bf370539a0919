"""One material by its name, from the table of materials."""

from csv import DictReader
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from nomisma.core.errors import NotDefined

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


@cache
def materials() -> dict[str, Material]:
    """Every material by name. Source: handbook values, recalled; see materials.csv."""
    lines = files("nomisma.core.materials").joinpath("materials.csv").read_text(encoding="utf-8").splitlines()
    return {row["name"]: _material(row) for row in DictReader(line for line in lines if not line.startswith("#"))}


def _material(row: dict[str, str]) -> Material:
    def value(column: str) -> float:
        return float(row[column].removesuffix("?"))

    return Material(
        name=row["name"],
        title=row["title"],
        e_mpa=value("e_gpa") * 1000,
        poisson=value("poisson"),
        alpha_per_k=value("alpha_um_m_k") * 1e-6,
        alpha_dry_ice_per_k=value("alpha_dry_ice") * 1e-6,
        alpha_nitrogen_per_k=value("alpha_nitrogen") * 1e-6,
        density_kg_m3=value("density_kg_m3"),
        heat_j_kg_k=value("heat_j_kg_k"),
        yield_mpa=value("yield_mpa"),
        brittle=row["brittle"] == "yes",
        limit_c=value("limit_c"),
        unsure=tuple(column for column, text in row.items() if text.endswith("?")),
    )


def material_named(name: str, *, field: str = "material") -> Material:
    """The material of that name. Raises NotDefined with the list.

    >>> material_named("bearing_bronze").e_mpa
    100000.0
    """
    try:
        return materials()[name]
    except KeyError:
        raise NotDefined(
            f"“{name[:40]}” is not in the table of materials.",
            f"Choose one of {', '.join(materials())}.",
            field=field,
            value=name,
        ) from None
