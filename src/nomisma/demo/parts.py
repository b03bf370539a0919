"""Jobs of the invented shop that are read off a sketch: parts of several features, no mate."""

from dataclasses import dataclass

from nomisma.core.quantity.length import Unit
from nomisma.demo.jobs import CALIPER, DEPTH, METRIC, Logged

CALIPER_METRIC = "0–150 mm caliper"


@dataclass(frozen=True)
class DemoPart:
    """A job by lines, readings by the letter of their feature; `withdrawn`: a letter and why it does not count;

    `trials`: letter, how it went, from which end.
    """

    title: str
    asked: str
    by: str
    hours_ago: float
    unit: Unit
    machine: str
    lines: str
    readings: tuple[tuple[str, Logged], ...] = ()
    withdrawn: tuple[str, str] = ("", "")
    trials: tuple[tuple[str, str, str], ...] = ()
    handed_over: str = ""


PARTS = (
    DemoPart(
        title="Camera spigot with its lengths", asked="Drawing 14: the register locates, the lengths clear the shutter", by="orla",
        hours_ago=3, unit="mm", machine="Bench lathe",
        lines="od 24 h9 x 18 ±0.1, sets the position\nbore 12 H8 thru\nboss 20 f8 x 4.5 +0.05/0 high\n"
        "groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 from A\ncham 0.5 x 45, only seen\ntrial shutter plate wrings to slides",
        readings=(
            ("A", Logged("24.61", "near end 0°", METRIC)), ("A", Logged("23.975", "near end 0°", METRIC, cut=1)),
            ("A", Logged("23.976", "far end 0°", METRIC, cut=1)), ("B", Logged("18.04", "0°", CALIPER_METRIC)),
            ("B", Logged("18.02", "120°", CALIPER_METRIC)), ("D", Logged("20.412", "near end 0°", METRIC)),
        ),
        trials=(("J", "will_not_start", "mouth"),),
        withdrawn=("I", "the edge is broken by hand, as the drawing's note says"),
    ),
    DemoPart(
        title="Roller body, brass", asked="Carries the dome's edge; the bush goes in later", by="orla", hours_ago=1, unit="in",
        machine="Long lathe",
        lines="od 2.250 +.000/-.005 x 1.375 ±.005\nbore 1.125 +.001/0 thru\nbore 1.500 +.004/0 x .125 +.010/0 deep\nrunout .002 true to A",
        readings=(
            ("B", Logged("1.377", "0°", CALIPER)), ("B", Logged("1.376", "120°", CALIPER)), ("E", Logged(".131", "0°", DEPTH)),
        ),
    ),
    DemoPart(
        title="Clamp spacer", asked="A plain size off a sketch", by="pim", hours_ago=0.4, unit="mm", machine="Bench lathe",
        lines="28 ±0.1",
        readings=(("A", Logged("28.04", "0°", CALIPER_METRIC)), ("A", Logged("28.05", "90°", CALIPER_METRIC))),
    ),
    DemoPart(
        title="Pawl pin of the winch, worn", asked="Like the worn one, with what it has lost", by="orla", hours_ago=0.2, unit="mm",
        machine="Bench lathe", lines="od sample 9.86 plus 0.14 h8 x 32 ±0.2, carries the load\ncham 0.5 x 45, free\ntaper 1:20 over 12 ±0.05",
        readings=(("A", Logged("10.42", "near end 0°", METRIC)),),
    ),
)  # fmt: skip
