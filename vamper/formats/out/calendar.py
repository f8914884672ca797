"""A timetable as iCalendar (RFC 5545): an event for each step with a person at it, none for what only waits.

An event keeps its identity while the plan moves: a calendar that takes the file in again moves the events it has.
"""

from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from hashlib import sha256

from icalendar import Alarm, Calendar, Event

from vamper.core.finishing.timetable import Timetable


def write_calendar(
    found: Timetable,
    start: datetime,
    title: str,
    details: Mapping[tuple[int, int], str],
    identity: str,
    written_at: datetime,
) -> bytes:
    """The calendar; `details` are lines to a step, by batch and step from 0. `identity` tells this plan from others,
    however its times move; `written_at` is now, with its offset.
    """
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
        event.add("summary", f"{batch.name}: {step.name}")
        event.add("dtstart", _at(start, one.start))
        event.add("dtend", _at(start, one.end))
        event.add("dtstamp", written_at.astimezone(UTC))
        name = f"{identity} {batch.name} {one.step}"
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


def _at(start: datetime, minutes: int) -> datetime:
    """A moment of the plan; in world time where it has an offset, so that no zone has to be described."""
    time = start + timedelta(minutes=minutes)
    return time if time.tzinfo is None else time.astimezone(UTC)
