"""Every worksheet: what it asks, in the order it is asked at the bench, with an example that answers at once."""

from nomisma.core.cutting.speeds import SHARES, cutting_speeds
from nomisma.core.joints.cylinders import CRITERION_WORDS
from nomisma.web.drawings.aim import aim_picture
from nomisma.web.drawings.bush import bush_picture
from nomisma.web.drawings.chuck import three_jaw_picture, throw_picture, tilt_picture, true_up_picture
from nomisma.web.drawings.cutting import (
    boring_bar_picture,
    clean_up_picture,
    deflection_picture,
    drill_sizes_picture,
    facing_picture,
    hole_picture,
    shoulder_picture,
    speeds_picture,
)
from nomisma.web.drawings.expansion import expansion_picture
from nomisma.web.drawings.jaws import soft_jaws_picture
from nomisma.web.drawings.joint import bond_picture, press_picture, shrink_picture
from nomisma.web.drawings.pins import over_pins_picture
from nomisma.web.drawings.seating import corner_picture, depths_picture
from nomisma.web.drawings.together import together_picture
from nomisma.web.drawings.window import window_picture
from nomisma.web.worksheets.length_tools import LENGTHS, SMALL_SUMS
from nomisma.web.worksheets.plan_tools import PLAN
from nomisma.web.worksheets.tool import READING_UNCERTAINTY, Field, JobValues, Tool, material_field

IN_WORK = "In work: heat, speed, friction"
MORE = "More"
EDGES = "Corner and edge"
HEEL = "Heel and nose"
HIGH_LOW = "Highest and lowest alone"
OWN_WINDOWS = "Your own interference and clearance"
MADE = "The bush is already made"
SHEET = "The rest of its sheet"


def _joint(values: JobValues) -> dict[str, str]:
    return {
        "interface_diameter": values.diameter,
        "interference_min": values.interference_min,
        "interference_max": values.interference_max,
    }


FIND = Tool(
    "find_fit", "/find", "Find the fit", "A window of clearance is wanted. Which standard pair keeps it?",
    (
        Field("nominal", "Nominal", "size", "7/8 in"),
        Field("clearance_min", "Least clearance", "difference", "0.8 thou",
            hint="Below zero is interference: -1 thou, -0.025 mm."),
        Field("clearance_max", "Greatest clearance", "difference", "3 thou"),
        Field("fit_system", "Search", "choice", "both",
            options=(("both", "ISO and inch"), ("iso", "ISO 286"), ("inch", "inch classes"))),
    ),
    window_picture,
    from_job=lambda v: {"nominal": v.diameter, "clearance_min": v.clearance_min, "clearance_max": v.clearance_max},
)  # fmt: skip

AIM = Tool(
    "aim", "/aim", "Where to aim", "Which size inside the limits, and what does it cost to miss it?",
    (
        Field("kind", "What is it?", "choice", "shaft", options=(("shaft", "a shaft"), ("bore", "a bore"))),
        Field("limits", "Limits", "limits", "0.8744/0.8750 in"),
        Field("spread", "Spread of your cuts", "difference", "0.00015 in",
            hint="One standard deviation of the sizes you get."),
        Field("rework_cost", "Cost of cutting again", "number", "5", tag="minutes"),
        Field("scrap_cost", "Cost of scrap", "number", "60", tag="minutes",
            hint="Both in any one unit: minutes will do."),
    ),
    aim_picture, from_job=lambda v: {"kind": v.kind if v.limits else "", "limits": v.limits},
)  # fmt: skip

