"""The commands of ./nomisma that run in Python."""

import json
import sys
from collections.abc import Iterable
from pathlib import Path
from typing import Annotated, Any

import typer

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.start_error import ClusterError, StartError
from nomisma.user_commands import user

DEFAULT_PORT = 8470
app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False)
app.add_typer(user, name="user", help="Who may sign in.")

Port = Annotated[int, typer.Option(min=1, max=65535, help="The port to serve on.")]
Host = Annotated[str, typer.Option(help="The address to serve on; 127.0.0.1 is this machine alone.")]


def main() -> None:
    """Run a command; what goes wrong on purpose is one line on standard error."""
    try:
        app()
    except (StartError, ClusterError, InputError) as error:
        sys.exit(f"nomisma: {error}")


@app.command()
def demo(
    port: Port = DEFAULT_PORT,
    host: Host = "127.0.0.1",
    fresh: Annotated[bool, typer.Option(help="Rebuild the demo shop.")] = False,
) -> None:
    """The invented shop, ready to try; its data is kept between starts."""
    from nomisma.demo.shop import PASSWORD, PEOPLE, load
    from nomisma.server import serve as run

    def announce(address: str) -> None:
        names = ", ".join(f"{person.sign_in_name} ({person.role})" for person in PEOPLE)
        print(
            f"\nNomisma, the demo shop: {address}\nSign in as {names}; password {PASSWORD}\nCtrl-C stops it; the data"
            " is kept.\n",
            flush=True,
        )

    run(database_name="nomisma_demo", host=host, port=port, demo=True, fresh=fresh, prepare=load, announce=announce)


@app.command()
def serve(
    port: Port = DEFAULT_PORT,
    host: Host = "127.0.0.1",
    workers: Annotated[int, typer.Option(min=1, max=64, help="Server processes.")] = 2,
    tls: Annotated[
        bool, typer.Option("--tls", help="Over HTTPS, by a certificate authority of this shop's own.")
    ] = False,
    http_port: Annotated[int, typer.Option(min=1, max=65535, help="With --tls: where plain HTTP leads to it.")] = 8480,
) -> None:
    """Your own shop: on DATABASE_URL if it is set, else on a private PostgreSQL of this machine."""
    from nomisma.server import serve as run
    from nomisma.store.accounts import accounts
    from nomisma.store.database import engine_on, sessions_of

    def prepare(url: str) -> None:
        with engine_on(url) as engine, sessions_of(engine)() as session:
            if not accounts(session):
                print("Nobody can sign in yet: ./nomisma user add 'Your Name' --sign-in WORD --role lead", flush=True)

    def announce(address: str) -> None:
        print(f"Nomisma: {address}", flush=True)
        if tls:
            print(_HOW_TO_TRUST.format(port=http_port), flush=True)

    run(
        database_name="nomisma_shop",
        host=host,
        port=port,
        workers=workers,
        prepare=prepare,
        announce=announce,
        http_port=http_port if tls else 0,
    )


_HOW_TO_TRUST = """
A tablet trusts it once it knows this shop's own authority: open http://THIS-MACHINE:{port}/nomisma-authority.crt there,
install the file as a CA certificate (Android: Settings, Security, Encryption; iPad: the profile, then Certificate Trust
Settings; Firefox and Chrome: Certificates, Authorities), and open http://THIS-MACHINE:{port}/ from then on. Compare its
fingerprint with `openssl x509 -noout -fingerprint -sha256 -in` the file authority.crt under NOMISMA_HOME/tls first."""


@app.command()
def calc(
    name: Annotated[str, typer.Argument()] = "",
    values: Annotated[
        list[str] | None,
        typer.Argument(
            help="key=value, values as on the page; lists and objects as JSON, objects also as part.key=value"
        ),
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="The whole result as one JSON object.")] = False,
    batch: Annotated[str, typer.Option(help="A file (or -) of JSON objects, one a line; one answer a line.")] = "",
) -> None:
    """Any calculation from the shell; alone, the list of them."""
    if batch:
        with sys.stdin if batch == "-" else Path(batch).open(encoding="utf-8") as lines:
            failed = 0
            for answer in batch_answers(lines, name):
                failed += "error" in answer
                print(json.dumps(answer, ensure_ascii=False), flush=True)
        if failed:
            print(f"{failed} line{'s' if failed > 1 else ''} could not be answered.", file=sys.stderr)
            raise typer.Exit(2)
        return
    if not name:
        print("\n\n".join(_described()))
        return
    try:
        from nomisma.core.registry import calculation_named  # a second to load, and most commands need none

        result = calculation_named(name).run(_fields(values or []))
    except BadInput as error:
        if as_json:
            print(json.dumps({"error": str(error), "errors": error.as_dicts()}, ensure_ascii=False))
        else:
            for item in error.errors:
                print(f"{item.field or 'input'}: {item.sentence}", file=sys.stderr)
        raise typer.Exit(2) from None
    print(result.model_dump_json(indent=None if as_json else 2))


