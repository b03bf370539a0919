"""Loads the demo shop into an empty database, through the same calculations the pages use."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid5

from sqlalchemy.orm import Session as OrmSession

from nomisma.core.fits.options import OptionsInput, fit_options
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.demo.jobs import INSTRUMENTS, JOBS, MACHINES, DemoJob, Logged
from nomisma.store.accounts import accounts, add_account
from nomisma.store.database import engine_for, sessions_of
from nomisma.store.models import Account, Instrument, Job, JobEvent, Limits, Machine, PartnerStatement, Reading
from nomisma.store.readings import uncertainty_of

PASSWORD = "hilltop-demo"
_NAMESPACE = UUID("6f1a52be-0c3b-4d50-9d3c-6e2f1e6b8a11")


@dataclass(frozen=True)
class Person:
    """Somebody who never was."""

    sign_in_name: str
    name: str
    role: str
    unit: Unit


PEOPLE = (
    Person("orla", "Orla Quillfeather", "machinist", "in"),
    Person("bram", "Bram Otterholt", "lead", "in"),
    Person("pim", "Pim Larkwhistle", "apprentice", "mm"),
)


def load(url: str) -> None:
    """Load the shop unless somebody is in it already."""
    engine = engine_for(url)
    with sessions_of(engine).begin() as session:
        if not accounts(session):
            _Loader(session).load()
    engine.dispose()


def demo_id(*words: str) -> UUID:
    """The same id for the same thing at every load."""
    return uuid5(_NAMESPACE, "/".join(words))


class _Loader:
    """Writes the shop, and remembers what it wrote by name."""

    def __init__(self, session: OrmSession) -> None:
        self.session = session
        self.people: dict[str, Account] = {}
        self.instruments: dict[str, Instrument] = {}
        self.machines: dict[str, Machine] = {}
        self.now = datetime.now(UTC)

    def load(self) -> None:
        """People, then what they work with, then their jobs."""
        for person in PEOPLE:
            self.people[person.sign_in_name] = add_account(
                self.session,
                sign_in_name=person.sign_in_name,
                name=person.name,
                role=person.role,
                password=PASSWORD,
                unit=person.unit,
            )
        lead = self.people["bram"].id
        for row in INSTRUMENTS:
            self.instruments[row["name"]] = self._add(Instrument(by_id=lead, **_with_lengths(row)))
        for row in MACHINES:
            self.machines[row["name"]] = self._add(Machine(by_id=lead, **_with_lengths(row)))
        for job in JOBS:
            self._load_job(job)

    def _add(self, row: Any) -> Any:
        self.session.add(row)
        self.session.flush()
        return row

    def _load_job(self, demo: DemoJob) -> None:
        started = self.now - timedelta(hours=demo.hours_ago)
        job = self._add(
            Job(
                id=demo_id("job", demo.title), title=demo.title, asked=demo.asked, unit=demo.unit, partner_kind=demo.partner_kind,
                machine_id=self.machines[demo.machine].id, by_id=self.people[demo.by].id, at=started,
            )
        )  # fmt: skip
        if demo.partner_callout:
            self._add(PartnerStatement(job_id=job.id, callout=demo.partner_callout, by_id=job.by_id, at=started))
        self._log(demo, job, "partner", demo.partner, started, None)
        limits = self._choose(demo, job, started + timedelta(minutes=20)) if demo.option else None
        self._log(demo, job, "made", demo.made, started + timedelta(minutes=40), limits)
        if demo.handed_over:
            self._add(
                JobEvent(
                    job_id=job.id, kind="handed_over", note=demo.handed_over, by_id=self.people["bram"].id,
                    at=started + timedelta(hours=2),
                )
            )  # fmt: skip

    def _log(
        self, demo: DemoJob, job: Job, member: str, rows: tuple[Logged, ...], start: datetime, limits: Limits | None
    ) -> None:
        earlier: Reading | None = None
        for index, logged in enumerate(rows):
            size = parse_length(logged.size, demo.unit)
            earlier = self._add(
                Reading(
                    id=demo_id("reading", demo.title, member, str(index)), job_id=job.id, member=member, place=logged.place,
                    size_mm=size.mm, size_text=logged.size, size_unit=size.unit, reason=logged.corrects, cut_number=logged.cut,
                    instrument_id=self.instruments[logged.instrument].id, limits_id=limits.id if limits else None,
                    supersedes_id=earlier.id if logged.corrects and earlier else None, withdrawn=False,
                    by_id=self.people[demo.by].id, at=start + timedelta(minutes=4 * index),
                )
            )  # fmt: skip

    def _choose(self, demo: DemoJob, job: Job, at: datetime) -> Limits:
        partner: dict[str, Any] = {"kind": demo.partner_kind}
        if demo.partner_callout:
            partner["callout"] = demo.partner_callout
        else:
            partner["readings"] = [parse_length(logged.size, demo.unit) for logged in demo.partner]
            partner["uncertainty"] = Length(uncertainty_of(self.instruments[demo.partner[0].instrument]), demo.unit)
        given = OptionsInput.model_validate({"partner": partner, "function": demo.function, "unit": demo.unit})
        option = next(option for option in fit_options(given).options if option.name == demo.option)
        assert option.lower is not None
        assert option.upper is not None
        assert option.aim is not None
        row: Limits = self._add(
            Limits(
                job_id=job.id, version=1, school=option.school, option_name=option.name, lower_mm=option.lower.mm,
                upper_mm=option.upper.mm, aim_mm=option.aim.mm, inputs=given.model_dump(mode="json"),
                option=option.model_dump(mode="json"), by_id=self.people[demo.by].id, at=at,
            )
        )  # fmt: skip
        return row


def _with_lengths(row: dict[str, str]) -> dict[str, Any]:
    """A row with every `*_text` length also in mm."""
    values: dict[str, Any] = {"id": demo_id(row["name"]), **row}
    for key, text in row.items():
        if key.endswith("_text"):
            values[key.replace("_text", "_mm")] = parse_length(text, "mm" if row["unit"] == "mm" else "in").mm
    return values
