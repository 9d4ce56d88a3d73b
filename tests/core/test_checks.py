"""Every check on both sides of its threshold, on a line that is otherwise right."""

from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Finding, run_checks
from mainspring.core.checks.drive_place import PLACE
from mainspring.core.checks.finding import CHECKS
from mainspring.core.checks.system_sensor import AIR_PLACE, SENSOR_PLACE
from mainspring.core.derived import Derived
from mainspring.core.line import Choice, Flags, Line, find_field, parse_line
from tests.conftest import line_of

Record = dict[str, dict[str, Any]]


def plain(record: Record) -> Record:
    """A record of bare values, to be changed; the entries of the demo carry where they were read."""
    return {g: {n: e["value"] if isinstance(e, dict) else e for n, e in f.items()} for g, f in record.items()}


def rules(line: Line) -> list[Finding]:
    """What the checks say by themselves, before the second eye."""
    return run_checks(line, Derived(line))


def judged(record: Record, check: str, **changes: dict[str, Any]) -> Finding | None:
    """The finding of one check on the record with values changed (None takes one away)."""
    made = plain(record)
    for group, values in changes.items():
        for name, value in values.items():
            if value is None:
                made.get(group, {}).pop(name, None)
            else:
                made.setdefault(group, {})[name] = value
    return next((f for f in rules(line_of(made)) if f.id == check), None)


def changes_of(text: str) -> dict[str, dict[str, Any]]:
    """Changes from "motor.rated_speed=1450 sensor.input_switch=current"."""
    changes: dict[str, dict[str, Any]] = {}
    for pair in text.split():
        path, value = pair.split("=")
        group, name = path.split(".")
        field = find_field(path)
        found: Any = None
        if isinstance(field, Flags):
            found = None if value == "-" else [v for v in value.split("+") if v != "none"]
        elif value != "-":
            found = value if isinstance(field, Choice) else float(value)
        changes.setdefault(group, {})[name] = found
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
    ("drive_makes_motor_volts", "motor.rated_voltage=370",
     "motor.rated_voltage=300", "stop", "is for 300 V"),
    ("drive_makes_motor_volts", "motor.rated_voltage=230",  # in delta by a drive for its amps
     "motor.rated_voltage=230 drive.rated_current=10", "stop", "is for 230 V"),
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
     "motor.rated_power=4200", "caution", "with little back-pressure"),
    ("pump_reaches_setpoint", "control.setpoint=420000",
     "control.setpoint=430000", "caution", "the setpoint needs"),
    ("pump_reaches_setpoint", "control.setpoint=420000",
     "control.setpoint=560000", "stop", "at no flow and full speed"),
    ("speed_range_is_useful", "control.setpoint=500000",
     "control.setpoint=520000", "caution", "no water moves"),
    ("speed_range_is_useful", "control.setpoint=500000",
     "control.setpoint=565000", "stop", "full speed is 50 Hz"),
    ("duty_near_best_efficiency", "machine.best_flow=0.0079",
     "machine.best_flow=0.0074", "caution", "preferred is 70 % to 120 %"),
    ("duty_near_best_efficiency", "machine.best_flow=0.0128",
     "machine.best_flow=0.0135", "caution", "of the best"),
    ("shutoff_within_rating", "system.pressure_rating=570000",
     "system.pressure_rating=550000 system.relief=no", "stop", "with everything shut"),
    ("shutoff_within_rating", "system.pressure_rating=570000",
     "system.pressure_rating=550000", "caution", "with everything shut"),
    ("leak_does_not_cycle", "system.leak=0.00013",
     "system.leak=0.00014", "caution", "empties the tank"),
    ("leak_does_not_cycle", "control.wake_drop=0.08 system.tank_precharge=319000",
     "control.wake_drop=0.08 system.tank_precharge=330000", "caution", "the tank gives no water"),
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


