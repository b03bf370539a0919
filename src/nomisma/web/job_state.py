"""How a job stands: what is in force, the feature's verdict, and what it needs next."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property
from typing import Literal, cast

from sqlalchemy.orm import Session as OrmSession

from nomisma.core.cutting.amount import DialReads, dial_lines
from nomisma.core.errors import InputError, NomismaError
from nomisma.core.fits.functions import functions
from nomisma.core.fits.member import MemberKind
from nomisma.core.fits.partner import Partner, PartnerInput, partner_from
from nomisma.core.fits.suit import clearance_with
from nomisma.core.measuring.decision import DECISIONS, OUT_DECISIONS
from nomisma.core.measuring.feature import FeatureVerdict, Stage, feature_verdict, next_step
from nomisma.core.measuring.verdict import VerdictInput, VerdictResult, verdict
from nomisma.core.part.feature import ACCEPTANCE_WORDS, Acceptance, Feature, State
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.length import Length, Unit
from nomisma.store import jobs, readings
from nomisma.store.jobs import Standing
from nomisma.store.models import Job, Limits
from nomisma.store.readings import NO_READINGS, Extremes

SCHOOL_TITLES = {"make_to_suit": "Make to suit", "shop_rule": "Shop rule", "iso": "ISO 286", "inch": "Inch classes"}


class HandedOver(NomismaError):
    """The job is closed: nothing more is written to it until it is taken up again."""


@dataclass(frozen=True)
class JobState:
    """A job with everything that decides its next step."""

    standing: Standing
    partner_readings: Extremes
    made_readings: Extremes

    def must_be_open(self) -> None:
        """Raises HandedOver where the job is closed, whatever door somebody stands at."""
        if self.handed_over:
            raise HandedOver("This job is handed over. Take it up again on its Record page to go on.")

    @property
    def job(self) -> Job:
        """The job itself."""
        return self.standing.job

    @property
    def limits(self) -> Limits | None:
        """The limits in force."""
        return self.standing.limits

    @property
    def partner_callout(self) -> str:
        """The partner's callout; empty where its readings count."""
        return self.standing.partner_callout

    @property
    def unit(self) -> Unit:
        """The unit the job is worked in."""
        return cast(Unit, self.job.unit)

    @property
    def partner_kind(self) -> MemberKind:
        """shaft or bore."""
        return cast(MemberKind, self.job.partner_kind)

    @property
    def made_kind(self) -> MemberKind:
        """What is made: the other of the two."""
        return "bore" if self.job.partner_kind == "shaft" else "shaft"

    @cached_property
    def partner_input(self) -> PartnerInput | None:
        """The partner as the calculations take it: its callout if one counts, else its extremes; None if unknown."""
        if self.partner_callout:
            return PartnerInput(kind=self.partner_kind, callout=self.partner_callout)
        if not self.partner_readings.count:
            return None
        ends = [self.partner_readings.smallest_mm, self.partner_readings.largest_mm]
        worth = max(group.uncertainty_mm for group in self.partner_readings.groups)
        return PartnerInput(
            kind=self.partner_kind, readings=[Length(mm, self.unit) for mm in ends], uncertainty=Length(worth, self.unit)
        )

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
        """The made feature against the limits in force; None without either."""
        return self.verdict_of(self.made_readings)

    @property
    def feature(self) -> Feature:
        """What is made, with the limits in force."""
        return feature_within(self.made_kind, self.limits)

    def verdict_of(self, found: Extremes) -> FeatureVerdict | None:
        """What some of its readings (of one piece, say) make of it; None without limits or readings."""
        return feature_verdict(self.feature, found.groups, self.acceptance)

    @property
    def acceptance(self) -> Acceptance:
        """The job's decision rule, else the shop's, else guarded."""
        wanted = self.standing.acceptance
        return wanted if wanted in ACCEPTANCE_WORDS else "guarded"

    @property
    def a_piece_is_out(self) -> bool:
        """Whether a piece is gone too far, or was decided about as one that is: what judges it is then the lead's to change."""
        found, decision = self.verdict, self.standing.decision
        gone = found is not None and found.state is State.GONE_TOO_FAR
        return gone or (decision is not None and decision.kind in OUT_DECISIONS)

    def may_judge_anew(self, role: str) -> bool:
        """Whether someone in this role may change the limits, the plan or the acceptance now."""
        return not self.handed_over and (role == "lead" or not self.a_piece_is_out)

    def may_correct(self, role: str, member: str) -> bool:
        """Whether someone in this role may correct or withdraw a reading of the member (made or partner) now."""
        judged = member == "made" and self.a_piece_is_out
        return not self.handed_over and (role != "apprentice" or not judged)

    @property
    def is_batch(self) -> bool:
        """Whether several pieces are to be made."""
        return self.standing.pieces_wanted > 1

    @property
    def decided(self) -> str:
        """What was decided about it last, where nothing was measured since."""
        found, newest = self.standing.decision, self.made_readings.newest_at
        if found and newest and found.at < newest:
            return ""
        rule = DECISIONS.get(found.kind) if found else None
        return f"{rule.title.lower()} ({found.by.name})" if found and rule and rule.kind != "approve_first_off" else ""

    @property
    def handed_over(self) -> bool:
        """Whether the job is closed."""
        return self.standing.handed_over

    @property
    def next(self) -> tuple[Stage, str]:
        """The stage it stands at, and what it needs in words."""
        found = self.verdict
        return next_step(
            partner_known=self.partner_input is not None,
            limits_set=self.limits is not None,
            readings=self.made_readings.count,
            state=found.state if found else None,
            handed_over=self.handed_over,
            assembly_planned=self.standing.assembly_planned,
            assembled=self.standing.assembled,
            decided=self.decided,
            in_doubt=self.made_readings.in_doubt > 0,
            pieces_left=max(self.standing.pieces_wanted - len(self.made_readings.pieces), 0) if self.is_batch else 0,
        )

    @property
    def clearance_mm(self) -> tuple[Decimal, Decimal] | None:
        """Least and greatest clearance of the part as measured on the partner as known, doubt of both counted."""
        return self._clearance_mm(doubt_counts=True)

    def _clearance_mm(self, *, doubt_counts: bool) -> tuple[Decimal, Decimal] | None:
        partner = self.partner
        if partner is None or not self.made_readings.count:
            return None
        doubt = max(group.uncertainty_mm for group in self.made_readings.groups) if doubt_counts else Decimal(0)
        partner = partner if doubt_counts else replace(partner, uncertainty_mm=Decimal(0))
        return clearance_with(partner, self.made_readings.smallest_mm - doubt, self.made_readings.largest_mm + doubt)

    @property
    def binds_mm(self) -> Decimal | None:
        """By how much the bore is smaller than the shaft it must take, at the worst; None where it is not, or is meant to be.

        Of a part in limits the readings themselves are taken: its limits and its verdict have counted the doubt already.
        """
        found = self.verdict
        in_limits = found is not None and found.state is State.IN_LIMITS
        clearance = self._clearance_mm(doubt_counts=not in_limits)
        function = functions().get(str(self.limits.inputs.get("function"))) if self.limits else None
        meant_loose = function is not None and function.kind == "clearance"
        return -clearance[0] if clearance and meant_loose and clearance[0] < 0 else None

    def judged(
        self, size_mm: Decimal, uncertainty_mm: Decimal, unit: Unit | None = None, *, bracket: bool = False
    ) -> VerdictResult | None:
        """One size against the limits in force, with sentence and working."""
        return judged_against(
            self.limits,
            self.made_kind,
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


def feature_within(kind: KindName, limits: Limits | None) -> Feature:
    """A feature of a kind with one version of its limits."""
    return Feature(kind, limits.lower_mm, limits.upper_mm, limits.aim_mm) if limits else Feature(kind)


def judged_against(
    limits: Limits | None,
    kind: Literal["shaft", "bore"],
    size_mm: Decimal,
    uncertainty_mm: Decimal,
    unit: Unit,
    *,
    acceptance: Acceptance = "guarded",
    bracket: bool = False,
) -> VerdictResult | None:
    """One size against a version of the limits; None without limits."""
    if limits is None:
        return None
    return verdict(
        VerdictInput(
            kind=kind,
            reading=Length(size_mm, unit),
            lower=Length(limits.lower_mm, unit),
            upper=Length(limits.upper_mm, unit),
            aim=Length(limits.aim_mm, unit),
            uncertainty=Length(uncertainty_mm, unit),
            acceptance=acceptance,
            bracket=bracket,
        )
    )


def states_of(db: OrmSession, found: Sequence[Standing]) -> list[JobState]:
    """The states of several jobs, in one query however many they are."""
    extremes = readings.extremes(db, [standing.job.id for standing in found])
    return [
        JobState(
            standing=standing,
            partner_readings=extremes.get((standing.job.id, "partner"), NO_READINGS),
            made_readings=extremes.get((standing.job.id, "made"), NO_READINGS),
        )
        for standing in found
    ]


def state_numbered(db: OrmSession, number: int) -> JobState:
    """The state of one job. Raises NotDefined."""
    return states_of(db, [jobs.job_numbered(db, number)])[0]
