"""Live pages: what PostgreSQL announces of a job goes to every open page of it, in whatever server process it is."""

import asyncio
import json
import time
from collections import Counter
from collections.abc import AsyncIterator
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from typing import Annotated
from uuid import UUID

import psycopg
import structlog
from fastapi import APIRouter, Query, Request
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response, StreamingResponse

from nomisma.store.jobs import job_is_there
from nomisma.store.live import CHANNEL, told_since
from nomisma.web.frame.visit import find_visit

router = APIRouter(include_in_schema=False)
log = structlog.get_logger("nomisma.live")
HEARTBEAT_SECONDS = 15
LOOK_SECONDS = 4
"""How often a stream looks whether whoever reads it is still signed in."""
MOST_STREAMS = 40
"""Of one person in one server process: a tablet has one a page."""
AGAIN_SECONDS = 1
CLOCKS_DIFFER = timedelta(seconds=2)
"""The clocks of two machines differ by so much at most; a page passes over what a gauge sent twice."""
LATEST_MS = 4_000_000_000_000
Waiting = asyncio.Queue[dict[str, object]]


class Hub:
    """One LISTEN for the process, begun when the first page is open; every page of a job has a queue of its own."""

    def __init__(self, database_url: str) -> None:
        self._url = database_url.replace("postgresql+psycopg://", "postgresql://")
        self._pages: dict[int, set[Waiting]] = {}
        self._streams: Counter[UUID] = Counter()
        self._task: asyncio.Task[None] | None = None
        self.ready = asyncio.Event()

    def has_room(self, who: UUID) -> bool:
        """Whether somebody may open one more page that is live."""
        return self._streams[who] < MOST_STREAMS

    async def open(self, job: int, who: UUID) -> Waiting:
        """A queue of what is announced of a job from now on, for a page of somebody's."""
        self._streams[who] += 1
        queue: Waiting = asyncio.Queue(maxsize=200)
        self._pages.setdefault(job, set()).add(queue)
        if self._task is None or self._task.done():
            self._task = asyncio.create_task(self._listen())
        with suppress(TimeoutError):
            await asyncio.wait_for(self.ready.wait(), 5)
        return queue

    def close(self, job: int, queue: Waiting, who: UUID) -> None:
        """The page is gone."""
        self._streams[who] -= 1
        self._pages.get(job, set()).discard(queue)

    async def stop(self) -> None:
        """Stop listening."""
        if self._task is not None:
            self._task.cancel()
            with suppress(asyncio.CancelledError):
                await self._task

    async def _listen(self) -> None:
        while True:
            try:
                connection = await psycopg.AsyncConnection.connect(self._url, autocommit=True)
                async with connection:
                    await connection.execute(f"LISTEN {CHANNEL}")
                    self.ready.set()
                    # After a gap pages look again: something may have come while nobody listened.
                    self._tell_all({"kind": "reading"})
                    async for notice in connection.notifies():
                        self._tell(json.loads(notice.payload))
            except psycopg.Error as error:
                log.warning("live pages lost the database", reason=str(error)[:200])
            self.ready.clear()
            await asyncio.sleep(AGAIN_SECONDS)

    def _tell(self, message: dict[str, object]) -> None:
        job = message.get("job")
        for queue in self._pages.get(job, set()) if isinstance(job, int) else ():
            with suppress(asyncio.QueueFull):
                queue.put_nowait(message)

    def _tell_all(self, message: dict[str, object]) -> None:
        for job in self._pages:
            self._tell({**message, "job": job})


def _may(request: Request) -> bool:
    return _who(request) is not None


def _who(request: Request) -> UUID | None:
    """Who is signed in; none where nobody is."""
    with request.app.state.reading_sessions() as session:
        visit = find_visit(request, session)
        return visit.account.id if visit else None


def _is_job(request: Request, number: int) -> bool:
    with request.app.state.reading_sessions() as session:
        return job_is_there(session, number)


def _since_shown(request: Request, number: int, since_ms: int) -> list[dict[str, object]]:
    """What came between a page and its listening: what gauges sent, and whether anything was logged."""
    since = datetime.fromtimestamp(min(since_ms, LATEST_MS) / 1000, UTC)
    with request.app.state.reading_sessions() as session:
        return [dict(one) for one in told_since(session, number, since, clocks_differ=CLOCKS_DIFFER)]


@router.get("/jobs/{number}/live")
async def live(number: int, request: Request, since: Annotated[int, Query(ge=0)] = 0) -> Response:
    """Server-sent events of a job: `reading`, `disposition`, `plan`, `gauge`; first what came since the page was made
    (`since`, ms). Holds no database session while it is open.
    """
    who = await run_in_threadpool(_who, request)
    if who is None:
        return Response(status_code=401)
    if not await run_in_threadpool(_is_job, request, number):
        return Response(status_code=404)
    hub: Hub = request.app.state.hub
    if not hub.has_room(who):
        return Response(status_code=429, headers={"retry-after": "10"})

    async def events() -> AsyncIterator[str]:
        queue = await hub.open(number, who)
        looked = said = time.monotonic()
        try:
            yield "retry: 1000\n\n"
            for missed in await run_in_threadpool(_since_shown, request, number, since) if since else ():
                yield f"event: {missed['kind']}\ndata: {json.dumps(missed)}\n\n"
            while True:
                if time.monotonic() - looked >= LOOK_SECONDS:
                    looked = time.monotonic()
                    if not await run_in_threadpool(_may, request):
                        return  # signed out meanwhile, here or everywhere
                try:
                    message = await asyncio.wait_for(queue.get(), LOOK_SECONDS)
                    yield f"event: {message['kind']}\ndata: {json.dumps(message)}\n\n"
                except TimeoutError:
                    if time.monotonic() - said >= HEARTBEAT_SECONDS:
                        said = time.monotonic()
                        yield ": still here\n\n"
        finally:
            hub.close(number, queue, who)

    headers = {"cache-control": "no-store", "x-accel-buffering": "no"}
    return StreamingResponse(events(), media_type="text/event-stream", headers=headers)
