"""The order of work as an answer: of a part by its lines and its stock, every set-up as it is held and every cut with
its place, so that anyone can run it again.
"""

from collections.abc import Iterator
from decimal import Decimal
from typing import Literal

from pydantic import ConfigDict, Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, UnreadableLength
from nomisma.core.metal.cut import Cut, Grip, Support, Tool
from nomisma.core.metal.profile import Profile
from nomisma.core.metal.rules import SMALLEST_BORED_MM, Complaint
from nomisma.core.metal.stock import Stock, StockSection
from nomisma.core.model import Model
from nomisma.core.operations.hole_tools import HoleTools, hole_tools
from nomisma.core.operations.operations import BY_HAND
from nomisma.core.operations.reamers import COMMON_REAMERS
from nomisma.core.order.from_now import GoneOn, gone_on
from nomisma.core.order.holds import SPINDLE_BORE_MM
from nomisma.core.order.laid_out import StockKind, StockSaid
from nomisma.core.order.mountings import PlanMounting
from nomisma.core.order.order import OrderOfWork, PlannedOperation, PlannedSetUp, order_of_work
from nomisma.core.order.order_notes import notes_of
from nomisma.core.part.axial_lengths import axial_lengths
from nomisma.core.planning.feature_lines import MOST_LINES, FeatureLinesInput, feature_lines, lettered
from nomisma.core.planning.sheet import rpm_of
from nomisma.core.quantity.fields import Difference, Size, SizeOrZero
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import COMMON_PRACTICE, Step
from nomisma.core.worksheet_answer import AnswerTable, Fact, WorksheetAnswer


class OrderInput(Model):
    """A part as its lines say it, and its stock: a bar with a grip to spare, a blank, a sawn tube, a casting.

    `across`: over flats (none: what is usual); `bore`: a tube's; `long`: none: as long as is wanted; `skin`: all round.
    A casting has the part's own shape and its skin, or is a cylinder where `across` and `long` are said.
    `repair`: the part itself, of which what says so stays as it is, and the rest measures what is said (now 1.238);
    `centred`: it has centre holes of its own.

    `face_as_parted`: the far face may stay as the parting tool leaves it; `rough_first`: all of it is roughed before
    anything is finished; `mounting`: how the whole part is held; each where it can be. `parting`: the blade's width;
    `spindle_bore`: of the lathe; `reamers`, `drills`: those at hand, like 6 8 10 mm; 1/4 1/2 in; 1 to 13 by 0.1 mm (no
    drills said: every one of the unit's tables); `least_bored`: the smallest hole a bar goes into; `material` by its
    name, for the speeds.

    `done`: the operations of its plan that are done, by their keys; `first`: the one that is wanted next, of another
    set-up: the rest is planned anew from the piece as it is then.
    """

    lines: str = Field(max_length=20_000, examples=["od 24 h9 x 30\nod 40 x 10\nbore 12 H7 thru"])
    stock: StockKind = "bar"
    section: StockSection = "round"
    across: Size | None = None
    bore: Size | None = None
    long: Size | None = None
    skin: SizeOrZero | None = None
    parting: Size | None = None
    spindle_bore: Size | None = None
    face_as_parted: bool = False
    rough_first: bool = False
    mounting: PlanMounting = "any"
    centred: bool = False
    reamers: str = Field(default=COMMON_REAMERS, max_length=2_000)
    drills: str = Field(default="", max_length=2_000)
    least_bored: Size | None = None
    material: str = Field(default="carbon_steel", max_length=40)
    done: list[str] = Field(default=[], max_length=400)
    first: str = Field(default="", max_length=200)
    unit: Unit = "mm"

    @property
    def tools(self) -> HoleTools:
        """What is at hand for its holes. Raises InputError for a list that cannot be read."""
        least_mm = self.least_bored.mm if self.least_bored else SMALLEST_BORED_MM
        return hole_tools(self.reamers, self.drills, least_mm)

    @property
    def stock_said(self) -> StockSaid:
        """The stock for the plan. Raises InputError where a tube has no wall."""
        if self.stock == "tube":
            if self.bore is None:
                raise InputError("The bore of the tube is needed.", "Measure it at both ends.", field="bore")
            if self.across is not None and self.bore.mm >= self.across.mm:
                raise InputError("The tube has no wall.", "Check its outside and its bore.", field="bore")
        skin, bore = (one.mm if one is not None else Decimal(0) for one in (self.skin, self.bore))
        return StockSaid(
            self.stock,
            self.section,
            across_mm=self.across.mm if self.across else None,
            bore_mm=bore if self.stock == "tube" else Decimal(0),
            long_mm=self.long.mm if self.long else None,
            skin_mm=skin,
            blade_mm=self.parting.mm if self.parting else None,
            spindle_mm=self.spindle_bore.mm if self.spindle_bore else SPINDLE_BORE_MM,
            centred=self.centred,
            mounting=self.mounting,
        )


