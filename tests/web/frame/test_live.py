"""Gauges on a job's page, the live door, and the log page by page."""

import asyncio
import re
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from types import SimpleNamespace
from typing import Any
from uuid import UUID

import pytest
from starlette.responses import StreamingResponse

from nomisma.web.frame import live
from tests.web.conftest import Hand
from tests.web.shop.test_instruments import log, start

MIC = "0–25 mm micrometer"


def test_a_gauge_is_heard_where_it_was_told_to_speak_last(orla: Hand) -> None:
    numbers = [start(orla, f"Gauge job {n}") for n in range(2)]
    for number in numbers:
        orla.get(f"/jobs/{number}/measure")
        assert orla.send(f"/jobs/{number}/gauges", gauge="wandering gauge").status_code == 200
    assert "Gauges: wandering gauge" in re.sub(r"\s+", " ", orla.page)
    orla.get(f"/jobs/{numbers[0]}/measure")
    assert "wandering gauge" not in orla.page


def test_a_gauge_without_a_name_is_refused(orla: Hand) -> None:
    number = start(orla, "No name")
    orla.get(f"/jobs/{number}/measure")
    assert orla.send(f"/jobs/{number}/gauges", gauge="").status_code == 422


def test_what_a_gauge_sent_while_nobody_looked_waits_on_the_page(orla: Hand) -> None:
    orla.get("/jobs/104/measure")
    assert re.search(r'data-gauge-id="[0-9a-f-]+" data-gauge-size="0.8741 in" data-gauge="bench-gauge"', orla.page)


def test_nobody_listens_without_signing_in(hands: Callable[..., Hand]) -> None:
    assert hands("").get("/jobs/104/live").status_code == 401


def test_the_log_is_read_page_by_page_and_none_is_left_out(orla: Hand) -> None:
    number = start(orla, "Long log")
    rows = "\n".join(f"near end 0°,11.98{n % 10},mm" for n in range(120))
    orla.get(f"/jobs/{number}/import")
    orla.send(
        f"/jobs/{number}/import", csv=f"place,size,unit\n{rows}", step="take", decimal_mark="either", member="made"
    )
    seen, path = 0, f"/jobs/{number}/readings"
    for expected in (50, 50, 20):
        orla.get(path)
        count = len(re.findall(r'<td class="num">11\.98|u-mm">11\.98\d mm', orla.page))
        assert count == expected
        seen += count
        older = re.search(r'href="(/jobs/\d+/readings\?before=\d+)"', orla.page)
        path = older[1] if older else path
    assert seen == 120
    assert older is None


def test_the_newest_of_many_are_on_measure_with_a_way_to_the_rest(orla: Hand) -> None:
    number = start(orla, "Many")
    for n in range(25):
        log(orla, number, f"11.9{80 + n % 10}", MIC)
    orla.get(f"/jobs/{number}/measure")
    assert "Every reading, page by page" in orla.page


def test_a_live_page_ends_with_the_sign_in(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(live, "LOOK_SECONDS", 0.02)
    still = iter([True, True, False])
    monkeypatch.setattr(live, "_may", lambda _request: next(still))
    monkeypatch.setattr(live, "_who", lambda _request: UUID(int=1))
    monkeypatch.setattr(live, "_is_job", lambda _request, _number: True)

    class Quiet:
        closed = False

        def has_room(self, _who: UUID) -> bool:
            return True

        async def open(self, _job: int, _who: UUID) -> Any:
            return asyncio.Queue()

        def close(self, _job: int, _queue: Any, _who: UUID) -> None:
            self.closed = True

    hub = Quiet()
    request: Any = SimpleNamespace(app=SimpleNamespace(state=SimpleNamespace(hub=hub)))

    async def heard() -> list[str]:
        response = await live.live(104, request)
        assert isinstance(response, StreamingResponse)
        return [str(part) async for part in response.body_iterator]

    with ThreadPoolExecutor(1) as pool:  # the browser tests leave a loop running in this thread
        parts = pool.submit(lambda: asyncio.run(heard())).result(5)
    assert parts[0].startswith("retry")
    assert hub.closed


def test_a_job_that_is_not_there_is_not_followed(orla: Hand) -> None:
    assert orla.client.get("/jobs/99999/live").status_code == 404


def test_one_person_follows_so_many_pages_and_no_more(monkeypatch: pytest.MonkeyPatch) -> None:
    async def hears_nothing(hub: live.Hub) -> None:
        hub.ready.set()
        await asyncio.sleep(60)

    monkeypatch.setattr(live.Hub, "_listen", hears_nothing)
    hub, who, another = live.Hub("postgresql://nobody@127.0.0.1:1/none"), UUID(int=1), UUID(int=2)

    async def follow() -> list[bool]:
        queues = [await hub.open(104, who) for _ in range(live.MOST_STREAMS)]
        rooms = [hub.has_room(who), hub.has_room(another)]
        hub.close(104, queues[0], who)
        await hub.stop()
        return [*rooms, hub.has_room(who)]

    with ThreadPoolExecutor(1) as pool:
        assert pool.submit(lambda: asyncio.run(follow())).result(10) == [False, True, True]
