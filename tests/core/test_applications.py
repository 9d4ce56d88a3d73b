"""What an application changes: what is asked, what is held, which way it acts, what limits it; and the fan's model."""

from itertools import pairwise
from typing import Any

import fluids.atmosphere
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.air.density import air_density, pressure_at_altitude
from mainspring.core.assess import assess
from mainspring.core.benches.savings import savings_of
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.errors import NotKnown
from mainspring.core.limits import (
    highest_reasons,
    lowest_reasons,
    ramp_down_reasons,
    ramp_up_reasons,
    strictest,
    surge_ramp,
    wave_speed_of,
)
from mainspring.core.line import GROUPS, Line
from mainspring.core.line.applications import APPLICATIONS, HELD
from mainspring.core.method import given as fixed
from tests.conftest import line_of

ALL = [
    "booster", "filter", "borehole", "wet_well", "circulator", "irrigation",
    "supply_fan", "exhaust", "fan_wall", "tower",
]  # fmt: skip
FANS = ["supply_fan", "exhaust", "fan_wall", "tower"]


def asked(line: Line) -> set[str]:
    return {f.path for g in GROUPS.values() for f in g.fields.values() if line.applies(f.when) and not f.more}


def planned(line: Line) -> dict[str, Any]:
    return {r.setting.id: r.planned.value for r in assess(line).settings if r.planned is not None}


# what is asked


def test_every_application_stands_in_the_demo(records: dict[str, Any]) -> None:
    assert {r["line"]["application"] for r in records.values()} == set(APPLICATIONS)


@pytest.mark.parametrize("application", list(APPLICATIONS))
def test_a_fan_is_asked_for_air_and_a_pump_for_water(application: str) -> None:
    paths = asked(Line().with_values(line={"application": application}))
    fan = APPLICATIONS[application].machine == "fan"
    assert ("machine.air_flow" in paths) is fan
    assert ("machine.duty_head" in paths) is not fan
    assert ("system.pressure_rating" in paths) is not fan


@pytest.mark.parametrize("application", list(APPLICATIONS))
def test_what_may_be_held_has_its_own_range_and_setpoint(application: str) -> None:
    for holds in APPLICATIONS[application].holds:
        line = Line().with_values(line={"application": application, "holds": holds})
        held = HELD[holds]
        paths = asked(line)
        if held.setpoint:
            assert {held.setpoint, held.range_low, held.range_high, "sensor.signal"} <= paths
        others = {h.setpoint for h in HELD.values() if h.setpoint and h.setpoint != held.setpoint}
        assert not others & paths


def test_a_well_is_asked_for_its_bore_and_a_magnet_motor_for_five_values_twice(records: dict[str, Any]) -> None:
    well = asked(line_of(records["borehole"]))
    assert {"system.well_bore", "motor.diameter", "motor.service_factor_current", "system.pumping_level"} <= well
    assert "sensor.height" not in well
    magnet = asked(line_of(records["fan_wall"]))
    assert sum(p.endswith("_again") for p in magnet) == 5
    assert "motor.power_factor" not in magnet
    assert not any(p.endswith("_again") for p in well)


def test_one_phase_is_not_asked_for_three_readings(records: dict[str, Any]) -> None:
    assert "supply.reading_12" not in asked(line_of(records["wash_down"]))
    assert "supply.reading_12" in asked(line_of(records["booster"]))


# which way it acts


@pytest.mark.published("direction of action of each application, common practice, no source")
@pytest.mark.parametrize(
    ("name", "action"),
    [
        ("booster", "falls_faster"),
        ("borehole", "falls_faster"),
        ("circulator", "falls_faster"),
        ("supply_fan", "falls_faster"),
        ("fan_wall", "falls_faster"),
        ("wet_well", "rises_faster"),
        ("exhaust", "rises_faster"),
        ("tower", "rises_faster"),
    ],
)
def test_direction_of_action_follows_from_the_application(name: str, action: str, records: dict[str, Any]) -> None:
    assert planned(line_of(records[name]))["pid.action"] == action


def test_heating_turns_the_action_round(records: dict[str, Any]) -> None:
    records["exhaust"]["control"]["effect"] = "rise"
    assert planned(line_of(records["exhaust"]))["pid.action"] == "falls_faster"


# settings shaped by it


def test_each_application_has_its_own_start_and_stop(records: dict[str, Any]) -> None:
    fan, pump, well = (planned(line_of(records[n])) for n in ("supply_fan", "booster", "borehole"))
    assert (fan["start.mode"], fan["stop.mode"]) == ("flying", "coast")
    assert (pump["start.mode"], pump["stop.mode"]) == ("ramp", "ramp")
    assert well["ramps.initial_to_minimum"] == 1.0
    assert well["motor.rated_current"] == 18.6
    assert well["limits.current"] == 18.6
    assert "protection.underload" not in fan
    assert "level.stop_level" in planned(line_of(records["wet_well"]))
    assert planned(line_of(records["fan_wall"]))["motor.back_emf"] == 180.0