TOGETHER = Tool(
    "together", "/together", "Will it go together?",
    "Both members, by their drawing or as measured: worst case, and how often.",
    (
        Field("bore", "Bore", "member", "0.8755/0.8762 in", member="bore",
            hint="Limits, a code, or readings with spaces between."),
        Field("shaft", "Shaft", "member", "0.8748/0.8757 in", member="shaft"),
        Field("clearance_min", "Wanted, least", "difference", group=MORE),
        Field("clearance_max", "Wanted, greatest", "difference", group=MORE),
        Field("spread", "Sizes between drawn limits lie", "choice", "centred", group=MORE,
              options=(("centred", "about the middle"), ("anywhere", "anywhere alike"))),
        READING_UNCERTAINTY,
    ),
    together_picture, from_job=lambda v: {"bore": v.bore, "shaft": v.shaft,
        "reading_uncertainty": v.reading_uncertainty},
)  # fmt: skip

DEPTHS = Tool(
    "depths", "/depths", "Recess and boss", "Do the outer faces seat, or does the boss bottom first?",
    (
        Field("recess_depth", "Depth of the recess", "limits", "0.500/0.504 in"),
        Field("boss_height", "Height of the boss", "limits", "0.496/0.501 in"),
    ),
    depths_picture,
)  # fmt: skip

CORNER = Tool(
    "corner", "/corner", "Corner and edge", "A tool leaves a radius in the corner. Does the mating edge clear it?",
    (
        Field("fillet_radius", "Radius in the corner", "difference", "1/32 in"),
        Field("edge", "Mating edge", "choice", "chamfer",
            options=(("sharp", "sharp"), ("chamfer", "chamfer, 45°"), ("radius", "radius"))),
        Field("edge_size", "Its leg, or its radius", "difference", "1/64 in",
            hint="A chamfer's leg is measured along the axis."),
        Field("radial_clearance", "Clearance on radius", "difference", "0 in"),
    ),
    corner_picture,
)  # fmt: skip

PRESS = Tool(
    "interference", "/press", "Press", "A hub on a shaft larger than its bore: what does it hold, what does it take?",
    (
        Field("interface_diameter", "Diameter of the joint", "size", "1 in"),
        Field("hub_outer", "Outside of the hub", "size", "2 in"),
        Field("length", "Length of the joint", "size", "1-1/2 in"),
        Field("shaft_inner", "Bore of the shaft", "difference", "0 in", hint="0 where it is solid."),
        Field("fit", "A fit", "text", "1 FN1",
            hint="25 H7/s6, 1 FN2; or leave it empty and give the two interferences."),
        Field("interference_min", "Least interference", "difference"),
        Field("interference_max", "Greatest interference", "difference"),
        material_field("hub_material", "Hub", "carbon_steel"),
        material_field("shaft_material", "Shaft", "carbon_steel"),
        Field("temperature_c", "Works at", "number", "20", tag="°C", group=IN_WORK),
        Field("speed_rpm", "Turns at", "number", "0", tag="rpm", group=IN_WORK),
        Field("friction", "Friction that holds", "number", "0.12", group=IN_WORK),
        Field("friction_pressing", "Friction going on", "number", "0.12", group=IN_WORK),
        Field("roughness_hub", "Roughness of the bore, Rz", "difference", group=MORE,
            hint="4 µm is fine turned, 10 µm plain turned."),
        Field("roughness_shaft", "Roughness of the shaft, Rz", "difference", group=MORE),
        Field("criterion", "Judge yield by", "choice", "maximum_shear", group=MORE,
              options=tuple((name, words) for name, words in CRITERION_WORDS.items() if name != "maximum_normal")),
    ),
    press_picture, method="press", from_job=_joint,
)  # fmt: skip

SHRINK = Tool(
    "shrink", "/shrink", "Shrink or cool", "How hot, how cold, and about how long before it grabs?",
    (
        Field("interface_diameter", "Diameter of the joint", "size", "40 mm"),
        Field("interference_max", "Greatest interference", "size", "0.060 mm"),
        Field("hub_outer", "Outside of the hub", "size", "80 mm"),
        Field("length", "Length of the joint", "size", "50 mm"),
        material_field("hub_material", "Hub", "carbon_steel"),
        material_field("shaft_material", "Shaft", "carbon_steel"),
        Field("hub_limit_c", "The hub stands at most", "number", tag="°C",
            hint="A bearing 120; a seal or a coating as its maker says."),
        Field("allowance", "Clearance to go together", "difference", group=MORE,
            hint="A thousandth of the diameter where it is empty."),
        Field("shaft_inner", "Bore of the shaft", "difference", group=MORE),
        Field("room_c", "The room is at", "number", "20", tag="°C", group=MORE),
    ),
    shrink_picture, method="shrink",
    from_job=lambda v: {"interface_diameter": v.diameter, "interference_max": v.interference_max},
)  # fmt: skip

