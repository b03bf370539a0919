"""Worksheets of lengths and angles: slips, chains, tapers, and the small sums beside the lathe."""

from nomisma.core.lengths.belt import RIM_M_S
from nomisma.core.lengths.centre_grinding import WORK_WORDS
from nomisma.core.lengths.groove import BY_WORDS
from nomisma.core.lengths.knurl import PATTERN_WORDS
from nomisma.core.lengths.slip_shelf import GRADE_WORDS, slip_sets
from nomisma.core.lengths.undercut import FORM_WORDS, LOAD_WORDS
from nomisma.web.drawings.grooves import (
    centre_grinding_picture,
    groove_picture,
    radius_steps_picture,
    stops_picture,
    undercut_picture,
    v_groove_picture,
)
from nomisma.web.drawings.lengths import (
    belt_picture,
    centre_drill_picture,
    chain_picture,
    drill_point_picture,
    hole_circle_picture,
    indicator_picture,
    keyseat_picture,
    knurl_picture,
    large_diameter_picture,
    tapping_picture,
    tool_height_picture,
)
from nomisma.web.drawings.slips import slips_picture
from nomisma.web.drawings.tapers import (
    mandrel_picture,
    sine_bar_picture,
    taper_check_picture,
    taper_found_picture,
    taper_picture,
)
from nomisma.web.drawings.thread import thread_picture
from nomisma.web.worksheets.along import chain_on_section
from nomisma.web.worksheets.tool import Field, Tool

SHELF = "The shelf"
LATHE = "Between centres, and the partner"
MORE = "More"
ROW = "A row of them"
SECOND = "The second piece against the first"
FACTS = "facts"
_SETS = (
    *((one.name, f"{'inch' if one.unit == 'in' else 'metric'}, {one.title}") for one in slip_sets().values()),
    ("none", "only your own"),
)  # fmt: skip
_SHELF = (
    Field("set", "Set", "choice", "in81", group=SHELF, options=_SETS),
    Field("missing", "Missing of it", "text", group=SHELF, hint="Sizes with spaces between, as marked."),
    Field("own", "Your own besides", "text", group=SHELF),
    Field("wear", "Wear pieces there are", "text", group=SHELF),
    Field("grade", "Grade", "choice", "1", group=SHELF, options=tuple(GRADE_WORDS.items())),
)

SLIPS = Tool(
    "slips", "/slips", "Build a pile of slips",
    "Which slips make that height, fewest pieces, from what is on the shelf?",
    (
        Field("target", "Height wanted", "size", "1.3725 in"),
        Field("short", "A pile to stop short by", "size", "0.003 in",
            hint="2 to 5 thou: the carriage stops there until the last pass."),
        Field("wear_pieces", "Wear pieces outside", "choice", "0", options=(("0", "none"), ("1", "one"), ("2", "two"))),
        *_SHELF,
    ),
    slips_picture, from_job=lambda v: {"target": v.aim}, takes_slips=True,
)  # fmt: skip

CHAIN = Tool(
    "chain", "/chain", "A chain of lengths",
    "What is left over at the end, at the worst and likely, and which length to tighten?",
    (
        Field("links", "Links, one a line", "lines", "A 40 ±0.1 mm\n- B 25 ±0.05 mm\n- C 14.6 ±0.05 mm",
              hint="A minus before one that points back; or between faces, A-B 40 ±0.1. A size without limits is "
                  "exact, as a reading is."),
        Field("between", "Between the faces", "text", hint="B-D, where the lines say between which faces they are."),
        Field("closing", "The end must lie within", "text", "0.2/0.6 mm", hint="0.2/0.6, or 5 ±0.2."),
        Field("reading_uncertainty", "A reading is worth ±", "difference", group=MORE),
    ),
    chain_picture, from_job=lambda v: {"links": v.chain}, on_part=chain_on_section, answer=FACTS,
)  # fmt: skip

TAPER = Tool(
    "taper", "/taper", "A taper, and how to set it",
    "Any two things known of it: the rest, the compound, the tailstock.",
    (
        Field("taper", "Taper", "text", "Morse 3",
            hint="1:20, .600 per foot, 5 %, 8° (included), Morse 3, Jarno 6, 7/24 40."),
        Field("large", "Large end", "size"),
        Field("small", "Small end", "size"),
        Field("length", "Length", "size"),
        Field("at", "Size so far from the large end", "size", group=LATHE),
        Field("between_centres", "Length between centres", "size", "8 in", group=LATHE),
        Field("set_over_room", "The tailstock goes over by", "size", group=LATHE),
        Field("stands_off", "It stands off its partner by", "size", group=LATHE),
    ),
    taper_picture, answer=FACTS,
)  # fmt: skip

