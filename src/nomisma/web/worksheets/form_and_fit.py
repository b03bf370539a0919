"""Form and fit: the shape of both members from their readings, and whether they will go together."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any, Literal, cast

from fastapi import APIRouter, Depends
from fastapi.responses import Response
from markupsafe import Markup

from nomisma.core.calculation import BadInput
from nomisma.core.errors import InputError
from nomisma.core.joints.mating import MatingResult
from nomisma.core.materials.material import materials
from nomisma.core.measuring.feature import ReadingGroup
from nomisma.core.measuring.form import FormResult
from nomisma.core.measuring.instrument_kinds import instrument_kinds
from nomisma.core.measuring.uncertainty import shared_uncertainty_mm
from nomisma.core.part.feature_kinds import KindName
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.jobs.standing.state import JobState
from nomisma.store import shop
from nomisma.store.models import Instrument
from nomisma.web.drawings.form import form_picture
from nomisma.web.frame.job_in_hand import job_in_hand
from nomisma.web.frame.pages import page
from nomisma.web.frame.visit import Visit, signed_in

router = APIRouter(include_in_schema=False)
ASKED = ("length", "piece", "bore_c", "shaft_c", "bore_material", "shaft_material")


Member = Literal["made", "partner"]


@dataclass(frozen=True)
class MemberForm:
    """One member's form with its picture; none without readings."""

    member: Member
    kind: str
    result: FormResult | None
    picture: Markup


@router.get("/jobs/{number}/form")
def show(number: int, visit: Visit = Depends(signed_in)) -> Response:
    """The page: partner and made member in section, and together."""
    state = job_in_hand(visit, number)
    asked = {name: visit.request.query_params.get(name, "").strip()[:60] for name in ASKED}
    pieces = [piece for piece in state.own_readings.pieces if piece]
    piece = asked["piece"] if asked["piece"] in pieces else pieces[-1] if pieces else ""
    errors: list[InputError] = []
    forms: list[MemberForm] = []
    together: MatingResult | None = None
    by_id = {row.first_id: row for row in shop.instruments(visit.db)}
    try:
        length = parse_length(asked["length"], state.unit) if asked["length"] else None
        forms = [_form(state, member, piece, length, by_id) for member in _members(state)]
        together = mating_of(state, piece, asked, by_id)
    except BadInput as error:
        errors = error.errors
    except InputError as error:
        errors = [error.at(error.field or "length")]
    return page(
        visit,
        "worksheets/form.html",
        own_unit=state.unit,
        state=state,
        job=state.job,
        stage="measure",
        forms=forms,
        together=together,
        asked=asked,
        errors=errors,
        pieces=pieces,
        piece=piece,
        materials=materials(),
    )


def _members(state: JobState) -> tuple[Member, ...]:
    return ("made", "partner") if state.joint else ("made",)


def _kind_of(state: JobState, member: Member) -> KindName:
    return state.kind if member == "made" else state.partner_kind


def groups_of(state: JobState, member: Member, piece: str) -> tuple[ReadingGroup, ...]:
    """The pooled places of one member, of one piece of a batch."""
    return state.partner_readings.groups if member == "partner" else state.own_readings.of_piece(piece).groups


def _placed(groups: tuple[ReadingGroup, ...], unit: Unit) -> list[dict[str, Any]]:
    """Places as the calculations take them; repeats that disagree count as two."""
    return [
        {"place": group.place, "size": Length(mm, unit)}
        for group in groups
        for mm in dict.fromkeys((group.smallest_mm, group.largest_mm))
    ]


def _form(
    state: JobState, member: Member, piece: str, length: Length | None, by_id: dict[Any, Instrument]
) -> MemberForm:
    groups = groups_of(state, member, piece)
    kind = _kind_of(state, member)
    if not groups:
        return MemberForm(member, kind, None, Markup(""))
    used = [row for row in by_id.values() if str(row.first_id) in {group.instrument for group in groups}]
    found = calculation_named("form").run(
        {
            "kind": kind,
            "readings": _placed(groups, state.unit),
            "length": length,
            "resolution": Length(max((row.resolution_mm for row in used), default=Decimal(0)), state.unit),
            "points": _points(used),
        }
    )
    result = cast(FormResult, found)
    ends = (state.feature.lower_mm, state.feature.upper_mm) if member == "made" else (None, None)
    return MemberForm(member, kind, result, form_picture(result, state.unit, *ends))


def _points(used: list[Instrument]) -> int:
    """How many points touched, the fewest of the instruments used; two where a kind is not said."""
    kinds = instrument_kinds()
    return min((kinds[row.kind].points if row.kind in kinds else 2 for row in used), default=2)


def mating_of(state: JobState, piece: str, asked: dict[str, str], by_id: dict[Any, Instrument]) -> MatingResult | None:
    """Both members together from their readings; None where either has none. Raises BadInput."""
    if state.joint is None:
        return None
    members = {state.partner_kind: groups_of(state, "partner", piece), state.made_kind: groups_of(state, "made", piece)}
    if not members["bore"] or not members["shaft"]:
        return None
    values: dict[str, Any] = {
        "same_instrument": len({g.instrument for groups in members.values() for g in groups}) == 1
    }
    for kind in ("bore", "shaft"):
        groups = members[kind]
        worth = max(group.uncertainty_mm for group in groups)
        shared = min((_shared(group, by_id) for group in groups), default=Decimal(0))
        values[kind] = {
            "readings": _placed(groups, state.unit),
            "uncertainty": Length(worth, state.unit),
            "shared_uncertainty": Length(min(shared, worth), state.unit),
            **({"working_c": asked[f"{kind}_c"]} if asked.get(f"{kind}_c") else {}),
            **({"material": asked[f"{kind}_material"]} if asked.get(f"{kind}_material") else {}),
        }
    return cast(MatingResult, calculation_named("mating").run(values))


def _shared(group: ReadingGroup, by_id: dict[Any, Instrument]) -> Decimal:
    row = next((row for key, row in by_id.items() if str(key) == group.instrument), None)
    return shared_uncertainty_mm(row.permitted_error_mm) if row else Decimal(0)