BUSH = Tool(
    "bush", "/bush", "Bush", "Press outside, close-in, running clearance inside: one problem, one sheet. For bushes "
        "without a split.",
    (
        Field("housing", "Bore of the housing", "member", "0.7502 0.7504 in", member="bore",
            hint="As measured, or its limits or code."),
        Field("shaft", "Shaft it runs on", "member", "0.4992/0.4996 in", member="shaft"),
        Field("housing_outer", "Outside of the housing", "size", "2 in",
            hint="Where it is no ring: its bore and twice the wall."),
        Field("length", "Length of the bush", "size", "3/4 in"),
        material_field("bush_material", "Bush", "bearing_bronze"),
        material_field("housing_material", "Housing", "carbon_steel"),
        material_field("shaft_material", "Shaft", "carbon_steel"),
        Field("working_c", "Works at", "number", "60", tag="°C"),
        Field("flange", "It has a flange", "flag"),
        Field("interference_min", "Least interference", "difference", group=OWN_WINDOWS,
            hint="By the shop's rule where they are empty."),
        Field("interference_max", "Greatest interference", "difference", group=OWN_WINDOWS),
        Field("clearance_min", "Least running clearance", "difference", group=OWN_WINDOWS),
        Field("clearance_max", "Greatest running clearance", "difference", group=OWN_WINDOWS),
        Field("bush_outside", "Its outside", "member", group=MADE, member="shaft"),
        Field("bush_bore", "Its bore, before pressing", "member", group=MADE, member="bore"),
        Field("shaft_warmer_by_k", "Shaft runs warmer by", "number", "0", tag="K", group=MORE),
        Field("friction", "Friction going in", "number", "0.12", group=MORE),
        Field("roughness", "Roughness of each, Rz", "difference", group=MORE),
        Field("close_in_factor", "Close-in factor", "number", "1", group=MORE,
            hint="What this shop saw, over what was predicted."),
        READING_UNCERTAINTY,
    ),
    bush_picture, method="press", takes_rules=True,
    from_job=lambda v: {
        "housing" if v.bore else "shaft": v.bore or v.shaft, "bush_outside": v.measured_outside if v.bore else "",
        **v.bush, "reading_uncertainty": v.reading_uncertainty,
    },
)  # fmt: skip

BOND = Tool(
    "retaining_compound", "/bond", "Bond", "Retaining compound: is the gap right, and what does it hold?",
    (
        Field("bore", "Bore", "limits", "12.05/12.07 mm"),
        Field("shaft", "Shaft", "limits", "11.99/12.00 mm"),
        Field("length", "Length of the joint", "size", "20 mm"),
        Field("shear_strength_mpa", "Shear strength by its sheet", "number", "20", tag="MPa"),
        Field("gap_min", "Least gap it fills", "difference", "0.02 mm", group=SHEET),
        Field("gap_max", "Greatest gap it fills", "difference", "0.15 mm", group=SHEET),
        Field("strength_left_percent", "Strength left when warm", "number", "100", tag="%", group=SHEET),
        Field("release_c", "Lets go at", "number", tag="°C", group=SHEET),
        Field("safety_factor", "Safety factor", "number", "2", group=SHEET),
    ),
    bond_picture, method="bond", from_job=lambda v: {"bore": v.bore, "shaft": v.shaft},
)  # fmt: skip

