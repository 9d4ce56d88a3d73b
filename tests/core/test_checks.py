"""Every check on both sides of its threshold, on a line that is otherwise right."""

from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Finding
from mainspring.core.checks.finding import CHECKS
from mainspring.core.line import Choice, Line, find_field
from tests.conftest import line_of

Record = dict[str, dict[str, Any]]


def judged(record: Record, check: str, **changes: dict[str, Any]) -> Finding | None:
    """The finding of one check on the record with values changed (None takes one away)."""
    plain = {g: {n: e["value"] if isinstance(e, dict) else e for n, e in f.items()} for g, f in record.items()}
    for group, values in changes.items():
        for name, value in values.items():
            if value is None:
                plain.get(group, {}).pop(name, None)
            else:
                plain.setdefault(group, {})[name] = value
    return next((f for f in assess(line_of(plain)).findings if f.id == check), None)


def changes_of(text: str) -> dict[str, dict[str, Any]]:
    """Changes from "motor.rated_speed=1450 sensor.input_switch=current"."""
    changes: dict[str, dict[str, Any]] = {}
    for pair in text.split():
        path, value = pair.split("=")
        group, name = path.split(".")
        choice = isinstance(find_field(path), Choice)
        changes.setdefault(group, {})[name] = None if value == "-" else value if choice else float(value)
    return changes


