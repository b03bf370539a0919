"""What a page costs and where: its time, its questions to the database, and whose time it is."""

import logging
import statistics
import sys
import threading
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from types import FrameType

import structlog
from sqlalchemy import event
from sqlalchemy.engine import Engine
from starlette.testclient import TestClient
from tests.serving import sign_in_at

from nomisma.settings import Settings
from nomisma.web.app import application

PAGES: dict[str, tuple[str, int]] = {
    "Bench": ("/", 3),
    "Search": ("/?q=bulk&which=open", 3),
    "Part": ("/jobs/{n}/part", 5),
    "Mate": ("/jobs/{n}/mate?function=turns_freely", 3),
    "Plan": ("/jobs/{n}/plan", 5),
    "Make": ("/jobs/{n}/make", 5),
    "Hold": ("/jobs/{n}/hold", 3),
    "Cut": ("/jobs/{n}/cut", 3),
    "Measure": ("/jobs/{n}/measure", 3),
    "Assemble": ("/jobs/{n}/assemble", 3),
    "Record": ("/jobs/{n}/record", 5),
    "Worksheet": ("/slips?target=1.3725+in&set=i81", 3),
}
"""Every main page, and how many bare pages it may take."""
FIRST_BULK = 130
"""A job of the filled shop, past the demo's own."""
ASKED = 60
"""How often a page is asked for in one process."""
_WHOSE = (
    ("database and driver", ("/psycopg", "selectors.py")),
    ("SQLAlchemy", ("/sqlalchemy/",)),
    ("templates", ("/jinja2/", "/templates/", "/markupsafe/", "<template>")),
    ("calculations", ("/nomisma/core/",)),
    ("pages", ("/nomisma/web/", "/nomisma/jobs/", "/nomisma/store/")),
)
_EVERY_S = 0.0005


@dataclass(frozen=True, slots=True)
class PageCost:
    """What one page costs in one process: its time (ms), questions the first time and again, whose time it is
    (percent).
    """

    median_ms: float
    asked_first: int
    asked_again: int
    shares: dict[str, int]

    @property
    def whose(self) -> str:
        """The shares in words, the largest first."""
        return ", ".join(f"{name} {share}" for name, share in self.shares.items())


@contextmanager
def one_process(url: str) -> Iterator[TestClient]:
    """The application in this process, somebody signed in."""
    app = application(Settings(database_url=url, secret="benchmark", demo=True))
    structlog.configure(wrapper_class=structlog.make_filtering_bound_logger(logging.CRITICAL))
    with TestClient(app, follow_redirects=True) as client:
        sign_in_at(client)
        yield client


@contextmanager
def counted() -> Iterator[list[str]]:
    """The questions that are asked of any database meanwhile."""
    asked: list[str] = []

    def note(_: object, __: object, statement: str, *___: object) -> None:
        asked.append(statement)

    event.listen(Engine, "before_cursor_execute", note)
    try:
        yield asked
    finally:
        event.remove(Engine, "before_cursor_execute", note)


def cost_of(client: TestClient, path: str) -> PageCost:
    """What a page costs, asked for again and again."""
    with counted() as asked:
        assert client.get(path).status_code == 200, path
        first = len(asked)
        client.get(path)
        again = len(asked) - first
    times = []
    for _ in range(ASKED):
        started = time.perf_counter()
        client.get(path)
        times.append((time.perf_counter() - started) * 1000)
    with _sampled() as seen:
        for _ in range(ASKED):
            client.get(path)
    whole = sum(seen.values()) or 1
    shares = {who: round(100 * count / whole) for who, count in seen.most_common()}
    return PageCost(statistics.median(times), first, again, shares)


@contextmanager
def _sampled() -> Iterator[Counter[str]]:
    """Whose code the threads that answer are in, looked at every half millisecond."""
    seen: Counter[str] = Counter()
    done = threading.Event()
    aside = {threading.get_ident()}

    def look() -> None:
        aside.add(threading.get_ident())
        while not done.wait(_EVERY_S):
            for thread, frame in sys._current_frames().items():
                if thread not in aside and (who := _whose(frame)):
                    seen[who] += 1

    looking, usual = threading.Thread(target=look, daemon=True), sys.getswitchinterval()
    sys.setswitchinterval(_EVERY_S / 10)  # else whoever looks waits until the other one waits, and sees only that
    looking.start()
    try:
        yield seen
    finally:
        done.set()
        looking.join()
        sys.setswitchinterval(usual)


def _whose(frame: FrameType | None) -> str:
    """Whose code a thread is in that answers a page: the innermost that is named; empty for one that only waits."""
    found, answers = "", False
    while frame is not None:
        file = frame.f_code.co_filename
        found = found or next((who for who, parts in _WHOSE if any(part in file for part in parts)), "")
        answers = answers or "/nomisma/" in file
        frame = frame.f_back
    return found or "the rest" if answers else ""
