"""The stop a step runs against: from the turret that was worked out for a job and kept with it."""

import re
from collections.abc import Collection, Sequence

from pydantic import ValidationError

from nomisma.core.lengths.stops import StopsResult, StopStep
from nomisma.store.models import KeptAnswer


def stops_for(kept: Sequence[KeptAnswer], letters: Collection[str]) -> list[StopStep]:
    """The steps of the newest kept turret that name one of these letters as a word (turn A); none where nothing like it
    was kept.
    """
    newest = next((row for row in reversed(kept) if row.calculation == "stops"), None)
    if newest is None:
        return []
    try:
        found = StopsResult.as_kept(newest.answer)
    except ValidationError:  # kept by a version that answered otherwise
        return []
    return [step for step in found.in_order if set(re.findall(r"\b[A-Z]{1,2}\b", step.name)) & set(letters)]
