"""When instruments are due, as iCalendar, for whatever calendar the shop keeps."""

from collections.abc import Iterable
from datetime import UTC, date, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from nomisma.core.model import Model


class Due(Model):
    """One instrument and the day it is due."""

    id: str
    name: str
    due_on: date
    standard: str = ""


def as_icalendar(rows: Iterable[Due], *, made_at: datetime) -> str:
    """One all-day event an instrument, with a reminder a week before. Source: RFC 5545."""
    calendar = Calendar()
    calendar.add("prodid", "-//Nomisma//Instruments due//EN")
    calendar.add("version", "2.0")
    for row in rows:
        event = Event()
        event.add("uid", f"{row.id}-{row.due_on:%Y%m%d}@nomisma")
        event.add("dtstamp", made_at.astimezone(UTC))
        event.add("dtstart", row.due_on)
        event.add("dtend", row.due_on + timedelta(days=1))
        event.add("summary", f"Due for calibration: {row.name}")
        if row.standard:
            event.add("description", f"Checked on: {row.standard}")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", f"{row.name} is due in a week")
        alarm.add("trigger", timedelta(days=-7))
        event.add_component(alarm)
        calendar.add_component(event)
    text: bytes = calendar.to_ical()
    return text.decode()
