"""A second executor: it reads a plan's answer as anyone outside would, and cuts a workpiece of thin slices by it.

Written apart from core/metal: slices of a tenth of a millimetre with an outer and an inner diameter each, and the rules
of what can be cut as plain comparisons on them. It knows nothing of letters but what the answer says.
"""

from dataclasses import dataclass, field
from typing import Any

SLICE = 0.1
SOFT = 1.001  # what roughing may leave at a shoulder
ROOM = 3.0
OUTSIDE = ("rough_turn", "turn", "groove", "v_groove", "undercut", "taper", "chamfer", "radius")
HOLES = ("spot", "drill", "ream", "rough_bore", "bore")
IN_AN_END = (*HOLES, "face", "centre_hole", "part_off", "saw", "face_groove")
CORNERS = {"round": 1.0, "square": 2**0.5, "hexagon": 2 / 3**0.5, "octagon": 1.0823922}


def mm(text: str | None) -> float:
    """A length of the answer in mm."""
    if text is None:
        return 0.0
    number, unit = text.split()
    return float(number) * (25.4 if unit == "in" else 1.0)


@dataclass
class Workshop:
    """The workpiece in slices, and everything that was wrong on the way."""

    answer: dict[str, Any]
    long: float
    wrong: list[str] = field(default_factory=list)

    def __post_init__(self) -> None:
        stock = self.answer["stock"]
        self.left, self.right = mm(stock["from"]), mm(stock["to"])
        self.across = mm(stock["across"])
        count = round((self.right - self.left) / SLICE) + 1
        self.at = [self.left + (place + 0.5) * SLICE for place in range(count)]
        over = self.across * CORNERS[stock["section"]]
        self.outer = self.wide(stock["shape"], over)
        self.inner = self.wide(stock["hole"], mm(stock["bore"]))
        self.centres = {end: min(one for one in self.outer if one) / 5 for end in stock["centres"]}
        self.off_centre: set[int] = set()

    def wide(self, stretches: list[dict[str, str]] | None, everywhere: float) -> list[float]:
        """How wide each slice is: as the stretches have it, where there are some."""
        spans = [(mm(one["from"]), mm(one["to"]), mm(one["diameter"])) for one in stretches or ()]
        return [
            next((wide for low, high, wide in spans if low <= at <= high), 0.0 if spans else everywhere)
            for at in self.at
        ]

    def between(self, low: float, high: float) -> list[int]:
        """The slices between two places that are there."""
        return [place for place, at in enumerate(self.at) if max(low, self.left) <= at <= min(high, self.right)]

    def run(self) -> list[str]:
        """Everything that is wrong with the plan; nothing where it can be cut."""
        for set_up in self.answer["set_ups"]:
            self.where = f"set-up {set_up['number']}"
            self.throw = mm(set_up["throw"])
            self.hold(set_up)
            for cut in set_up["operations"]:
                if cut["supports"] is not None:
                    set_up = {**set_up, "supports": cut["supports"]}
                    self.centred(set_up)
                self.where = f"set-up {set_up['number']}, {cut['kind']} {','.join(cut['letters'])}"
                self.cut(cut, set_up)
        if abs(self.left) > SLICE / 2 or abs(self.right - self.long) > SLICE / 2:
            self.wrong.append(f"it is from {self.left} to {self.right} at last")
        return self.wrong

    def say(self, words: str) -> None:
        """Note what is wrong where it is."""
        self.wrong.append(f"{self.where}: {words}")

    def hold(self, set_up: dict[str, Any]) -> None:
        """Whether it is held on what is there, and stands out as it is said."""
        grip, at_right = set_up["grip"], set_up["worked"] == "right"
        ends = self.centred(set_up)
        if grip is None:
            plugs = {one["end"] for one in set_up["supports"] if one["kind"] == "plug"}
            if set_up["way"] != "centres" or ends | plugs != {"left", "right"}:
                self.say("held by nothing")
            return
        low, high = mm(grip["from"]), mm(grip["to"])
        if low < self.left - 1e-6 or high > self.right + 1e-6:
            self.say("gripped beyond its ends")
        profile = self.inner if grip["inside"] else self.outer
        across = mm(grip["diameter"])
        if self.off_centre & set(self.between(low, high)) and not grip["inside"]:
            self.say("gripped on what runs off centre")
        if self.throw and set_up["way"] != "four_jaw":
            self.say("three jaws hold nothing off centre")
        held = [profile[place] for place in self.between(low + SLICE, high - SLICE)]
        flats = across == self.across and not grip["inside"]
        if any(abs(d - across) > 1e-6 and not (flats and d >= across) for d in held):
            self.say(f"gripped on {sorted(set(held))} for {across}")
        front = high if at_right else low
        end = self.right if at_right else self.left
        if set_up["way"] in ("mandrel", "faceplate") or grip["inside"]:
            front = self.left if at_right else self.right
        if abs(abs(end - front) - mm(set_up["stands_out"])) > 1e-6:
            self.say("stands out otherwise than it is said")
        least = max(across / 2, 10)
        if set_up["way"] in ("mandrel", "expanding_mandrel"):
            least = max(across / 4, 10)
        elif set_up["way"] in ("soft_jaws", "faceplate") and grip["against"] == "step":
            least = 3
        if high - low < least - 1e-6:
            self.say(f"{high - low} mm in the jaws of {across}")
        self.overhang(set_up, front, end)

    def centred(self, set_up: dict[str, Any]) -> set[str]:
        """The ends a centre stands in, and whether each has its hole."""
        ends = {one["end"] for one in set_up["supports"] if one["kind"] == "centre"}
        for end in ends:
            hole = self.inner[self.between(self.left, self.right)[-1 if end == "right" else 0]]
            if not self.centres.get(end) or hole >= self.centres[end]:
                self.say(f"no centre hole on the {end}")
        return ends

    def overhang(self, set_up: dict[str, Any], front: float, end: float) -> None:
        """Whether it stands out no further than it may, free or with a centre."""
        if set_up["way"] in ("mandrel", "expanding_mandrel"):
            return
        for one in set_up["supports"]:
            if one["kind"] == "steady":
                front = mm(one["to"]) if set_up["worked"] == "right" else mm(one["from"])
                whole = self.between(
                    mm(one["from"]) + SLICE, mm(one["to"]) - SLICE
                )  # a slice may lie across a shoulder
                rolled = {round(self.outer[place], 6) for place in whole}
                if len(rolled) != 1:
                    self.say(f"rollers on {rolled}")
        out = self.between(min(front, end), max(front, end))
        if out and abs(end - front) > 3 * max(self.outer[place] for place in out) + SLICE:
            self.say("stands out too far")

    def cut(self, cut: dict[str, Any], set_up: dict[str, Any]) -> None:
        """Whether a cut can be made, and make it."""
        kind, begins, ends = cut["kind"], mm(cut["from"]), mm(cut["to"])
        low, high = min(begins, ends), max(begins, ends)
        grip = set_up["grip"]
        if kind in IN_AN_END and any(
            one["kind"] == "centre" and one["end"] == set_up["worked"] for one in set_up["supports"]
        ):
            self.say("a centre stands in that end")
        outside = kind in (*OUTSIDE, "face", "part_off", "saw", "thread", "knurl") and not cut["inside"]
        room = max(ROOM, mm(cut["tool"]["width"]) if kind in ("part_off", "saw") else 0)
        blocks = [] if grip is None or grip["inside"] else [grip]
        blocks += [one for one in set_up["supports"] if one["kind"] == "steady"]
        for one in blocks:
            if outside and low < mm(one["to"]) + room - 1e-6 and high > mm(one["from"]) - room + 1e-6:
                self.say(f"{low} to {high} is too near to what holds it")
        match kind:
            case "face":
                self.face(begins, ends)
            case "part_off" | "saw":
                self.part(low, high, cut, set_up)
            case "centre_hole":
                self.centres[set_up["worked"]] = mm(cut["after"])
            case "deburr" | "thread" | "knurl" | "face_groove":
                pass
            case _ if kind in HOLES:
                self.hole(cut, set_up)
            case "chamfer" if cut["inside"]:
                self.open_mouth(cut, set_up)
            case _:
                self.turn(cut, set_up)

    def face(self, begins: float, ends: float) -> None:
        """Face an end down to where it will be."""
        if abs(begins - self.right) < 1e-6 and ends < begins:
            self.right = ends
        elif abs(begins - self.left) < 1e-6 and ends > begins:
            self.left = ends
        else:
            self.say(f"no face is at {begins}")
        if self.left > 1e-6 or self.right < self.long - 1e-6:
            self.say("faced into the part")

    def part(self, low: float, high: float, cut: dict[str, Any], set_up: dict[str, Any]) -> None:
        """Part the piece off."""
        there = self.between(low, high)
        wall = (max(self.outer[one] for one in there) - min(self.inner[one] for one in there)) / 2
        sawn = cut["kind"] == "saw"
        if not sawn and (mm(cut["tool"]["reach"]) < wall - 1e-6 or set_up["supports"]):
            self.say("the blade does not reach, or it is supported")
        if not sawn and self.throw:
            self.say("a blade that meets the work once a turn")
        if abs(high - low - mm(cut["tool"]["width"])) > 1e-6:
            self.say("the blade is wider than its cut")
        piece = self.right - high if set_up["worked"] == "right" else low - self.left
        if not sawn and piece > 3 * max(self.outer[one] for one in self.between(self.left, self.right)) + SLICE:
            self.say("a long piece is parted off")
        if set_up["worked"] == "right":
            self.left = high
        else:
            self.right = low

    def hole(self, cut: dict[str, Any], set_up: dict[str, Any]) -> None:
        """Open a hole from its mouth."""
        begins, ends, after = mm(cut["from"]), mm(cut["to"]), mm(cut["after"])
        at_right = set_up["worked"] == "right"
        way_in = self.between(begins, self.right) if at_right else self.between(self.left, begins)
        if any(self.inner[one] < after - 1e-6 for one in way_in[1:-1]):
            self.say("the tool does not go through what is before it")
        low, high = min(begins, ends), max(begins, ends)
        room = min(SOFT, (high - low) / 4)
        there = self.between(low + (room if at_right else SLICE), high - (SLICE if at_right else room))
        if there and cut["kind"] != "spot":
            smallest = min(self.inner[one] for one in there)
            said = mm(cut["before"])
            is_short = high - low < 2 * SOFT  # slices do not tell its floor from its wall
            if is_short and any(abs(self.inner[one] - said) < 1e-6 for one in self.between(low, high)):
                smallest = said
            slope = max(
                abs(self.inner[one] - self.inner[other]) for one, other in zip(there, there[1:] or there, strict=False)
            )
            if cut["kind"] != "drill" and abs(smallest - mm(cut["before"])) > max(1.5 * slope, 1e-6):
                self.say(f"the hole is {smallest}, not {cut['before']}")
            if cut["kind"] in ("ream", "bore", "rough_bore") and smallest == 0 and cut["tool"]["kind"] != "facing":
                self.say("bored from the solid")
            if smallest >= after:
                self.say("nothing to open")
        tip = mm(cut["point"]) if cut["point"] is not None else ends
        for one in self.between(min(low, tip), max(high, tip)):
            beyond = abs(self.at[one] - ends) if not low <= self.at[one] <= high else 0.0
            size = after * (1 - beyond / abs(tip - ends)) if beyond and tip != ends else after
            if cut["kind"] == "spot":
                size = after * (1 - abs(self.at[one] - begins) / abs(ends - begins))
            self.inner[one] = max(self.inner[one], size)

    def open_mouth(self, cut: dict[str, Any], set_up: dict[str, Any]) -> None:
        """Break the edge of a hole's mouth."""
        low, high, before, after = (mm(cut[name]) for name in ("from", "to", "before", "after"))
        for one in self.between(low, high):
            if self.inner[one] == 0:
                self.say("there is no hole to break the edge of")
            share = (self.at[one] - low) / (high - low)
            size = before + (share if set_up["worked"] == "right" else 1 - share) * (after - before)
            self.inner[one] = max(self.inner[one], size)

    def turn(self, cut: dict[str, Any], set_up: dict[str, Any]) -> None:
        """Take metal off the outside."""
        low, high, kind = mm(cut["from"]), mm(cut["to"]), cut["kind"]
        before, after = mm(cut["before"]), mm(cut["after"])
        free = set_up["way"] in ("centres", "mandrel")
        room = min(SOFT, (high - low) / 4)
        at_right = set_up["worked"] == "right"
        there = self.between(low + (room if at_right or free else 0), high - (room if not at_right or free else 0))
        largest = max((self.outer[one] for one in there), default=0.0)
        whole = set(self.between(low, high))
        if self.throw and not whole & self.off_centre:
            hole = max(self.inner[one] for one in whole)
            if min(self.outer[one] for one in whole) < after + 2 * self.throw - 1e-6 or (
                hole and hole + 2 * self.throw > after
            ):
                self.say("off centre it comes out of the metal")
            self.off_centre |= whole
        elif not self.throw and any(self.outer[one] > after for one in whole & self.off_centre):
            self.say("what runs off centre is turned on the part's axis")
        if kind in ("rough_turn", "turn"):
            if abs(largest - before) > 1e-6:
                self.say(f"the metal is {largest}, not {before}")
            if largest <= after:
                self.say("nothing to turn")
            right = max((self.outer[one] for one in self.between(high + SLICE, self.right)), default=0.0)
            left = max((self.outer[one] for one in self.between(self.left, low - SLICE)), default=0.0)
            if (min(left, right) if free else right if at_right else left) > after + 1e-6:
                self.say("something larger stands before the tool")
        for one in self.between(low, high):
            share = (self.at[one] - low) / (high - low)
            size = after
            if kind == "taper":
                size = before + share * (after - before)
            elif kind in ("chamfer", "radius"):
                falls_right = (
                    low > self.long / 2
                    if abs(high - self.right) > 1 and abs(low - self.left) > 1
                    else abs(high - self.right) < abs(low - self.left)
                )
                size = before + (share if falls_right else 1 - share) * (after - before)
            self.outer[one] = min(self.outer[one], size)
