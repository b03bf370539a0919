"""What is indicated, at which places, and how true it is worth making for what it is for."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated, Literal

from pydantic import BeforeValidator, Field

from nomisma.core.errors import InputError
from nomisma.core.quantity.length import Length
from nomisma.core.table import WORDS, Row, loaded, rows_of

Grip = Literal["outside", "inside"]
"""Where the jaws hold: round the work, pushing it inwards, or inside a ring or a drum, pushing outwards."""
Sense = Literal[1, -1]
TruedSurface = Literal["outside", "bore", "rim", "rim_inside", "square", "hex", "pins", "pins_inside"]


class SurfaceKind(Row):
    """A surface: `sense` is 1 where work that stands off towards a jaw reads high there, −1 in a hole."""

    name: TruedSurface
    title: str
    sense: Annotated[Sense, BeforeValidator(int)]
    counts: Annotated[tuple[int, ...], WORDS]
    how: str


class Use(Row):
    """What a surface is for, and the swing (total indicator reading) that is good enough for it."""

    name: str
    title: str
    total_indicator_reading_in: Decimal = Field(alias="total_indicator_reading")
    words: str

    @property
    def total_indicator_reading(self) -> Length:
        """The swing that is good enough."""
        return Length.of(self.total_indicator_reading_in, "in")


@dataclass(frozen=True, slots=True)
class Place:
    """A place round the turn, jaw 1 at 0° and jaw 2 at 90°; `name` is what is shown from across the bench."""

    name: str
    at_deg: float


@loaded
def surfaces() -> dict[str, SurfaceKind]:
    """Every surface by name. Source: surfaces.csv, where its source stands.

    >>> "outside" in surfaces()
    True
    """
    return {row.name: row for row in rows_of("truing", "surfaces.csv", SurfaceKind)}


@loaded
def uses() -> dict[str, Use]:
    """Every use by name. Source: uses.csv, where each value's source stands.

    >>> str(uses()["second_operation"].total_indicator_reading)
    '0.0005 in'
    """
    return {row.name: row for row in rows_of("truing", "uses.csv", Use)}


def sense_of(surface: str) -> int:
    """1 where work off towards a jaw reads high there, −1 in a hole. Source: geometry.

    >>> sense_of("outside"), sense_of("rim_inside")
    (1, -1)
    """
    return surfaces()[surface].sense


def places_of(surface: str, count: int, *, teeth: int = 0) -> tuple[Place, ...]:
    """The places of a round, from jaw 1 on. Pins stand in the tooth space nearest to each place. Raises InputError.

    Source: surfaces.csv (common practice, no source).

    >>> [place.name for place in places_of("outside", 8)][:3], places_of("pins", 4, teeth=30)[1].at_deg
    (['jaw 1', '1–2', 'jaw 2'], 96.0)
    """
    kind = surfaces()[surface]
    if count not in kind.counts:
        allowed = ", ".join(str(n) for n in kind.counts)
        raise InputError(
            f"{count} places do not go round {kind.title}.", f"Choose {allowed}.", field="places", value=count
        )
    even = [360 * index / count for index in range(count)]
    if not surface.startswith("pins"):
        return tuple(Place(place_name(at), at) for at in even)
    if teeth < 6:
        raise InputError("The number of teeth says where the pins stand.", "Give it: 6 or more.", field="teeth")
    return tuple(Place(place_name(at), round(at / 360 * teeth) * 360 / teeth) for at in even)


def place_name(at_deg: float) -> str:
    """A place as it is called: a jaw, the middle between two, or its angle from jaw 1.

    Source: arithmetic of the readings.

    >>> place_name(270.0), place_name(315.0), place_name(30.0)
    ('jaw 4', '4–1', '30°')
    """
    quarter, rest = divmod(at_deg % 360, 90)
    if rest == 0:
        return f"jaw {int(quarter) + 1}"
    if rest == 45:
        return f"{int(quarter) + 1}–{(int(quarter) + 1) % 4 + 1}"
    return f"{at_deg:.0f}°"
