"""Put the demo into an empty store, through the same judgement that real evidence meets."""

import uuid
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from peewee import MySQLDatabase

from mainspring.core.assess import Assessment, assess
from mainspring.core.families.family import NEUTRAL, Family
from mainspring.core.line import in_force, parse_line
from mainspring.core.method import Figure
from mainspring.core.procedure import Evidence, Visit, judge_evidence
from mainspring.core.procedure.stay import ROWS
from mainspring.core.procedure.telling import told_on_site
from mainspring.core.settings.kept import KeptSetting
from mainspring.demo import fans, pumps
from mainspring.demo.evidence import GAUGE, METER, answers
from mainspring.demo.logs import demo_logs
from mainspring.demo.sites import MARROW, ORRENDALE, demo_id
from mainspring.service.families import shipped_families
from mainspring.service.lines import make_line
from mainspring.service.opened import read_line, with_site
from mainspring.service.summary import summary_of
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import Change

WHO = "R. Tally"


def load_demo(db: MySQLDatabase) -> None:
    """Both sites; harmless when they are there already."""
    transact(db, lambda: _load(repository.now()))


def reset_demo(db: MySQLDatabase) -> None:
    """Empty the store and put the demo back, in one transaction."""

    def write() -> None:
        repository.remove_everything()
        _load(repository.now())

    transact(db, write)


def _load(now: datetime) -> None:
    orrendale, marrow = demo_id("orrendale"), demo_id("marrow creek")
    for key, site in ((orrendale, ORRENDALE), (marrow, MARROW)):
        repository.create_site(key, str(site["name"]), str(site["units"]), site["entries"], WHO)
    _line(orrendale, "CW-BST-1", "cold-water booster, pool hall", pumps.PLANTED)
    _line(
        orrendale,
        "CW-BST-2",
        "cold-water booster, gym wing",
        pumps.BOOSTER,
        now - timedelta(hours=3),
        settings=1.0,
        upto="turn.rotation",
        rows=4,
    )
    _line(
        orrendale,
        "PF-1",
        "pool filter circulation, was throttled",
        pumps.FILTER,
        now - timedelta(days=36),
        settings=1.0,
        upto="",
    )
    _line(
        marrow,
        "IRR-P1",
        "irrigation, was throttled",
        pumps.IRRIGATION,
        now - timedelta(days=1),
        settings=0.6,
        upto="power.energise",
    )

    _line(orrendale, "AHU-1/SF", "supply fan, pool and library", fans.SUPPLY_FAN, now - timedelta(days=2), 1.0, "")
    _line(orrendale, "PH-EF", "pool-hall exhaust fan", fans.POOL_EXHAUST)
    _line(orrendale, "LIB-FW", "fan wall of six, library air unit", fans.FAN_WALL)
    _line(
        orrendale,
        "GSB-1",
        "ground-source borehole pump with tank",
        pumps.BOREHOLE,
        now - timedelta(days=1, hours=2),
        settings=1.0,
        upto="data.limits",
    )
    _line(
        orrendale,
        "BW-1",
        "backwash pit pump",
        pumps.WET_WELL,
        now - timedelta(hours=5),
        settings=0.4,
        upto="isolate.absence",
    )
    _line(marrow, "BH-P2", "boiler-house circulator", pumps.CIRCULATOR)
    _line(marrow, "CT-1", "cooling-tower fan, packing house", fans.TOWER_FAN)
    _line(marrow, "WD-1", "wash-down pump, potting shed", pumps.WASH_DOWN)
    _afterwards(now)


def family_of(id: str) -> Family:
    """A family that ships, for the drives of the demo."""
    return shipped_families().get(id, NEUTRAL)


def _afterwards(now: datetime) -> None:
    """What came of the filter pump: its logs, and two visits on which it had drifted."""
    _logs("PF-1", now)
    _came_back("PF-1", now - timedelta(days=17), {"speed": 1.0, "current": 0.985, "power": 0.985, "pressure": 0.977})
    _came_back("PF-1", now - timedelta(days=2), {"speed": 1.001, "current": 0.95, "power": 0.94, "pressure": 0.935})


