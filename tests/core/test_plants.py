"""Each plant against algebra, the handbook, and other people's implementations."""

from typing import Any

import control
import numpy as np
import pytest
import wntr

from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution
from mainspring.core.line import Line, OnSite, Told, in_force
from mainspring.core.settings import SETTINGS
from mainspring.core.settings.setting import plan_of
from mainspring.core.simulation import kernel, try_line
from mainspring.core.simulation.bump import bump
from mainspring.core.simulation.demand import Profile
from mainspring.core.simulation.judge import judge
from mainspring.core.simulation.plants import Setup
from mainspring.core.simulation.trial import ready, run_trial, why
from tests.conftest import line_of

KINDS = {
    "booster": kernel.HEADER,
    "borehole": kernel.HEADER,
    "circulator": kernel.HEADER,
    "supply_fan": kernel.HEADER,
    "fan_wall": kernel.HEADER,
    "wet_well": kernel.LEVEL,
    "tower": kernel.HEAT,
    "exhaust": kernel.HEAT,
    "filter": kernel.OPEN,
    "irrigation": kernel.OPEN,
}


@pytest.mark.parametrize(("name", "kind"), KINDS.items())
def test_every_line_of_the_demo_is_tried(name: str, kind: float, records: dict[str, Any]) -> None:
    line = line_of(records[name])
    ran = try_line(line)
    assert ran.setup.kind == kind
    for column in (ran.value, ran.frequency, ran.flow, ran.power):
        assert np.isfinite(column).all()
    assert judge(line, Derived(line), ran)
    assert ran.totals["energy"] > 0


def held_at(line: Line, moved: dict[str, float], speed: float, share: float, seconds: float = 400.0) -> Any:
    """The plant led by hand at a speed until it stands."""
    _, _, setup = ready(line, moved)
    free = setup.but(
        rest=setup.config.rest._replace(by=kernel.NO_REST), drive=setup.config.drive._replace(dry_power=0.0)
    )
    return run_trial(free, Profile("s", "S", ((0, share),), seconds), hands=((0.0, speed),)), setup


@pytest.mark.parametrize("speed", [0.7, 0.8, 0.9, 1.0])
def test_steady_duty_at_several_speeds_as_epanet_has_it(speed: float, booster: Line, tmp_path: Any) -> None:
    """A pump with its curve at a speed feeds an emitter: pressure and flow by the network solver of the US EPA."""
    ran, setup = held_at(booster, {"lost_before": 0.0}, speed, 0.6)
    p = setup.config.plant
    demand = 0.6 * setup.full
    net = wntr.network.WaterNetworkModel()
    net.options.hydraulic.emitter_exponent = 0.5
    net.options.hydraulic.accuracy = 1e-5
    head = float(Derived(booster).pump.suction_pressure) / p.weight
    net.add_reservoir("inlet", base_head=head)
    net.add_junction("header", base_demand=0.0, elevation=float(Derived(booster).pump.sensor_height))
    net.get_node("header").emitter_coefficient = demand / np.sqrt(p.nominal / p.weight)
    flows = np.linspace(0.0, 0.95 * float(kernel.machine_flow(p, 1.0, 0.0, 1.0)), 60)
    heads = p.c0 + p.c1 * flows + p.c2 * flows**2
    falls = np.r_[True, heads[1:] < p.c0 - 0.01]  # it takes none that rises, be it by a hair
    net.add_curve("curve", "HEAD", list(zip(flows[falls], heads[falls], strict=True)))
    net.add_pump("pump", "inlet", "header", "HEAD", "curve", speed=speed)
    found = wntr.sim.EpanetSimulator(net).run_sim(file_prefix=str(tmp_path / "net"))
    pressure = float(found.node["pressure"].loc[0, "header"]) * p.weight
    flow = float(found.link["flowrate"].loc[0, "pump"])
    assert ran.value[-1] == pytest.approx(pressure, rel=5e-3)
    assert ran.flow[-1] == pytest.approx(flow, rel=5e-3)


