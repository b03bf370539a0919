"""The commands, as they are typed: calc and its contracts, users, backup, and a server that dies and comes back."""

import contextlib
import io
import json
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import httpx
import psutil
import pytest

from nomisma.cli import batch_answers, main
from nomisma.core.registry import calculations
from nomisma.server import check_port, database
from nomisma.start_error import ClusterError, StartError
from tests.serving import sign_in_at

ROOT = Path(__file__).parent.parent
REAL_STARTS = 120  # seconds a start may take on a slow machine before the test gives up


def run(*words: str, stdin: str = "", home: Path | None = None) -> subprocess.CompletedProcess[str]:
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    if home:
        environment["NOMISMA_HOME"] = str(home)
    command = [sys.executable, "-m", "nomisma", *words]
    return subprocess.run(
        command, input=stdin, capture_output=True, text=True, env=environment, check=False, timeout=120
    )


def said(*words: str, stdin: str = "") -> subprocess.CompletedProcess[str]:
    """The same in this process: what is said by it, and not how it starts."""
    out, err = io.StringIO(), io.StringIO()
    code: str | int | None = 0
    with (
        pytest.MonkeyPatch.context() as patch,
        contextlib.redirect_stdout(out),
        contextlib.redirect_stderr(err),
    ):
        patch.setattr(sys, "argv", ["nomisma", *words])
        patch.setattr(sys, "stdin", io.StringIO(stdin))
        try:
            main()
        except SystemExit as ended:
            code = ended.code
    if isinstance(code, str):
        err.write(code)
    return subprocess.CompletedProcess(words, 1 if isinstance(code, str) else code or 0, out.getvalue(), err.getvalue())


def test_calc_fit_answers_as_the_contract_says() -> None:
    found = json.loads(run("calc", "fit", "callout=25 H7/g6", "--json").stdout)
    assert found["hole"]["upper_um"] == 21
    assert found["shaft"] == {
        "code": "g6",
        "lower_um": -20,
        "upper_um": -7,
        "lower_limit": "24.98 mm",
        "upper_limit": "24.993 mm",
    }
    assert (found["clearance_um"], found["kind"]) == ({"min": 7, "max": 41}, "clearance")


def test_calc_alone_lists_every_calculation_with_its_fields() -> None:
    text = said("calc").stdout
    for name, calculation in calculations().items():
        assert f"{name}: {calculation.title}" in text
        assert all(field in text for field in calculation.input_model.model_fields)


def test_calc_takes_lists_and_objects_as_json() -> None:
    partner = '{"kind": "bore", "readings": ["25.012 mm"], "uncertainty": "0.002 mm"}'
    words = ("make_to_suit", f"partner={partner}", "clearance_min=7 um", "clearance_max=27 um", "unit=mm")
    assert json.loads(said("calc", *words, "--json").stdout)["lower"] == "24.987 mm"


def test_calc_takes_an_object_part_by_part_and_an_inch_class() -> None:
    members = ("bore.kind=bore", "bore.callout=25 H7", "shaft.kind=shaft", "shaft.callout=25 g6")
    assert json.loads(said("calc", "together", *members, "--json").stdout)["kind"] == "clearance"
    assert json.loads(said("calc", "fit", "callout=1 RC4", "--json").stdout)["clearance_thou"] == {
        "min": 0.8,
        "max": 2.8,
    }


def test_calc_says_what_is_wrong_with_each_field_and_fails() -> None:
    done = said("calc", "amount_to_take", "measured=7/0 in")
    assert done.returncode == 2
    assert done.stderr.splitlines() == [
        "measured: “7/0 in” divides by zero. Check the fraction; 7/8 is written 7/8.",
        "wanted: This is needed. Give it a value.",
    ]


def test_calc_refuses_a_word_that_is_no_field() -> None:
    done = run("calc", "fit", "25 H7/g6")
    assert "is not key=value" in done.stderr
    assert done.returncode == 1


def test_batch_answers_line_by_line_in_order() -> None:
    lines = ['{"callout": "25 H7"}', "not json", '{"callout": "25 Q7"}', "[1]", '{"callout": "30 H7/g6"}']
    done = run("calc", "fit", "--batch", "-", stdin="\n".join(lines) + "\n")
    answers = [json.loads(line) for line in done.stdout.splitlines()]
    assert (done.returncode, done.stderr) == (2, "3 lines could not be answered.\n")
    assert [("error" in answer, answer.get("kind")) for answer in answers] == [
        (False, None),
        (True, None),
        (True, None),
        (True, None),
        (False, "clearance"),
    ]


