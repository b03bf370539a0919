"""Worksheets of planning: the order of work, the blank, the cut list, the drawing against the metal, a thin ring in a
chuck, chatter.
"""

from nomisma.core.order.laid_out import STOCK_KIND_WORDS
from nomisma.core.planning.blank import SHAPE_WORDS, SURFACE_WORDS
from nomisma.core.planning.chatter import chatter_causes
from nomisma.web.drawings.planning import (
    blank_picture,
    chatter_picture,
    cut_list_picture,
    drawing_against_metal_picture,
    jaw_squeeze_picture,
    order_picture,
)
from nomisma.web.worksheets.tool import Field, Tool, material_field

STOCK = "The stock there is"
MORE = "More"
FACTS = "facts"

BLANK = Tool(
    "blank", "/blank", "The blank", "How long and how far across must the stock be, and what does it weigh?",
    (
        Field("finished_length", "Finished, long", "size", "1.980 in"),
        Field("finished_diameter", "Largest diameter", "size", "1.375 in"),
        Field("pieces", "Pieces", "number", "1"),
        Field("surface", "Its surface", "choice", "bright", options=tuple(SURFACE_WORDS.items())),
        Field("parting", "Parted or sawn, a piece", "difference", "0.125 in"),
        Field("grip", "Stays in the chuck", "difference", "0.75 in"),
        Field("shape", "Stock", "choice", "round", group=STOCK, options=tuple(SHAPE_WORDS.items())),
        Field("stock_across", "Across, as measured", "size", "1.5 in", group=STOCK),
        Field("stock_bore", "Bore of a tube", "size", group=STOCK),
        Field("stock_length", "Long, as measured", "size", "12 in", group=STOCK),
        material_field("material", "Material", "carbon_steel", group=STOCK),
        Field("facing", "Left on each end", "difference", group=MORE),
        Field("oval_or_bent", "Oval, bent or sawn askew by", "difference", group=MORE),
        Field("bore", "Bore of the part", "size", group=MORE),
        Field("lift_kg", "Lifted by two from", "number", "20", tag="kg", group=MORE),
    ),
    blank_picture, from_job=lambda v: v.blank, answer=FACTS,
)  # fmt: skip

CUT_LIST = Tool(
    "cut_list", "/cut-list", "A cut list", "Which pieces from which bars, so that the least stock is cut into?",
    (
        Field("pieces", "Pieces, one length a line", "lines", "6 x 61.2 mm\n4 x 30 mm",
            hint="How many before it: 6 x 61.2."),
        Field("bars", "Bars there are", "lines", "2 x 300 mm\n640 mm"),
        Field("saw", "The saw is wide", "difference", "2 mm",
        hint="0 where it is sheared."),
        Field("trim", "Trimmed off each bar", "difference", group=MORE),
    ),
    cut_list_picture, answer=FACTS,
)  # fmt: skip

DRAWING_AGAINST_METAL = Tool(
    "drawing_against_metal", "/drawing-against-metal", "The drawing against the metal",
    "Before the saw: is it the length you think it is?",
    (
        Field("length", "Overall length", "size", "1.980 in"),
        Field("length_again", "Again, from the drawing", "size", "1.980 in"),
        Field("diameter", "Greatest diameter", "size", "1.375 in"),
        Field("diameter_again", "Again, from the drawing", "size", "1.375 in"),
        Field("blank", "To be sawn", "size", "2.41 in"), Field("across", "Stock, at least across", "size", "1.40 in"),
        Field("stock_length", "Stock, long, measured", "size", "2.75 in"),
        Field("stock_across", "Stock, across, measured", "size", "1.5 in"),
    ),
    drawing_against_metal_picture, answer=FACTS,
)  # fmt: skip

JAW_SQUEEZE = Tool(
    "jaw_squeeze", "/jaw-squeeze", "A thin ring in a chuck", "How far out of round is it when the jaws let go?",
    (
        Field("outside", "Outside", "size", "100 mm"), Field("bore", "Bore", "size", "90 mm"),
        Field("length", "Long", "size", "30 mm"),
        Field("jaws", "Jaws", "choice", "3", options=tuple((n, n) for n in ("2", "3", "4", "6", "8"))),
        Field("force_n", "Each presses with", "number", "3000", tag="N"),
        Field("may_be", "It may come out by", "difference", "0.01 mm"),
        material_field("material", "Material", "carbon_steel", group=MORE),
    ),
    jaw_squeeze_picture, answer=FACTS,
)  # fmt: skip

CHATTER = Tool(
    "chatter", "/chatter", "Chatter and finish", "What to change next, one thing at a time?",
    (
        Field("cause", "What chatters", "choice", "long_bar", options=tuple(chatter_causes().items())),
        Field("rpm", "Now at", "number", "400", tag="rpm"),
        Field("feed", "Feed a turn", "size", "0.1 mm"),
        Field("depth", "Depth", "size", "0.5 mm"), Field("nose", "Nose radius", "size", "0.8 mm"),
        Field("tried", "Tried already", "text", "1", hint="Their numbers: 1 3."),
    ),
    chatter_picture, answer=FACTS,
)  # fmt: skip

ORDER_OF_WORK = Tool(
    "order_of_work", "/order-of-work", "Set-ups and order of operations", "How is it held, what comes first, and why?",
    (
        Field("lines", "The part, a feature a line", "lines",
            "od 24 mm h9 x 30 mm\nod 40 mm x 10 mm\nbore 12 mm H7 thru\nlength 40 mm ±0.1",
              hint="As on Part."),
        Field("stock", "Made from", "choice", "bar", options=tuple(STOCK_KIND_WORDS.items())),
        Field("face_as_parted", "Its far face may stay as parted", "flag"),
        Field("section", "Stock", "choice", "round", group=STOCK,
            options=tuple((name, words) for name, words in SHAPE_WORDS.items() if name != "tube")),
        Field("across", "Across, as measured", "size", group=STOCK),
        Field("bore", "Bore of a tube", "size", group=STOCK),
        Field("long", "Long, as measured", "size", group=STOCK),
        Field("skin", "Skin all round", "size", group=STOCK),
        Field("parting", "The parting tool is wide", "size", group=MORE),
        Field("spindle_bore", "Bore of the spindle", "size", group=MORE),
        material_field("material", "Material, for the speeds", "carbon_steel", group=MORE),
    ),
    order_picture, answer=FACTS,
)  # fmt: skip

PLAN = (ORDER_OF_WORK, BLANK, DRAWING_AGAINST_METAL, CUT_LIST, JAW_SQUEEZE, CHATTER)
