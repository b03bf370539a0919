"""A feature of a part by its letter, and what cannot be true of several together."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from nomisma.core.part.along import NOT_SAID, AxialPlace
from nomisma.core.part.feature import Feature
from nomisma.core.part.requirement import is_left_as_it_is


@dataclass(frozen=True, slots=True)
class LetteredFeature:
    """A feature of the part by its letter; `through`: a bore that goes through, `nominal_mm` where it has a size and no
    limits;

    `true_to`: the letter of the feature it must be true to; `along`: where it lies along the axis; `written`: the text
    of its size.
    """

    letter: str
    feature: Feature
    through: bool = False
    nominal_mm: Decimal | None = None
    true_to: str = ""
    along: AxialPlace = NOT_SAID
    written: str = ""

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
    def said_long_mm(self) -> Decimal | None:
        """How long its place says it is, mm; None where no end is said."""
        starts, ends = self.along.starts, self.along.ends
        return ends.mm - starts.mm if starts is not None and ends is not None else None

    @property
    def is_left_as_it_is(self) -> bool:
        """Whether nothing is cut of it: it has its size already."""
        return is_left_as_it_is(self.written)

    @property
    def _nominal(self) -> Decimal | None:
        return None if self.feature.is_judged else self.nominal_mm


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Two features that cannot both be as they are said, and why."""

    letters: tuple[str, ...]
    sentence: str


def length_behind(features: Sequence[LetteredFeature], index: int) -> LetteredFeature | None:
    """The length, height or depth right behind the feature at an index, where it says how far that one goes.

    One behind a feature whose place says from where to where is that feature's own only where it can be as long (mm).
    Source: common practice, no source.

    >>> from nomisma.core.part.along import place_said
    >>> step = LetteredFeature("A", Feature("outside_diameter"), along=place_said("from 0 mm to 20 mm"))
    >>> whole, own = (LetteredFeature("B", Feature("length", Decimal(long), Decimal(long))) for long in (40, 20))
    >>> length_behind([step, whole], 0), length_behind([step, own], 0).letter
    (None, 'B')
    """
    one = features[index]
    behind = features[index + 1] if index + 1 < len(features) else None
    if behind is None or behind.feature.kind not in one.feature.of_kind.long_by:
        return None
    long_mm = one.said_long_mm
    if long_mm is None or behind.least_mm is None or behind.most_mm is None:
        return behind
    return behind if behind.least_mm <= long_mm <= behind.most_mm else None


def lengths_behind(
    features: Sequence[LetteredFeature], kind: str
) -> list[tuple[LetteredFeature, LetteredFeature | None]]:
    """Each feature of a kind with what says how far it goes. Source: as `length_behind`; sizes in mm.

    >>> lengths_behind([LetteredFeature("A", Feature("bore")), LetteredFeature("B", Feature("depth"))],
    ...     "bore")[0][1].letter
    'B'
    """
    return [
        (one, length_behind(features, index)) for index, one in enumerate(features) if one.feature.of_kind.name == kind
    ]


def whole_length(features: Sequence[LetteredFeature]) -> LetteredFeature | None:
    """The length of the whole part: the first that is not the length of a step; None where none is said. Source: as
    `length_behind`.

    >>> whole_length([LetteredFeature("A", Feature("outside_diameter")), LetteredFeature("B",
    ...     Feature("length"))]) is None
    True
    """
    overall = next((one for one in features if one.feature.of_kind.is_whole), None)
    if overall is not None:
        return overall
    of_steps = {behind.letter for _, behind in lengths_behind(features, "outside_diameter") if behind}
    return next((one for one in features if one.feature.of_kind.may_be_whole and one.letter not in of_steps), None)
