"""How a set-up is held, in steps with their figures: what is gripped and how far it stands out, and what is looked at
first."""

from decimal import Decimal

from nomisma.core.metal.cut import Support, SupportKind, Workholding
from nomisma.core.quantity.display import show, show_exact, show_sawn
from nomisma.core.quantity.length import Unit

ON_A_SKIN = (
    "True it to what is seen running, not to the rough outside; note what comes off this side and take the same off"
    " the other.",
    "Skim the face first: a chilled skin takes the edge off a tool. Light cuts until the grip is on machined"
    " workpiece.",
)
"""How a casting or the like is begun. Source: common practice, no source."""
BY_HAND_ROUND = "Key out, guard on; turn it by hand once round."
MANDREL = (
    "Between centres with a dog, tail clear of the chuck; light cuts towards the large end.",
    "Needle on the mandrel first: what it shows is not the work's.",
)
CENTRES = (
    "Both centres clean and seated; grease on a dead one, and take it up again as the work warms.",
    "Driven at its face, so that the whole outside is free; with a carrier, what is under it is turned last, turned"
    " round between the same centres.",
    "Tailstock true: two light cuts at the two ends, measured, tell by how much it is off.",
)
SEATED = "Hard against the jaws or on parallels for a square face; parallels out before power."
DRAWN_UP = "Bore and mandrel clean; drawn up, its face hard against the shoulder, then the needle on what runs."
ON_A_THREAD = "It carries a thread: a split ring or copper under the jaws, or they crush its crests."
CENTRE_LATER = (
    "A centre comes up in its end once that is faced and drilled: what is turned is long for its thickness."
    " Room for the tailstock."
)
SPARE_END = "The spare end stays rough: if the piece is spoiled, it can be turned round and begun again."


def held_words(
    held: Workholding, unit: Unit, *, with_skin: bool = False, spare: bool = False, on_thread: bool = False
) -> list[str]:
    """How a set-up is held and what is looked at first, as steps; sizes in `unit`. Source: common practice, no source.

    `with_skin`: the stock has a skin, and it is held on that; `spare`: stock is left to be parted from;
    `on_thread`: what is gripped carries a thread.

    >>> from nomisma.core.metal.cut import Grip
    >>> grip = Grip("C", Decimal(0), Decimal(18), Decimal(40), inside=True)
    >>> held_words(Workholding("right", "mandrel", Decimal(24), grip), "mm")[0]
    'Press it on a mandrel in C, its small end first.'
    """
    match held.way:
        case "mandrel":
            bore = held.grip.surface if held.grip else "its bore"
            return [f"Press it on a mandrel in {bore}, its small end first.", *MANDREL, BY_HAND_ROUND]
        case "centres":
            plugs = ["A plug in each hollow end, its centre true to the outside."] if _has(held, "plug") else []
            rests = [_support(one, held, unit) for one in held.supports if one.kind == "follow_rest"]
            return [*plugs, *CENTRES, *rests, BY_HAND_ROUND]
        case _:
            found = _in_a_chuck(held, unit, with_skin=with_skin, spare=spare)
            return [found[0], ON_A_THREAD, *found[1:]] if on_thread else found


def _has(held: Workholding, kind: SupportKind) -> bool:
    return any(one.kind == kind for one in held.supports)


def _in_a_chuck(held: Workholding, unit: Unit, *, with_skin: bool, spare: bool) -> list[str]:
    found = [f"{_gripped(held, unit)}; {show_sawn(held.stands_out_mm, unit)} stands out, facing still on."]
    found += [_support(one, held, unit) for one in held.supports]
    if any(one not in held.supports for one in held.every_support):
        found.append(CENTRE_LATER)
    on_stock = held.grip is not None and held.grip.surface == "stock"
    if on_stock and with_skin:
        found += ON_A_SKIN
    else:
        found.append(DRAWN_UP if held.way == "expanding_mandrel" else SEATED)
    if held.way == "expanding_mandrel" and any(cut.kind == "rough_turn" for cut in held.cuts):
        found.append("Light cuts: a mandrel slips under a heavy one; a stud through a hole may drive it as well.")
    if held.throw_mm:
        found += _off_centre(held, unit)
    elif held.trued_on:
        found.append(f"Needle on {held.trued_on}: what is cut now must be true to it.")
    if on_stock and spare:
        found.append(SPARE_END)
    return [*found, BY_HAND_ROUND]


