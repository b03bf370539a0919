"""What a class gives a thread that is called out, by whichever standard it belongs to."""

from functools import lru_cache

from nomisma.core.threads.b1_1 import inch_limits
from nomisma.core.threads.called_out import Side, ThreadCalledOut
from nomisma.core.threads.designation import threads
from nomisma.core.threads.iso965 import inside_limits, outside_limits
from nomisma.core.threads.limits import ThreadLimits


@lru_cache(maxsize=512)  # the same threads are asked for on every page of a job
def limits_of(said: ThreadCalledOut, side: Side) -> ThreadLimits | None:
    """The limits (mm) of a thread by its class, the usual one where it names none; None of a free one. Raises
    InputError.

    Source: ISO 965-1 and ASME B1.1 (recalled).

    >>> from nomisma.core.threads.called_out import thread_called_out
    >>> limits_of(thread_called_out("M8"), "outside").pitch.upper_mm, limits_of(thread_called_out("30 x 2 pitch"),
    ...     "inside")
    (Decimal('7.160'), None)
    """
    if said.is_free:
        return None
    with_class = said.of_class_for(side)
    thread = said.thread
    if thread.unit == "in":
        as_wide = said.series in ("UNC", "UNF") or (not said.series and thread.name in threads())
        return inch_limits(
            thread.diameter_mm, thread.pitch_mm, with_class.thread_class, engaged_as_long_as_wide=as_wide
        )
    limits = inside_limits if side == "inside" else outside_limits
    return limits(thread.diameter_mm, thread.pitch_mm, with_class.thread_class)
