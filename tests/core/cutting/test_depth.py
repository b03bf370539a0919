"""How deep the next cut may go: never past the risk that was set, and no part grows."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from nomisma.core.cutting.depth import CutRules, Next, ToGo, next_depth
from nomisma.core.cutting.learned import CutSeen, learned


@given(st.floats(0.05, 2))
def test_the_chance_of_taking_more_falls_as_more_is_asked_for(dialled: float) -> None:
    found = learned([CutSeen(0.5, 0.52, first=True), CutSeen(0.4, 0.41)]).predict(dialled)
    chances = [found.chance_above(found.middle + k * found.scale) for k in (-3, -1, 0, 1, 3)]
    assert chances == sorted(chances, reverse=True)
    assert chances[2] == pytest.approx(0.5, abs=1e-3)
    assert found.quantile(0.95) > found.quantile(0.5) > found.quantile(0.05)


@given(st.floats(0.3, 3), st.floats(0.01, 0.1), st.floats(0.05, 0.6), st.sampled_from([1.0, 2.0]))
def test_the_next_cut_is_safe_whichever_way_the_dial_reads_until_one_is_ruled_out(
    over: float, width: float, dialled: float, factor: float
) -> None:
    """One small cut seen: what is advised then passes the limit under neither explanation that is still believed."""
    lower = 25.0
    model = learned([CutSeen(dialled, dialled * factor, first=True)])
    found = next_depth(
        ToGo(over - width / 2, over, over - width), model, CutRules(step=0.01), "creep", last_dialled=dialled
    )
    for explanation, weight in zip(model.explanations, model.weights, strict=True):
        if found.next is Next.CUT and weight > 0.01:
            assert lower + over - found.dialled * explanation.factor > lower - 0.05 * over