@pytest.mark.parametrize("name", ALL)
def test_every_setting_of_a_full_record_is_planned_with_a_reason(name: str, records: dict[str, Any]) -> None:
    rows = assess(line_of(records[name])).settings
    assert [r.setting.id for r in rows if r.planned is None] == []
    assert all(r.planned is not None and r.planned.reason.text() for r in rows)


# limits


@pytest.mark.parametrize("name", ALL)
def test_the_strictest_reason_rules_and_each_has_its_figure(name: str, records: dict[str, Any]) -> None:
    line = line_of(records[name])
    derived = Derived(line)
    values = planned(line)
    lowest, highest = lowest_reasons(line, derived), highest_reasons(line, derived)
    assert values["limits.minimum_speed"] == max(float(r.figure) for r in lowest)
    assert values["limits.maximum_speed"] == min(float(r.figure) for r in highest)
    assert float(values["limits.minimum_speed"]) < float(values["limits.maximum_speed"])
    assert values["ramps.up"] == max(float(r.figure) for r in ramp_up_reasons(line, derived))
    assert values["ramps.down"] == max(float(r.figure) for r in ramp_down_reasons(line, derived))


def test_a_machine_that_may_not_turn_so_fast_caps_the_speed_it_has_without_load(records: dict[str, Any]) -> None:
    line = line_of(records["supply_fan"]).with_values(machine={"highest_speed": 1320.0})  # four poles: 1500 at 50 Hz
    ruling = strictest(highest_reasons(line, Derived(line)), highest=False)
    assert float(ruling.figure) == pytest.approx(44.0, rel=1e-6)
    assert "maker" in ruling.words
    faster = line.with_values(machine={"highest_speed": 1650.0})
    reason = next(r for r in highest_reasons(faster, Derived(faster)) if "maker" in r.words)
    assert float(reason.figure) == pytest.approx(55.0, rel=1e-6)


def test_without_relief_the_weakest_part_caps_the_speed(records: dict[str, Any]) -> None:
    strong = line_of(records["booster"])
    weak = strong.with_values(system={"relief": "no", "pressure_rating": 4.0e5})
    ruling = strictest(highest_reasons(weak, Derived(weak)), highest=False)
    derived = Derived(weak)
    # at that speed the shut-off pressure is the rating itself
    ratio = float(ruling.figure) / 50
    head = derived.pump.curve.c0 * ratio**2
    assert float(derived.pump.suction_pressure) + 998.2 * 9.80665 * head == pytest.approx(4.0e5, rel=1e-6)
    assert float(strictest(highest_reasons(strong, Derived(strong)), highest=False).figure) == 50.0


def test_below_the_cooling_frequency_too_little_water_passes(records: dict[str, Any]) -> None:
    line = line_of(records["borehole"])
    derived = Derived(line)
    low = derived.cooling_frequency
    flow = derived.flow_holding(3.5e5, float(low))
    velocity = float(flow) / (3.14159265 / 4 * (0.160**2 - 0.137**2))
    assert velocity == pytest.approx(0.1524, rel=1e-6)
    with pytest.raises(NotKnown, match="submersible"):
        _ = Derived(line_of(records["booster"])).cooling_frequency


def test_a_longer_pipeline_wants_a_longer_ramp(records: dict[str, Any]) -> None:
    pipe = {"pipe_bore": 0.1, "pipe_wall": 0.0045, "pipe_material": "steel"}
    ramps = []
    for length in (100.0, 400.0, 1600.0):
        line = line_of(records["booster"]).with_values(system={**pipe, "pipe_length": length})
        ramps.append(float(surge_ramp(line, Derived(line))))
    assert ramps[1] == pytest.approx(4 * ramps[0], rel=1e-6)
    assert ramps[2] == pytest.approx(16 * ramps[0], rel=1e-6)
    # handbook: 1000 to 1400 m/s in steel water mains
    assert 1000 < wave_speed_of(line) < 1450


def test_a_weaker_pipe_wants_a_longer_ramp(records: dict[str, Any]) -> None:
    pipe = {"pipe_bore": 0.1, "pipe_wall": 0.0045, "pipe_material": "steel", "pipe_length": 800.0}
    booster = line_of(records["booster"])
    working = float(Derived(booster).pump.pressure_at_gauge(booster.machine.duty_head))
    ramps = []
    for above in (16e5, 4e5, 0.2e5, 0.1e5):
        line = booster.with_values(system={**pipe, "pressure_rating": working + above})
        ramps.append(float(surge_ramp(line, Derived(line))))
    assert ramps[0] <= ramps[1] < ramps[2] < ramps[3]  # as far as the share of the head is more than the pipe has left
    assert ramps[3] == pytest.approx(2 * ramps[2], rel=0.05)  # half the head left, twice the time


# the fan


@pytest.mark.published("fluids.ATMOSPHERE_1976")
@pytest.mark.parametrize("altitude", [0.0, 310.0, 1524.0, 3000.0])
def test_pressure_at_altitude_agrees_with_an_open_library(altitude: float) -> None:
    assert pressure_at_altitude(altitude) == pytest.approx(fluids.atmosphere.ATMOSPHERE_1976(altitude).P, rel=2e-4)


