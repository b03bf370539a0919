"""Slides moved by the keys of a terminal."""

import os
import pty
import sys
from decimal import Decimal

import pytest

from nomisma.core.errors import InputError
from nomisma.devices.slide_keys import moved_by_keys
from tests.devices.test_readouts import quiet


def test_w_and_a_move_in_and_to_the_chuck_and_q_ends(monkeypatch: pytest.MonkeyPatch) -> None:
    hand, terminal = pty.openpty()
    with os.fdopen(terminal, "r") as keyboard:
        monkeypatch.setattr(sys, "stdin", keyboard)
        moves = moved_by_keys(quiet(), Decimal("0.05"))
        told = [next(moves)]  # the terminal is set to single keys from here on; what came before is dropped
        os.write(hand, b"wwa?q")
        told += moves
    os.close(hand)
    assert told == [
        {"x": "25.000 mm", "z": "0.000 mm"},
        {"x": "24.950 mm", "z": "0.000 mm"},
        {"x": "24.900 mm", "z": "0.000 mm"},
        {"x": "24.900 mm", "z": "-0.050 mm"},
    ]


def test_without_a_terminal_a_script_is_asked_for(monkeypatch: pytest.MonkeyPatch) -> None:
    with open(os.devnull) as nothing:
        monkeypatch.setattr(sys, "stdin", nothing)
        with pytest.raises(InputError, match="Give a script"):
            next(moved_by_keys(quiet(), Decimal("0.05")))
