"""Practice values from both sides: each moved by a tenth would turn a verdict, a proposal or a sentence here.

The values are our own (`core/practice`); what is right about them is said by their sources there.
"""

from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.hydraulics.suction import preferred_region
from mainspring.core.line import Line
from mainspring.core.motor.current import power_from_plate, usual_full_load_current
from mainspring.core.practice import sensor
from mainspring.core.signal.loop import signal_of_pressure
from tests.conftest import line_of
from tests.core.test_checks import Record, changes_of, judged, plain


def says(record: Record, check: str, changes: str) -> str:
    """Severity, title, reason and advice of one check on the changed record."""
    found = judged(record, check, **changes_of(changes))
    assert found is not None
    text = f"{found.severity.word}: {found.title}. {found.because.text()} {found.do.text() if found.do else ''}"
    return text.replace("\u202f", " ")


# slip and speed


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ("motor.rated_speed=1493.7", "clear"),
        ("motor.rated_speed=1494.3", "caution: Very little slip"),
        ("motor.rated_speed=1496.9", "caution: Very little slip"),
        ("motor.rated_speed=1497.1", "stop: Speed is the synchronous speed"),
        ("motor.rated_speed=1235 motor.rated_power=750", "clear"),
        ("motor.rated_speed=1225 motor.rated_power=750", "stop: Speed belongs to no number of poles"),
        ("motor.rated_speed=1400 motor.rated_power=950", "clear"),
        ("motor.rated_speed=1400 motor.rated_power=1050", "stop"),
        ("motor.rated_speed=490", "clear"),
    ],
)
def test_slip(changes: str, words: str, records: dict[str, Record]) -> None:
    assert words in says(records["booster"], "speed_leaves_slip", changes)


@pytest.mark.parametrize(
    ("power", "speed", "proposed"),
    [
        (1.4e3, 1500.0, 1425.0),
        (1.6e3, 1500.0, 1440.0),
        (3.7e3, 1500.0, 1440.0),
        (4.2e3, 1500.0, 1450.0),
        (10.2e3, 1500.0, 1450.0),
        (11.5e3, 1500.0, 1470.0),
        (42e3, 1500.0, 1470.0),
        (47e3, 1500.0, 1480.0),
    ],
)
def test_the_slip_to_expect(power: float, speed: float, proposed: float, records: dict[str, Record]) -> None:
    found = judged(records["booster"], "speed_leaves_slip", motor={"rated_speed": speed, "rated_power": power})
    assert found is not None
    assert found.fix is not None
    assert found.fix.value == proposed


def test_the_slip_to_expect_of_a_fast_large_motor(records: dict[str, Record]) -> None:
    motor = {"rated_speed": 3600.0, "rated_power": 75e3, "rated_frequency": 60.0}
    found = judged(records["booster"], "speed_leaves_slip", motor=motor)
    assert found is not None
    assert found.fix is not None
    assert found.fix.value == 3555.0


# the plate against itself


def amps_for(record: Record, ratio: float) -> float:
    """Amps at which the plate's volts and amps make so many times its power."""
    motor = line_of(record).motor
    plate = power_from_plate(motor.rated_voltage, 1.0, motor.power_factor, motor.efficiency)
    return ratio * float(motor.rated_power) / float(plate)


@pytest.mark.parametrize(
    ("ratio", "words"),
    [
        (0.82, "caution: Plate disagrees"),
        (0.79, "stop: Plate disagrees"),
        (1.24, "caution: Plate disagrees"),
        (1.27, "stop: Plate disagrees"),
        (1.075 * 3**0.5, "It fits 230.9 V"),
        (1.085 * 3**0.5, "It fits 200 V"),
        (0.111, "Amps are a decade off"),
        (0.113, "stop: Plate disagrees"),
        (1.046 * 0.74570, "Power may be horsepower entered as kilowatts"),
        (1.054 * 0.74570, "stop: Plate disagrees"),
    ],
)
def test_the_plate_against_itself(ratio: float, words: str, records: dict[str, Record]) -> None:
    booster = records["booster"]
    assert words in says(booster, "plate_agrees_with_itself", f"motor.rated_current={amps_for(booster, ratio):.5g}")


