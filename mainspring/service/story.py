"""A line's history as a story: visits, and in each what was done, read and changed, by whom and when."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from peewee import MySQLDatabase
from pydantic import BaseModel

from mainspring.core.line import find_field
from mainspring.core.line.fields import Choice, Quantity
from mainspring.core.procedure import Evidence, Step
from mainspring.core.procedure.step import YES
from mainspring.core.progress import HANDED_OVER
from mainspring.core.sentence import in_sentence
from mainspring.core.settings import SETTINGS
from mainspring.service.lines import Opened
from mainspring.service.run import visit_view
from mainspring.service.views import FigureView, InstrumentView, Part, VisitView, instrument_view
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import KeptEvent


class StoryEntry(BaseModel):
    """One thing that happened."""

    at: datetime
    by: str
    title: str
    told: list[Part]
    state: str  # done, failed, explained, left_out, changed
    note: str = ""
    instrument: InstrumentView | None = None
    received: datetime | None = None


class Chapter(BaseModel):
    """A visit, or what was done before the first or between two."""

    visit: VisitView | None
    people: list[str]
    entries: list[StoryEntry]


class StoryView(BaseModel):
    """The latest chapter first, each told from its beginning."""

    chapters: list[Chapter]


def story_view(db: MySQLDatabase, opened: Opened) -> StoryView:
    """The story of a line from its evidence and its events."""
    events = transact(db, lambda: repository.events(opened.kept.id, 2000))
    steps = {s.id: s for s in opened.assessment.steps}
    entries = [_of_evidence(e, steps.get(e.step)) for e in opened.evidence]
    entries += [entry for event in events if (entry := _of_event(event)) is not None]
    entries.sort(key=lambda e: e.at)
    starts = [v.at for v in opened.visits]
    chapters = []
    for i, visit in enumerate([None, *opened.visits]):
        begins = None if visit is None else visit.at
        ends = starts[i] if i < len(starts) else None
        mine = [e for e in entries if (begins is None or e.at >= begins) and (ends is None or e.at < ends)]
        if mine or visit is not None:
            people = list(dict.fromkeys([*([visit.by] if visit else []), *(e.by for e in mine)]))
            chapters.append(Chapter(visit=None if visit is None else visit_view(visit), people=people, entries=mine))
    return StoryView(chapters=chapters[::-1])


def _number(value: float, dimension: str | None) -> Part:
    return Part(figure=FigureView(key="", value=float(value), dimension=dimension, assumed=False))


def _of_evidence(evidence: Evidence, step: Step | None) -> StoryEntry:
    title = "Handed over" if evidence.step == HANDED_OVER else step.title if step else evidence.step
    if evidence.kind == "override":
        state = "left_out"
    elif not evidence.passed and evidence.kind != "start":
        state = "failed"
    else:
        state = "explained" if evidence.out else "done"
    return StoryEntry(
        at=evidence.at,
        by=evidence.by,
        title=title,
        told=_told(evidence, step),
        state=state,
        note=evidence.note,
        instrument=None if evidence.instrument is None else instrument_view(evidence.instrument, evidence.at),
        received=evidence.received,
    )


_PLAIN = {"start": "clock started", "tick": "done", "note": "", "photo": "photo kept", "override": ""}


def _told(evidence: Evidence, step: Step | None) -> list[Part]:
    if evidence.kind in _PLAIN or step is None:
        plain = _PLAIN.get(evidence.kind, evidence.kind)
        return [Part(text=plain)] if plain else []
    told: list[Part] = []
    data = evidence.data
    columns = {r.id: (r.label, r.dimension) for r in (*step.readings, *(step.table.columns if step.table else ()))}
    if "reference" in data and step.table is not None:
        told += [Part(text="at "), _number(data["reference"], step.table.references[0].dimension), Part(text=": ")]
    if "unit" in data:
        told.append(Part(text=f"unit {data['unit']}{', ' + data['serial'] if data.get('serial') else ''}: "))
    for name, value in data.items():
        if name in columns and isinstance(value, (int, float)):
            label, dimension = columns[name]
            told += [Part(text=f"{in_sentence(label)} "), _number(value, dimension), Part(text=", ")]
        elif name in step.items and value == YES:
            told.append(Part(text=f"{in_sentence(step.items[name].split(':')[0])}, "))
    if "choice" in data:
        told.append(Part(text=in_sentence((step.choices or {}).get(data["choice"], str(data["choice"]))) + ", "))
    if data.get("school") in step.schools:
        told.append(Part(text=in_sentence(step.schools[data["school"]].label) + ", "))
    if told and told[-1].text:
        told[-1] = Part(text=told[-1].text.removesuffix(", "))
    return [p for p in told if p.figure is not None or p.text]


def _of_event(event: KeptEvent) -> StoryEntry | None:
    if event.what == "line created":
        return _changed(event, "Line created", [])
    if event.what == "record saved":
        told = _differences(event.before.get("record", {}), event.after.get("record", {}))
        return _changed(event, "Record changed", told) if told else None
    if event.what.startswith("setting as "):
        known = SETTINGS.get(event.subject)
        if known is None:
            return None
        told = [
            *_said(event.before, known.dimension, known.choices),
            Part(text=" → "),
            *_said(event.after, known.dimension, known.choices),
        ]
        return _changed(event, f"{known.label} {event.what.removeprefix('setting ')}", told)
    return None


def _changed(event: KeptEvent, title: str, told: list[Part]) -> StoryEntry:
    return StoryEntry(at=event.at, by=event.who, title=title, told=told, state="changed")


def _differences(before: Mapping[str, Any], after: Mapping[str, Any]) -> list[Part]:
    told: list[Part] = []
    for group in sorted({*before, *after}):
        old, new = before.get(group, {}), after.get(group, {})
        for name in sorted({*old, *new}):
            was, now = old.get(name, {}).get("value"), new.get(name, {}).get("value")
            if was == now:
                continue
            try:
                field = find_field(f"{group}.{name}")
            except LookupError:
                continue
            dimension = field.dimension if isinstance(field, Quantity) else None
            choices = field.choices if isinstance(field, Choice) else {}
            told.append(Part(text=f"{'; ' if told else ''}{field.spoken} "))
            told += [*_said(was, dimension, choices), Part(text=" → "), *_said(now, dimension, choices)]
    return told


def _said(value: Any, dimension: str | None, choices: Mapping[str, str]) -> list[Part]:
    if value is None:
        return [Part(text="–")]
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        return [_number(value, dimension)]
    if isinstance(value, str):
        return [Part(text=choices.get(value, value)[:200])]
    return [Part(text=f"{len(value)} rows" if isinstance(value, list) else str(value)[:200])]