EXPANSION = Tool(
    "expansion", "/expansion", "Warm and cold", "What does temperature do to the clearance?",
    (
        Field("diameter", "Diameter", "size", "25 mm"),
        Field("clearance_min", "Least clearance at 20 °C", "difference", "7 µm", hint="Below zero is interference."),
        Field("clearance_max", "Greatest clearance at 20 °C", "difference", "41 µm"),
        material_field("outer_material", "Outer part", "aluminium_6061"),
        material_field("inner_material", "Inner part", "carbon_steel"),
        Field("from_c", "From", "number", "-10", tag="°C"),
        Field("to_c", "To", "number", "60", tag="°C"),
        Field("inner_warmer_by_k", "Inner part warmer by", "number", "0", tag="K", group=MORE),
    ),
    expansion_picture,
    from_job=lambda v: {"diameter": v.diameter, "clearance_min": v.clearance_min, "clearance_max": v.clearance_max},
)  # fmt: skip

SURFACES = (("outside", "the outside of a round"), ("bore", "the inside of a bore"))

GRIP = Field(
    "grip",
    "The jaws hold it",
    "choice",
    "outside",
    options=(("outside", "round the work"), ("inside", "from inside, pushing out")),
)
ONE_LINE = Field("graduation", "One line of the indicator", "size", "0.0005 in")

TRUE_UP = Tool(
    "true_up", "/true", "True up", "A four-jaw and an indicator: which jaw, which way, how far, and when to stop.",
    (
        Field("readings", "Readings, from jaw 1 on", "round", "0.012 0.005 0 0.006",
              hint="4 at the jaws in order, or 8, 12, 24 round the turn; spaces between. The needle reads up when "
                  "pushed."),
        Field("surface", "Read on", "choice", "outside", options=SURFACES),
        GRIP,
        Field("target", "Swing wanted", "size", "0.0005 in",
            hint="0.020 in for rough stock, half a thou for a second operation."),
        Field("screw_lead", "Jaw screw, in one turn", "size", "0.125 in"),
        ONE_LINE,
        Field("keys", "Keys", "choice", "one", group=MORE, options=(("one", "one key"), ("two", "two keys"))),
        Field("range", "Range of the indicator", "size", group=MORE),
        Field("highest", "Or: highest", "difference", group=HIGH_LOW),
        Field("lowest", "lowest", "difference", group=HIGH_LOW),
        Field("highest_at_deg", "highest at", "number", tag="° from jaw 1", group=HIGH_LOW),
    ),
    true_up_picture,
)  # fmt: skip

THREE_JAW = Tool(
    "three_jaw", "/three-jaw", "Three-jaw", "The work runs out in a three-jaw: a strip under which jaw, and how thick?",
    (
        Field("readings", "Readings, from jaw 1 on", "round", "0.004 0 0.001",
              hint="3 beside the jaws, or 6 at the jaws and between them; spaces between. The needle reads up when "
                  "pushed."),
        Field("surface", "Read on", "choice", "outside",
            options=(("outside", "a round outside"), ("bore", "a round bore"))),
        GRIP,
        Field("target", "Swing wanted", "size", "0.001 in",
            hint="0.020 in for rough stock, half a thou for a second operation."),
        ONE_LINE,
    ),
    three_jaw_picture,
)  # fmt: skip

TILT = Tool(
    "tilt", "/tilt", "Tilt", "A circle near the chuck and one far, or the face: does the axis lean, and does it "
        "matter?",
    (
        Field("near", "Near the chuck, from jaw 1 on", "round", "0.001 0 0 0.001"),
        Field("far", "Far from it", "round", "0.005 0.002 0 0.003"),
        Field("distance", "How far apart", "size", "3 in"),
        Field("length", "Length that has to run true", "size", "2 in"),
        Field("target", "Swing allowed over it", "size", "0.001 in"),
        ONE_LINE,
        Field("surface", "Read on", "choice", "outside", group=MORE, options=SURFACES),
        Field("face", "Or: the face, from jaw 1 on", "round", group=MORE),
        Field("face_radius", "at a radius of", "size", group=MORE),
    ),
    tilt_picture,
)  # fmt: skip