@pytest.mark.parametrize(
    ("power", "ratio", "words"),
    [
        (5500.0, 0.077, "would fit"),
        (5500.0, 0.073, "Read power with its unit"),
        (5500.0, 0.128, "would fit"),
        (5500.0, 0.132, "Read power with its unit"),
        (5500.0, 1.732 * 0.92, "other connection"),
        (5500.0, 1.732 * 0.88, "far from the table"),
        (5500.0, 2.0 * 1.08, "other connection"),
        (5500.0, 2.0 * 1.12, "far from the table"),
        (3000.0, 1.55, "clear"),
        (3000.0, 1.57, "clear"),
        (3000.0, 1.65, "other connection"),
        (3900.0, 1.5, "clear"),
        (4200.0, 1.5, "far from the table"),
    ],
)
def test_amps_against_the_table(power: float, ratio: float, words: str, records: dict[str, Record]) -> None:
    amps = ratio * float(usual_full_load_current(power, 400.0, 50.0))
    changes = f"motor.power_factor=- motor.rated_power={power} motor.rated_current={amps:.5g}"
    assert words in says(records["booster"], "amps_near_table", changes)


def test_magnets_and_service_amps(records: dict[str, Record]) -> None:
    assert "stop" in says(records["fan_wall"], "magnet_speed_is_synchronous", "motor.rated_speed=1769.2")
    found = judged(records["borehole"], "service_factor_amps_fit", motor={"service_factor_current": 30.0})
    assert found is not None
    assert found.fix is not None
    full = float(line_of(records["borehole"]).motor.rated_current)
    assert found.fix.value == round(1.12 * full, 2)


# sensors and supply


@pytest.mark.parametrize("figure", sensor.STANDARD_RANGES, ids=lambda f: f"{float(f) / 1e5:g} bar")
def test_every_standard_range_is_recognised_by_a_gauge(figure: float, records: dict[str, Record]) -> None:
    bar = {1.0: 1e5, 1.6: 1.6e5, 2.5: 2.5e5, 4.0: 4e5, 6.0: 6e5, 10.0: 1e6, 16.0: 1.6e6, 25.0: 2.5e6, 40.0: 4e6}
    true = min(bar.values(), key=lambda r: abs(r - float(figure)))
    signal = float(signal_of_pressure(0.6 * true, 0.0, true))
    check = {"range_low": 0.0, "range_high": 1.9 * true, "check_pressure": 0.6 * true, "check_signal": signal}
    found = judged(records["booster"], "range_agrees_with_gauge", sensor=check)
    assert found is not None
    assert found.fix is not None
    assert found.fix.value == true


@pytest.mark.parametrize(("share", "proposed"), [(0.057, 1e6), (0.063, None), (-0.057, 1e6), (-0.063, None)])
def test_a_span_near_a_standard_range_is_taken_for_it(
    share: float, proposed: float | None, records: dict[str, Record]
) -> None:
    signal = float(signal_of_pressure(6e5, 0.0, 1e6 / (1 + share)))
    check = {"range_low": 0.0, "range_high": 2.5e6, "check_pressure": 6e5, "check_signal": signal}
    found = judged(records["booster"], "range_agrees_with_gauge", sensor=check)
    assert found is not None
    assert (None if found.fix is None else found.fix.value) == proposed