def _described() -> Iterable[str]:
    from nomisma.core.registry import calculations

    for calculation in calculations().values():
        fields = ", ".join(
            f"{field}{'' if info.is_required() else '?'}"
            for field, info in calculation.input_model.model_fields.items()
        )
        yield (
            f"{calculation.name}: {calculation.title}\n  fields: {fields}\n  valid: {calculation.validity}\n  source:"
            f" {calculation.source}"
        )


def _fields(pairs: list[str]) -> dict[str, Any]:
    values: dict[str, Any] = {}
    for pair in pairs:
        key, equals, text = pair.partition("=")
        if not equals:
            raise InputError(f"“{pair}” is not key=value.", 'Write it like callout="25 H7/g6".', field=pair)
        *outer, last = key.split(".")
        inside = values
        for part in outer:  # housing.callout="25 H7" fills an object field by field
            inside = inside.setdefault(part, {})
            if not isinstance(inside, dict):
                raise InputError(
                    f"“{part}” is given twice, once as a whole.", "Give the whole, or its parts.", field=key
                )
        inside[last] = json.loads(text) if text[:1] in ("[", "{") and _is_json(text) else text
    return values


def _is_json(text: str) -> bool:
    try:
        json.loads(text)
    except ValueError:
        return False
    return True


def batch_answers(lines: Iterable[str], name: str = "") -> Iterable[dict[str, Any]]:
    """One answer a line, in order; an error is an object with `error`. Without a name each line says its
    `calculation`.
    """
    for line in lines:
        if line.strip():
            yield _answer(line, name)


def _answer(line: str, name: str) -> dict[str, Any]:
    try:
        values = json.loads(line)
    except ValueError:
        return {"error": "This line is not JSON."}
    if not isinstance(values, dict):
        return {"error": "This line is not a JSON object."}
    chosen = name or values.pop("calculation", "")
    try:
        from nomisma.core.registry import calculation_named

        return calculation_named(str(chosen)).run(values).model_dump(mode="json")
    except BadInput as error:
        return {"error": str(error), "errors": error.as_dicts()}


@app.command()
def gauge(
    size: Annotated[
        str, typer.Option(help="The true size, with its unit: 0.8741 in; several with ; between are taken in turn.")
    ],
    name: Annotated[str, typer.Option(help="What the shop calls it.")] = "bench-gauge",
    token: Annotated[
        str,
        typer.Option(envvar="NOMISMA_GAUGE_TOKEN", help="The token made for it in the Shop; empty: the demo shop's."),
    ] = "",
    noise: Annotated[str, typer.Option(help="One standard deviation of its readings, with unit.")] = "0 in",
    count: Annotated[int, typer.Option(min=1, help="How many readings.")] = 1,
    every: Annotated[float, typer.Option(min=0, help="Seconds between them.")] = 1.0,
    dropouts: Annotated[float, typer.Option(min=0, max=1, help="Share of answers it loses.")] = 0.0,
    duplicates: Annotated[float, typer.Option(min=0, max=1, help="Share of readings it sends twice.")] = 0.0,
    job: Annotated[int, typer.Option(help="A job's number; 0: the one it is bound to.")] = 0,
    port: Annotated[int, typer.Option(min=1, max=65535, help="The listener's port.")] = 8490,
    seed: Annotated[int, typer.Option(help="The same seed gives the same readings; 0: any.")] = 0,
) -> None:
    """A simulated gauge that speaks the protocol of docs/GAUGES.md to a running Nomisma."""
    import time

    from nomisma.core.quantity.writing import parse_length
    from nomisma.demo.shop import GAUGE_TOKEN
    from nomisma.devices.simulated import SimulatedGauge

    sizes = [parse_length(part, positive=False) for part in size.split(";")]
    unit, spread = sizes[0].unit, parse_length(noise, positive=False)
    simulated = SimulatedGauge(
        name,
        sizes[0].value(unit),
        unit,
        noise=abs(spread.value(unit)),
        around=tuple(one.value(unit) for one in sizes),
        dropouts=dropouts,
        duplicates=duplicates,
        token=token or GAUGE_TOKEN,
        job=job or None,
        port=port,
        seed=seed or None,
    )
    try:
        with simulated:
            for number, shown in simulated.readings(count):
                print(f"{number}  {shown}  kept", flush=True)
                if number < count:
                    time.sleep(every)
    except (ConnectionError, ValueError) as error:
        raise InputError(f"{error}.", f"Is Nomisma running, and does it listen on port {port}?") from None


