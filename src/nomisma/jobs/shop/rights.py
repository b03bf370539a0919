"""Who may do what: one table, denied where it says nothing. A refusal names what it is about and whom to ask."""

from dataclasses import dataclass
from enum import StrEnum

from nomisma.core.errors import NomismaError
from nomisma.core.measuring.disposition import DISPOSITIONS
from nomisma.store.models import Account
from nomisma.store.models.people import Role


class NotAllowed(NomismaError):
    """This person's role may not do that; the message says who may."""


class Action(StrEnum):
    """What not everybody may do."""

    SEE_SHUT_OUT = "see_shut_out"
    SET_UP_SHOP = "set_up_shop"
    MAKE_TOKENS = "make_tokens"
    ENTER_SLIPS = "enter_slips"
    ENTER_STOCK = "enter_stock"
    CHANGE_SHOP_RULES = "change_shop_rules"
    FORGET_SET_UPS = "forget_set_ups"
    WAIVE_QUESTIONS = "waive_questions"
    LEAVE_A_RULE = "leave_a_rule"
    CLOSE_UNREAD = "close_unread"
    PLAN_ANEW = "plan_anew"
    CORRECT_WHAT_IS_OUT = "correct_what_is_out"
    LOOSEN_LIMITS = "loosen_limits"
    JUDGE_ANEW = "judge_anew"
    HAND_OVER = "hand_over"
    HAND_OVER_IN_DOUBT = "hand_over_in_doubt"
    HAND_OVER_OUT = "hand_over_out"
    APPROVE_FIRST_OFF = "approve_first_off"
    CUT_AGAIN = "cut_again"
    USE_AS_IS = "use_as_is"
    REMAKE_PARTNER = "remake_partner"
    SLEEVE = "sleeve"
    BOND = "bond"
    SCRAP = "scrap"


@dataclass(frozen=True, slots=True)
class Right:
    """Who may do something, and what is said to those who may not. Source: this tool's own default, no source."""

    action: Action
    words: str
    roles: tuple[Role, ...]

    @property
    def whom(self) -> str:
        """Whom to ask, in words."""
        return " or ".join(role.named for role in self.roles)

    @property
    def refusal(self) -> str:
        """What somebody hears who may not."""
        return f"{self.words} by {self.whom}. {'Ask one of them.' if len(self.roles) > 1 else 'Call the lead.'}"


_HANDS = (Role.MACHINIST, Role.LEAD)
_LEAD = (Role.LEAD,)
_TABLE = (
    Right(Action.SEE_SHUT_OUT, "Whose name is shut out by wrong passwords is seen", _LEAD),
    Right(Action.SET_UP_SHOP, "Instruments and machines are set up", _HANDS),
    Right(Action.MAKE_TOKENS, "What gauges and programs speak with is made", _HANDS),
    Right(Action.ENTER_SLIPS, "The shelf of slips is entered", _HANDS),
    Right(Action.ENTER_STOCK, "Stock is entered", _HANDS),
    Right(Action.CHANGE_SHOP_RULES, "The shop's rules are changed", _HANDS),
    Right(Action.FORGET_SET_UPS, "What a machine has taught is set aside", _HANDS),
    Right(Action.WAIVE_QUESTIONS, "Questions are waived", _HANDS),
    Right(Action.LEAVE_A_RULE, "A rule is left aside", _HANDS),
    Right(Action.CLOSE_UNREAD, "A step is closed without the reading it asks for", _HANDS),
    Right(Action.PLAN_ANEW, "The rest of a part is planned anew at the lathe", _HANDS),
    Right(Action.CORRECT_WHAT_IS_OUT,
        "A piece of this job is gone too far: what was read of it is corrected or withdrawn", _HANDS),
    Right(Action.LOOSEN_LIMITS, "Limits that readings were held against are loosened", _HANDS),
    Right(Action.JUDGE_ANEW, "A piece of this job is gone too far: what judges it is changed, with the reason,", _LEAD),
    Right(Action.HAND_OVER, "A job is handed over, or taken up again,", _HANDS),
    Right(Action.HAND_OVER_IN_DOUBT, "A job whose readings are in doubt is handed over", _LEAD),
    Right(Action.HAND_OVER_OUT, "A job that is not in limits is handed over", _LEAD),
    Right(Action.APPROVE_FIRST_OFF, "The first off is approved", _LEAD),
    *(
        Right(action, f"“{DISPOSITIONS[action].title}” is decided", roles)
        for action, roles in (
            (Action.CUT_AGAIN, _HANDS), (Action.USE_AS_IS, _LEAD), (Action.REMAKE_PARTNER, _HANDS),
            (Action.SLEEVE, _HANDS),
            (Action.BOND, _HANDS), (Action.SCRAP, _LEAD),
        )
    ),
)  # fmt: skip
RIGHTS: dict[Action, Right] = {right.action: right for right in _TABLE}
"""Every right by its action; an action without a row is nobody's."""


def may(role: str, action: Action | str) -> bool:
    """Whether somebody in a role may do that; no for a role or an action that is not known."""
    right = RIGHTS.get(Action(action)) if action in set(Action) else None
    return right is not None and role in right.roles


def must(by: Account, action: Action) -> None:
    """Raises NotAllowed, with whom to ask, where somebody may not do that."""
    if not may(by.role, action):
        raise NotAllowed(RIGHTS[action].refusal)
