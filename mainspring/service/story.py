"""A line's history as a story: visits, and in each what was done, read and changed, by whom and when."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from pydantic import BaseModel

from mainspring.core.line import find_field
from mainspring.core.line.fields import Choice, Quantity
from mainspring.core.method import Figure
from mainspring.core.procedure import PROOFS, Evidence, Step
from mainspring.core.progress import HANDED_OVER, MEASURED
from mainspring.core.sentence import in_percent
from mainspring.core.settings.own import setting_of
from mainspring.service.opened import Opened, OpenLines
from mainspring.service.run import visit_view
from mainspring.service.views import FigureView, InstrumentView, Part, VisitView, instrument_view
from mainspring.store import repository
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
    paper: bool = False


class Chapter(BaseModel):
    """A visit, or what was done before the first or between two."""

    visit: VisitView | None
    people: list[str]
    entries: list[StoryEntry]


class StoryView(BaseModel):
    """The latest chapter first, each told from its beginning."""

    chapters: list[Chapter]


class Stories:
    """A line's history."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines

    def view(self, opened: Opened) -> StoryView:
        """The story of a line from its evidence and its events."""
        return story_view(opened, self.lines.look(lambda: repository.events(opened.kept.id, 2000)))


def story_view(opened: Opened, events: list[KeptEvent]) -> StoryView:
    """Evidence in the visit it was made in; what else happened in the visit of its time."""
    steps = opened.assessment.plan.every
    live = [v for v in opened.visits if not v.paper]
    chapters: dict[str | None, list[StoryEntry]] = {None: [], **{v.id: [] for v in opened.visits}}

    def at_the_time(moment: datetime) -> str | None:
        return next((v.id for v in reversed(live) if v.at <= moment), None)

    for e in opened.evidence:
        visit = e.visit if e.visit in chapters else at_the_time(e.at)
        chapters[visit].append(_of_evidence(e, steps.get(e.step)))
    for event in events:
        entry = _of_event(event)
        if entry is not None:
            chapters[at_the_time(entry.at)].append(entry)
    found = []
    for known in (None, *opened.visits):
        mine = sorted(chapters[None if known is None else known.id], key=lambda e: e.at)
        if mine or known is not None:
            people = list(dict.fromkeys([*([known.by] if known else []), *(e.by for e in mine)]))
            found.append(Chapter(visit=None if known is None else visit_view(known), people=people, entries=mine))
    return StoryView(chapters=found[::-1])


def _number(value: float, dimension: str | None) -> Part:
    return Part(figure=FigureView(key="", value=float(value), dimension=dimension, assumed=False))


_ALONE = {HANDED_OVER: "Handed over", MEASURED: "Measured saving claimed"}  # evidence that is of no step


def _of_evidence(evidence: Evidence, step: Step | None) -> StoryEntry:
    title = _ALONE.get(evidence.step) or (step.title if step else evidence.step)
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
        paper=evidence.paper,
    )


def _told(evidence: Evidence, step: Step | None) -> list[Part]:
    if evidence.kind in ("note", "override"):
        return []
    if evidence.step == MEASURED:
        saved, half = (_number(evidence.data[name], "energy") for name in ("saved", "half"))
        sure = f" a year, at {in_percent(evidence.data['confidence'])}"
        return [saved, Part(text=" ± "), half, Part(text=sure)]
    if step is None:
        return [Part(text="done" if evidence.kind == "tick" else evidence.kind)]
    proof = PROOFS["photo" if evidence.kind == "photo" else step.proof]
    told = [_part(piece) for piece in proof.told(evidence, step)]
    if told and told[-1].text:
        told[-1] = Part(text=told[-1].text.removesuffix(", "))
    return [p for p in told if p.figure is not None or p.text]


def _part(piece: str | Figure) -> Part:
    return _number(float(piece), piece.dimension) if isinstance(piece, Figure) else Part(text=piece)


def _of_event(event: KeptEvent) -> StoryEntry | None:
    if event.what == "line created":
        return _changed(event, "Line created", [])
    if event.what == "record saved":
        told = _differences(event.before.get("record", {}), event.after.get("record", {}))
        return _changed(event, "Record changed", told) if told else None
    if event.what == "site changed":
        told = _differences({"site": event.before["entries"]}, {"site": event.after["entries"]})
        return _changed(event, "Site changed", told) if told else None
    if event.what.startswith("access code "):
        return _changed(event, event.what.capitalize(), [Part(text=event.subject)] if event.subject else [])
    if event.what.startswith("log "):
        return _changed(event, event.what.capitalize(), [Part(text=event.subject)])
    if event.what == "setting as former":
        return None  # what was left in the drive that was replaced: the visit says so
    if event.what.startswith("setting as "):
        known = setting_of(event.subject)
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
    if isinstance(value, dict) and "why" in value:
        return [*_said(value.get("value"), dimension, choices), Part(text=f": “{str(value['why'])[:300]}”")]
    if value is None:
        return [Part(text="–")]
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        return [_number(value, dimension)]
    if isinstance(value, str):
        return [Part(text=choices.get(value, value)[:200])]
    return [Part(text=f"{len(value)} rows" if isinstance(value, list) else str(value)[:200])]
