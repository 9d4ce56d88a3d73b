"""One judgement: the cases that the device runs through too (web/src/lib/run/rules.test.ts)."""

import json
from datetime import datetime
from typing import Any

import pytest
from pydantic import TypeAdapter

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
    kinds,
    rules_of,
    sheet_status,
)
from mainspring.core.procedure.proofs.kind import Proof, numbers
from mainspring.core.procedure.rules import Form, Text
from mainspring.core.procedure.step import Reading, School, Step, StepTable
from mainspring.core.sentence import say
from tests.conftest import ROOT

FILE = json.loads((ROOT / "tests/data/judgement_cases.json").read_text())
RULES = ROOT / "tests/data/judgement_rules.json"


def rules(name: str) -> Rules:
    """Rules of a step of the file, as the server makes them."""
    return rules_of(step_of({"rules": name, "step": "a.a"}))


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
    """A step of the file."""
    known = FILE["steps"][of["rules"]]

    def reading(n: dict[str, Any]) -> Reading:
        expected = None if n.get("expected") is None else given(n["id"], n["expected"], n["dimension"])
        return Reading(**{**n, "expected": expected})

    readings = tuple(reading(n) for n in known.get("numbers", ()))
    table = None
    if rows := known.get("rows"):
        expected = tuple({c: given(c, v) for c, v in r["expected"].items()} for r in rows)
        references = tuple(given("reference", float(r["reference"])) for r in rows)
        table = StepTable(
            references, readings, expected, all_rows=known.get("every_row", False), strict=known.get("strict", False)
        )
    ways = {n: School(expected=None, why="", **s) for n, s in known.get("schools", {}).items() if "expected" not in s}
    ways |= {
        n: School(s["label"], "", given(n, s["expected"]))
        for n, s in known.get("schools", {}).items()
        if "expected" in s
    }
    return Step(
        of["step"],
        of["rules"],
        say("Do it."),
        "why",
        known["proof"],
        after=tuple(of.get("after", ())),
        readings=() if table else readings,
        choices={n: n for n in known.get("choices", ())} or None,
        right=known.get("right", ""),
        items=known.get("items", {}),
        units=known.get("units", 0),
        schools=ways,
        seconds=None if "seconds" not in known else given("wait", known["seconds"], "time"),
        table=table,
        held_by=tuple(of.get("stops", ())),
        reopens=tuple(of.get("reopens", ())),
        safety=known.get("safety", True),
        skip="lost" if known.get("skippable") else "",
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
    assert {r["proof"] for r in FILE["steps"].values()} == set(PROOFS)
    for proof in PROOFS.values():
        of = {c["expect"] for c in FILE["cases"] if FILE["steps"][c["rules"]]["proof"] == proof.id}
        assert {"passed", "refused"} <= of or proof.id == "countdown", proof.id


def test_the_device_runs_the_cases_by_the_rules_as_the_server_hands_them_out() -> None:
    """Made anew by `python -m tests.core.test_judgement`."""
    assert json.loads(RULES.read_text()) == handed_out()


def test_the_rules_handed_out_are_those_of_the_step(records: dict[str, Any]) -> None:
    """What a device is given judges like the step itself: built from it, and rebuilt from its JSON."""
    from tests.conftest import line_of

    known = TypeAdapter(Rules)
    for record in records.values():
        for step in assess(line_of(record)).steps:
            assert known.validate_json(known.dump_json(rules_of(step))) == rules_of(step)


def test_a_kind_of_proof_from_outside_is_judged_counted_and_told(monkeypatch: pytest.MonkeyPatch) -> None:
    """A kind is its module here and its component in the web: this one asks a weight and who saw it."""

    class Weighed(Proof):
        id, words = "weighed", "what the scale shows"

        def forms(self, step: Step) -> dict[str, Form]:
            seen_by = Text("seen_by", "who saw it", least=1, most=20)
            return {"weight": Form((*numbers(step.readings), seen_by), explains=True)}

    monkeypatch.setitem(PROOFS, "weighed", Weighed())
    weight = Reading("weight", "Weight", "count", given("weight", 100.0, "count"), tolerance=0.05)
    step = Step("a.a", "Weigh it", say("On the scale."), "why", "weighed", readings=(weight,), skip="lost")
    assert "weight" in kinds()
    found = rules_of(step)
    for data, note, answer in (
        ({"weight": 101.0, "seen_by": "Bo"}, "", "passed"),
        ({"weight": 120.0, "seen_by": "Bo"}, "", "failed"),
        ({"weight": 120.0, "seen_by": "Bo"}, "wet", "passed"),
        ({"weight": 101.0}, "", "refused"),
        ({"seen_by": "Bo"}, "", "refused"),
    ):
        said, kept = verdict(found, evidence({"kind": "weight", "data": data, "note": note}), [])
        assert said == answer, data
    assert [s.state.value for s in sheet_status([step], [kept], Line())] == ["done"] or said == "refused"


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


def handed_out() -> dict[str, Any]:
    """The rules of every step of the file as JSON."""
    known = TypeAdapter(Rules)
    return {name: json.loads(known.dump_json(rules(name))) for name in FILE["steps"]}


if __name__ == "__main__":
    RULES.write_text(json.dumps(handed_out(), indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
