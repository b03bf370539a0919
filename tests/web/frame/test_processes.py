"""Work in processes of its own: answered, ended when it takes too long, and when nobody waits for it any more."""

import os
import time
from pathlib import Path

import pytest

from nomisma.web.frame.processes import NobodyWaits, OwnProcesses, Patience, TookTooLong

FOREVER = 60
PATIENT = Patience(FOREVER)


@pytest.fixture(scope="module")
def own() -> OwnProcesses:
    return OwnProcesses(1, os.getpid)


def test_it_is_done_in_another_process_and_what_it_raises_is_raised_here(own: OwnProcesses) -> None:
    assert own.run(PATIENT, os.getpid) != os.getpid()
    with pytest.raises(ZeroDivisionError):
        own.run(PATIENT, divmod, 1, 0)
    with pytest.raises(TimeoutError):
        own.run(PATIENT, _times_out)


def _times_out() -> None:
    raise TimeoutError("its own")


@pytest.mark.parametrize(
    ("patience", "raised"), [(Patience(0.05), TookTooLong), (Patience(FOREVER, gone=lambda: True), NobodyWaits)]
)
def test_what_is_given_up_is_ended_and_its_place_is_free(
    own: OwnProcesses, patience: Patience, raised: type[Exception]
) -> None:
    before = own.run(PATIENT, os.getpid)
    with pytest.raises(raised):
        own.run(patience, time.sleep, FOREVER)
    after = own.run(PATIENT, os.getpid)
    assert after != before
    assert any(_is_ended(before) or time.sleep(0.1) for _ in range(10 * FOREVER))


def _is_ended(process: int) -> bool:
    try:
        return Path(f"/proc/{process}/stat").read_text(encoding="utf-8").rpartition(")")[2].split()[0] == "Z"
    except FileNotFoundError:
        return True


def test_who_leaves_while_waiting_for_a_turn_takes_none() -> None:
    none_free = OwnProcesses(0, os.getpid)
    with pytest.raises(NobodyWaits):
        none_free.run(Patience(FOREVER, gone=lambda: True), os.getpid)