def test_a_linear_subset_answers_a_step_as_python_control_has_it(booster: Line) -> None:
    """Small steps of the setpoint round a working point: tank, pump slope and PI as a transfer function."""
    moved = {"lag": 0.0, "dead_time": 0.0, "gain": 1.5, "integral_time": 6.0, "ramp_up": 0.1, "ramp_down": 0.1}
    _, _, setup = ready(booster, moved)
    c, p, k = setup.config, setup.config.plant, setup.config.control
    quiet = setup.but(
        sensor=c.sensor._replace(resolution=0.0),
        rest=c.rest._replace(by=kernel.NO_REST),
        control=k._replace(second=k.setpoint + 500.0, second_from=20.0),
        drive=c.drive._replace(up=0.01, down=0.01, dry_power=0.0),
    )
    ran = run_trial(quiet, Profile("p", "P", ((0, 0.6),), 80.0), rows=1600)
    before = ran.times < 19
    flow, speed, start = ran.flow[before][-1], ran.frequency[before][-1] / setup.base, ran.value[before][-1]
    by_speed = -(2 * p.c0 * speed + p.c1 * flow) / (p.c1 * speed + 2 * p.c2 * flow)  # dQ/ds at a head
    by_pressure = float(kernel.flow_slope(p, speed, flow, 1.0)) - flow / (2 * start)
    plant = control.tf([by_speed], [float(kernel.compliance(p, start)), -by_pressure])
    pi = control.tf([k.gain * k.integral_time, k.gain], [k.integral_time, 0]) / (c.sensor.high - c.sensor.low)
    closed = control.feedback(plant * pi, 1)
    times = np.arange(0.0, 59.0, 0.05)
    _, told = control.step_response(closed * 500.0, times)
    ours = np.interp(times + 20.05, ran.times, ran.value) - start
    assert np.abs(ours - told).max() < 0.03 * 500.0


def test_a_borehole_drops_its_water_by_its_specific_drawdown(records: dict[str, Any]) -> None:
    line = line_of(records["borehole"])
    ran = try_line(line, {"drop": 6.0}, own=[(0, 0.8)], duration=7200.0)
    duty = float(line.machine.duty_flow)
    assert ran.drawdown[-1] == pytest.approx(6.0 * ran.flow[-1] / duty, rel=0.02)
    assert ran.drawdown[0] == pytest.approx(6.0 * 0.8 * ran.setup.full / duty, rel=0.02)  # at rest from the first


def test_a_pit_keeps_its_water_to_the_drop(records: dict[str, Any]) -> None:
    ran = try_line(line_of(records["wet_well"]), profile="storm")
    p = ran.setup.config.plant
    came = sum(
        (b - a) * q for (a, q), (b, _) in zip(ran.profile.steps, [*ran.profile.steps[1:], (3600.0, 0)], strict=True)
    )
    came *= ran.setup.full
    stood = p.area * (ran.value[-1] - ran.value[0])
    assert came - ran.totals["pumped"] == pytest.approx(stood, abs=0.02 * p.area)
    assert ran.totals["taken"] == pytest.approx(came, rel=1e-6)


def test_a_storm_calls_the_standby_pump_and_no_ordinary_hour_does(records: dict[str, Any]) -> None:
    line = line_of(records["wet_well"])
    derived = Derived(line)
    storm = try_line(line, profile="storm")
    assert {e.name for e in storm.events} <= {"high level", "full speed", "sleep", "wake", "current limit"}
    assert "high level" in [e.name for e in storm.events]
    assert storm.flow.max() > 1.2 * storm.setup.full  # both pump
    ran = try_line(line)
    assert "The level stays within" in {m.verdict.title for m in judge(line, derived, ran)}


def test_heat_comes_to_rest_where_the_stream_carries_it(records: dict[str, Any]) -> None:
    line = line_of(records["tower"])
    ran, setup = held_at(line, {}, 0.8, 0.6, 40_000.0)
    p = setup.config.plant
    share = float(kernel.machine_flow(p, 0.8, p.lift, 1.0)) / p.full_flow
    # the load over what the stream carries for each degree
    assert ran.value[-1] == pytest.approx(p.stream + 0.6 * (p.nominal - p.stream) / share, abs=0.02)


def test_the_dead_time_delays_and_nothing_else(records: dict[str, Any]) -> None:
    line = line_of(records["supply_fan"])
    _, _, setup = ready(line, {"dead_time": 3.0, "lag": 0.0})
    _, fit = bump(line, Derived(line), {"dead_time": 3.0, "lag": 0.0}, 0.7)
    assert setup.knobs["dead_time"] == 3.0
    assert fit.dead_time == pytest.approx(3.0, abs=0.7)


