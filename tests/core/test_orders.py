"""Where a line takes its orders, what its relays tell, and how several drives take turns: settings and steps."""

from typing import Any

import pytest

from mainspring.core.assess import Assessment, assess
from mainspring.core.line import Line, OnSite, Told, in_force
from tests.conftest import line_of

Records = dict[str, Any]


def planned(line: Line) -> dict[str, Any]:
    return {r.setting.id: None if r.planned is None else r.planned.value for r in assess(line).settings}


def items(assessment: Assessment, step: str) -> dict[str, str]:
    return dict(next(s for s in assessment.steps if s.id == step).items)


def test_relays_tell_fault_and_running_unless_told_otherwise(booster: Line) -> None:
    usual = planned(booster)
    assert (usual["io.relay_1"], usual["io.relay_1_contact"]) == ("fault", "closed")
    assert (usual["io.relay_2"], usual["io.relay_2_contact"]) == ("running", "open")
    assert "opens while the drive trips or loses power" in items(assess(booster), "signals.relays")["fault"]


@pytest.mark.parametrize(
    ("function", "made"),
    [
        ("level_high", "lift the float"),
        ("level_low", "lower the float"),
        ("pressure_low", "by a source at the sensor input"),
        ("underload", "never run it dry"),
    ],
)
def test_a_relay_is_tested_by_making_or_simulating_its_condition(function: str, made: str, booster: Line) -> None:
    told = booster.with_values(control={"relay_2": function, "relay_2_contact": "closed"})
    assessment = assess(told)
    words = items(assessment, "signals.relays")[function]
    assert made in words
    assert "normally closed: opens" in words
    behind = next(s for s in assessment.steps if s.id == "finish.put_back").items
    assert "signals.relays" in behind  # what was moved for the test is to be put back


def test_a_relay_as_left_is_the_one_that_is_tested(booster: Line) -> None:
    left = in_force(booster, OnSite({"io.relay_2": Told("underload", "left", "Ana")}))
    assert "dry" in items(assess(left), "signals.relays")["underload"]
    assert planned(left)["io.relay_2"] == "running"  # what is proposed stays


def test_two_relays_may_tell_the_same(booster: Line) -> None:
    both = booster.with_values(control={"relay_1": "running", "relay_2": "running"})
    assert list(items(assess(both), "signals.relays")) == ["running", "running_2"]


def test_no_relay_no_step(booster: Line) -> None:
    without = booster.with_values(control={"relay_1": "none", "relay_2": "none"})
    assert "signals.relays" not in {s.id for s in assess(without).steps}


def test_presets_are_settings_and_each_contact_is_tried(records: Records) -> None:
    fan = line_of(records["supply_fan"]).with_values(
        line={"holds": "reference"}, control={"speed_from": "presets", "preset_1": 25.0, "preset_2": 45.0}
    )
    values = planned(fan)
    assert [values[f"reference.preset_{n}"] for n in (1, 2)] == [25.0, 45.0]
    tried = items(assess(fan), "signals.digital")
    assert "25 Hz" in tried["preset_1"].replace("\u202f", " ")
    assert "preset_3" not in tried
    assert "signals.reference" not in {s.id for s in assess(fan).steps}  # there is no signal to read


def test_a_second_setpoint_comes_by_a_contact(booster: Line) -> None:
    assert "pid.setpoint_2" not in planned(booster)
    two = booster.with_values(control={"setpoints": "two", "setpoint_2": 3e5})
    values = planned(two)
    assert (values["pid.setpoint_select"], values["pid.setpoint_2"]) == ("contact", 3e5)
    assert "second" in items(assess(two), "signals.digital")["setpoint"]


def test_hand_off_auto_is_tried_where_there_is_such_a_switch(booster: Line) -> None:
    switch = booster.with_values(control={"local_orders": "contact", "local_speed": "potentiometer"})
    assert planned(switch)["start.local"] == "contact"
    assert planned(switch)["reference.local"] == "potentiometer"
    assert "hand" in items(assess(switch), "signals.digital")
    assert "hand" not in items(assess(booster), "signals.digital")


@pytest.mark.parametrize(
    ("name", "load", "torque"), [("transfer", "positive_displacement", "high"), ("booster", "centrifugal", "normal")]
)
def test_what_may_stick_starts_with_more_torque(name: str, load: str, torque: str, records: Records) -> None:
    record = records["wash_down" if name == "transfer" else name]
    assert planned(line_of(record).with_values(line={"load": load}))["start.torque"] == torque


