"""Puts the web application together: state, middleware, error pages and routes."""

import gc
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

import structlog
from anyio import CapacityLimiter
from fastapi import FastAPI
from starlette.concurrency import run_in_threadpool
from starlette.middleware.gzip import GZipMiddleware

from nomisma.core.registry import build_models
from nomisma.core.table import load_tables
from nomisma.jobs.shop.clock import now
from nomisma.settings import Settings
from nomisma.store.by_version import ReadByVersion
from nomisma.store.database import engine_for, reading_sessions_of, sessions_of
from nomisma.store.together import Together
from nomisma.store.warm import warm
from nomisma.web import api
from nomisma.web.frame import errors, live, styleguide
from nomisma.web.frame.assets import assets
from nomisma.web.frame.guard import Guard
from nomisma.web.frame.kept import Keeper
from nomisma.web.frame.logs import set_up_logs
from nomisma.web.frame.meter import Meter
from nomisma.web.frame.pages import Renderer
from nomisma.web.frame.routes import ROUTERS as FRAME
from nomisma.web.frame.slots import AT_ONCE, Slots
from nomisma.web.job.gauges import GaugeStore, listening
from nomisma.web.job.routes import ROUTERS as JOB
from nomisma.web.practice.routes import ROUTERS as PRACTICE
from nomisma.web.shop.routes import ROUTERS as SHOP
from nomisma.web.worksheets.routes import ROUTERS as WORKSHEETS

GZIP_LEVEL = 4
"""Beyond it a page gets hardly shorter, and takes longer than it saves."""


def application(settings: Settings | None = None) -> FastAPI:
    """The application; `settings` come from the environment unless given."""
    settings = settings or Settings.from_environment()
    set_up_logs()
    engine = engine_for(settings.database_url, pool_size=settings.pool_size)

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        if not await run_in_threadpool(warm, app.state.reading_sessions, now()):
            structlog.get_logger("nomisma").warning("the database is not there yet")
        await run_in_threadpool(app.state.renderer.make_ready)
        # What is loaded by now stays for good: the collector need not look through it again and again.
        gc.collect()
        gc.freeze()
        gc.set_threshold(20_000, 20, 50)
        async with listening(GaugeStore(app.state.reading, app.state.together), settings.gauge_port):
            yield
        await app.state.hub.stop()
        engine.dispose()

    load_tables()  # a wrong cell stops the start, not a page
    build_models()
    app = FastAPI(
        title=api.TITLE,
        version=api.VERSION,
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        lifespan=lifespan,
    )
    app.state.settings = settings
    app.state.sessions = sessions_of(engine)
    app.state.reading_sessions = reading_sessions_of(engine)
    app.state.reading = ReadByVersion(app.state.reading_sessions)
    app.state.together = Together(engine)
    app.state.hub = live.Hub(settings.database_url)
    app.state.calculating = CapacityLimiter(AT_ONCE)
    app.state.slots = Slots(AT_ONCE)
    app.state.anonymous = Meter(settings.open_calculations, seconds=60)
    app.state.keeper = Keeper(settings.secret)
    app.state.renderer = Renderer.of(demo=settings.demo)
    app.add_middleware(Guard, secure=settings.secure_cookies, hosts=settings.hosts, unexpected=errors.unexpected)
    app.add_middleware(GZipMiddleware, minimum_size=800, compresslevel=GZIP_LEVEL)
    errors.install(app)
    app.mount("/static", assets(), name="static")
    for router in (*FRAME, *JOB, *PRACTICE, *SHOP, *WORKSHEETS, api.router):
        app.include_router(router)
    if settings.demo:
        app.include_router(styleguide.router)
    return app