# check; changes that are just right; changes that are just wrong ("-" takes a value away); severity then; words
BOTH_SIDES = [
    ("speed_leaves_slip", "motor.rated_speed=1450",
     "motor.rated_speed=1500", "stop", "1500 r/min leaves no slip at 50 Hz and 4 poles"),
    ("speed_leaves_slip", "motor.rated_speed=2900",
     "motor.rated_speed=3000", "stop", "2 poles"),
    ("speed_leaves_slip", "motor.rated_speed=1411",
     "motor.rated_speed=1409", "stop", "at most 6 %"),
    ("speed_leaves_slip", "motor.rated_speed=1493",
     "motor.rated_speed=1495", "caution", "below 1500 r/min"),
    ("plate_agrees_with_itself", "motor.rated_current=11.9",
     "motor.rated_current=12.2", "caution", "the plate says 5.5 kW"),
    ("plate_agrees_with_itself", "motor.rated_current=9.8",
     "motor.rated_current=9.6", "caution", "which needs 10.8 A"),
    ("plate_agrees_with_itself", "motor.rated_current=11",
     "motor.rated_current=18.9", "stop", "It fits 230.9 V"),
    ("plate_agrees_with_itself", "motor.rated_current=11",
     "motor.rated_current=1.1", "stop", "1.1 A at 400 V"),
    ("plate_agrees_with_itself", "motor.rated_current=11",
     "motor.rated_power=7376", "stop", "the plate says 7.38 kW"),
    ("power_factor_is_possible", "motor.power_factor=- motor.rated_current=9.4",
     "motor.power_factor=- motor.rated_current=9.2", "stop", "would need a power factor of"),
    ("power_factor_is_possible", "motor.power_factor=- motor.rated_current=14.7",
     "motor.power_factor=- motor.rated_current=14.9", "stop", "only 0.5"),
    ("efficiency_fits_class", "motor.efficiency=0.877",
     "motor.efficiency=0.875", "caution", "IE3 at 5.5 kW and 4 poles is 89.6 %"),
    ("supply_volts_suit_drive", "supply.voltage=528",
     "supply.voltage=529", "stop", "destroyed at first power"),
    ("supply_volts_suit_drive", "supply.voltage=342",
     "supply.voltage=341", "stop", "on a drive for 380 V to 480 V"),
    ("supply_volts_suit_drive", "drive.input_voltage_low=380",
     "drive.input_voltage_low=481", "stop", "starts at 481 V"),
    ("phases_suit_drive", "supply.phases=3",
     "supply.phases=1", "stop", "50 %"),
    ("phases_suit_drive", "drive.input_phases=3",
     "drive.input_phases=1", "stop", "one phase only"),
    ("frequency_of_region", "motor.rated_frequency=50",
     "motor.rated_frequency=60 motor.rated_speed=1755", "caution", "the plate says 60 Hz"),
    ("supply_is_balanced", "supply.reading_12=411.9 supply.reading_23=400 supply.reading_31=400",
     "supply.reading_12=412.5 supply.reading_23=400 supply.reading_31=400", "caution", "between the lines"),
    ("supply_is_balanced", "supply.reading_12=400",
     "supply.reading_12=435 supply.reading_23=400 supply.reading_31=400", "stop", "nothing should run"),
    ("supply_is_balanced", "supply.reading_12=400",
     "supply.reading_12=445 supply.reading_23=443 supply.reading_31=445", "stop", "400 V nominal"),
    ("drive_carries_motor_amps", "drive.rated_current=10.9",
     "drive.rated_current=10.8", "stop", "The motor draws 10.9 A"),
    ("drive_carries_motor_amps", "drive.ambient=49 drive.rated_current=13.3",
     "drive.ambient=49 drive.rated_current=13.2", "stop", "13.2 A rated"),
    ("drive_carries_motor_amps", "drive.rated_current=21.7",
     "drive.rated_current=21.9", "caution", "21.9 A"),
    ("drive_makes_motor_volts", "motor.rated_voltage=440",
     "motor.rated_voltage=690", "stop", "needs 690 V"),
    ("drive_makes_motor_volts", "motor.rated_voltage=360",
     "motor.rated_voltage=230", "stop", "is for 230 V"),
    ("current_limit_fits", "drive.current_limit=10.9",
     "drive.current_limit=13", "stop", "no service factor"),
    ("current_limit_fits", "drive.current_limit=10.9",
     "drive.current_limit=15.1", "stop", "the drive gives 15 A"),
    ("current_limit_fits", "drive.current_limit=7.7",
     "drive.current_limit=7.5", "caution", "may not reach full speed"),
    ("motor_lead_is_short", "drive.lead_length=30",
     "drive.lead_length=30.1", "caution", "reflected peak"),
    ("motor_lead_is_short", "drive.lead_length=30",
     "drive.lead_length=151", "caution", "151 m"),
    ("motor_drives_pump", "machine.duty_head=43.9",
     "machine.duty_head=44.1", "stop", "the motor is rated 5.5 kW"),
    ("motor_drives_pump", "machine.duty_head=18",
     "machine.duty_head=17", "caution", "load"),
    ("run_out_within_motor", "motor.rated_power=5500",
     "motor.rated_power=4700", "caution", "with little back-pressure"),
    ("pump_reaches_setpoint", "control.setpoint=420000",
     "control.setpoint=430000", "caution", "the setpoint needs"),
    ("pump_reaches_setpoint", "control.setpoint=420000",
     "control.setpoint=560000", "stop", "at no flow and full speed"),
    ("speed_range_is_useful", "control.setpoint=500000",
     "control.setpoint=520000", "caution", "no water moves"),
    ("speed_range_is_useful", "control.setpoint=500000",
     "control.setpoint=565000", "stop", "full speed is 50 Hz"),
    ("duty_near_best_efficiency", "machine.best_flow=0.0079",
     "machine.best_flow=0.0074", "caution", "preferred is 70 to 120 %"),
    ("duty_near_best_efficiency", "machine.best_flow=0.0128",
     "machine.best_flow=0.0135", "caution", "of the best"),
    ("shutoff_within_rating", "system.pressure_rating=570000",
     "system.pressure_rating=550000", "stop", "with everything shut"),
    ("leak_does_not_cycle", "system.leak=0.00013",
     "system.leak=0.00014", "caution", "empties the tank"),
    ("leak_does_not_cycle", "system.tank_precharge=320000",
     "system.tank_precharge=330000", "caution", "the tank gives no water"),
    ("label_is_what_was_ordered", "sensor.range_ordered=1e+06",
     "sensor.range_ordered=1.6e+06", "stop", "the box 16 bar"),
    ("range_agrees_with_gauge", "sensor.check_signal=0.0091",
     "sensor.check_signal=0.0092", "stop", "a span of"),
    ("range_agrees_with_gauge", "sensor.check_signal=0.0088",
     "sensor.range_high=1.6e+06 sensor.check_signal=0.0088", "stop", "a span of 10 bar"),
    ("range_agrees_with_gauge", "sensor.check_signal=0.0088",
     "sensor.check_signal=0.0035", "stop", "below 3.6 mA"),
    ("range_agrees_with_gauge", "sensor.check_signal=0.0088",
     "sensor.check_signal=0.0041", "stop", "the loop shows 4.1 mA"),
    ("setpoint_within_range", "sensor.range_high=2e+06",
     "sensor.range_high=2.1e+06", "caution", "of the range"),
    ("setpoint_within_range", "sensor.range_high=450000",
     "sensor.range_high=440000", "caution", "of the range"),
    ("setpoint_within_range", "sensor.range_high=450000",
     "sensor.range_high=390000", "stop", "would never see it"),
    ("switch_suits_signal", "sensor.input_switch=current",
     "sensor.input_switch=voltage", "stop", "read nonsense"),
]  # fmt: skip


