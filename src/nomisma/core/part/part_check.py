"""The part against itself: sizes that cannot all be true of one piece of metal, each with its sentence."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.part.feature import Feature


@dataclass(frozen=True, slots=True)
class LetteredFeature:
    """A feature of the part by its letter; `through`: a bore that goes through, `nominal_mm` where it has a size and no limits;

    `true_to`: the letter of the feature it must be true to.
    """

    letter: str
    feature: Feature
    through: bool = False
    nominal_mm: Decimal | None = None
    true_to: str = ""

    @property
    def name(self) -> str:
        """As it is spoken of."""
        return f"{self.feature.title} {self.letter}"

    @property
    def least_mm(self) -> Decimal | None:
        """The smallest it may be, mm; None where that is not said."""
        return self.feature.lower_mm if self.feature.lower_mm is not None else self._nominal

    @property
    def most_mm(self) -> Decimal | None:
        """The largest it may be, mm; None where that is not said."""
        return self.feature.upper_mm if self.feature.upper_mm is not None else self._nominal

    @property
    def _nominal(self) -> Decimal | None:
        return None if self.feature.is_judged else self.nominal_mm


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Two features that cannot both be as they are said, and why."""

    letters: tuple[str, ...]
    sentence: str


def part_contradictions(features: Iterable[LetteredFeature]) -> list[Contradiction]:
    """What cannot be, whatever the part looks like: only what follows from the sizes alone (mm) is said.

    A bore as large as the largest outside, or a through bore as large as any; a groove's floor outside the part, or under its bore;
    depths, heights, widths and positions beyond the greatest length; an edge larger than the wall it is on; true to what
    is not there. Each pair is held against its kindest limits, so that what is said is certain. Source: geometry of a round part.

    >>> tube = [LetteredFeature("A", Feature("outside_diameter", Decimal(20), Decimal("20.1"))),
    ...         LetteredFeature("B", Feature("bore", Decimal(22), Decimal("22.1")))]
    >>> part_contradictions(tube)[0].sentence
    'The bore B is never smaller than the outside diameter A: there would be no wall.'
    """
    found = list(features)
    outsides = _of(found, "outside_diameter")
    bores = _of(found, "bore")
    lengths = _of(found, "length")
    return [
        *_walls(outsides, bores),
        *_grooves(found, outsides, bores),
        *_along(found, lengths),
        *_edges(found, outsides, bores),
        *_true_to(found),
    ]


def _of(features: Sequence[LetteredFeature], *kinds: str) -> list[LetteredFeature]:
    return [one for one in features if one.feature.of_kind.name in kinds]


def _largest(features: Sequence[LetteredFeature]) -> LetteredFeature | None:
    """The one that may be largest; None where the largest of one of them is not said."""
    if not features or any(one.most_mm is None for one in features):
        return None
    return max(features, key=lambda one: one.most_mm or Decimal(0))


def _walls(outsides: list[LetteredFeature], bores: list[LetteredFeature]) -> list[Contradiction]:
    largest = _largest(outsides)
    found = []
    for bore in bores:
        # A blind bore may sit in the largest step; one that goes through passes every step.
        passes = outsides if bore.through else [largest] if largest else []
        for outside in passes:
            if bore.least_mm is not None and outside.most_mm is not None and bore.least_mm >= outside.most_mm:
                said = f"The {bore.name} is never smaller than the {outside.name}: there would be no wall."
                found.append(Contradiction((bore.letter, outside.letter), said))
                break
    return found


def _grooves(
    features: list[LetteredFeature], outsides: list[LetteredFeature], bores: list[LetteredFeature]
) -> list[Contradiction]:
    largest, found = _largest(outsides), []
    for floor in _of(features, "groove_floor_diameter"):
        if largest and floor.least_mm is not None and largest.most_mm is not None and floor.least_mm >= largest.most_mm:
            said = f"The {floor.name} is never under the {largest.name}: that is no groove."
            found.append(Contradiction((floor.letter, largest.letter), said))
        for bore in bores:
            if bore.through and floor.most_mm is not None and bore.least_mm is not None and floor.most_mm <= bore.least_mm:
                said = (
                    f"The {floor.name} is under the {bore.name}, which goes through: the groove would cut the part in two."
                )
                found.append(Contradiction((floor.letter, bore.letter), said))
    return found


def _along(features: list[LetteredFeature], lengths: list[LetteredFeature]) -> list[Contradiction]:
    longest = _largest(lengths)
    if longest is None or longest.most_mm is None:
        return []
    return [
        Contradiction(
            (one.letter, longest.letter),
            f"The {one.name} is always more than the longest length of the part, {longest.letter}.",
        )
        for one in _of(features, "depth", "height", "position", "groove_width")
        if one.least_mm is not None and one.least_mm > longest.most_mm
    ]


def _edges(
    features: list[LetteredFeature], outsides: list[LetteredFeature], bores: list[LetteredFeature]
) -> list[Contradiction]:
    largest = _largest(outsides)
    if largest is None or largest.most_mm is None:
        return []
    through = [bore.least_mm for bore in bores if bore.through and bore.least_mm is not None]
    wall_mm = (largest.most_mm - max(through, default=Decimal(0))) / 2
    return [
        Contradiction((one.letter,), f"The {one.name} is larger than the thickest wall the part can have.")
        for one in _of(features, "chamfer", "corner_radius")
        if wall_mm > 0 and one.least_mm is not None and one.least_mm > wall_mm
    ]


def _true_to(features: Sequence[LetteredFeature]) -> list[Contradiction]:
    """What must be true to itself, or to a feature the part has not."""
    letters = {one.letter for one in features}
    words = {True: "itself", False: "no feature of the part"}
    return [
        Contradiction(
            (one.letter,), f"The {one.name} must be true to {one.true_to}, which is {words[one.true_to == one.letter]}."
        )
        for one in features
        if one.true_to and (one.true_to == one.letter or one.true_to not in letters)
    ]
