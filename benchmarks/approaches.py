"""The approaches on the simulated lathe, with the coach and by two kinds of hand: the tables of docs/CUTTING.md."""

from nomisma.core.practice.turned import APPROACHES, Tally, many

WIDTHS_MM = (0.052, 0.1)
HEAD = "scrap | in limits | finished by stone or cloth | measured, median (mean) | 90 % intervals that held |"
WHO = (
    ("coach", "coach, a lathe it does not know", False),
    ("coach", "coach, a lathe it knows", True),
    ("careful_hand", "a careful hand", False),
    ("hand", "a hand that believes its dial", False),
)


def _line(first: str, second: str, found: Tally, *, coach: bool = True) -> None:
    held = f"{found.coverage_percent:.1f} %" if coach else "–"
    print(
        f"| {first} | {second} | {found.scrap_percent:.2f} % | {found.in_limits_percent:.1f} % |"
        f" {found.polished_percent:.0f} % | {found.median_measured:.0f} ({found.mean_measured:.1f}) | {held} |",
        flush=True,
    )


def main(parts: int = 10_000) -> None:
    """Print one line an approach, then the first of them by tolerance."""
    print(f"| approach | who | {HEAD}\n|---|---|---|---|---|---|---|")
    for approach in APPROACHES:
        for who, words, known in WHO:
            if who != "careful_hand" or approach == APPROACHES[0]:
                _line(
                    approach.replace("_", " "), words, many(parts, approach, who=who, known=known), coach=who == "coach"
                )
    print(f"\n| tolerance | who | {HEAD}\n|---|---|---|---|---|---|---|")
    for width in WIDTHS_MM:
        for who, words, known in WHO:
            found = many(parts, APPROACHES[0], who=who, width_mm=width, known=known)
            _line(f"{width * 1000:.0f} µm", words, found, coach=who == "coach")
