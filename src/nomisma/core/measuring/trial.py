"""By trial: how a mating part or gauge went by hand, or how a finish compares, against what is wanted;
without a size.
"""

from nomisma.core.errors import InputError
from nomisma.core.part.feature import State
from nomisma.core.part.feature_kinds import FeatureKind
from nomisma.core.part.trial_wanted import TrialFamily, trial_outcomes, wanted_by_trial


def trial_state(kind: FeatureKind, wanted_text: str, outcome: str) -> State:
    """How a trial that went so stands: tighter, or rougher, than wanted is metal to go; looser is gone too far. Without
    unit.

    Raises InputError where the outcome is none of this kind. Source: common practice, no source: a fit only gets looser
    as it is cut; a finish finer than its piece is good.

    >>> from nomisma.core.part.feature_kinds import feature_kind
    >>> trial_state(feature_kind("by_trial"), "axle slides", "wrings").words
    'metal to go'
    """
    found = trial_outcomes(kind.trials_as or "").get(outcome)
    if found is None:
        raise InputError(
            f"“{outcome[:40]}” is not one of the choices.", "Choose how it went.", field="outcome", value=outcome
        )
    least, most = _between(found.family, wanted_text)
    if found.step < least:
        return State.METAL_TO_GO
    return State.GONE_TOO_FAR if found.step > most else State.IN_LIMITS


def _between(family: TrialFamily, wanted_text: str) -> tuple[int, int]:
    """Between which steps of its scale it is to go: those that are good whatever a line says, else as its text says."""
    good = [one.step for one in trial_outcomes(family).values() if one.is_wanted]
    if good:
        return min(good), max(good)
    wanted = wanted_by_trial(wanted_text)
    return wanted.least, wanted.most