TAPER_FOUND = Tool(
    "taper_found", "/taper-found", "The taper found, and what to move",
    "Two diameters, and how far apart: which way, and how far?",
    (
        Field("near", "Near the headstock", "size", "1.2504 in"),
        Field("far", "At the far end", "size", "1.2492 in"),
        Field("apart", "So far apart", "size", "6 in"),
        Field("by", "Moved by", "choice", "tailstock",
            options=(("tailstock", "the tailstock"), ("compound", "the compound"))),
        Field("between_centres", "Length between centres", "size", "9 in"),
        Field("wanted", "Taper wanted", "text", hint="Empty where it is to be parallel. 1:20, Morse 3."),
        Field("larger", "Larger", "choice", "near",
            options=(("near", "near the headstock"), ("far", "at the far end"))),
        Field("arm", "From the compound's pivot to the needle", "size", group=MORE),
        Field("reading_uncertainty", "A reading is worth ±", "difference", group=MORE),
        Field("blue", "With blue a plug bears", "choice", "", group=MORE, options=(
            ("", "not tried"), ("all_along", "all along"), ("large_end", "at its large end"),
            ("small_end", "at its small end"))),
    ),
    taper_found_picture, answer=FACTS,
)  # fmt: skip

SINE_BAR = Tool(
    "sine_bar", "/sine-bar", "A sine bar", "Which pile sets that angle, and how true is it?",
    (
        Field("angle", "Angle, or a taper", "text", "16°35'40\"", hint="16.5°, 16°35'40\", 1:20, Morse 3."),
        Field("rollers_apart", "Distance of its rollers", "size", "5 in"),
        Field("sets", "It sets", "choice", "whole",
            options=(("whole", "the whole angle"), ("half", "half of it: sine centres"))),
        *_SHELF,
    ),
    sine_bar_picture, takes_slips=True, answer=FACTS,
)  # fmt: skip

TAPER_CHECK = Tool(
    "taper_check", "/taper-check", "A taper over rollers or balls", "Measured without a gauge: its taper, and its end.",
    (
        Field("what", "What is it?", "choice", "plug",
            options=(("plug", "a plug, over two rollers"), ("ring", "a ring, with two balls"))),
        Field("roller", "Rollers", "size", "10 mm"),
        Field("over_low", "Over them on the plate", "size", "44.5 mm"),
        Field("over_high", "Over them on the slips", "size", "47 mm"),
        Field("slips", "Height of the slips", "size", "50 mm"),
        Field("small_ball", "Small ball", "size", group="A ring"),
        Field("small_depth", "Depth to its top", "difference", group="A ring"),
        Field("large_ball", "Large ball", "size", group="A ring"),
        Field("large_depth", "Depth to its top, large", "difference", group="A ring"),
    ),
    taper_check_picture, answer=FACTS,
)  # fmt: skip

MANDREL = Tool(
    "mandrel", "/mandrel", "A tapered mandrel", "Where will the bore sit, and how loose is its other end?",
    (
        Field("small_end", "Small end", "size", "0.9990 in"),
        Field("length", "Length of the taper", "size", "6 in"),
        Field("bore_lower", "Bore, least", "size", "1.0000 in"),
        Field("bore_upper", "Bore, most", "size", "1.0008 in"),
        Field("bore_length", "Length of the bore", "size", "1.5 in"),
        Field("grip", "Interference to grip with", "difference", group=MORE),
        Field("taper", "Its taper", "text", group=MORE),
    ),
    mandrel_picture, from_job=lambda v: v.bore_ends, answer=FACTS,
)  # fmt: skip

