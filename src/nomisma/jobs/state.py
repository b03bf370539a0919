"""How a job stands, seen at one of its features: what is in force, the feature's verdict, and what is needed next."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from decimal import Decimal
from functools import cached_property
from itertools import chain
from typing import cast
from uuid import UUID

from nomisma.core.cutting.amount import DialReads, dial_lines
from nomisma.core.errors import InputError, NomismaError, NotDefined
from nomisma.core.fits.functions import functions
from nomisma.core.fits.member import MemberKind, other_member
from nomisma.core.fits.partner import Partner, PartnerInput, partner_from
from nomisma.core.fits.suit import clearance_with
from nomisma.core.measuring.decision import DECISIONS, OUT_DECISIONS
from nomisma.core.measuring.feature import FeatureVerdict, ReadingGroup, Stage, feature_verdict, next_step
from nomisma.core.measuring.trial import trial_outcomes, trial_state
from nomisma.core.measuring.verdict import VerdictResult
from nomisma.core.part.duty import NO_DUTY, DutyName, FeatureDuty, may_give
from nomisma.core.part.feature import ACCEPTANCE_WORDS, SEVERITY, Acceptance, Feature, State, toward_metal
from nomisma.core.part.feature_kinds import CoachedBy, KindName, feature_kind
from nomisma.core.part.part_check import Contradiction, LetteredFeature, part_contradictions
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length, Unit
from nomisma.jobs.limits_in_force import Between, feature_within, judged_against
from nomisma.store.jobs import FeatureInForce, JobInForce, JointInForce
from nomisma.store.models import Job, Limits, Trial
from nomisma.store.readings import NO_READINGS, Extremes


class HandedOver(NomismaError):
    """The job is closed: nothing more is written to it until it is taken up again."""


class Withdrawn(NomismaError):
    """The feature counts no longer: nothing is logged of it."""


@dataclass(frozen=True)
class JobState:
    """A job seen at the feature in hand, with everything that decides its next step; `readings` and the `trials` that count by feature."""

    in_force: JobInForce
    in_hand: FeatureInForce
    readings: Mapping[UUID, Extremes]
    trials: Mapping[UUID, tuple[Trial, ...]] = field(default_factory=dict)

    def must_be_open(self) -> None:
        """Raises HandedOver where the job is closed, whatever door somebody stands at."""
        if self.handed_over:
            raise HandedOver("This job is handed over. Take it up again on its Record page to go on.")

    def must_count(self) -> None:
        """Raises Withdrawn where the feature in hand counts no longer: nothing is logged of it until it is put back."""
        if self.in_hand.withdrawn:
            raise Withdrawn(f"Feature {self.letter} is withdrawn. Put it back on the Part page to go on with it.")

    @property
    def takes_readings(self) -> bool:
        """Whether anything may be logged of the feature in hand."""
        return not self.handed_over and not self.in_hand.withdrawn

    def must_have_a_joint(self) -> FeatureInForce:
        """The feature this one goes with. Raises NotDefined where it goes with none."""
        if self.partner_feature is None:
            raise NotDefined(
                f"Feature {self.letter} goes with no other: it is held to limits of its own.",
                "Change them on the Part page.",
            )
        return self.partner_feature

    @property
    def job(self) -> Job:
        """The job itself."""
        return self.in_force.job

    @property
    def letter(self) -> str:
        """The letter of the feature in hand."""
        return self.in_hand.row.letter

    @property
    def feature_id(self) -> UUID:
        """The feature in hand."""
        return self.in_hand.row.id

    @property
    def is_default(self) -> bool:
        """Whether the feature in hand is the one that is meant where nobody says which."""
        return self.in_force.default.row.id == self.feature_id

    @cached_property
    def features(self) -> tuple["JobState", ...]:
        """The job seen at each of its features in the order of their letters, withdrawn ones too."""
        return tuple(replace(self, in_hand=feature) for feature in self.in_force.features)

    @cached_property
    def made(self) -> tuple["JobState", ...]:
        """The job seen at each feature that is made here and counts."""
        return tuple(one for one in self.features if one.in_hand.made_here and not one.in_hand.withdrawn)

    @cached_property
    def contradictions(self) -> list[Contradiction]:
        """What cannot be true of the part that is made, as its features are required now."""
        return part_contradictions(self.lettered)

    @property
    def lettered(self) -> list[LetteredFeature]:
        """The features that are made as the checks and the drawing of the part take them."""
        return [
            LetteredFeature(
                one.letter,
                one.feature,
                one.in_hand.row.through,
                one.requirement.nominal_mm if one.requirement else None,
                one.duty.true_to,
            )
            for one in self.made
        ]

    def at(self, feature_id: UUID) -> "JobState":
        """The job seen at another of its features."""
        return next(one for one in self.features if one.feature_id == feature_id)

    @property
    def joint(self) -> JointInForce | None:
        """The joint the feature in hand belongs to; None where it goes with no other."""
        return self.in_force.joint_of.get(self.feature_id)

    @property
    def partner_feature(self) -> FeatureInForce | None:
        """The feature on the other side of its joint."""
        other = self.joint.other(self.feature_id) if self.joint else None
        return self.in_force.by_id.get(other) if other else None

    @property
    def requirement(self) -> Limits | None:
        """The newest version of what is required of it, limits or not."""
        return self.in_hand.limits

    @property
    def duty(self) -> FeatureDuty:
        """What it is there for, where somebody said."""
        found = self.in_hand.limits
        return FeatureDuty(cast(DutyName, found.duty), found.true_to) if found is not None and found.duty else NO_DUTY

    @property
    def may_give(self) -> list[str]:
        """The letters of the features made here that may give when something has to, those first that matter least."""
        return may_give((one.letter, one.duty) for one in self.made)

    @property
    def limits(self) -> Limits | None:
        """The limits in force; None where none were set, or it is for reference only."""
        found = self.in_hand.limits
        return found if found is not None and (found.lower_mm is not None or found.upper_mm is not None) else None

    @property
    def both_limits(self) -> Between | None:
        """The limits in force where there are two of them, with their aim."""
        found = self.in_hand.limits
        if found is None or found.lower_mm is None or found.upper_mm is None:
            return None
        aim = found.aim_mm if found.aim_mm is not None else (found.lower_mm + found.upper_mm) / 2
        return Between(found.lower_mm, found.upper_mm, aim)

    @property
    def partner_callout(self) -> str:
        """The partner's callout; empty where its readings count."""
        return self.partner_feature.callout if self.partner_feature else ""

    @property
    def unit(self) -> Unit:
        """The unit the job is worked in."""
        return cast(Unit, self.job.unit)

    @property
    def kind(self) -> KindName:
        """The kind of the feature in hand; in a joint an outside diameter is its shaft."""
        kind = cast(KindName, self.in_hand.row.kind)
        return "shaft" if kind == "outside_diameter" and self.joint else kind

    @property
    def partner_kind(self) -> MemberKind:
        """shaft or bore: the other of the two."""
        return other_member(self.made_kind)

    @property
    def made_kind(self) -> MemberKind:
        """Which member of a fit the feature in hand is: its hole or its shaft."""
        return "bore" if feature_kind(self.in_hand.row.kind).material_side == "internal" else "shaft"

    @property
    def own_readings(self) -> Extremes:
        """The standing readings of the feature in hand."""
        return self.readings.get(self.feature_id, NO_READINGS)

    @property
    def partner_readings(self) -> Extremes:
        """The standing readings of the feature on the other side of its joint."""
        other = self.partner_feature
        return self.readings.get(other.row.id, NO_READINGS) if other else NO_READINGS

    @cached_property
    def partner_input(self) -> PartnerInput | None:
        """The partner as the calculations take it: its callout if one counts, else its extremes, else limits of its own; None if unknown."""
        if self.partner_callout:
            return PartnerInput(kind=self.partner_kind, callout=self.partner_callout)
        if not self.partner_readings.count:
            return self._partner_to_be_made()
        ends = [self.partner_readings.smallest_mm, self.partner_readings.largest_mm]
        worth = max(group.uncertainty_mm for group in self.partner_readings.groups)
        return PartnerInput(
            kind=self.partner_kind, readings=[Length(mm, self.unit) for mm in ends], uncertainty=Length(worth, self.unit)
        )

    def _partner_to_be_made(self) -> PartnerInput | None:
        """A partner that is made here too and not measured yet: anywhere within its limits."""
        limits = self.partner_feature.limits if self.partner_feature else None
        if limits is None or limits.lower_mm is None or limits.upper_mm is None:
            return None
        callout = "/".join(show_exact(mm, self.unit) for mm in (limits.lower_mm, limits.upper_mm))
        return PartnerInput(kind=self.partner_kind, callout=callout)

    @cached_property
    def partner(self) -> Partner | None:
        """The partner, understood; None if unknown or unreadable (the Mate page says why)."""
        given = self.partner_input
        try:
            return partner_from(given) if given else None
        except InputError:
            return None

    @cached_property
    def verdict(self) -> FeatureVerdict | None:
        """The made feature against what is required of it; None without either. The worst piece speaks for those that are tried."""
        if self.is_compared:
            return max(self.verdict_of_piece.values(), key=lambda one: SEVERITY.index(one.state), default=None)
        return self.verdict_of(self.own_readings)

    @property
    def feature(self) -> Feature:
        """What is made, with the limits in force."""
        return feature_within(self.kind, self.limits)

    def verdict_of(self, found: Extremes) -> FeatureVerdict | None:
        """What some of its readings (of one piece, say) make of it; None without limits or readings."""
        return feature_verdict(self.feature, found.groups, self.acceptance)

    @cached_property
    def verdict_of_piece(self) -> dict[str, FeatureVerdict]:
        """The verdict of each piece of the feature in hand that was measured, by serial."""
        if self.is_compared:
            return self._tried()
        groups: dict[str, list[ReadingGroup]] = {}
        for group in self.own_readings.groups:
            groups.setdefault(group.piece, []).append(group)
        found = {piece: feature_verdict(self.feature, own, self.acceptance) for piece, own in groups.items()}
        return {piece: verdict for piece, verdict in found.items() if verdict}

    def _tried(self) -> dict[str, FeatureVerdict]:
        """The verdict of each piece that was tried or compared: its worst place speaks."""
        found: dict[str, FeatureVerdict] = {}
        for row in self.own_trials:
            verdict = FeatureVerdict(self.state_of_trial(row), None, Decimal(0))
            known = found.get(row.piece, verdict)
            found[row.piece] = max(known, verdict, key=lambda one: SEVERITY.index(one.state))
        return found

    def state_of_trial(self, row: Trial) -> State:
        """How one trial of the feature in hand stands against what is wanted now."""
        return trial_state(
            feature_kind(self.in_hand.row.kind), self.requirement.text if self.requirement else "", row.outcome
        )

    @property
    def own_trials(self) -> tuple[Trial, ...]:
        """The trials of the feature in hand that count."""
        return self.trials.get(self.feature_id, ())

    @property
    def tried(self) -> list[str]:
        """How its trials that count went, in words."""
        outcomes = trial_outcomes(feature_kind(self.in_hand.row.kind).family)
        return list(dict.fromkeys(outcomes[row.outcome].title for row in self.own_trials))

    @property
    def is_compared(self) -> bool:
        """Whether it is tried or compared by hand and eye: no size is read of it."""
        return feature_kind(self.in_hand.row.kind).is_compared

    @property
    def times_read(self) -> int:
        """How many readings of it stand, or trials count."""
        return len(self.own_trials) if self.is_compared else self.own_readings.count

    @property
    def pieces_read(self) -> list[str]:
        """The pieces of which anything was read or tried, in that order."""
        return list(dict.fromkeys(row.piece for row in self.own_trials)) if self.is_compared else self.own_readings.pieces

    @property
    def newest_at(self) -> datetime | None:
        """When it was last read or tried."""
        return max((row.at for row in self.own_trials), default=None) if self.is_compared else self.own_readings.newest_at

    @property
    def acceptance(self) -> Acceptance:
        """The job's decision rule, else the shop's, else guarded."""
        wanted = self.in_hand.acceptance
        return wanted if wanted in ACCEPTANCE_WORDS else "guarded"

    @property
    def a_piece_is_out(self) -> bool:
        """Whether a piece is gone too far, or was decided about as one that is: what judges it is then the lead's to change."""
        found, decision = self.verdict, self.in_hand.decision
        gone = found is not None and found.state is State.GONE_TOO_FAR
        return gone or (decision is not None and decision.kind in OUT_DECISIONS)

    @property
    def any_piece_is_out(self) -> bool:
        """Whether that is so of any of its features."""
        return any(one.a_piece_is_out for one in self.features)

    def may_judge_anew(self, role: str) -> bool:
        """Whether someone in this role may change the limits of the feature in hand now."""
        return not self.handed_over and (role == "lead" or not self.a_piece_is_out)

    def may_plan_anew(self, role: str) -> bool:
        """Whether someone in this role may change the plan or the acceptance, which hold for all features."""
        return not self.handed_over and (role == "lead" or not self.any_piece_is_out)

    def may_correct(self, role: str, feature_id: UUID) -> bool:
        """Whether someone in this role may correct or withdraw a reading of a feature now."""
        return not self.handed_over and (role != "apprentice" or not self.at(feature_id).a_piece_is_out)

    @property
    def is_batch(self) -> bool:
        """Whether several pieces are to be made."""
        return self.in_force.pieces_wanted > 1

    @property
    def decided(self) -> str:
        """What was decided about it last, where nothing was measured since."""
        found, newest = self.in_hand.decision, self.newest_at
        if found and newest and found.at < newest:
            return ""
        rule = DECISIONS.get(found.kind) if found else None
        return f"{rule.title.lower()} ({found.by.name})" if found and rule and rule.kind != "approve_first_off" else ""

    @property
    def handed_over(self) -> bool:
        """Whether the job is closed."""
        return self.in_force.handed_over

    @property
    def is_settled(self) -> bool:
        """Whether nothing more is to be done or decided about the feature in hand, its assembly aside."""
        if self.in_hand.withdrawn or self.decided or (self.may_be_left and not self.times_read):
            return True
        if self.requirement is None or not self.times_read or self._pieces_left:
            return False
        found = self.verdict
        return found is None or (found.state is State.IN_LIMITS and not self.own_readings.calibration_failed)

    @property
    def _pieces_left(self) -> int:
        return max(self.in_force.pieces_wanted - len(self.pieces_read), 0) if self.is_batch else 0

    @property
    def next(self) -> tuple[Stage, str]:
        """The stage the feature in hand stands at, and what it needs in words."""
        found = self.verdict
        stage, words = next_step(
            partner_known=self.joint is None or self.partner_input is not None or self.limits is not None,
            limits_set=self.requirement is not None,
            readings=self.times_read,
            state=found.state if found else None,
            handed_over=self.handed_over,
            assembly_planned=self.joint is not None and self.joint.planned,
            assembled=self.joint is not None and self.joint.assembled,
            decided=self.decided,
            calibration_failed=self.own_readings.calibration_failed > 0,
            pieces_left=self._pieces_left,
            judged=self.limits is not None or self.requirement is None or self.is_compared,
        )
        if stage == "mate" and self.joint is None:
            return "part", "Give it limits, or take it as for reference."
        if self.is_compared and stage == "cut":
            return "measure", "Metal to go: cut, and try again." if self.times_read else "Try it, and log how it went."
        return ("measure" if stage == "cut" and not self.is_coached else stage), words

    @property
    def may_be_left(self) -> bool:
        """Whether nothing need be logged of it: a surface finish is compared by eye, with or without a word on record."""
        return feature_kind(self.in_hand.row.kind).family == "roughness"

    @property
    def is_in_work(self) -> bool:
        """Whether metal is still to come off the feature in hand: what is measured of it now will not stay."""
        return self.verdict is not None and self.verdict.state is State.METAL_TO_GO

    @property
    def words(self) -> str:
        """How the feature in hand stands, in a few words."""
        if self.in_hand.withdrawn:
            return "withdrawn"
        if not self.in_hand.made_here:
            said = "measured" if self.own_readings.count else "not measured yet"
            return "called out" if self.in_hand.callout else said
        found = self.verdict
        if found is not None:
            return f"{found.state.words}; decided: {self.decided}" if self.decided else found.state.words
        if self.requirement is None:
            return "no limits yet"
        if self.may_be_left:
            return "compared by eye"
        if self.is_compared:
            return "not tried yet"
        if self.limits is None:
            return "measured, for reference" if self.own_readings.count else "for reference"
        return "not measured yet"

    @property
    def coached_by(self) -> CoachedBy:
        """The slide on which the coach brings it to size: of what is made here, with a side that is safe and two limits, or none yet."""
        kind = feature_kind(self.in_hand.row.kind)
        has_room = self.both_limits is not None or self.requirement is None
        return kind.coached_by if has_room and self.in_hand.made_here and toward_metal(kind.material_side) else "none"

    @property
    def is_coached(self) -> bool:
        """Whether the coach cuts it to size."""
        return self.coached_by != "none"

    @cached_property
    def needs(self) -> "JobState":
        """The job seen at the feature that comes next: one gone too far first, then in the order of their letters."""
        open_ones = [one for one in self.made if not one.is_settled]
        gone = (one for one in open_ones if one.times_read and one.a_piece_is_out)
        to_assemble = (one for one in self.made if one.joint and one.next[0] == "assemble")
        return next(chain(gone, open_ones, to_assemble, self.made, (self,)))

    @property
    def job_next(self) -> tuple[Stage, str]:
        """The stage the whole job stands at, and what it needs; with the letter where there are several features."""
        stage, words = self.needs.next
        several = len(self.made) > 1 and stage != "record" and not self.handed_over
        return stage, f"{self.needs.letter}: {words[0].lower()}{words[1:]}" if several else words

    @property
    def clearance_mm(self) -> tuple[Decimal, Decimal] | None:
        """Least and greatest clearance of the part as measured on the partner as known, doubt of both counted."""
        return self._clearance_mm(uncertainty_counts=True)

    def _clearance_mm(self, *, uncertainty_counts: bool) -> tuple[Decimal, Decimal] | None:
        partner = self.partner
        if partner is None or not self.own_readings.count:
            return None
        doubt = max(group.uncertainty_mm for group in self.own_readings.groups) if uncertainty_counts else Decimal(0)
        partner = partner if uncertainty_counts else replace(partner, uncertainty_mm=Decimal(0))
        return clearance_with(partner, self.own_readings.smallest_mm - doubt, self.own_readings.largest_mm + doubt)

    @property
    def binds_mm(self) -> Decimal | None:
        """By how much the bore is smaller than the shaft it must take, at the worst; None where it is not, or is meant to be.

        Of a part in limits the readings themselves are taken: its limits and its verdict have counted the doubt already.
        """
        found = self.verdict
        in_limits = found is not None and found.state is State.IN_LIMITS
        clearance = self._clearance_mm(uncertainty_counts=not in_limits)
        function = functions().get(str(self.limits.inputs.get("function"))) if self.limits else None
        meant_loose = function is not None and function.kind == "clearance"
        return -clearance[0] if clearance and meant_loose and clearance[0] < 0 else None

    def judged(
        self, size_mm: Decimal, uncertainty_mm: Decimal, unit: Unit | None = None, *, bracket: bool = False
    ) -> VerdictResult | None:
        """One size against the limits in force, with sentence and working."""
        return judged_against(
            self.limits,
            self.kind,
            size_mm,
            uncertainty_mm,
            unit or self.unit,
            acceptance=self.acceptance,
            bracket=bracket,
        )

    def lines(self, amount_mm: Decimal) -> Decimal | None:
        """An amount on diameter in lines of the job's machine, if it has one."""
        machine = self.job.machine
        if machine is None:
            return None
        return dial_lines(amount_mm, machine.dial_line_mm, cast(DialReads, machine.dial_reads))
