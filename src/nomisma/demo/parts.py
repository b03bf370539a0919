"""Jobs of the invented shop that are read off a sketch: parts of several features, no mate."""

from dataclasses import dataclass
from uuid import UUID

from nomisma.core.planning.chucking import RunoutAllowed, judge_runout
from nomisma.core.planning.holding import holdings
from nomisma.core.quantity.length import Length, Unit
from nomisma.demo.jobs import BENCH_INDICATOR, CALIPER, DEPTH, METRIC, Logged
from nomisma.jobs.planning.plan_entries import FirstStart, Intake, Question, RunoutRead, Said, StockChosen, Tick, Topic
from nomisma.jobs.shop.stock_shelf import BarGiven

CALIPER_METRIC = "0–150 mm caliper"

_NOBODY = UUID(int=0)
"""Each bar gets an id of its own when it is put on the shelf."""
BARS = (
    BarGiven(
        id=_NOBODY,
        words="rack 2, certificate 41",
        material="mild_steel",
        shape="round",
        surface="bright",
        unit="mm",
        across=Length.of("30", "mm"),
        length=Length.of("1430", "mm"),
    ),
    BarGiven(
        id=_NOBODY,
        words="remnant",
        material="mild_steel",
        shape="round",
        surface="bright",
        unit="mm",
        across=Length.of("30", "mm"),
        length=Length.of("212", "mm"),
    ),
    BarGiven(
        id=_NOBODY,
        words="by the bench lathe",
        material="brass",
        shape="round",
        surface="bright",
        unit="in",
        across=Length.of("1.000", "in"),
        length=Length.of("12", "in"),
    ),
    BarGiven(
        id=_NOBODY,
        words="left over from the dome's wheel",
        material="ductile_iron",
        shape="octagon",
        surface="rolled",
        unit="mm",
        across=Length.of("84", "mm"),
        length=Length.of("70", "mm"),
    ),
)


@dataclass(frozen=True)
class KeptDemo:
    """A worksheet's answer kept with a feature: its calculation, what was asked, as typed, and what it is for."""

    letter: str
    calculation: str
    asked: dict[str, str]
    note: str


