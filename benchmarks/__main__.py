"""Measure every budget and print it as a ratio: below 1.00 is inside it."""

import shutil
import sys
import tempfile
import timeit
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from decimal import Decimal
from itertools import count, pairwise
from pathlib import Path

from benchmarks import approaches, former, fuzz, reliability
from benchmarks.data import fill
from benchmarks.serving import p95_ms, readings_a_second, server, sign_in
from nomisma.cluster import Cluster
from nomisma.core.fits.iso286 import PREFERRED_FITS, zone
from nomisma.core.registry import calculations

Row = tuple[str, str, float]
PAGES = {
    "Bench": "/",
    "Mate": "/jobs/{n}/mate?function=turns_freely",
    "Measure": "/jobs/{n}/measure",
    "Part": "/jobs/{n}/part",
    "Plan": "/jobs/{n}/plan",
    "Record": "/jobs/{n}/record",
}
ROUNDS = 120
FIRST_BULK = 122
"""A job of the filled shop, past the demo's own."""


def page_rows(cluster: Cluster, large_readings: int) -> Iterator[Row]:
    """Pages on a large shop against a bare page, and against a shop of 1,000 readings."""
    small_url, large_url = (
        fill(cluster, "small", 1_000, short_jobs=20, features=26),
        fill(cluster, "large", large_readings, features=26),
    )
    app = "nomisma.web.app:application"
    with (
        server("benchmarks.bare:application", large_url) as bare,
        server(app, small_url) as small,
        server(app, large_url) as large,
    ):
        sign_in(small)
        sign_in(large)
        for name, path in PAGES.items():
            clients = [(bare, "/"), (small, path.format(n=FIRST_BULK)), (large, path.format(n=FIRST_BULK))]
            bare_ms, small_ms, large_ms = p95_ms(clients, ROUNDS)
            shown = f"{large_ms:.1f} ms at {large_readings:,} readings"
            budget = 5 if name in ("Part", "Plan", "Record") else 3
            yield f"{name}: p95 / ({budget} × bare page, {bare_ms:.1f} ms)", shown, large_ms / (budget * bare_ms)
            yield f"{name}: p95 / (1.2 × at 1,000 readings)", f"{small_ms:.1f} ms at 1,000", large_ms / (1.2 * small_ms)
    with server(app, large_url, workers=2) as large:  # as ./nomisma serve starts it
        sign_in(large)
        with ThreadPoolExecutor(4) as pool:
            rate = sum(
                pool.map(lambda number: readings_a_second(large, number, 10), range(FIRST_BULK + 1, FIRST_BULK + 5))
            )
        yield (
            "100 readings a second, each committed / measured",
            f"{rate:.0f} a second from four people at once",
            100 / rate,
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
    verdict = calculations()["verdict"]
    each_ms = min(timeit.repeat(lambda: verdict.run(verdict.example), number=50, repeat=5)) / 50 * 1000
    yield "A verdict with its working / 5 ms", f"{each_ms:.3f} ms", each_ms / 5


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


USAGE = """./nomisma benchmark [READINGS]           the budgets, with so many readings in the large shop (1000000)
./nomisma benchmark approaches [N]       what the coach is worth, over N simulated parts (10000)
./nomisma benchmark former               every page of every job of shops that former versions filled
./nomisma benchmark fuzz [CASES] [SEED]  hostile values at every door of a running shop (100000)
./nomisma benchmark reliability [N]      nothing lost, with N faults"""


def main() -> None:
    """Run everything; a first argument is the number of readings of the large shop, or names one of the others."""
    if sys.argv[1:2] in (["--help"], ["-h"], ["help"]):
        print(USAGE)
        return None
    if sys.argv[1:2] == ["reliability"]:
        del sys.argv[1]
        return reliability.main()
    if sys.argv[1:2] == ["fuzz"]:
        sys.exit(fuzz.main(sys.argv[2:]))
    if sys.argv[1:2] == ["former"]:
        sys.exit(former.main())
    if sys.argv[1:2] == ["approaches"]:
        return approaches.main(int(sys.argv[2]) if len(sys.argv) > 2 else 10_000)
    if len(sys.argv) > 1 and not sys.argv[1].isdigit():
        sys.exit(f"There is no benchmark {sys.argv[1]}.\n{USAGE}")
    large = int(sys.argv[1]) if len(sys.argv) > 1 else 1_000_000
    folder = Path(tempfile.mkdtemp(prefix="nomisma-benchmark-"))
    folder.chmod(0o755)
    cluster = Cluster(folder / "cluster", options=("shared_buffers=256MB", "max_wal_size=4GB"))
    cluster.start()
    try:
        print(f"{'budget':66} {'measured':42} ratio")
        for name, shown, ratio in [*core_rows(), *page_rows(cluster, large)]:
            print(f"{name:66} {shown:42} {ratio:5.2f}{'' if ratio <= 1 else '  over'}", flush=True)
    finally:
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    main()
