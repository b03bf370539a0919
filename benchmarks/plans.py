"""Plans of many made-up parts, each run by a second executor: what is offered can be cut, or it is said why not."""

import json
import time
from collections import Counter
from decimal import Decimal

from tests.core.planning.executor import Workshop
from tests.core.planning.generated import part_long_mm, stock_input

from nomisma.core.errors import InputError
from nomisma.core.planning.order_answer import OrderInput, order_of_work_of_lines

SLOWEST = 3


def large_part(features: int) -> OrderInput:
    """A shaft with steps on both sides of its largest, holes from both ends, a groove and edges: of about so many
    features.
    """
    left = [f"od {20 + 2 * at} ±0.05 x 8 ±0.1" for at in range(features // 5)]
    right = [f"od {20 + 2 * at} h7 x 9 ±0.1" for at in reversed(range(features // 6))]
    body = f"od {30 + 2 * (features // 5)} x 12"
    holes = ["bore 8 H7 thru", "bore 12 x 5 deep", "bore 12 x 6 deep from the right"]
    return OrderInput(lines="\n".join([*left, body, *right, *holes, "cham 0.5 x 45", "groove 2 wide to 26 at 50"]))


def main(parts: int) -> int:
    """Plan and run so many; 1 where one that is offered cannot be cut, or none is and nothing is said."""
    came: Counter[str] = Counter()
    took: list[tuple[float, int]] = []
    wrong = 0
    for number in range(parts):
        given = stock_input(number)
        begun = time.perf_counter()
        try:
            found = json.loads(order_of_work_of_lines(given).model_dump_json())
        except InputError as error:
            came[f"refused: {error.problem[:60]}"] += 1
            continue
        took.append((time.perf_counter() - begun, number))
        if not found["set_ups"]:
            came[found["complaints"][0]["rule"] if found["complaints"] else "NOTHING SAID"] += 1
            wrong += not found["complaints"]
            continue
        bad = Workshop(found, part_long_mm(number)).run()
        wrong += bool(bad or found["complaints"])
        came["cannot be cut" if bad else "can be cut"] += 1
        if bad:
            print(number, bad[:2], given.lines.replace("\n", " | "), flush=True)
    for words, count in came.most_common():
        print(f"{count:7} {words}")
    seconds = sorted((one for one, _ in took), reverse=True)
    middle = Decimal(str(seconds[len(seconds) // 2] * 1000)).quantize(Decimal("0.1"))
    slowest = ", ".join(f"{one:.1f} s (part {number})" for one, number in sorted(took, reverse=True)[:SLOWEST])
    print(f"half of them in {middle} ms; the slowest {slowest}")
    return 1 if wrong else 0