THROW = Tool(
    "throw", "/throw", "Off centre",
    "A crank, a cam: what should the needle say at each jaw? And packed in a three-jaw?",
    (
        Field("throw", "Throw", "size", "0.125 in", hint="The offset itself; the needle swings twice as much."),
        Field("towards_deg", "Towards", "number", "0", tag="° from jaw 1"),
        Field("diameter", "Diameter that is held", "size", "1.5 in"),
        Field("surface", "Read on", "choice", "outside", options=SURFACES),
        Field("range", "Range of the indicator", "size", "0.5 in"),
        Field("more", "Further throws of the same part", "throws", hint="0.125 at 120; 0.125 at 240", group=MORE),
        Field("mass_kg", "What turns weighs", "number", tag="kg", group=MORE),
        Field("speed_rpm", "Speed", "number", tag="rpm", group=MORE),
        Field("chuck_rpm", "Marked on the chuck", "number", tag="rpm", group=MORE),
    ),
    throw_picture,
)  # fmt: skip

FITS = (FIND, AIM, TOGETHER, DEPTHS, CORNER)
JOINTS = (BUSH, PRESS, SHRINK, BOND, EXPANSION)
OVER_PINS = Tool(
    "over_pins", "/pins", "Gear over pins", "A gear held on its pitch line: what are the soft jaws bored to?",
    (
        Field("teeth", "Teeth", "number", "28"),
        Field("diametral_pitch", "Diametral pitch", "number", "10",
            hint="Teeth to an inch of pitch diameter; or its module instead."),
        Field("module", "Or: module", "size", hint="2 mm, 1.5 mm"),
        Field("pressure_angle_deg", "Pressure angle", "number", "20", tag="°"),
        Field("pin", "Pin", "size", hint="Left empty: 1.728 over the pitch, 1.68 inside a ring."),
        Field("internal", "The teeth are inside a ring", "flag"),
        Field("thinning", "Each tooth thinner by", "difference", group=MORE),
    ),
    over_pins_picture,
)  # fmt: skip

SOFT_JAWS = Tool(
    "soft_jaws", "/soft-jaws", "Soft jaws",
    "A round in soft jaws: what are they cut to, and what if they came out wrong?",
    (
        Field("held", "The work, as measured", "size", "2.2500 in"),
        Field("grip", "Held on its", "choice", "outside",
            options=(("outside", "outside"), ("inside", "bore, jaws pushing out"))),
        Field("bored", "The jaws came to", "size", hint="Left empty: not cut yet."),
        Field("preload", "Preload ring or spider", "size"),
        Field("clean_up", "Clean-up cut, each jaw", "size", group=MORE),
    ),
    soft_jaws_picture,
)  # fmt: skip

