"""The Mate answer: every fit system's limits for the member to be made, side by side, on this partner."""

from collections.abc import Sequence
from decimal import Decimal
from typing import Literal

from pydantic import Field

from nomisma.core.calculation import calculation
from nomisma.core.errors import InputError, NotDefined, OutOfRange
from nomisma.core.fits.aim import AimCosts, AimMethod, aim_size, aim_step, checked_costs, round_inward
from nomisma.core.fits.b41 import FAMILIES, THOU_MM, inch_fit, inch_tables
from nomisma.core.fits.fit import MICROMETRE, FitKind, inch_working, kind_of, zone_working
from nomisma.core.fits.functions import Function, FunctionName, function_named
from nomisma.core.fits.iso286 import PREFERRED_FITS, Zone, zone
from nomisma.core.fits.partner import Partner, PartnerInput, likely_nominal, partner_from
from nomisma.core.fits.shop_rules import ShopRule, shop_rules, window_step
from nomisma.core.fits.suit import SuitResult, Window, clearance_with, suit_for, suit_limits, trusted_to, window_of
from nomisma.core.model import Model
from nomisma.core.part.member import MemberKind, of_member
from nomisma.core.quantity.display import both, show_small
from nomisma.core.quantity.fields import Difference, Number, Size
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.working import ARITHMETIC, COMMON_PRACTICE, Step

FitSystem = Literal["make_to_suit", "shop_rule", "iso", "inch"]


class OptionsInput(Model):
    """Partner, what the joint must do, and the unit the shop works in.

    `nominal` is for the coded fit systems (proposed from the partner if absent). A window given here replaces the shop
    rule's for make to suit. `fit_system` is the one to look at first; `shop_rules` are the shop's own versions, which
    replace those of the same name. `aim_spread` (one standard deviation of the process) and the two costs serve the
    costed aim. `confidence_percent` and `same_instrument` are make to suit's.
    """

    partner: PartnerInput
    function: FunctionName
    unit: Unit = Field(description="in or mm: the unit the shop works in")
    nominal: Size | None = None
    clearance_min: Difference | None = None
    clearance_max: Difference | None = None
    aim: AimMethod = "middle"
    fit_system: FitSystem = "make_to_suit"
    shop_rules: list[ShopRule] = Field(default=[], max_length=60)
    aim_spread: Difference | None = None
    rework_cost: Number | None = None
    scrap_cost: Number | None = None
    confidence_percent: Number = Decimal(95)
    same_instrument: bool = False


class FitOption(Model):
    """One fit system's answer: limits and aim of the made member; clearance against this partner, worst case both ways.

    `standard_clearance_min/max` (coded fit systems only) are between both members' tolerances; `caution` says what the
    partner spoils. Clearances below zero are interference.
    """

    fit_system: FitSystem
    name: str
    recommended: bool
    possible: bool = True
    sentence: str
    caution: str = ""
    help: list[str] = Field(default=[])
    unsure: bool = False
    lower: Size | None = None
    upper: Size | None = None
    aim: Size | None = None
    clearance_min: Difference | None = None
    clearance_max: Difference | None = None
    standard_clearance_min: Difference | None = None
    standard_clearance_max: Difference | None = None
    kind: FitKind | None = None
    working: list[Step]


class OptionsResult(Model):
    """What is made, on which nominal, and the options: make to suit, the shop's rules, ISO, then inch classes.

    `look_at` names the option of the wanted fit system to look at first (empty where that fit system has none).
    """

    made_kind: MemberKind
    function: str
    function_title: str
    reason: str
    watch: str
    caution: str = ""
    nominal: Size
    nominal_proposed: bool
    partner_smallest: Size
    partner_largest: Size
    partner_uncertainty: Difference
    clearance_min: Difference
    clearance_max: Difference
    look_at: str = ""
    options: list[FitOption]


