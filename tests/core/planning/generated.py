"""Parts and stocks made up by a number, for plans that are run: steps, holes, threads, grooves, edges, as a shop writes
them.
"""

from random import Random

from nomisma.core.planning.order_answer import OrderInput

OUTSIDE = (8, 10, 12, 16, 20, 24, 25, 30, 36, 40, 50, 60, 80, 100, 140)
LONG = (4, 6, 8, 10, 12, 15, 20, 25, 30, 40, 60, 90)
INSIDE = (3, 5, 6, 8, 10, 12, 16, 20, 25, 30, 40, 50)
CLASSES = ("", " h7", " h9", " ±0.1", " ±0.02", " k6")
HOLE_CLASSES = ("", " H7", " ±0.05", " H9")


def part_lines(number: int) -> str:
    """The lines of one part, sizes in mm; the same for the same number."""
    some = Random(number)
    steps = _steps(some)
    lines = [f"od {across}{some.choice(CLASSES)} x {long}" for across, long in steps]
    whole = sum(long for _, long in steps)
    lines += _holes(some, min(across for across, _ in steps), whole)
    if some.random() < 0.3:
        lines.append(f"cham {some.choice(('0.5', '1'))} x 45{some.choice((' both ends', ' on A', ''))}")
    across, long = steps[0]
    if some.random() < 0.2 and long >= 10:
        lines.append(f"groove 2 wide to {across - 2} at {long // 2}")
    if some.random() < 0.15:
        lines.append("knurl medium on A")
    if some.random() < 0.15 and long >= 10:
        lines.append("taper 1:20 over 8 on A")
    if some.random() < 0.15:
        lines.append("fillet 0.4 max")
    if some.random() < 0.2 and len(steps) > 1:
        lines.append(f"undercut F 0.6 x 0.3 at {long}")
    if some.random() < 0.3:
        lines.append(f"length {whole} ±0.1")
    elif some.random() < 0.1:
        lines.append(f"eccentric {steps[-1][0] // 2} x {some.choice(LONG)} high, throw {some.choice((1, 2, 3))}")
        if some.random() < 0.5 and steps[-1][0] >= 20 and not any("thru" in line for line in lines):
            lines.append("bore 4 x 3 deep in the eccentric")
    return "\n".join(lines)


def _steps(some: Random) -> list[tuple[int, int]]:
    """Diameters and lengths from the left; mostly a shape that two ends reach."""
    count = some.choice((1, 1, 2, 2, 3, 3, 4, 5))
    across = some.sample(OUTSIDE, count)
    if some.random() < 0.85:
        turn = some.randrange(count)
        largest_first = sorted(across, reverse=True)
        left = sorted(largest_first[1 : turn + 1])
        across = [*left, largest_first[0], *(one for one in largest_first[1:] if one not in left)]
    return [(one, some.choice(LONG)) for one in across]


def _holes(some: Random, narrowest: int, whole: int) -> list[str]:
    room = [one for one in INSIDE if one <= narrowest - 4]
    lines: list[str] = []
    if not room or some.random() < 0.35:
        return lines
    through = some.choice(room)
    if some.random() < 0.7:
        lines.append(f"{some.choice(('bore', 'bore', 'drill', 'ream'))} {through}{some.choice(HOLE_CLASSES)} thru")
    else:
        deep = some.choice([one for one in LONG if one < whole] or [3])
        lines.append(
            f"bore {through}{some.choice(HOLE_CLASSES)} x {deep} deep from the {some.choice(('left', 'right'))}"
        )
    wider = [one for one in room if one > through + 2]
    shallow = [one for one in (2, 4, 6, 10, 15) if one < whole - 2]
    if wider and shallow and some.random() < 0.5:
        end = some.choice(("left", "right"))
        lines.append(
            f"bore {some.choice(wider)}{some.choice(HOLE_CLASSES)} x {some.choice(shallow)} deep from the {end}"
        )
    return lines


def part_long_mm(number: int) -> int:
    """How long the part of a number is, mm."""
    return lines_long_mm(part_lines(number))


def lines_long_mm(lines: str) -> int:
    """How long the part of some lines is, mm."""
    steps = [line for line in lines.splitlines() if line.startswith(("od ", "eccentric "))]
    return sum(int(line.split(" x ")[1].split()[0]) for line in steps)


def repair_input(number: int) -> OrderInput:
    """One finished part that is mended: some of its outsides stay, the others are worn or built up; its hole stays, or
    is opened out.
    """
    some = Random(number * 104_729 + 5)
    steps = _steps(some)
    stays = [some.random() < 0.6 for _ in steps]
    worn = [f"{some.choice(CLASSES)} now {across + some.choice((1, 2, 4))}" for across, _ in steps]
    lines = [
        f"od {across}{' as it is' if left else now} x {long}"
        for (across, long), left, now in zip(steps, stays, worn, strict=True)
    ]
    room = [one for one in INSIDE if 8 <= one <= min(across for across, _ in steps) - 4]
    if room and some.random() < 0.5:
        through = some.choice(room)
        now = "as it is" if some.random() < 0.4 else f"H7 now {through - 1}"
        lines.append(f"bore {through} {now} thru")
    return OrderInput(lines="\n".join(lines), stock="repair", centred=some.random() < 0.3 and not room)


def stock_input(number: int) -> OrderInput:
    """One part with a stock for it."""
    some = Random(number * 7919 + 1)
    lines = part_lines(number)
    kind = some.choice(("bar", "bar", "bar", "blank", "blank", "cast"))
    return OrderInput(
        lines=lines,
        stock=kind,
        face_as_parted=some.random() < 0.2,
        skin="2 mm" if kind == "cast" else None,
        section=some.choice(("round", "round", "round", "square", "hexagon")) if kind != "cast" else "round",
    )
