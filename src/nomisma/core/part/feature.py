"""A feature and its limits: on which side of them metal is left, what a cut took off, and how a reading stands."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from enum import StrEnum
from typing import Literal, NamedTuple, assert_never

from nomisma.core.errors import NotDefined
from nomisma.core.part.feature_kinds import FeatureKind, KindName, MaterialSide, feature_kind

Acceptance = Literal["guarded", "simple", "limit_gauge"]
ACCEPTANCE_WORDS: dict[Acceptance, str] = {
    "guarded": "guarded: in limits only by more than the reading's uncertainty (ISO 14253-1)",
    "simple": (
        "simple: in limits if the reading is (JCGM 106, 8.2); the chance of being wrong is shared with the next shop"
    ),
    "limit_gauge": (
        "limit gauges: in limits where the go pin enters and the no-go pin does not, at each place (ISO 1938-1:2015)"
    ),
}


class State(StrEnum):
    """The four states a reading can be in."""

    METAL_TO_GO = "metal_to_go"
    IN_LIMITS = "in_limits"
    TOO_CLOSE_TO_CALL = "too_close_to_call"
    GONE_TOO_FAR = "gone_too_far"

    @property
    def words(self) -> str:
        """As it is said at the bench."""
        return self.value.replace("_", " ")


SEVERITY = (State.IN_LIMITS, State.METAL_TO_GO, State.TOO_CLOSE_TO_CALL, State.GONE_TOO_FAR)
"""From what asks for nothing to what asks for a decision; the worst reading speaks for the feature."""


def toward_metal(side: MaterialSide) -> Literal[1, 0, -1]:
    """1 where a size above its limits leaves metal to take, −1 where one below them does, 0 where neither does.

    Without unit. Source: common practice, no source: outsides get smaller as they are cut, bores and depths larger.

    >>> toward_metal("external"), toward_metal("internal"), toward_metal("two_sided")
    (1, -1, 0)
    """
    match side:
        case "external":
            return 1
        case "internal":
            return -1
        case "two_sided" | "upper_only":
            return 0
        case _:
            assert_never(side)


def cut_direction(kind: KindName) -> Literal[1, -1]:
    """How a cut moves the size of a kind: 1 where it gets smaller, −1 where it gets larger. Raises NotDefined.

    Without unit. Source: as `toward_metal`.

    >>> cut_direction("shaft"), cut_direction("depth")
    (1, -1)
    """
    direction = toward_metal(feature_kind(kind).material_side)
    if direction == 0:
        raise NotDefined(
            f"{feature_kind(kind).a_title.capitalize()} is not cut to its size from one side.",
            "Measure it; what is out of its limits has to be decided about.",
            field="kind",
            value=kind,
        )
    return direction


@dataclass(frozen=True, slots=True)
class Feature:
    """A feature of a part: its kind, limits in mm (none: there is no such limit) and aim in mm (none: the middle)."""

    kind: KindName
    lower_mm: Decimal | None = None
    upper_mm: Decimal | None = None
    aim_mm: Decimal | None = None

    @property
    def of_kind(self) -> FeatureKind:
        """Its row in the table of kinds."""
        return feature_kind(self.kind)

    @property
    def side(self) -> MaterialSide:
        """On which side of its limits there is metal."""
        return self.of_kind.material_side

    @property
    def title(self) -> str:
        """The trade's word for it."""
        return self.of_kind.title

    @property
    def on_what(self) -> str:
        """What an amount is meant on: “ on diameter”, or nothing where there is no doubt."""
        return " on diameter" if self.of_kind.is_diameter else ""

    @property
    def has_safe_side(self) -> bool:
        """Whether there is a side of its limits on which more can still be taken."""
        return toward_metal(self.side) != 0

    @property
    def is_judged(self) -> bool:
        """Whether it has any limit; without one it is for reference."""
        return self.lower_mm is not None or self.upper_mm is not None

    @property
    def has_one_limit(self) -> bool:
        """Whether there is one limit and not the other."""
        return (self.lower_mm is None) != (self.upper_mm is None)

    @property
    def target_mm(self) -> Decimal | None:
        """Where to cut to (mm): the aim, else the middle; of one limit alone that limit."""
        if self.aim_mm is not None:
            return self.aim_mm
        if self.lower_mm is not None and self.upper_mm is not None:
            return (self.lower_mm + self.upper_mm) / 2
        return self.lower_mm if self.upper_mm is None else self.upper_mm

    @property
    def metal_gone_limit_mm(self) -> Decimal | None:
        """The limit (mm) beyond which metal is gone; None where no side is safe or it has no such limit."""
        match self.side:
            case "external":
                return self.lower_mm
            case "internal":
                return self.upper_mm
            case "two_sided" | "upper_only":
                return None
            case _:
                assert_never(self.side)

    @property
    def metal_may_stay_mm(self) -> Decimal:
        """Metal beyond the target (mm) that the limits let stay; 0 where there is no target or no such limit. Source:
        arithmetic.
        """
        target = self.target_mm
        ends = [end for end in (self.lower_mm, self.upper_mm) if end is not None]
        return (
            max((self.metal_to_take(end, target) for end in ends), default=Decimal(0))
            if target is not None
            else Decimal(0)
        )

    def metal_removed(self, before_mm: Decimal, after_mm: Decimal) -> Decimal:
        """What came off between two readings, mm; below zero where it grew. Raises NotDefined where no cut makes its
        size.

        >>> Feature("depth").metal_removed(Decimal("3.0"), Decimal("3.2"))
        Decimal('0.2')
        """
        return cut_direction(self.kind) * (before_mm - after_mm)

    def metal_to_take(self, reading_mm: Decimal, target_mm: Decimal) -> Decimal:
        """Metal between a reading and a target, mm; below zero past it. Where no side is safe: how far the reading is
        above it.
        """
        return (toward_metal(self.side) or 1) * (reading_mm - target_mm)

    def beyond_mm(self, reading_mm: Decimal) -> Decimal:
        """How far (mm) a reading lies outside the limit it is out of; 0 inside."""
        over = reading_mm - self.upper_mm if self.upper_mm is not None else Decimal(0)
        under = self.lower_mm - reading_mm if self.lower_mm is not None else Decimal(0)
        return max(over, under, Decimal(0))

    def judge(
        self,
        reading_mm: Decimal,
        uncertainty_mm: Decimal,
        acceptance: Acceptance = "guarded",
        *,
        half_bracket_mm: Decimal | None = None,
    ) -> State:
        """The state of one reading (mm) that is worth so much (mm, k = 2). Raises NotDefined without limits.

        A reading exactly its uncertainty from a limit is still too close to call. On the metal side of the limits metal
        is left; past the other it is gone; where no side is safe, what is out is gone too far. Simple acceptance leaves
        nothing too close to call: a reading on a limit is in. Where two pins bound it (`half_bracket_mm`), they are
        limit gauges, whatever the rule: a bracket that ends on a limit has kept it. Source: ISO 14253-1:2017, 5 (guard
        by the uncertainty); JCGM 106:2012, 8.2 (simple); ISO 1938-1:2015 (limit gauges; edition recalled).

        >>> Feature("shaft", Decimal("24.98"), Decimal("24.993")).judge(Decimal("25.010"), Decimal("0.002")).words
        'metal to go'
        """
        limits = [limit for limit in (self.lower_mm, self.upper_mm) if limit is not None]
        if not limits:
            raise NotDefined("It has no limits, so nothing is judged.", "Give it limits, or take it as for reference.")
        if _too_close(
            min(abs(reading_mm - limit) for limit in limits), *kept_away(uncertainty_mm, acceptance, half_bracket_mm)
        ):
            return State.TOO_CLOSE_TO_CALL
        if self.beyond_mm(reading_mm) == 0:
            return State.IN_LIMITS
        over = 1 if self.upper_mm is not None and reading_mm > self.upper_mm else -1
        return State.METAL_TO_GO if over == toward_metal(self.side) else State.GONE_TOO_FAR


