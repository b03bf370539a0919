"""Who may do what is one table: nobody by default, and a refusal says whom to ask."""

import re
from pathlib import Path

import pytest
from sqlalchemy.orm import Session

import nomisma.web
from nomisma.core.measuring.disposition import DISPOSITIONS
from nomisma.jobs.shop.rights import RIGHTS, Action, NotAllowed, may, must
from nomisma.store.models.people import Role
from tests.jobs.shop_floor import person


@pytest.mark.parametrize("action", Action)
def test_every_action_has_a_row_that_says_who_and_whom_to_ask(action: Action) -> None:
    assert RIGHTS[action].roles
    assert "lead" in RIGHTS[action].refusal


@pytest.mark.parametrize("action", Action)
@pytest.mark.parametrize("role", ["", "visitor", "Lead", "apprentice "])
def test_a_role_nobody_gave_may_nothing(role: str, action: Action) -> None:
    assert not may(role, action)


@pytest.mark.parametrize("role", Role)
def test_what_is_no_action_is_nobodys(role: Role) -> None:
    assert not may(role, "open_the_safe")


@pytest.mark.parametrize("action", Action)
def test_the_lead_may_all_of_it_and_the_apprentice_none(action: Action) -> None:
    assert may(Role.LEAD, action)
    assert not may(Role.APPRENTICE, action)


@pytest.mark.parametrize(
    "action", [Action.USE_AS_IS, Action.SCRAP, Action.JUDGE_ANEW, Action.APPROVE_FIRST_OFF, Action.HAND_OVER_OUT]
)
def test_some_is_the_leads_alone(action: Action) -> None:
    assert not may(Role.MACHINIST, action)
    assert RIGHTS[action].refusal.endswith("by the lead. Call the lead.")


@pytest.mark.parametrize("kind", DISPOSITIONS)
def test_every_disposition_is_an_action(kind: str) -> None:
    assert Action(kind) in RIGHTS


def test_a_refusal_names_what_and_whom(db: Session) -> None:
    with pytest.raises(NotAllowed, match="Stock is entered by a machinist or the lead. Ask one of them."):
        must(person(db, "pim"), Action.ENTER_STOCK)


def test_no_page_compares_a_role_by_its_name() -> None:
    templates = Path(nomisma.web.__file__).parent / "templates"
    compared = [path.name for path in templates.rglob("*.html") if re.search(r"\.role *(==|!=|in )", path.read_text())]
    assert compared == []


def test_every_action_a_page_asks_for_is_one() -> None:
    templates = Path(nomisma.web.__file__).parent / "templates"
    asked = {
        name
        for path in templates.rglob("*.html")
        for name in re.findall(r'may\(account\.role, "(\w+)"\)', path.read_text())
    }
    assert len(asked) > 5
    assert asked <= set(Action)