GROOVE = Tool(
    "groove", "/groove", "Grooves from one face",
    "Where does the carriage stand for the tool's own corner, and how deep?",
    (
        Field("position", "Near side, from the datum face", "size", "0.937 in"),
        Field("width", "Width", "size", "0.125 in"),
        Field("tool", "The tool is wide", "size", "0.093 in"),
        Field("corner", "Touched on the face", "choice", "far",
            options=(("far", "its far corner, to the chuck"), ("near", "its near corner"))),
        Field("feeler", "Feeler between", "difference", "0.002 in"),
        Field("outside", "Outside", "size", "0.800 in"), Field("floor", "Floor", "size", "0.625 in"),
        Field("by", "Moved by", "choice", "carriage", options=tuple(BY_WORDS.items())),
        Field("line", "One line of it", "size", "0.001 in"),
        Field("lines_a_turn", "Lines a turn", "number", hint="Turns are counted where it says."),
        Field("count", "Grooves", "number", "1", group=MORE), Field("pitch", "Pitch", "size", group=MORE),
        Field("finish", "Left on each side", "difference", "0.003 in", group=MORE),
    ),
    groove_picture, from_job=lambda v: v.groove, answer=FACTS,
)  # fmt: skip

V_GROOVE = Tool(
    "v_groove", "/v-groove", "V-grooves", "Widths, the compound, its travel, the order, and the check over a rod.",
    (
        Field("included_deg", "Included angle", "number", "40", tag="°"), Field("top", "Top", "size", "0.500 in"),
        Field("depth", "Depth", "size", "0.450 in"),
        Field("floor", "Or the floor", "difference", hint="0 is a sharp V."),
        Field("outside", "Outside", "size", "4 in"),
        Field("rod", "Rod laid in", "size", "0.4375 in"), Field("over_rods", "Measured over two rods", "size"),
        Field("count", "Grooves", "number", "3", group=ROW), Field("pitch", "Pitch", "size", "0.625 in", group=ROW),
        Field("first", "First centre, from the datum face", "size", "0.400 in", group=ROW),
        Field("land", "Land between two", "difference", group=ROW, hint="With the pitch, in place of the top."),
        Field("shoulder_before", "A shoulder before the first at", "difference", group=ROW), Field("shoulder",
        "A shoulder behind the last at", "size", group=ROW),
        Field("tool_room", "The tool needs beside it", "size", group=ROW),
        Field("line", "One line of the compound", "size", group=ROW), Field("turn", "A turn of it", "size", group=ROW),
    ),
    v_groove_picture, from_job=lambda v: {"outside": v.outside}, answer=FACTS,
)  # fmt: skip

STOPS = Tool(
    "stops", "/stops", "A turret of carriage stops",
    "Which stop for which step, in an order that their thickness allows?",
    (
        Field("steps", "Steps of the work, one a line", "lines", "stock out, at 1.900 in\nface, tool 1, at 0, 400 rpm\n"
              "turn head, tool 2, at 0.750 in, dial .800 in, 600 rpm\nturn stem, tool 2, at 1.250 in, dial .500 in, "
              "600 rpm, short\n"
              "groove, tool 3, at 0.812 in, dial .400 in, 200 rpm\npart, tool 4, at 1.500 in, 150 rpm",
              hint="Behind the name: tool, at, dial, rpm; short where it stops before its mark, needle where one reads "
                  "it."),
        Field("stations", "Stations of the turret", "number", "6"),
        Field("apart", "Neighbours at least apart", "size", "0.375 in"),
        Field("short", "Short by", "difference", "0.003 in", group=MORE),
        Field("needle_room", "A needle at its stop needs", "size", group=MORE,
            hint="For steps with needle behind them."),
        Field("first_piece", "First piece measured", "text", group=SECOND,
            hint="A length a step, in their order; - where none was measured."),
        Field("second_piece", "Second piece measured", "text", group=SECOND),
        Field("repeats", "A stop comes back within", "size", group=SECOND),
    ),
    stops_picture, from_job=lambda v: {"steps": v.stops}, answer=FACTS,
)  # fmt: skip

CENTRE_GRINDING = Tool(
    "centre_grinding", "/centre-grinding", "Grinding a centre in place",
    "Which angle, how many passes, in which order, and what to guard.",
    (
        Field("work", "Ground is", "choice", "tailstock_centre", options=tuple(WORK_WORDS.items())),
        Field("included_deg", "Included angle", "number", "60", tag="°"),
        Field("to_take", "To come off, on diameter", "size", "0.006 in"),
        Field("a_pass", "A pass", "size", group=MORE), Field("last", "The last ones", "size", group=MORE),
    ),
    centre_grinding_picture, answer=FACTS,
)  # fmt: skip

