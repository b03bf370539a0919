"""Practice at the lathe: a simulated part turned or bored to size, its micrometer to be read, with the coach or
without, and a score.
"""

import re
from dataclasses import dataclass, field
from decimal import Decimal
from functools import lru_cache
from random import SystemRandom
from typing import Any
from uuid import UUID

from fastapi import APIRouter, Depends
from fastapi.responses import RedirectResponse, Response

from nomisma.core.calculation import BadInput
from nomisma.core.cutting.amount import line_on_diameter
from nomisma.core.cutting.coach_model import NextCutResult
from nomisma.core.cutting.dial import wind
from nomisma.core.cutting.dialled import Dialled
from nomisma.core.cutting.next_cut import next_cut, predicted
from nomisma.core.errors import InputError, NotDefined, OutOfRange, refused_as
from nomisma.core.number import number_from
from nomisma.core.part.feature import cut_direction
from nomisma.core.practice.lathe_levels import LatheLevel, lathe_level_named
from nomisma.core.practice.part import STEP_MM, Coached, PracticePart, coach_input, coached_part
from nomisma.core.quantity.length import Length
from nomisma.store.append import append
from nomisma.store.models import PracticeEvent
from nomisma.store.models import PracticePart as PartRow
from nomisma.store.practice import part_events
from nomisma.web.drawings.dial import wheel_picture
from nomisma.web.drawings.micrometer import micrometer_picture
from nomisma.web.drawings.passes import CutDrawn, Run, passes_picture
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Form, Post, Visit, posted, signed_in

router = APIRouter(include_in_schema=False)
ACTIONS = {
    "cool": "Let it cool",
    "touch": "Touch the tool on anew",
    "stone": "A touch of stone or cloth",
    "out": "Take it out",
}
MOST_TURNS = 20
MOST_EVENTS = 300


@dataclass(frozen=True, slots=True)
class CutLogged:
    """A cut and the sizes read before and after it; lines are as dialled."""

    lines: Decimal
    drawn: CutDrawn


@dataclass
class Played:
    """The part after everything that was done to it. `sizes` and `dialled` are what the coach goes by since the last
    touch.
    """

    part: PracticePart
    sizes: list[Length] = field(default_factory=list)
    dialled: list[Dialled] = field(default_factory=list)
    cuts: list[CutLogged] = field(default_factory=list)
    misread: list[tuple[Length, Length]] = field(default_factory=list)
    readings: int = 0
    waiting: Decimal | None = None
    last_lines: Decimal | None = None
    fresh: bool = False
    out: bool = False

    @property
    def level(self) -> LatheLevel:
        """The level it is of."""
        return self.part.level

    @property
    def unread(self) -> bool:
        """Whether it has to be measured before the coach can say anything."""
        return not self.sizes or self.waiting is not None or self.fresh

    def do(self, event: PracticeEvent) -> None:
        """Play one event."""
        match event.kind:
            case "cut":
                for lines in (Decimal(text) for text in event.detail.get("passes", [event.detail["lines"]])):
                    self.part.cut(lines)
                    self.last_lines = lines if self.waiting is not None else None
                    self.waiting = (self.waiting or Decimal(0)) + lines
            case "read":
                self._read(Length(Decimal(event.detail["size_mm"]), self.level.unit))
            case "cool":
                self.part.cool()
            case "touch":
                self.part.touch()
                self.sizes, self.dialled = self.sizes[-1:], []
            case "stone":
                self.part.stone()
                self.fresh = True
            case "out":
                self.out = True

    def _read(self, size: Length) -> None:
        self.readings += 1
        stood = self.part.reading
        if abs(size.mm - stood.mm) > STEP_MM[self.level.unit] * 3 / 2:
            self.misread.append((size, stood))
        if self.fresh:
            self.sizes, self.dialled, self.fresh = [size], [], False
        elif self.waiting is None or not self.sizes:
            self.sizes[-1:] = [size]
            if self.cuts and self.dialled:
                last = self.cuts[-1]
                self.cuts[-1] = CutLogged(
                    last.lines, self._drawn(self.sizes[:-1], self.dialled[:-1], self.dialled[-1], size)
                )
        else:
            amount = Dialled(
                self._of_lines(self.waiting), self._of_lines(self.last_lines) if self.last_lines is not None else None
            )
            self.cuts.append(CutLogged(self.waiting, self._drawn(self.sizes, self.dialled, amount, size)))
            self.sizes.append(size)
            self.dialled.append(amount)
        self.waiting = None

    def _of_lines(self, lines: Decimal) -> Length:
        return Length(lines * line_on_diameter(self.level.line.mm, self.level.said), self.level.unit)

    def _drawn(self, sizes: list[Length], dialled: list[Dialled], amount: Dialled, after: Length) -> CutDrawn:
        """A cut with what was to be expected of it from the cuts before."""
        before = sizes[-1]
        try:
            light = amount.last_pass.mm if amount.last_pass else None
            found = predicted(coach_input(self.level, sizes, dialled), amount.total.mm, light)
        except (BadInput, InputError):
            return CutDrawn(before.mm, after.mm)
        sign = cut_direction(self.level.kind)
        ends = sorted(_worked(before.mm - sign * Decimal(f"{removed:.6f}"), self.level) for removed in found.interval)
        return CutDrawn(before.mm, after.mm, ends[0], ends[1])