@calculation(
    name="fit_options",
    title="What limits to work to, in every fit system, for this partner",
    validity="ISO fits above 0 up to 3150 mm, inch classes to 19.69 in; shop rules and make to suit at any size.",
    source="ISO 286-1:2010; ANSI B4.1-1967 (R1999); shop rules and make to suit: common practice, no source",
    example={
        "partner": {"kind": "shaft", "readings": ["0.8752 in", "0.8751 in"], "uncertainty": "0.00012 in"},
        "function": "turns_freely", "unit": "in",
    },
)  # fmt: skip
def fit_options(given: OptionsInput) -> OptionsResult:
    """Limits, aim and worst-case clearances in every fit system for one partner. Raises InputError.

    Source: ISO 286-1:2010 and ANSI B4.1-1967 for the codes; common practice for the shop rules.
    """
    partner = trusted_to(partner_from(given.partner), given.confidence_percent, same_instrument=given.same_instrument)
    function = function_named(given.function)
    nominal = given.nominal or likely_nominal(partner)
    _check_nominal(partner, nominal, proposed=given.nominal is None)
    rules = rules_for(function, given.shop_rules)
    rule = Window(*rules[0].window_mm(partner.mean_mm))
    window = _wanted_window(given, function, rule)
    costs = _costs(given)
    options = [
        _make_to_suit(partner, function, window, given, costs, rules[0] if window == rule else None),
        *(_shop_rule(partner, function, found, given, costs, first=found is rules[0]) for found in rules),
        *(_iso(name, partner, function, nominal, given, costs) for name in iso_names(function)),
        *(_inch(name, partner, function, nominal, given, costs) for name in inch_names(function)),
    ]
    return OptionsResult(
        made_kind=partner.made_kind,
        function=function.name,
        function_title=function.title,
        reason=function.reason,
        watch=function.watch,
        caution=function.caution,
        nominal=nominal,
        nominal_proposed=given.nominal is None and partner.nominal is None,
        partner_smallest=Length(partner.smallest_mm, given.unit),
        partner_largest=Length(partner.largest_mm, given.unit),
        partner_uncertainty=Length(partner.uncertainty_mm, given.unit),
        clearance_min=Length(window.least_mm, given.unit),
        clearance_max=Length(window.greatest_mm, given.unit),
        look_at=_look_at(options, given.fit_system),
        options=options,
    )


def rules_for(function: Function, own: Sequence[ShopRule]) -> list[ShopRule]:
    """The rules of a function, the shop's own version where it has one. Source: common practice, no source.

    >>> from nomisma.core.fits.functions import functions
    >>> [rule.name for rule in rules_for(functions()["turns_freely"], [])]
    ['running', 'small_bush_running']
    """
    known = {**shop_rules(), **{rule.name: rule for rule in own}}
    return [known[name] for name in function.rules]


def iso_names(function: Function) -> list[str]:
    """The preferred fits and this function's own, as they stand from loose to tight, preferred ones in their order.

    Source: ISO 286-1:2010, Annex (preferred fits).

    >>> from nomisma.core.fits.functions import functions
    >>> iso_names(functions()["turns_freely"])[:2]
    ['H11/c11', 'H9/d9']
    """
    return [*(name for name in function.iso_fits if name not in PREFERRED_FITS), *PREFERRED_FITS]


def inch_names(function: Function) -> list[str]:
    """This function's inch classes, then the rest of their families. Source: ANSI B4.1-1967 (R1999).

    >>> from nomisma.core.fits.functions import functions
    >>> inch_names(functions()["turns_freely"])[:2]
    ['RC4', 'RC5']
    """
    families = {name[:2] for name in function.inch_fits}
    rest = [name for name in inch_tables() if name[:2] in families and name not in function.inch_fits]
    return [*function.inch_fits, *rest]