# the same on other lines: base record first; "silent" where the right side has nothing to say
ON_OTHER_LINES: list[tuple[str, str, str, str, str, str]] = [
    ("booster", "amps_near_table", "motor.power_factor=- motor.rated_current=15.5",
     "motor.power_factor=- motor.rated_current=15.6", "caution", "11.5 A is usual"),
    ("booster", "amps_near_table", "motor.power_factor=- motor.rated_current=7.9",
     "motor.power_factor=- motor.rated_current=7.7", "caution", "is usual for 5.5 kW"),
    ("booster", "amps_near_table", "motor.power_factor=- motor.rated_current=11",
     "motor.power_factor=- motor.rated_current=109", "stop", "109 A entered"),
    ("booster", "amps_near_table", "motor.power_factor=- motor.rated_current=11",
     "motor.power_factor=- motor.rated_current=20", "stop", "20 A entered"),
    ("booster", "poles_agree_with_speed", "motor.poles=4",
     "motor.poles=2", "stop", "belongs to 4"),
    ("booster", "voltage_pair_agrees", "motor.other_voltage=690 motor.other_current=6.3",
     "motor.other_voltage=690 motor.other_current=8", "stop", "not the same power"),
    ("borehole", "service_factor_amps_fit", "motor.service_factor_current=21.4",
     "motor.service_factor_current=21.5", "stop", "1 to 1.3 is possible"),
    ("borehole", "service_factor_amps_fit", "motor.service_factor_current=16.6",
     "motor.service_factor_current=16.4", "stop", "1 to 1.3 is possible"),
    ("fan_wall", "exact_values_agree", "motor.inductance_q_again=0.0336",
     "motor.inductance_q_again=0.0363", "stop", "36.3 mH the second"),
    ("fan_wall", "exact_values_agree", "motor.inductance_q_again=0.0336",
     "motor.inductance_q_again=0.0336 motor.back_emf_again=180.1", "stop", "180.1 V the second"),
    ("fan_wall", "back_emf_is_possible", "motor.back_emf=238",
     "motor.back_emf=240", "stop", "106 % of 400 V"),
    ("fan_wall", "back_emf_is_possible", "motor.back_emf=137",
     "motor.back_emf=130", "stop", "57.2 % of 400 V"),
    ("fan_wall", "magnet_speed_is_synchronous", "motor.rated_speed=1768",
     "motor.rated_speed=1770", "stop", "turn at 1760 r/min"),
    ("wash_down", "single_phase_motor_on_drive", "motor.starting=capacitor motor.runs=single_phase",
     "motor.starting=capacitor motor.runs=induction", "stop", "start switch burn"),
    ("wash_down", "single_phase_motor_on_drive", "motor.starting=capacitor motor.runs=single_phase",
     "motor.starting=switch motor.runs=single_phase", "stop", "start winding back"),
    ("tower", "action_is_known", "control.effect=fall", "control.effect=rise", "stop", "opposite was entered"),
    ("fan_wall", "drive_runs_magnet_motor", "motor.runs=magnet",
     "motor.runs=induction", "stop", "its own control"),
    ("booster", "air_at_motor", "motor.ambient=40",
     "motor.ambient=41", "caution", "allows 40 °C"),
    ("booster", "heat_gets_away", "drive.ambient=40",
     "drive.ambient=41", "caution", "about 9.3 years of 10 years"),
    ("booster", "heat_gets_away", "drive.ambient=40",
     "drive.ambient=51", "stop", "11 K over"),
    ("booster", "heat_gets_away", "drive.enclosure=sealed drive.box_width=1 drive.box_height=1.6 drive.box_depth=0.4 drive.box_stands=wall drive.box_wall=stirred drive.ambient=28",
     "drive.enclosure=sealed drive.box_width=1 drive.box_height=1.6 drive.box_depth=0.4 drive.box_stands=wall drive.box_wall=stirred drive.ambient=29", "caution", "round the drive"),
    ("booster", "heat_gets_away", "drive.enclosure=vented drive.box_width=0.6 drive.box_height=1 drive.box_depth=0.4 drive.box_air=0.057",
     "drive.enclosure=vented drive.box_width=0.6 drive.box_height=1 drive.box_depth=0.4 drive.box_air=0.05", "caution", "the box has 0.05"),
    ("booster", "heat_gets_away", "drive.enclosure=vented drive.box_width=0.6 drive.box_height=1 drive.box_depth=0.4 drive.box_air=0.057",
     "drive.enclosure=vented drive.box_width=0.6 drive.box_height=1 drive.box_depth=0.4 drive.box_air=0.03", "stop", "the box has 0.03"),
    ("booster", "duty_suits_load", "line.load=centrifugal",
     "line.load=clogging", "stop", "110 % for 60 s"),
    ("booster", "duty_suits_load", "line.load=clogging drive.duty=heavy",
     "line.load=centrifugal drive.duty=heavy", "caution", "110 % at most"),
    ("booster", "heavy_amps_below_normal", "drive.heavy_current=14.9",
     "drive.heavy_current=15", "stop", "always the lower"),
    ("booster", "drive_plate_agrees", "drive.rated_current=24.7",
     "drive.rated_current=24.9", "caution", "15.5 A is usual"),
    ("booster", "drive_plate_agrees", "drive.rated_current=10.9",
     "drive.rated_current=10.8", "caution", "15.5 A is usual"),
    ("booster", "fault_level_is_known", "supply.fault_current=8000",
     "supply.fault_current=-", "caution", "has been entered"),
    ("booster", "fault_level_is_known", "supply.fault_current=10000",
     "supply.fault_current=10100", "stop", "10.1 kA can flow"),
    ("booster", "harmonics_are_bearable", "supply.reactor=line3",
     "supply.reactor=none", "caution", "before it"),
    ("circulator", "harmonics_are_bearable", "supply.demand_current=36",
     "supply.demand_current=36 supply.transformer_rating=- supply.fault_current=650", "caution", "the limit is 5 %"),
    ("booster", "phases_suit_drive", "supply.phases=3",
     "supply.phases=1 drive.rated_current=24", "caution", "It keeps about 50 %"),
    ("booster", "motor_stands_the_peaks", "motor.inverter_duty=no drive.lead_length=12",
     "motor.inverter_duty=no drive.lead_length=14", "caution", "1000 V allowed"),
    ("booster", "carrier_suits_lead", "drive.carrier=4000",
     "drive.carrier=8000", "caution", "of the drive's amps"),
    ("booster", "carrier_suits_lead", "drive.carrier=4000 drive.lead_length=31",
     "drive.carrier=6000 drive.lead_length=31", "caution", "more leakage to earth"),
    ("booster", "lead_is_thick_enough", "drive.lead_size=mm1.5 motor.rated_current=13.9",
     "drive.lead_size=mm1.5 motor.rated_current=14.1", "stop", "carries 17.5 A"),
    ("booster", "lead_is_thick_enough", "drive.lead_size=mm1.5 drive.lead_length=50",
     "drive.lead_size=mm1.5 drive.lead_length=60", "caution", "3 % is the target"),
    ("booster", "lead_is_thick_enough", "drive.lead_size=awg14",
     "drive.lead_size=awg14 motor.rated_current=16.1", "stop", "14 AWG carries 20 A"),
    ("borehole", "motor_lead_is_short", "drive.output_filter=sine",
     "drive.output_filter=none", "caution", "reflected peak"),
    ("supply_fan", "motor_drives_fan", "machine.air_pressure=1430",
     "machine.air_pressure=1450", "stop", "the motor is rated 15 kW"),
    ("supply_fan", "motor_drives_fan", "machine.air_pressure=520",
     "machine.air_pressure=480", "caution", "load"),
    ("supply_fan", "fan_run_out_within_motor", "motor.rated_power=14600",
     "motor.rated_power=13000", "caution", "in air of"),
    ("booster", "curve_speed_fits", "machine.curve_speed=1600",
     "machine.curve_speed=1610", "caution", "1.11"),
    ("exhaust", "curve_speed_fits", "machine.pulley_ratio=0.674",
     "machine.pulley_ratio=-", "caution", "0.674"),
    ("supply_fan", "speed_within_machine", "machine.highest_speed=1470",
     "machine.highest_speed=1469", "stop", "are allowed"),
    ("supply_fan", "ramps_suit_inertia", "control.ramp_up=8",
     "control.ramp_up=7.5", "caution", "at least 7.76 s"),
    ("supply_fan", "ramps_suit_inertia", "control.ramp_down=38",
     "control.ramp_down=37", "caution", "37.32 s down"),
    ("booster", "motor_cooled_at_low_speed", "line.load=centrifugal",
     "line.load=positive_displacement", "caution", "does not cool it"),
    ("borehole", "water_cools_submersible", "system.sleeve_bore=0.215",
     "system.sleeve_bore=0.217", "stop", "0.152 m/s are needed"),
    ("fan_wall", "drive_makes_motor_volts", "motor.type=induction motor.rated_voltage=400",
     "motor.type=induction motor.rated_voltage=315", "stop", "is for 315 V"),
    ("borehole", "bearing_stands_the_ramp", "control.ramp_up=1.6", "control.ramp_up=1.8", "caution", "1 s at most"),
    ("booster", "it_can_sleep", "control.sleep_below=45", "control.sleep_below=35", "stop", "it runs no slower than"),
    ("borehole", "sleeps_before_it_cooks", "system.sleeve_bore=-",
     "system.sleeve_bore=- control.sleep_below=40", "caution", "only above"),
    ("booster", "precharge_suits_setpoint", "system.tank_precharge=233000",
     "system.tank_precharge=230000", "caution", "below it would be"),
    ("booster", "precharge_suits_setpoint", "system.tank_precharge=312000",
     "system.tank_precharge=315000", "caution", "below it would be"),
    ("booster", "tank_is_large_enough", "system.tank_volume=0.056",
     "system.tank_volume=0.05", "caution", "20 % of one minute"),
    ("booster", "tank_is_large_enough", "system.tank_volume=0.056",
     "system.tank_volume=0.02", "caution", "need 26.3 L"),
    ("booster", "relief_is_there", "system.relief=yes",
     "system.relief=no", "caution", "stuck signal"),
    ("circulator", "circulator_makes_difference", "control.setpoint=182000",
     "control.setpoint=184000", "caution", "of the duty head"),
    ("circulator", "circulator_makes_difference", "control.setpoint=182000",
     "control.setpoint=280000", "stop", "at no flow and full speed"),
    ("supply_fan", "fan_makes_duct_pressure", "control.air_setpoint=880",
     "control.air_setpoint=900", "caution", "made at duty flow"),
    ("supply_fan", "fan_makes_duct_pressure", "control.air_setpoint=880",
     "control.air_setpoint=1200", "stop", "made at duty flow"),
    ("supply_fan", "fan_near_best", "machine.best_air_flow=12.4",
     "machine.best_air_flow=12.6", "caution", "of the best"),
    ("supply_fan", "fan_near_best", "machine.best_air_flow=5.8",
     "machine.best_air_flow=5.7", "caution", "of the best"),
    ("exhaust", "fan_stands_at_start", "system.windmills=no",
     "system.windmills=yes", "caution", "makes volts"),
    ("booster", "surge_within_rating", "system.pipe_length=40 system.pipe_bore=0.15 system.pipe_wall=0.004 system.pipe_material=pvc",
     "system.pipe_length=40 system.pipe_bore=0.1 system.pipe_wall=0.004 system.pipe_material=steel", "caution", "stopped at once"),
    ("booster", "surge_within_rating", "system.pipe_length=200 system.pipe_bore=0.2 system.pipe_wall=0.004 system.pipe_material=pe",
     "system.pipe_length=4000 system.pipe_bore=0.2 system.pipe_wall=0.004 system.pipe_material=pe control.ramp_down=20", "caution",
     "20 s planned"),
    ("booster", "npsh_is_enough", "machine.npsh_required=5.3 system.water_above_inlet=-3",
     "machine.npsh_required=5.4 system.water_above_inlet=-3", "caution", "wanted with margin"),
    ("booster", "npsh_is_enough", "machine.npsh_required=5.3 system.water_above_inlet=-3",
     "machine.npsh_required=6.5 system.water_above_inlet=-3", "stop", "the pump asks 6.5 m"),
    ("booster", "least_flow_is_kept", "machine.least_flow=0.0056",
     "machine.least_flow=0.0058", "caution", "of best flow"),
    ("set", "pumps_share_the_flow", "machine.duty_head=47",
     "machine.duty_head=47.5", "caution", "head rises only"),
    ("wet_well", "pit_levels_in_order", "control.level_setpoint=2",
     "control.level_setpoint=2.1", "stop", "hold 2.1 m"),
    ("wet_well", "pit_is_large_enough", "system.start_level=0.97",
     "system.start_level=0.95", "caution", "at the worst inflow"),
    ("wet_well", "pit_is_large_enough", "system.start_level=0.97",
     "system.start_level=0.6", "stop", "stop 0.6 m"),
    ("booster", "input_tells_finely", "sensor.bits=10",
     "sensor.bits=9", "caution", "of 4 bar"),
    ("booster", "second_setpoint_works", "control.setpoints=two control.setpoint_2=390000",
     "control.setpoints=two control.setpoint_2=1700000", "stop", "would never see it"),
    ("booster", "second_setpoint_works", "control.setpoints=two control.setpoint_2=390000",
     "control.setpoints=two control.setpoint_2=440000", "caution", "the setpoint needs"),
    ("booster", "rests_at_second_setpoint", "control.setpoints=two control.setpoint_2=400000",
     "control.setpoints=two control.setpoint_2=440000", "caution", "with its contact made"),
    ("booster", "rests_at_second_setpoint", "control.setpoints=two control.setpoint_2=400000",
     "control.setpoints=two control.setpoint_2=240000", "caution", "builds up"),
    ("supply_fan", "setpoint_within_range", "control.air_setpoint=900",
     "control.air_setpoint=1000", "stop", "would never see it"),
    ("wet_well", "setpoint_within_range", "control.level_setpoint=1.1",
     "control.level_setpoint=0.9", "caution", "of the range"),
    ("exhaust", "setpoint_within_range", "control.temperature_setpoint=50",
     "control.temperature_setpoint=55", "caution", "of the range"),
    ("booster", "loop_has_volts_left", "sensor.cable_length=89",
     "sensor.cable_length=91", "caution", "common practice"),
    ("booster", "loop_has_volts_left", "sensor.cable_length=80",
     "sensor.cable_length=700 sensor.loop_supply=15", "stop", "drives at most"),
    ("fan_wall", "loop_has_volts_left", "sensor.cable_length=30",
     "sensor.cable_length=31", "caution", "loses volts"),
    ("irrigation", "efficiency_fits_class", "motor.ie_class=IE3 motor.rated_power=2200 motor.rated_speed=1750 motor.efficiency=0.895",
     "motor.ie_class=IE3 motor.rated_power=2200 motor.rated_speed=1750 motor.efficiency=0.867", "caution", "is 89.5 %"),
    ("wet_well", "pump_lifts_static_head", "system.static_head=8",
     "system.static_head=18", "stop", "18 m stand against it"),
    ("wet_well", "pump_lifts_static_head", "system.static_head=11.9",
     "system.static_head=12.1", "stop", "its duty head is 12 m"),
    ("wet_well", "action_is_known", "control.effect=fall",
     "control.effect=rise", "stop", "more speed lowers the level"),
    ("booster", "action_is_known", "control.effect=rise",
     "control.effect=fall", "stop", "more speed raises the pressure"),
    ("circulator", "action_is_known", "control.effect=-",
     "control.effect=fall", "stop", "more speed raises the differential pressure"),
    ("supply_fan", "action_is_known", "control.effect=rise",
     "control.effect=fall", "stop", "more speed raises the air pressure"),
    ("supply_fan", "application_is_known", "line.holds=temperature",
     "line.holds=level", "stop", "duct or room pressure, temperature"),
    ("wash_down", "plate_agrees_with_itself", "motor.rated_current=7.2",
     "motor.rated_current=14.4", "stop", "would be"),
]  # fmt: skip


