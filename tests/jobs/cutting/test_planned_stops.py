"""The stop of a step, from the turret that was kept."""

from nomisma.core.registry import calculation_named
from nomisma.jobs.cutting.planned_stops import stops_for
from nomisma.store.models import KeptAnswer


def kept(steps: str) -> KeptAnswer:
    answer = calculation_named("stops").run({"steps": steps, "apart": "5 mm"})
    return KeptAnswer(calculation="stops", answer=answer.model_dump(mode="json"))


def test_a_step_is_known_by_the_letter_in_its_name() -> None:
    found = stops_for([kept("face, at 0\nturn A, at 30, dial 24\nturn C, at 40")], ("A", "B"))
    assert [(one.name, str(one.stands), one.dial) for one in found] == [("turn A", "30 mm", "24 mm")]


def test_the_newest_turret_counts_and_other_answers_do_not() -> None:
    rows = [
        kept("turn A, at 30\nface, at 0"),
        kept("turn A, at 31\nface, at 0"),
        KeptAnswer(calculation="keyseat", answer={}),
    ]
    assert [str(one.stands) for one in stops_for(rows, ("A",))] == ["31 mm"]


def test_an_answer_of_another_shape_says_nothing() -> None:
    assert stops_for([KeptAnswer(calculation="stops", answer={"old": 1})], ("A",)) == []
