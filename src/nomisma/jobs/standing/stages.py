"""The stages of a job in the order of the work: which of them a feature goes through."""

from nomisma.jobs.standing.state import JobState

STAGES = ("part", "mate", "plan", "hold", "cut", "measure", "assemble", "record")
OF_A_FEATURE = ("mate", "cut", "measure", "assemble")
"""Stages that are about one feature; the others are about the job."""


def stages_of(state: JobState) -> tuple[str, ...]:
    """The stages the job has at the feature in hand: no Mate without a joint, no Cut where no coach cuts it to size."""
    left_out = set() if state.joint else {"mate", "assemble"}
    if not (state.is_coached or state.joint):
        left_out.add("cut")
    return tuple(stage for stage in STAGES if stage not in left_out)


def stage_at(state: JobState, stage: str) -> str:
    """The stage to go to when another feature is taken in hand: the same where that feature has it, else Measure."""
    return stage if stage in OF_A_FEATURE and stage in stages_of(state) else "measure"
