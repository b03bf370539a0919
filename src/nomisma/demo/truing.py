"""The demo's chucks and what was trued in them; every number is made up."""

from dataclasses import dataclass

from nomisma.demo.jobs import BENCH_INDICATOR, LEVER_INDICATOR

CHUCKS = (
    {"name": "Eight-inch four-jaw", "unit": "in", "screw_lead_text": "0.125", "most_rpm": "1800"},
    {"name": "160 mm four-jaw", "unit": "mm", "screw_lead_text": "3", "most_rpm": "2500"},
)
EIGHT_INCH = CHUCKS[0]["name"]


@dataclass(frozen=True)
class TruedRound:
    """One pass round, from jaw 1 on, so many minutes after the first."""

    readings: str
    minutes: int
    tightened: bool = False


@dataclass(frozen=True)
class Trued:
    """A set-up of a job in the eight-inch chuck."""

    job: str
    surface: str
    use: str
    target: str
    rounds: tuple[TruedRound, ...]
    ready: bool = True
    indicator: str = LEVER_INDICATOR
    hours_ago: float = 1.0


TRUED = (
    Trued(
        "Winch drum register",
        "bore",
        "second_operation",
        "0.0005",
        hours_ago=51,
        rounds=(
            TruedRound("0.0160 0.0070 0 0.0090", 0),
            TruedRound("0.0092 0.0075 0.0068 0.0085", 3),
            TruedRound("0.0081 0.0081 0.0079 0.0079", 6),
            TruedRound("0.0081 0.0078 0.0079 0.0082", 8, tightened=True),
        ),
    ),
    Trued(
        "Rope pulley, bronze bush pressed in",
        "rim",
        "second_operation",
        "0.0005",
        hours_ago=19.5,
        rounds=(
            TruedRound("0.0110 0.0040 0.0010 0.0080", 0),
            TruedRound("0.0060 0.00595 0.0060 0.00605", 3),
            TruedRound("0.0060 0.0062 0.0060 0.0058", 5, tightened=True),
        ),
    ),
    Trued(
        "Shutter cam, eccentric",
        "outside",
        "second_operation",
        "0.0005",
        hours_ago=1.2,
        rounds=(
            TruedRound("-0.0010 0.0120 0.0170 0.0040", 0),
            TruedRound("0.0068 0.0085 0.0092 0.0075", 3),
            TruedRound("0.0081 0.00785 0.0079 0.00815", 6),
            TruedRound("0.0081 0.00815 0.0079 0.00785", 8, tightened=True),
        ),
    ),
    Trued(
        "Dome roller, bronze bush",
        "rim",
        "second_operation",
        "0.0005",
        hours_ago=0.4,
        ready=False,
        indicator=BENCH_INDICATOR,
        rounds=(TruedRound("0.0120 0.0050 0 0.0080", 0), TruedRound("0.0070 0.0062 0.0052 0.0066", 4)),
    ),
)
PRACTISED = ("round_bar", 7, (("1", -0.125), ("3", 0.125)))
"""A level, its seed, and the keys the apprentice turned."""
PRACTISED_PART = ("plain_pin", 11)
"""A level of the lathe and its seed: the apprentice measured the stock."""
