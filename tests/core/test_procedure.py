"""The run sheet: safe order, holds that hold, clocks by the given time, staleness from the graph."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.errors import BadEntry
from mainspring.core.line import Line, parse_line
from mainspring.core.procedure import Evidence, Held, Step, StepState, judge_evidence, sheet_status
from mainspring.demo.evidence import answers
from tests.conftest import line_of

START = datetime(2026, 1, 5, 8, 0, tzinfo=UTC)


def sheet(line: Line, evidence: list[Evidence]) -> dict[str, Any]:
    return {s.step.id: s for s in sheet_status(assess(line).steps, evidence, line)}


def done(line: Line, upto: str = "") -> list[Evidence]:
    """Evidence of every step up to and with one (all when empty)."""
    kept: list[Evidence] = []
    moment = START
    for step in assess(line).steps:
        if step.proof == "photo":
            kept.append(judge_evidence(step, "photo", {"photo": "p1"}, "Ana", moment, kept))
            continue
        for kind, data, wait in answers(step):
            moment += timedelta(seconds=60 + wait)
            kept.append(judge_evidence(step, kind, data, "Ana", moment, kept))
        if step.id == upto:
            break
    return kept


def step_of(line: Line, step_id: str) -> Step:
    return next(s for s in assess(line).steps if s.id == step_id)


@pytest.mark.parametrize("name", ["booster", "filter", "irrigation", "planted"])
def test_no_step_comes_before_what_guards_it(name: str, records: dict[str, Any]) -> None:
    seen: set[str] = set()
    for step in assess(line_of(records[name])).steps:
        assert set(step.after) <= seen, step.id
        seen.add(step.id)
    order = [s.id for s in assess(line_of(records[name])).steps]
    for first, then in [
        ("isolate.lock_out", "isolate.capacitors"),
        ("isolate.capacitors", "isolate.absence"),
        ("isolate.absence", "isolate.wiring"),
        ("power.line_volts", "power.energise"),
        ("data.limits", "turn.rotation"),
        ("turn.rotation", "turn.step_up"),
    ]:
        assert order.index(first) < order.index(then)


def test_dangers_are_shown_at_the_step(booster: Line) -> None:
    told = {s.id: s.danger for s in assess(booster).steps}
    for step_id, words in [
        ("isolate.capacitors", "Stored charge"),
        ("power.energise", "Arc flash"),
        ("data.limits", "starts by itself"),
        ("turn.rotation", "about to turn"),
        ("turn.fill", "hammer"),
        ("loop.hold", "heats its water"),
    ]:
        assert words in told[step_id]


def test_only_the_first_step_is_open_at_the_beginning(booster: Line) -> None:
    states = [s.state for s in sheet(booster, []).values()]
    assert states[0] is StepState.NEXT
    assert set(states[1:]) == {StepState.LATER}


def test_everything_done_is_done(booster: Line) -> None:
    assert {s.state for s in sheet(booster, done(booster)).values()} == {StepState.DONE}


def test_the_clock_cannot_be_cut_short(booster: Line) -> None:
    step = step_of(booster, "isolate.capacitors")
    started = judge_evidence(step, "start", {}, "Ana", START, [])
    with pytest.raises(Held, match="4 min 59 s left"):
        judge_evidence(step, "tick", {}, "Ana", START + timedelta(seconds=1.5), [started])
    with pytest.raises(Held, match="not been started"):
        judge_evidence(step, "tick", {}, "Ana", START, [])
    assert judge_evidence(step, "tick", {}, "Ana", START + timedelta(seconds=300), [started]).passed


def test_starting_the_clock_again_starts_it_again(booster: Line) -> None:
    step = step_of(booster, "isolate.capacitors")
    first = judge_evidence(step, "start", {}, "Ana", START, [])
    again = judge_evidence(step, "start", {}, "Ana", START + timedelta(seconds=200), [first])
    with pytest.raises(Held, match="3 min 20 s"):
        judge_evidence(step, "tick", {}, "Ana", START + timedelta(seconds=300), [first, again])


def test_without_a_label_ten_minutes_are_kept_and_marked_assumed(records: dict[str, Any]) -> None:
    del records["booster"]["drive"]["discharge_time"]
    step = step_of(line_of(records["booster"]), "isolate.capacitors")
    assert step.seconds is not None
    assert float(step.seconds) == 600
    assert step.seconds.assumptions


@pytest.mark.common_practice
@pytest.mark.parametrize(("volts", "passes"), [(49.9, True), (50.0, False), (230.0, False)])
def test_absence_of_voltage_passes_only_below_fifty_volts(volts: float, passes: bool, booster: Line) -> None:
    step = step_of(booster, "isolate.absence")
    readings = {r.id: 0.1 for r in step.readings} | {"dc": volts}
    assert judge_evidence(step, "readings", readings, "Ana", START, []).passed is passes


def test_a_failed_reading_holds_what_comes_after(booster: Line) -> None:
    kept = done(booster, "isolate.capacitors")
    step = step_of(booster, "isolate.absence")
    live = judge_evidence(
        step, "readings", {r.id: 230.0 for r in step.readings}, "Ana", START + timedelta(hours=1), kept
    )
    states = sheet(booster, [*kept, live])
    assert states["isolate.absence"].state is StepState.FAILED
    assert states["isolate.wiring"].state is StepState.LATER


def test_no_energising_while_a_stop_stands_at_supply_and_drive(records: dict[str, Any]) -> None:
    records["booster"]["drive"]["input_voltage_high"] = 240.0
    records["booster"]["drive"]["input_voltage_low"] = 200.0
    line = line_of(records["booster"])
    states = sheet(line, done(line, "power.line_volts"))
    assert states["power.energise"].state is StepState.HELD
    assert states["power.energise"].held_by == ("Supply is too high for this drive",)


def test_wrong_rotation_is_kept_and_does_not_open_the_step_up(booster: Line) -> None:
    kept = done(booster, "data.identification")
    step = step_of(booster, "turn.rotation")
    wrong = judge_evidence(step, "choice", {"choice": "wrong"}, "Ana", START + timedelta(hours=2), kept)
    states = sheet(booster, [*kept, wrong])
    assert states["turn.rotation"].state is StepState.FAILED
    assert states["turn.fill"].state is StepState.LATER
    right = judge_evidence(step, "choice", {"choice": "right"}, "Ana", START + timedelta(hours=3), kept)
    assert sheet(booster, [*kept, wrong, right])["turn.fill"].state is StepState.NEXT


def test_the_step_up_is_complete_with_its_full_speed_row(booster: Line) -> None:
    kept = done(booster, "turn.fill")
    step = step_of(booster, "turn.step_up")
    assert step.table is not None
    *lower, full = answers(step)
    for kind, data, _ in lower:
        kept.append(judge_evidence(step, kind, data, "Ana", START + timedelta(hours=2), kept))
    assert sheet(booster, kept)["turn.step_up"].state is StepState.NEXT
    kept.append(judge_evidence(step, full[0], full[1], "Ana", START + timedelta(hours=2, minutes=1), kept))
    assert sheet(booster, kept)["turn.step_up"].state is StepState.DONE


MODEL = {"data.limits", "loop.hold", "loop.low_limit", "loop.sleep_below"}  # what the machine's model tells
STALE = [
    ("motor.rated_speed", 1450.0, {"data.motor", "data.identification", "turn.step_up", *MODEL}),
    ("motor.rated_voltage", 415.0, {"data.motor", "data.identification"}),
    ("motor.type", "permanent_magnet", {"data.motor", "data.identification"}),
    ("supply.voltage", 415.0, {"power.line_volts", "power.energise"}),
    ("supply.frequency", 60.0, {"power.region"}),
    ("drive.discharge_time", 600.0, {"isolate.capacitors"}),
    ("drive.input_voltage_high", 500.0, {"power.energise"}),
    ("machine.best_flow", 0.01, {"turn.step_up"}),
    ("machine.curve_speed", 1450.0, {"turn.step_up", *MODEL}),
    ("system.static_head", 10.0, {"turn.step_up"}),
    ("system.suction_pressure", 0.4e5, {"turn.step_up", *MODEL}),
    ("sensor.range_high", 16e5, {"signals.input", "signals.sensor", "loop.wakes"}),
    ("sensor.signal", "0-10V", {"isolate.wiring", "signals.input", "signals.sensor"}),
    ("sensor.input_switch", "voltage", {"signals.input"}),
    ("sensor.height", 2.0, MODEL),
    (
        "control.setpoint",
        3.5e5,
        {"isolate.precharge", "signals.sensor", "loop.action", "loop.steady", "loop.wakes", *MODEL},
    ),
    ("drive.rated_current", 16.0, set()),
]


@pytest.mark.parametrize(("path", "value", "stale"), STALE)
def test_a_changed_value_makes_exactly_the_dependent_evidence_stale(
    path: str, value: float | str, stale: set[str], booster: Line
) -> None:
    kept = done(booster)
    group, name = path.split(".")
    was = booster.value(path)
    after = sheet(booster.with_values(**{group: {name: value}}), kept)
    assert {i for i, s in after.items() if s.state is StepState.STALE} == stale
    for step in stale:
        assert (path, was, value) in [(c.field, c.was, c.now) for c in after[step].changed]
        assert after[step].evidence  # never deleted


def test_changed_back_it_is_fresh_again(booster: Line) -> None:
    kept = done(booster)
    there_and_back = booster.with_values(motor={"rated_speed": 1450.0}).with_values(motor={"rated_speed": 1455.0})
    assert StepState.STALE not in {s.state for s in sheet(there_and_back, kept).values()}


def test_the_practice_of_the_house_makes_stale_what_was_proven_by_the_trades(
    booster: Line, records: dict[str, Any]
) -> None:
    kept = done(booster)
    own = {"line_fill_time": {"value": 600.0}, "low_limit_above": {"value": 2.0}}
    changed, _ = parse_line({**records["booster"], "site": {**records["booster"].get("site", {}), **own}})
    after = sheet(changed, kept)
    stale = {i for i, s in after.items() if s.state is StepState.STALE}
    assert {"turn.fill", "loop.low_limit", "loop.sleep_below"} <= stale
    assert "turn.rotation" not in stale
    assert [(c.field, c.was, c.now) for c in after["turn.fill"].changed] == [("site.line_fill_time", 180.0, 600.0)]
    as_before, _ = parse_line(records["booster"])
    assert not {i for i, s in sheet(as_before, kept).items() if s.state is StepState.STALE}


def test_a_value_taken_away_makes_stale_too(booster: Line, records: dict[str, Any]) -> None:
    kept = done(booster)
    del records["booster"]["drive"]["discharge_time"]
    assert sheet(line_of(records["booster"]), kept)["isolate.capacitors"].state is StepState.STALE


@pytest.mark.parametrize(
    ("step_id", "kind", "data", "words"),
    [
        ("isolate.lock_out", "readings", {}, "allowed: tick"),
        ("turn.rotation", "choice", {"choice": "sideways"}, "right, wrong"),
        ("isolate.absence", "readings", {"l1_l2": "x"}, "L1 to L2"),
        ("isolate.absence", "readings", {"l1_l2": -3.0}, "not below 0"),
        ("isolate.absence", "readings", {"l1_l2": float("nan")}, "a reading in V"),
        ("turn.step_up", "row", {"reference": 33.0, "speed": 900.0}, "10 Hz"),
        ("turn.step_up", "row", {"reference": 50.0}, "at least one reading"),
    ],
)
def test_bad_evidence_is_refused_by_name(
    step_id: str, kind: str, data: dict[str, Any], words: str, booster: Line
) -> None:
    with pytest.raises(BadEntry, match=words):
        judge_evidence(step_of(booster, step_id), kind, data, "Ana", START, [])


def test_evidence_needs_a_name(booster: Line) -> None:
    with pytest.raises(BadEntry, match="who did it"):
        judge_evidence(step_of(booster, "isolate.lock_out"), "tick", {}, "  ", START, [])


# what a good technician would refuse otherwise


def steps_of(record: dict[str, Any], **changes: dict[str, Any]) -> dict[str, Any]:
    made = {group: dict(fields) for group, fields in record.items()}
    for group, fields in changes.items():
        made[group] = {**made.get(group, {}), **{name: {"value": v} for name, v in fields.items()}}
    return {s.id: s for s in assess(line_of(made)).steps}


def test_a_submersible_is_never_asked_to_run_below_its_lowest_speed(records: dict[str, Any]) -> None:
    table = steps_of(records["borehole"])["turn.step_up"].table
    assert [float(f) for f in table.references] == [30.0, 40.0, 45.0, 50.0]
    on_surface = steps_of(records["booster"])["turn.step_up"].table
    assert float(on_surface.references[0]) == 10.0


def test_on_two_live_wires_absence_is_proven_between_them_and_to_earth(records: dict[str, Any]) -> None:
    two = steps_of(records["booster"], supply={"phases": "1", "voltage": 230.0, "frequency": 60.0})
    assert [r.label for r in two["isolate.absence"].readings] == [
        "L1 to L2", "L1 to earth", "L2 to earth", "DC+ to DC−",
    ]  # fmt: skip
    assert [r.label for r in two["power.line_volts"].readings] == ["L1 to L2"]
    one = steps_of(records["booster"], supply={"phases": "1", "voltage": 230.0, "frequency": 50.0})
    assert one["isolate.absence"].readings[0].label == "L to N"


def test_earth_shields_and_the_supply_cable_stand_in_wiring(records: dict[str, Any]) -> None:
    items = steps_of(records["booster"])["isolate.wiring"].items
    assert "both ends" in items["shield"]
    assert "drive end only" in items["shield"]
    assert items["earth"].startswith("Protective earth of supply, drive, motor and box")
    assert "input current" in items["supply"]


@pytest.mark.parametrize(("held", "stopped"), [(1.2, 1.2), (1.2, 0.6)])
def test_to_stop_at_the_held_level_or_below_it_are_both_right(
    held: float, stopped: float, records: dict[str, Any]
) -> None:
    made = {group: dict(fields) for group, fields in records["wet_well"].items()}
    made["system"] |= {"stop_level": {"value": stopped}, "start_level": {"value": 1.6}, "high_level": {"value": 2.4}}
    made["control"] |= {"level_setpoint": {"value": held}}
    found = next(f for f in assess(line_of(made)).findings if f.id == "pit_levels_in_order")
    assert found.severity.word == "clear"


def test_whether_a_temperature_loop_cools_or_heats_is_asked_first(records: dict[str, Any]) -> None:
    made = {group: dict(fields) for group, fields in records["exhaust"].items()}
    made["control"].pop("effect")
    line = line_of(made)
    found = next(f for f in assess(line).findings if f.id == "action_is_known")
    assert found.severity.word == "unknown"
    assert found.needs == ("control.effect",)
    rows = {r.setting.id: r for r in assess(line).settings}
    assert rows["pid.action"].planned is None


def test_a_wall_that_nobody_measured_is_asked_once_a_pipeline_is_entered(records: dict[str, Any]) -> None:
    made = {group: dict(fields) for group, fields in records["booster"].items()}
    made["system"] |= {"pipe_length": {"value": 900.0}, "pipe_bore": {"value": 0.1}}
    found = next(f for f in assess(line_of(made)).findings if f.id == "surge_within_rating")
    assert set(found.needs) == {"system.pipe_wall", "system.pipe_material"}


def test_a_surge_that_asks_a_longer_ramp_changes_the_plan(records: dict[str, Any]) -> None:
    made = {group: dict(fields) for group, fields in records["booster"].items()}
    pipe = {"pipe_length": 4000.0, "pipe_bore": 0.2, "pipe_wall": 0.004, "pipe_material": "pe"}
    made["system"] |= {name: {"value": v} for name, v in pipe.items()}
    found = assess(line_of(made))
    planned = next(r.planned for r in found.settings if r.setting.id == "ramps.down")
    assert planned is not None
    assert float(planned.value) > 20.0
    assert "Ramp down is short for this pipeline" not in [f.title for f in found.findings]
