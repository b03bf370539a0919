"""Whole jobs made on Make in a browser: pages loaded, keys pressed, and Enter to the next action."""

from collections.abc import Iterator
from dataclasses import dataclass
from uuid import uuid4

from playwright.sync_api import Browser, Page, sync_playwright
from tests.browser.at_the_lathe import Took, made
from tests.browser.conftest import chromium
from tests.serving import Server, filled_demo

from nomisma.cluster import Cluster
from nomisma.core.quantity.length import Unit
from nomisma.jobs.opening.new_job import Lines, open_by_lines
from nomisma.jobs.opening.requirements import plan_in_force, plan_measuring
from nomisma.jobs.planning.plan_entries import StockChosen
from nomisma.jobs.planning.plan_log import choose_stock
from nomisma.jobs.planning.plan_state import plan_of
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store.accounts import account_named
from nomisma.store.database import engine_for, sessions_of
from nomisma.store.models import Job

OF_ELEVEN_FEATURES = 125
"""A job of the demo."""
MOST_KEYS = 500
NEXT_MS = 60
"""From Enter to the next action on the page, as from Enter to a verdict."""


@dataclass(frozen=True, slots=True)
class Made:
    """A job as its machinist would type it; by which rule its pieces are accepted where its limits are closer than an
    instrument of the demo tells.
    """

    title: str
    unit: Unit
    lines: str
    stock: StockChosen
    pieces: int = 1
    acceptance: str = "guarded"


JOBS = (
    Made(
        "spindle nut, twelve",
        "in",
        "od 1.500 ±.005 x .625\nM24x2 thru\nc'bore 1.062 x .093 deep from the right\ncham .030 x 45 both ends\n"
        "knurl medium on A",
        StockChosen(across="1.5", unit="in", material="mild_steel"),
        pieces=12,
    ),
    Made(
        "gearbox shaft",
        "mm",
        "overall 182 ±0.2\nod 25 k6 from 0 to 28\nod 32 h9 from 28 to 120\n"
        "od 30 g6 from 120 to 150, true to B within 0.01\n"
        "od 25 k6 from 150 to 182, true to B within 0.01\nundercut F 0.6 x 0.3 at 28\nundercut F 0.6 x 0.3 at 150\n"
        "keyway 8 x 4 x 32 in C\ngroove 1.3 H13 to 23.9 at 176\ncham 1 x 45 both ends",
        StockChosen(across="35", surface="rolled"),
        acceptance="simple",
    ),
    Made(
        "two spacers of a pair",
        "in",
        "od .9995 -.0005 x 1.0000 ±.0002\nbore .5005/.5010 thru",
        StockChosen(across="1", unit="in", material="alloy_steel"),
        pieces=2,
        acceptance="simple",
    ),
)


def lathe_rows(found: Cluster) -> Iterator[tuple[str, str, float]]:
    """What each job took: pages loaded once Make is open (budget: none), keys against digits, one Enter a reading and
    one key a step; and how long Enter takes to the next action.
    """
    url = found.url(filled_demo(found, "lathe"))
    numbers = {"a part of eleven features": OF_ELEVEN_FEATURES} | {one.title: _opened(url, one) for one in JOBS}
    server = Server(url).start()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(**chromium())
            page = _signed_in(browser, server)
            for title, number in numbers.items():
                yield from _rows(title, made(page, number, most=MOST_KEYS))
            browser.close()
    finally:
        server.stop()


def _rows(title: str, took: Took) -> Iterator[tuple[str, str, float]]:
    keys, allowed = took.digits + took.enters, took.digits + took.readings + took.steps
    yield f"Made, {title}: pages loaded / none but the first", f"{took.loads}", float(took.loads)
    said = f"{keys} keys for {took.readings} readings in {took.steps} steps"
    yield f"Made, {title}: keys / (digits + one a reading + one a step)", said, keys / allowed
    p95 = sorted(took.next_ms)[int(len(took.next_ms) * 0.95)]
    yield f"Made, {title}: Enter to the next action, p95 / {NEXT_MS} ms", f"{p95:.0f} ms", p95 / NEXT_MS


def _opened(url: str, one: Made) -> int:
    """The job on record with its stock said; its number."""
    engine = engine_for(url)
    with sessions_of(engine)() as session:
        orla = account_named(session, "orla")
        assert orla is not None
        lathe = next(row.machine_id for row in session.query(Job) if row.machine_id)
        job = Job(id=uuid4(), title=one.title, asked="", unit=one.unit, machine_id=lathe, by_id=orla.id)
        number = open_by_lines(session, job, Lines(one.lines, one.unit)).number
        state = state_numbered(session, number)
        wanted = {**plan_in_force(state), "measuring_plan": "one" if one.pieces > 1 else "full"}
        plan_measuring(session, state, {**wanted, "pieces": str(one.pieces), "acceptance": one.acceptance}, by=orla)
        plan = plan_of(session, state_numbered(session, number))
        choose_stock(session, plan, one.stock, by=orla, sent_id=uuid4())
        session.commit()
    engine.dispose()
    return number


def _signed_in(browser: Browser, server: Server) -> Page:
    page = browser.new_context(base_url=server.address, viewport={"width": 1280, "height": 800}).new_page()
    page.goto("/sign-in")
    page.fill("[name=sign_in_name]", "orla")
    page.fill("[name=password]", "hilltop-demo")
    page.press("[name=password]", "Enter")
    page.wait_for_url("**/")
    return page