RADIUS_STEPS = Tool(
    "radius_steps", "/radius-steps", "A radius by steps",
    "Where a round-nosed tool stands for each step of a corner, a ball or a fillet.",
    (
        Field("radius", "Radius", "size", "0.250 in"), Field("nose", "The tool's nose", "size", "0.031 in"),
        Field("kind", "It is", "choice", "corner",
            options=(("corner", "an outside corner, or a ball"), ("fillet", "a fillet"))),
        Field("outside", "Diameter", "size", "1.000 in"), Field("step_deg", "Steps of", "number", "10", tag="°"),
    ),
    radius_steps_picture, answer=FACTS,
)  # fmt: skip

HOLE_CIRCLE = Tool(
    "hole_circle", "/hole-circle", "Holes on a circle", "Where is each, and how far from the next?",
    (
        Field("circle", "Circle", "size", "4 in"), Field("count", "Holes", "number", "6"),
        Field("start_deg", "The first at", "number", "0", tag="°"), Field("hole", "Holes are", "size", "0.332 in"),
        Field("stud", "Studs through them", "size", "0.3125 in"),
        Field("x0", "Centre, x", "difference", group=MORE), Field("y0", "Centre, y", "difference", group=MORE),
    ),
    hole_circle_picture, answer=FACTS,
)  # fmt: skip

TAPPING = Tool(
    "tapping", "/tapping", "A drill for a tap", "Which drill for the thread, and which clears its screw?",
    (
        Field("thread", "Thread", "text", "1/4-20", hint="M8, M8x1, 1/4-20, #10-32."),
        Field("percent", "How much of the thread", "number", tag="%", hint="Empty for the usual drill."),
        Field("drills", "Drills in the drawer", "choice", "",
              options=(("", "of the thread's unit"), ("inch", "inch"), ("metric", "metric"), ("both", "both"))),
    ),
    tapping_picture, answer=FACTS,
)  # fmt: skip

THREAD = Tool(
    "thread_sheet", "/thread", "A thread", "Which limits, which wires, which drill?",
    (
        Field("thread", "Thread, with its class", "text", "M20x1.5 6g",
            hint="M24x2 6H, 1/2-13 UNC 2A LH, M16x1.5 2 starts, 30 x 2 pitch 55°."),
        Field("side", "Which side", "choice", "",
              options=(("", "as its class says, else outside"), ("outside", "outside"), ("inside", "inside"))),
        Field("wire", "Wires at hand", "size", "0.895 mm", hint="Empty for the best."),
        Field("over", "Read over them", "size"),
    ),
    thread_picture, from_job=lambda v: {"thread": v.thread}, answer=FACTS,
)  # fmt: skip

CENTRE_DRILL = Tool(
    "centre_drill", "/centre-drill", "A centre drill", "Which, how deep, how fast?",
    (
        Field("work", "The work's diameter", "size", "1 in"), Field("mouth", "Mouth wanted", "size"),
        Field("surface_speed_m_min", "Surface speed", "number", "20", tag="m/min", group=MORE),
    ),
    centre_drill_picture, from_job=lambda v: {"work": v.diameter}, answer=FACTS,
)  # fmt: skip

DRILL_POINT = Tool(
    "drill_point", "/drill-point", "A drill and its point", "How deep does the tip go for that depth of full diameter?",
    (
        Field("drill", "Drill", "size", "0.5 in"), Field("point_deg", "Point", "number", "118", tag="°"),
        Field("full_depth", "Depth of full diameter", "size", "1 in"),
        Field("part", "The part is long", "size", "1.25 in"),
        Field("skin", "Skin left, to open from the back", "size", group=MORE),
    ),
    drill_point_picture, answer=FACTS,
)  # fmt: skip

TOOL_HEIGHT = Tool(
    "tool_height", "/tool-height", "A tool off centre height", "The pip says how far; what does it do to the diameter?",
    (
        Field("pip", "The pip left in the middle", "size", "0.060 in"),
        Field("side", "The tool is", "choice", "below",
            options=(("below", "below: the pip stands"), ("above", "above: it is rubbed off"))),
        Field("at", "Measured, when the dial was set", "size", "1.000 in"), Field("to", "Wound to", "size", "0.250 in"),
        Field("height", "Or the height itself", "size", group=MORE),
    ),
    tool_height_picture, answer=FACTS,
)  # fmt: skip

INDICATOR = Tool(
    "indicator_angle", "/indicator", "An indicator out of line", "What is its reading worth as true travel?",
    (
        Field("reading", "It reads", "difference", "0.010 in"),
        Field("angle_deg", "Out of line by", "number", "20", tag="°"),
        Field("kind", "It is", "choice", "plunger", options=(("plunger", "a plunger"), ("lever", "a lever"))),
    ),
    indicator_picture, answer=FACTS,
)  # fmt: skip