# conditions of a place: silent while they are not ticked, one sentence each when they are
SILENT_WHEN_RIGHT = {
    c.id for c in CHECKS if c.id.startswith(("drive_place_", "sensor_place_", "sensor_air_place_"))
} - {"drive_place_is_good"}
PLACES = [
    ("booster", f"drive_place_{name}", "drive.place=none", f"drive.place={name}", "stop" if stops else "caution", why[:20])
    for name, (stops, why, _) in PLACE.items()
] + [
    ("booster", f"sensor_place_{name}", "sensor.place=none", f"sensor.place={name}", "stop" if stops else "caution", why.split("{")[0][:20])
    for name, (stops, why, _) in SENSOR_PLACE.items()
] + [
    ("supply_fan", f"sensor_air_place_{name}", "sensor.air_place=none", f"sensor.air_place={name}",
     "stop" if stops else "caution", why[:20])
    for name, (stops, why, _) in AIR_PLACE.items()
]  # fmt: skip


@pytest.mark.parametrize(
    ("base", "check", "right", "wrong", "severity", "words"),
    [("booster", *row) for row in BOTH_SIDES] + ON_OTHER_LINES + PLACES,
)
def test_check_on_both_sides(
    base: str, check: str, right: str, wrong: str, severity: str, words: str, records: dict[str, Record]
) -> None:
    fine = judged(records[base], check, **changes_of(right))
    if check in SILENT_WHEN_RIGHT:
        assert fine is None
    else:
        assert fine is not None
        assert fine.severity.word == "clear", fine.because.text()
    bad = judged(records[base], check, **changes_of(wrong))
    assert bad is not None
    assert bad.severity.word == severity
    assert words in bad.because.text().replace("\u202f", " ")
    assert bad.do is not None