@app.command()
def readout(
    script: Annotated[
        str,
        typer.Argument(
            help="How the slides move: x 25.0 mm in 5; wait 2; z -10 mm in 3. Left out: by the keys w s a d, q ends."
        ),
    ] = "",
    x: Annotated[str, typer.Option(help="Where the cross-slide stands, as it reads, with unit.")] = "25 mm",
    z: Annotated[str, typer.Option(help="Where the carriage stands, with unit.")] = "0 mm",
    name: Annotated[str, typer.Option(help="What the shop calls it.")] = "bench-readout",
    token: Annotated[
        str,
        typer.Option(envvar="NOMISMA_GAUGE_TOKEN", help="The token made for it in the Shop; empty: the demo shop's."),
    ] = "",
    radius: Annotated[bool, typer.Option("--radius", help="It reads the cross-slide on radius.")] = False,
    jitter: Annotated[str, typer.Option(help="One standard deviation of its figures, with unit.")] = "0 mm",
    scale_error_ppm: Annotated[
        float, typer.Option("--scale-error-ppm", help="What its scales read too much, parts per million.")
    ] = 0.0,
    a_second: Annotated[float, typer.Option(min=0.5, max=50, help="How often it sends.")] = 8.0,
    step: Annotated[str, typer.Option(help="How far a key moves a slide, with unit.")] = "0.05 mm",
    job: Annotated[int, typer.Option(help="A job's number; 0: the one it is bound to.")] = 0,
    port: Annotated[int, typer.Option(min=1, max=65535, help="The listener's port.")] = 8490,
) -> None:
    """A simulated readout: slides moved by a script or by keys, told to a running Nomisma (docs/GAUGES.md)."""
    from decimal import Decimal

    from nomisma.core.quantity.writing import parse_length
    from nomisma.demo.shop import GAUGE_TOKEN
    from nomisma.devices.simulated_readout import SimulatedReadout, script_moves
    from nomisma.devices.slide_keys import moved_by_keys

    at, along, spread, by = (parse_length(text, positive=False) for text in (x, z, jitter, step))
    simulated = SimulatedReadout(
        name,
        at.mm,
        at.unit,
        noise=abs(spread.value(at.unit)),
        token=token or GAUGE_TOKEN,
        job=job or None,
        port=port,
        slides_mm={"x": at.mm, "z": along.mm},
        scale_error_ppm=Decimal(str(scale_error_ppm)),
        x_reads="radius" if radius else "diameter",
        a_second=a_second,
        patience_seconds=10,
    )
    try:
        with simulated:
            moves = script_moves(script, at.unit)
            for shown in simulated.play(moves) if script else moved_by_keys(simulated, by.mm):
                print("  ".join(f"{axis} {figure}" for axis, figure in shown.items()), flush=True)
    except (ConnectionError, ValueError) as error:
        raise InputError(f"{error}.", f"Is Nomisma running, and does it listen on port {port}?") from None


@app.command()
def backup(
    file: Path, demo: Annotated[bool, typer.Option("--demo", help="The demo's shop in place of your own.")] = False
) -> None:
    """Everything recorded, in one file that only you can read; a file that is there is never written over."""
    from nomisma.backups import recorded, write_backup
    from nomisma.server import database

    with database("nomisma_demo" if demo else "nomisma_shop") as found:
        write_backup(found.owner, file)
        what = recorded(found.owner)
    shop = "the demo's shop" if demo else "your own shop"
    print(f"{file} has {shop}: {what.jobs} jobs, {what.readings} readings, {what.people} people.")
    if not what.people:
        print(
            "That shop is empty. Was another meant? The demo's is backed up by --demo, another by its NOMISMA_HOME or"
            " DATABASE_URL."
        )


@app.command()
def restore(file: Path) -> None:
    """Put a backup into an empty shop; a shop with anything in it is left alone."""
    from nomisma.backups import read_backup
    from nomisma.server import database
    from nomisma.store.accounts import accounts
    from nomisma.store.database import engine_on, sessions_of

    if not file.exists():
        raise InputError(f"There is no file {file}.", "Give the file that ./nomisma backup wrote.", field="file")
    with database("nomisma_shop") as found:
        with engine_on(found.owner) as engine, sessions_of(engine)() as session:
            if accounts(session):
                raise InputError(
                    "This shop has something recorded already.",
                    "Restore into an empty one: set NOMISMA_HOME to a new folder.",
                )
        read_backup(found.owner, file)
    print(f"The shop of {file} is back.")


@app.command()
def stop() -> None:
    """Stop a private PostgreSQL that was left running."""
    from nomisma.cluster import Cluster
    from nomisma.settings import state_folder

    down = Cluster(state_folder() / "cluster").stop()
    print("PostgreSQL is stopped." if down else "A running Nomisma still uses it; stop that first.")
