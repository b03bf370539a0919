"""The three schools of approach on the simulated lathe, with the coach and by hand: the table of docs/CUTTING.md."""

from nomisma.core.practice.turned import SCHOOLS, many


def main(parts: int = 10_000) -> None:
    """Print one line a school."""
    print("| school | who | scrap | in limits | finished by stone or cloth | measured, median | 90 % intervals that held |")
    print("|---|---|---|---|---|---|---|")
    for school in SCHOOLS:
        for coach in (True, False):
            found = many(parts, school, coach=coach)
            held = f"{found.coverage_percent:.1f} %" if coach else "–"
            print(
                f"| {school.replace('_', ' ')} | {'coach' if coach else 'by hand'} | {found.scrap_percent:.2f} % | "
                f"{found.in_limits_percent:.1f} % | {found.polished_percent:.0f} % | {found.median_measured:.0f} | {held} |",
                flush=True,
            )