def test_a_batch_without_a_name_names_its_calculations() -> None:
    lines = [json.dumps({"calculation": name, **calculation.example}) for name, calculation in calculations().items()]
    assert not any("error" in answer for answer in batch_answers(lines))


def test_a_port_that_is_taken_is_said_before_anything_starts() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        with pytest.raises(
            StartError, match=f"Port {port} on 127.0.0.1 cannot be used .* choose another: --port {port + 1}"
        ):
            check_port("127.0.0.1", port)


def test_postgresql_missing_is_said_with_what_to_install(monkeypatch: pytest.MonkeyPatch) -> None:
    from nomisma import cluster

    monkeypatch.setattr(cluster.Path, "glob", lambda *_: [])
    monkeypatch.setattr(cluster.shutil, "which", lambda _: None)
    with pytest.raises(ClusterError, match="initdb is missing. On Debian, as root: apt-get install postgresql"):
        cluster.program("initdb")


@contextlib.contextmanager
def a_home() -> Iterator[Path]:
    """A state folder of one's own, with whatever cluster was left in it stopped at the end."""
    folder = Path(tempfile.mkdtemp(prefix="nomisma-home-"))
    folder.chmod(0o755)
    yield folder
    run("stop", home=folder)
    shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture
def home() -> Iterator[Path]:
    """One for a test alone."""
    with a_home() as folder:
        yield folder


class Demo:
    """`./nomisma demo` as a process, and a browser's worth of HTTP to it."""

    def __init__(self, home: Path) -> None:
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "NOMISMA_HOME": str(home)}
        environment.pop("DATABASE_URL", None)
        command = [sys.executable, "-m", "nomisma", "demo", "--port", str(self.port)]
        self.log = tempfile.TemporaryFile()  # noqa: SIM115 - closed with the process
        self.process = subprocess.Popen(command, env=environment, stdout=self.log, stderr=self.log)
        self.browser = httpx.Client(base_url=f"http://127.0.0.1:{self.port}", follow_redirects=True, timeout=20)
        self._wait()

    def _wait(self) -> None:
        end = time.monotonic() + REAL_STARTS
        while time.monotonic() < end and self.process.poll() is None:
            try:
                if self.browser.get("/health").status_code == 200:
                    return
            except httpx.TransportError:
                time.sleep(0.1)
        self.log.seek(0)
        raise AssertionError(self.log.read().decode())

    def sign_in(self) -> None:
        """Stand at the bench as the machinist."""
        sign_in_at(self.browser)

    def log_reading(self, size: str) -> None:
        """Log a reading of the dome roller's bush; it is acknowledged when this returns."""
        page = self.browser.get("/jobs/104/measure").text
        form = dict(re.findall(r'type="hidden" name="([^"]+)" value="([^"]*)"', page.split('class="reading-form"')[1]))
        instrument = re.search(r'<option value="([0-9a-f-]+)"[^>]*>Bore gauge', page)
        assert instrument
        fields = {**form, "size": size, "place": "mouth 0°", "cut_since": "not", "instrument_id": instrument[1]}
        assert self.browser.post("/jobs/104/measure/readings", data=fields).status_code == 200

    def logged(self) -> list[str]:
        """The sizes logged of the bush, as typed."""
        record = self.browser.get("/jobs/104/record.json").json()
        return [row["entered"] for row in record["readings"] if row["member"] == "made"]

    def end(self, how: signal.Signals) -> int:
        """Send a signal and wait until the process is gone."""
        self.process.send_signal(how)
        code = self.process.wait(REAL_STARTS)
        self.browser.close()
        self.log.close()
        return code


def postmasters(home: Path) -> list[psutil.Process]:
    """PostgreSQL servers running on a state folder."""
    return [p for p in psutil.process_iter(["cmdline"]) if str(home / "cluster" / "data") in (p.info["cmdline"] or [])]


@dataclass(frozen=True)
class Lived:
    """What a server that was killed and begun again showed: what was logged before and after, who ran its PostgreSQL,
    how it ended on Ctrl-C and what was left then.
    """

    before: list[str]
    after: list[str]
    run_by: set[str]
    ended: int
    left_running: list[psutil.Process]
    data_is_kept: bool


@pytest.fixture(scope="module")
def lived() -> Iterator[Lived]:
    """A server killed in the middle of its work, begun again, and stopped: told once, for it takes long."""
    with a_home() as home:
        demo = Demo(home)
        demo.sign_in()
        before = demo.logged()
        demo.log_reading(".8731")
        demo.end(signal.SIGKILL)
        demo = Demo(home)
        demo.sign_in()
        after, run_by = demo.logged(), {process.username() for process in postmasters(home)}
        ended = demo.end(signal.SIGINT)
        kept = (home / "cluster" / "data" / "PG_VERSION").exists() or os.geteuid() != 0
        yield Lived(before, after, run_by, ended, postmasters(home), kept)


