"""Every kind of feature on the pages of a job: a kind that a page does not know fails here, whichever kind and page it
is.
"""

import pytest

from nomisma.core.part.feature_kinds import feature_kinds
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature
from nomisma.core.part.trial_wanted import trial_outcomes
from tests.web.conftest import Hand
from tests.web.parts import features, number_of, record, start

OF_THE_JOB = ("part", "plan", "make", "hold", "batch", "import", "record")
OF_A_FEATURE = ("part", "cut", "measure", "form", "decide", "readings")


def line_of(kind: FeatureKind) -> str:
    return kind.said(SaidFeature("A", kind.name, kind.example), [])


def test_a_part_of_every_kind_starts_and_its_pages_open(orla: Hand) -> None:
    number = number_of(start(orla, "\n".join(["od 60 x 80", *(line_of(kind) for kind in feature_kinds().values())])))
    found = features(orla, number)
    assert {one["title"] for one in found.values()} == {kind.title for kind in feature_kinds().values()}
    for stage in OF_THE_JOB:
        assert orla.get(f"/jobs/{number}/{stage}").status_code == 200, stage
    for letter, one in found.items():
        for stage in OF_A_FEATURE:
            assert orla.get(f"/jobs/{number}/{stage}?feature={letter}").status_code == 200, (one["title"], stage)
    assert len(record(orla, number)["features"]) == len(found)


@pytest.mark.parametrize(
    "kind", [one for one in feature_kinds().values() if one.is_compared], ids=lambda kind: kind.name
)
def test_what_is_tried_or_looked_at_takes_each_of_its_outcomes(orla: Hand, kind: FeatureKind) -> None:
    number = number_of(start(orla, f"od 60 x 80\n{line_of(kind)}"))
    letter = next(letter for letter, one in features(orla, number).items() if one["title"] == kind.title)
    for outcome in trial_outcomes(kind.family):
        orla.get(f"/jobs/{number}/measure?feature={letter}")
        sent = orla.send(
            f"/jobs/{number}/measure/trials?feature={letter}", feature=letter, outcome=outcome, place=kind.places[0]
        )
        assert sent.status_code == 200, outcome
        assert features(orla, number)[letter]["verdict"]


def test_holes_off_the_axis_are_measured_one_by_one(orla: Hand) -> None:
    number = number_of(start(orla, "od 140 x 18\n6 holes 9 ±0.1 on 115 ±0.2"))
    for letter, size, place in (
        ("C", "9.04", "hole 1"),
        ("C", "9.02", "hole 6"),
        ("D", "115.08", "hole 1 to its opposite"),
    ):
        orla.get(f"/jobs/{number}/measure?feature={letter}")
        given = {"size": size, "place": place, "instrument_id": orla.instrument("0–150 mm caliper"), "cut_since": "not"}
        assert (
            orla.send(f"/jobs/{number}/measure/readings?feature={letter}", feature=letter, **given).status_code == 200
        ), (
            letter,
            place,
        )
    assert [features(orla, number)[letter]["reading_count"] for letter in "CD"] == [2, 1]