HOLD = (TRUE_UP, THREE_JAW, TILT, THROW, SOFT_JAWS, OVER_PINS)
CLEAN_UP = Tool(
    "clean_up", "/clean-up", "Will it clean up?", "The stock runs out and has a skin: does it still give the size?",
    (
        Field("stock", "Stock, at its smallest", "size", "1.388 in", hint="Of a bore: at its largest."),
        Field("wanted", "Size it must give", "size", "1.375 in"),
        Field("kind", "It is a", "choice", "shaft", options=(("shaft", "shaft"), ("bore", "bore"))),
        Field("runout", "Swing as chucked", "difference", "0.006 in"),
        Field("scale", "Scale or rust, deep", "difference", "0.003 in"),
        Field("ovality", "Oval by", "difference"),
    ),
    clean_up_picture, from_job=lambda v: {"wanted": v.aim, "kind": v.kind if v.aim else ""},
)  # fmt: skip
SPEEDS = Tool(
    "speeds", "/speeds", "Speed and feed",
    "How fast, at this diameter, on this machine? And what finish does the feed leave?",
    (
        Field("diameter", "Diameter", "size", "1.5 in", hint="Of the work, or of the drill."),
        Field("material", "Work", "choice", "mild_steel",
            options=tuple((one.name, one.title) for one in cutting_speeds().values())),
        Field("tool", "Tool", "choice", "hss", options=(("hss", "high-speed steel"), ("carbide", "carbide"))),
        Field("operation", "Operation", "choice", "turning", options=tuple((name, name) for name in SHARES)),
        Field("speeds", "The machine has", "text", "45 75 130 210 360 600 1000", hint="A list, or a range: 50-2000."),
        Field("most_rpm", "Marked on the chuck", "number", tag="rpm"),
        Field("largest_outside", "Largest outside that turns", "size",
            hint="For a hole: across the corners; it holds the speed down."),
        Field("balanced", "That outside is", "choice", "true",
            options=(("true", "round, balanced"), ("false", "not round, or not balanced"))),
        Field("feed", "Feed a turn", "size", "0.004 in", group=MORE),
        Field("nose_radius", "Nose radius", "size", "0.031 in", group=MORE),
        Field("ra_um", "Finish wanted, Ra", "text", tag="µm", hint="1.6, or 63 µin.", group=MORE),
        Field("surface_m_min", "Surface speed of your own", "text", tag="m/min", hint="30, or 100 ft/min.", group=MORE),
    ),
    speeds_picture, takes_speeds=True, from_job=lambda v: {"diameter": v.aim, "speeds": v.speeds,
        "most_rpm": v.most_rpm},
)  # fmt: skip
HOLE = Tool(
    "hole", "/hole", "Which drill first?", "A hole to be reamed or bored: which drill leaves enough, and not too much?",
    (
        Field("finished", "Finished hole", "size", "5/8 in"),
        Field("method", "Finished by", "choice", "ream", options=(("ream", "reaming"), ("bore", "boring"))),
        Field("measured_drill", "The drill at hand measures", "size"),
        Field("depth", "Deep", "size", group=MORE),
        Field("drills", "Drills in the drawer", "choice", "", group=MORE,
              options=(("", "those of the unit"), ("inch", "inch"), ("metric", "metric"), ("both", "both"))),
    ),
    hole_picture, from_job=lambda v: {"finished": v.bore_aim},
)  # fmt: skip
DEFLECTION = Tool(
    "deflection", "/deflection", "Overhang and taper",
    "Work or a boring bar sticks out: how far does it give, and what would help?",
    (
        Field("diameter", "Diameter", "size", "0.75 in"),
        Field("overhang", "Sticks out", "size", "4 in"),
        Field("hold", "Held", "choice", "chuck", options=(("chuck", "in the chuck alone"),
                ("chuck_and_centre", "chuck and centre"),
              ("between_centres", "between centres"), ("boring_bar", "it is a boring bar"))),
        Field("depth", "Depth of cut, on radius", "size", "0.015 in"),
        Field("feed", "Feed a turn", "size", "0.005 in"),
        Field("work_material", "Cutting", "choice", "carbon_steel",
            options=tuple((one.name, one.title) for one in cutting_speeds().values())),
        material_field("stiff_material", "What bends is of", "carbon_steel", MORE),
        Field("bore", "Hollow, hole of", "size", group=MORE),
        Field("force_n", "Force, if it is known", "number", tag="N", group=MORE),
    ),
    deflection_picture,
)  # fmt: skip

