"""Accounts, sign-in and its limits."""

from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import select
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.store.accounts import SignInRefused, SignInRules, add_account, session_of, sign_in, sign_out
from nomisma.store.models import Account
from nomisma.store.models import Session as SignIn

RULES = SignInRules(tries=3, pause=timedelta(minutes=15), lasts=timedelta(hours=12))


def enter(
    db: Session, password: str = "hilltop-demo", *, name: str = "orla", address: str = "10.0.0.1", later: int = 0
) -> str:
    now = datetime.now(UTC) + timedelta(minutes=later)
    token, _ = sign_in(db, sign_in_name=name, password=password, address=address, now=now, rules=RULES)
    return token


def test_the_right_password_opens_a_session(db: Session) -> None:
    found = session_of(db, enter(db), datetime.now(UTC))
    assert found is not None
    assert found.account.name == "Orla Quillfeather"


def test_the_password_is_kept_only_as_an_argon2_hash(db: Session) -> None:
    hashes = db.scalars(select(Account.password_hash)).all()
    assert all(kept.startswith("$argon2id$") for kept in hashes)
    assert len(set(hashes)) == len(hashes)


def test_the_token_itself_is_not_in_the_database(db: Session) -> None:
    token = enter(db)
    assert token not in db.scalars(select(SignIn.token_sha256)).all()


@pytest.mark.parametrize(
    ("name", "password"), [("orla", "wrong"), ("nobody", "hilltop-demo"), ("", ""), ("orla", "x" * 5000)]
)
def test_a_wrong_name_and_a_wrong_password_sound_the_same(db: Session, name: str, password: str) -> None:
    with pytest.raises(SignInRefused, match="That name and password do not go together"):
        enter(db, password, name=name)


def test_after_too_many_tries_even_the_right_password_waits(db: Session) -> None:
    for _ in range(3):
        with pytest.raises(SignInRefused, match="do not go together"):
            enter(db, "wrong")
    with pytest.raises(SignInRefused, match="Too many tries. Wait 15 minutes"):
        enter(db)


def test_the_wait_ends(db: Session) -> None:
    for _ in range(3):
        with pytest.raises(SignInRefused):
            enter(db, "wrong")
    assert enter(db, later=16)


def test_somebody_elses_tries_do_not_shut_me_out(db: Session) -> None:
    for _ in range(3):
        with pytest.raises(SignInRefused):
            enter(db, "wrong", address="10.0.0.9")
    assert enter(db)


def test_a_good_sign_in_clears_the_count(db: Session) -> None:
    for _ in range(2):
        with pytest.raises(SignInRefused):
            enter(db, "wrong")
    enter(db)
    for _ in range(2):
        with pytest.raises(SignInRefused, match="do not go together"):
            enter(db, "wrong")
    assert enter(db)


def test_a_session_runs_out(db: Session) -> None:
    token = enter(db)
    assert session_of(db, token, datetime.now(UTC) + timedelta(hours=13)) is None


def test_signing_out_ends_the_session(db: Session) -> None:
    token = enter(db)
    sign_out(db, token)
    assert session_of(db, token, datetime.now(UTC)) is None


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"sign_in_name": "orla"}, "sign_in_name"),
        ({"role": "king"}, "role"),
        ({"password": "short"}, "password"),
        ({"name": " "}, "sign_in_name"),
    ],
)
def test_an_account_that_cannot_be_gets_its_sentence(db: Session, changes: dict[str, str], field: str) -> None:
    fields = {"sign_in_name": "new", "name": "New Hand", "role": "machinist", "password": "long enough"}
    with pytest.raises(InputError) as refused:
        add_account(db, **{**fields, **changes})
    assert refused.value.field == field