@pytest.mark.parametrize(
    ("base", "check", "changes", "words"),
    [
        ("booster", "label_is_what_was_ordered", "sensor.range_ordered=990600", "clear"),
        ("booster", "label_is_what_was_ordered", "sensor.range_ordered=989500", "stop"),
        ("booster", "range_agrees_with_gauge", "sensor.check_signal=0.00911", "clear"),
        ("booster", "range_agrees_with_gauge", "sensor.check_signal=0.00913", "stop"),
        ("booster", "setpoint_within_range", "sensor.range_high=2.1e+06", "50 % to 80 % is usual"),
        ("booster", "input_tells_finely", "sensor.bits=-", "One step of 12 bits"),
        ("booster", "sensor_place_beside_power", "sensor.place=beside_power", "take 300 mm"),
        ("booster", "sensor_place_far", "sensor.place=far", "More than 3 m"),
        ("booster", "supply_is_balanced", "supply.reading_12=371.5 supply.reading_23=400", "caution"),
        ("booster", "supply_is_balanced", "supply.reading_12=369.8 supply.reading_23=400", "stop"),
        ("booster", "harmonics_are_bearable", "supply.reactor=none supply.fault_current=415", "clear"),
        ("booster", "harmonics_are_bearable", "supply.reactor=none supply.fault_current=440", "caution"),
        ("booster", "supply_volts_suit_drive", "supply.voltage=800", "the other tap"),
        ("booster", "supply_volts_suit_drive", "supply.voltage=740", "another supply"),
        ("booster", "supply_volts_suit_drive", "supply.voltage=870 drive.input_voltage_high=400", "the other tap"),
        ("booster", "supply_volts_suit_drive", "supply.voltage=890 drive.input_voltage_high=400", "another supply"),
        ("booster", "phases_suit_drive", "supply.phases=1", "about 50 %"),
        ("booster", "current_limit_fits", "drive.current_limit=12.6 motor.service_factor=1.15", "caution"),
        ("booster", "current_limit_fits", "drive.current_limit=12.7 motor.service_factor=1.15", "stop"),
        ("booster", "current_limit_fits", "drive.current_limit=12.7 motor.service_factor=1.15", "1.15 × plate only"),
        ("booster", "current_limit_fits", "drive.current_limit=11.05", "stop"),
        ("booster", "current_limit_fits", "drive.current_limit=11", "clear"),
        ("booster", "drive_plate_agrees", "drive.rated_current=24.7", "clear"),
        ("booster", "duty_suits_load", "line.load=clogging", "heavy-duty amps: 150 % for 60 s"),
        ("booster", "voltage_pair_agrees", "motor.other_voltage=690 motor.other_current=5.972", "clear"),
        ("booster", "voltage_pair_agrees", "motor.other_voltage=690 motor.other_current=5.95", "stop"),
        ("circulator", "circulator_makes_difference", "control.dp_place=pump control.setpoint=218000", "clear"),
        ("circulator", "circulator_makes_difference", "control.dp_place=pump control.setpoint=221000", "caution"),
        ("booster", "precharge_suits_setpoint", "control.setpoint=155000 system.tank_precharge=10000", "would be 1.08"),
        ("booster", "precharge_suits_setpoint", "control.setpoint=165000 system.tank_precharge=10000", "be 0.27"),
        ("booster", "precharge_suits_setpoint", "system.tank_precharge=200000", "1.38 bar below"),
        ("booster", "precharge_suits_setpoint", "system.tank_precharge=200000", "70 % of it 2.8 bar"),
        ("booster", "tank_is_large_enough", "system.tank_volume=0.05", "3 min of leak"),
        ("booster", "least_flow_is_kept", "machine.least_flow=0.0058", "less than 8 K"),
        ("booster", "surge_within_rating", "system.pipe_length=4000 system.pipe_bore=0.2 system.pipe_wall=0.004"
         " system.pipe_material=pe control.ramp_down=20", "within 20 % of the head"),
    ],
)  # fmt: skip
def test_what_is_usual_is_said(base: str, check: str, changes: str, words: str, records: dict[str, Record]) -> None:
    assert words in says(records[base], check, changes)


def test_what_a_loop_is_taken_to_be_while_nothing_is_known(records: dict[str, Record]) -> None:
    bare = dict.fromkeys(("loop_supply", "transmitter_minimum", "input_resistance", "cable_area"))
    found = judged(records["booster"], "loop_has_volts_left", sensor={**bare, "cable_length": 900.0})
    assert found is not None
    numbers = found.because.figures
    assert float(numbers["limit"]) == pytest.approx((24 - 10) / 0.0215, rel=1e-3)  # NAMUR NE 43: 21.5 mA
    wire = 2 * 900.0 * 0.0175e-6 / 0.75e-6  # copper, there and back
    assert float(numbers["total"]) == pytest.approx(250 + wire, rel=6e-3)


