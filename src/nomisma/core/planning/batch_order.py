"""A batch: how often tools, pieces and set-ups are changed, by going through it operation by operation, set-up by
set-up or piece by piece.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise

Round = tuple[int, int, str]
"""A piece in a set-up under one tool: set-up, piece, tool."""


@dataclass(frozen=True, slots=True)
class BatchWay:
    """One way through a batch: in words, how often a tool, a piece and a set-up are changed, and what a
    mistake costs.
    """

    words: str
    tool_changes: int
    chuckings: int
    set_up_changes: int
    risk: str


def batch_ways(tools: Sequence[Sequence[str]], pieces: int) -> tuple[BatchWay, BatchWay, BatchWay]:
    """The three ways through a batch, counted; `tools`: of each set-up, the tools in their order.

    Source: counted on the sequence itself; what a mistake costs: common practice, no source.

    >>> [(one.tool_changes, one.chuckings) for one in batch_ways([["turning tool", "drill"]], 3)]
    [(1, 6), (5, 3), (5, 3)]
    """
    runs = [[tool for tool, _ in groupby(those)] for those in tools]
    by_operation = [(n, piece, tool) for n, those in enumerate(runs) for tool in those for piece in range(pieces)]
    by_set_up = [(n, piece, tool) for n, those in enumerate(runs) for piece in range(pieces) for tool in those]
    by_piece = [(n, piece, tool) for piece in range(pieces) for n, those in enumerate(runs) for tool in those]
    return (
        _way(
            "each tool on all pieces, then the next",
            by_operation,
            "every piece is chucked for every tool, and runs otherwise each time: only where the chucking repeats; a"
            " wrong setting is in all",
        ),
        _way(
            "each set-up on all pieces, then the next",
            by_set_up,
            "stops and jaws stay as they are; a wrong setting is in every piece: measure the first off whole",
        ),
        _way(
            "one piece through all, then the next",
            by_piece,
            "a mistake costs one piece; every set-up is made anew each time",
        ),
    )


def _way(words: str, rounds: Sequence[Round], risk: str) -> BatchWay:
    return BatchWay(
        words,
        tool_changes=sum(one[2] != other[2] for one, other in pairwise(rounds)),
        chuckings=sum(1 for _ in groupby((set_up, piece) for set_up, piece, _ in rounds)),
        set_up_changes=sum(1 for _ in groupby(set_up for set_up, _, _ in rounds)),
        risk=risk,
    )