def _look_at(options: Sequence[FitOption], fit_system: FitSystem) -> str:
    of_system = [option for option in options if option.fit_system == fit_system and option.possible]
    recommended = [option for option in of_system if option.recommended]
    return next((option.name for option in [*recommended, *of_system]), "")


def _costs(given: OptionsInput) -> AimCosts | None:
    if given.aim != "costed":
        return None
    spread = given.aim_spread.mm if given.aim_spread else Decimal(0)
    return checked_costs(spread, given.rework_cost or Decimal(0), given.scrap_cost or Decimal(0))


def _check_nominal(partner: Partner, nominal: Length, *, proposed: bool) -> None:
    if not proposed and abs(nominal.mm - partner.mean_mm) > partner.mean_mm * Decimal("0.05"):
        raise InputError(
            f"A nominal of {nominal} does not go with a partner of {Length(partner.mean_mm, partner.unit)}.",
            "Check the unit of each, or leave the nominal empty to have it proposed.",
            field="nominal",
            value=str(nominal),
        )


def _wanted_window(given: OptionsInput, function: Function, rule: Window) -> Window:
    if (given.clearance_min is None) != (given.clearance_max is None):
        missing = "clearance_min" if given.clearance_min is None else "clearance_max"
        raise InputError("A window needs both its ends.", "Give the least and the greatest clearance.", field=missing)
    if given.clearance_min is None or given.clearance_max is None:
        return rule
    window = window_of(given.clearance_min, given.clearance_max)
    kind = kind_of(window.least_mm, window.greatest_mm)
    if {kind, function.kind} == {"clearance", "interference"}:
        raise InputError(
            f"That window is {kind}, and “{function.title.lower()}” needs {function.kind}.",
            "Interference is written below zero (-0.001 in); or choose another function.",
            field="clearance_min",
            value=str(given.clearance_min),
        )
    return window


def _make_to_suit(
    partner: Partner,
    function: Function,
    window: Window,
    given: OptionsInput,
    costs: AimCosts | None,
    rule: ShopRule | None,
) -> FitOption:
    """Make to suit; `rule` is the shop rule its window comes from, None where the window was entered."""
    suit = suit_for(partner, window, given.aim, given.unit, costs)
    origin = (
        window_step(rule, function.title, partner.mean_mm, given.unit)
        if rule
        else Step(
            name="Clearance wanted",
            formula="as entered",
            result=(
                f"{both(window.least_mm, given.unit, decimals=5)} to {both(window.greatest_mm, given.unit, decimals=5)}"
            ),
            source="entered",
        )
    )
    return FitOption(
        fit_system="make_to_suit",
        name="Make to suit",
        recommended=suit.possible,
        possible=suit.possible,
        sentence=suit.sentence,
        caution=_too_narrow(partner, suit, given.unit),
        help=suit.help,
        lower=suit.lower,
        upper=suit.upper,
        aim=suit.aim,
        clearance_min=suit.clearance_min,
        clearance_max=suit.clearance_max,
        kind=suit.kind,
        working=[origin, *suit.working],
    )


def _too_narrow(partner: Partner, suit: SuitResult, unit: Unit) -> str:
    """Says where the limits left are narrower than a reading like the partner's can tell apart."""
    if suit.lower is None or suit.upper is None or suit.upper.mm - suit.lower.mm > 2 * partner.uncertainty_mm:
        return ""
    return (
        f"Only {show_small(suit.upper.mm - suit.lower.mm, unit)} is left to work to, less than a reading like the"
        f" partner's can tell (± {show_small(partner.uncertainty_mm, unit)}). A wider window or a finer instrument"
        " leaves more."
    )


