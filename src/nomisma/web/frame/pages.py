"""Rendering: the Jinja environment, what every page is given, and lengths shown in both units at once."""

from collections.abc import Callable, Sequence
from datetime import date, datetime
from decimal import Decimal
from functools import cache, lru_cache
from pathlib import Path
from typing import Any, Self
from uuid import uuid4

from fastapi import Request
from jinja2 import Environment, FileSystemLoader, StrictUndefined
from markupsafe import Markup, escape
from starlette.responses import HTMLResponse

from nomisma.core.cutting.coach_words import percent
from nomisma.core.cutting.dial import alike, turns_and_lines
from nomisma.core.entry_line import FORMS
from nomisma.core.measuring.indirect import follows_from_readings
from nomisma.core.measuring.instrument_kinds import MEASURES_WORDS
from nomisma.core.part.feature import State
from nomisma.core.planning.blank import show_weight
from nomisma.core.quantity.display import (
    WORKING_DECIMALS,
    decimals_of,
    show,
    show_at_resolution,
    show_exact,
    show_force,
    show_in_small_unit,
    show_marked,
    show_roughness,
    show_sawn,
    show_small,
    show_stress,
    show_surface_speed,
    show_torque,
    show_usual,
)
from nomisma.core.quantity.length import UNITS, Length, Unit
from nomisma.core.quantity.writing import split_sizes
from nomisma.core.truing.turn_words import towards, turns_in_words
from nomisma.jobs.shop.clock import now
from nomisma.jobs.shop.rights import RIGHTS, Action, may
from nomisma.jobs.standing.stages import making_of, stage_of, stages_of
from nomisma.jobs.standing.state import JobState
from nomisma.web.drawings.marks import mark
from nomisma.web.frame.assets import asset_url
from nomisma.web.frame.job_in_hand import href, href_at, job_href
from nomisma.web.frame.visit import THEME_COOKIE, Visit, unit_shown

TEMPLATES = Path(__file__).parent.parent / "templates"


def in_both(text_in: Callable[[Unit], str]) -> Markup:
    """A quantity in inch and in metric; the style sheet shows the one in force, so swapping needs no round trip."""
    return Markup("".join(f'<span class="u-{unit}">{escape(text_in(unit))}</span>' for unit in UNITS))


Millimetres = Length | Decimal | int | float
"""What a template may give a filter as a length: a Length, or a number of mm."""


def _mm(value: Millimetres) -> Decimal:
    if isinstance(value, Length):
        return value.mm
    return value if isinstance(value, Decimal) else Decimal(repr(value))


# A shop shows the same sizes again and again: a page of a hundred numbers is mostly found ready.
_kept = lru_cache(maxsize=16_384)


@_kept
def _exact(mm: Decimal) -> Markup:
    return in_both(lambda unit: show_exact(mm, unit))


@_kept
def _figure(mm: Decimal) -> Markup:
    return in_both(lambda unit: show_exact(mm, unit).rsplit(" ", 1)[0])


@_kept
def _small(mm: Decimal, signed: bool) -> Markup:
    return in_both(lambda unit: show_small(mm, unit, signed=signed))


@_kept
def _small_number(mm: Decimal) -> Markup:
    return in_both(lambda unit: show_in_small_unit(mm, unit, signed=True))


def exact(value: Millimetres) -> Markup:
    """A limit or a reading, with the decimals it needs."""
    return _exact(_mm(value))


def sawn(value: Millimetres) -> Markup:
    """A length or width of stock, as it is bought and sawn."""
    return in_both(lambda unit: show_sawn(_mm(value), unit))


def about(value: Millimetres) -> Markup:
    """A length that is set or chosen, not measured, to the working decimals: a feed, how far work stands out."""
    return in_both(lambda unit: show(_mm(value), unit))


def figure(value: Millimetres) -> Markup:
    """The same without its unit, where the unit stands beside it."""
    return _figure(_mm(value))


