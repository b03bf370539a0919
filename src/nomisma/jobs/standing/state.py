"""How a job stands: its features, which of them comes next, what it needs, and who may change what."""

from dataclasses import dataclass, replace
from functools import cached_property
from itertools import chain
from uuid import UUID

from nomisma.core.errors import NomismaError
from nomisma.core.measuring.feature import Stage, next_step
from nomisma.core.part.duty import may_give
from nomisma.core.part.feature import State
from nomisma.core.part.lettered import Contradiction, LetteredFeature
from nomisma.core.part.part_check import part_contradictions
from nomisma.jobs.shop.rights import Action, may
from nomisma.jobs.standing.joint_state import JointState
from nomisma.store.append import CLOSED_SENTENCE, HandedOver


class Withdrawn(NomismaError):
    """The feature counts no longer: nothing is logged of it."""


@dataclass(frozen=True)
class JobState(JointState):
    """A job seen at the feature in hand, with everything that decides its next step."""

    def must_be_open(self) -> None:
        """Raises HandedOver where the job is closed, whatever door somebody stands at."""
        if self.handed_over:
            raise HandedOver(CLOSED_SENTENCE)

    def must_count(self) -> None:
        """Raises Withdrawn where nothing may be logged of the feature in hand: until it is put back, or the bush is
        pressed in.
        """
        if self.why_nothing_is_logged:
            raise Withdrawn(self.why_nothing_is_logged)

    @property
    def why_nothing_is_logged(self) -> str:
        """Why nothing may be logged of the feature in hand now; empty where it may."""
        if self.in_hand.withdrawn:
            return f"Feature {self.letter} is withdrawn. Put it back on the Part page to go on with it."
        if self.bush and self.waits_for_pressing:
            return (
                f"{self.letter} is the bore after pressing, and the bush is not pressed in yet. Until then its bore is "
                f"{self.bush.before_letter}. Log on Assemble that it went in, then measure {self.letter}."
            )
        if self.bush and self.is_past_pressing:
            return (
                f"{self.letter} is the bore before pressing, and the bush is in: what is measured now is"
                f" {self.bush.bore.letter}."
            )
        return ""

    @cached_property
    def bush(self) -> "Bush | None":
        """The bush the feature in hand belongs to, as it stands; None where the job is about none."""
        found = self.in_force.bush
        if found is None or self.feature_id not in found.titles:
            return None
        return Bush(
            outside=self.at(found.outside.row.id),
            housing=self.at(found.housing.row.id),
            bore=self.at(found.bore.row.id),
            shaft=self.at(found.shaft.row.id),
            before=self.at(found.before.row.id) if found.before else None,
        )

    @property
    def waits_for_pressing(self) -> bool:
        """Whether it is the bore of a bush after pressing, and that is still to come."""
        bush = self.bush
        return bool(bush and bush.before and bush.bore.letter == self.letter and not bush.is_pressed_in)

    @property
    def is_past_pressing(self) -> bool:
        """Whether it is the bore of a bush before pressing, and the bush is in; of a batch the others go on."""
        return bool(self.bush and self.in_hand.row.before_pressing and self.bush.is_pressed_in and not self.is_batch)

    @property
    def takes_readings(self) -> bool:
        """Whether anything may be logged of the feature in hand."""
        return not self.handed_over and not self.why_nothing_is_logged

    @cached_property
    def features(self) -> tuple["JobState", ...]:
        """The job seen at each of its features in the order of their letters, withdrawn ones too."""
        found = tuple(replace(self, in_hand=feature) for feature in self.in_force.features)
        for one in found:  # each of them sees the same ones, with what is worked out of them by then
            one.__dict__["features"] = found
        return found

    @cached_property
    def made(self) -> tuple["JobState", ...]:
        """The job seen at each feature that is made here and counts."""
        return tuple(one for one in self.features if one.in_hand.made_here and not one.in_hand.withdrawn)

    @cached_property
    def contradictions(self) -> list[Contradiction]:
        """What cannot be true of the part that is made, as its features are required now."""
        return part_contradictions(self.lettered)

    @cached_property
    def lettered(self) -> list[LetteredFeature]:
        """The features that are made as the checks and the drawing of the part take them: a bush as it is before it is
        pressed in.
        """
        return [
            LetteredFeature(
                one.letter,
                one.feature,
                one.in_hand.row.through,
                one.requirement.nominal_mm if one.requirement else None,
                one.duty.true_to,
                one.along,
                one.requirement.text if one.requirement else "",
            )
            for one in self.made
            if not (one.bush and one.bush.before and one.bush.bore.letter == one.letter)
        ]

    def at(self, feature_id: UUID) -> "JobState":
        """The job seen at another of its features."""
        return next(one for one in self.features if one.feature_id == feature_id)

    @property
    def may_give(self) -> list[str]:
        """The letters of the features made here that may give when something has to, those first that matter least."""
        return may_give((one.letter, one.duty) for one in self.made)

    @property
    def any_piece_is_out(self) -> bool:
        """Whether that is so of any of its features."""
        return any(one.a_piece_is_out for one in self.features)

    def may_judge_anew(self, role: str) -> bool:
        """Whether someone in this role may change the limits of the feature in hand now."""
        return not self.handed_over and (not self.a_piece_is_out or may(role, Action.JUDGE_ANEW))

    def may_plan_anew(self, role: str) -> bool:
        """Whether someone in this role may change the plan or the acceptance, which hold for all features."""
        return not self.handed_over and (not self.any_piece_is_out or may(role, Action.JUDGE_ANEW))

    def may_correct(self, role: str, feature_id: UUID) -> bool:
        """Whether someone in this role may correct or withdraw a reading of a feature now."""
        return not self.handed_over and (
            not self.at(feature_id).a_piece_is_out or may(role, Action.CORRECT_WHAT_IS_OUT)
        )

    @cached_property
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

    @cached_property
    def next(self) -> tuple[Stage, str]:
        """The stage the feature in hand stands at, and what it needs in words."""
        found = self.verdict
        if self.bush and self.requirement is None and not self.handed_over:
            return "mate", self.bush.needs
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
            judged=self.limits is not None or self.requirement is None or found is not None or self.is_compared,
        )
        if self.waits_for_pressing:
            return "assemble", "Press it in first, then measure."
        if stage == "mate" and self.joint is None:
            return "part", "Give it limits, or take it as for reference."
        if self.is_compared and stage == "cut":
            return "measure", "Metal to go: cut, and try again." if self.times_read else "Try it, and log how it went."
        if stage == "cut" and not self.times_read and self.feature.of_kind.cut_as == "elsewhere":
            return "measure", "The plan does not make it: measure it when it is done."
        return ("measure" if stage == "cut" and not self.is_coached else stage), words

    @cached_property
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

    @cached_property
    def needs(self) -> "JobState":
        """The job seen at the feature that comes next: one gone too far first, then in the order of their letters."""
        open_ones = [one for one in self.made if not one.is_settled and not one.waits_for_pressing]
        gone = (one for one in open_ones if one.times_read and one.a_piece_is_out)
        to_assemble = (one for one in self.made if one.joint and one.next[0] == "assemble")
        return next(chain(gone, open_ones, to_assemble, self.made, (self,)))

    @property
    def job_next(self) -> tuple[Stage, str]:
        """The stage the whole job stands at, and what it needs; with the letter where there are several features."""
        stage, words = self.needs.next
        several = len(self.made) > 1 and stage != "record" and not self.handed_over
        return stage, f"{self.needs.letter}: {words[0].lower()}{words[1:]}" if several else words


