"""The listener for gauges on loopback, and binding a gauge to a job."""

import asyncio
import json
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager, suppress
from dataclasses import dataclass

import structlog
from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response
from sqlalchemy.exc import DBAPIError, InterfaceError, OperationalError
from starlette.concurrency import run_in_threadpool

from nomisma.core.errors import InputError, NomismaError
from nomisma.devices.protocol import (
    LONGEST_LINE,
    GaugeAnswer,
    GaugeMessage,
    NotThisProtocol,
    ReadoutMessage,
    is_name,
    read_line,
)
from nomisma.jobs.readings.gauges import bind_gauge
from nomisma.store.by_version import ReadByVersion
from nomisma.store.gauges import take, tell_position
from nomisma.store.together import Together
from nomisma.store.tokens import holds
from nomisma.web.frame.job_in_hand import href, job_in_hand
from nomisma.web.frame.visit import Post, posted

router = APIRouter(include_in_schema=False)
log = structlog.get_logger("nomisma.gauge")
AWAY = GaugeAnswer(ok=False, again=True, error="The record cannot be reached. Send it again.")
FULL = GaugeAnswer(ok=False, again=True, error="Too many gauges talk at once. Send it again later.")
MOST_TALKING = 32
FIRST_LINE_SECONDS = 10
IDLE_SECONDS = 900
LINES_A_SECOND = 200
"""Of one connection; what comes faster waits. No gauge of a bench shows more than some tens."""


@dataclass(frozen=True, slots=True)
class GaugeStore:
    """Where gauges are known and what they say is kept: read by its version, written together."""

    reading: ReadByVersion
    together: Together


class NotItsToken(InputError):
    """A gauge whose token is not the one the shop made for it last."""


def _keep(store: GaugeStore, message: GaugeMessage | ReadoutMessage) -> GaugeAnswer:
    """Commit one reading, or tell where the slides stand, then say so."""
    with store.reading.session(message.job) as session:
        if not holds(session, kind="gauge", name=message.gauge, token=message.token):
            raise NotItsToken(
                f"That is not the token of {message.gauge}.",
                "Make one in the Shop, and give it to the gauge.",
                field="token",
            )
        if isinstance(message, ReadoutMessage):
            slides = {str(axis): one for axis, one in message.lengths().items()}
            tell_position(
                session,
                gauge=message.gauge,
                positions=slides,
                x_reads=message.x_reads,
                zero_set=message.zero_set,
                job_number=message.job,
            )
            return GaugeAnswer(ok=True, number=message.number)
        take(
            session,
            id=message.id,
            gauge=message.gauge,
            run=message.run,
            number=message.number,
            size=message.length(),
            job_number=message.job,
            write=store.together.write,
        )
    return GaugeAnswer(ok=True, number=message.number)


def _has_its_token(store: GaugeStore, line: bytes) -> bool:
    """Whether a line that cannot be taken comes from a gauge of the shop all the same."""
    try:
        said = json.loads(line)
        gauge, token = said["gauge"], said["token"]
    except (ValueError, TypeError, KeyError, RecursionError):
        return False
    if not (isinstance(gauge, str) and isinstance(token, str) and is_name(gauge)):
        return False
    with store.reading.session() as session:
        return holds(session, kind="gauge", name=gauge, token=token)


async def answer(store: GaugeStore, line: bytes, *, proven: bool = False) -> tuple[GaugeAnswer, bool]:
    """What a line is answered (ok only when it is committed), and whether whoever sent it is listened to further.

    `proven`: a line before it had the gauge's token; until one has, what cannot be read is the last that is heard.
    """
    number = 0
    try:
        message = read_line(line)
    except InputError as error:
        known = not isinstance(error, NotThisProtocol) and (
            proven or await run_in_threadpool(_has_its_token, store, line)
        )
        return GaugeAnswer(ok=False, number=number, error=error.sentence), known
    try:
        number = message.number
        return await run_in_threadpool(_keep, store, message), True
    except NotItsToken as error:
        return GaugeAnswer(ok=False, number=number, error=error.sentence), False
    except InputError as error:
        return GaugeAnswer(ok=False, number=number, error=error.sentence), True
    except NomismaError as error:
        return GaugeAnswer(ok=False, number=number, error=str(error)), True
    except (OperationalError, InterfaceError):
        return AWAY, True
    except DBAPIError as error:  # what the record will never take: sending it again cannot help
        log.warning("a gauge's line was refused by the database", gauge=message.gauge, reason=type(error.orig).__name__)
        return (
            GaugeAnswer(ok=False, number=number, error="The record does not take this reading. Check the gauge."),
            True,
        )


async def _converse(store: GaugeStore, reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
    """One gauge's lines in order, each answered before the next is read, at a pace, until it falls silent or
    is none.
    """
    patience, listened_to, proven, due = FIRST_LINE_SECONDS, True, False, time.monotonic()
    try:
        while listened_to and (line := await asyncio.wait_for(reader.readline(), patience)):
            patience = IDLE_SECONDS
            due = max(due, time.monotonic() - 1) + 1 / LINES_A_SECOND
            await asyncio.sleep(max(due - time.monotonic(), 0))
            said, listened_to = await answer(store, line, proven=proven)
            proven = listened_to
            writer.write(said.line())
            await writer.drain()
    except ValueError:  # the line has no end within the limit
        writer.write(GaugeAnswer(ok=False, error=f"A line is at most {LONGEST_LINE} bytes.").line())
    except (ConnectionError, TimeoutError):
        pass
    finally:
        writer.close()
        with suppress(OSError):
            await writer.wait_closed()


@asynccontextmanager
async def listening(store: GaugeStore, port: int) -> AsyncIterator[None]:
    """Listen on loopback while the application runs; every worker shares the port. Port 0: not at all."""
    if not port:
        yield
        return
    talking: set[asyncio.Task[None]] = set()

    def greet(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        if len(talking) >= MOST_TALKING:
            writer.write(FULL.line())
            writer.close()
            return
        task = asyncio.ensure_future(_converse(store, reader, writer))
        talking.add(task)
        task.add_done_callback(talking.discard)

    try:
        server = await asyncio.start_server(greet, "127.0.0.1", port, reuse_port=True, limit=LONGEST_LINE)
    except OSError as error:
        log.warning("gauges are not heard", port=port, reason=error.strerror)
        yield
        return
    async with server:
        yield
        for task in talking:
            task.cancel()
        await asyncio.gather(*talking, return_exceptions=True)


@router.post("/jobs/{number}/gauges")
def bind(number: int, post: Post = Depends(posted)) -> Response:
    """Let a gauge speak on this job's pages from now on."""
    visit, state = post.visit, job_in_hand(post.visit, number)
    name = post.form.text("gauge", longest=60)
    bind_gauge(visit.db, state, name, by=visit.account, sent_id=post.form.client_id())
    visit.db.commit()
    stage = "hold" if post.form.text("stage") == "hold" else "measure"
    return RedirectResponse(href(state, stage), 303)
