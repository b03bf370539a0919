"""Accounts, sign-in and its limits."""

from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

from nomisma.core.errors import InputError
from nomisma.store.accounts import SetBy, account_named, add_account, disable, enable, set_password, set_role
from nomisma.store.database import sessions_of
from nomisma.store.digest import digest
from nomisma.store.models import Account, SignInAttempt
from nomisma.store.models import Session as SignIn
from nomisma.store.passwords import strength_of
from nomisma.store.sign_ins import (
    SignInRefused,
    SignInRules,
    lift_pause,
    shut_out,
    sign_in,
    sign_out,
    signed_in_with,
    written_for,
)

RULES = SignInRules(tries=3, pause=timedelta(minutes=15), lasts=timedelta(hours=12))


def enter(
    db: Session,
    password: str = "hilltop-demo",
    *,
    name: str = "orla",
    address: str = "10.0.0.1",
    later: int = 0,
    rules: SignInRules = RULES,
) -> str:
    now = datetime.now(UTC) + timedelta(minutes=later)
    token, _ = sign_in(db, sign_in_name=name, password=password, address=address, now=now, rules=rules)
    return token


def disable_now(db: Session, account: Account) -> None:
    disable(db, account, datetime.now(UTC))


def role_now(db: Session, account: Account) -> None:
    set_role(db, account, "machinist")


def password_now(db: Session, account: Account) -> None:
    set_password(db, account, "reamer and teacup", own())


def own(*, given: bool = False) -> SetBy:
    return SetBy(datetime.now(UTC), "10.0.0.1", given=given)


def test_the_right_password_opens_a_session(db: Session) -> None:
    token = enter(db)
    assert written_for(db, token, datetime.now(UTC))
    assert signed_in_with(db, digest(token)).account.name == "Orla Quillfeather"


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
    with pytest.raises(SignInRefused, match="Too many tries. Wait 5[0-9] seconds"):
        enter(db)


def test_thirty_tries_at_once_are_thirty_tries(engine: Engine) -> None:
    sessions = sessions_of(engine)

    def wrong(_: int) -> str:
        with sessions() as session:
            try:
                enter(session, "wrong")
            except SignInRefused as refused:
                return str(refused)
        return "in"

    with ThreadPoolExecutor(30) as pool:
        said = list(pool.map(wrong, range(30)))
    assert sum("do not go together" in one for one in said) == RULES.tries
    assert sum("Too many tries" in one for one in said) == 30 - RULES.tries


def test_pauses_grow_and_the_lead_lifts_them(db: Session) -> None:
    for _ in range(3):
        with pytest.raises(SignInRefused):
            enter(db, "wrong")
    with pytest.raises(SignInRefused, match="do not go together"):
        enter(db, "wrong", later=1)  # the first pause is over within a minute, and the next is twice as long
    with pytest.raises(SignInRefused, match="Too many tries. Wait"):
        enter(db, later=2)
    lift_pause(db, "orla", datetime.now(UTC) + timedelta(minutes=2))
    db.commit()
    assert enter(db, later=2)


def test_many_addresses_do_not_guess_on_for_ever_but_who_is_known_gets_in(db: Session) -> None:
    assert enter(db, address="tablet")
    for number in range(RULES.tries * 4):
        with pytest.raises(SignInRefused):
            enter(db, "wrong", address=f"10.1.0.{number}", later=1)
    with pytest.raises(SignInRefused, match="Too many tries"):
        enter(db, address="10.1.0.99", later=1)
    assert enter(db, address="tablet", later=1), "a tablet this name signed in on is not shut out by others' guessing"


def test_one_address_does_not_go_through_all_names(db: Session) -> None:
    strict = replace(RULES, tries=1)
    for number in range(12):
        with pytest.raises(SignInRefused, match="do not go together"):
            enter(db, "wrong", name=f"guess {number}", rules=strict)
    with pytest.raises(SignInRefused, match="Too many tries"):
        enter(db, name="bram", rules=strict)


def test_what_was_typed_as_a_name_is_not_kept_and_old_tries_go(db: Session) -> None:
    with pytest.raises(SignInRefused):
        enter(db, "wrong", name="my password by mistake", later=-60 * 24 * 40)
    assert "my password by mistake" not in db.scalars(select(SignInAttempt.name_sha256)).all()
    enter(db)
    assert db.scalar(select(func.count()).where(SignInAttempt.at < datetime.now(UTC) - timedelta(days=31))) == 0