class _Placed(Model):
    """From where to where along the axis, from the part's left face."""

    model_config = ConfigDict(serialize_by_alias=True, validate_by_name=True, validate_by_alias=True)
    from_: Difference = Field(alias="from")
    to: Difference


class StretchRead(_Placed):
    """So wide from where to where."""

    diameter: SizeOrZero


class StockLies(_Placed):
    """The stock as it lies about the finished part; `across`: over flats; `bore`: a tube's; `shape`, `hole`: of a
    casting and of a part that is mended, from where to where it is how wide; `centres`: the ends that have a centre
    hole of their own.
    """

    section: StockSection
    across: Size
    bore: Size | None = None
    shape: list[StretchRead] | None = None
    hole: list[StretchRead] | None = None
    centres: list[Literal["right", "left"]] = Field(default_factory=list)


class GripRead(_Placed):
    """What the jaws hold: a surface by its letter, `stock` as it came."""

    surface: str
    inside: bool
    diameter: Size
    protected: bool
    against: Literal["step", "stop"] | None = None


class SupportRead(Model):
    """A centre or plug in an end, a steady from where to where on a surface, a follow rest."""

    model_config = ConfigDict(serialize_by_alias=True, validate_by_name=True, validate_by_alias=True)
    kind: str
    end: str | None = None
    surface: str | None = None
    from_: Difference | None = Field(default=None, alias="from")
    to: Difference | None = None


class ToolRead(Model):
    """A tool as far as its reach decides: its nose, a blade's width and reach, a drill's diameter."""

    kind: str
    nose: Size | None = None
    width: Size | None = None
    reach: Size | None = None
    diameter: Size | None = None


class CutRead(_Placed):
    """One cut; its number is its operation's in the words. `before`, `after`: diameters; of a taper those at `from` and
    at `to`. `supports`: what holds the work beside the jaws from this cut on; none where it stays as before. `key`: its
    operation's, by which an order or what is done is said.
    """

    number: int
    key: str
    kind: str
    letters: list[str]
    before: SizeOrZero | None = None
    after: SizeOrZero | None = None
    point: Difference | None = None
    inside: bool
    passes: int
    tool: ToolRead
    rpm: int | None = None
    title: str
    supports: list[SupportRead] | None = None


class SetUpRead(Model):
    """One set-up: the end it is worked from, how it is held, how far it stands out with facing still on, its cuts.
    `throw`: how far off centre it is held; the cuts' diameters are the metal's own, each about its axis. `roughing`: in
    it the part is roughed all over, before it rests and anything is finished.
    """

    number: int
    title: str
    worked: Literal["right", "left"]
    way: str
    stands_out: Size
    trued_on: str | None = None
    throw: Size | None = None
    roughing: bool = False
    grip: GripRead | None = None
    supports: list[SupportRead]
    operations: list[CutRead]


class LeftOutRead(Model):
    """Letters that no operation here makes, and why."""

    letters: list[str]
    reason: str


class ComplaintRead(Model):
    """Why there is no plan: the rule's name, its sentence, what would do."""

    rule: str
    sentence: str
    remedy: str


class OrderResult(WorksheetAnswer):
    """The plan as it was run: stock, set-ups with their cuts, what is dialled in, what no operation makes and why; no
    set-ups and the complaints where none can be cut.
    """

    stock: StockLies | None = None
    set_ups: list[SetUpRead]
    dial_in: list[str]
    left_out: list[LeftOutRead]
    complaints: list[ComplaintRead]
    tool_changes: int
    proved: bool


