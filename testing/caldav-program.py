"""Uses a CalDAV server as any program would, by Debian's python3-caldav: makes, finds, changes and takes away what is in a
calendar and on a list. Prints what it saw as JSON.

Arguments: address, user, password, name of a calendar, name of a list.
"""

import json
import sys
from datetime import datetime, timezone

import caldav

address, user, password, calendar_name, list_name = sys.argv[1:]
EVENT = """BEGIN:VCALENDAR
VERSION:2.0
PRODID:-//x//y//EN
BEGIN:VEVENT
UID:python-1
DTSTAMP:20260801T000000Z
DTSTART;TZID=Europe/Vienna:20260804T090000
DTEND;TZID=Europe/Vienna:20260804T093000
RRULE:FREQ=WEEKLY;COUNT=3
SUMMARY:Read the gauges
X-GAUGE;X-BANK=north:14
CATEGORIES:Fen,North bank
ATTACH;FMTTYPE=application/pdf:https://files.aalto-timber.example/plan.pdf
BEGIN:VALARM
UID:bell
ACTION:DISPLAY
TRIGGER:-PT10M
DESCRIPTION:Boots
END:VALARM
END:VEVENT
END:VCALENDAR
"""
TODO = """BEGIN:VCALENDAR
VERSION:2.0
PRODID:-//x//y//EN
BEGIN:VTODO
UID:python-2
DTSTAMP:20260801T000000Z
SUMMARY:Oil the gate
DUE;VALUE=DATE:20260810
PRIORITY:3
PERCENT-COMPLETE:40
X-GAUGE:14
END:VTODO
END:VCALENDAR
"""


def august(day):
    return datetime(2026, 8, day, tzinfo=timezone.utc)


seen = {}
with caldav.DAVClient(url=address, username=user, password=password) as client:
    calendars = {one.name: one for one in client.principal().calendars()}
    seen["calendars"] = sorted(calendars)
    fen, gauges = calendars[calendar_name], calendars[list_name]
    event = fen.save_event(EVENT)
    found = fen.search(start=august(1), end=august(31), event=True, expand=True)
    seen["dates"] = sorted(str(one.icalendar_component["dtstart"].dt.astimezone(timezone.utc)) for one in found)
    again = fen.event_by_uid("python-1")
    again.icalendar_component["summary"] = "Read both gauges"
    again.save()
    seen["event"] = fen.event_by_uid("python-1").data
    token = fen.objects_by_sync_token().sync_token
    task = gauges.save_todo(TODO)
    seen["open"] = [str(one.icalendar_component["summary"]) for one in gauges.todos()]
    seen["todo"] = gauges.todo_by_uid("python-2").data
    gauges.todo_by_uid("python-2").complete()
    seen["left"] = [str(one.icalendar_component["summary"]) for one in gauges.todos()]
    seen["done"] = gauges.todo_by_uid("python-2").data
    event.load()
    event.delete()
    seen["after"] = len(fen.events())
    seen["changes"] = [one.url.path for one in fen.objects_by_sync_token(token)]
print(json.dumps(seen))
