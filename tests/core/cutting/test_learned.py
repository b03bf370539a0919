"""What is learned of a set-up from its cuts: how much comes off, and how sure that is."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.cutting.learned import CutSeen, learned


@given(st.lists(st.tuples(st.floats(0.05, 1.5), st.floats(0.95, 1.05)), min_size=1, max_size=8))
def test_more_cuts_never_make_it_know_its_dial_less_than_before_the_first(cuts: list[tuple[float, float]]) -> None:
    model = learned([CutSeen(dialled, dialled * ratio, n == 0) for n, (dialled, ratio) in enumerate(cuts)])
    assert model.gain_spread <= learned([]).gain_spread * model.factor + 1e-12


def test_one_cut_that_nothing_explains_does_not_unsettle_the_rest() -> None:
    """Backlash that was not taken up once: the next is still expected to take what is dialled, and gain and spring
    stay.
    """
    steady = [CutSeen(0.4, 0.4, first=n == 0) for n in range(6)]
    before, after = (learned(cuts, reading_mm=0.0015) for cuts in (steady, [*steady, CutSeen(0.4, 0.3)]))
    assert after.predict(0.4).middle == pytest.approx(before.predict(0.4).middle, abs=0.01)
    assert after.predict(0.4).scale < 2 * before.predict(0.4).scale
    assert (after.gain, after.spring) == (before.gain, before.spring)
