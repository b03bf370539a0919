"""Who may sign in, from the shell: `./nomisma user`."""

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING, Annotated

import typer

from nomisma.core.errors import InputError

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

user = typer.Typer(no_args_is_help=True)

PasswordFrom = Annotated[str, typer.Option(help="- to read it from standard input; else it is asked for.")]


def _password(source: str) -> str:
    """A password from standard input or asked for twice; never from the command line, which everyone on the machine can
    read.
    """
    if source == "-":
        return sys.stdin.readline().rstrip("\r\n")
    if source:
        raise InputError(
            "A password on the command line can be read by everyone on this machine.",
            "Leave --password out to be asked for it, or give --password - and the password on standard input.",
            field="password",
        )
    return str(typer.prompt("Password", hide_input=True, confirmation_prompt=True))


@user.command("add")
def add_user(
    name: str,
    sign_in: Annotated[str, typer.Option(help="The word to sign in with.")],
    role: Annotated[str, typer.Option(help="machinist, lead or apprentice.")] = "machinist",
    unit: Annotated[str, typer.Option(help="in or mm: the unit first shown.")] = "in",
    password: PasswordFrom = "",
) -> None:
    """Let somebody sign in, with a password to be changed at the first sign-in."""
    from nomisma.store.accounts import add_account

    if unit not in ("in", "mm"):
        raise InputError(f"“{unit}” is not a unit here.", "Use in or mm.", field="unit")
    word = _password(password)
    with _shop() as session:
        account = add_account(session, sign_in_name=sign_in, name=name, role=role, password=word, unit=unit, given=True)
        print(
            f"{account.name} may sign in as {account.sign_in_name} ({account.role}), and is asked for a password of"
            " their own."
        )


@contextmanager
def _shop() -> Iterator["Session"]:
    """The shop's own database, in one transaction that is committed at the end."""
    from nomisma.server import database
    from nomisma.store.database import engine_on, sessions_of

    with database("nomisma_shop") as found, engine_on(found.owner) as engine, sessions_of(engine).begin() as session:
        yield session


SignInWord = Annotated[str, typer.Argument(help="The word somebody signs in with.")]


@user.command("list")
def list_users() -> None:
    """Everybody, with role, and who may not sign in."""
    from nomisma.store.accounts import accounts

    with _shop() as session:
        for one in accounts(session):
            away = f", disabled {one.disabled_at:%Y-%m-%d}" if one.disabled_at else ""
            print(f"{one.sign_in_name}: {one.name}, {one.role}{away}")


@user.command("disable")
def disable_user(sign_in: SignInWord) -> None:
    """Let somebody sign in no more, and sign them out now; what they wrote stays."""
    from datetime import UTC, datetime

    from nomisma.store.accounts import account_named, disable

    with _shop() as session:
        account = account_named(session, sign_in)
        disable(session, account, datetime.now(UTC))
        print(f"{account.name} is signed out and may not sign in.")


@user.command("enable")
def enable_user(sign_in: SignInWord) -> None:
    """Let somebody sign in again."""
    from nomisma.store.accounts import account_named, enable

    with _shop() as session:
        account = account_named(session, sign_in)
        enable(account)
        print(f"{account.name} may sign in.")


@user.command("role")
def change_role(
    sign_in: SignInWord, role: Annotated[str, typer.Argument(help="machinist, lead or apprentice.")]
) -> None:
    """Give somebody another role; sign-ins in the old one end."""
    from nomisma.store.accounts import account_named, set_role

    with _shop() as session:
        account = account_named(session, sign_in)
        set_role(session, account, role)
        print(f"{account.name} is {role} now.")


@user.command("password")
def reset_password(
    sign_in: SignInWord,
    password: PasswordFrom = "",
) -> None:
    """Give somebody another password, to be changed at the next sign-in; sign-ins by the old one end."""
    from datetime import UTC, datetime

    from nomisma.store.accounts import AT_THE_SERVER, SetBy, account_named, set_password

    word = _password(password)
    with _shop() as session:
        account = account_named(session, sign_in)
        set_password(session, account, word, SetBy(datetime.now(UTC), AT_THE_SERVER, given=True))
        print(f"{account.name} has another password, to be changed at the next sign-in, and is signed out everywhere.")


@user.command("sign-out")
def sign_out_user(sign_in: SignInWord) -> None:
    """End every sign-in of somebody: a tablet was lost."""
    from nomisma.store.accounts import account_named, sign_out_everywhere

    with _shop() as session:
        account = account_named(session, sign_in)
        sign_out_everywhere(session, account.id)
        print(f"{account.name} is signed out everywhere.")


@user.command("unlock")
def unlock_user(sign_in: SignInWord) -> None:
    """Lift the pause after too many wrong passwords."""
    from datetime import UTC, datetime

    from nomisma.store.accounts import account_named
    from nomisma.store.sign_ins import lift_pause

    with _shop() as session:
        account = account_named(session, sign_in)
        lift_pause(session, account.sign_in_name, datetime.now(UTC))
        print(f"{account.name} may try again at once.")