@pytest.mark.parametrize("name", FANS)
def test_affinity_of_the_fan(name: str, records: dict[str, Any]) -> None:
    derived = Derived(line_of(records[name]))
    half = fixed("half", 0.5, "ratio")
    full_flow, half_flow = derived.machine.flow_at(FULL_SPEED), derived.machine.flow_at(half)
    assert half_flow == pytest.approx(0.5 * full_flow, rel=1e-9)
    full_rise, half_rise = derived.machine.head_at(full_flow, FULL_SPEED), derived.machine.head_at(half_flow, half)
    assert half_rise == pytest.approx(0.25 * full_rise, rel=1e-9)
    assert derived.machine.shaft_power(half_flow, half_rise, half) == pytest.approx(
        0.125 * derived.machine.shaft_power(full_flow, full_rise, FULL_SPEED), rel=1e-9
    )
    assert derived.machine.speed_for(half_flow, half_rise) == pytest.approx(0.5, rel=1e-9)


@given(
    altitude=st.floats(0, 3000),
    degc=st.floats(-30, 120),
    ratio=st.floats(0.2, 1.2),
)
@settings(max_examples=60, deadline=None, derandomize=True)
def test_thin_air_takes_less_power_and_the_same_flow(altitude: float, degc: float, ratio: float) -> None:
    from mainspring.demo import fans

    base = line_of(fans.SUPPLY_FAN)
    standard = Derived(base.with_values(site={"altitude": 0.0}, system={"air_degc": 20.0}))
    other = Derived(base.with_values(site={"altitude": altitude}, system={"air_degc": degc}))
    speed, flow = fixed("s", ratio, "ratio"), fixed("q", 4.0 * ratio, "air_flow")
    share = air_density(pressure_at_altitude(altitude), degc) / air_density(101_325, 20.0)
    assert other.fan.head_at(flow, speed) == pytest.approx(share * standard.fan.head_at(flow, speed), rel=1e-9)
    powers = [d.machine.shaft_power(flow, d.machine.head_at(flow, speed), speed) for d in (standard, other)]
    assert powers[1] == pytest.approx(share * powers[0], rel=1e-9)


@pytest.mark.parametrize("name", ALL)
def test_curves_fall_and_grow_with_speed(name: str, records: dict[str, Any]) -> None:
    derived = Derived(line_of(records[name]))
    top, kind = derived.full_flow, derived.machine.words.flow
    flows = [fixed("q", float(top) * (0.3 + 0.1 * i), kind) for i in range(8)]
    heads = [float(derived.machine.head_at(q, FULL_SPEED)) for q in flows]
    assert all(a > b for a, b in pairwise(heads))
    slower = [float(derived.machine.head_at(q, fixed("s", 0.8, "ratio"))) for q in flows]
    assert all(a > b for a, b in zip(heads, slower, strict=True))


@pytest.mark.published("air power fraction (c + (1 − c)·q²)·q of a held duct pressure, dossier 8")
def test_a_held_duct_pressure_breaks_the_cube_law(records: dict[str, Any]) -> None:
    line = line_of(records["supply_fan"])
    derived = Derived(line)
    full, half = (fixed("q", q, "air_flow") for q in (7.5, 3.75))
    air = [float(q) * float(derived.machine.required_head(q)) for q in (full, half)]
    c = 350.0 / (1200.0 * float(derived.fan.density_ratio))  # the duct was designed for standard air
    assert air[1] / air[0] == pytest.approx((c + (1 - c) * 0.25) * 0.5, rel=1e-9)
    saved = savings_of(line, derived)
    assert saved.saved < saved.cube_saved


def test_the_step_up_of_a_fan_expects_pressure_in_air(records: dict[str, Any]) -> None:
    step = next(s for s in assess(line_of(records["supply_fan"])).steps if s.table is not None)
    assert step.table is not None
    assert [c.dimension for c in step.table.columns][-1] == "air_pressure"
    full = step.table.expected[-1]
    assert float(full["pressure"]) == pytest.approx(1195, abs=15)
    assert float(full["current"]) < 27.7


def test_a_magnet_motor_turns_with_its_frequency(records: dict[str, Any]) -> None:
    derived = Derived(line_of(records["fan_wall"]))
    row = derived.expected_at(fixed("f", 44.0, "frequency"))
    assert float(row["speed"]) == pytest.approx(880.0, rel=1e-6)
    assert float(row["current"]) == pytest.approx(3.9 * 0.25 * float(derived.duty_power) / 2200.0, rel=0.02)


def test_a_borehole_counts_its_heads_from_the_water(records: dict[str, Any]) -> None:
    derived = Derived(line_of(records["borehole"]))
    # 3.5 bar at the well head and 62 m up to it (998.2 kg/m³)
    assert float(derived.pump.setpoint_head) == pytest.approx(3.5e5 / (998.2 * 9.80665) + 62.0, rel=1e-6)
    assert float(derived.shutoff_pressure) == pytest.approx((derived.pump.curve.c0 - 62.0) * 998.2 * 9.80665, rel=1e-6)
    shut = derived.expected_at(fixed("f", 20.0, "frequency"))
    assert float(shut["pressure"]) == 0.0  # the water has not reached the well head