def test_the_air_through_a_box_is_warmed_by_ten_kelvin_where_the_room_would_allow_more(
    records: dict[str, Record],
) -> None:
    box = {"box_width": 0.6, "box_height": 1.0, "box_depth": 0.4, "box_air": 0.06, "ambient": 20.0}
    found = judged(records["booster"], "heat_gets_away", drive={"enclosure": "vented", **box})
    assert found is not None
    heat, air = found.because.figures["heat"], found.because.figures["needed"]
    # q = P / (rho c dT), air at 20 °C and the site's altitude of 140 m: 1.18 kg/m3, 1005 J/(kg K)
    assert float(air) == pytest.approx(float(heat) / (1.184 * 1005 * 10), rel=0.02)


def test_a_resonance_is_skipped_by_two_hertz_either_side(records: dict[str, Record]) -> None:
    rows = {r.setting.id: r.planned for r in assess(line_of(records["booster"])).settings}
    band = rows["limits.skip_band_1"]
    assert band is not None
    assert "then 2 Hz either side" in band.reason.text().replace("\u202f", " ")


def test_the_preferred_region_is_narrower_at_high_specific_speed() -> None:
    # ANSI/HI 9.6.3, from memory: 70 to 120 %, 80 to 115 % above N_s 4500 in US units
    assert tuple(float(v) for v in preferred_region(4400.0)) == (0.70, 1.20)
    assert tuple(float(v) for v in preferred_region(4600.0)) == (0.80, 1.15)


@pytest.mark.parametrize(
    ("base", "holds", "seconds"),
    [
        ("supply_fan", "duct", 8.0),
        ("circulator", "differential", 10.0),
        ("wet_well", "level", 120.0),
        ("supply_fan", "temperature", 180.0),
        ("filter", "flow", 5.0),
    ],
)
def test_a_slow_plant_begins_with_a_slow_controller(
    base: str, holds: str, seconds: float, records: dict[str, Record]
) -> None:
    made = plain(records[base])
    made["line"]["holds"] = holds
    for name in ("gain", "integral_time"):
        made.get("control", {}).pop(name, None)
    rows = {r.setting.id: r.planned for r in assess(line_of(made)).settings}
    time = rows["pid.integral_time"]
    assert time is not None
    assert float(time.value) == seconds
    gain = rows["pid.gain"]
    assert gain is not None
    assert float(gain.value) == (4.0 if holds == "temperature" else 0.5)


def test_the_house_has_its_own_gain_to_begin_with_whatever_is_held(records: dict[str, Record]) -> None:
    made = plain(records["tower"])
    made.setdefault("site", {})["starting_gain"] = {"value": 1.5}
    made.get("control", {}).pop("gain", None)
    gain = {r.setting.id: r.planned for r in assess(line_of(made)).settings}["pid.gain"]
    assert gain is not None
    assert float(gain.value) == 1.5


# steps


def steps(record: Record) -> dict[str, Any]:
    made = plain(record)
    made["drive"].pop("discharge_time", None)
    line: Line = line_of(made)
    return {s.id: s for s in assess(line).steps}


def test_what_keeps_people_safe(records: dict[str, Record]) -> None:
    of = steps(records["booster"])
    assert {r.high for r in of["isolate.absence"].readings} == {50.0}
    assert float(of["isolate.capacitors"].seconds) == 600.0
    assert of["turn.rotation"].title.replace("\u202f", " ").startswith("Rotation at 6 Hz")
    assert "jog about 6 Hz" in of["turn.rotation"].what.text().replace("\u202f", " ")


def test_what_the_first_turn_goes_by(records: dict[str, Record]) -> None:
    of, well = steps(records["booster"]), steps(records["borehole"])
    pressure, time = of["turn.fill"].readings
    assert (pressure.low, time.high) == (0.7e5, 180.5)
    waste = " ".join(s.what.text() for s in well.values() if s.id.startswith("turn."))
    assert "45" in waste