LARGE_DIAMETER = Tool(
    "large_diameter", "/large-diameter", "A large diameter",
    "Too large for the micrometer: by a chord, or over two rollers.",
    (
        Field("by", "Measured by", "choice", "chord",
            options=(("chord", "chord and height"), ("rollers", "two rollers on a plate"))),
        Field("chord", "Chord", "size", "12 in"), Field("height", "Height over it", "size", "1.500 in"),
        Field("over", "Over the rollers", "size"), Field("roller", "Each roller", "size"),
        Field("reading_uncertainty", "A reading is worth ±", "difference", "0.001 in"),
    ),
    large_diameter_picture, answer=FACTS,
)  # fmt: skip

BELT = Tool(
    "belt", "/belt", "Pulleys and their belt", "Which pulley for that speed, and how long a belt?",
    (
        Field("driver", "Driving pulley", "size", "3 in"),
        Field("driver_rpm", "It turns at", "number", "1440", tag="rpm"),
        Field("driven_rpm", "Speed wanted", "number", "720", tag="rpm"),
        Field("driven", "Or the driven pulley", "size"),
        Field("centres", "Distance of the shafts", "size", "16 in"),
        Field("belt", "A belt there is", "size", group=MORE),
        Field("rim", "The rim is of", "choice", "cast_iron", group=MORE,
            options=tuple((name, words) for name, (words, _) in RIM_M_S.items())),
    ),
    belt_picture, answer=FACTS,
)  # fmt: skip

KEYSEAT = Tool(
    "keyseat", "/keyseat", "Depth of a keyseat", "From the top of the round, and as it is measured.",
    (
        Field("shaft", "Shaft", "size", "1 in"), Field("width", "Key, wide", "size", "0.25 in"),
        Field("height", "Key, high", "size", "0.25 in"),
        Field("in_shaft", "Of it in the shaft", "size", group=MORE),
        Field("clearance", "Clearance over it", "difference", "0.005 in", group=MORE),
    ),
    keyseat_picture, from_job=lambda v: {"shaft": v.diameter}, answer=FACTS,
)  # fmt: skip

KNURL = Tool(
    "knurl", "/knurl", "The blank of a knurl", "Which blank does a whole number of teeth go round?",
    (
        Field("over", "Over the finished knurl", "size", "25 mm"),
        Field("pattern", "Pattern", "choice", "diamond", options=tuple(PATTERN_WORDS.items())),
        Field("pitch", "Pitch of the wheel", "size", "1 mm"),
        Field("per_inch", "Or teeth to the inch", "number"),
        Field("slant_deg", "Its teeth lean by", "number", "30", tag="°", group=MORE),
    ),
    knurl_picture, from_job=lambda v: {"over": v.outside_aim}, answer=FACTS,
)  # fmt: skip

UNDERCUT = Tool(
    "undercut", "/undercut", "An undercut beside a shoulder",
    "Its sizes, what grinding adds, and does the partner's face seat?",
    (
        Field("diameter", "Finished diameter", "size", "25 mm"),
        Field("form", "Form", "choice", "f", options=tuple(FORM_WORDS.items())),
        Field("load", "Load", "choice", "usual", options=tuple(LOAD_WORDS.items())),
        Field("partner_chamfer", "The partner's edge, 45° by", "difference", "0.5 mm"),
        Field("to_grind", "Left to grind, on radius", "difference", "0.2 mm"),
        Field("radius", "Another radius", "size", group=MORE), Field("depth", "and depth", "size", group=MORE),
    ),
    undercut_picture, from_job=lambda v: {"diameter": v.outside_aim}, answer=FACTS,
)  # fmt: skip

LENGTHS = (SLIPS, CHAIN, STOPS, GROOVE, V_GROOVE, TAPER, TAPER_FOUND, SINE_BAR, TAPER_CHECK, MANDREL, CENTRE_GRINDING)
SMALL_SUMS = (
    HOLE_CIRCLE,
    RADIUS_STEPS,
    THREAD,
    TAPPING,
    CENTRE_DRILL,
    DRILL_POINT,
    TOOL_HEIGHT,
    INDICATOR,
    LARGE_DIAMETER,
    BELT,
    KEYSEAT,
    UNDERCUT,
    KNURL,
)
