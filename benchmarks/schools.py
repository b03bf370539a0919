"""The three schools of approach on the simulated lathe, with the coach and by hand: the table of docs/CUTTING.md."""

from nomisma.core.practice.turned import SCHOOLS, Tally, many

WIDTHS_MM = (0.052, 0.1)
HEAD = "scrap | in limits | finished by stone or cloth | measured, median | 90 % intervals that held |"


def _line(first: str, second: str, found: Tally, *, coach: bool = True) -> None:
    held = f"{found.coverage_percent:.1f} %" if coach else "–"
    print(
        f"| {first} | {second} | {found.scrap_percent:.2f} % | {found.in_limits_percent:.1f} % | {found.polished_percent:.0f} % | "
        f"{found.median_measured:.0f} | {held} |",
        flush=True,
    )


def main(parts: int = 10_000) -> None:
    """Print one line a school, then the first school by tolerance."""
    print(f"| school | who | {HEAD}\n|---|---|---|---|---|---|---|")
    for school in SCHOOLS:
        for coach in (True, False):
            who = "coach" if coach else "by hand"
            _line(school.replace("_", " "), who, many(parts, school, coach=coach), coach=coach)
    print(f"\n| tolerance | who | {HEAD}\n|---|---|---|---|---|---|---|")
    for width in WIDTHS_MM:
        for coach in (True, False):
            found = many(parts, SCHOOLS[0], coach=coach, width_mm=width)
            _line(f"{width * 1000:.0f} µm", "coach" if coach else "by hand", found, coach=coach)