@calculation(
    name="order_of_work",
    title="Set-ups and order of operations",
    validity=(
        f"Turned parts of {MOST_LINES} lines or less with an outside of a known size; a start for the one who decides."
    ),
    source="search over set-ups and changes of tool, run on the metal; rules: common practice, no source",
    example={"lines": "od 24 h9 x 30 ±0.1\nod 40 x 10 ±0.1\nbore 12 H7 thru\nlength 40 ±0.1", "stock": "bar",
        "across": "42 mm"},
)  # fmt: skip
def order_of_work_of_lines(given: OrderInput) -> OrderResult:
    """The plan of a sketched part. Raises UnreadableLength for a line that is none, InputError where no outside has a
    size.

    Source: search; rules: common practice, no source.

    >>> found = order_of_work_of_lines(OrderInput(lines="od 24 x 30", face_as_parted=True))
    >>> found.set_ups[0].operations[0].kind, found.set_ups[0].title
    ('face', 'Set-up 1, from the right end')
    """
    read = feature_lines(FeatureLinesInput(text=given.lines, unit=given.unit))
    if read.not_understood:
        wrong = read.not_understood[0]
        raise UnreadableLength(
            f"Line {wrong.line}, “{wrong.text[:40]}”: {wrong.sentence}", "Write it as on Part.", field="lines"
        )
    features = [lettered(one) for one in read.features]
    found = order_of_work(
        features,
        stock=given.stock_said,
        face_as_parted=given.face_as_parted,
        unit=given.unit,
        tools=given.tools,
        rough_first=given.rough_first,
    )
    if found is None:
        raise InputError("No outside has a size.", "Give its diameter and its length: od 24 x 30.", field="lines")
    return _answer(_from_now(found, given) if given.done or given.first else found, given)


def _from_now(found: OrderOfWork, given: OrderInput) -> OrderOfWork:
    """The plan as it goes on from what is done. Raises InputError for an operation it has not, or where none goes
    on.
    """
    known = {one.key for one in found.operations}
    for field, keys in (("done", given.done), ("first", [given.first] if given.first else [])):
        if strangers := [key for key in keys if key not in known]:
            raise InputError(
                f"“{strangers[0][:60]}” is no operation of the plan.", "Take its key as the plan says it.", field=field
            )
    on = gone_on(found, [GoneOn(tuple(given.done), given.first)], given.stock_said, face_as_parted=given.face_as_parted)
    if on.not_gone_on:
        raise InputError(on.not_gone_on[0].sentence, on.not_gone_on[0].remedy, field="first")
    return on


def _answer(found: OrderOfWork, given: OrderInput) -> OrderResult:
    said = "no plan has fewer set-ups" if found.proved else "best found; that none has fewer is not proved"
    count = len(found.set_ups)
    sentence = f"{len(found.operations)} operations, {found.changes} changes of tool; {said}."
    if not found.set_ups:
        sentence = f"{found.complaints[0].sentence} {found.complaints[0].remedy}"
    reasons: dict[str, list[str]] = {}
    for one in found.left_out:
        reasons.setdefault(one.why, []).append(one.letter)
    return OrderResult(
        stock=_stock(found.stock, given.unit) if found.stock else None,
        set_ups=[_set_up(one, found, given) for one in found.set_ups],
        dial_in=list(found.dial_in),
        left_out=[LeftOutRead(letters=letters, reason=why) for why, letters in reasons.items()],
        complaints=[_complaint(one) for one in found.why_none],
        tool_changes=found.changes,
        proved=found.proved,
        headline=f"{count} set-up{'s' if count > 1 else ''}" if count else "No plan of it can be cut",
        sentence=sentence,
        table=AnswerTable(
            head=["Operation", "Tool", "Why there"],
            rows=[_row(one, set_up) for set_up in found.set_ups for one in set_up.operations],
        ),
        notes=notes_of(found),
        cautions=["Key out, guard on; spin by hand before power. The machine’s manual comes first."],
        working=[
            Step(
                name="Order",
                formula=(
                    "of the plans that run on the metal: fewest set-ups; true to each other in one chucking; most"
                    " diameters in one chucking; fewest tools"
                ),
                result=said if count else "none runs",
                source=COMMON_PRACTICE,
            )
        ],
    )


def _row(one: PlannedOperation, set_up: PlannedSetUp) -> list[Fact]:
    tool = "" if one.operation.tool == BY_HAND else one.operation.tool
    return [Fact(words=f"{set_up.number}.{one.number} {one.operation.title}"), Fact(words=tool), Fact(words=one.why)]


def _complaint(one: Complaint) -> ComplaintRead:
    return ComplaintRead(rule=one.rule, sentence=one.sentence, remedy=one.remedy)


