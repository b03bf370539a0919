"""A job's record as a Frictionless Data Package: a zip of CSV tables and datapackage.json, which says what every column
is.
"""

import csv
import io
import json
import zipfile
from collections.abc import Sequence
from typing import Any

from nomisma.core.model import Model
from nomisma.exchange.record import (
    JobRecord,
    RecordedAnswer,
    RecordedChoice,
    RecordedCut,
    RecordedDisposition,
    RecordedFeature,
    RecordedLimits,
    RecordedReading,
    RecordedRound,
    RecordedTrial,
    plain_cell,
)

_TYPES = {"size_mm": "number", "at": "datetime"}
_WHOLE = ("reading_count", "cut_number", "version", "limits_version", "set_up", "round")
_FLAGS = ("stands", "withdrawn", "calibration_failed", "tightened", "set_aside", "made_here")
FIELD_WORDS = {
    "size_mm": "believed size in mm: as read, less the zero error, at 20 °C",
    "entered": "as typed",
    "uncertainty_mm": "expanded uncertainty in mm, k = 2",
    "cut_number": "after how many cuts it was taken",
    "zero_error_mm": "zero error of the instrument in mm, taken off",
    "temperature_c": "the part's temperature in °C",
}


def _field(name: str) -> dict[str, str]:
    kind = "string"
    if name.endswith(("_mm", "_c")):
        kind = "number"
    elif name in _WHOLE:
        kind = "integer"
    elif name in _FLAGS:
        kind = "boolean"
    elif name in ("at", "set_at"):
        kind = "datetime"
    found = {"name": name, "type": kind}
    if kind == "datetime":
        found["format"] = "any"
    return {**found, **({"description": FIELD_WORDS[name]} if name in FIELD_WORDS else {})}


def _table(rows: Sequence[Model], columns: Sequence[str]) -> str:
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(columns)
    for row in rows:
        values = row.model_dump(mode="json")
        writer.writerow([_cell(values[column]) for column in columns])
    return out.getvalue()


def _cell(value: Any) -> Any:
    if isinstance(value, dict):
        return json.dumps(value, ensure_ascii=False)
    return str(value).lower() if isinstance(value, bool) else plain_cell(value)


def as_data_package(record: JobRecord) -> bytes:
    """The whole record as a zip. Source: Frictionless Data Package specification, version 1 (tabular)."""
    tables: dict[str, tuple[Sequence[Model], Sequence[str]]] = {
        "readings": (record.readings, tuple(RecordedReading.model_fields)),
        "features": (record.features, tuple(RecordedFeature.model_fields)),
        "limits": (record.limits, tuple(RecordedLimits.model_fields)),
        "truing_rounds": (
            [one for truing in record.truings for one in truing.rounds],
            tuple(RecordedRound.model_fields),
        ),
        "cuts": (record.cuts, tuple(RecordedCut.model_fields)),
        "trials": (record.trials, tuple(RecordedTrial.model_fields)),
        "dispositions": (record.dispositions, tuple(RecordedDisposition.model_fields)),
        "answers": (record.answers, tuple(RecordedAnswer.model_fields)),
        "choices": (record.choices, tuple(RecordedChoice.model_fields)),
    }
    package = {
        "profile": "tabular-data-package",
        "name": f"nomisma-job-{record.number}",
        "title": f"Job {record.number}, {record.title}",
        "created": record.started_at.isoformat(),
        "resources": [
            {
                "name": name,
                "path": f"{name}.csv",
                "profile": "tabular-data-resource",
                "format": "csv",
                "mediatype": "text/csv",
                "encoding": "utf-8",
                "schema": {"fields": [_field(column) for column in columns], "missingValues": [""]},
            }
            for name, (_, columns) in tables.items()
        ],
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as box:
        box.writestr("datapackage.json", json.dumps(package, indent=2, ensure_ascii=False))
        for name, (rows, columns) in tables.items():
            box.writestr(f"{name}.csv", _table(rows, columns))
    return out.getvalue()
