"""Passwords: which may be set, how soon one would be guessed, and the hash that is kept of one."""

import threading
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

from argon2 import PasswordHasher
from argon2.exceptions import Argon2Error, InvalidHashError

from nomisma.core.errors import InputError

SHORTEST_PASSWORD, LONGEST_PASSWORD = 12, 200
FEWEST_SIGNS = 5
"""So many different characters at least: twelve times the same letter is no password."""
LEAST_STRENGTH = 3
"""Of 0 to 4: fewer than 100 million guesses reach what is below. Source: the estimator's own scale."""
ESTIMATED = 72
"""Signs of a password that are estimated: what is longer is no easier to guess."""
MOST_HASHES_AT_ONCE = 2
HASH_WAIT_SECONDS = 20
_hasher = PasswordHasher()
_hashing = threading.BoundedSemaphore(MOST_HASHES_AT_ONCE)


class TooManyAtOnce(InputError):
    """More passwords are being checked than this machine has memory for; each takes 64 MB."""


@contextmanager
def _a_turn() -> Iterator[None]:
    if not _hashing.acquire(timeout=HASH_WAIT_SECONDS):
        raise TooManyAtOnce("Too many are signing in at once.", "Wait a moment, then try again.", field="password")
    try:
        yield
    finally:
        _hashing.release()


def hash_of(password: str) -> str:
    """The Argon2 hash of a password; a few at a time. Raises TooManyAtOnce."""
    with _a_turn():
        return _hasher.hash(password)


def matches(password_hash: str, password: str) -> bool:
    """Whether a password is the one behind a hash; a few at a time. Raises TooManyAtOnce."""
    with _a_turn():
        try:
            return _hasher.verify(password_hash, password[: LONGEST_PASSWORD + 1])
        except (Argon2Error, InvalidHashError):
            return False


@dataclass(frozen=True)
class Strength:
    """How soon a password would be guessed, from 0 (at once) to 4, in words, and what would make it better."""

    score: int
    words: str
    advice: str

    @property
    def is_enough(self) -> bool:
        """Whether it may be set."""
        return self.score >= LEAST_STRENGTH


_WORDS = (
    "guessed at once: it is on the lists that are tried first",
    "guessed at once: it is close to what is on the lists that are tried first",
    "guessed soon",
    "hard to guess",
    "very hard to guess",
)
_ADVICE = "Four words that do not belong together are easy to keep; a year or a sign behind a common word adds little."


def strength_of(password: str, about: Sequence[str] = ()) -> Strength:
    """How soon it would be guessed, by lists of common passwords, names and words, keyboard rows, dates and repeats.

    `about`: names of who it is for and of the shop, which are guessed first. Source: zxcvbn 4.5.0 (MIT licence), its
    lists among them; D. Wheeler, USENIX Security 2016.
    """
    from zxcvbn import zxcvbn  # its lists take a quarter of a second to load: only where a password is set

    if not password:
        return Strength(0, "none yet", _ADVICE)
    known = [part for words in ("nomisma", *about) for part in (words, *words.split()) if part]
    score = int(zxcvbn(password[:ESTIMATED], user_inputs=known)["score"])
    return Strength(score, _WORDS[score], "" if score >= LEAST_STRENGTH else _ADVICE)


def check_password(password: str, about: Sequence[str] = (), *, field: str = "password") -> None:
    """Raises InputError for a password that may not be set: nothing of it is trimmed or cut, edge spaces count."""
    if not SHORTEST_PASSWORD <= len(password) <= LONGEST_PASSWORD:
        raise InputError(
            f"The password has {len(password)} characters.",
            f"Use {SHORTEST_PASSWORD} to {LONGEST_PASSWORD}; four words that do not belong together are easy to keep.",
            field=field,
        )
    if len(set(password)) < FEWEST_SIGNS or not password.isprintable():
        raise InputError(
            "The password repeats a few signs, or has one no keyboard types.",
            f"Use at least {FEWEST_SIGNS} different ones.",
            field=field,
        )
    strength = strength_of(password, about)
    if not strength.is_enough:
        raise InputError(f"That password would be {strength.words}.", strength.advice, field=field)