def test_every_check_is_tried_on_both_sides_or_only_ever_says_one_thing() -> None:
    tried = {row[0] for row in BOTH_SIDES} | {row[1] for row in ON_OTHER_LINES + PLACES}
    one_sided = {
        "drive_power_covers_motor",
        "range_covers_shutoff",
        "height_is_allowed_for",
        "drive_place_is_good",
        "sensor_sits_well",
        "air_sensor_sits_well",
        "curve_does_not_hunt",
    }  # tested below, and in test_points
    assert {c.id for c in CHECKS} == tried | one_sided


# what a finding says beside its severity: base record, check, changes, words of title, reason and advice
SAID = [
    ("booster", "plate_agrees_with_itself", "motor.rated_current=6.3", "It fits 692.8 V"),
    ("booster", "plate_agrees_with_itself", "motor.rated_current=21.8", "It fits 200 V"),
    ("booster", "plate_agrees_with_itself", "motor.rated_current=5.45", "It fits 800 V"),
    ("booster", "phases_suit_drive", "supply.phases=3", "both have three phases"),
    ("wash_down", "phases_suit_drive", "supply.phases=1 drive.input_phases=1", "both have one phase"),
    ("booster", "application_is_known", "line.application=booster", "It holds pressure"),
    ("circulator", "application_is_known", "line.holds=-", "It holds"),
    ("booster", "motor_lead_is_short", "drive.lead_length=10", "below the critical"),
    ("booster", "motor_lead_is_short", "drive.lead_length=29", "the reflected peak is full"),
    ("booster", "motor_lead_is_short", "drive.lead_length=151 drive.output_filter=sine", "behind a"),
    ("booster", "motor_lead_is_short", "drive.lead_length=151 drive.output_filter=dvdt", "needs a sine filter"),
    ("supply_fan", "fan_near_best", "machine.best_air_flow=12.6", "stall side"),
    ("supply_fan", "fan_near_best", "machine.best_air_flow=5.7", "far out"),
    ("booster", "tank_is_large_enough", "system.leak=- system.tank_volume=0.12", "large enough"),
    ("booster", "tank_is_large_enough", "system.leak=- system.tank_volume=0.1", "too small"),
    ("booster", "surge_within_rating", "system.pipe_length=40 system.pipe_bore=0.1 system.pipe_wall=0.004"
     " system.pipe_material=steel system.check_valve=swing", "quiet check valve"),
    ("booster", "surge_within_rating", "system.pipe_length=40 system.pipe_bore=0.1 system.pipe_wall=0.004"
     " system.pipe_material=steel system.check_valve=quiet", "fit surge protection."),
    ("irrigation", "efficiency_fits_class", "motor.ie_class=IE4 motor.efficiency=0.95", "no limit of IE4"),
    ("booster", "voltage_pair_agrees", "motor.other_voltage=690 motor.other_current=18.8", "are crossed"),
    ("booster", "voltage_pair_agrees", "motor.other_voltage=690 motor.other_current=8", "connections disagree"),
]  # fmt: skip


