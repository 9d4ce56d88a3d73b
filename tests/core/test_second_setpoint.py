"""A second setpoint is judged wherever the first one is: survey, sheet, bench."""

from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Severity
from mainspring.core.derived import Derived
from mainspring.core.line import Line, OnSite, Told, in_force
from mainspring.core.settings import plan_settings
from mainspring.core.settings.conflicts import conflicts_of, in_force_values
from mainspring.core.simulation.judge import judge
from mainspring.core.simulation.plants import Happens
from mainspring.core.simulation.trial import try_line
from tests.conftest import line_of
from tests.core.test_thresholds import varied

FIELD = {"pressure": "setpoint_2", "differential": "setpoint_2", "duct": "air_setpoint_2", "level": "level_setpoint_2",
         "temperature": "temperature_setpoint_2", "flow": "flow_setpoint_2"}  # fmt: skip
NAMES = ("booster", "borehole", "circulator", "supply_fan", "fan_wall", "wet_well", "tower", "exhaust")


def with_second(record: dict[str, Any], second: float) -> Line:
    held = line_of(record).held
    assert held is not None
    return line_of(varied(record, control={"setpoints": "two", FIELD[held.id]: second}))


def first_of(record: dict[str, Any]) -> float:
    line = line_of(record)
    assert line.held is not None
    return float(line.value(line.held.setpoint))


@pytest.mark.parametrize("name", NAMES)
def test_every_kind_of_line_with_two_setpoints_has_the_second_one_judged(name: str, records: dict[str, Any]) -> None:
    line = with_second(records[name], first_of(records[name]))
    mine = [f for f in assess(line).findings if f.id == "second_setpoint_works"]
    assert [f.severity for f in mine] == [Severity.CLEAR]


@pytest.mark.parametrize("name", NAMES)
def test_a_second_setpoint_that_the_first_could_not_be_is_said(name: str, records: dict[str, Any]) -> None:
    """What the checks say of a first setpoint that cannot be held they say of a second one too."""
    line = line_of(records[name])
    assert line.held is not None
    top = float(line.value(line.held.range_high))
    beyond = top + 0.2 * abs(top) + (1.0 if line.held.id in ("level", "temperature") else 0.0)
    found = assess(with_second(records[name], beyond))
    mine = next(f for f in found.findings if f.id == "second_setpoint_works")
    assert mine.severity is Severity.STOP
    assert mine.title.startswith("Second setpoint: ")
    assert any(mine.title in s.held_by for s in found.steps)


def titles(line: Line) -> set[str]:
    return {f.title for f in assess(line).findings if f.severity <= Severity.CAUTION}


def test_rest_is_judged_at_both_setpoints(records: dict[str, Any]) -> None:
    assert "It does not sleep at the second setpoint" in titles(with_second(records["booster"], 4.6e5))
    assert "It creeps far above the second setpoint" in titles(with_second(records["booster"], 2.4e5))
    assert titles(with_second(records["booster"], 4e5)) == titles(line_of(records["booster"]))


def conflicts(line: Line) -> set[str]:
    derived = Derived(line)
    planned = {r.setting.id: r.planned.value for r in plan_settings(line, derived) if r.planned is not None}
    return {c.id for c in conflicts_of(line, derived, in_force_values(line, planned))}


def test_the_sheet_holds_the_second_setpoint_against_alarm_range_and_wake(records: dict[str, Any]) -> None:
    assert conflicts(with_second(records["booster"], 3.9e5)) == set()
    line = with_second(records["booster"], 3.9e5)
    alarm = in_force(line, OnSite({"protection.high_pressure": Told(3.95e5, "left", "Ann")}))
    assert {"alarm_setpoint"} == conflicts(alarm)
    lower = in_force(line, OnSite({"protection.high_pressure": Told(3.8e5, "left", "Ann")}))
    assert {"alarm_setpoint", "alarm_second_setpoint"} == conflicts(lower)
    assert "second_setpoint_range" in conflicts(with_second(records["booster"], 1.7e6))
    assert "wake_second" in conflicts(with_second(records["booster"], 2.0e5))


def test_the_bench_judges_by_the_setpoint_that_is_held_just_then(records: dict[str, Any]) -> None:
    line = line_of(records["booster"])
    ran = try_line(line, own=[(0, 0.6)], duration=400.0, happens=Happens(second_from=200.0, second=3.4e5))
    said = {m.verdict.title: m.verdict.because.text() for m in judge(line, Derived(line), ran)}
    assert "It holds" in said, said
    out_of_reach = try_line(line, own=[(0, 0.6)], duration=500.0, happens=Happens(second_from=200.0, second=5.3e5))
    said = {m.verdict.title: m.verdict.because.text() for m in judge(line, Derived(line), out_of_reach)}
    assert "short of 5.3 bar" in said["It cannot reach the setpoint"].replace("\u202f", " ")
