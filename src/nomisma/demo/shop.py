"""Loads the demo shop into an empty database, through the same calculations the pages use."""

from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import Any, cast
from uuid import UUID

from sqlalchemy import select
from sqlalchemy.orm import Session as OrmSession

from nomisma.core.fits.options import OptionsInput, fit_options
from nomisma.core.fits.shop_rules import ShopRule
from nomisma.core.joints.assembly import CloseInFoundInput, close_in_found
from nomisma.core.joints.assembly_inputs import assembly_inputs
from nomisma.core.joints.bush_model import BushResult
from nomisma.core.measuring.misread import MisreadInput, misread
from nomisma.core.measuring.zero_check import ZeroCheckInput, zero_check
from nomisma.core.model import Model
from nomisma.core.part.trial_wanted import wanted_by_trial
from nomisma.core.quantity.length import Length, Unit
from nomisma.core.quantity.writing import parse_length
from nomisma.core.registry import calculation_named
from nomisma.demo.at_the_lathe import AT_THE_LATHE
from nomisma.demo.bushes import BushMaker
from nomisma.demo.ids import demo_id
from nomisma.demo.jobs import (
    CHANGED_RULE,
    CHECKS,
    DUE_IN_DAYS,
    INSTRUMENTS,
    JOBS,
    MACHINES,
    Assembly,
    Check,
    DemoJob,
    Logged,
    Seen,
)
from nomisma.demo.parts import BARS, LATER_PARTS, PARTS, DemoPart, KeptDemo
from nomisma.demo.reader import log_by_letter
from nomisma.demo.truer import Truer, with_lengths
from nomisma.jobs.opening.new_job import Lines, open_by_lines
from nomisma.jobs.opening.requirements import make_pieces
from nomisma.jobs.planning.plan_entries import Intake
from nomisma.jobs.shop.stock_shelf import enter_bar
from nomisma.jobs.standing.lookup import state_numbered
from nomisma.store.accounts import account_named, accounts, add_account
from nomisma.store.database import engine_on, sessions_of
from nomisma.store.models import (
    Account,
    AssemblyPlan,
    AssemblyResult,
    Cut,
    Disposition,
    Feature,
    FeatureEvent,
    GaugeBinding,
    GaugeReading,
    Instrument,
    InstrumentCheck,
    Job,
    JobEvent,
    Joint,
    KeptAnswer,
    Limits,
    Machine,
    PartnerStatement,
    PlanEntry,
    Reading,
    ShopRuleVersion,
    ShopSetting,
    SuspectReading,
    Trial,
)
from nomisma.store.parts import mated, own_id
from nomisma.store.readings import uncertainty_of
from nomisma.store.tokens import make_token, token_holders

PASSWORD = "hilltop-demo"
GAUGE_TOKEN = "hilltop-gauge"
GAUGES = ("bench-gauge", "bench-indicator", "bench-readout")


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
    with engine_on(url) as engine, sessions_of(engine).begin() as session:
        if not accounts(session):
            _Loader(session).load()
        elif not token_holders(session):
            _give_tokens(session)


def _give_tokens(session: OrmSession) -> None:
    """The demo's gauges and the token they all have; a demo of before had none."""
    lead = account_named(session, "bram").id
    for name in GAUGES:
        make_token(session, kind="gauge", name=name, by_id=lead, token=GAUGE_TOKEN)


CHUCKED = 4
"""Minutes from the saying before to a first start; from one saying of a plan to the next it is one."""