def _shop_rule(
    partner: Partner, function: Function, rule: ShopRule, given: OptionsInput, costs: AimCosts | None, *, first: bool
) -> FitOption:
    """The rule laid on the partner's mean size, as a pencil does it: no allowance for form or doubt. What must only
    clear is laid on the partner's worst place: a clearance over the mean of an oval still touches."""
    worst_mm = of_member(
        partner.kind,
        shaft=partner.largest_mm + partner.uncertainty_mm,
        bore=partner.smallest_mm - partner.uncertainty_mm,
    )
    only_clears = function.name == "just_clears"
    base_mm, base = (worst_mm, "worst place") if only_clears else (partner.mean_mm, "mean size")
    laid_on = Partner(partner.kind, base_mm, base_mm, Decimal(0), partner.unit, partner.origin)
    low, high = round_inward(*suit_limits(laid_on, Window(*rule.window_mm(partner.mean_mm))), given.unit)
    least, greatest = clearance_with(partner, low, high)
    working = [
        window_step(rule, function.title, partner.mean_mm, given.unit),
        Step(
            name=f"Limits of the {partner.made_kind}",
            formula=(
                f"{base} of the partner {'+' if partner.kind == 'shaft' else '−'} the clearance wanted, rounded inward"
            ),
            values=both(base_mm, given.unit, decimals=5),
            result=f"{both(low, given.unit, decimals=5)} to {both(high, given.unit, decimals=5)}",
            source=COMMON_PRACTICE,
            school="shop rule",
        ),
    ]
    outside = rule.outside_sentence(partner.mean_mm, given.unit)
    return _option(
        "shop_rule",
        "Shop rule" if first else f"Shop rule: {rule.title[0].lower()}{rule.title[1:]}",
        partner,
        (low, high),
        (least, greatest),
        given,
        working,
        costs,
        sentence=f"{rule.text[0].upper()}{rule.text[1:]}; laid on the partner's {base}.",
        caution=" ".join(filter(None, (outside, _contradiction(function, least, greatest, given.unit)))),
    )


def _iso(
    name: str, partner: Partner, function: Function, nominal: Length, given: OptionsInput, costs: AimCosts | None
) -> FitOption:
    hole_code, shaft_code = name.split("/")
    try:
        hole, shaft = zone(hole_code, nominal.mm), zone(shaft_code, nominal.mm)
    except (NotDefined, OutOfRange) as error:
        return FitOption(
            fit_system="iso", name=name, recommended=False, possible=False, sentence=error.sentence, working=[]
        )
    made, mate = of_member(partner.kind, bore=(shaft, hole), shaft=(hole, shaft))
    return _coded(
        "iso",
        name,
        partner,
        function,
        given,
        costs,
        hole=_on(nominal, hole),
        shaft=_on(nominal, shaft),
        mate=mate.code,
        sentence=f"{made.code} on {nominal}, by the code.",
        working=zone_working(made, nominal),
        unsure=hole.unsure or shaft.unsure,
        recommended=name == function.iso_fits[0],
    )


def _inch(
    name: str, partner: Partner, function: Function, nominal: Length, given: OptionsInput, costs: AimCosts | None
) -> FitOption:
    try:
        found = inch_fit(name, nominal.mm)
    except (NotDefined, OutOfRange) as error:
        return FitOption(
            fit_system="inch", name=name, recommended=False, possible=False, sentence=error.sentence, working=[]
        )
    hole = nominal.mm, nominal.mm + found.hole_upper_thou * THOU_MM
    shaft = nominal.mm + found.shaft_lower_thou * THOU_MM, nominal.mm + found.shaft_upper_thou * THOU_MM
    return _coded(
        "inch",
        name,
        partner,
        function,
        given,
        costs,
        hole=hole,
        shaft=shaft,
        mate=f"the {name} {partner.kind}",
        sentence=f"{name} on {nominal}, {FAMILIES[name[:2]]}.",
        working=inch_working(found, nominal),
        unsure=found.unsure,
        recommended=name == function.inch_fits[0],
    )


Ends = tuple[Decimal, Decimal]


