"""Every form, link and swap of a job carries the feature it is about; one sent for another is refused."""

import re
from html.parser import HTMLParser
from urllib.parse import parse_qs, urlsplit

import pytest
from starlette.testclient import TestClient

from nomisma.web.frame.job_in_hand import PAGES_OF_THE_JOB
from tests.web.conftest import Hand

OF_A_FEATURE = ("mate", "cut", "measure", "assemble", "batch", "form", "decide", "readings", "import", "part")
LAST_JOB = 129


class Requests(HTMLParser):
    """What a page may ask for: the addresses of its links and swaps, and its forms with their fields."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.addresses: list[str] = []
        self.forms: list[tuple[dict[str, str], dict[str, str]]] = []
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        given = {name: value or "" for name, value in attrs}
        self.addresses += [
            given[name] for name in ("href", "hx-get", "hx-post", "data-refresh") if name in given and tag != "form"
        ]
        if tag == "form":
            self.forms.append((given, {}))
        elif tag in ("input", "select") and self.forms and "name" in given:
            self.forms[-1][1][given["name"]] = given.get("value", "")

    def handle_endtag(self, tag: str) -> None:
        if tag == "form":
            self.addresses += [self.forms[-1][0][name] for name in ("hx-post",) if name in self.forms[-1][0]]


def _feature(address: str) -> str:
    return parse_qs(urlsplit(address).query).get("feature", [""])[0]


def _is_of_a_feature(number: int, address: str) -> bool:
    path = urlsplit(address).path.split("/")
    return (
        path[:3] == ["", "jobs", str(number)]
        and len(path) > 3
        and path[3] in OF_A_FEATURE
        and path[3] not in PAGES_OF_THE_JOB
    )


def _letters(page: str) -> list[str]:
    table = page.split('id="features-title"')[1].split("</table>")[0]
    return re.findall(r'<span class="letter">([A-Z]+)</span>', table)


def _row(page: str, letter: str) -> str:
    """The row of a feature in the table of Part."""
    return page.split("<tbody>")[1].split(f'<span class="letter">{letter}</span>')[1].split("</tr>")[0]


@pytest.fixture(scope="module")
def orla(running: TestClient) -> Hand:
    return Hand(running).sign_in()


@pytest.mark.parametrize("number", range(101, LAST_JOB + 1, 2))  # of every second job: they differ in little
def test_every_form_and_link_of_every_feature_says_which_it_is_about(orla: Hand, number: int) -> None:
    letters = _letters(orla.get(f"/jobs/{number}/part").text)
    made = re.findall(r'href="/jobs/\d+/part\?feature=([A-Z]+)#change"', orla.page)
    for letter in letters:
        for stage in OF_A_FEATURE:
            answer = orla.get(f"/jobs/{number}/{stage}?feature={letter}")
            assert answer.status_code == 200
            if answer.url.path.split("/")[3] != stage or (answer.history and _feature(str(answer.url)) != letter):
                continue  # a stage this feature does not have leads on
            found = Requests(answer.text)
            if len(made) > 1:
                unsaid = [one for one in found.addresses if _is_of_a_feature(number, one) and not _feature(one)]
                assert unsaid == [], (stage, letter)
            for form, fields in found.forms:
                address = form.get("action", str(answer.url))
                if form.get("method") == "get" and _is_of_a_feature(number, address):
                    assert fields.get("feature") == letter, (stage, letter, form)  # its address's own query is dropped
                elif _is_of_a_feature(number, address) and len(made) > 1:
                    assert _feature(address) == letter, (stage, letter, form)
                    assert fields.get("feature") == letter, (stage, letter, form)


def test_a_form_shown_for_one_feature_is_not_taken_for_another(orla: Hand) -> None:
    orla.get("/jobs/122/mate?feature=D")
    answer = orla.send("/jobs/122/mate/readings?feature=A", feature="D", size=".4374", place="near end 0°")
    assert answer.status_code == 409
    assert "shown for feature D and sent for A: nothing was kept" in answer.text


def test_what_the_joint_must_do_is_asked_at_the_feature_in_hand(orla: Hand) -> None:
    page = orla.get("/jobs/122/mate?feature=D").text
    form = next(fields for form, fields in Requests(page).forms if form.get("class") == "function-form")
    answered = orla.get(f"/jobs/122/mate?feature={form['feature']}&function=turns_freely").text
    assert "<strong>D</strong>, bush bore after pressing" in answered
    assert "bore, aim" in answered
    posts = [
        fields for form, fields in Requests(answered).forms if form.get("action", "").startswith("/jobs/122/limits")
    ]
    assert posts
    assert {fields["feature"] for fields in posts} == {"D"}


def test_a_choice_made_at_the_bore_leaves_the_outside_alone(orla: Hand) -> None:
    before = _row(orla.get("/jobs/122/part").text, "A")
    page = orla.get("/jobs/122/mate?feature=D&function=turns_freely").text
    form, fields = next(one for one in Requests(page).forms if one[0].get("action", "").startswith("/jobs/122/limits"))
    assert (
        orla.send(
            form["action"], **{k: v for k, v in fields.items() if k not in ("csrf_token", "client_id")}
        ).status_code
        == 200
    )
    after = orla.get("/jobs/122/part").text
    assert _row(after, "A") == before
    assert "Make to suit" in _row(after, "D")