@dataclass(frozen=True)
class PartScore:
    """How it came out, against the coach's own advice followed on the same part."""

    size: Length
    inside: bool
    gone: bool
    readings: int
    misread: list[tuple[Length, Length]]
    par: Coached
    dial: str


def _worked(mm: Decimal, level: LatheLevel) -> Decimal:
    """To what the micrometer reads."""
    step = STEP_MM[level.unit]
    return (mm / step).quantize(Decimal(1)) * step


par_of = lru_cache(maxsize=64)(coached_part)


def played(visit: Visit, row: PartRow) -> Played:
    """A part with everything that was done to it."""
    found = Played(PracticePart(lathe_level_named(row.level), row.seed))
    for event in part_events(visit.db, row.id):
        found.do(event)
    return found


@router.post("/practice/lathe")
def begin(post: Post = Depends(posted)) -> Response:
    """Chuck up a fresh part of a level."""
    visit, form = post.visit, post.form
    level = lathe_level_named(form.text("level", needed=True, longest=40))
    row = PartRow(id=form.client_id(), level=level.name, seed=SystemRandom().randrange(2**31), by_id=visit.account.id)
    append(visit.db, row)
    visit.db.commit()
    return RedirectResponse(f"/practice/lathe/{row.id}", 303)


def _own(visit: Visit, part_id: UUID) -> PartRow:
    found = visit.db.get(PartRow, part_id)
    if found is None or found.by_id != visit.account.id:
        raise NotDefined("That piece of practice is not yours.", "Begin one of your own under Practice.", field="level")
    return found


@router.get("/practice/lathe/{part_id}")
def show(part_id: UUID, visit: Visit = Depends(signed_in), alone: bool = False) -> Response:
    """The page of one part."""
    return _page(visit, _own(visit, part_id), alone=alone)


def _page(
    visit: Visit,
    row: PartRow,
    *,
    alone: bool,
    status: int = 200,
    error: InputError | None = None,
    typed: dict[str, str] | None = None,
) -> Response:
    run = played(visit, row)
    part = "practice/_lathe_work.html" if visit.request.headers.get("hx-request") else "practice/lathe.html"
    return page(
        visit,
        part,
        status=status,
        own_unit=run.level.unit,
        run=run,
        level=run.level,
        alone=alone,
        error=error,
        typed=typed or {},
        base=f"/practice/lathe/{row.id}",
        actions=ACTIONS,
        score=_score(run, row.seed) if run.out else None,
        micrometer=micrometer_picture(run.part.reading, run.level.kind),
        **_said(run),
    )