@dataclass(frozen=True)
class DemoPart:
    """A job by lines, readings by the letter of their feature; `withdrawn`: a letter and why it does not count;

    `trials`: letter, how it went, from which end. `planned`: what was said of its plan, in order;
    `needed_in_days`: in what was asked first.
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
    kept: tuple[KeptDemo, ...] = ()
    planned: tuple[tuple[Topic, Said], ...] = ()
    pieces: int = 1
    needed_in_days: int | None = None


def _runout(way: str, read: Length, allowed: Length, indicator: str) -> RunoutRead:
    """What a needle said of a first set-up from the right."""
    judged = judge_runout(read.mm, RunoutAllowed(allowed.mm, ""), holdings()[way], read.unit)
    return RunoutRead(
        set_up="right",
        way=way,
        readings=[str(read)],
        indicator=indicator,
        total_indicator_reading_mm=str(read.mm),
        allowed_mm=str(allowed.mm),
        headline=judged.headline,
        unit=read.unit,
    )


PARTS = (
    DemoPart(
        title="Camera spigot with its lengths",
        asked="Drawing 14: the register locates, the lengths clear the shutter",
        by="orla",
        hours_ago=3,
        unit="mm",
        machine="Bench lathe",
        lines="od 24 h9 x 18 ±0.1, sets the position\nbore 12 H8 thru\nboss 20 f8 x 4.5 +0.05/0 high\n"
        "groove 2.2 +0.1/0 wide to 22 ±0.1 at 2 from the left\ncham 0.5 x 45, only seen\ntrial shutter plate wrings to "
        "slides",
        readings=(
            ("A", Logged("24.61", "near end 0°", METRIC)),
            ("A", Logged("23.975", "near end 0°", METRIC, cut=1)),
            ("A", Logged("23.976", "far end 0°", METRIC, cut=1)),
            ("B", Logged("18.04", "0°", CALIPER_METRIC)),
            ("B", Logged("18.02", "120°", CALIPER_METRIC)),
            ("D", Logged("20.412", "near end 0°", METRIC)),
        ),
        trials=(("J", "will_not_start", "mouth"),),
        withdrawn=("I", "the edge is broken by hand, as the drawing's note says"),
    ),
    DemoPart(
        title="Roller body, brass",
        asked="Carries the dome's edge; the bush goes in later",
        by="orla",
        hours_ago=1,
        unit="in",
        machine="Long lathe",
        lines="od 2.250 +.000/-.005 x 1.375 ±.005\nbore 1.125 +.001/0 thru\nbore 1.500 +.004/0 x .125 +.010/0 "
        "deep\nrunout .002 true to A",
        readings=(
            ("B", Logged("1.377", "0°", CALIPER)),
            ("B", Logged("1.376", "120°", CALIPER)),
            ("E", Logged(".131", "0°", DEPTH)),
        ),
    ),
    DemoPart(
        title="Clamp spacer",
        asked="A plain size off a sketch",
        by="pim",
        hours_ago=2.4,
        unit="mm",
        machine="Bench lathe",
        lines="28 ±0.1",
        readings=(("A", Logged("28.04", "0°", CALIPER_METRIC)), ("A", Logged("28.05", "90°", CALIPER_METRIC))),
    ),
    DemoPart(
        title="Pawl pin of the winch, worn",
        asked="Like the worn one, with what it has lost",
        by="orla",
        hours_ago=2.2,
        unit="mm",
        machine="Bench lathe",
        lines="od sample 9.86 plus 0.14 h8 x 32 ±0.2, carries the load\ncham 0.5 x 45, free\ntaper 1:20 over 12 ±0.05",
        readings=(("A", Logged("10.42", "near end 0°", METRIC)),),
        kept=(
            KeptDemo(
                "A",
                "clean_up",
                {"kind": "shaft", "stock": "10.6 mm", "wanted": "10 mm", "runout": "0.12 mm", "scale": "0.05 mm"},
                "the 10.6 bar in the rack",
            ),
        ),
    ),
    DemoPart(
        title="Oil-groove bobbin",
        asked="Carries the felt of the dome's rail oiler; two grooves feed it",
        by="orla",
        hours_ago=2.18,
        unit="mm",
        machine="Bench lathe",
        lines="od 30 h9 x 36 ±0.1, sets the position\nbore 12 H8 thru\ngroove 4 +0.1/0 wide to 24 ±0.1 at 6 ±0.05 from "
        "the left\n"
        "groove 4 +0.1/0 wide to 24 ±0.1 at 6 ±0.05 from the right\ncham 0.5 x 45 on A, only seen",
        kept=(
            KeptDemo(
                "D",
                "groove",
                {
                    "position": "6 mm",
                    "width": "4.05 mm",
                    "tool": "3 mm",
                    "corner": "far",
                    "feeler": "0.05 mm",
                    "count": "2",
                    "pitch": "20 mm",
                    "finish": "0.1 mm",
                    "outside": "30 mm",
                    "floor": "24 mm",
                    "by": "carriage",
                    "line": "0.1 mm",
                },
                "both grooves from the tailstock's face",
            ),
        ),
    ),
    DemoPart(
        title="Ribbed pulley of the drive",
        asked="Four ribs for the new belt of the dome's drive",
        by="orla",
        hours_ago=2.16,
        unit="mm",
        machine="Long lathe",
        lines="od 80 ±0.1 x 30 ±0.1, sets the position\nbore 20 H7 thru, carries the load\nrunout 0.03 true to C",
        kept=(
            KeptDemo(
                "A",
                "v_groove",
                {
                    "included_deg": "40",
                    "top": "4.4 mm",
                    "floor": "1 mm",
                    "outside": "80 mm",
                    "count": "5",
                    "pitch": "4.76 mm",
                    "first": "5.5 mm",
                    "shoulder": "30 mm",
                    "rod": "2.6 mm",
                },
                "five grooves, checked over the drills of 2.6",
            ),
        ),
        planned=(
            (
                "intake",
                Intake(
                    must_do="drives the dome's belt without slip",
                    for_whom="the night crew",
                    needed_by="before the frost",
                    came_as="sketch",
                    material="ductile iron, an octagon left over",
                    known_by="spark",
                    surfaces="the ribs and the bore",
                ),
            ),
            (
                "stock",
                StockChosen(
                    held="bar",
                    shape="octagon",
                    surface="rolled",
                    across="84",
                    length="70",
                    parting="4",
                    grip="25",
                    material="ductile_iron",
                    unit="mm",
                ),
            ),
            ("question", Question(question="Which way does the hub face, to the motor or away?")),
        ),
    ),
    DemoPart(
        title="Mandrel for the encoder hubs",
        asked="Between centres, for the 12 mm hubs; 0.0005 in per inch",
        by="pim",
        hours_ago=2.14,
        unit="mm",
        machine="Bench lathe",
        lines="taper .0005 per inch over 90 ±0.01 from 12.03 ±0.005, carries the load\nod 10 h9 x 20 ±0.2\nlength 110 "
        "±0.5, free",
        readings=(("B", Logged("12.204", "near end 0°", METRIC)),),
        kept=(
            KeptDemo(
                "A",
                "mandrel",
                {
                    "small_end": "11.985 mm",
                    "length": "90 mm",
                    "taper": "0.0005 per inch",
                    "bore_lower": "12 mm",
                    "bore_upper": "12.018 mm",
                    "bore_length": "16 mm",
                    "grip": "0.003 mm",
                },
                "where the hubs sit",
            ),
        ),
    ),
    DemoPart(
        title="Four-stop knob",
        asked="Twelve knobs for the shutter's hand drive, one after the other on the stops",
        by="orla",
        hours_ago=2.12,
        unit="in",
        machine="Long lathe",
        lines="od .875 ±.005 from 0 to .500, only seen\nod .500 ±.002 from .500 to .750\nbore .250 +.002/-0 x .600 "
        "±.010 deep from the right\n"
        "length .750 ±.005\ngroove .094 +.004/-0 wide to .400 ±.005 at .520 ±.005 from the left\ncham 1/32 x 45 on A, "
        "only seen",
        kept=(
            KeptDemo(
                "E",
                "stops",
                {
                    "steps": "stock out, at .900 in\nface, tool 1, at 0, 600 rpm\n"
                    "turn stem, tool 2, at .250 in, dial .500 in, 600 rpm, short\n"
                    "groove, tool 3, at .230 in, dial .400 in, 250 rpm\npart, tool 4, at .844 in, 200 rpm",
                    "stations": "6",
                    "apart": "0.375 in",
                    "short": "0.003 in",
                },
                "the table by the lathe",
            ),
        ),
        planned=(
            (
                "intake",
                Intake(
                    must_do="turned by two fingers in gloves",
                    came_as="drawing",
                    material="brass",
                    known_by="file",
                    surfaces="the head is seen",
                ),
            ),
            (
                "stock",
                StockChosen(
                    held="bar",
                    face_as_parted=True,
                    across="1.0",
                    length="12",
                    parting=".094",
                    grip="1",
                    material="brass",
                    unit="in",
                ),
            ),
            ("runout", _runout("three_jaw", Length.of("0.003", "in"), Length.of("0.125", "in"), BENCH_INDICATOR)),
            (
                "first_start",
                FirstStart(set_up="right", way="three_jaw", steps=list(holdings()["three_jaw"].before_first_start)),
            ),
            ("tick", Tick(key="1/face:")),
        ),
    ),
    DemoPart(
        title="Flywheel of the air pump",
        asked="A casting: rim and hub true to the bore, light cuts until the grip is on metal",
        by="orla",
        hours_ago=2.1,
        unit="mm",
        machine="Long lathe",
        lines="od 176 ±0.2 x 21 ±0.2 true to E\nod 44 ±0.2 x 16 ±0.2, free\nbore 19 H7 thru, carries the load\nlength "
        "37 ±0.2",
        planned=(
            (
                "intake",
                Intake(
                    must_do="evens out the pump's stroke",
                    for_whom="the chamber under the dome",
                    came_as="sample",
                    material="grey iron",
                    known_by="file",
                    surfaces="the bore; what is seen running is the inside of the rim",
                    worn="the old bore, 0.4 oval; new it was 19 to the key's drawing",
                ),
            ),
            (
                "stock",
                StockChosen(held="blank", surface="cast", across="182", length="42", material="grey_iron", unit="mm"),
            ),
            ("question", Question(question="Is the face of the boss chilled? Skim it before the bore.")),
        ),
    ),
    DemoPart(
        title="Covers of the gear case, two from one bar",
        asked="Two alike, one after the other from the bar that is there",
        by="orla",
        hours_ago=2.08,
        unit="mm",
        machine="Long lathe",
        lines="od 68 ±0.1 x 5 ±0.1\nod 51 h8 x 6 ±0.1 true to E\nbore 17 H7 thru\nlength 11 ±0.1",
        planned=(
            (
                "intake",
                Intake(
                    must_do="closes the case and carries the seal",
                    came_as="drawing",
                    material="aluminium",
                    known_by="said",
                ),
            ),
            (
                "stock",
                StockChosen(
                    held="bar", across="70", length="64", parting="3", grip="18", material="aluminium_6061", unit="mm"
                ),
            ),
        ),
    ),
    DemoPart(
        title="Tube of the finder, in a steady",
        asked="Bored at its far end, held a long way from the chuck",
        by="orla",
        hours_ago=2.06,
        unit="mm",
        machine="Long lathe",
        lines="od 33 ±0.1 x 410 ±0.5, only seen\nbore 27 +0.1/0 x 45 ±0.5 deep from the right, sets the position",
        planned=(
            (
                "intake",
                Intake(
                    must_do="carries the finder's lens square",
                    came_as="mating_part",
                    material="brass tube, drawn",
                    known_by="magnet",
                ),
            ),
            (
                "stock",
                StockChosen(
                    held="bar",
                    shape="tube",
                    across="34",
                    bore="25",
                    length="445",
                    parting="3",
                    grip="25",
                    material="brass",
                    unit="mm",
                ),
            ),
            ("runout", _runout("steady", Length.of("0.09", "mm"), Length.of("1", "mm"), "Plunger indicator, 0.01 mm")),
        ),
    ),
)
LATER_PARTS = (
    DemoPart(
        title="Lock screw of the dome",
        asked="Screws the dome down in a storm; the old one was left out in the rain",
        by="orla",
        hours_ago=2.05,
        unit="mm",
        machine="Long lathe",
        lines="od 28 ±0.1 x 16 ±0.1\nM20x1.5 6g x 30 ±0.2, carries the load\ngroove 3 +0.1/0 wide to 17.5 ±0.1 at 16 "
        "±0.1 from the left\n"
        "tap M8 x 20 deep from the right\ncham 1.5 x 45 on C\ncham 1 x 45 on A, only seen",
        readings=(
            ("C", Logged("19.88", "near end 0°", METRIC)),
            ("C", Logged("19.87", "far end 0°", METRIC)),
            ("E", Logged("wires 20.24 on 0.89", "near end 0°", METRIC)),
        ),
        planned=(
            (
                "intake",
                Intake(
                    must_do="holds the dome down",
                    came_as="sample",
                    material="mild steel",
                    known_by="spark",
                    surfaces="the thread, and the tapped end",
                ),
            ),
            (
                "stock",
                StockChosen(
                    held="bar", across="30", length="500", parting="3", grip="30", material="mild_steel", unit="mm"
                ),
            ),
        ),
    ),
    DemoPart(
        title="Clamp knob of the finder",
        asked="Turned by cold fingers; the knurl must not cut",
        by="pim",
        hours_ago=2.045,
        unit="mm",
        machine="Bench lathe",
        lines="od 32 ±0.2 x 12 ±0.2\nboss 18 ±0.1 x 8 ±0.1 high on the left\ntap M8 thru\nknurl diamond 1.0 on A\n"
        "fillet 1 max on C\ncham 1 x 45 on A, only seen\nbreak sharp edges",
        readings=(("C", Logged("18.04", "near end 0°", CALIPER_METRIC)),),
    ),
    DemoPart(
        title="Pulley of the shutter winch",
        asked="Two belts; the old one wobbled",
        by="orla",
        hours_ago=2.04,
        unit="in",
        machine="Long lathe",
        lines="od 4.250 ±.010 x 1.125 ±.010\nhub 1.750 ±.010 x .500 ±.010 high on the left\n"
        "bore .6255/.6262 thru, carries the load\nv 38° .310 ±.005 deep pitch .500 x 2 land .06, true to E\n"
        "keyway .1875/.1885 x .094 +.005/-0 x 1.625 on E\nfinish 63 on E\nbreak edges .005-.015",
    ),
    DemoPart(
        title="Cover flange of the azimuth drive",
        asked="Closes the gear case; the register finds its middle, six studs hold it",
        by="orla",
        hours_ago=2.035,
        unit="mm",
        machine="Long lathe",
        lines="od 140 ±0.3 x 18 ±0.1\nregister 90 h7 x 4 ±0.05 high on the right\n"
        "bore 45 H7 thru, true to C within 0.02\n6 holes 9 on 115 ±0.2\nfinish 1.6 on C\nbreak all edges 0.2-0.5",
    ),
    DemoPart(
        title="Spindle of the flap, land made good",
        asked="The land under the seal is worn; the rest stays as it is",
        by="orla",
        hours_ago=2.03,
        unit="in",
        machine="Long lathe",
        lines="od 1.125 as it is x 4\nod .9995/.9989 x 1.5, true to A within .0005\n"
        "finish 16 on C\nR 1/32 max in the corner",
    ),
)
