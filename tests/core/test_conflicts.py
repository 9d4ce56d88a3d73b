"""Settings that contradict one another: none on right lines, and each one found where it is made."""

from typing import Any

import pytest

from mainspring.core.derived import Derived
from mainspring.core.line import Line, OnSite, Told, in_force
from mainspring.core.settings import SETTINGS, plan_settings
from mainspring.core.settings.conflicts import Conflict, conflicts_of, in_force_values
from mainspring.core.settings.inputs import wanted_functions
from tests.conftest import line_of
from tests.second_eye.lines import right_lines

NAMES = ("booster", "set", "filter", "borehole", "wet_well", "supply_fan", "exhaust", "fan_wall", "irrigation",
         "circulator", "wash_down", "tower")  # fmt: skip


def found_on(line: Line) -> list[Conflict]:
    derived = Derived(line)
    planned = {r.setting.id: r.planned.value for r in plan_settings(line, derived) if r.planned is not None}
    return conflicts_of(line, derived, in_force_values(line, planned))


def told(record: dict[str, Any], **settings: float | str) -> Line:
    """The line with settings left so in its drive."""
    left = {id.replace("__", "."): Told(value, "left", "Ana") for id, value in settings.items()}
    assert set(left) <= set(SETTINGS)
    return in_force(line_of(record), OnSite(settings=left))


@pytest.mark.parametrize("name", NAMES)
def test_what_is_proposed_never_contradicts_itself(name: str, records: dict[str, dict[str, Any]]) -> None:
    assert found_on(line_of(records[name])) == []


@pytest.mark.parametrize("name", sorted(right_lines()))
def test_no_right_line_has_a_conflict(name: str) -> None:
    assert [c.title for c in found_on(line_of(right_lines()[name]))] == []


@pytest.mark.parametrize(
    ("name", "settings", "id", "severity"),
    [
        ("booster", {"limits__minimum_speed": 55.0}, "speeds", "stop"),
        ("booster", {"sleep__frequency": 20.0}, "sleep_floor", "caution"),
        ("booster", {"sleep__wake_level": 4.2e5}, "wake_setpoint", "caution"),
        ("booster", {"sleep__wake_level": 2.0e5}, "precharge_wake", "caution"),
        ("booster", {"pid__setpoint_1": 1.2e6}, "setpoint_range", "stop"),
        ("booster", {"protection__high_pressure": 3.0e5}, "alarm_setpoint", "stop"),
        ("booster", {"start__wiring": "none"}, "start_wires", "stop"),
        ("booster", {"start__source": "keypad", "start__local": "none"}, "start_keypad", "stop"),
        ("booster", {"protection__interlock": "disabled"}, "retry_interlock", "caution"),
        ("booster", {"reference__source": "bus"}, "no_master", "stop"),
        ("booster", {"io__digital_1": "enable"}, "twice_enable", "caution"),
        ("booster", {"io__digital_2": "none"}, "none_enable", "stop"),
        ("set", {"cascade__stage_off": 50.0}, "stages", "stop"),
        ("wet_well", {"level__stop_level": 3.0}, "levels", "stop"),
        ("borehole", {"protection__line_fill_pressure": 9e5}, "fill_setpoint", "caution"),
        ("supply_fan", {"ramps__up": 1.0}, "ramp_up_inertia", "caution"),
        ("booster", {"carrier__frequency": 4000.0}, "", ""),  # on a short lead that is nothing
    ],
)
def test_each_conflict_is_found_where_it_is_made(
    name: str, settings: dict[str, float | str], id: str, severity: str, records: dict[str, dict[str, Any]]
) -> None:
    found = {c.id: c for c in found_on(told(records[name], **settings))}
    if not id:
        assert found == {}
        return
    assert id in found, sorted(found)
    assert found[id].severity.word == severity
    assert set(settings) & {s.replace(".", "__") for s in found[id].settings}
    for words in (found[id].because.text("si"), found[id].do.text("us")):
        assert "{" not in words


def test_two_masters_for_one_speed(records: dict[str, dict[str, Any]]) -> None:
    records["booster"]["control"]["link"] = "speed"
    assert [c.id for c in found_on(line_of(records["booster"]))] == ["two_masters"]


def test_a_carrier_on_a_long_lead(records: dict[str, dict[str, Any]]) -> None:
    records["borehole"]["drive"].pop("output_filter", None)
    ids = [c.id for c in found_on(told(records["borehole"], carrier__frequency=8000.0))]
    assert "carrier_lead" in ids


def test_inputs_follow_from_where_it_takes_its_orders(records: dict[str, dict[str, Any]]) -> None:
    control = records["booster"]["control"]
    control |= {"start_from": "three_wire", "speed_from": "presets", "preset_1": 30.0, "preset_2": 40.0}
    assert wanted_functions(line_of(records["booster"])) == ["start", "stop", "enable", "preset_1", "preset_2"]
