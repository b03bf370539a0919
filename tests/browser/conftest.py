"""A real server in its own process, and Debian's Chromium to drive its pages."""

import os
import re
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, Page

from nomisma.cluster import Cluster
from tests.conftest import as_served, copy_database
from tests.serving import Server


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    """As `chromium`."""
    return chromium()


def chromium() -> dict[str, Any]:
    """How Debian's Chromium is started, without the calls home it would make."""
    return {
        "executable_path": os.environ.get("NOMISMA_CHROMIUM", "/usr/bin/chromium"),
        "args": [
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
        ],
    }


@pytest.fixture(scope="session")
def server(cluster: Cluster, template: str) -> Iterator[Server]:
    """A running server on a demo shop of its own."""
    found = Server(as_served(copy_database(cluster, template))).start()
    yield found
    found.stop()


@pytest.fixture(scope="session")
def address(server: Server) -> str:
    """Where it answers."""
    return server.address


@pytest.fixture(scope="session")
def signed_in() -> dict[str, Any]:
    """The cookies of everybody who signed in once."""
    return {}


@pytest.fixture
def bench(browser: Browser, address: str, signed_in: dict[str, Any]) -> Iterator[Callable[..., Page]]:
    """Any number of people at their own browsers, signed in; a page that complains in its console fails the test."""
    contexts, complaints = [], []

    def new(name: str = "orla", *, width: int = 1280, height: int = 800) -> Page:
        context = browser.new_context(
            base_url=address, viewport={"width": width, "height": height}, storage_state=signed_in.get(name)
        )
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(15_000)
        page.on("console", lambda message: complaints.append(message.text) if message.type == "error" else None)
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.goto("/")
        if name not in signed_in:
            page.fill("[name=sign_in_name]", name)
            page.fill("[name=password]", "hilltop-demo")
            page.press("[name=password]", "Enter")
            page.wait_for_url("**/")
            signed_in[name] = context.storage_state()
        return page

    yield new
    for context in contexts:
        context.close()
    # A refused form or a server that is away is logged by the browser and by htmx; those tests look at the page
    # instead.
    assert [text for text in complaints if not text.startswith(("Failed to load resource", "htmx:"))] == []


def start_job(page: Page, title: str, *, partner: str = "shaft", unit: str = "in") -> int:
    """Start a job from the bench; its number."""
    page.goto("/")
    page.fill("#field-title", title)
    page.check(f"[name=partner_kind][value={partner}]", force=True)
    page.check(f".stack [name=unit][value={unit}]", force=True)
    page.click("text=Start >> nth=-1")
    page.wait_for_url("**/mate")
    found = re.search(r"/jobs/(\d+)/", page.url)
    assert found
    return int(found[1])


def log_reading(page: Page, size: str) -> None:
    """Type a reading and Enter; wait until the field is empty and ready again."""
    before = page.input_value(".reading-form [name=client_id]")
    page.fill("#size", size)
    page.press("#size", "Enter")
    page.wait_for_function(
        "before => document.querySelector('.reading-form [name=client_id]')?.value !== before", arg=before
    )
