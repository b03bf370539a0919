"""Practice: a simulated piece chucked up, its keys turned, its needle read, and the score."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from uuid import UUID

import pytest
from sqlalchemy.orm import Session

from nomisma.core.practice.chuck import Feel, SimulatedChuck
from nomisma.core.practice.follow import make_move, read_round
from nomisma.core.practice.levels import level_named, levels
from nomisma.core.truing.four_jaw import TrueUpInput, true_up
from nomisma.store.append import append
from nomisma.store.database import engine_for, sessions_of
from nomisma.store.models import Truing, TruingEvent
from nomisma.store.truing import events_of
from tests.web.conftest import Hand
from tests.web.job.test_hold import text, words


@contextmanager
def opened(url: str) -> Iterator[Session]:
    """A session on the shop's database, and nothing left open."""
    engine = engine_for(url)
    with sessions_of(engine)() as db:
        yield db
    engine.dispose()


def begin(hand: Hand, level: str) -> str:
    hand.get("/practice")
    return str(hand.send("/practice", level=level).url.path)


def test_every_level_is_offered_and_chucks_up(long_day: Hand) -> None:
    long_day.get("/practice")
    assert long_day.page.count('action="/practice"') == len(levels())
    base = begin(long_day, "cast_rim")
    assert words(long_day) == "Read jaw 1"
    assert "It says" in long_day.get(f"{base}?at=3").text


def test_a_key_turned_is_felt_and_moves_the_needle(long_day: Hand) -> None:
    base = begin(long_day, "round_bar")
    before = needle(long_day)
    long_day.send(f"{base}/keys", turn="-3 1/8", at="0", circle="near")
    assert "The jaw moves without touching the work." in text(long_day.page)
    long_day.send(f"{base}/keys", turn="1 1/32", at="0", circle="near")
    assert "The jaw pushes the work." in text(long_day.page)
    assert needle(long_day) < before
    long_day.send(f"{base}/keys", turn="2 1/2", at="0", circle="near")
    assert "Ease that one first" in text(long_day.page)


def needle(hand: Hand) -> float:
    found = re.search(r"It says (−?[\d.]+) (?:mm|in)", hand.page)
    assert found
    return float(found[1].replace("−", "-"))


@pytest.mark.parametrize(
    "wrong",
    [{"turn": "9 1/8"}, {"turn": "1 forever"}, {"tap": "1 hammer"}, {}],
    ids=["no jaw", "no turn", "no tap", "nothing"],
)
def test_a_turn_that_is_none_has_its_sentence(long_day: Hand, wrong: dict[str, str]) -> None:
    base = begin(long_day, "leaning_sleeve")
    assert long_day.send(f"{base}/keys", at="0", **wrong).status_code == 422


def test_a_level_that_is_none_has_its_sentence(long_day: Hand) -> None:
    long_day.get("/practice")
    answer = long_day.send("/practice", level="anvil")
    assert answer.status_code in (404, 422)
    assert "There is no level “anvil”." in text(answer.text)


def test_somebody_elses_piece_is_not_shown(long_day: Hand, shop_url: str) -> None:
    with opened(shop_url) as db:
        other = db.query(Truing).filter(Truing.level != "", Truing.seed == 7).one()
    answer = long_day.get(f"/practice/{other.id}")
    assert answer.status_code in (404, 422)
    assert "is not yours" in text(answer.text)


def test_advice_followed_is_scored(long_day: Hand, shop_url: str) -> None:
    """The needle is read as the page shows it, the keys are turned by the page's own buttons' route, then tightened."""
    base = begin(long_day, "round_bar")
    truing_id = UUID(base.rsplit("/", 1)[1])
    for _ in range(4):
        readings = [needle_at(long_day, base, place) for place in range(4)]
        long_day.send(
            f"{base}/readings", size=" ".join(f"{one:.4f}" for one in readings), place="jaw 1", tightened="snug"
        )
        if words(long_day) == "Tighten pair by pair":
            break
        play(shop_url, truing_id)
    assert words(long_day) == "Tighten pair by pair"
    long_day.send(f"{base}/keys", tighten="yes", at="0", circle="near")
    readings = [needle_at(long_day, base, place) for place in range(4)]
    long_day.send(f"{base}/readings", size=" ".join(f"{one:.4f}" for one in readings), place="jaw 1", tightened="tight")
    assert "Well done." in text(long_day.page)
    assert "rounds read" in text(long_day.page)


def needle_at(hand: Hand, base: str, place: int) -> float:
    hand.get(f"{base}?at={place}")
    return needle(hand)


class NotedChuck(SimulatedChuck):
    """Writes down what the hand does."""

    def __post_init__(self) -> None:
        self.turned: list[tuple[int, float]] = []
        super().__post_init__()

    def turn(self, jaw: int, turns: float) -> Feel:
        self.turned.append((jaw, turns))
        return super().turn(jaw, turns)


def play(url: str, truing_id: UUID) -> None:
    """Turn the keys as advised, as finely as a hand does, and log the turns as the page does."""
    with opened(url) as db:
        truing = db.get_one(Truing, truing_id)
        level = level_named(truing.level)
        chuck = NotedChuck(level, truing.seed or 0)
        for event in events_of(db, [truing_id]):
            if event.kind == "turn":
                chuck.turn(int(event.detail["jaw"]), float(event.detail["turns"]))
        chuck.turned.clear()
        found = true_up(
            TrueUpInput(
                readings=read_round(chuck),
                target=level.target,
                screw_lead=level.lead,
                graduation=level.graduation,
                unit=level.unit,
            )
        )
        for move in found.moves:
            make_move(chuck, move, 1.0)
        for jaw, turns in chuck.turned:
            append(
                db,
                TruingEvent(truing_id=truing_id, kind="turn", detail={"jaw": jaw, "turns": turns}, by_id=truing.by_id),
            )
        db.commit()