def test_every_acknowledged_reading_is_there_after_the_server_was_killed(lived: Lived) -> None:
    assert lived.after == [*lived.before, ".8731"]


def test_ctrl_c_stops_the_server_and_its_postgresql_and_keeps_the_data(lived: Lived) -> None:
    assert (lived.ended, lived.left_running, lived.data_is_kept) == (0, [], True)


def test_postgresql_never_runs_as_root(lived: Lived) -> None:
    assert lived.run_by == {"postgres" if os.geteuid() == 0 else psutil.Process().username()}


def test_a_second_server_shares_the_cluster_and_the_last_one_stops_it(home: Path) -> None:
    first, second = Demo(home), Demo(home)
    first.end(signal.SIGTERM)
    second.sign_in()
    assert second.logged()
    second.end(signal.SIGTERM)
    assert postmasters(home) == []


@pytest.fixture
def kept_up(home: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """The state folder with its PostgreSQL kept up, so that each command need not start it anew."""
    monkeypatch.setenv("NOMISMA_HOME", str(home))
    monkeypatch.delenv("DATABASE_URL", raising=False)
    with database("nomisma_shop"):
        yield home


def add(name: str, sign_in: str, role: str) -> subprocess.CompletedProcess[str]:
    words = ("user", "add", name, "--sign-in", sign_in, "--role", role, "--password", "-")
    return said(*words, stdin="bench and a vice\n")


def test_a_backup_comes_back_in_an_empty_shop_and_only_there(
    home: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("NOMISMA_HOME", str(home))
    monkeypatch.delenv("DATABASE_URL", raising=False)
    file = tmp_path / "shop.backup"
    added = add("Nell Rook", "nell", "lead")
    assert added.stdout == "Nell Rook may sign in as nell (lead), and is asked for a password of their own.\n"
    assert said("backup", str(file)).returncode == 0
    refused = said("restore", str(file))
    assert "has something recorded already" in refused.stderr
    said("stop")
    shutil.rmtree(home / "cluster")
    assert said("restore", str(file)).stdout == f"The shop of {file} is back.\n"
    again = add("Nell Rook", "nell", "lead")
    assert "“nell” is taken." in again.stderr


@pytest.mark.usefixtures("kept_up")
def test_accounts_are_kept_from_the_shell() -> None:
    for name, role in (("nell", "lead"), ("tam", "machinist")):
        said(
            "user",
            "add",
            name.title(),
            "--sign-in",
            name,
            "--role",
            role,
            "--password",
            "-",
            stdin="bench and a vice\n",
        )
    assert "Nell is the only lead" in said("user", "disable", "nell").stderr
    assert said("user", "disable", "tam").stdout == "Tam is signed out and may not sign in.\n"
    assert "tam: Tam, machinist, disabled 2" in said("user", "list").stdout
    assert said("user", "enable", "tam").stdout == "Tam may sign in.\n"
    assert said("user", "role", "tam", "lead").stdout == "Tam is lead now.\n"
    assert "12 to 200" in said("user", "password", "tam", "--password", "-", stdin="short\n").stderr
    shown = said("user", "password", "tam", "--password", "lathe and a file")
    assert (shown.returncode, "can be read by everyone on this machine" in shown.stderr) == (1, True)
    assert "guessed" in said("user", "password", "tam", "--password", "-", stdin="password12345\n").stderr
    changed = said("user", "password", "tam", "--password", "-", stdin="lathe and a file\n")
    assert "to be changed at the next sign-in, and is signed out everywhere" in changed.stdout
    assert said("user", "unlock", "tam").stdout == "Tam may try again at once.\n"
    assert said("user", "sign-out", "tam").stdout == "Tam is signed out everywhere.\n"
    assert "Nobody signs in as “ghost”" in said("user", "unlock", "ghost").stderr


@pytest.mark.parametrize("words", [("help",), ("--help",)])
def test_the_shell_command_says_what_there_is(words: tuple[str, ...]) -> None:
    text = subprocess.run([str(ROOT / "nomisma"), *words], capture_output=True, text=True, check=True).stdout
    for command in ("demo", "serve", "user add", "calc", "backup", "restore", "stop", "test", "check", "benchmark"):
        assert f"./nomisma {command}" in text


def test_a_command_that_is_not_there_fails() -> None:
    done = subprocess.run([str(ROOT / "nomisma"), "fly"], capture_output=True, text=True, check=False)
    assert done.returncode == 1
    assert "there is no command 'fly'" in done.stderr
