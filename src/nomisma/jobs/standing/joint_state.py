"""How the feature in hand stands to the one it goes with: what is known of that one, and whether they go together."""

from dataclasses import dataclass, replace
from decimal import Decimal
from functools import cached_property

from nomisma.core.errors import InputError, NotDefined
from nomisma.core.fits.functions import functions
from nomisma.core.fits.partner import Partner, PartnerInput, partner_from
from nomisma.core.fits.suit import clearance_with
from nomisma.core.part.feature import State
from nomisma.core.part.member import MemberKind, other_member
from nomisma.core.quantity.display import show_exact
from nomisma.core.quantity.length import Length
from nomisma.jobs.standing.feature_state import FeatureState
from nomisma.store.jobs import FeatureInForce
from nomisma.store.readings import NO_READINGS, Extremes


@dataclass(frozen=True)
class JointState(FeatureState):
    """A feature of a job, and what is known across its joint; a feature that goes with no other has no partner."""

    def must_have_a_joint(self) -> FeatureInForce:
        """The feature this one goes with. Raises NotDefined where it goes with none."""
        if self.partner_feature is None:
            raise NotDefined(
                f"Feature {self.letter} goes with no other: it is held to limits of its own.",
                "Change them on the Part page.",
            )
        return self.partner_feature

    @property
    def partner_feature(self) -> FeatureInForce | None:
        """The feature on the other side of its joint."""
        other = self.joint.other(self.feature_id) if self.joint else None
        return self.in_force.by_id.get(other) if other else None

    @property
    def partner_callout(self) -> str:
        """The partner's callout; empty where its readings count."""
        return self.partner_feature.callout if self.partner_feature else ""

    @property
    def partner_kind(self) -> MemberKind:
        """shaft or bore: the other of the two."""
        return other_member(self.made_kind)

    @property
    def partner_readings(self) -> Extremes:
        """The standing readings of the feature on the other side of its joint."""
        other = self.partner_feature
        return self.readings.get(other.row.id, NO_READINGS) if other else NO_READINGS

    @cached_property
    def partner_input(self) -> PartnerInput | None:
        """The partner as the calculations take it: its callout if one counts, else its extremes, else limits of its
        own; None if unknown.
        """
        if self.partner_callout:
            return PartnerInput(kind=self.partner_kind, callout=self.partner_callout)
        if not self.partner_readings.count:
            return self._partner_to_be_made()
        ends = [self.partner_readings.smallest_mm, self.partner_readings.largest_mm]
        worth = max(group.uncertainty_mm for group in self.partner_readings.groups)
        return PartnerInput(
            kind=self.partner_kind,
            readings=[Length(mm, self.unit) for mm in ends],
            uncertainty=Length(worth, self.unit),
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

    @property
    def clearance_mm(self) -> tuple[Decimal, Decimal] | None:
        """Least and greatest clearance of the part as measured on the partner as known, doubt of both counted."""
        return self._clearance_mm(uncertainty_counts=True)

    def _clearance_mm(self, *, uncertainty_counts: bool) -> tuple[Decimal, Decimal] | None:
        partner = self.partner
        if partner is None or not self.own_readings.count:
            return None
        uncertainty = (
            max(group.uncertainty_mm for group in self.own_readings.groups) if uncertainty_counts else Decimal(0)
        )
        partner = partner if uncertainty_counts else replace(partner, uncertainty_mm=Decimal(0))
        return clearance_with(
            partner, self.own_readings.smallest_mm - uncertainty, self.own_readings.largest_mm + uncertainty
        )

    @property
    def binds_mm(self) -> Decimal | None:
        """By how much the bore is smaller than the shaft it must take, at the worst; None where it is not, or is meant
        to be.

        Of a part in limits the readings themselves are taken: its limits and its verdict have counted the doubt
        already.
        """
        found = self.verdict
        in_limits = found is not None and found.state is State.IN_LIMITS
        clearance = self._clearance_mm(uncertainty_counts=not in_limits)
        function = functions().get(str(self.limits.inputs.get("function"))) if self.limits else None
        meant_loose = function is not None and function.kind == "clearance"
        return -clearance[0] if clearance and meant_loose and clearance[0] < 0 else None