def kept_away(
    uncertainty_mm: Decimal, acceptance: Acceptance, half_bracket_mm: Decimal | None = None
) -> tuple[Decimal, Acceptance]:
    """How far (mm) a reading stays from a limit, and by which rule: of pins half their bracket, by limit gauges.

    What the pins are off is a doubt said beside the verdict. Source: ISO 1938-1:2015 (limit gauges; edition recalled).

    >>> kept_away(Decimal("0.013"), "guarded", Decimal("0.010"))
    (Decimal('0.010'), 'limit_gauge')
    """
    return (uncertainty_mm, acceptance) if half_bracket_mm is None else (half_bracket_mm, "limit_gauge")


class Measured(NamedTuple):
    """A size (mm), what it is worth (mm, k = 2), and half the bracket (mm) where two pins bound it."""

    size_mm: Decimal
    uncertainty_mm: Decimal
    half_bracket_mm: Decimal | None = None


Judged = tuple[State, Decimal, Decimal]
"""The state of a reading, the reading (mm) and what it is worth (mm, k = 2)."""


def worst_reading(feature: Feature, readings: Iterable[Measured], acceptance: Acceptance = "guarded") -> Judged | None:
    """The reading that speaks for a feature; None without any. Source: common practice (the worst place speaks).

    Order of say: gone too far; too close to the limit beyond which metal is gone; metal to go; too close to the other
    limit; in limits. A doubtful place that still has metal beside it waits for the next cut.

    >>> step = Feature("shaft", Decimal("24.98"), Decimal("24.993"))
    >>> worst_reading(step, [Measured(Decimal(size), Decimal("0.002")) for size in ("24.985", "25.01")])[0].words
    'metal to go'
    """
    found: list[tuple[int, Judged]] = []
    gone_limit_mm = feature.metal_gone_limit_mm
    for size_mm, uncertainty_mm, half_bracket_mm in readings:
        state = feature.judge(size_mm, uncertainty_mm, acceptance, half_bracket_mm=half_bracket_mm)
        away_mm, _ = kept_away(uncertainty_mm, acceptance, half_bracket_mm)
        no_metal = gone_limit_mm is None or abs(size_mm - gone_limit_mm) <= away_mm
        ranks = {
            State.GONE_TOO_FAR: 4,
            State.TOO_CLOSE_TO_CALL: 3 if no_metal else 1,
            State.METAL_TO_GO: 2,
            State.IN_LIMITS: 0,
        }
        found.append((ranks[state], (state, size_mm, uncertainty_mm)))
    return max(found, key=lambda item: item[0])[1] if found else None


def _too_close(nearest_mm: Decimal, uncertainty_mm: Decimal, acceptance: Acceptance) -> bool:
    match acceptance:
        case "guarded":
            return nearest_mm <= uncertainty_mm
        case "limit_gauge":
            return nearest_mm < uncertainty_mm
        case "simple":
            return False
        case _:
            assert_never(acceptance)
