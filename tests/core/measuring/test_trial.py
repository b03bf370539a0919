"""By trial: how a trial that went so stands."""

import pytest

from nomisma.core.errors import InputError
from nomisma.core.measuring.trial import trial_state
from nomisma.core.part.feature import State
from nomisma.core.part.feature_kinds import feature_kind, feature_kinds
from nomisma.core.part.trial_wanted import trial_outcomes

FEEL = feature_kind("by_trial")
FINISH = feature_kind("surface_finish")


def test_tighter_than_wanted_is_metal_to_go_and_looser_is_gone() -> None:
    found = [trial_state(FEEL, "axle wrings to slides", name) for name in trial_outcomes("feel")]
    go, in_, gone = State.METAL_TO_GO, State.IN_LIMITS, State.GONE_TOO_FAR
    assert found == [go, go, in_, in_, gone]


def test_a_finish_is_good_as_its_piece_or_finer() -> None:
    assert [trial_state(FINISH, "Ra 0.8", name).words for name in trial_outcomes("roughness")] == [
        "metal to go",
        "in limits",
        "in limits",
    ]


def test_an_outcome_of_the_other_scale_is_none() -> None:
    with pytest.raises(InputError, match="not one of the choices"):
        trial_state(FEEL, "axle slides", "alike")


def test_every_kind_that_is_compared_has_its_scale_and_no_other_has() -> None:
    for kind in feature_kinds().values():
        steps = [one.step for one in trial_outcomes(kind.family).values()]
        assert steps == list(range(1, len(steps) + 1))
        assert bool(steps) == kind.is_compared
