"""What is said can be answered: advice followed closes its finding, and no line is told what it does not have."""

import copy
import re
from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Finding, Severity
from mainspring.core.derived import Derived
from mainspring.core.diagnosis import MOMENTS, Moment, rank_causes
from mainspring.core.diagnosis.trips import trips_of
from tests.conftest import line_of
from tests.second_eye.lines import as_entered, right_lines, with_slip

LINES = right_lines()
FANS = [name for name, record in LINES.items() if "fan" in line_of(record).traits]
PUMPS = [name for name in LINES if name not in FANS]
# what only a line with water has: its machine, its pipes, its protections
OF_PUMPS = re.compile(r"\b(pumps?|suction|strainer|foot valve|water|prime|impeller|well water|dry run|tank)\b", re.I)
ALSO_OF_FANS = ("hand pump", "water hammer", "water or condensation")


def given(record: dict[str, Any], **entries: str) -> dict[str, Any]:
    """A record with entries as they are typed, by path with two underscores."""
    made = copy.deepcopy(record)
    for name, typed in entries.items():
        group, _, field = name.partition("__")
        made.setdefault(group, {})[field] = as_entered(f"{group}.{field}", typed)
    return made


def troubles(record: dict[str, Any], check: str) -> list[Finding]:
    found = assess(line_of(record)).findings
    return [f for f in found if f.id == check and f.severity <= Severity.CAUTION]


# finding, what raises it on a right line, and what its advice says to do
FOLLOWED = [
    ("supply_is_balanced", {"supply__reading_23": "385 V"}, {"supply__reactor": "line3"}),
    ("harmonics_are_bearable", {"supply__reactor": "none"}, {"supply__reactor": "line3"}),
    ("fault_level_is_known", {"supply__fault_current": "20 kA"}, {"drive__short_circuit_rating": "65 kA"}),
    ("speed_within_machine", {"machine__highest_speed": "1650 r/min"}, {"machine__highest_speed": "3600 r/min"}),
    ("relief_is_there", {"system__relief": "no"}, {"system__relief": "yes"}),
    ("tank_is_large_enough", {"system__tank_volume": "4 L"}, {"system__tank_volume": "200 L"}),
    ("precharge_suits_setpoint", {"system__tank_precharge": "1 bar"}, {"system__tank_precharge": "4.3 bar"}),
    ("drive_carries_motor_amps", {"drive__rated_current": "8 A"}, {"drive__rated_current": "13 A"}),
    ("setpoint_within_range", {"control__setpoint": "11 bar"}, {"control__setpoint": "6 bar"}),
    ("range_covers_shutoff", {"sensor__range_high": "4 bar"}, {"sensor__range_high": "16 bar"}),
]  # fmt: skip


@pytest.mark.parametrize(("check", "raised", "done"), FOLLOWED)
def test_advice_followed_closes_its_finding(check: str, raised: dict[str, str], done: dict[str, str]) -> None:
    record = given(LINES["multistage_booster"], **raised)
    told = troubles(record, check)
    assert told, "it is raised"
    assert all(f.do is not None for f in told)
    assert troubles(given(record, **done), check) == []


def test_the_largest_reactor_is_not_advised_where_it_stands() -> None:
    weak = {"supply__demand_current": "12 A", "supply__fault_current": "1 kA"}
    (without,) = troubles(given(LINES["multistage_booster"], supply__reactor="none", **weak), "harmonics_are_bearable")
    (fitted,) = troubles(given(LINES["multistage_booster"], supply__reactor="line5", **weak), "harmonics_are_bearable")
    assert without.do is not None
    assert fitted.do is not None
    assert "line reactor" in without.do.text("si")
    assert "reactor" not in fitted.do.text("si").replace("reactors do", "")


@pytest.mark.parametrize("value", ["back_emf", "stator_resistance", "inductance_d", "inductance_q", "magnet_poles"])
def test_two_that_should_be_the_same_are_told_before_the_rest_is_typed(value: str) -> None:
    (name,) = [n for n, r in LINES.items() if "permanent_magnet" in line_of(r).traits][:1]
    record = copy.deepcopy(LINES[name])
    again = record["motor"][f"{value}_again"]["typed"]
    for other in ("back_emf", "stator_resistance", "inductance_d", "inductance_q", "magnet_poles"):
        if other != value:
            record["motor"].pop(f"{other}_again", None)
    number, _, unit = again.partition(" ")
    wrong = with_slip(record, f"motor.{value}_again", f"{float(number) + 1:g} {unit}".strip())
    (told,) = troubles(wrong, "exact_values_agree")
    assert told.severity is Severity.STOP
    assert troubles(record, "exact_values_agree") == []
    (waits,) = [f for f in assess(line_of(record)).findings if f.id == "exact_values_agree"]
    assert len(waits.needs) == 4


@pytest.mark.parametrize("name", FANS)
def test_a_fan_is_told_nothing_of_pumps(name: str) -> None:
    found = assess(line_of(LINES[name]))
    told = [(f.id, f"{f.title} {f.because.text('si')} {f.do.text('si') if f.do else ''}") for f in found.findings]
    told += [
        (s.id, f"{s.title} {s.what.text('si')} {s.why} {s.danger} {s.wrong} {s.skip} {s.choices} {s.items}")
        for s in found.steps
    ]
    told += [(r.setting.id, f"{r.setting.label} {r.setting.wrong}") for r in found.settings]
    told += [
        (cause.id, f"{cause.title} {cause.because.text('si')} {cause.measure}")
        for kind in trips_of(found.line)
        for when in MOMENTS
        for cause in rank_causes(kind, found.line, found.derived, Moment(when=when))
    ]
    for known in ALSO_OF_FANS:
        told = [(id, text.lower().replace(known, "")) for id, text in told]
    assert [(id, OF_PUMPS.findall(text)) for id, text in told if OF_PUMPS.search(text)] == []


@pytest.mark.parametrize("name", FANS)
def test_a_line_that_holds_nothing_asks_for_no_setpoint(name: str) -> None:
    line = line_of(LINES[name])
    if any(t.startswith("holds:") for t in line.traits):
        return
    asked = {path for f in assess(line).findings for path in f.needs}
    assert not [path for path in asked if "setpoint" in path]


@pytest.mark.parametrize(("kind", "when", "first"), [
    ("overvoltage", "ramping_down", {"ramp_down_too_short"}),
    ("undervoltage", "standing", {"switched_off"}),
    ("overcurrent", "ramping_up", {"ramp_up_too_short", "windmilling", "exact_values_wrong", "jam"}),
])  # fmt: skip
def test_the_moment_of_a_trip_says_what_comes_first(kind: str, when: str, first: set[str]) -> None:
    for name, record in LINES.items():
        line = line_of(record)
        assert rank_causes(kind, line, Derived(line), Moment(when=when))[0].id in first, name
