"""The demo's instruments, machines and jobs; every number is made up."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from nomisma.core.fits.functions import FunctionName
from nomisma.core.part.member import MemberKind
from nomisma.core.quantity.length import Unit

TENTHS = "0–1 in micrometer, tenths"
LARGE_TENTHS = "2–3 in micrometer, tenths"
METRIC = "0–25 mm micrometer, 0.001 mm"
LARGE_METRIC = "25–50 mm micrometer, 0.001 mm"
BORE_TENTHS = "Bore gauge on a setting ring, tenths"
BORE_METRIC = "Three-point bore micrometer, 0.001 mm"
CALIPER = "6 in dial caliper"


DEPTH = "0–6 in depth micrometer"
TELESCOPING = "Telescoping gauge"
BENCH_INDICATOR = "Bench indicator"
LEVER_INDICATOR = "Lever indicator, tenths"
PINS = "Pin set, 0.001 in steps"


def _instrument(
    name: str,
    measures: str,
    unit: str,
    resolution: str,
    permitted_error: str,
    repeatability: str,
    kind: str = "",
    **more: str,
) -> dict[str, str]:
    return {
        "name": name,
        "measures": measures,
        "unit": unit,
        "resolution_text": resolution,
        "kind": kind,
        "permitted_error_text": permitted_error,
        "repeatability_text": repeatability,
        **more,
    }


def _range(low: str, high: str) -> dict[str, str]:
    return {"range_from_text": low, "range_to_text": high}


INSTRUMENTS = (
    _instrument(
        TENTHS,
        "shaft",
        "in",
        "0.0001",
        "0.0001",
        "0.00003",
        "micrometer_tenths",
        standard="closed faces",
        **_range("0", "1"),
    ),
    _instrument(
        LARGE_TENTHS,
        "shaft",
        "in",
        "0.0001",
        "0.0001",
        "0.00004",
        "micrometer_tenths",
        standard="2 in standard",
        **_range("2", "3"),
    ),
    _instrument(
        METRIC,
        "shaft",
        "mm",
        "0.001",
        "0.002",
        "0.0005",
        "micrometer_microns",
        standard="closed faces",
        **_range("0", "25"),
    ),
    _instrument(
        LARGE_METRIC,
        "shaft",
        "mm",
        "0.001",
        "0.002",
        "0.0005",
        "micrometer_microns",
        standard="25 mm standard",
        **_range("25", "50"),
    ),
    _instrument(BORE_TENTHS, "bore", "in", "0.0001", "0.00015", "0.00005", "bore_gauge", standard="setting ring"),
    _instrument(BORE_METRIC, "bore", "mm", "0.001", "0.003", "0.0008", "three_point_bore", standard="25 mm ring"),
    _instrument(CALIPER, "both", "in", "0.001", "0.001", "0.0005", "caliper", standard="1 in slip", **_range("0", "6")),
    _instrument(
        "0–150 mm caliper",
        "both",
        "mm",
        "0.01",
        "0.03",
        "0.01",
        "caliper_mm",
        standard="slip gauge",
        **_range("0", "150"),
    ),
    _instrument(TELESCOPING, "bore", "in", "0.0001", "0.0001", "0.0002", "telescoping_gauge", **_range("0.3125", "6")),
    _instrument(
        PINS, "bore", "in", "0.001", "0.0001", "0.00005", "plug_pins", standard="micrometer", **_range("0.011", "0.5")
    ),
    _instrument(DEPTH, "length", "in", "0.001", "0.0003", "0.0003", "depth_micrometer", standard="surface plate"),
    _instrument(
        BENCH_INDICATOR,
        "length",
        "in",
        "0.0005",
        "0.0005",
        "0.0001",
        "indicator",
        standard="slip gauges",
        **_range("0", "0.25"),
    ),
    _instrument(
        LEVER_INDICATOR,
        "length",
        "in",
        "0.0001",
        "0.0001",
        "0.00003",
        "indicator",
        standard="slip gauges",
        **_range("0", "0.030"),
    ),
    _instrument(
        "Plunger indicator, 0.01 mm",
        "length",
        "mm",
        "0.01",
        "0.01",
        "0.002",
        "indicator",
        standard="slip gauges",
        **_range("0", "10"),
    ),
    _instrument(
        "Slips, inch, 81 pieces",
        "length",
        "in",
        "0.0001",
        "0.00001",
        "0.000005",
        "slip_gauges",
        standard="calibration house",
        **_range("0.05", "4"),
    ),
    _instrument(
        "Slips, metric, 112 pieces",
        "length",
        "mm",
        "0.0005",
        "0.0003",
        "0.0001",
        "slip_gauges",
        standard="calibration house",
        **_range("0.5", "100"),
    ),
)
DUE_IN_DAYS = {METRIC: 120, TENTHS: 200, LARGE_METRIC: -9, BORE_METRIC: 31}
"""Days from the day the demo is made; the one out of calibration is past its day."""


@dataclass(frozen=True)
class Check:
    """An instrument on its standard, so many hours ago."""

    instrument: str
    standard: str
    read: str
    hours_ago: float
    note: str = ""


CHECKS = (
    Check(METRIC, "0", "0.000", 2),
    Check(LARGE_METRIC, "25.000", "25.001", 24),
    Check(LARGE_METRIC, "25.000", "25.006", 3, "dropped, and nobody said; out of use until it is set"),
    Check(BORE_METRIC, "25.002", "25.003", 4),
)

MACHINES: tuple[dict[str, Any], ...] = (
    {
        "name": "Long lathe",
        "unit": "in",
        "dial_line_text": "0.001",
        "dial_reads": "diameter",
        "dial_turn_text": "0.200",
        "backlash_text": "0.008",
        "most_cut_text": "0.100",
        "speeds": "45 75 130 210 360 600 1000",
        "most_rpm": 1200,
        "most_force_n": Decimal(2500),
        "room": {
            "swing_over_bed": "16 in",
            "swing_over_gap": "24 in",
            "swing_over_cross_slide": "10 in",
            "between_centres": "60 in",
            "spindle_bore": "1-9/16 in",
            "tailstock_travel": "6 in",
            "grips_from": "0.25 in",
            "grips_to": "8 in",
            "compound_line": "0.001 in",
            "carriage_line": "0.010 in",
            "carriage_turn": "1 in",
            "tailstock_turn": "0.2 in",
            "leadscrew_pitch": "0.125 in",
        },
    },
    {
        "name": "Bench lathe",
        "unit": "mm",
        "dial_line_text": "0.05",
        "dial_reads": "diameter",
        "dial_turn_text": "3",
        "backlash_text": "0.1",
        "most_cut_text": "2",
        "speeds": "50-2500",
        "readout": True,
        "most_rpm": 3000,
        "most_force_n": Decimal(900),
        "room": {
            "swing_over_bed": "280 mm",
            "swing_over_cross_slide": "170 mm",
            "between_centres": "500 mm",
            "spindle_bore": "26 mm",
            "grips_from": "2 mm",
            "grips_to": "110 mm",
            "compound_line": "0.02 mm",
            "carriage_line": "0.1 mm",
            "carriage_turn": "15 mm",
            "tailstock_turn": "3 mm",
            "leadscrew_pitch": "3 mm",
        },
    },
)


@dataclass(frozen=True)
class Logged:
    """One reading; `corrects` is the reason when it supersedes the one before; `cut` the cut it follows; `asked` what
    was typed first and asked about; `piece` its serial in a batch; `dialled` what the cut before it was set to, on
    diameter.
    """

    size: str
    place: str
    instrument: str
    corrects: str = ""
    cut: int = 0
    asked: str = ""
    piece: str = ""
    dialled: str = ""


@dataclass(frozen=True)
class Seen:
    """What was logged when it was put together."""

    felt: str
    force: str = ""
    before: str = ""
    after: str = ""
    instrument: str = ""
    note: str = ""


@dataclass(frozen=True)
class Assembly:
    """A plan by one worksheet: its fields as typed, the same as the calculation takes them, and what was seen."""

    method: str
    tool: str
    asked: dict[str, str]
    inputs: dict[str, Any]
    seen: tuple[Seen, ...] = ()


@dataclass(frozen=True)
class DemoJob:
    """One job as the shop has it; `decided` is the kind of decision, the piece and the reason."""

    title: str
    asked: str
    by: str
    hours_ago: float
    unit: Unit
    machine: str
    partner_kind: MemberKind
    function: FunctionName
    partner: tuple[Logged, ...] = ()
    partner_callout: str = ""
    option: str = ""
    made: tuple[Logged, ...] = ()
    assembly: Assembly | None = None
    handed_over: str = ""
    pieces: int = 1
    decided: tuple[str, str, str] = ("", "", "")


CHANGED_RULE = {
    "name": "clearance_hole",
    "title": "Clearance hole for a stud",
    "text": "a 64th to a 32nd over",
    "growth": "fixed",
    "reference": "0.5 in",
    "base_least": "0 in",
    "base_most": "0 in",
    "least": "0.0156 in",
    "most": "0.0313 in",
    "from_size": "0.1 in",
    "to_size": "2 in",
    "note": "the dome's bolts are painted; a 64th alone has been too little",
}
"""The one rule this shop has written its own version of."""

JOBS = (
    DemoJob(
        title="Winch drum register",
        asked="Locates the drum cheek on its hub; comes off by hand for the rope",
        by="orla",
        hours_ago=52,
        unit="in",
        machine="Long lathe",
        partner_kind="bore",
        function="locates_and_comes_apart",
        partner=(
            Logged("2.5006", "mouth 0°", BORE_TENTHS),
            Logged("2.5007", "mouth 90°", BORE_TENTHS),
            Logged("2.5006", "deep 0°", BORE_TENTHS),
            Logged("2.5008", "deep 90°", BORE_TENTHS),
        ),
        option="Shop rule",
        made=(
            Logged("2.5105", "near end 0°", LARGE_TENTHS),
            Logged("2.5016", "near end 0°", LARGE_TENTHS, cut=1),
            Logged("2.4998", "near end 0°", LARGE_TENTHS, cut=2),
            Logged("2.4998", "near end 90°", LARGE_TENTHS, cut=2),
            Logged("2.4998", "far end 0°", LARGE_TENTHS, cut=2),
        ),
        handed_over="Goes on with a twist and a film of oil.",
    ),
    DemoJob(
        title="Focuser draw-tube spigot",
        asked="Locates in the adapter bore; the adapter is made to 32 H7",
        by="pim",
        hours_ago=28,
        unit="mm",
        machine="Bench lathe",
        partner_kind="bore",
        function="locates_and_comes_apart",
        partner_callout="32 H7",
        option="H7/h6",
        made=(
            Logged("32.412", "near end 0°", LARGE_METRIC),
            Logged("32.105", "near end 0°", LARGE_METRIC, cut=1),
            Logged("31.476", "near end 0°", LARGE_METRIC, cut=2),
            Logged("31.976", "near end 0°", LARGE_METRIC, "misread by one turn of the thimble, 0.5 mm", cut=2),
            Logged("31.977", "far end 0°", LARGE_METRIC, cut=2),
        ),
    ),
    DemoJob(
        title="Encoder hub on motor shaft",
        asked="Slides on by hand, no shake: the encoder reads arc seconds",
        by="orla",
        hours_ago=6,
        unit="mm",
        machine="Bench lathe",
        partner_kind="shaft",
        function="slides_by_hand",
        partner=(
            Logged("11.988", "near end 0°", METRIC),
            Logged("11.989", "near end 90°", METRIC),
            Logged("11.990", "far end 0°", METRIC),
            Logged("11.990", "far end 90°", METRIC),
        ),
    ),
    DemoJob(
        title="Dome roller, bronze bush",
        asked="Runs on the measured axle with oil; the roller carries the dome's edge",
        by="orla",
        hours_ago=2,
        unit="in",
        machine="Long lathe",
        partner_kind="shaft",
        function="turns_freely",
        partner=(
            Logged(".8742", "near end 0°", TENTHS),
            Logged(".8742", "near end 90°", TENTHS),
            Logged(".8741", "far end 0°", TENTHS),
            Logged(".8742", "far end 90°", TENTHS),
        ),
        option="Make to suit",
        made=(
            Logged(".8281", "mouth 0°", BORE_TENTHS),
            Logged(".8604", "mouth 0°", BORE_TENTHS, cut=1, dialled=".031"),
            Logged(".8728", "mouth 0°", BORE_TENTHS, cut=2, dialled=".012"),
        ),
    ),
    DemoJob(
        title="Rope pulley, bronze bush pressed in",
        asked="The winch rope's pulley runs on its pin; the old bush has worn through",
        by="orla",
        hours_ago=20,
        unit="in",
        machine="Long lathe",
        partner_kind="bore",
        function="pressed_for_good",
        partner=(
            Logged(".7502", "mouth 0°", BORE_TENTHS),
            Logged(".7503", "mouth 90°", BORE_TENTHS),
            Logged(".7502", "deep 0°", BORE_TENTHS),
            Logged(".7503", "deep 90°", BORE_TENTHS),
        ),
        option="Shop rule: press, outside of a small bush",
        made=(
            Logged(".7613", "near end 0°", TENTHS),
            Logged(".7532", "near end 0°", TENTHS, cut=1),
            Logged(".7513", "near end 0°", TENTHS, cut=2),
            Logged(".7513", "far end 90°", TENTHS, cut=2, asked=".7763"),
        ),
        assembly=Assembly(
            method="press",
            tool="bush",
            asked={
                "housing": ".7502 .7503",
                "shaft": "0.4992/0.4996 in",
                "housing_outer": "1.75 in",
                "length": "0.75 in",
                "bush_material": "aluminium_bronze",
                "housing_material": "carbon_steel",
                "shaft_material": "carbon_steel",
                "working_c": "40",
                "bush_outside": ".7513 in",
            },
            inputs={
                "housing": {"kind": "bore", "readings": [".7502 in", ".7503 in"], "uncertainty": "0.0001 in"},
                "shaft": {"kind": "shaft", "callout": "0.4992/0.4996 in"},
                "housing_outer": "1.75 in",
                "length": "0.75 in",
                "bush_material": "aluminium_bronze",
                "working_c": 40,
                "unit": "in",
                "bush_outside": {"kind": "shaft", "readings": [".7513 in"], "uncertainty": "0.0001 in"},
            },
            seen=(
                Seen(
                    "as_expected",
                    "1500 lbf",
                    ".4980",
                    ".4971",
                    BORE_TENTHS,
                    "Went in square, oiled; reamed to .5001 after",
                ),
            ),
        ),
    ),
    DemoJob(
        title="Polar-axis pinion, shrunk on",
        asked="Shrunk on without a key; the worm's backlash spring pulls against it",
        by="orla",
        hours_ago=9,
        unit="mm",
        machine="Bench lathe",
        partner_kind="shaft",
        function="shrunk_for_torque",
        partner=(
            Logged("24.026", "near end 0°", METRIC),
            Logged("24.026", "near end 90°", METRIC),
            Logged("24.027", "far end 0°", METRIC),
        ),
        option="Shop rule",
        made=(
            Logged("22.510", "mouth 0°", BORE_METRIC),
            Logged("23.901", "mouth 0°", BORE_METRIC, cut=1),
            Logged("23.984", "mouth 0°", BORE_METRIC, cut=2),
            Logged("23.985", "deep 90°", BORE_METRIC, cut=2),
        ),
        assembly=Assembly(
            method="shrink",
            tool="shrink",
            asked={
                "interface_diameter": "24 mm",
                "interference_max": "0.048 mm",
                "hub_outer": "46 mm",
                "length": "30 mm",
                "hub_material": "alloy_steel",
                "shaft_material": "stainless_416",
            },
            inputs={
                "interface_diameter": "24 mm",
                "interference_max": "0.048 mm",
                "hub_outer": "46 mm",
                "length": "30 mm",
                "hub_material": "alloy_steel",
                "shaft_material": "stainless_416",
                "unit": "mm",
            },
        ),
    ),
    DemoJob(
        title="Shutter wheel hub on its axle, bonded",
        asked="The axle seat was cut too far; bonded instead of pressed",
        by="pim",
        hours_ago=4,
        unit="mm",
        machine="Bench lathe",
        partner_kind="bore",
        function="bonded",
        partner_callout="20 H8",
        option="Shop rule",
        made=(
            Logged("20.412", "near end 0°", METRIC),
            Logged("19.962", "near end 0°", METRIC, cut=1),
            Logged("19.961", "far end 90°", METRIC, cut=1),
        ),
        assembly=Assembly(
            method="bond",
            tool="retaining_compound",
            asked={
                "bore": "20 H8",
                "shaft": "19.96/19.97 mm",
                "length": "25 mm",
                "shear_strength_mpa": "18",
                "release_c": "250",
            },
            inputs={
                "bore": "20 H8",
                "shaft": "19.96/19.97 mm",
                "length": "25 mm",
                "shear_strength_mpa": 18,
                "release_c": 250,
                "unit": "mm",
            },
            seen=(Seen("as_expected", note="Held on V-blocks overnight; runs true within 0.02"),),
        ),
    ),
    DemoJob(
        title="Shutter roller pins, twelve",
        asked="Run in the rollers' bushes; the wind turns them, so they must not shake",
        by="orla",
        hours_ago=5,
        unit="mm",
        machine="Bench lathe",
        partner_kind="bore",
        function="slides_by_hand",
        partner_callout="8 H7",
        option="H7/g6",
        pieces=12,
        decided=("approve_first_off", "1", "size and finish good; watch the tool"),
        made=tuple(
            Logged(size, "near end 0°", METRIC, piece=str(number + 1))
            for number, size in enumerate(
                ("7.989", "7.989", "7.990", "7.989", "7.990", "7.990", "7.991", "7.991", "7.992")
            )
        ),
    ),
    DemoJob(
        title="Camera drawtube",
        asked="Slides in the focuser's bore under the weight of the camera",
        by="pim",
        hours_ago=20,
        unit="mm",
        machine="Bench lathe",
        partner_kind="bore",
        function="slides_by_hand",
        partner=(Logged("31.752", "mouth 0°", BORE_METRIC), Logged("31.750", "deep 0°", BORE_METRIC)),
        option="Shop rule",
        made=(
            Logged("31.729", "near end 0°", LARGE_METRIC),
            Logged("31.730", "near end 90°", LARGE_METRIC),
            Logged("31.728", "middle 0°", LARGE_METRIC),
            Logged("31.727", "far end 0°", LARGE_METRIC),
        ),
    ),
    DemoJob(
        title="Shutter cam, eccentric",
        asked="Bored to run on its pin; the lobe stands off by an eighth and opens the latch",
        by="orla",
        hours_ago=1.5,
        unit="in",
        machine="Long lathe",
        partner_kind="shaft",
        function="turns_slowly",
        partner=(
            Logged(".6248", "near end 0°", TENTHS),
            Logged(".6248", "near end 90°", TENTHS),
            Logged(".6247", "far end 0°", TENTHS),
        ),
        option="Make to suit",
        made=(Logged(".5937", "mouth 0°", BORE_TENTHS), Logged(".6152", "mouth 0°", BORE_TENTHS, cut=1)),
    ),
)
