"""A feature from all its readings: the worst place speaks, and what the job needs next."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Literal

from nomisma.core.measuring.uncertainty import UncertaintyInput, measuring_uncertainty
from nomisma.core.part.feature import Acceptance, Feature, Measured, State, worst_reading
from nomisma.core.part.feature_kinds import KindName, feature_kind
from nomisma.core.quantity.length import Length

PlanName = Literal["full", "ends", "one"]
PLANS: dict[PlanName, tuple[str, tuple[int, ...]]] = {
    "full": ("both ends and the middle, two directions", (0, 1, 2, 3, 4, 5)),
    "ends": ("both ends, one direction", (0, 4)),
    "one": ("one place", (0,)),
}
"""Measuring plans: words, and which of the six places of a diameter each asks for; of a feature with fewer places, one
or all.

Source: common practice, no source.
"""


def planned_places(kind: KindName, plan: str) -> tuple[str, ...]:
    """The places a plan asks for, in order; an unknown plan is the full one. Source: common practice, no source.

    >>> planned_places("bore", "ends"), planned_places("length", "full")
    (('mouth 0°', 'deep 0°'), ('0°', '120°', '240°'))
    """
    places = feature_kind(kind).places
    name: PlanName = "one" if plan == "one" else "ends" if plan == "ends" else "full"
    _, wanted = PLANS[name]
    if len(places) == len(PLANS["full"][1]):
        return tuple(places[index] for index in wanted)
    return places[:1] if name == "one" else places


@dataclass(frozen=True, slots=True)
class ReadingGroup:
    """Readings of one place with one instrument: how many, their extremes (mm), and what they are worth (mm, k = 2).

    Repeats that agree are pooled: both extremes are then their mean. `instrument` tells instruments apart;
    `half_bracket_mm`: two pins bound it.
    """

    count: int
    smallest_mm: Decimal
    largest_mm: Decimal
    uncertainty_mm: Decimal
    place: str = ""
    piece: str = ""
    instrument: str = ""
    half_bracket_mm: Decimal | None = None

    @property
    def ends(self) -> tuple[Measured, Measured]:
        """Its smallest and its largest size, with what they are worth."""
        small, large = (
            Measured(end, self.uncertainty_mm, self.half_bracket_mm) for end in (self.smallest_mm, self.largest_mm)
        )
        return small, large


def pooled(
    count: int,
    mean_mm: Decimal,
    smallest_mm: Decimal,
    largest_mm: Decimal,
    uncertainty_mm: Decimal,
    repeatability_mm: Decimal,
) -> tuple[Decimal, Decimal, Decimal]:
    """Repeats of one place as one size: smallest, largest, worth (mm, k = 2), all of them on the mean where they agree.

    Repeats farther apart than the doubt of two readings are not the same size: then the worst speaks. What n readings
    share stays; their repeatability goes down with √n. Source: JCGM 100:2008, 4.2.3.

    >>> pooled(4, Decimal(25), Decimal("24.999"), Decimal("25.001"), Decimal("0.004"),
    ...     Decimal("0.001"))[2] < Decimal("0.004")
    True
    """
    if count < 2 or largest_mm - smallest_mm > 2 * uncertainty_mm:
        return smallest_mm, largest_mm, uncertainty_mm
    gain = (2 * repeatability_mm) ** 2 * (1 - Decimal(1) / count)
    return mean_mm, mean_mm, max(uncertainty_mm**2 - gain, Decimal(0)).sqrt()


@dataclass(frozen=True, slots=True)
class FeatureVerdict:
    """The state of the feature, the reading that decides it (mm; none by trial), and that reading's worth (mm, k = 2).

    `before_last_cut`: it was read before the last cut, and what was read since contradicts it.
    """

    state: State
    deciding_mm: Decimal | None
    uncertainty_mm: Decimal
    before_last_cut: bool = False


@lru_cache(maxsize=1024)
def expanded_uncertainty_mm(resolution_mm: Decimal, permitted_error_mm: Decimal, repeatability_mm: Decimal) -> Decimal:
    """Expanded uncertainty (mm, k = 2) of one reading, from an instrument's figures in mm. Source: JCGM 100:2008.

    >>> expanded_uncertainty_mm(Decimal("0.001"), Decimal("0.002"), Decimal("0.0005")).quantize(Decimal("0.0001"))
    Decimal('0.0026')
    """
    given = UncertaintyInput(
        resolution=Length(resolution_mm),
        permitted_error=Length(permitted_error_mm),
        repeatability=Length(repeatability_mm),
    )
    return measuring_uncertainty(given).expanded_uncertainty.mm


def feature_verdict(
    feature: Feature,
    groups: Iterable[ReadingGroup],
    acceptance: Acceptance = "guarded",
    earlier: Iterable[ReadingGroup] = (),
) -> FeatureVerdict | None:
    """The feature's verdict; None without readings, or where it has no limits. Source: common practice (the worst place
    speaks).

    `earlier`: readings from before the last cut. Metal does not grow: what was gone too far then is so still, whatever
    was read since.

    >>> one = ReadingGroup(1, Decimal("25.010"), Decimal("25.010"), Decimal("0.002"))
    >>> feature_verdict(Feature("shaft", Decimal("24.98"), Decimal("24.993")), [one]).state.words
    'metal to go'
    """
    if not feature.is_judged:
        return None
    worst = worst_reading(feature, (end for one in groups for end in one.ends), acceptance)
    now = FeatureVerdict(*worst) if worst else None
    if now is None or now.state is not State.GONE_TOO_FAR:
        return _gone_earlier(feature, earlier, acceptance) or now
    return now


def _gone_earlier(feature: Feature, earlier: Iterable[ReadingGroup], acceptance: Acceptance) -> FeatureVerdict | None:
    """The farthest reading from before the last cut that had no metal left then; None where there is none, or no side
    is safe.
    """
    if feature.metal_gone_limit_mm is None:
        return None
    gone = [
        FeatureVerdict(State.GONE_TOO_FAR, size_mm, uncertainty_mm, before_last_cut=True)
        for group in earlier
        for size_mm, uncertainty_mm, half_bracket_mm in group.ends
        if feature.judge(size_mm, uncertainty_mm, acceptance, half_bracket_mm=half_bracket_mm) is State.GONE_TOO_FAR
    ]
    return max(gone, key=lambda one: feature.beyond_mm(one.deciding_mm or Decimal(0)), default=None)


Stage = Literal["part", "mate", "plan", "hold", "cut", "measure", "assemble", "record"]


def next_step(
    *,
    partner_known: bool,
    limits_set: bool,
    readings: int,
    state: State | None,
    handed_over: bool,
    assembly_planned: bool = False,
    assembled: bool = False,
    decided: str = "",
    pieces_left: int = 0,
    calibration_failed: bool = False,
    judged: bool = True,
) -> tuple[Stage, str]:
    """The stage a feature stands at and what it needs next, in words; `judged`: no where it is for reference only.

    Source: common practice, the order of the work.

    >>> next_step(partner_known=True, limits_set=True, readings=0, state=None, handed_over=False, judged=False)
    ('measure', 'Measure it: it is for reference.')
    """
    if handed_over:
        return "record", "Handed over."
    if not partner_known:
        return "mate", "Measure the mating part."
    if not limits_set:
        return "mate", "Choose the fit."
    if not judged:
        return ("record", "Measured, for reference.") if readings else ("measure", "Measure it: it is for reference.")
    if state is State.IN_LIMITS and calibration_failed and not decided:
        return "measure", "In doubt: an instrument failed its check. Measure again with one you trust."
    if state is State.IN_LIMITS and pieces_left:
        return (
            "measure",
            f"In limits so far: {pieces_left} {'piece is' if pieces_left == 1 else 'pieces are'} still to be measured.",
        )
    if state is State.IN_LIMITS and assembled:
        return "record", "Together: check the record and hand over."
    if state is State.IN_LIMITS and assembly_planned:
        return "assemble", "In limits: put it together as planned."
    if state is None or (not readings and state is not State.GONE_TOO_FAR):
        return "cut", "Cut it, and log the first reading."
    if decided and state in (State.GONE_TOO_FAR, State.TOO_CLOSE_TO_CALL):
        return "record", f"Decided: {decided}."
    steps: dict[State, tuple[Stage, str]] = {
        State.METAL_TO_GO: ("cut", "Metal to go: cut, and measure again."),
        State.TOO_CLOSE_TO_CALL: ("measure", "Too close to call: measure again, finer if you can."),
        State.GONE_TOO_FAR: ("record", "Gone too far: someone has to decide."),
        State.IN_LIMITS: ("record", "In limits: check the record and hand over."),
    }
    return steps[state]