@pytest.mark.parametrize("change", [disable_now, role_now, password_now])
def test_a_change_of_the_account_ends_its_sign_ins(db: Session, change: Callable[[Session, Account], None]) -> None:
    token = enter(db, name="pim")
    change(db, account_named(db, "pim"))
    db.commit()
    assert written_for(db, token, datetime.now(UTC)) is None


def test_who_is_disabled_does_not_get_in_until_enabled(db: Session) -> None:
    account = account_named(db, "pim")
    disable(db, account, datetime.now(UTC))
    db.commit()
    with pytest.raises(SignInRefused, match="do not go together"):
        enter(db, name="pim")
    enable(account)
    db.commit()
    assert enter(db, name="pim")


def test_the_only_lead_stays_one(db: Session) -> None:
    lead = account_named(db, "bram")
    for change in (lambda: disable(db, lead, datetime.now(UTC)), lambda: set_role(db, lead, "machinist")):
        with pytest.raises(InputError, match="is the only lead"):
            change()


def test_nothing_of_a_password_is_trimmed_or_cut(db: Session) -> None:
    account = account_named(db, "pim")
    for password in (
        "  spaces at both  ends  ",
        "gravel violin teacup shaft " * 7 + "end",
        "schlüssel für die drehbank",
        "pass phrase 日本 two",
    ):
        set_password(db, account, password, own())
        db.commit()
        assert enter(db, password, name="pim")
        for near in (password.strip() + " x", password[:-1], password.upper()):
            with pytest.raises(SignInRefused):
                enter(db, near, name="pim")
        lift_pause(db, "pim", datetime.now(UTC))
        db.commit()


NONE = ["short", "aaaaaaaaaaaa", "abababababab", "x" * 201, "tab\tin the middle", ""]
GUESSED = [
    "password1234",
    "qwertyuiop12",
    "1234567890ab",
    "nomisma12345",
    "larkwhistle1234",
    "pimpimpimpim1",
    "Passw0rd2026!",
]


@pytest.mark.parametrize("password", [*NONE, *GUESSED])
def test_a_password_that_is_none_is_refused_when_it_is_set(db: Session, password: str) -> None:
    with pytest.raises(InputError, match="[Pp]assword"):
        set_password(db, account_named(db, "pim"), password, own())


@given(
    st.lists(
        st.sampled_from(["shaft", "teacup", "gravel", "violin", "ladder", "ember", "walnut"]),
        min_size=4,
        max_size=12,
        unique=True,
    )
)
def test_words_of_no_kin_may_be_set_and_more_of_them_are_no_weaker(words: list[str]) -> None:
    four, all_of_them = strength_of(" ".join(words[:4])), strength_of(" ".join(words))
    assert four.is_enough
    assert all_of_them.score >= four.score


def test_whose_name_is_shut_out_is_told_until_it_ends_or_is_lifted(db: Session) -> None:
    now = datetime.now(UTC)
    assert shut_out(db, now, RULES) == []
    for number in range(12):
        with pytest.raises(SignInRefused):
            enter(db, "wrong", address=f"10.0.1.{number}")
    found = shut_out(db, datetime.now(UTC), RULES)
    assert [(one.sign_in_name, one.failed, one.addresses) for one in found] == [("orla", 12, 12)]
    with pytest.raises(SignInRefused, match="Too many tries"):
        enter(db, address="10.0.1.99")
    assert enter(db, address="10.0.1.99", later=16), "a name is shut out for minutes"
    lift_pause(db, "orla", datetime.now(UTC))
    db.commit()
    assert shut_out(db, datetime.now(UTC), RULES) == []


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
    assert written_for(db, token, datetime.now(UTC) + timedelta(hours=13)) is None


def test_signing_out_ends_the_session(db: Session) -> None:
    token = enter(db)
    sign_out(db, token)
    assert written_for(db, token, datetime.now(UTC)) is None


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
    fields = {"sign_in_name": "new", "name": "New Hand", "role": "machinist", "password": "long enough for a shop"}
    with pytest.raises(InputError) as refused:
        add_account(db, **{**fields, **changes})
    assert refused.value.field == field