def _line(
    site: str,
    tag: str,
    title: str,
    record: dict[str, Any],
    began: datetime | None = None,
    settings: float = 0.0,
    upto: str | None = None,
    rows: int = 99,
) -> None:
    line, problems = parse_line(record)
    assert not problems, problems
    key = demo_id(tag)
    make_line(key, site, tag, title, line.to_data(), WHO, family_of)
    line, problems = parse_line(with_site(line.to_data(), repository.site(site)))
    assert not problems, problems
    assessment = assess(line)
    left = _settings_left(assessment, settings) if settings else ()
    if left:  # set before it was run
        assessment = assess(in_force(line, told_on_site(left, {})))
    visits: tuple[Visit, ...] = ()
    evidence: tuple[Evidence, ...] = ()
    if began is not None and upto is not None:
        kept = _evidence(assessment, began, upto, rows)
        ended = kept[-1].at + timedelta(minutes=10) if not upto else None
        tools = (METER, GAUGE) if "pump" in line.traits else (METER,)
        visits = (Visit(str(uuid.uuid5(uuid.UUID(key), "visit")), "start-up", WHO, began, tools, "", ended),)
        evidence = tuple(_kept(tag, i, e, visits[0].id) for i, e in enumerate(kept))
    change = Change(WHO, evidence=evidence, visits=visits, settings=left)
    before = read_line(key, None, family_of)
    if change and before.head.seq == 1:  # else it is there already
        repository.write(before.before(), change, summary_of(before.after(change)))


def _logs(tag: str, now: datetime) -> None:
    """The logs of a line, one command each, where they are not there already."""
    key = demo_id(tag)
    if repository.trends(key):
        return
    for kept, cut in demo_logs(now, key, WHO):
        before = read_line(key, None, family_of)
        change = Change(WHO, trend=kept, pieces=cut)
        repository.write(before.before(), change, summary_of(before.after(change)))


def _came_back(tag: str, at: datetime, drift: dict[str, float]) -> None:
    """A later visit that read the upper rows of the baseline again, and found them moved."""
    key = demo_id(tag)
    visit = str(uuid.uuid5(uuid.UUID(key), f"visit {drift}"))
    before = read_line(key, None, family_of)
    if any(v.id == visit for v in before.visits):
        return
    stay = Visit(visit, "re-check", WHO, at, (METER, GAUGE))
    change = Change(WHO, visits=(stay,))
    opened = before.after(change)
    repository.write(before.before(), change, summary_of(opened))
    status = opened.status(ROWS)
    assert status is not None
    assert status.step.table is not None
    table, kept = status.step.table, []
    for i, (reference, then) in enumerate(list(zip(table.references, table.expected, strict=True))[-4:]):
        read = {name: round(float(then[name]) * share, 4) for name, share in drift.items() if name in then}
        minute = at + timedelta(minutes=17 + i)
        data = {"reference": float(reference), **read}
        judged = judge_evidence(status.step, "row", data, WHO, minute, [], "The strainer is due.")
        kept.append(replace(judged, id=str(uuid.uuid5(uuid.UUID(visit), f"row {i}")), visit=visit, instrument=METER))
    opened = read_line(key, None, family_of)
    change = Change(WHO, evidence=tuple(kept), visits=(replace(stay, closed=at + timedelta(hours=1)),))
    repository.write(opened.before(), change, summary_of(opened.after(change)))


def _settings_left(assessment: Assessment, share: float) -> tuple[KeptSetting, ...]:
    family = family_of(assessment.line.value("drive.family") or "")
    here = [row for row in assessment.settings if not family.lacks(row.setting.id)]
    planned = [row for row in here if row.planned is not None]
    found = []
    for row in planned[: round(share * len(planned))]:
        assert row.planned is not None
        value = row.planned.value
        left = round(float(value), 4) if isinstance(value, Figure) else value
        found.append(KeptSetting(row.setting.id, "left", left, WHO, repository.now()))
    return tuple(found)


def _evidence(assessment: Assessment, began: datetime, upto: str, rows: int) -> list[Evidence]:
    """Steps done one after the other up to and with `upto` (all when empty), then some rows of the step-up."""
    kept: list[Evidence] = []
    moment = began
    for step in assessment.steps:
        moment += timedelta(minutes=2)
        if step.proof == "photo":  # no pictures in the demo: somebody left it out
            kept.append(judge_evidence(step, "override", {}, WHO, moment, kept, "Camera forgotten in the van."))
            continue
        for kind, data, wait in answers(step, rows):
            moment += timedelta(seconds=wait)
            kept.append(judge_evidence(step, kind, data, WHO, moment, kept))
        if step.id == upto and rows >= 99:
            break
        if step.id == "turn.step_up" and rows < 99:
            break
    return kept


def _kept(tag: str, index: int, evidence: Evidence, visit: str) -> Evidence:
    key = str(uuid.uuid5(uuid.UUID(demo_id(tag)), str(index)))
    return replace(evidence, id=key, visit=visit, instrument=METER if evidence.kind == "readings" else None)