@pytest.mark.parametrize(("base", "check", "changes", "words"), SAID)
def test_what_a_finding_says(base: str, check: str, changes: str, words: str, records: dict[str, Record]) -> None:
    found = judged(records[base], check, **changes_of(changes))
    assert found is not None
    said = f"{found.title}. {found.because.text()} {found.do.text() if found.do else ''}"
    assert words in said.replace("\u202f", " ")


@pytest.mark.parametrize(
    ("power", "speed"), [(1.1e3, 1425.0), (3e3, 1440.0), (5.5e3, 1450.0), (30e3, 1470.0), (75e3, 1480.0)]
)
def test_the_speed_proposed_for_a_synchronous_one_has_the_slip_of_its_size(
    power: float, speed: float, records: dict[str, Record]
) -> None:
    found = judged(records["booster"], "speed_leaves_slip", motor={"rated_speed": 1500.0, "rated_power": power})
    assert found is not None
    assert found.fix is not None
    assert found.fix.value == speed


def test_only_what_is_in_the_way_can_be_upheld(records: dict[str, Record]) -> None:
    wrong = judged(records["booster"], "speed_leaves_slip", motor={"rated_speed": 1500.0})
    right = judged(records["booster"], "speed_leaves_slip", motor={"rated_speed": 1455.0})
    unknown = judged(records["booster"], "speed_leaves_slip", motor={"rated_power": None})
    assert wrong is not None
    assert right is not None
    assert unknown is not None
    assert (wrong.doubts, right.doubts, unknown.doubts) == ("motor.rated_speed", "", "")


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
    assert "1.15 × 10.9 A" in found.because.text()
    over = judged(
        records["booster"], "current_limit_fits", drive={"current_limit": 13.0}, motor={"service_factor": 1.15}
    )
    assert over is not None
    assert over.severity.word == "stop"  # the arithmetic of "1.15 x 10.9" does not make 13


