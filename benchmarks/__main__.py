"""Measure every budget and print it as a ratio: below 1.00 is inside it."""

import sys
import timeit
from collections.abc import Callable, Iterator
from decimal import Decimal
from itertools import count, pairwise

from tests.serving import own_cluster

from benchmarks import approaches, former, fuzz, plans, reliability
from benchmarks.at_the_lathe import lathe_rows
from benchmarks.browser import browser_rows
from benchmarks.data import fill
from benchmarks.pages import FIRST_BULK, PAGES, cost_of, one_process
from benchmarks.readings import APP, reading_rows
from benchmarks.serving import page_times, server, sign_in
from nomisma.cluster import Cluster
from nomisma.core.fits.iso286 import PREFERRED_FITS, zone
from nomisma.core.order import offered, order
from nomisma.core.planning.order_answer import order_of_work_of_lines
from nomisma.core.registry import calculations

Row = tuple[str, str, float]
ROUNDS = 120


DISK_WAITED_FOR = ("shared_buffers=256MB", "max_wal_size=4GB")


def page_rows(found: Cluster, large_readings: int) -> Iterator[Row]:
    """Every main page on a large shop against a bare page, and against a shop of 1,000 readings; then what each costs
    in one process.
    """
    small_url = fill(found, "small", 1_000, short_jobs=20, features=26)
    large_url = fill(found, "large", large_readings, features=26)
    with (
        server("benchmarks.bare:application", large_url) as bare,
        server(APP, small_url) as small,
        server(APP, large_url) as large,
    ):
        sign_in(small)
        sign_in(large)
        for name, (path, budget) in PAGES.items():
            clients = [(bare, "/"), (small, path.format(n=FIRST_BULK)), (large, path.format(n=FIRST_BULK))]
            of_bare, of_small, of_large = page_times(clients, ROUNDS)
            shown = f"{of_large.median_ms:.1f} and {of_large.p95_ms:.1f} ms at {large_readings:,} readings"
            ratio = of_large.p95_ms / (budget * of_bare.p95_ms)
            yield f"{name}: p50 and p95 / ({budget} × bare page, {of_bare.p95_ms:.1f} ms)", shown, ratio
            at_small = of_large.p95_ms / (1.2 * of_small.p95_ms)
            yield f"{name}: p95 / (1.2 × at 1,000 readings)", f"{of_small.p95_ms:.1f} ms at 1,000", at_small
    with one_process(large_url) as client:
        for name, (path, _) in PAGES.items():
            cost = cost_of(client, path.format(n=FIRST_BULK))
            yield (
                f"{name}: questions when nothing changed / 3",
                f"{cost.asked_again}; {cost.whose}",
                cost.asked_again / 3,
            )


def core_rows() -> Iterator[Row]:
    """Calculations against their budgets."""
    sizes = [Decimal(n) / 7 for n in range(7, 3500, 7)]

    def look_up() -> None:
        zone.cache_clear()
        for size in sizes:
            zone("g6", size)

    each_us = min(timeit.repeat(look_up, number=3, repeat=5)) / 3 / len(sizes) * 1e6
    yield "ISO lookup, nothing cached / 50 µs", f"{each_us:.1f} µs", each_us / 50
    options = calculations()["fit_options"]
    each_ms = min(timeit.repeat(lambda: options.run(options.example), number=10, repeat=5)) / 10 * 1000
    yield f"Every fit system side by side ({len(PREFERRED_FITS)} ISO fits) / 100 ms", f"{each_ms:.2f} ms", each_ms / 100
    find = calculations()["find_fit"]
    searched = iter(sizes * 4)

    def search() -> None:
        size = next(searched)
        find.run({"nominal": f"{size:.4f} mm", "clearance_min": "5 um", "clearance_max": "45 um"})

    search()  # the tables are read once a process
    each_ms = min(timeit.repeat(search, number=10, repeat=5)) / 10 * 1000
    yield "Every standard pair searched, a size never seen / 50 ms", f"{each_ms:.1f} ms", each_ms / 50
    bush = calculations()["bush"]
    each_ms = min(timeit.repeat(lambda: bush.run(bush.example), number=20, repeat=5)) / 20 * 1000
    yield "The bush worksheet (any live answer / 100 ms)", f"{each_ms:.2f} ms", each_ms / 100
    true_up = calculations()["true_up"]
    each_ms = min(timeit.repeat(lambda: true_up.run(true_up.example), number=50, repeat=5)) / 50 * 1000
    yield "A truing solution with its working / 1 ms", f"{each_ms:.3f} ms", each_ms
    yield "The next cut after ten, with its passes / 5 ms", *_next_cut()
    slips, heights = calculations()["slips"], count()
    pile = (
        min(
            timeit.repeat(
                lambda: slips.run({"target": f"{123.4565 + next(heights) / 1000:.4f} mm", "set": "m112"}),
                number=5,
                repeat=5,
            )
        )
        / 5
        * 1000
    )
    yield "The fewest of 112 slips, two piles and what they are worth / 50 ms", f"{pile:.1f} ms", pile / 50
    for features, most_ms in ((30, 150), (45, 400)):
        each_ms = min(timeit.repeat(lambda: _planned(features), number=1, repeat=3)) * 1000  # noqa: B023
        yield (
            f"The plan of {features} features, run on the metal / {most_ms} ms",
            f"{each_ms:.0f} ms",
            each_ms / most_ms,
        )
    verdict = calculations()["verdict"]
    each_ms = min(timeit.repeat(lambda: verdict.run(verdict.example), number=50, repeat=5)) / 50 * 1000
    yield "A verdict with its working / 5 ms", f"{each_ms:.3f} ms", each_ms / 5


