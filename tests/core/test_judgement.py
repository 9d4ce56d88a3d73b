"""One judgement: the cases that the device runs through too (web/src/lib/run/rules.test.ts)."""

import json
from datetime import datetime
from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.errors import BadEntry
from mainspring.core.line import Line
from mainspring.core.method import given
from mainspring.core.procedure import (
    PROOFS,
    Clock,
    Evidence,
    Held,
    Rules,
    admit,
    by_step,
    judge,
    rules_of,
    sheet_status,
)
from mainspring.core.procedure.rules import NumberRule, RowRule, SchoolRule
from mainspring.core.procedure.step import Reading, School, Step, StepTable
from mainspring.core.sentence import say
from tests.conftest import ROOT

FILE = json.loads((ROOT / "tests/data/judgement_cases.json").read_text())


def rules(name: str, **more: Any) -> Rules:
    """Rules of the file as the server holds them."""
    data = {"step": "a.a", "title": name, **FILE["rules"][name], **more}
    data["numbers"] = tuple(NumberRule(**n) for n in data.get("numbers", ()))
    data["rows"] = tuple(RowRule(**r) for r in data.get("rows", ()))
    data["schools"] = {n: SchoolRule(**s) for n, s in data.get("schools", {}).items()}
    for name_of in ("choices", "after", "stops", "reopens"):
        data[name_of] = tuple(data.get(name_of, ()))
    return Rules(**data)


def evidence(case: dict[str, Any]) -> Evidence:
    """An entry of the file as it reaches the judge."""

    def moment(name: str) -> datetime | None:
        return datetime.fromisoformat(case[name]) if case.get(name) else None

    clock = moment("clock")
    return Evidence(
        case.get("step", "a.a"),
        case["kind"],
        case["data"],
        "Ana",
        moment("at") or datetime.fromisoformat("2026-03-02T09:00:00+00:00"),
        passed=case.get("passed", True),
        note=case.get("note", "").strip(),
        received=moment("received"),
        paper=case.get("paper", False),
        clock=None if clock is None else Clock(clock, device=case.get("device", ""), ran=case.get("ran", 0.0)),
        id=case.get("id", ""),
    )


def verdict(of: Rules, made: Evidence, earlier: list[Evidence]) -> tuple[str, Evidence]:
    try:
        kept = judge(of, made.data, made, earlier)
    except BadEntry:
        return "refused", made
    except Held:
        return "held", made
    return ("passed" if kept.passed else "failed"), kept


@pytest.mark.parametrize("case", FILE["cases"], ids=lambda c: c["name"])
def test_an_entry_is_judged_as_the_file_says(case: dict[str, Any]) -> None:
    earlier = [evidence({"data": {}, **e}) for e in case.get("earlier", [])]
    answer, kept = verdict(rules(case["rules"]), evidence(case), earlier)
    assert answer == case["expect"]
    if "out" in case:
        assert list(kept.out) == case["out"]


def step_of(of: dict[str, Any]) -> Step:
    """A step that has the rules of the file."""
    known = rules(of["rules"], step=of["step"])

    def reading(n: NumberRule) -> Reading:
        expected = None if n.expected is None else given(n.id, n.expected, n.dimension)
        bounds = {
            name: getattr(n, name)
            for name in ("low", "high", "tolerance", "least", "band", "gross", "optional", "twice")
        }
        return Reading(n.id, n.label, n.dimension, expected, **bounds)

    readings = tuple(reading(n) for n in known.numbers)
    table = None
    if known.rows:
        expected = tuple({c: given(c, v) for c, v in r.expected.items()} for r in known.rows)
        references = tuple(given("reference", r.reference) for r in known.rows)
        table = StepTable(references, readings, expected, all_rows=known.every_row)
    return Step(
        of["step"],
        known.title,
        say("Do it."),
        "why",
        known.proof,
        after=tuple(of.get("after", ())),
        readings=() if table else readings,
        choices=dict.fromkeys(known.choices, "") or None,
        right=known.right,
        items=known.items,
        units=known.units,
        schools={
            n: School(s.label, "", None if s.expected is None else given(n, s.expected), s.asks_why)
            for n, s in known.schools.items()
        },
        seconds=None if known.seconds is None else given("wait", known.seconds, "time"),
        table=table,
        held_by=tuple(of.get("stops", ())),
        safety=known.safety,
        skip="lost" if known.skippable else "",
    )


@pytest.mark.parametrize("case", FILE["sheets"], ids=lambda c: c["name"])
def test_a_sheet_stands_as_the_file_says(case: dict[str, Any]) -> None:
    steps = [step_of(s) for s in case["steps"]]
    kept: list[Evidence] = []
    for entry in case["entries"]:
        made = evidence(entry)
        status = next(s for s in sheet_status(steps, kept, Line()) if s.step.id == made.step)
        try:
            admit(status, made.kind, paper=made.paper)
            answer, made = verdict(rules_of(status.step), made, kept)
        except Held:
            answer = "held"
        assert answer == entry["answer"], entry
        if answer in ("passed", "failed"):
            kept.append(made)
    found = sheet_status(steps, kept, Line())
    assert [s.state.value for s in found] == case["states"]
    if "lacking" in case:
        assert [list(s.lacking) for s in found] == case["lacking"]


def test_the_file_has_every_kind_of_proof_at_every_answer() -> None:
    assert {r["proof"] for r in FILE["rules"].values()} == set(PROOFS)
    for proof in PROOFS.values():
        of = {c["expect"] for c in FILE["cases"] if FILE["rules"][c["rules"]]["proof"] == proof.id}
        assert {"passed", "refused"} <= of or proof.id == "countdown", proof.id


def test_the_rules_handed_out_are_those_of_the_step(records: dict[str, Any]) -> None:
    """What a device is given judges like the step itself: built from it, and rebuilt from its JSON."""
    from mainspring.service.views import RulesView
    from tests.conftest import line_of

    for record in records.values():
        for step in assess(line_of(record)).steps:
            served = json.loads(RulesView.model_validate(rules_of(step), from_attributes=True).model_dump_json())
            served["numbers"] = tuple(NumberRule(**n) for n in served["numbers"])
            served["rows"] = tuple(RowRule(**r) for r in served["rows"])
            served["schools"] = {n: SchoolRule(**s) for n, s in served["schools"].items()}
            for name in ("choices", "after", "stops", "reopens"):
                served[name] = tuple(served[name])
            assert Rules(**served) == rules_of(step)


def test_a_status_that_stays_the_same_stays_the_same_object() -> None:
    steps = [step_of(s) for s in FILE["sheets"][0]["steps"]]
    memory: dict[str, Any] = {}
    lock = evidence({"step": "isolate.lock_out", "kind": "tick", "data": {}})
    first = sheet_status(steps, by_step([lock]), Line(), memory)
    start = evidence({"step": "isolate.capacitors", "kind": "start", "data": {}, "passed": False})
    known = by_step([lock])
    again = sheet_status(steps, known, Line(), memory)
    more = sheet_status(steps, {**known, "isolate.capacitors": (start,)}, Line(), memory)
    assert [a == b for a, b in zip(first, again, strict=True)] == [True] * 4
    assert [a is b for a, b in zip(again, more, strict=True)] == [True, False, True, True]