@_kept
def _at_resolution(mm: Decimal, resolution_mm: Decimal) -> Markup:
    return in_both(lambda unit: show_at_resolution(mm, unit, resolution_mm))


def at_resolution(value: Millimetres, resolution_mm: Decimal) -> Markup:
    """An amount to the decimals the instrument at hand gives."""
    return _at_resolution(_mm(value), resolution_mm)


def small(value: Millimetres, signed: bool = False) -> Markup:
    """A clearance or an amount, in thou or µm."""
    return _small(_mm(value), signed)


def usual(value: Millimetres, own: str = "") -> Markup:
    """What is usual, tidy in either unit; what is marked on an instrument as it is in its `own` unit, and tidy in the
    other.
    """
    return in_both(lambda unit: show_marked(_mm(value), unit) if unit == own else show_usual(_mm(value), unit))


def small_number(value: Millimetres) -> Markup:
    """A clearance as a bare number with its sign, for tables whose head says the unit."""
    return _small_number(_mm(value))


@_kept
def as_read(value: Decimal, unit: Unit, text: str, resolution_mm: Decimal | None = None) -> Markup:
    """A reading: as typed in its own unit, what lies between two of them behind; converted in the other, to its
    instrument's decimals.
    """
    if len(split_sizes(text)) == 2:
        text = f"{text} = {show(value, unit)}"
    elif follows_from_readings(text, unit):
        size = in_both(lambda shown: show(value, shown, decimals=WORKING_DECIMALS[shown]))
        return size + Markup(' <small class="as-entered">{}</small>').format(text)
    typed = text if text.endswith((unit, '"')) else f"{text} {unit}"
    return in_both(
        lambda shown: (
            typed
            if shown == unit
            else show(
                value, shown, decimals=decimals_of(resolution_mm, shown) if resolution_mm else WORKING_DECIMALS[shown]
            )
        )
    )


def force(newtons: float) -> Markup:
    """A force in the unit of the shop."""
    return in_both(lambda unit: show_force(newtons, unit))


def torque(newton_metres: float) -> Markup:
    """A torque in the unit of the shop."""
    return in_both(lambda unit: show_torque(newton_metres, unit))


def stress(megapascals: float) -> Markup:
    """A stress or a pressure in the unit of the shop."""
    return in_both(lambda unit: show_stress(megapascals, unit))


def roughness(micrometres: float) -> Markup:
    """A roughness in the unit of the shop."""
    return in_both(lambda unit: show_roughness(micrometres, unit))


def surface_speed(m_min: float) -> Markup:
    """A surface speed, the shop's unit first."""
    return in_both(lambda unit: show_surface_speed(m_min, unit))


def celsius(degrees: float) -> Markup:
    """A temperature: °C, with °F beside it in an inch shop."""
    return in_both(
        lambda unit: (f"{degrees:.0f} °C" + (f" ({degrees * 1.8 + 32:.0f} °F)" if unit == "in" else "")).replace(
            "-", "−"
        )
    )


def sentence(words: str) -> str:
    """Words with a capital in front, the others as they are: letters of features stay letters."""
    return f"{words[:1].upper()}{words[1:]}"


def lower_first(words: str) -> str:
    """Words as they go on in a sentence, the others as they are."""
    return f"{words[:1].lower()}{words[1:]}"


def seconds(value: float) -> str:
    """A time to work, in seconds or minutes."""
    return f"{value:.0f} s" if value < 120 else f"{value / 60:.0f} min"


def when(value: datetime) -> str:
    """A time in UTC, to the minute."""
    return f"{value:%Y-%m-%d %H:%M}"


def day(value: date) -> str:
    """A day as it is said in a shop: Fri 12 Dec 2026."""
    return f"{value:%a} {value.day} {value:%b %Y}"


def csrf_for(request: Request) -> str:
    """The CSRF token of the sign-in found for this request, if one was."""
    visit: Visit | None = getattr(request.state, "visit", None)
    return visit.session.csrf_token if visit else ""


