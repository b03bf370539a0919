"""The pictures of a plan's moments: of each step the work as it is held, and what is taken away."""

from dataclasses import replace

from markupsafe import Markup

from nomisma.core.order.order import PlannedOperation, PlannedSetUp
from nomisma.web.drawings.moment import moment_picture


def moment_of(set_up: PlannedSetUp, one: PlannedOperation, *, small: bool = False) -> Markup:
    """The picture of one operation in its set-up; empty where the plan was never run."""
    held, before = set_up.set_up.workholding, one.before
    if held is None or before is None:
        return Markup("")
    return moment_picture(replace(held, supports=one.supports), before, one.cuts, one.operation.title, small=small)


def held_picture(set_up: PlannedSetUp) -> Markup:
    """The picture of a set-up before its first cut."""
    held, before = set_up.set_up.workholding, set_up.set_up.before
    if held is None or before is None:
        return Markup("")
    return moment_picture(held, before, (), set_up.title)


def moments_of(set_up: PlannedSetUp) -> list[tuple[PlannedOperation, Markup]]:
    """A set-up at a glance: each operation that cuts with its small picture."""
    return [
        (one, moment_of(set_up, one, small=True))
        for one in set_up.operations
        if any(cut.kind != "deburr" for cut in one.cuts)
    ]
