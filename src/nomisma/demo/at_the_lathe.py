"""Jobs of the invented shop that stand on the lathe just now: one in its second set-up, five alike at the third."""

from nomisma.core.planning.holding import holdings
from nomisma.demo.jobs import BORE_TENTHS, CALIPER, METRIC, TENTHS, Logged
from nomisma.demo.parts import CALIPER_METRIC, DemoPart
from nomisma.jobs.planning.plan_entries import FirstStart, Intake, Said, StockChosen, Tick, Topic

BENCH_LATHE, LONG_LATHE = "Bench lathe", "Long lathe"


def _lathe(piece: str) -> str:
    """The collars, which have numbers, are turned on the long lathe: their bar goes through its spindle."""
    return LONG_LATHE if piece else BENCH_LATHE


def _started(set_up: str, way: str, piece: str = "") -> tuple[Topic, Said]:
    steps = list(holdings()[way].before_first_start)
    return "first_start", FirstStart(set_up=set_up, way=way, piece=piece, steps=steps, lathe=_lathe(piece))


def _done(*keys: str, piece: str = "") -> list[tuple[Topic, Said]]:
    return [("tick", Tick(key=key, piece=piece, lathe=_lathe(piece))) for key in keys]


def _read(key: str, letters: str, piece: str = "") -> list[tuple[Topic, Said]]:
    """Each of these features was read at places enough, and its reading closed the step."""
    enough = [Tick(key=key, piece=piece, lathe=_lathe(piece), letter=letter) for letter in letters]
    return [("tick", one) for one in (*enough, Tick(key=key, piece=piece, lathe=_lathe(piece), by_reading=True))]


def _collar(piece: str) -> list[tuple[Topic, Said]]:
    """A collar up to where it is parted off."""
    return [_started("right", "three_jaw", piece), *_done("1/face:", "1/deburr:", "1/part_off:", piece=piece)]


def _second_side(piece: str) -> list[tuple[Topic, Said]]:
    return [
        *([_started("left", "soft_jaws", piece)] if piece == "1" else []),
        *_read("2/face:B", "B", piece),
        *_done("2/centre_drill:C", "2/drill:C", piece=piece),
        *_read("2/bore:C", "C", piece),
        *_read("2/chamfer:D", "D", piece),
        *_done("2/deburr:", piece=piece),
    ]


AT_THE_LATHE = (
    DemoPart(
        title="Counterpoise spindle of the finder",
        asked="Its wheel slides on the long seat; a ring holds it",
        by="orla",
        hours_ago=0.4,
        unit="mm",
        machine=BENCH_LATHE,
        lines="od 20 h7 x 30\nod 26 ±0.1 x 40 ±0.1\nod 16 h8 x 26 ±0.1\ngroove 1.3 H13 to 15.2 -0.1 at 90\n"
        "length 96 ±0.2\ncham 0.5 x 45 both ends",
        readings=(
            ("E", Logged("15.985", "near end 0°", METRIC)),
            ("F", Logged("26.01", "0°", CALIPER_METRIC)),
            ("C", Logged("26.02", "near end 0°", CALIPER_METRIC)),
            ("D", Logged("40.03", "0°", CALIPER_METRIC)),
            ("G", Logged("1.36", "0°", CALIPER_METRIC)),
            ("H", Logged("15.15", "0°", CALIPER_METRIC)),
            ("I", Logged("90.02", "0°", CALIPER_METRIC)),
            ("J", Logged("96.05", "0°", CALIPER_METRIC)),
            ("A", Logged("20.412", "near end 0°", METRIC)),
        ),
        needed_in_days=2,
        planned=(
            (
                "intake",
                Intake(
                    must_do="its wheel slides along it by hand",
                    for_whom="the finder's counterpoise",
                    came_as="drawing",
                    material="1045",
                    known_by="certificate",
                ),
            ),
            ("stock", StockChosen(across="30", length="1000", parting="3", grip="20", material="carbon_steel")),
            _started("right", "three_jaw"),
            *_done("1/face:", "1/rough_turn:E,F", "1/rough_turn:C,D"),
            *_read("1/turn:E,F", "EF"),
            *_read("1/turn:C,D", "CD"),
            *_read("1/groove:G,H,I", "GHI"),
            *_done("1/chamfer:K", "1/deburr:"),
            _started("left", "soft_jaws"),
            *_read("2/face:J", "J"),
            *_done("2/rough_turn:A,B"),
        ),
    ),
    DemoPart(
        title="Stop collars of the flap, five",
        asked="One on each spindle; the bore goes on by hand",
        by="pim",
        hours_ago=1.1,
        unit="in",
        machine=LONG_LATHE,
        pieces=5,
        lines="od 1.250 ±.005 x .500 ±.003\nbore .6255/.6265 thru\ncham .020 x 45 both ends",
        readings=tuple(
            (letter, Logged(size, place, instrument, piece=piece))
            for piece, length, bore in (("1", ".5005", ".6259"), ("2", ".4998", ".6261"))
            for letter, size, place, instrument in (
                ("B", length, "0°", TENTHS),
                ("C", bore, "mouth 0°", BORE_TENTHS),
                ("D", ".020", "0°", CALIPER),
            )
        ),
        needed_in_days=4,
        planned=(
            (
                "intake",
                Intake(
                    must_do="holds the flap where it is put",
                    for_whom="the workshop",
                    came_as="words",
                    material="brass, as ordered",
                    known_by="said",
                ),
            ),
            ("stock", StockChosen(across="1.250", length="12", parting=".125", grip="1", unit="in")),
            *(said for piece in "12345" for said in _collar(piece)),
            *(said for piece in "12" for said in _second_side(piece)),
        ),
    ),
)
"""In the order they were begun; loaded after the other parts."""