@dataclass(frozen=True, kw_only=True)
class Bush:
    """A bush as it stands: its outside in the housing, its bore before pressing, and after, on the shaft."""

    outside: JobState
    housing: JobState
    before: JobState | None
    bore: JobState
    shaft: JobState

    @property
    def before_letter(self) -> str:
        """The letter of its bore before pressing."""
        return self.before.letter if self.before else self.bore.letter

    @property
    def is_pressed_in(self) -> bool:
        """Whether it was logged that it went in."""
        return self.outside.joint is not None and self.outside.joint.assembled

    @property
    def needs(self) -> str:
        """What is missing before the bush can be worked out, in words."""
        missing = [
            one.called
            for one, member in ((self.housing, self.outside), (self.shaft, self.bore))
            if member.partner is None
        ]
        if missing:
            return f"Measure the {' and the '.join(missing)}."
        return "Work out the bush: its outside, its bore before and after pressing."

    @property
    def parts_made(self) -> tuple[JobState, ...]:
        """What is made of it, in the order it is made."""
        return tuple(one for one in (self.outside, self.before, self.bore) if one)

    @property
    def a_piece_is_out(self) -> bool:
        """Whether that is so of anything made of it."""
        return any(one.a_piece_is_out for one in self.parts_made)

    @property
    def is_read(self) -> bool:
        """Whether anything made of it was read already."""
        return any(one.times_read for one in self.parts_made)