def _off_centre(held: Workholding, unit: Unit) -> list[str]:
    """How work is set over by its throw, and what that does."""
    throw, swing = show_exact(held.throw_mm, unit), show_exact(2 * held.throw_mm, unit)
    on = f"on {held.trued_on}" if held.trued_on else "on the stock"
    return [
        f"Off centre by {throw}: the needle {on} swings {swing} between two opposite jaws, and nothing between the"
        " other two. A lever indicator may not reach so far: a plunger, or in steps.",
        "It pulls out of balance: start at the slowest speed, a counterweight where it shakes. The cut is broken until"
        " it is round; tool clear of what swings.",
    ]


def _gripped(held: Workholding, unit: Unit) -> str:
    grip = held.grip
    if grip is None:
        return "Held as it is"
    size, long = show(grip.diameter_mm, unit), show_sawn(grip.length_mm, unit)
    if held.way == "expanding_mandrel":
        return f"On an expanding mandrel in {grip.surface} (⌀{size}), {long} of it, its face against the shoulder"
    if held.way == "soft_jaws":
        step = ", against their step" if grip.against == "step" else ""
        if grip.surface == "stock":
            return f"Jaws reversed, or soft jaws bored to ⌀{size}: {long} of the stock in them{step}"
        return f"Soft jaws bored to ⌀{size} for {grip.surface}, {long} in them{step}"
    if grip.surface == "stock":
        return f"Grip the stock (⌀{size}) by {long}"
    return f"Grip {grip.surface} (⌀{size}) by {long}, strips under the jaws"


def _support(one: Support, held: Workholding, unit: Unit) -> str:
    if one.kind == "follow_rest":
        return "A follow rest behind the tool: it is long and thin."
    if one.kind == "steady" and one.from_mm is not None and one.to_mm is not None and held.grip is not None:
        end_mm = _worked_end_mm(held)
        near, far = sorted((abs(end_mm - one.from_mm), abs(end_mm - one.to_mm)))
        on = f"on {one.surface}" if one.surface != "stock" else "on the stock where it is round, else in a cat-head"
        return (
            f"Steady {on}, its rollers from {show_exact(near, unit)} to {show_exact(far, unit)} from the end that is"
            " worked; set just to turn, oil, chips kept off."
        )
    return f"{one.kind.capitalize()} in the {one.end} end."


def _worked_end_mm(held: Workholding) -> Decimal:
    """Where the worked end is, mm: as far from the jaws' front as it stands out."""
    assert held.grip is not None, "what has a steady is gripped"
    if held.worked == "right":
        return held.grip.to_mm + held.stands_out_mm
    return held.grip.from_mm - held.stands_out_mm


def why_held(held: Workholding) -> str:
    """Why a set-up is held so, in words. Source: common practice, no source.

    >>> why_held(Workholding("right", "centres", Decimal(182), None))
    'every diameter true to the others, and to be put back'
    """
    grip = held.grip
    match held.way:
        case "mandrel":
            return "its bore is finished, and its outside runs with it"
        case "expanding_mandrel" | "bonded_mandrel":
            return "its bore is finished: what is turned runs with it, and no jaw stands in the way"
        case "centres" | "chuck_and_centre" | "follow_rest":
            return "every diameter true to the others, and to be put back"
        case "steady":
            return "its end is worked, and it is too long to stand out free"
        case "faceplate":
            return "it is too wide or too short for jaws"
        case "soft_jaws":
            if grip is not None and grip.surface == "stock":
                return "little of it is gripped, against their step"
            return "a finished surface is gripped, and jaws would mark it"
        case "four_jaw":
            off = "what lies off the part's axis runs true so, and all of it in one chucking"
            return off if held.throw_mm else "three jaws do not hold such stock"
        case "three_jaw" | "collet":
            return "all that must be true is cut before it is taken out"
