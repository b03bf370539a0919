"""A real server in its own process, and Debian's Chromium to drive its pages."""

import os
import re
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
from playwright.sync_api import Browser, Page

from nomisma.cluster import Cluster
from tests.conftest import copy_database

ROOT = Path(__file__).parent.parent.parent


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    """Debian's Chromium, without the calls home it would make at its start."""
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
def address(cluster: Cluster, template: str) -> Iterator[str]:
    """The address of a running server on a demo shop of its own."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    environment = {
        **os.environ,
        "PYTHONPATH": str(ROOT / "src"),
        "DATABASE_URL": copy_database(cluster, template),
        "NOMISMA_SECRET": "only for tests",
        "NOMISMA_DEMO": "1",
        "NOMISMA_SIGN_IN_TRIES": "1000",
    }
    command = [
        sys.executable,
        "-m",
        "uvicorn",
        "--factory",
        "nomisma.web.app:application",
        "--port",
        str(port),
        "--log-level",
        "error",
    ]
    with tempfile.TemporaryFile() as log:
        process = subprocess.Popen(command, env=environment, stdout=log, stderr=log)
        try:
            _wait(f"http://127.0.0.1:{port}/health")
            yield f"http://127.0.0.1:{port}"
        finally:
            process.terminate()
            process.wait(20)


def _wait(url: str) -> None:
    for _ in range(200):
        try:
            if httpx.get(url).status_code == 200:
                return
        except httpx.TransportError:
            time.sleep(0.1)
    raise AssertionError("the server did not come up")


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
    # A refused form or a server that is away is logged by the browser and by htmx; those tests look at the page instead.
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
