"""The JSON API: the registry behind it, 422 with a sentence per field, and an honest OpenAPI document."""

import json
import re
from collections.abc import Callable
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, settings
from starlette.testclient import TestClient

from nomisma.core.registry import calculations
from nomisma.web import api
from nomisma.web.api import described
from nomisma.web.app import application
from nomisma.web.frame.guard import LARGEST_BODY
from tests.conftest import settings_for
from tests.web.conftest import Hand
from tests.web.slow import sleeps

ADDRESS = "/api/v1/calc"


@pytest.fixture
def nobody(hands: Callable[..., Hand]) -> Hand:
    return hands("")


@pytest.fixture
def somebody(long_day: Hand) -> Hand:
    """Signed in once for all tests here."""
    return long_day


@pytest.mark.parametrize("name", calculations())
def test_every_calculation_answers_over_the_api_as_it_does_in_the_core(somebody: Hand, name: str) -> None:
    calculation = calculations()[name]
    response = somebody.client.post(f"{ADDRESS}/{name}", json=calculation.example)
    assert response.status_code == 200
    assert response.text == calculation.run(calculation.example).model_dump_json()


def test_the_list_names_every_calculation_with_source_and_example(nobody: Hand) -> None:
    rows = nobody.get(ADDRESS).json()
    assert [row["name"] for row in rows] == list(calculations())
    assert all(row["source"] and row["validity"] and row["example"] for row in rows)


def test_bad_fields_get_a_sentence_each(somebody: Hand) -> None:
    response = somebody.client.post(f"{ADDRESS}/amount_to_take", json={"measured": "7/0", "colour": 1})
    assert response.status_code == 422
    assert {error["field"]: error["sentence"] for error in response.json()["errors"]} == {
        "measured": "“7/0” divides by zero. Check the fraction; 7/8 is written 7/8.",
        "wanted": "This is needed. Give it a value.",
        "colour": "There is no such field. Check its spelling.",
    }


@pytest.mark.parametrize("body", ["", "not json", "[]", '"text"', "null", "{", "1e999", "\x00"])
def test_a_body_that_is_no_object_gets_a_sentence(somebody: Hand, body: str) -> None:
    response = somebody.client.post(f"{ADDRESS}/fit", content=body, headers={"content-type": "application/json"})
    assert response.status_code == 422
    assert response.json()["errors"][0]["sentence"] == "The body is not a JSON object. Send the fields as one object."


def test_an_unknown_calculation_lists_the_known(somebody: Hand) -> None:
    response = somebody.client.post(f"{ADDRESS}/fitt", json={})
    assert response.status_code == 422
    assert "There are: aim, amount_to_take" in response.json()["errors"][0]["sentence"]


def test_a_job_over_the_api_needs_a_sign_in(nobody: Hand, newly: Hand) -> None:
    assert nobody.get("/api/v1/jobs/104").json() == {
        "errors": [{"field": "", "value": "", "sentence": "Sign in first."}]
    }
    assert newly.get("/api/v1/jobs/104").json()["title"] == "Dome roller, bronze bush"
    assert newly.get("/api/v1/jobs/99999").status_code == 404


def test_nothing_of_the_web_leaks_into_an_unknown_address(nobody: Hand) -> None:
    assert nobody.get("/api/v1/nothing").json()["errors"][0]["sentence"] == "There is no such page."


def test_the_openapi_document_describes_every_calculation(somebody: Hand) -> None:
    paths = somebody.get("/api/v1/openapi.json").json()["paths"]
    for name, calculation in calculations().items():
        operation = paths[f"{ADDRESS}/{name}"]["post"]
        assert calculation.source in operation["description"]
        assert operation["requestBody"]["content"]["application/json"]["example"] == json.loads(
            json.dumps(calculation.example)
        )


def _schema() -> Any:
    """The document does not depend on a database, so none is asked."""
    app = application(settings_for("postgresql://nobody@127.0.0.1:1/none", open_calculations=10**9))
    found = schemathesis.openapi.from_dict(json.loads(described()))
    found.app = app
    return found


@_schema().include(path_regex=ADDRESS).parametrize()
@settings(max_examples=8, deadline=None, suppress_health_check=list(HealthCheck))
def test_no_request_makes_a_calculation_fail(case: Any) -> None:
    response = case.call()
    assert response.status_code in (200, 405, 415, 422), response.text


def test_calculations_over_http_need_a_sign_in_or_a_token(nobody: Hand, somebody: Hand) -> None:
    example = calculations()["fit"].example
    assert nobody.client.post(f"{ADDRESS}/fit", json=example).status_code == 401
    assert nobody.client.post(f"{ADDRESS}/no_such", json={}).status_code == 401
    somebody.get("/shop/access")
    token = re.search(r'id="token">([^<]+)<', somebody.send("/shop/access", kind="program", name="cad desk").text)
    assert token
    bearer = {"authorization": f"Bearer {token[1]}"}
    assert nobody.client.post(f"{ADDRESS}/fit", json=example, headers=bearer).status_code == 200
    assert nobody.client.post(f"{ADDRESS}/fit", json=example, headers={"authorization": "Bearer x"}).status_code == 401
    assert nobody.client.get("/api/v1/jobs/104", headers=bearer).status_code == 401, (
        "a program calculates, and reads no record"
    )
    somebody.get("/shop/access")
    somebody.send("/shop/access/withdraw", kind="program", name="cad desk")
    assert nobody.client.post(f"{ADDRESS}/fit", json=example, headers=bearer).status_code == 401


def test_where_a_shop_opens_them_strangers_are_counted(shop_url: str) -> None:
    app = application(settings_for(shop_url, open_calculations=3))
    with TestClient(app, base_url="http://bench.test") as client:
        codes = [client.post(f"{ADDRESS}/fit", json=calculations()["fit"].example).status_code for _ in range(5)]
    assert codes == [200, 200, 200, 429, 429]


def test_a_calculation_that_takes_too_long_is_answered_calmly_and_the_server_goes_on(
    shop_url: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    app = application(settings_for(shop_url, open_calculations=9, calculation_seconds=1))
    with TestClient(app, base_url="http://bench.test") as client:
        with monkeypatch.context() as patched:
            patched.setattr(api, "_worked", sleeps)
            slow = [client.post(f"{ADDRESS}/fit", json={}) for _ in range(api.AT_ONCE)]
        assert [one.status_code for one in slow] == [503] * api.AT_ONCE
        assert "took longer" in slow[0].json()["errors"][0]["sentence"]
        assert app.state.calculating.borrowed_tokens == 0  # what was given up holds no place
        assert client.post(f"{ADDRESS}/fit", json={"callout": "25 H7"}).status_code == 200


@pytest.mark.parametrize("body", ["[" * 100_000, '{"a":' * 50_000, '{"callout": "\\ud800"}'])
def test_endless_nesting_and_half_a_sign_get_a_sentence(somebody: Hand, body: str) -> None:
    response = somebody.client.post(f"{ADDRESS}/fit", content=body, headers={"content-type": "application/json"})
    assert response.status_code == (413 if len(body) > LARGEST_BODY else 422)