def test_a_set_stages_between_what_two_carry_and_what_moves_nothing(records: Records) -> None:
    """One at full speed, then two with half of it each: the second must not leave before that is less."""
    line = line_of(records["set"])
    derived, values = assess(line).derived, planned(line)
    hold, shared = float(derived.hold_frequency), float(derived.shared_frequency)
    assert hold < values["cascade.stage_off"] < shared < values["cascade.stage_on"] < 50.0
    # independently: the quadratic curve by hand, H = c0 - k q² at each speed
    pump, head = derived.pump, float(derived.pump.setpoint_head)
    at_full = float(derived.flow_holding(float(line.control.setpoint), 50.0))
    assert float(pump.curve.rise(at_full, 1.0)) == pytest.approx(head, rel=1e-6)
    assert float(pump.curve.rise(at_full / 2, shared / 50.0)) == pytest.approx(head, rel=1e-6)


def test_what_differs_from_drive_to_drive_stands_beside_the_sheet(records: Records) -> None:
    line = line_of(records["set"]).with_values(control={"link": "monitor", "bus_address": 17, "device_instance": 2001})
    each = {r.setting.id: r.setting.each(line) for r in assess(line).settings if r.setting.each is not None}
    assert each["cascade.own_number"] == ["1", "2", "3"]
    assert each["bus.address"] == ["17", "18", "19"]
    assert each["bus.device_instance"] == ["2001", "2002", "2003"]


def test_one_drive_alone_has_no_cascade(booster: Line) -> None:
    assert not [s for s in planned(booster) if s.startswith("cascade.") and s != "cascade.pumps"]


def test_power_is_read_in_what_the_display_shows(records: Records) -> None:
    def power_of(line: Line) -> str:
        table = next(s for s in assess(line).steps if s.id == "turn.step_up").table
        assert table is not None
        return next(c.dimension for c in table.columns if c.id == "power")

    european, american = line_of(records["booster"]), line_of(records["irrigation"])
    assert (power_of(european), power_of(american)) == ("input_power", "power")  # kW; hp where units are those
    in_kw = in_force(american, OnSite({"region.power_unit": Told("kW", "left", "Ana")}))
    assert power_of(in_kw) == "input_power"


def test_speed_is_foretold_by_the_motor_alone_where_the_machine_is_unknown(records: Records) -> None:
    record = records["booster"]
    for field in ("curve", "duty_head", "duty_flow", "best_flow", "best_efficiency"):
        record["machine"].pop(field, None)
    line = line_of(record)
    table = next(s for s in assess(line).steps if s.id == "turn.step_up").table
    assert table is not None
    assert table.missing
    assert [set(row) for row in table.expected] == [{"speed"}] * len(table.references)
    full = float(table.expected[-1]["speed"])
    assert 1455.0 < full < 1500.0  # between full load and none
    no_plate = line_of({**record, "motor": {}})
    bare = next(s for s in assess(no_plate).steps if s.id == "turn.step_up").table
    assert bare is not None
    assert bare.expected == ()


def test_limits_that_were_decided_are_tried_by_hand(booster: Line) -> None:
    assert "turn.limits" not in {s.id for s in assess(booster).steps}
    told = {"limits.minimum_speed": Told(35.0, "decided", "Ana"), "limits.maximum_speed": Told(45.0, "decided", "Ana")}
    decided = in_force(booster, OnSite(told, {}, told))
    step = next(s for s in assess(decided).steps if s.id == "turn.limits")
    turned = next(s for s in assess(decided).steps if s.id == "turn.rotation")
    assert "35" in turned.title
    assert "35" in turned.what.text()
    assert [float(r.expected) for r in step.readings if r.expected is not None] == [35.0, 45.0]


def test_contacts_beside_the_start_are_on_the_wiring_list(booster: Line) -> None:
    more = booster.with_values(control={"setpoints": "two", "setpoint_2": 3e5, "local_orders": "contact"})
    assert "setpoint contact and the hand/off/auto switch" in items(assess(more), "isolate.wiring")["orders"]
    assert "orders" not in items(assess(booster), "isolate.wiring")