def _planned(features: int) -> None:
    """A plan from its lines, nothing of it kept from before."""
    order._order_of_work.cache_clear()
    offered.found_set_ups.cache_clear()
    order_of_work_of_lines(plans.large_part(features))


def _next_cut() -> tuple[str, float]:
    """The coach's answer on a set-up that has seen ten cuts."""
    sizes = [30 - 0.5 * n for n in range(11)]
    coach, asked = calculations()["next_cut"], count()

    def ask() -> None:
        dialled = f"{0.48 + next(asked) / 100_000:.5f} mm"  # never the same set-up twice: nothing is found ready
        cuts = [{"dialled": dialled, "before": f"{a} mm", "after": f"{b} mm"} for a, b in pairwise(sizes)]
        limits = {"lower": "22.98 mm", "upper": "23.00 mm", "dial_line": "0.02 mm", "unit": "mm"}
        coach.run({"size": f"{sizes[-1]} mm", "cuts": cuts, **limits})

    ask()
    each_ms = min(timeit.repeat(ask, number=20, repeat=5)) / 20 * 1000
    return f"{each_ms:.2f} ms", each_ms / 5


USAGE = """./nomisma benchmark [READINGS]           every budget, with so many readings in the large shop (1000000)
./nomisma benchmark core                 the calculations alone
./nomisma benchmark pages [READINGS]     the pages alone: time, questions to the database, whose time it is (50000)
./nomisma benchmark readings [READINGS]  logging readings alone (50000)
./nomisma benchmark browser              from Enter to the verdict, and from a gauge to another page
./nomisma benchmark lathe                whole jobs made on one page: pages, keys, and Enter to the next action
./nomisma benchmark approaches [N]       what the coach is worth, over N simulated parts (10000)
./nomisma benchmark plans [N]            plans of N made-up parts, each run by a second executor (20000)
./nomisma benchmark former               every page of every job of shops that former versions filled
./nomisma benchmark fuzz [CASES] [SEED]  hostile values at every door of a running shop (100000)
./nomisma benchmark reliability [N]      nothing lost, with N faults"""
PARTS = ("", "core", "pages", "readings", "browser", "lathe")
A_PART = 50_000
"""Readings of the shop where a part is run alone."""


def _rows(part: str, readings: int) -> Iterator[Row]:
    if part in ("", "core"):
        yield from core_rows()
    if part in ("", "pages"):
        with own_cluster(*DISK_WAITED_FOR) as (found, _):
            yield from page_rows(found, readings)
    if part in ("", "readings"):
        with own_cluster(*DISK_WAITED_FOR) as (found, _):
            yield from reading_rows(found, readings)
    if part in ("", "browser"):
        with own_cluster(*DISK_WAITED_FOR) as (found, _):
            yield from browser_rows(found)
    if part in ("", "lathe"):
        with own_cluster(*DISK_WAITED_FOR) as (found, _):
            yield from lathe_rows(found)


def main() -> None:
    """Run everything, or the part that is named."""
    part, *rest = sys.argv[1:] or [""]
    others: dict[str, Callable[[], object]] = {
        "--help": lambda: print(USAGE),
        "-h": lambda: print(USAGE),
        "help": lambda: print(USAGE),
        "reliability": lambda: reliability.main(),
        "fuzz": lambda: sys.exit(fuzz.main(rest)),
        "former": lambda: sys.exit(former.main()),
        "plans": lambda: sys.exit(plans.main(int(rest[0]) if rest else 20_000)),
        "approaches": lambda: approaches.main(int(rest[0]) if rest else 10_000),
    }
    if part in others:
        if part == "reliability":
            del sys.argv[1]
        others[part]()
        return
    if part.isdigit():
        part, rest = "", [part]
    if part not in PARTS:
        sys.exit(f"There is no benchmark {part}.\n{USAGE}")
    readings = int(rest[0]) if rest else A_PART if part else 1_000_000
    print(f"{'budget':66} {'measured':42} ratio")
    for name, shown, ratio in _rows(part, readings):
        print(f"{name:66} {shown:42} {ratio:5.2f}{'' if ratio <= 1 else '  over'}", flush=True)


if __name__ == "__main__":
    main()
