"""One size against the limits in force, whatever they are: two, one, or none."""

from decimal import Decimal

import pytest
from sqlalchemy.orm import Session

from nomisma.core.part.feature import State
from nomisma.jobs.standing.limits_in_force import feature_within, judged_against
from tests.jobs.shop_floor import opened


@pytest.mark.parametrize(
    ("line", "size", "state"),
    [
        ("od 28 ±0.1", "28.2", State.METAL_TO_GO), ("od 28 ±0.1", "27.8", State.GONE_TOO_FAR),
        ("bore 28 ±0.1", "27.8", State.METAL_TO_GO), ("boss 28 x 5 ±0.1 high", "4.8", State.METAL_TO_GO),
        ("length 28 ±0.1", "27.8", State.GONE_TOO_FAR), ("28 max", "27", State.IN_LIMITS),
        ("(28)", "27", None),
    ],
)  # fmt: skip
def test_a_size_stands_as_its_kind_and_its_limits_say(db: Session, line: str, size: str, state: State | None) -> None:
    feature = opened(db, line).features[-1]
    found = judged_against(feature.requirement, feature.kind, Decimal(size), Decimal(0), "mm")
    assert (found.state if found else None) == state


def test_a_feature_without_a_version_of_limits_has_none() -> None:
    assert not feature_within("bore", None).is_judged