SHOULDER = Tool(
    "shoulder", "/shoulder", "A shoulder to its length",
    "Where does each pass stop, and will the corner let its partner seat?",
    (
        Field("length", "From the face", "size", "0.750 in"),
        Field("from_diameter", "From diameter", "size", "1.5 in"),
        Field("to_diameter", "Down to", "size", "1.0 in"),
        Field("depth", "A pass, on radius", "size", "0.050 in"),
        Field("stop_short", "Stops short by", "size", "0.003 in"),
        Field("set_by", "Set by", "choice", "stop", options=(("stop", "carriage stop"), ("slips", "slips at the stop"),
              ("indicator", "indicator"), ("readout", "readout"), ("line", "scribed line"))),
        Field("tool_radius", "Corner the tool leaves, radius", "difference", group=EDGES),
        Field("partner_chamfer", "Chamfer on the mating edge, leg", "difference", group=EDGES),
        Field("radial_clearance", "Clearance on radius", "difference", group=EDGES),
        Field("chamfer", "Chamfer here, leg along the axis", "difference", group=EDGES),
        Field("chamfer_deg", "at", "number", tag="°", group=EDGES),
        Field("compound_deg", "Compound, from the axis", "number", tag="°", group=MORE),
    ),
    shoulder_picture, from_job=lambda v: v.shoulder,
)  # fmt: skip

BORING_BAR = Tool(
    "boring_bar", "/boring-bar", "Will the bar go in, and reach?",
    "Clear all round, long enough, its heel free, and stiff: asked before it is in the hole.",
    (
        Field("hole", "Hole as it is", "size", "0.850 in", hint="At its smallest; measure it, not the drill."),
        Field("depth", "Deep", "size", "1.5 in"),
        Field("bar_diameter", "Bar, diameter", "size", "0.5 in"),
        Field("across", "From its back to the tip", "size", "0.65 in"),
        Field("overhang", "Sticks out", "size", "1.75 in"),
        Field("blind", "The hole is blind", "flag"),
        Field("nose", "Its end stands before the tip by", "difference", group=HEEL),
        Field("heel", "Heel below the tip by", "size", "0.100 in", group=HEEL),
        Field("relief_deg", "Relief of the flank", "number", "8", tag="°", group=HEEL),
        Field("bar_material", "Bar of", "choice", "carbon_steel", group=MORE,
              options=(("carbon_steel", "steel"), ("tungsten_carbide", "carbide"))),
        Field("depth_of_cut", "Depth of cut, on radius", "size", "0.005 in", group=MORE),
        Field("feed", "Feed a turn", "size", "0.003 in", group=MORE),
        Field("work_material", "Cutting", "choice", "carbon_steel", group=MORE,
              options=tuple((one.name, one.title) for one in cutting_speeds().values())),
    ),
    boring_bar_picture,
)  # fmt: skip
FACING = Tool(
    "facing", "/facing", "A face to its length",
    "How much to face off, in which passes, and how many lines of the compound is that?",
    (
        Field("measured", "Measured", "size", "1.0230 in"),
        Field("wanted", "Wanted", "size", "1.0000 in"),
        Field("by", "Set by", "choice", "compound", options=(("compound", "compound"), ("carriage", "carriage dial"),
              ("indicator", "indicator"), ("readout", "readout"))),
        Field("line", "One line of that dial", "size", "0.001 in"),
        Field("turn", "A turn of that dial", "size", group=MORE),
        Field("may_stay", "May be left by the limits", "difference", group=MORE),
        Field("compound_deg", "Compound, from the axis", "number", "60", tag="°"),
        Field("depth", "A pass at most", "size", "0.030 in", group=MORE),
        Field("finish", "Left for the last", "size", "0.005 in", group=MORE),
    ),
    facing_picture,
)  # fmt: skip
DRILL_SIZES = Tool(
    "drill_sizes", "/drills", "Which drill is that?", "Numbers, letters, fractions and millimetres in one row.",
    (Field("size", "Size", "size", "0.2031 in", hint="As measured, or as wanted. A number or a letter will do: #7, F."),
        ),
    drill_sizes_picture, from_job=lambda v: {"size": v.measured or v.aim},
)  # fmt: skip

CUT = (CLEAN_UP, SPEEDS, HOLE, DRILL_SIZES, BORING_BAR, SHOULDER, FACING, DEFLECTION)
TOOLS: dict[str, Tool] = {
    tool.calculation: tool for tool in (*FITS, *JOINTS, *PLAN, *HOLD, *CUT, *LENGTHS, *SMALL_SUMS)
}
"""Every worksheet by the name of its calculation."""
