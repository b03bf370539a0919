"""The stages of a job in the order of the work: which of them a feature goes through; and the pages of Make."""

from nomisma.jobs.standing.state import JobState

STAGES = ("part", "mate", "plan", "make", "assemble", "record")
MAKING = ("hold", "cut", "measure")
"""What Make shows by the step in hand, each with a page of its own for all else it can do."""
OF_A_FEATURE = ("mate", *MAKING, "assemble")
"""Pages that are about one feature, or show it marked; the others are about the job."""


def stages_of(state: JobState) -> tuple[str, ...]:
    """The stages the job has at the feature in hand: no Mate and no Assemble without a joint."""
    return STAGES if state.joint else tuple(stage for stage in STAGES if stage not in ("mate", "assemble"))


def stage_of(page: str) -> str:
    """The stage a page belongs to: Make for what it shows."""
    return "make" if page in MAKING else page


def making_of(state: JobState) -> tuple[str, ...]:
    """The pages of Make that the feature in hand has: no Cut where no coach cuts it to size."""
    return MAKING if state.is_coached or state.joint else tuple(page for page in MAKING if page != "cut")


def page_at(state: JobState, page: str) -> str:
    """The page to go to when another feature is taken in hand: the same where that feature has it, else Make."""
    of_it = page in OF_A_FEATURE and page != "hold" and page in (*stages_of(state), *making_of(state))
    return page if of_it else "make"