def _stock(one: Stock, unit: Unit) -> StockLies:
    return StockLies(
        from_=Length(one.from_mm, unit),
        to=Length(one.to_mm, unit),
        section=one.section,
        across=Length(one.across_mm, unit),
        bore=Length(one.bore_mm, unit) if one.bore_mm else None,
        shape=_stretches(one.shape, unit),
        hole=_stretches(one.inside, unit),
        centres=[end for end, _ in one.centred],
    )


def _stretches(profile: Profile | None, unit: Unit) -> list[StretchRead] | None:
    if profile is None:
        return None
    return [
        StretchRead(from_=Length(one.from_mm, unit), to=Length(one.to_mm, unit), diameter=Length(one.at_from_mm, unit))
        for one in profile.stretches
    ]


def _set_up(one: PlannedSetUp, found: OrderOfWork, given: OrderInput) -> SetUpRead:
    held = one.set_up.workholding
    assert held is not None, "a plan that runs is held"
    return SetUpRead(
        number=one.number,
        title=one.title,
        worked=held.worked,
        way=held.way,
        stands_out=Length(held.stands_out_mm, given.unit),
        trued_on=held.trued_on or None,
        throw=Length(held.throw_mm, given.unit) if held.throw_mm else None,
        roughing=one.set_up.is_roughing,
        grip=_grip(held.grip, given.unit) if held.grip else None,
        supports=[_support(each, given.unit) for each in held.supports],
        operations=list(_operations(one, found, given)),
    )


def _grip(one: Grip, unit: Unit) -> GripRead:
    return GripRead(
        from_=Length(one.from_mm, unit),
        to=Length(one.to_mm, unit),
        surface=one.surface,
        inside=one.inside,
        diameter=Length(one.diameter_mm, unit),
        protected=one.protected,
        against=one.against or None,
    )


def _support(one: Support, unit: Unit) -> SupportRead:
    return SupportRead(
        kind=one.kind,
        end=one.end or None,
        surface=one.surface or None,
        from_=Length(one.from_mm, unit) if one.from_mm is not None else None,
        to=Length(one.to_mm, unit) if one.to_mm is not None else None,
    )


def _operations(one: PlannedSetUp, found: OrderOfWork, given: OrderInput) -> Iterator[CutRead]:
    makes = _made_by(found)
    for operation in one.operations:
        for cut in operation.cuts:
            yield _cut(operation, cut, makes[id(cut)], given)


def _made_by(found: OrderOfWork) -> dict[int, list[str]]:
    """Of each cut the letters it makes: a length stands where its second end is cut, which may be a face later on."""
    assert found.piece is not None, "a plan that runs is of a piece"
    known = {each.letter for each in found.piece.features if not each.feature.of_kind.is_diameter}
    lies = {
        each.letter: (each.from_mm, each.to_mm) for each in axial_lengths(found.piece.features, found.piece.section)
    }
    cuts = [cut for one in found.set_ups for operation in one.operations for cut in operation.cuts]
    made = {id(cut): list(cut.letters) for cut in cuts}
    for at, cut in enumerate(cuts):
        for letter in [one for one in cut.letters if one in known]:
            if not cut.traits.makes:
                made[id(cut)].remove(letter)
                continue
            later = [each for each in cuts[at + 1 :] if each.kind == "face" and each.to_mm in lies.get(letter, ())]
            if later:
                made[id(cut)].remove(letter)
                made[id(later[-1])].append(letter)
    return made


def _cut(operation: PlannedOperation, cut: Cut, letters: list[str], given: OrderInput) -> CutRead:
    unit = given.unit
    sizes = {"before": cut.before_mm, "after": cut.after_mm, "point": cut.point_mm}
    placed = {name: Length(mm, unit) for name, mm in sizes.items() if mm is not None}
    return CutRead(
        number=operation.number,
        key=operation.key,
        kind=cut.kind,
        letters=letters,
        from_=Length(cut.from_mm, unit),
        to=Length(cut.to_mm, unit),
        inside=cut.inside or cut.is_hole,
        passes=cut.passes,
        tool=_tool(cut.tool, unit),
        rpm=rpm_of(operation.operation, cut, material=given.material),
        title=operation.operation.title,
        supports=None if cut.supports is None else [_support(each, unit) for each in cut.supports],
        **placed,
    )


def _tool(one: Tool, unit: Unit) -> ToolRead:
    sizes = {"nose": one.nose_mm, "width": one.width_mm, "reach": one.reach_mm, "diameter": one.diameter_mm}
    return ToolRead(kind=one.kind, **{name: Length(mm, unit) for name, mm in sizes.items() if mm is not None})
