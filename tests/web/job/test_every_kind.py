"""Every kind of feature on every page of a job: a kind that a page does not know fails here, whichever kind and page it is."""

import pytest

from nomisma.core.part.feature_kinds import feature_kinds
from nomisma.core.part.kind import FeatureKind
from nomisma.core.part.said_feature import SaidFeature
from nomisma.core.part.trial_wanted import trial_outcomes
from tests.web.conftest import Hand
from tests.web.parts import features, number_of, start

STAGES = ("part", "plan", "plan/sheet", "hold", "cut", "measure", "batch", "form", "decide", "import", "readings", "record")
BODY = "od 60 x 80\n"


@pytest.mark.parametrize("kind", feature_kinds().values(), ids=lambda kind: kind.name)
def test_a_part_with_it_starts_and_every_page_of_it_opens(orla: Hand, kind: FeatureKind) -> None:
    line = kind.said(SaidFeature("A", kind.name, kind.example), [])
    number = number_of(start(orla, BODY + line))
    letter = [letter for letter, one in features(orla, number).items() if one["title"] == kind.title][-1]
    for stage in STAGES:
        assert orla.get(f"/jobs/{number}/{stage}?feature={letter}").status_code == 200, stage
    assert orla.get(f"/jobs/{number}/record.json").status_code == 200


@pytest.mark.parametrize("kind", [one for one in feature_kinds().values() if one.is_compared], ids=lambda kind: kind.name)
def test_what_is_tried_or_looked_at_takes_each_of_its_outcomes(orla: Hand, kind: FeatureKind) -> None:
    number = number_of(start(orla, BODY + kind.said(SaidFeature("A", kind.name, kind.example), [])))
    letter = next(letter for letter, one in features(orla, number).items() if one["title"] == kind.title)
    for outcome in trial_outcomes(kind.family):
        orla.get(f"/jobs/{number}/measure?feature={letter}")
        sent = orla.send(
            f"/jobs/{number}/measure/trials?feature={letter}", feature=letter, outcome=outcome, place=kind.places[0]
        )
        assert sent.status_code == 200, outcome
        assert features(orla, number)[letter]["verdict"]
