"""A stop holds something: every check that may stop says what, and no worse case frees what a milder one holds."""

import ast
import inspect
import sys
from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Severity, finding, run_checks
from mainspring.core.checks.finding import CHECKS, HOLDS, Check
from mainspring.core.derived import Derived
from mainspring.core.line import Line, OnSite, Quantity, Told, find_field, in_force, parse_line
from mainspring.core.sentence import say
from tests.conftest import line_of
from tests.core.test_thresholds import RECORDS, varied
from tests.second_eye.lines import right_lines, slips_by_hand, with_slip

LINES = right_lines()


def may_stop(check: Check) -> bool:
    """Whether its function, or one of its module that it calls, says stop."""
    module = ast.parse(inspect.getsource(sys.modules[check.function.__module__]))
    functions = {f.name: f for f in module.body if isinstance(f, ast.FunctionDef)}
    seen: set[str] = set()

    def says(function: ast.FunctionDef) -> bool:
        names = {n.id for n in ast.walk(function) if isinstance(n, ast.Name)}
        new = {n for n in names & functions.keys() if n not in seen}
        seen.update(new)
        made = {n.func.id for n in ast.walk(function) if isinstance(n, ast.Call) and isinstance(n.func, ast.Name)}
        return "stop" in names or "Verdict" in made or any(list(map(says, (functions[n] for n in new))))

    made = functions.get(check.id)
    return says(made) if made is not None else bool(check.holds)  # made in a loop over places, which say it themselves


def test_every_check_that_may_stop_says_what_it_holds() -> None:
    assert [c.id for c in CHECKS if may_stop(c) and not c.holds] == []
    assert [c.id for c in CHECKS if c.holds and not may_stop(c)] == []
    assert {c.holds for c in CHECKS if c.holds} == set(HOLDS)
    assert sum(may_stop(c) for c in CHECKS) > 40


def assert_held(record: dict[str, Any]) -> int:
    line, refused = parse_line(record)
    if refused:
        return 0
    found = assess(line)
    stops = [f for f in found.findings if f.severity is Severity.STOP]
    held = [title for step in found.steps for title in step.held_by]
    assert [f.title for f in stops if f.title not in held] == []
    return len(stops)


def test_a_stop_of_any_slip_holds_a_step_of_its_sheet() -> None:
    slips = slips_by_hand()
    assert sum(assert_held(with_slip(LINES[s.line], s.field, s.typed)) for s in slips) > 100


@pytest.mark.parametrize("name", LINES)
def test_nothing_holds_a_right_line(name: str) -> None:
    found = assess(line_of(LINES[name]))
    assert [(s.id, s.held_by) for s in found.steps if s.held_by] == []


@pytest.mark.parametrize("place", ["freezing", "salt", "condensation"])
def test_a_place_that_stops_keeps_the_power_off(place: str, records: dict[str, Any]) -> None:
    bad = varied(records["booster"], drive={"place": [place]})
    steps = {s.id: s for s in assess(line_of(bad)).steps}
    assert len(steps["power.energise"].held_by) == 1


@pytest.mark.parametrize("air", [52.5, 60.0, 97.5, 150.0])
def test_the_hotter_the_air_the_less_it_is_powered(air: float, records: dict[str, Any]) -> None:
    hot = varied(records["booster"], drive={"ambient": air})
    line, problems = parse_line(hot)
    if problems:
        return  # refused as an entry: there is no such air
    assert {s.id: s for s in assess(line).steps}["power.energise"].held_by


def held_of(record: dict[str, Any], path: str, value: float) -> dict[str, bool] | None:
    """By check, whether it holds something with this value; None where it cannot be entered."""
    group, _, name = path.partition(".")
    line, problems = parse_line(varied(record, **{group: {name: value}}))
    if problems:
        return None
    return {f.id: bool(f.holds) for f in run_checks(line, Derived(line))}


def numbers_of(record: dict[str, Any]) -> list[str]:
    line = line_of(record)
    paths = [f"{g}.{n}" for g, fields in record.items() for n in fields]
    return [p for p in paths if isinstance(find_field(p), Quantity) and isinstance(line.value(p), float)]


@pytest.mark.parametrize("name", RECORDS)
def test_a_worse_value_never_frees_what_a_milder_one_holds(name: str) -> None:
    """Each number of a right record moved outwards: a check that held and then cannot judge goes on holding."""
    record = RECORDS[name]
    line = line_of(record)
    looked = 0
    for path in numbers_of(record):
        start = float(line.value(path))
        for factors in ((1.1, 1.3, 1.6, 2, 3, 5, 10, 30, 100), (0.9, 0.75, 0.6, 0.4, 0.2, 0.1, 0.03, 0.01)):
            held: set[str] = set()
            for factor in factors:
                now = held_of(record, path, start * factor)
                if now is None:
                    break
                freed = {c for c in held if c in now and not now[c]} & unjudged(record, path, start * factor)
                assert not freed, f"{path} = {start * factor:g} frees {freed}"
                held |= {c for c, holds in now.items() if holds}
                looked += len(held)
    assert looked > 20


def unjudged(record: dict[str, Any], path: str, value: float) -> set[str]:
    group, _, name = path.partition(".")
    line = line_of(varied(record, **{group: {name: value}}))
    return {f.id for f in run_checks(line, Derived(line)) if f.title.startswith("Cannot be judged")}


def test_a_check_that_stops_without_saying_what_it_holds_is_a_slip_of_ours(booster: Line) -> None:
    said = finding.stop("…", say("…"), say("…"))
    silent = Check(
        "silent", "drive", "…", (), CHECKS[0].source, lambda *_: said, (), (), "", "", False, ("drive.duty",), ""
    )
    with pytest.raises(TypeError, match="does not say what it holds"):
        finding.run_check(silent, booster, Derived(booster))


@pytest.mark.parametrize(("why", "held"), [("", True), ("the owner wants it so", False)])
def test_what_was_decided_with_a_reason_is_in_sight_and_holds_nothing(
    why: str, held: bool, records: dict[str, Any]
) -> None:
    told = Told(40.0, "left" if not why else "decided", "Ann", why=why)
    line = in_force(line_of(records["booster"]), OnSite({"limits.current": told}))
    found = assess(line)
    mine = [f for f in found.findings if f.id == "setting_limits_current"]
    assert [f.severity for f in mine] == [Severity.STOP]
    assert any(mine[0].title in s.held_by for s in found.steps) == held
    # never the step at which it is read back, or nobody could put it right
    assert all(mine[0].title not in s.held_by for s in found.steps if s.id.startswith("data."))


@pytest.mark.parametrize("name", ["booster", "supply_fan"])
def test_a_machine_too_slow_for_the_mains_is_answered_by_its_highest_speed(name: str, records: dict[str, Any]) -> None:
    """The finding says to set the highest speed; set and read back, it closes and holds nothing."""
    slow = varied(records[name], machine={"highest_speed": 1400.0})
    found = assess(line_of(slow))
    mine = next(f for f in found.findings if f.id == "speed_within_machine")
    assert (mine.severity, mine.holds) == (Severity.STOP, "turn")
    assert ("pulleys" in str(mine.do)) == bool(found.line.has("machine.pulley_ratio"))
    cap = float(mine.do.figures["cap"]) if mine.do is not None else 0.0
    capped = in_force(line_of(slow), OnSite({"limits.maximum_speed": Told(round(cap, 1), "left", "Ann")}))
    after = next(f for f in assess(capped).findings if f.id == "speed_within_machine")
    assert after.severity is Severity.CLEAR