def test_the_plan_goes_by_physics_where_there_is_one_way_only(records: dict[str, Record]) -> None:
    for name, entered, planned in (("wet_well", "rise", "rises_faster"), ("booster", "fall", "falls_faster")):
        record = {g: dict(f) for g, f in records[name].items()}
        record["control"]["effect"] = {"value": entered}
        line, _ = parse_line(record)
        rows = {r.setting.id: r.planned for r in assess(line).settings}
        action = rows["pid.action"]
        assert action is not None
        assert action.value == planned


def test_a_return_fan_may_hold_either_way_as_entered(records: dict[str, Record]) -> None:
    for entered in ("rise", "fall"):
        found = judged(records["exhaust"], "action_is_known", control={"effect": entered})
        assert found is not None
        assert found.severity.word == "clear"


@pytest.mark.parametrize(
    ("base", "changes", "heads"),
    [
        ("irrigation", "system.static_head=80", ("80 m", "m")),
        ("booster", "system.static_head=80", ("80 m", "52")),
        ("borehole", "system.pumping_level=300", ("300 m", "148 m")),
        ("wet_well", "system.static_head=80", ("80 m", "17.5 m")),
        ("circulator", "control.setpoint=900000", ("91.9 m", "27.4 m")),
        ("booster", "control.setpoint=900000", ("m", "52")),
    ],
)
def test_an_impossible_duty_is_a_stop_with_both_heads(
    base: str, changes: str, heads: tuple[str, str], records: dict[str, Record]
) -> None:
    made = plain(records[base])
    for group, values in changes_of(changes).items():
        made[group].update(values)
    findings = rules(line_of(made))
    assert not [f.title for f in findings if f.title.startswith("Cannot be judged")]
    stops = [f.because.text().replace("\u202f", " ") for f in findings if f.severity.word == "stop"]
    assert any(all(head in said for head in heads) for said in stops), stops


def test_a_lost_digit_is_found_again(records: dict[str, Record]) -> None:
    us = records["irrigation"]
    found = judged(us, "speed_leaves_slip", motor={"rated_speed": 185.0})
    assert found is not None
    assert found.severity.word == "stop"
    assert found.fix is not None
    assert found.fix.value == 1785.0


def test_planted_mistakes_are_named_with_numbers_and_a_correction(records: dict[str, Record]) -> None:
    findings = rules(line_of(records["planted"]))
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
