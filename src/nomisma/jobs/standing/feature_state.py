"""How a feature of a job stands: what is required of it, what was read or tried of it, its verdict, what was
decided.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from functools import cached_property
from typing import TypeVar
from uuid import UUID

from nomisma.core.cutting.amount import dial_lines
from nomisma.core.measuring.disposition import DISPOSITIONS, OUT_DISPOSITIONS
from nomisma.core.measuring.feature import FeatureVerdict, ReadingGroup, feature_verdict
from nomisma.core.measuring.trial import trial_state
from nomisma.core.measuring.verdict import VerdictResult
from nomisma.core.part.along import AxialPlace, from_face, place_said
from nomisma.core.part.duty import NO_DUTY, FeatureDuty
from nomisma.core.part.feature import ACCEPTANCE_WORDS, SEVERITY, Acceptance, Feature, State, toward_metal
from nomisma.core.part.feature_kinds import CoachedBy, KindName, feature_kind
from nomisma.core.part.member import MemberKind, spoken_of_as
from nomisma.core.part.trial_wanted import trial_outcomes
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Unit
from nomisma.jobs.standing.limits_in_force import Between, feature_within, judged_against
from nomisma.store.jobs import FeatureInForce, JobInForce, JointInForce
from nomisma.store.models import Job, Limits, Trial
from nomisma.store.readings import NO_READINGS, Extremes

T = TypeVar("T")


@dataclass(frozen=True)
class FeatureState:
    """A job seen at one feature, the one in hand; `readings` and the `trials` that count by feature."""

    in_force: JobInForce
    in_hand: FeatureInForce
    readings: Mapping[UUID, Extremes]
    trials: Mapping[UUID, tuple[Trial, ...]] = field(default_factory=dict)

    def once(self, name: str, work: Callable[[], T]) -> T:
        """What is worked out of how the job stands, by its name: once, and kept with it as long as it holds."""
        key = f"once: {name}"
        if key not in self.__dict__:
            self.__dict__[key] = work()
        found: T = self.__dict__[key]
        return found

    @property
    def asked_by(self) -> tuple[UUID, UUID]:
        """By what an answer about the job at this feature is found again."""
        return self.job.id, self.feature_id

    @property
    def job(self) -> Job:
        """The job itself."""
        return self.in_force.job

    @cached_property
    def letter(self) -> str:
        """The letter of the feature in hand."""
        return self.in_hand.row.letter

    @cached_property
    def feature_id(self) -> UUID:
        """The feature in hand."""
        return self.in_hand.row.id

    @cached_property
    def called(self) -> str:
        """What the feature in hand is called: a name of its own, its place in a bush, else its kind."""
        bush = self.in_force.bush
        in_bush = bush.titles.get(self.feature_id, "") if bush else ""
        return self.in_hand.row.title or in_bush or self.feature.title

    @cached_property
    def letter_said(self) -> str:
        """The letter of the feature in hand as an address says it; empty where it is the only one that is made."""
        return "" if self.in_force.made_ids == (self.feature_id,) else self.letter

    @property
    def unit(self) -> Unit:
        """The unit the job is worked in."""
        return self.job.unit

    @cached_property
    def kind(self) -> KindName:
        """The kind of the feature in hand; in a joint an outside diameter is its shaft."""
        kind = self.in_hand.row.kind
        return "shaft" if kind == "outside_diameter" and self.joint else kind

    @property
    def made_kind(self) -> MemberKind:
        """Which member of a fit the feature in hand is: its hole or its shaft."""
        return spoken_of_as(self.in_hand.row.kind)

    @cached_property
    def joint(self) -> JointInForce | None:
        """The joint the feature in hand belongs to; None where it goes with no other."""
        return self.in_force.joint_of.get(self.feature_id)

    @property
    def requirement(self) -> Limits | None:
        """The newest version of what is required of it, limits or not."""
        return self.in_hand.limits

    @property
    def duty(self) -> FeatureDuty:
        """What it is there for, where somebody said."""
        found = self.in_hand.limits
        return FeatureDuty(found.duty, found.true_to) if found is not None and found.duty else NO_DUTY

    @property
    def along(self) -> AxialPlace:
        """Where it lies along the axis, where somebody said."""
        found = self.in_hand.limits
        return (
            place_said(found.along) if found is not None and found.along else from_face(self.in_hand.row.position_from)
        )

    @property
    def limits(self) -> Limits | None:
        """The limits in force; None where none were set, or it is for reference only."""
        found = self.in_hand.limits
        return found if found is not None and (found.lower_mm is not None or found.upper_mm is not None) else None

    @cached_property
    def both_limits(self) -> Between | None:
        """The limits in force where there are two of them, with their aim."""
        found = self.in_hand.limits
        if found is None or found.lower_mm is None or found.upper_mm is None:
            return None
        aim = found.aim_mm if found.aim_mm is not None else (found.lower_mm + found.upper_mm) / 2
        return Between(found.lower_mm, found.upper_mm, aim)

    @property
    def own_readings(self) -> Extremes:
        """The standing readings of the feature in hand."""
        return self.readings.get(self.feature_id, NO_READINGS)

    @property
    def own_trials(self) -> tuple[Trial, ...]:
        """The trials of the feature in hand that count."""
        return self.trials.get(self.feature_id, ())

    @cached_property
    def feature(self) -> Feature:
        """What is made, with the limits in force."""
        return feature_within(self.kind, self.limits)

    @cached_property
    def verdict(self) -> FeatureVerdict | None:
        """The made feature against what is required of it; None without either. The worst piece speaks for those that
        are tried.
        """
        found = [self.verdict_of(self.own_readings), *self._tried().values()]
        return max((one for one in found if one), key=lambda one: SEVERITY.index(one.state), default=None)

    def verdict_of(self, found: Extremes) -> FeatureVerdict | None:
        """What some of its readings (of one piece, say) make of it; None without limits or readings."""
        return feature_verdict(self.feature, found.groups, self.acceptance, found.earlier)

    @cached_property
    def verdict_of_piece(self) -> dict[str, FeatureVerdict]:
        """The verdict of each piece of the feature in hand that was measured, by serial."""
        groups: dict[str, tuple[list[ReadingGroup], list[ReadingGroup]]] = {}
        for which, every in enumerate((self.own_readings.groups, self.own_readings.earlier)):
            for group in every:
                groups.setdefault(group.piece, ([], []))[which].append(group)
        found = {
            piece: feature_verdict(self.feature, now, self.acceptance, earlier)
            for piece, (now, earlier) in groups.items()
        }
        return _worst_of({piece: verdict for piece, verdict in found.items() if verdict}, self._tried())

    def contradicted(self, piece: str | None = None) -> str:
        """That a reading from before the last cut had no metal left, and what was read since has; of a piece, or of
        any. Empty where not.
        """
        found = self.verdict if piece is None else self.verdict_of_piece.get(piece)
        if found is None or not found.before_last_cut or found.deciding_mm is None:
            return ""
        since = self.own_readings if piece is None else self.own_readings.of_piece(piece)
        read = show_exact(found.deciding_mm, self.unit)
        now = (
            f" What was read since, {show_exact(since.smallest_mm, self.unit)}, has more metal," if since.count else ""
        )
        return (
            f"{read} was read before the last cut: gone too far.{now}{' and' if now else ' But'} metal does not grow. "
            "Withdraw the reading that was wrong, with its reason, or decide about the piece."
        )

    def _tried(self) -> dict[str, FeatureVerdict]:
        """The verdict of each piece that was tried or compared: its worst place speaks."""
        found: dict[str, FeatureVerdict] = {}
        for row in self.own_trials:
            found = _worst_of(found, {row.piece: FeatureVerdict(self.state_of_trial(row), None, Decimal(0))})
        return found

    def state_of_trial(self, row: Trial) -> State:
        """How one trial of the feature in hand stands against what is wanted now."""
        return trial_state(
            feature_kind(self.in_hand.row.kind), self.requirement.text if self.requirement else "", row.outcome
        )

    @property
    def tried(self) -> list[str]:
        """How its trials that count went, in words."""
        return list(dict.fromkeys(word for piece in self.pieces_read for word in self.tried_of(piece)))

    def tried_of(self, piece: str) -> list[str]:
        """How the trials of one piece that count went, in words."""
        outcomes = trial_outcomes(feature_kind(self.in_hand.row.kind).trials_as or "")
        return list(dict.fromkeys(outcomes[row.outcome].title for row in self.own_trials if row.piece == piece))

    @property
    def is_compared(self) -> bool:
        """Whether it is tried or compared by hand and eye: no size is read of it."""
        return feature_kind(self.in_hand.row.kind).is_compared

    @property
    def may_be_tried(self) -> bool:
        """Whether a mate, a gauge or a piece beside it may say how it stands, alone or beside sizes that are read."""
        return feature_kind(self.in_hand.row.kind).trials_as is not None

    @property
    def may_be_left(self) -> bool:
        """Whether nothing need be logged of it: a finish or a knurl is looked at, with or without a word on record."""
        return feature_kind(self.in_hand.row.kind).may_be_left

    @property
    def times_read(self) -> int:
        """How many readings of it stand, or trials count."""
        return len(self.own_trials) + self.own_readings.count

    @property
    def pieces_read(self) -> list[str]:
        """The pieces of which anything was read or tried, in that order."""
        return list(dict.fromkeys([*self.own_readings.pieces, *(row.piece for row in self.own_trials)]))

    @property
    def newest_at(self) -> datetime | None:
        """When it was last read or tried."""
        read = self.own_readings.newest_at
        return max([*([read] if read else []), *(row.at for row in self.own_trials)], default=None)

    @property
    def acceptance(self) -> Acceptance:
        """The job's decision rule, else the shop's, else guarded."""
        wanted = self.in_hand.acceptance
        return wanted if wanted in ACCEPTANCE_WORDS else "guarded"

    @property
    def a_piece_is_out(self) -> bool:
        """Whether a piece is gone too far, or was decided about as one that is: what judges it is then the lead's to
        change.
        """
        found, disposition = self.verdict, self.in_hand.disposition
        gone = found is not None and found.state is State.GONE_TOO_FAR
        return gone or (disposition is not None and disposition.kind in OUT_DISPOSITIONS)

    @property
    def decided(self) -> str:
        """What was decided about it last, where nothing was measured since."""
        found, newest = self.in_hand.disposition, self.newest_at
        if found and newest and found.at < newest:
            return ""
        rule = DISPOSITIONS.get(found.kind) if found else None
        return f"{rule.title.lower()} ({found.by.name})" if found and rule and rule.kind != "approve_first_off" else ""

    @property
    def handed_over(self) -> bool:
        """Whether the job is closed."""
        return self.in_force.handed_over

    @property
    def is_batch(self) -> bool:
        """Whether several pieces are to be made."""
        return self.in_force.pieces_wanted > 1

    @property
    def is_in_work(self) -> bool:
        """Whether metal is still to come off the feature in hand: what is measured of it now will not stay."""
        return self.verdict is not None and self.verdict.state is State.METAL_TO_GO

    @cached_property
    def coached_by(self) -> CoachedBy:
        """The slide on which the coach brings it to size: of what is made here, with a side that is safe and two
        limits, or none yet.
        """
        kind = feature_kind(self.in_hand.row.kind)
        has_room = self.both_limits is not None or self.requirement is None
        return kind.coached_by if has_room and self.in_hand.made_here and toward_metal(kind.material_side) else "none"

    @property
    def is_coached(self) -> bool:
        """Whether the coach cuts it to size."""
        return self.coached_by != "none"

    def judged(
        self,
        size_mm: Decimal,
        uncertainty_mm: Decimal,
        unit: Unit | None = None,
        *,
        half_bracket_mm: Decimal | None = None,
    ) -> VerdictResult | None:
        """One size against the limits in force, with sentence and working."""
        return judged_against(
            self.limits,
            self.kind,
            size_mm,
            uncertainty_mm,
            unit or self.unit,
            acceptance=self.acceptance,
            half_bracket_mm=half_bracket_mm,
        )

    def lines(self, amount_mm: Decimal) -> Decimal | None:
        """An amount on diameter in lines of the job's machine, if it has one."""
        machine = self.job.machine
        if machine is None:
            return None
        return dial_lines(amount_mm, machine.dial_line_mm, machine.dial_reads)


def _worst_of(some: dict[str, FeatureVerdict], others: dict[str, FeatureVerdict]) -> dict[str, FeatureVerdict]:
    """The worse verdict of each piece."""
    return some | {
        piece: max(some.get(piece, verdict), verdict, key=lambda one: SEVERITY.index(one.state))
        for piece, verdict in others.items()
    }