class _Loader:
    """Writes the shop, and remembers what it wrote by name."""

    def __init__(self, session: OrmSession) -> None:
        self.session = session
        self.people: dict[str, Account] = {}
        self.instruments: dict[str, Instrument] = {}
        self.machines: dict[str, Machine] = {}
        self.now = datetime.now(UTC)
        self.closed: list[JobEvent] = []  # written last: a job that is handed over takes nothing more

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
        for number, bar in enumerate(BARS):
            enter_bar(self.session, replace(bar, id=demo_id("bar", str(number))), by=self.people["bram"])
        for row in INSTRUMENTS:
            days = DUE_IN_DAYS.get(row["name"])
            due = (self.now + timedelta(days=days)).date() if days is not None else None
            self.instruments[row["name"]] = self._add(Instrument(by_id=lead, due_on=due, **with_lengths(row)))
        for row in MACHINES:
            self.machines[row["name"]] = self._add(Machine(by_id=lead, **with_lengths(row)))
        rule = ShopRule.model_validate(CHANGED_RULE)
        self._add(ShopRuleVersion(id=demo_id("rule"), name=rule.name, rule=rule.model_dump(mode="json"), by_id=lead))
        self._add(ShopSetting(id=demo_id("setting"), name="confidence_percent", value="95", job_id=None, by_id=lead))
        for job in JOBS:
            self._load_job(job)
        for part in PARTS:
            self._load_part(part)
        BushMaker(self.session, self.people, self.instruments, self.machines, self.now).load()
        for part in (*LATER_PARTS, *AT_THE_LATHE):
            self._load_part(part)
        for index, check in enumerate(CHECKS):
            self._check(check, index)
        self._gauge()
        Truer(self.session, self.people, self.instruments, self.now).load()
        for event in self.closed:
            self._add(event)

    def _check(self, check: Check, index: int) -> None:
        row = self.instruments[check.instrument]
        unit = row.unit
        standard, read = (parse_length(text, unit, positive=False) for text in (check.standard, check.read))
        given = ZeroCheckInput(standard=standard, readings=[read], permitted_error=Length(row.permitted_error_mm, unit))
        self._add(
            InstrumentCheck(
                id=demo_id("check", str(index)),
                instrument_id=row.id,
                of_id=row.id,
                standard_mm=standard.mm,
                standard_text=check.standard,
                read_text=check.read,
                unit=unit,
                zero_error_mm=zero_check(given).zero_error.mm,
                permitted_error_mm=row.permitted_error_mm,
                note=check.note,
                by_id=self.people["bram"].id,
                at=self.now - timedelta(hours=check.hours_ago),
            )
        )

    def _gauge(self) -> None:
        """A gauge that spoke once: bound to the dome roller's job, one reading not yet taken over."""
        _give_tokens(self.session)
        job_id = demo_id("job", "Dome roller, bronze bush")
        feature_id = own_id(job_id, "A")
        bound = self.now - timedelta(hours=1)
        self._add(
            GaugeBinding(
                id=demo_id("bound"),
                gauge="bench-gauge",
                job_id=job_id,
                feature_id=feature_id,
                by_id=self.people["orla"].id,
                at=bound,
            )
        )
        size = parse_length("0.8741", "in")
        self._add(
            GaugeReading(
                id=demo_id("gauge reading"),
                gauge="bench-gauge",
                run="demo",
                number=1,
                job_id=job_id,
                feature_id=feature_id,
                size_mm=size.mm,
                size_text=size.text,
                size_unit=size.unit,
                at=bound,
            )
        )

    def _decide(self, demo: DemoJob, job: Job, limits: Limits | None, at: datetime) -> None:
        kind, piece, reason = demo.decided
        if not kind:
            return
        ids = [
            str(demo_id("reading", demo.title, "made", str(n))) for n, one in enumerate(demo.made) if one.piece == piece
        ]
        self._add(
            Disposition(
                id=demo_id("disposition", demo.title),
                job_id=job.id,
                feature_id=own_id(job.id, "A"),
                kind=kind,
                piece=piece,
                state="in_limits",
                reason=reason,
                reading_ids=ids,
                limits_id=limits.id if limits else None,
                by_id=self.people["bram"].id,
                at=at,
            )
        )

    def _add(self, row: Any) -> Any:
        self.session.add(row)
        self.session.flush()
        return row

    def _load_job(self, demo: DemoJob) -> None:
        started = self.now - timedelta(hours=demo.hours_ago)
        job = self._add(
            Job(
                id=demo_id("job", demo.title),
                title=demo.title,
                asked=demo.asked,
                unit=demo.unit,
                machine_id=self.machines[demo.machine].id,
                by_id=self.people[demo.by].id,
                at=started,
            )
        )
        joint = mated(self.session, job, demo.partner_kind)
        if demo.partner_callout:
            self._add(
                PartnerStatement(
                    job_id=job.id,
                    feature_id=own_id(job.id, "B"),
                    callout=demo.partner_callout,
                    by_id=job.by_id,
                    at=started,
                )
            )
        self._log(demo, job, "partner", demo.partner, started, None)
        limits = self._choose(demo, job, started + timedelta(minutes=20)) if demo.option else None
        self._log(demo, job, "made", demo.made, started + timedelta(minutes=40), limits)
        if demo.pieces > 1:
            self._add(
                ShopSetting(
                    id=demo_id("pieces", demo.title),
                    name="pieces",
                    value=str(demo.pieces),
                    job_id=job.id,
                    by_id=job.by_id,
                    at=started,
                )
            )
        self._decide(demo, job, limits, started + timedelta(minutes=55))
        if demo.assembly:
            self._assemble(demo, joint, demo.assembly, started + timedelta(minutes=70))
        if demo.handed_over:
            closed = JobEvent(
                job_id=job.id,
                kind="handed_over",
                note=demo.handed_over,
                by_id=self.people["bram"].id,
                at=started + timedelta(hours=2),
            )
            self.closed.append(closed)

    def _plan(self, demo: DemoPart, job: Job) -> None:
        """What was said of a job's plan, one after the other."""
        parts = [CHUCKED if topic == "first_start" else 1 for topic, _ in demo.planned]
        apart = min(timedelta(minutes=1), (self.now - job.at) / (sum(parts) + 1))  # nothing is of tomorrow
        for number, (topic, said) in enumerate(demo.planned):
            if isinstance(said, Intake) and demo.needed_in_days is not None:
                day = self.now.date() + timedelta(days=demo.needed_in_days)
                said = said.model_copy(update={"needed_by": f"{day.day} {day:%b %Y}"})
            row = PlanEntry(
                id=demo_id("plan", demo.title, str(number)),
                job_id=job.id,
                topic=topic,
                said=said.model_dump(mode="json"),
                by_id=job.by_id,
                at=job.at + apart * sum(parts[: number + 1]),
            )
            self._add(row)

    def _keep(self, demo: DemoPart, job: Job, feature: Feature, kept: KeptDemo) -> None:
        """A worksheet's answer, worked out as the shop would and kept with its feature."""
        answer = calculation_named(kept.calculation).run({**kept.asked, "unit": demo.unit})
        self._add(
            KeptAnswer(
                id=demo_id("kept", demo.title, kept.calculation),
                job_id=job.id,
                feature_id=feature.id,
                calculation=kept.calculation,
                unit=demo.unit,
                asked=kept.asked,
                answer=answer.model_dump(mode="json"),
                note=kept.note,
                by_id=job.by_id,
                at=job.at + timedelta(minutes=1),
            )
        )

    def _load_part(self, demo: DemoPart) -> None:
        started = self.now - timedelta(hours=demo.hours_ago)
        job = Job(
            id=demo_id("job", demo.title),
            title=demo.title,
            asked=demo.asked,
            unit=demo.unit,
            machine_id=self.machines[demo.machine].id,
            by_id=self.people[demo.by].id,
            at=started,
        )
        job = open_by_lines(self.session, job, Lines(demo.lines, demo.unit))
        if demo.pieces > 1:
            make_pieces(self.session, state_numbered(self.session, job.number), demo.pieces, by=self.people[demo.by])
        features = {row.letter: row for row in self.session.scalars(select(Feature).where(Feature.job_id == job.id))}
        log_by_letter(
            self.session, self.instruments, job, demo.title, demo.readings, at=started, apart=timedelta(minutes=2)
        )
        for index, (letter, outcome, place) in enumerate(demo.trials):
            feature = features[letter]
            limits = self.session.scalars(select(Limits).where(Limits.feature_id == feature.id)).one()
            self._add(
                Trial(
                    id=demo_id("trial", demo.title, str(index)),
                    job_id=job.id,
                    feature_id=feature.id,
                    limits_id=limits.id,
                    place=place,
                    tried_with=wanted_by_trial(limits.text).tried_with,
                    outcome=outcome,
                    by_id=job.by_id,
                    at=started + timedelta(hours=1),
                )
            )
        for kept in demo.kept:
            self._keep(demo, job, features[kept.letter], kept)
        self._plan(demo, job)
        letter, reason = demo.withdrawn
        if letter:
            self._add(
                FeatureEvent(
                    feature_id=features[letter].id, kind="withdrawn", reason=reason, by_id=job.by_id, at=started
                )
            )

    def _log(
        self, demo: DemoJob, job: Job, member: str, rows: tuple[Logged, ...], start: datetime, limits: Limits | None
    ) -> None:
        earlier: Reading | None = None
        for index, logged in enumerate(rows):
            size = parse_length(logged.size, demo.unit)
            earlier = self._add(
                Reading(
                    id=demo_id("reading", demo.title, member, str(index)),
                    job_id=job.id,
                    feature_id=_side(job, member),
                    place=logged.place,
                    size_mm=size.mm,
                    size_text=logged.size,
                    size_unit=size.unit,
                    reason=logged.corrects,
                    cut_number=logged.cut,
                    piece=logged.piece,
                    instrument_id=self.instruments[logged.instrument].id,
                    limits_id=limits.id if limits else None,
                    supersedes_id=earlier.id if logged.corrects and earlier else None,
                    withdrawn=False,
                    suspect_id=self._doubt(demo, job, member, logged, start + timedelta(minutes=4 * index - 1)),
                    by_id=self.people[demo.by].id,
                    at=start + timedelta(minutes=4 * index),
                )
            )

            if logged.dialled:
                self._add(self._cut(demo, earlier, logged, rows[index - 1], start + timedelta(minutes=4 * index)))

    def _cut(self, demo: DemoJob, reading: Reading, logged: Logged, before: Logged, at: datetime) -> Cut:
        dialled, size = parse_length(logged.dialled, demo.unit), parse_length(before.size, demo.unit)
        return Cut(
            id=demo_id("cut", str(reading.id)),
            job_id=reading.job_id,
            feature_id=reading.feature_id,
            piece=reading.piece,
            cut_number=reading.cut_number,
            set_up=1,
            machine_id=self.machines[demo.machine].id,
            approach="equal_cuts",
            dialled_mm=dialled.mm,
            dialled_text=str(dialled),
            before_mm=size.mm,
            by_id=reading.by_id,
            at=at,
        )

    def _assemble(self, demo: DemoJob, joint: Joint, assembly: Assembly, at: datetime) -> None:
        answer = calculation_named(assembly.tool).run(assembly.inputs)
        plan = self._add(
            AssemblyPlan(
                id=demo_id("plan", demo.title),
                job_id=joint.job_id,
                joint_id=joint.id,
                method=assembly.method,
                tool=assembly.tool,
                asked=assembly.asked,
                inputs=assembly_inputs(assembly.method, answer),
                answer=answer.model_dump(mode="json"),
                by_id=joint.by_id,
                at=at,
            )
        )
        for index, seen in enumerate(assembly.seen):
            self._add(self._seen(demo, joint, plan, answer, seen, index, at + timedelta(minutes=25)))

    def _seen(
        self, demo: DemoJob, joint: Joint, plan: AssemblyPlan, answer: Model, seen: Seen, index: int, at: datetime
    ) -> AssemblyResult:
        sizes = [parse_length(text, demo.unit) if text else None for text in (seen.before, seen.after)]
        factor = None
        if isinstance(answer, BushResult) and sizes[0] and sizes[1]:
            given = CloseInFoundInput(
                bore_before=sizes[0],
                bore_after=sizes[1],
                predicted_least=answer.close_in.least,
                predicted_greatest=answer.close_in.greatest,
            )
            factor = close_in_found(given).close_in_factor
        return AssemblyResult(
            id=demo_id("seen", demo.title, str(index)),
            job_id=joint.job_id,
            joint_id=joint.id,
            plan_id=plan.id,
            felt=seen.felt,
            force_text=seen.force,
            size_before_mm=sizes[0].mm if sizes[0] else None,
            size_before_text=seen.before,
            size_after_mm=sizes[1].mm if sizes[1] else None,
            size_after_text=seen.after,
            size_unit=demo.unit,
            instrument_id=self.instruments[seen.instrument].id if seen.instrument else None,
            close_in_factor=factor,
            note=seen.note,
            by_id=joint.by_id,
            at=at,
        )

    def _doubt(self, demo: DemoJob, job: Job, member: str, logged: Logged, at: datetime) -> UUID | None:
        """What was typed first and asked about, held against the reading that followed."""
        if not logged.asked:
            return None
        first, then = (parse_length(text, demo.unit) for text in (logged.asked, logged.size))
        found = misread(MisreadInput(kind="shaft", reading=first, instrument_unit=demo.unit, others=[then]))
        row = SuspectReading(
            id=demo_id("suspect", demo.title, logged.asked),
            job_id=job.id,
            feature_id=_side(job, member),
            place=logged.place,
            size_mm=first.mm,
            size_text=logged.asked,
            size_unit=first.unit,
            instrument_id=self.instruments[logged.instrument].id,
            sentence=found.sentence,
            by_id=self.people[demo.by].id,
            at=at,
        )
        return cast(UUID, self._add(row).id)

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
                job_id=job.id,
                feature_id=own_id(job.id, "A"),
                version=1,
                limits_from=option.fit_system,
                option_name=option.name,
                lower_mm=option.lower.mm,
                upper_mm=option.upper.mm,
                aim_mm=option.aim.mm,
                inputs=given.model_dump(mode="json"),
                option=option.model_dump(mode="json"),
                by_id=self.people[demo.by].id,
                at=at,
            )
        )
        return row


def _side(job: Job, member: str) -> UUID:
    """The feature of a mated job: what is made, or its partner."""
    return own_id(job.id, "A" if member == "made" else "B")