def in_turns(lines: float | Decimal, around: Decimal | None) -> str:
    """Lines of a dial as a hand winds them: turns and lines where it is known how many go round."""
    return turns_and_lines(Decimal(str(lines)), around)


def whose(action: str) -> str:
    """What somebody hears who may not do that."""
    return RIGHTS[Action(action)].refusal


class Renderer:
    """The templates and what every page is given."""

    def __init__(self, *, demo: bool) -> None:
        self.environment = Environment(
            loader=FileSystemLoader(TEMPLATES),
            autoescape=True,
            undefined=StrictUndefined,
            trim_blocks=True,
            lstrip_blocks=True,
            auto_reload=False,
        )
        self.environment.filters.update(
            about=about,
            exact=exact,
            figure=figure,
            sawn=sawn,
            sentence=sentence,
            lower_first=lower_first,
            small=small,
            usual=usual,
            small_number=small_number,
            when=when,
            day=day,
            as_read=as_read,
            at_resolution=at_resolution,
            force=force,
            torque=torque,
            stress=stress,
            celsius=celsius,
            roughness=roughness,
            surface_speed=surface_speed,
            weight=show_weight,
            chance=lambda value: percent(value / 100),
            seconds=seconds,
            turns=turns_in_words,
            in_turns=in_turns,
            towards=towards,
            zip=zip,
            alike=alike,
        )
        self.environment.globals.update(
            mark=mark,
            href=href,
            may=may,
            whose=whose,
            job_href=job_href,
            stages_of=stages_of,
            stage_of=stage_of,
            making_of=making_of,
            href_at=href_at,
            asset=asset_url,
            demo=demo,
            State=State,
            entry_examples=FORMS,
            measures_words=MEASURES_WORDS,
            new_id=lambda: str(uuid4()),
            shown_at=lambda: round(now().timestamp() * 1000),
            feature_strip=self._feature_strip,
            newest_readings=self._newest_readings,
        )

    def _feature_strip(self, state: JobState, stage: str) -> Markup:
        """The features of a part at a stage; the same for everybody, and kept with how the job stands."""
        macros = vars(self.environment.get_template("macros/job.html").module)
        return state.once(f"features at {stage}", lambda: Markup(macros["features_at"](state, stage)))

    def _newest_readings(self, state: JobState, judged: Sequence[object]) -> Markup:
        """The table of a feature's newest readings, the same for everybody too."""
        values = {"state": state, "judged": judged, "caption": "Readings, newest first", "is_beside": True}
        template = self.environment.get_template("job/measure/_log.html")
        return state.once("newest readings", lambda: Markup(template.render(values)))

    def make_ready(self) -> None:
        """Every template compiled: at the start, and not while somebody waits for a page."""
        for name in self.environment.list_templates():
            self.environment.get_template(name)

    @classmethod
    @cache
    def of(cls, *, demo: bool) -> Self:
        """One a process: a template is made ready once, whichever application shows it first."""
        return cls(demo=demo)

    def render(
        self, template: str, request: Request, *, visit: Visit | None = None, own_unit: str = "", **values: Any
    ) -> str:
        """A page or a part of one as text."""
        own = own_unit or (visit.account.unit if visit else "in")
        shown = unit_shown(request, own)
        given = {
            "account": visit.account if visit else None,
            "csrf_token": visit.session.csrf_token if visit else "",
            "unit": shown,
            "entry_unit": shown,
            "own_unit": own,
            "theme": "dark" if request.cookies.get(THEME_COOKIE) == "dark" else "light",
            "path": request.url.path,
            "is_part": "hx-request" in request.headers,
            **values,
        }
        return self.environment.get_template(template).render(given)


def page(visit: Visit, template: str, *, status: int = 200, own_unit: str = "", **values: Any) -> HTMLResponse:
    """A response with a rendered template for somebody signed in."""
    html = visit.request.app.state.renderer.render(template, visit.request, visit=visit, own_unit=own_unit, **values)
    return HTMLResponse(html, status)