def _coded(
    fit_system: FitSystem,
    name: str,
    partner: Partner,
    function: Function,
    given: OptionsInput,
    costs: AimCosts | None,
    *,
    hole: Ends,
    shaft: Ends,
    mate: str,
    sentence: str,
    working: list[Step],
    unsure: bool,
    recommended: bool,
) -> FitOption:
    """A code's limits on this partner, with what the partner spoils."""
    made, other = of_member(partner.kind, bore=(shaft, hole), shaft=(hole, shaft))
    least, greatest = clearance_with(partner, *made)
    cautions = [_outside(partner, mate, other, given.unit)]
    if recommended:
        cautions.append(_contradiction(function, least, greatest, given.unit))
    if unsure:
        cautions.append("Not sure of a table value here: check it against the standard.")
    option = _option(
        fit_system,
        name,
        partner,
        made,
        (least, greatest),
        given,
        working,
        costs,
        sentence=sentence,
        caution=" ".join(filter(None, cautions)),
        recommended=recommended,
    )
    ends = [Length(mm, given.unit) for mm in (hole[0] - shaft[1], hole[1] - shaft[0])]
    return option.model_copy(
        update={"standard_clearance_min": ends[0], "standard_clearance_max": ends[1], "unsure": unsure}
    )


def _on(nominal: Length, z: Zone) -> tuple[Decimal, Decimal]:
    return nominal.mm + z.lower_um * MICROMETRE, nominal.mm + z.upper_um * MICROMETRE


def _outside(partner: Partner, mate: str, ends: Ends, unit: Unit) -> str:
    """Says where the real partner is not the one the code counts on."""
    low, high = ends
    beyond = max(partner.largest_mm - high, low - partner.smallest_mm)
    if beyond <= 0:
        return ""
    how = "over" if partner.largest_mm - high >= low - partner.smallest_mm else "under"
    return (
        f"This {partner.kind} is {show_small(beyond, unit)} {how} {mate}, so the code's clearances do not hold for it."
    )


def _contradiction(function: Function, least: Decimal, greatest: Decimal, unit: Unit) -> str:
    """Says where the answer could turn out the wrong kind on this partner."""
    if function.kind == "clearance" and least < 0:
        return f"At the worst it binds on this partner by {show_small(-least, unit)}."
    if function.kind == "interference" and greatest > 0:
        return f"At the worst it is {show_small(greatest, unit)} loose on this partner."
    return ""


def _option(
    fit_system: FitSystem,
    name: str,
    partner: Partner,
    limits_mm: tuple[Decimal, Decimal],
    clearance_mm: tuple[Decimal, Decimal],
    given: OptionsInput,
    working: list[Step],
    costs: AimCosts | None,
    *,
    sentence: str,
    caution: str,
    recommended: bool = False,
) -> FitOption:
    unit = given.unit
    decimals = 5 if unit == "in" else 4
    worst = Step(
        name="Clearance on this partner, worst case both ways",
        formula="partner's smallest and largest, each ± its uncertainty, against both limits",
        values=(
            f"{both(partner.smallest_mm, unit)} to {both(partner.largest_mm, unit)} ±"
            f" {both(partner.uncertainty_mm, unit, decimals=5)}"
        ),
        result=f"{both(clearance_mm[0], unit, decimals=decimals)} to {both(clearance_mm[1], unit, decimals=decimals)}",
        source=ARITHMETIC,
    )
    return FitOption(
        fit_system=fit_system,
        name=name,
        recommended=recommended,
        sentence=sentence,
        caution=caution,
        lower=Length(limits_mm[0], unit),
        upper=Length(limits_mm[1], unit),
        aim=Length(aim_size(partner.made_kind, *limits_mm, given.aim, unit, costs), unit),
        clearance_min=Length(clearance_mm[0], unit),
        clearance_max=Length(clearance_mm[1], unit),
        kind=kind_of(*clearance_mm),
        working=[*working, worst, aim_step(partner.made_kind, *limits_mm, given.aim, unit, costs)],
    )