def room(records: dict[str, Any]) -> Setup:
    """The exhaust fan holding a room below the outside by 15 Pa."""
    fan = records["exhaust"]
    fan["line"]["holds"] = "duct"
    fan["sensor"] |= {"air_low": -50.0, "air_high": 50.0}
    fan["control"] |= {"air_setpoint": -15.0, "effect": "fall"}
    return ready(line_of(fan), {})[2]


def test_a_room_held_below_the_outside_draws_more_than_is_supplied(records: dict[str, Any]) -> None:
    setup = room(records)
    assert setup.kind == kernel.ROOM
    ran = run_trial(setup, Profile("p", "P", ((0, 0.5), (200, 0.6)), 600.0))
    assert ran.value[-1] == pytest.approx(-15.0, abs=0.5)
    assert ran.flow[-1] / setup.full == pytest.approx(0.6 + 0.15, abs=0.01)  # supply and cracks
    assert ran.flow[-1] == pytest.approx(ran.taken[-1], rel=1e-3)


def test_a_flow_is_held_behind_a_valve_that_closes(records: dict[str, Any]) -> None:
    pump = records["filter"]
    pump["line"]["holds"] = "flow"
    pump["sensor"] = {"flow_low": 0.0, "flow_high": 0.03, "signal": "4-20mA", "input_switch": "current"}
    pump["control"] |= {"flow_setpoint": 0.012}
    line = line_of(pump)
    ran = try_line(line, {"gain": 0.3, "integral_time": 3.0})
    assert ran.setup.kind == kernel.FLOW
    before, shut = ran.frequency[ran.times < 110][-1], ran.frequency[(ran.times > 300) & (ran.times < 350)][-1]
    assert ran.value[-1] == pytest.approx(0.012, rel=0.02)
    assert shut > before + 0.5  # the valve closes, the pump makes up for it


def test_a_machine_led_from_outside_coasts_and_is_caught_or_not(records: dict[str, Any]) -> None:
    _, _, setup = ready(line_of(records["tower"] | {"line": {**records["tower"]["line"], "holds": "reference"}}), {})
    story = Profile("p", "P", ((0, 0.9), (20, -1.0), (30, 0.9)), 60.0)
    coasts = setup.but(drive=setup.config.drive._replace(coast=1.0, run_up=20.0))
    ran = run_trial(coasts, story, rows=1200)
    assert "caught" in [e.name for e in ran.events]
    turning = ran.frequency[(ran.times > 21) & (ran.times < 29)]
    assert (np.diff(turning) < 0).all()
    assert turning.min() > 10
    assert all(why(event, ran) for event in ran.events)
    blind = run_trial(coasts.but(drive=coasts.config.drive._replace(catches=0.0)), story, rows=1200)
    assert "overcurrent" in [e.name for e in blind.events]


def test_a_set_takes_another_and_lets_it_go_and_hunts_where_the_two_overlap(records: dict[str, Any]) -> None:
    line = line_of(records["set"])
    derived = Derived(line)
    calm = try_line(line, own=[(0, 0.25), (60, 0.8), (360, 0.2)], duration=900.0)
    names = [e.name for e in calm.events]
    assert names.count("another") >= 1
    assert names.count("one less") >= 1
    assert "Machines come and go" not in {m.verdict.title for m in judge(line, derived, calm)}
    assert sum(calm.hours) > 900.0
    fights = try_line(line, {"stage_off": 48.5, "stage_delay": 3.0}, own=[(0, 0.55)], duration=900.0)
    assert "Machines come and go" in {m.verdict.title for m in judge(line, derived, fights)}


def test_turns_even_the_hours(records: dict[str, Any]) -> None:
    line = line_of(records["set"])
    ran = try_line(line, {"turns": 600.0}, own=[(0, 0.25)], duration=7200.0)
    assert max(ran.hours) - min(ran.hours) <= 600.0 + 1


def test_a_wall_of_fans_runs_as_one_and_brings_what_all_bring(records: dict[str, Any]) -> None:
    line = line_of(records["fan_wall"])
    ran = try_line(line)
    count = float(line.machine.count)
    assert ran.running[0] == count
    assert 0.97 * count * float(line.machine.air_flow) < ran.setup.full <= count * float(line.machine.air_flow)


def titles(line: Line, ran: Any) -> set[str]:
    return {m.verdict.title for m in judge(line, Derived(line), ran)}