@pytest.mark.parametrize(("check", "right", "wrong", "severity", "words"), BOTH_SIDES)
def test_check_on_both_sides(
    check: str, right: str, wrong: str, severity: str, words: str, records: dict[str, Record]
) -> None:
    fine = judged(records["booster"], check, **changes_of(right))
    assert fine is not None
    assert fine.severity.word == "clear"
    bad = judged(records["booster"], check, **changes_of(wrong))
    assert bad is not None
    assert bad.severity.word == severity
    assert words in bad.because.text().replace("\u202f", " ")
    assert bad.do is not None


def test_every_check_is_tried_on_both_sides_or_only_ever_says_one_thing() -> None:
    tried = {row[0] for row in BOTH_SIDES}
    one_sided = {"drive_power_covers_motor", "range_covers_shutoff", "action_is_known"}  # tested below
    assert {c.id for c in CHECKS} == tried | one_sided


def test_checks_that_speak_up_only_when_needed(records: dict[str, Record]) -> None:
    booster = records["booster"]
    assert judged(booster, "drive_power_covers_motor") is None
    big = judged(booster, "drive_power_covers_motor", drive={"rated_power": 5300.0})
    assert big is not None
    assert big.severity.word == "caution"
    assert judged(booster, "range_covers_shutoff") is None
    weak = judged(booster, "range_covers_shutoff", sensor={"range_high": 2.5e5})
    assert weak is not None
    assert weak.severity.word == "stop"
    action = judged(booster, "action_is_known")
    assert action is not None
    assert "4 bar reads 10.4 mA" in action.because.text()


def test_the_service_factor_school_is_allowed_as_a_decision(records: dict[str, Record]) -> None:
    found = judged(
        records["booster"], "current_limit_fits", drive={"current_limit": 12.5}, motor={"service_factor": 1.15}
    )
    assert found is not None
    assert found.severity.word == "caution"
    assert "1.147 × 10.9 A" in found.because.text()
    over = judged(
        records["booster"], "current_limit_fits", drive={"current_limit": 13.0}, motor={"service_factor": 1.15}
    )
    assert over is not None
    assert over.severity.word == "stop"  # the arithmetic of "1.15 x 10.9" does not make 13


def test_a_lost_digit_is_found_again(records: dict[str, Record]) -> None:
    us = records["irrigation"]
    found = judged(us, "speed_leaves_slip", motor={"rated_speed": 185.0})
    assert found is not None
    assert found.severity.word == "stop"
    assert found.fix is not None
    assert found.fix.value == 1785.0


def test_planted_mistakes_are_named_with_numbers_and_a_correction(records: dict[str, Record]) -> None:
    findings = assess(line_of(records["planted"])).findings
    stops = {f.title: f for f in findings if f.severity.word == "stop"}
    assert {
        "Speed is the synchronous speed",
        "Amps of the other voltage",
        "Sensor range is not what was entered",
    } <= set(stops)
    assert findings[0].title == "Speed is the synchronous speed"  # the plate before what follows from it
    fixes = {f.fix.field: f.fix.value for f in stops.values() if f.fix}
    assert fixes["sensor.range_high"] == 1.0e6
    assert fixes["motor.rated_current"] == pytest.approx(10.8, abs=0.05)


def test_corrected_the_joints_turn_clear(booster: Line) -> None:
    strip = assess(booster).strip
    assert {j.severity.word for j in strip.joints} == {"clear"}


def test_a_missing_need_reads_as_unknown_and_names_it(records: dict[str, Record]) -> None:
    found = judged(
        records["booster"], "drive_carries_motor_amps", motor={"rated_current": None}, drive={"ambient": None}
    )
    assert found is not None
    assert found.severity.word == "unknown"
    assert found.because.text() == "Needs full-load current and hottest air at the drive."
    assert found.needs == ("motor.rated_current", "drive.ambient")


def test_no_finding_is_without_source(records: dict[str, Record]) -> None:
    for record in records.values():
        for finding in assess(line_of(record)).findings:
            assert str(finding.source)


def test_altitude_unknown_is_assumed_and_marked(records: dict[str, Record]) -> None:
    found = judged(records["booster"], "drive_carries_motor_amps", site={"altitude": None})
    assert found is not None
    available = found.because.figures["available"]
    assert [a.field for a in available.assumptions] == ["site.altitude"]
