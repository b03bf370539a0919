"""The record of one job: one model for the page, the JSON and the CSV."""

import csv
import io
import re
from datetime import datetime
from decimal import Decimal
from typing import Any

from pydantic import Field

from nomisma.core.model import Model
from nomisma.exchange.recorded_plan import RecordedPlan


class RecordedFeature(Model):
    """A feature by its letter: what is required of it, what was measured of it, and its verdict; sizes exact in mm.

    `goes_with`: the letter of the feature on the other side of its joint. `duty`: what it is there for, in words;
    `along`: where it lies along the axis. `lower_mm`, `upper_mm`: empty where there is no such limit.
    """

    letter: str
    kind: str
    title: str
    part: str
    made_here: bool
    withdrawn: bool
    written: str
    lower_mm: Decimal | None
    upper_mm: Decimal | None
    smallest_mm: Decimal | None
    largest_mm: Decimal | None
    reading_count: int
    places: str
    verdict: str
    said: str
    goes_with: str
    duty: str = ""
    along: str = ""


class RecordedLimits(Model):
    """One version of a feature's limits, exact in mm; a limit that is not there is empty."""

    feature: str
    version: int
    limits_from: str
    name: str
    written: str = ""
    lower_mm: Decimal | None
    upper_mm: Decimal | None
    aim_mm: Decimal | None
    set_by: str
    set_at: datetime
    reason: str = ""


class RecordedChoice(Model):
    """How it is measured and accepted, as somebody chose it for this job; `reason` where a piece was out already."""

    name: str
    value: str
    reason: str
    by: str
    at: datetime


class RecordedReading(Model):
    """One reading as typed and in mm, with its verdicts: at the time, and against the limits in force now.

    `asked_first`: the size typed before it that was asked about, and why.
    """

    id: str
    feature: str
    member: str
    place: str
    entered: str
    entered_unit: str
    size_mm: Decimal
    cut_number: int
    piece: str
    instrument: str
    transfer: str
    uncertainty_mm: Decimal
    zero_error_mm: Decimal
    temperature_c: Decimal | None
    material: str
    conditions: str
    calibration_failed: bool
    limits_version: int | None
    verdict_then: str
    verdict_now: str
    stands: bool
    supersedes: str
    reason: str
    withdrawn: bool
    asked_first: str
    by: str
    at: datetime


class RecordedDisposition(Model):
    """What was decided about a piece, by whom, why, and on which readings (their ids)."""

    feature: str
    kind: str
    piece: str
    state: str
    reason: str
    readings: str
    by: str
    at: datetime


class RecordedEvent(Model):
    """Handed over or taken up again."""

    kind: str
    note: str
    by: str
    at: datetime


class RecordedAssembly(Model):
    """What was seen when it was put together; sizes as typed and in mm."""

    joint: str
    method: str
    felt: str
    force: str
    size_before: str
    size_before_mm: Decimal | None
    size_after: str
    size_after_mm: Decimal | None
    unit: str
    close_in_factor: Decimal | None
    note: str
    by: str
    at: datetime


class RecordedRound(Model):
    """One pass round with an indicator: what it said from jaw 1 on, as typed, and what that came to."""

    set_up: int
    round: int
    circle: str
    tightened: bool
    readings: str
    unit: str
    total_indicator_reading_mm: Decimal | None
    offset_mm: Decimal | None
    towards: str
    said: str
    set_aside: bool
    by: str
    at: datetime


class RecordedTrial(Model):
    """One trial by hand or eye: how it went, with what, where, and how that stands now; of each place the newest
    counts.
    """

    feature: str
    piece: str
    place: str
    outcome: str
    tried_with: str
    orientation: str
    note: str
    counts: bool
    verdict_now: str
    by: str
    at: datetime


class RecordedAnswer(Model):
    """A worksheet's answer kept with a feature: what was asked as typed, the unit in force, and the whole answer with
    its working.
    """

    feature: str
    calculation: str
    title: str
    asked: dict[str, str]
    unit: str
    answer: dict[str, Any]
    note: str
    by: str
    at: datetime


class RecordedCut(Model):
    """One cut: what was dialled on diameter, as typed and in mm, the size before and after, and what was expected (90 %
    interval).
    """

    feature: str
    piece: str
    cut_number: int
    set_up: int
    dialled: str
    dialled_mm: Decimal
    last_pass_mm: Decimal | None = None
    means: str = "tool"
    before_mm: Decimal
    after_mm: Decimal | None
    expected_mm: Decimal | None
    expected_low_mm: Decimal | None
    expected_high_mm: Decimal | None
    by: str
    at: datetime


class RecordedTruing(Model):
    """One set-up in a four-jaw, of a batch for one piece, its rounds, and when it was ready to cut."""

    set_up: int
    piece: str = ""
    feature: str = ""
    surface: str
    grip: str = "outside"
    chuck: str
    target_mm: Decimal
    rounds: list[RecordedRound]
    moves: int
    took_seconds: int | None
    ready_by: str
    ready_at: datetime | None
    by: str
    at: datetime


class JobRecord(Model):
    """Everything recorded of a job. Lengths in mm, exact; times in UTC.

    `verdict` is the worst of its features'; `partner_kind`, `made_kind` and `partner_callout` are empty where nothing
    is mated.
    """

    format: str = "nomisma-job-record/2"
    number: int
    title: str
    asked: str
    unit: str
    partner_kind: str
    made_kind: str
    partner_callout: str
    machine: str
    started_by: str
    started_at: datetime
    verdict: str
    features: list[RecordedFeature]
    limits: list[RecordedLimits]
    choices: list[RecordedChoice]
    plan: RecordedPlan | None = None
    truings: list[RecordedTruing]
    cuts: list[RecordedCut]
    readings: list[RecordedReading]
    trials: list[RecordedTrial] = Field(default_factory=list)
    dispositions: list[RecordedDisposition]
    answers: list[RecordedAnswer] = Field(default_factory=list)
    assemblies: list[RecordedAssembly]
    events: list[RecordedEvent]


def as_json(record: JobRecord) -> str:
    """The whole record, indented; decimals as text, so that nothing is rounded on the way."""
    return record.model_dump_json(indent=2)


COLUMNS = (
    "feature", "member", "place", "entered", "entered_unit", "size_mm", "cut_number", "piece", "instrument", "transfer",
    "uncertainty_mm", "zero_error_mm", "temperature_c", "material", "conditions", "calibration_failed",
    "limits_version",
    "verdict_then", "verdict_now", "stands", "id", "supersedes", "reason", "withdrawn", "asked_first", "by", "at",
)  # fmt: skip


def as_csv(record: JobRecord) -> str:
    """The readings, one a line, oldest first; the job's number and title lead each line."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(["job", "title", *COLUMNS])
    for reading in record.readings:
        values = reading.model_dump(mode="json")
        writer.writerow([record.number, plain_cell(record.title), *(plain_cell(values[column]) for column in COLUMNS)])
    return out.getvalue()


def plain_cell(value: object) -> object:
    """A cell that a spreadsheet will not take for a formula; numbers below zero stay what they are.

    >>> plain_cell("=1+1"), plain_cell("-0.002"), plain_cell(None)
    ("'=1+1", '-0.002', '')
    """
    if isinstance(value, str) and value[:1] in ("=", "+", "-", "@", "\t", "\r") and not _A_NUMBER.fullmatch(value):
        return f"'{value}"
    return "" if value is None else value


_A_NUMBER = re.compile(r"-[0-9]+(?:\.[0-9]+)?(?: -?[0-9]+(?:\.[0-9]+)?)*")