def test_a_tank_that_is_filled_holds_its_level_the_other_way_round(records: dict[str, Any]) -> None:
    pump = records["filter"]
    pump["line"]["holds"] = "level"
    pump["sensor"] = {"level_low": 0.0, "level_high": 5.0, "signal": "4-20mA", "input_switch": "current"}
    pump["control"] |= {"level_setpoint": 3.0, "effect": "rise"}
    line = line_of(pump)
    _, _, setup = ready(line, {})
    assert (setup.config.plant.direction, setup.config.control.action) == (1.0, 1.0)
    ran = try_line(line, {"gain": 5.0, "integral_time": 300.0}, own=[(0, 0.5), (600, 0.7)], duration=3600.0)
    assert ran.value[-1] == pytest.approx(3.0, abs=0.1)
    well = ready(line_of(records["wet_well"]), {})[2]
    assert (well.config.plant.direction, well.config.control.action) == (-1.0, -1.0)


# judged in words, each with its number and its setting


def test_a_leak_that_wakes_it_too_often_and_a_tank_that_cures_it(booster: Line) -> None:
    leaking = booster.with_values(system={"leak": 6e-4, "tank_volume": 0.08})
    ran = try_line(leaking)
    assert "A leak wakes it too often" in titles(leaking, ran)
    assert "Rests on a leak" in titles(booster, try_line(booster))


def test_sleeping_while_water_is_drawn_is_told(booster: Line) -> None:
    ran = try_line(booster, {"sleep_below": 47.0, "sleep_delay": 5.0}, own=[(0, 0.9), (60, 0.4)], duration=90.0)
    assert "It sleeps while water is drawn" in titles(booster, ran)


def test_sleeping_and_waking_while_water_is_drawn_is_not_called_hunting(booster: Line) -> None:
    ran = try_line(booster, {"sleep_below": 47.0, "sleep_delay": 5.0}, own=[(0, 0.9), (60, 0.3)], duration=600.0)
    told = titles(booster, ran)
    assert "It sleeps and wakes while water is drawn" in told
    assert told & {"It hunts", "It sleeps while water is drawn"} == set()
    mine = next(m for m in judge(booster, Derived(booster), ran) if m.verdict.title.startswith("It sleeps and wakes"))
    asleep = sum(e.name == "sleep" and e.time >= 60 for e in ran.events)
    assert float(mine.verdict.because.figures["times"]) == asleep > 2
    assert "pid.gain" not in mine.settings


ACTS = [
    ("booster", "rises_faster"),
    ("tower", "falls_faster"),
    ("wet_well", "falls_faster"),
    ("supply_fan", "rises_faster"),
    ("circulator", "rises_faster"),
    ("exhaust", None),
]


@pytest.mark.parametrize(("name", "wrong"), ACTS)
def test_what_is_set_is_what_is_tried_also_the_wrong_way_round(
    name: str, wrong: str | None, records: dict[str, Any]
) -> None:
    line = line_of(records[name])
    assert "It acts the wrong way round" not in titles(line, try_line(line))
    if wrong is None:
        planned = plan_of(SETTINGS["pid.action"], line, Derived(line)).planned
        assert planned is not None
        wrong = "rises_faster" if planned.value == "falls_faster" else "falls_faster"
    left = in_force(line, OnSite({"pid.action": Told(wrong, "left", "Ann")}))
    told = judge(left, Derived(left), try_line(left))
    assert (told[0].verdict.title, told[0].verdict.severity.word) == ("It acts the wrong way round", "stop")
    assert told[0].settings == ("pid.action",)
    assert not {"It holds", "It hunts", "It cannot reach the setpoint"} & {m.verdict.title for m in told}


def test_a_leak_is_judged_with_the_tank_as_it_stands_on_the_bench(booster: Line) -> None:
    leaking = booster.with_values(system={"leak": 1e-4, "tank_volume": 0.18})
    assert "Rests on a leak" in titles(leaking, try_line(leaking))
    # the same tank with its air at the wake pressure gives no water at all
    air = try_line(leaking, {"tank_precharge": 3.9e5})
    assert "A leak wakes it too often" in titles(leaking, air)
    assert "A leak wakes it too often" in titles(leaking, try_line(leaking, {"tank_volume": 0.01}))


