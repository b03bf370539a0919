"""A client of the whole application, signed in or not."""

import re
from collections.abc import Callable, Iterator
from typing import Any
from uuid import uuid4

import pytest
from starlette.testclient import TestClient

from nomisma.cluster import Cluster
from nomisma.web.app import application
from tests.conftest import copy_database, settings_for
from tests.serving import sign_in_at


def as_shown(response: Any) -> Any:
    """A page with its white space as a browser shows it: where a template's line is broken does not matter."""
    if response.headers.get("content-type", "").startswith("text/html"):
        between_tags = re.sub(r">\s*\n\s*<", "><", response.text)
        response._text = (
            re.sub(r"\s*\n\s*", " ", between_tags) if "<textarea" not in between_tags else _outside_fields(between_tags)
        )
    return response


def _outside_fields(text: str) -> str:
    """The same, with what stands in a field of many lines left as it is."""
    parts = re.split(r"(<textarea.*?</textarea>)", text, flags=re.DOTALL)
    return "".join(part if part.startswith("<textarea") else re.sub(r"\s*\n\s*", " ", part) for part in parts)


class Hand:
    """Somebody with a browser: follows redirects, keeps cookies, sends the page's own CSRF token."""

    def __init__(self, client: TestClient) -> None:
        self.client = client
        self.page = ""

    def get(self, path: str, **options: Any) -> Any:
        """Open a page."""
        response = as_shown(self.client.get(path, **options))
        self.page = response.text
        return response

    def send(self, path: str, **fields: str) -> Any:
        """Send a form with the CSRF token of the page last seen, and a client id of its own unless given."""
        token = re.search(r'name="csrf_token" value="([^"]+)"', self.page)
        form = {"csrf_token": token[1] if token else "", "client_id": str(uuid4()), **fields}
        response = as_shown(self.client.post(path, data=form))
        if response.status_code < 400:
            self.page = response.text
        return response

    def sign_in(self, name: str = "orla", password: str = "hilltop-demo") -> "Hand":
        """Sign in and stand at the bench."""
        sign_in_at(self.client, name, password)
        self.get("/")
        return self

    def instrument(self, part_of_name: str) -> str:
        """The id of an instrument, from the page last seen."""
        found = re.search(rf'<option value="([0-9a-f+-]+)"[^>]*>[^<]*{re.escape(part_of_name)}', self.page)
        assert found, f"no instrument {part_of_name} on this page"
        return found[1]


@pytest.fixture(scope="module")
def shop_url(cluster: Cluster, template: str) -> str:
    """One shop for the tests of a module: they start jobs of their own, or leave the demo's as they found them."""
    return copy_database(cluster, template)


@pytest.fixture(scope="module")
def running(shop_url: str) -> Iterator[TestClient]:
    """One application for the tests of a module, and a client that keeps it running."""
    with TestClient(
        application(settings_for(shop_url)), base_url="http://bench.test", raise_server_exceptions=False
    ) as host:
        yield host


def client_of(running: TestClient) -> TestClient:
    """Another browser at the running application, in its own event loop."""
    client = TestClient(running.app, base_url="http://bench.test", raise_server_exceptions=False)
    client.portal = running.portal
    return client


@pytest.fixture
def hands(running: TestClient) -> Callable[..., Hand]:
    """Any number of people at one application: `hands("orla")`, or `hands("")` for nobody signed in."""

    def new(name: str = "orla") -> Hand:
        hand = Hand(client_of(running))
        return hand.sign_in(name) if name else hand

    return new


@pytest.fixture
def newly(hands: Callable[..., Hand]) -> Hand:
    """The machinist, signed in for this test alone: for tests of signing in and out."""
    return hands("orla")


@pytest.fixture(scope="module")
def long_day(running: TestClient) -> Hand:
    """The machinist, signed in once for all tests of a module: signing in is meant to be slow."""
    return Hand(client_of(running)).sign_in("orla")


@pytest.fixture
def orla(long_day: Hand) -> Hand:
    """The machinist, who stays signed in; each test starts at the bench."""
    long_day.get("/")
    return long_day