def _said(run: Played) -> dict[str, Any]:
    """What the coach says to the readings so far, and the pictures."""
    level = run.level
    result: NextCutResult | None = None
    refused: InputError | None = None
    if run.sizes:
        try:
            result = next_cut(coach_input(level, run.sizes, run.dialled))
        except BadInput as bad:
            refused = bad.errors[0]
        except InputError as wrong:
            refused = wrong
    size_mm = run.sizes[-1].mm if run.sizes else None
    wound = None
    if result and result.dialled is not None and size_mm is not None:
        wound = wind(
            dialled_mm=result.dialled.mm,
            size_mm=size_mm,
            to_aim_mm=result.to_aim.mm,
            kind=level.kind,
            line_mm=level.line.mm,
            turn_mm=level.line.mm * level.turn_lines,
            reads=level.said,
            method="count_in",
            unit=level.unit,
            passes_mm=[lines * line_on_diameter(level.line.mm, level.said) for lines in result.parts],
        )
    aim_mm = (level.lower.mm + level.upper.mm) / 2
    drawn = Run(level.kind, level.lower.mm, level.upper.mm, aim_mm, size_mm, [one.drawn for one in run.cuts])
    return {
        "to_wind": _to_wind(result),
        "result": result,
        "refused": refused,
        "wound": wound,
        "wheel": wheel_picture(wound) if wound else "",
        "aim_mm": aim_mm,
        "size_mm": size_mm,
        "passes": passes_picture(drawn, result) if size_mm is not None else "",
    }


def _to_wind(result: NextCutResult | None) -> str:
    """What the coach advises, as it is typed: 28, or 188 then 20."""
    if result is None or result.lines is None:
        return ""
    return " then ".join(f"{one.normalize():f}" for one in result.parts or [result.lines])


def _score(run: Played, seed: int) -> PartScore:
    level, size = run.level, run.part.true_mm
    low, high = float(level.lower.mm), float(level.upper.mm)
    return PartScore(
        size=Length.of(f"{size:.4f}", "mm"),
        inside=low <= size <= high,
        gone=size < low if cut_direction(level.kind) == 1 else size > high,
        readings=run.readings,
        misread=run.misread,
        par=par_of(level, seed),
        dial="" if level.said == level.reads else f"The dial was said to read {level.said}; it reads {level.reads}.",
    )


@router.post("/practice/lathe/{part_id}/do")
def act(part_id: UUID, post: Post = Depends(posted)) -> Response:
    """Cut, read, wait, touch on, stone, or take it out."""
    visit, form = post.visit, post.form
    row = _own(visit, part_id)
    alone = form.text("alone") == "yes"
    try:
        kind, detail = _event(form, played(visit, row))
    except InputError as error:
        typed = {name: form.shown(name) for name in ("lines", "size")}
        return _page(visit, row, alone=alone, status=422, error=error, typed=typed)
    append(
        visit.db, PracticeEvent(id=form.client_id(), part_id=row.id, kind=kind, detail=detail, by_id=visit.account.id)
    )
    visit.db.commit()
    if not visit.request.headers.get("hx-request"):
        return RedirectResponse(f"/practice/lathe/{part_id}{'?alone=true' if alone else ''}", 303)
    return _page(visit, row, alone=alone)


def _event(form: Form, run: Played) -> tuple[str, dict[str, Any]]:
    """What is to be done. Raises InputError."""
    what = form.choice("what", ("cut", "read", *ACTIONS))
    if run.out:
        raise InputError("This part is out of the chuck.", "Chuck up another under Practice.", field="what")
    if run.readings + len(run.cuts) > MOST_EVENTS:
        raise OutOfRange("That is more than anybody does to one part.", "Take it out, and begin another.", field="what")
    if what == "cut":
        if not run.sizes:
            raise InputError("Nothing was measured yet.", "Measure the stock before the first cut.", field="lines")
        passes = [
            _lines(text, run.level)
            for text in re.split(r"\bthen\b", form.text("lines", needed=True, longest=60), flags=re.I)
        ]
        return "cut", {"lines": str(sum(passes)), "passes": [str(lines) for lines in passes]}
    if what == "read":
        text = form.text("size", needed=True, longest=60)
        return "read", {"size_mm": str(form.size("size", run.level.unit).mm), "typed": text}
    return what, {}


def _lines(text: str, level: LatheLevel) -> Decimal:
    """Lines to wind in. Raises InputError, OutOfRange."""
    with refused_as(f"“{text}” is no number of lines.", "Give lines of the dial, like 28 or 12.5.", field="lines"):
        lines = number_from(text)
    if not 0 <= lines <= MOST_TURNS * level.turn_lines:
        raise OutOfRange(
            f"“{text}” lines cannot be wound in.",
            f"Give 0 (a spring pass) to {MOST_TURNS * level.turn_lines}.",
            field="lines",
        )
    return lines
