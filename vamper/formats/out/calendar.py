"""A timetable as iCalendar (RFC 5545): an event for each step with a person at it, none for what only waits."""

from datetime import datetime, timedelta
from hashlib import sha256

from icalendar import Alarm, Calendar, Event

from vamper.core.finishing.timetable import Timetable


def write_calendar(found: Timetable, start: datetime, title: str, details: dict[tuple[int, int], str]) -> bytes:
    """The calendar; `details` are lines to a step, by batch and step from 0."""
    calendar = Calendar()
    calendar.add("prodid", "-//Vamper//timetable//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", title)
    for one in found.steps:
        batch = found.evening.batches[one.batch]
        step = batch.steps[one.step]
        if not step.hands_on:
            continue
        event = Event()
        begins = start + timedelta(minutes=one.start)
        event.add("summary", f"{batch.name}: {step.name}")
        event.add("dtstart", begins)
        event.add("dtend", start + timedelta(minutes=one.end))
        event.add("dtstamp", start)
        name = f"{title} {batch.name} {one.step} {begins.isoformat()}"
        event.add("uid", f"{sha256(name.encode()).hexdigest()[:32]}@vamper")
        if step.occupies:
            event.add("location", ", ".join(step.occupies))
        if text := details.get((one.batch, one.step)):
            event.add("description", text)
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", step.name)
        alarm.add("trigger", timedelta(0))
        event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())
