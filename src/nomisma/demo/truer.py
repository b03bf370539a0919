"""Loads what the demo shop trued in its chucks, and a piece of practice."""

from datetime import datetime, timedelta
from decimal import Decimal
from typing import Any

from sqlalchemy.orm import Session as OrmSession

from nomisma.core.practice.lathe_levels import lathe_level_named
from nomisma.core.practice.levels import level_named
from nomisma.core.practice.part import PracticePart
from nomisma.core.quantity.display import show
from nomisma.core.quantity.writing import parse_length
from nomisma.core.truing.surface import places_of, uses
from nomisma.demo.ids import demo_id
from nomisma.demo.truing import CHUCKS, EIGHT_INCH, PRACTISED, PRACTISED_PART, TRUED, Trued, TruedRound
from nomisma.store.models import Account, Chuck, Instrument, PracticeEvent, Truing, TruingEvent, TruingReading
from nomisma.store.models import PracticePart as PartRow
from nomisma.store.practice import practice_set_up


def with_lengths(row: dict[str, Any]) -> dict[str, Any]:
    """A row with every `*_text` length also in mm, and an id made from its name."""
    values: dict[str, Any] = {"id": demo_id(row["name"]), **row}
    for key, text in row.items():
        if key.endswith("_text"):
            unit = "mm" if row["unit"] == "mm" else "in"
            values[key.replace("_text", "_mm")] = parse_length(text, "mm" if unit == "mm" else "in", positive=False).mm
    return values


class Truer:
    """Writes chucks, set-ups and rounds."""

    def __init__(
        self, session: OrmSession, people: dict[str, Account], instruments: dict[str, Instrument], now: datetime
    ) -> None:
        self.session = session
        self.people = people
        self.instruments = instruments
        self.now = now

    def load(self) -> None:
        """Chucks first, then set-ups in the order they were made."""
        for row in CHUCKS:
            values = with_lengths(row)
            self._add(Chuck(by_id=self.people["bram"].id, **{**values, "most_rpm": int(row["most_rpm"])}))
        for trued in TRUED:
            self._set_up(trued)
        self._practise()

    def _add(self, row: Any) -> Any:
        self.session.add(row)
        self.session.flush()
        return row

    def _set_up(self, trued: Trued) -> None:
        began = self.now - timedelta(hours=trued.hours_ago)
        indicator = self.instruments[trued.indicator]
        target, lead = uses()[trued.use].total_indicator_reading, parse_length(CHUCKS[0]["screw_lead_text"], "in")
        row = self._add(
            Truing(
                id=demo_id("truing", trued.job),
                job_id=demo_id("job", trued.job),
                chuck_id=demo_id(EIGHT_INCH),
                surface=trued.surface,
                places=4,
                keys="one",
                use=trued.use,
                unit="in",
                instrument_id=indicator.id,
                target_mm=target.mm,
                target_text=str(target),
                screw_lead_mm=lead.mm,
                screw_lead_text=f"{lead.text} in",
                graduation_mm=indicator.resolution_mm,
                graduation_text=f"{indicator.resolution_text} in",
                range_mm=indicator.range_to_mm,
                range_text=f"{indicator.range_to_text} in",
                by_id=self.people["orla"].id,
                at=began,
            )
        )
        for number, one in enumerate(trued.rounds, 1):
            self._round(row, one, number, began)
        if trued.ready:
            detail = {"steps": ["key_out", "clear", "tight", "by_hand", "first_start"], "round": len(trued.rounds)}
            at = began + timedelta(minutes=trued.rounds[-1].minutes + 2)
            self._event(row, "ready", detail, at, 0)

    def _round(self, row: Truing, one: TruedRound, number: int, began: datetime) -> None:
        places = places_of(row.surface, row.places)
        for index, (text, place) in enumerate(zip(one.readings.split(), places, strict=True)):
            read = parse_length(text, "in", positive=False)
            self._add(
                TruingReading(
                    id=demo_id("truing reading", str(row.id), str(number), str(index)),
                    truing_id=row.id,
                    round=number,
                    circle="near",
                    kind="place",
                    place=index,
                    at_deg=Decimal(f"{place.at_deg:.5f}"),
                    read_mm=read.mm,
                    read_text=text,
                    read_unit="in",
                    tightened=one.tightened,
                    by_id=row.by_id,
                    at=began + timedelta(minutes=one.minutes, seconds=12 * index),
                )
            )

    def _event(self, row: Truing, kind: str, detail: dict[str, Any], at: datetime, number: int) -> None:
        id = demo_id("truing event", str(row.id), str(number))
        self._add(TruingEvent(id=id, truing_id=row.id, kind=kind, detail=detail, by_id=row.by_id, at=at))

    def _practise(self) -> None:
        name, seed, turns = PRACTISED
        row = self._add(practice_set_up(demo_id("practice"), level_named(name), seed, self.people["pim"].id))
        for number, (jaw, amount) in enumerate(turns):
            self._event(
                row, "turn", {"jaw": int(jaw), "turns": amount}, self.now - timedelta(minutes=30 - number), number
            )
        self._practise_at_the_lathe()

    def _practise_at_the_lathe(self) -> None:
        level, seed = PRACTISED_PART
        part = PracticePart(lathe_level_named(level), seed)
        row = self._add(PartRow(id=demo_id("practice part"), level=level, seed=seed, by_id=self.people["pim"].id))
        detail = {"size_mm": str(part.reading.mm), "typed": show(part.reading.mm, part.level.unit)}
        id = demo_id("practice event", "0")
        self._add(
            PracticeEvent(
                id=id, part_id=row.id, kind="read", detail=detail, by_id=row.by_id, at=self.now - timedelta(minutes=20)
            )
        )