@pytest.mark.parametrize("name", ["booster", "borehole", "circulator", "supply_fan", "wet_well", "tower", "exhaust"])
def test_the_plant_and_its_demand_stay_where_they_are_when_the_setpoint_moves(
    name: str, records: dict[str, Any]
) -> None:
    line = line_of(records[name])
    _, _, before = ready(line, {})
    setpoint = before.knobs["setpoint"]
    for factor in (0.9, 1.04):
        moved = {"setpoint": setpoint * factor}
        tried = ready(line, moved)[2]
        assert tried.config.plant == before.config.plant._replace(substeps=tried.config.plant.substeps)
        assert tried.full == before.full
        held = line.held
        assert held is not None
        id = (
            "pid." + {"duct": "duct_", "level": "level_", "temperature": "temperature_"}.get(held.id, "") + "setpoint_1"
        )
        decided = in_force(line, OnSite({id: Told(setpoint * factor, "decided", "Ann", why="…")}))
        assert ready(decided, {})[2].config.plant.nominal == before.config.plant.nominal
        assert ready(decided, {})[2].config.plant.friction == pytest.approx(before.config.plant.friction, rel=1e-9)


@pytest.mark.parametrize("factor", [0.96, 1.0, 1.04])
@pytest.mark.parametrize("name", ["booster", "borehole", "circulator", "supply_fan", "wet_well", "tower", "exhaust"])
def test_a_trial_begins_at_rest_wherever_the_setpoint_stands(name: str, factor: float, records: dict[str, Any]) -> None:
    line = line_of(records[name])
    setpoint = ready(line, {})[2].knobs["setpoint"] * factor
    ran = try_line(line, {"setpoint": setpoint}, own=[(0, 0.7)], duration=60.0)
    assert np.abs(ran.value - setpoint).max() < 2e-3 * setpoint  # the sensor's own steps
    assert np.ptp(ran.frequency) < 0.5


def test_a_demand_out_of_reach_is_said_with_what_is_missing(booster: Line) -> None:
    told = judge(booster, Derived(booster), try_line(booster, own=[(0, 0.5), (60, 1.4)], duration=400.0))
    missing = next(m for m in told if m.verdict.title == "It cannot reach the setpoint")
    numbers = missing.verdict.because.figures
    assert float(numbers["asked"]) == pytest.approx(1.4 * float(booster.machine.duty_flow), rel=1e-9)
    assert float(numbers["most"]) < float(numbers["asked"])
    with pytest.raises(NoSolution, match="cannot be held: at its highest speed it makes"):
        try_line(booster, {"setpoint": 6.0e5})


def test_a_ramp_that_strikes_the_pipe_is_a_stop(booster: Line) -> None:
    pipe = {
        "pipe_length": 800.0,
        "pipe_bore": 0.1,
        "pipe_wall": 0.005,
        "pipe_material": "steel",
        "pressure_rating": 6e5,
    }
    line = booster.with_values(system=pipe)
    hard = next(m for m in judge(line, Derived(line), try_line(line, {"ramp_down": 1.0})) if "ramp" in m.verdict.title)
    assert (hard.verdict.severity.word, hard.settings) == ("stop", ("ramps.down",))
    assert "The ramp is gentle" in titles(line, try_line(line, {"ramp_down": 120.0}))


def test_a_dry_run_threshold_fixed_too_low_or_too_high_is_told(booster: Line) -> None:
    assert "The dry-run threshold is useless at this speed" in titles(booster, try_line(booster, {"underload": 0.02}))
    assert "It trips as if it ran dry" in titles(booster, try_line(booster, {"underload": 0.6}))


def test_a_pit_that_is_too_small_starts_too_often(records: dict[str, Any]) -> None:
    line = line_of(records["wet_well"])
    ran = try_line(line, {"area": 0.1, "lowest": 36.0}, own=[(0, 0.12)], duration=7200.0)
    assert ran.totals["starts"] > 40
    assert "It starts too often" in titles(line, ran)


def test_a_lowest_speed_that_lifts_no_more_never_stops(records: dict[str, Any]) -> None:
    line = line_of(records["wet_well"])
    told = next(
        m
        for m in judge(
            line, Derived(line), try_line(line, {"area": 0.5, "lowest": 30.0}, own=[(0, 0.12)], duration=7200.0)
        )
        if m.verdict.title == "It never stops"
    )
    assert "limits.minimum_speed" in told.settings
    assert told.verdict.because.figures["level"] > told.verdict.because.figures["stop"]
    faster = try_line(line, {"area": 0.5, "lowest": 36.0}, own=[(0, 0.12)], duration=7200.0)
    assert "It never stops" not in titles(line, faster)
