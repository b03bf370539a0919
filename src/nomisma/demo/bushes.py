"""Bushes of the invented shop that are made between two measured parts: housing and shaft at hand, the bush led by its
worksheet.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from nomisma.core.joints.bush_model import BushResult
from nomisma.core.quantity.length import Unit
from nomisma.core.registry import calculation_named
from nomisma.demo.ids import demo_id
from nomisma.demo.jobs import BORE_TENTHS, TENTHS, Logged
from nomisma.demo.reader import log_by_letter
from nomisma.jobs.opening.bush_work import BushChosen, bush_limits, bush_of, known_of, versions_of, work_to_bush
from nomisma.jobs.opening.new_job import open_bush
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store.models import Account, Instrument, Job, Machine


@dataclass(frozen=True)
class DemoBush:
    """A bush with what was read, by the letter of its feature; `asked`: the fields of its worksheet besides those two,
    as typed.
    """

    title: str
    asked_for: str
    by: str
    hours_ago: float
    unit: Unit
    machine: str
    at_hand: tuple[tuple[str, Logged], ...]
    asked: dict[str, str]
    made: tuple[tuple[str, Logged], ...] = ()


BUSHES = (
    DemoBush(
        title="Bush of the winch's idler",
        asked_for="The idler's old bush has worn oval; housing and pin stay",
        by="orla",
        hours_ago=2.03,
        unit="in",
        machine="Long lathe",
        at_hand=(
            ("B", Logged(".6252", "mouth 0°", BORE_TENTHS)),
            ("B", Logged(".6253", "deep 90°", BORE_TENTHS)),
            ("E", Logged(".4374", "near end 0°", TENTHS)),
            ("E", Logged(".4373", "far end 90°", TENTHS)),
        ),
        asked={
            "housing_outer": "1.5 in",
            "length": "0.625 in",
            "bush_material": "bearing_bronze",
            "housing_material": "carbon_steel",
            "shaft_material": "carbon_steel",
            "working_c": "40",
        },
        made=(("A", Logged(".6291", "near end 0°", TENTHS)),),
    ),
)


@dataclass(frozen=True)
class BushMaker:
    """Writes the demo's bushes, through the commands that the pages use."""

    session: Session
    people: dict[str, Account]
    instruments: dict[str, Instrument]
    machines: dict[str, Machine]
    now: datetime

    def load(self) -> None:
        """Each bush with what was read of it."""
        for demo in BUSHES:
            self._load(demo)

    def _load(self, demo: DemoBush) -> None:
        started, by = self.now - timedelta(hours=demo.hours_ago), self.people[demo.by]
        job = Job(
            id=demo_id("job", demo.title),
            title=demo.title,
            asked=demo.asked_for,
            unit=demo.unit,
            machine_id=self.machines[demo.machine].id,
            by_id=by.id,
            at=started,
        )
        job = open_bush(self.session, job)
        self._log(demo, job, demo.at_hand, started)
        state = state_numbered(self.session, job.number, "A")
        bush = bush_of(state)
        values: dict[str, Any] = {**demo.asked, "unit": demo.unit}
        for name, kind, letter in (("housing", "bore", "B"), ("shaft", "shaft", "E")):
            read = [f"{one.size} {demo.unit}" for of, one in demo.at_hand if of == letter]
            values[name] = {"kind": kind, "readings": read, "uncertainty": "0.0001 in"}
        answer = calculation_named("bush").run(values)
        assert isinstance(answer, BushResult)
        chosen = BushChosen(
            id=demo_id("bush", demo.title),
            asked={**demo.asked, **known_of(bush)},
            values=values,
            seen=bush_limits(answer, demo.unit).seen,
            based_on=versions_of(bush),
        )
        work_to_bush(self.session, state, chosen, by=by)
        self._log(demo, job, demo.made, started + timedelta(minutes=2))

    def _log(self, demo: DemoBush, job: Job, rows: tuple[tuple[str, Logged], ...], at: datetime) -> None:
        log_by_letter(
            self.session, self.instruments, job, f"{demo.title}, {rows[0][0]}", rows, at=at, apart=timedelta(seconds=20)
        )
