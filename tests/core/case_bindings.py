"""Which method answers which check value: by the quantity it names, or by its id where names are shared."""

from collections.abc import Callable
from typing import Any

from mainspring.core import practice
from mainspring.core.air import density as air
from mainspring.core.air import fan
from mainspring.core.benches.savings import Savings, savings_of
from mainspring.core.control import forms, identify, margins, rules, tuning
from mainspring.core.control.tuning import controller_action
from mainspring.core.derived import Derived
from mainspring.core.drive import bus, losses, motor_lead, rating
from mainspring.core.drive import cooling as drive_cooling
from mainspring.core.electrical import cables, harmonics
from mainspring.core.electrical import unbalance as ub
from mainspring.core.energy import annual
from mainspring.core.hydraulics import (
    affinity,
    power,
    pump_curve,
    suction,
    surge,
    system_curve,
    tank,
    usual_pump,
    water,
)
from mainspring.core.line import parse_line
from mainspring.core.measured import guideline
from mainspring.core.money import payback, tariff, worth
from mainspring.core.motor import cooling as motor_cooling
from mainspring.core.motor import current, efficiency, inertia, insulation, load, speed, usual_efficiency
from mainspring.core.quantity import DIMENSIONS, GALLON, HORSEPOWER, PSI, G
from mainspring.core.signal import calibration, loop
from mainspring.core.uncertainty import propagate

POUND = 0.45359237  # kg, exact by definition

UNITS: dict[str, float] = {
    "": 1, "1": 1, "%": 0.01, "% span": 0.01, "Hz": 1, "rpm": 1, "hp": HORSEPOWER, "kW": 1e3, "W": 1, "kVA": 1e3,
    "V": 1, "A": 1, "mA": 1e-3, "uF": 1e-6, "kohm": 1e3, "ohm": 1, "m": 1, "mm": 1e-3, "ft": 0.3048, "in": 0.0254,
    "m3/s": 1, "L/s": 1e-3, "m3/h": 1 / 3600, "gpm": GALLON / 60, "gal": GALLON, "L": 1e-3, "s": 1, "min": 60,
    "h": 3600, "a": 1, "kg/m3": 1, "kPa": 1e3, "kPa(g)": 1e3, "bar": 1e5, "psi": PSI, "psig": PSI, "Pa": 1,
    "m/(m3/s)^2": 1, "kWh": 3.6e6, "kg/kWh": 1 / 3.6e6, "kg": 1, "$": 1, "$/kWh": 1 / 3.6e6, "%/%": 1, "m/us": 1e6,
    "us": 1e-6, "N.m": 1, "lbf.ft": 1.3558179483314004, "V/Hz": 1, "m/s2": 1, "kWh/m3": 3.6e6, "degC": 1, "K": 1,
    "m/(L/s)^2": 1e6, "m/(L/s)": 1e3, "ohm.mm2/m": 1e-6, "mm2": 1e-6, "1/s": 1, "%/(%.s)": 1, "1/min": 1 / 60,
    "lb.ft2": 0.45359237 * 0.3048**2, "kg.m2": 1, "inwg": 249.08891, "cfm": 0.3048**3 / 60, "fpm": 0.3048 / 60,
    "lb/ft3": 0.45359237 / 0.3048**3, "Btu/h": 0.29307107, "kvar": 1e3, "mH": 1e-3, "m2": 1, "W/(m2.K)": 1,
    "J/(kg.K)": 1, "m/s": 1, "ft/s": 0.3048, "ohm/kft": 1 / 304.8, "ohm/m": 1, "bits": 1, "ft/psi": 0.3048 / PSI,
    "gpm/psi0.5": 1, "m3/h/bar0.5": 1, "eV": 1, "AWG/kcmil": 1, "ohm.m": 1,
    "kW/hp": 1000 / HORSEPOWER, "Mohm": 1e6, "uC": 1e-6, "J": 1, "US": 1, "degF": 5 / 9, "kg/s": 1, "km": 1e3,
    "Pa.s": 1, "ft-lbf/lb/degF": 0.3048 * G * 9 / 5, "bool": 1, "list": 1,
    "mm2/m": 1e-6, "+/-%": 0.01, "degF_diff": 5 / 9,
    "$/kW": 1e-3, "months": 1, "ML": 1e3, "kWh/ML": 3.6e3,
    "rpm.m0.75/s0.5": 1, "deg": 1, "hp (mean of the two rows)": HORSEPOWER,
}  # fmt: skip


class Inputs:
    """Inputs of a case in SI, by name."""

    def __init__(self, case: dict[str, Any]) -> None:
        self.raw = case["inputs"]

    def __getitem__(self, name: str) -> Any:
        entry = self.raw[name]
        unit = entry["unit"]
        if isinstance(entry["value"], str):
            return entry["value"]
        if "," in unit:
            return entry["value"]
        factor = UNITS[unit]
        value = entry["value"]
        return [v * factor for v in value] if isinstance(value, list) else value * factor


def worked_savings(i: Inputs) -> Savings:
    """The worked example of the filter pump, from the case's own inputs."""
    full, levels = i["A"], i.raw["profile"]["value"]
    curve = [[q / 1000, full - i["B"] * (q / 1000) ** 2] for q in (0, 5, 10, 15, 20, 25)]
    line, problems = parse_line(
        {
            "line": {"application": "transfer"},
            "motor": {
                "rated_power": i["P_motor"],
                "rated_voltage": 400.0,
                "rated_current": 20.7,
                "rated_speed": 1470.0,
                "rated_frequency": 50.0,
                "efficiency": i["eta_100"],
                "efficiency_75": i["eta_75"],
            },
            "drive": {"rated_power": 15 * HORSEPOWER},
            "machine": {
                "duty_flow": 0.02,
                "duty_head": 40.0,
                "curve_speed": 1470.0,
                "best_flow": i["Q_bep"],
                "best_efficiency": i["eta_bep"],
                "curve": curve,
            },
            "system": {
                "static_head": i["H_static"],
                "known_flow": 0.02,
                "known_head": i["H_static"] + i["K"] * 0.02**2,
                "suction_pressure": 0.0,
            },
            "duty": {"profile": [[q / 1000, h * 3600.0] for q, h in levels]},
        }
    )
    assert not problems
    return savings_of(line, Derived(line))


def _level(i: Inputs, flow: float) -> Any:
    return next(x for x in worked_savings(i).levels if abs(x.flow - flow) < 1e-9)


def _fit(i: Inputs) -> Any:
    return pump_curve.pump_curve_fit(tuple(i["Q"]), tuple(i["H"]))


def _efficiency_pair(i: Inputs) -> Any:
    return efficiency.loss_split(i["eta_100"], i["eta_75"])


def _throttled(i: Inputs) -> tuple[float, float]:
    head = pump_curve.pump_head(i["Q"], 1.0, i["A"], 0.0, -i["B"])
    return head, pump_curve.pump_efficiency(i["Q"], 1.0, i["Q_bep"], i["eta_bep"])


def _slowed(i: Inputs) -> tuple[float, float, float]:
    head = system_curve.system_head(i["H_static"], i["K"], i["Q"])
    ratio = pump_curve.speed_for_head(i["Q"], head, i["A"], 0.0, -i["B"])
    eta = pump_curve.pump_efficiency(i["Q"], ratio, i["Q_bep"], i["eta_bep"])
    return head, ratio, eta


def _throttled_power(i: Inputs) -> float:
    head, eta = _throttled(i)
    return power.pump_shaft_power(i["Q"], head, eta, i["rho"])


def _slowed_power(i: Inputs) -> float:
    head, ratio, eta = _slowed(i)
    return power.pump_shaft_power(i["Q"], head, pump_curve.efficiency_at_speed(eta, ratio), i["rho"])


def _cube(i: Inputs) -> float:
    full = system_curve.duty_flow(1.0, i["A"], 0.0, -i["B"], i["H_static"], i["K"])
    head = system_curve.system_head(i["H_static"], i["K"], full)
    eta = pump_curve.pump_efficiency(full, 1.0, i["Q_bep"], i["eta_bep"])
    return affinity.cube_law_power(power.pump_shaft_power(full, head, eta, i["rho"]), i["Q"], full)


def _nema(i: Inputs, grade: str) -> float:
    return efficiency.nema_efficiency(i["P"], i["poles"], i["enclosure"], grade)


def _pump_of_three(i: Inputs, flow: float) -> float:
    """Head at a speed by EPANET's curve through three points, which here is a parabola."""
    (_, shutoff), (q1, h1), (q2, h2) = i.raw["pump curve"]["value"]
    assert abs(pump_curve.epanet_exponent(shutoff, q1, h1, q2, h2) - 2) < 1e-9
    return pump_curve.pump_head(flow, i["s"], shutoff, 0.0, (h1 - shutoff) / q1**2)


def _through_pipe(i: Inputs) -> float:
    """Flow at which that pump and a pipe with Hazen-Williams friction agree."""
    low, high = 0.0, 0.04
    for _ in range(60):
        flow = (low + high) / 2
        wanted = i["static"] + surge.hazen_williams_head(flow, i["L"], i["D"], i["C_HW"])
        low, high = (flow, high) if _pump_of_three(i, flow) > wanted else (low, flow)
    return low


def _pipe_loss(i: Inputs) -> float:
    flow, bore = i["mdot"] / i["rho"], i["D"]
    speed = surge.pipe_velocity(flow, bore)
    factor = surge.friction_factor(speed * bore * i["rho"] / i["mu"], i["eps"] / bore)
    return system_curve.pressure_of_head(surge.darcy_head(factor, i["L"], bore, speed), i["rho"])


def _drawdown(i: Inputs) -> float:
    return tank.tank_drawdown(i["P_pre"], i["P_on"], i["P_off"], i["P_atm"])


def _poles_then_fit(i: Inputs) -> float:
    names = {0.0773: "IE3", 0.2972: "IE2", 0.2412: "IE4"}
    coefficients = i.raw["coefficients A,B,C,D"]["value"]
    return efficiency.ie_efficiency_fit(i["P"], i["poles"], names[coefficients[0]])


def _npv_inputs(i: Inputs) -> tuple[float, float, float, float, float]:
    return i["net_cost"], i["saving_year1"], i["d"], i["e"], i["n"]


def _baseline(i: Inputs) -> guideline.Straight:
    return guideline.baseline_line(i["x"], i["y"])


def _fitted(i: Inputs) -> list[float]:
    line = _baseline(i)
    return [line.intercept + line.slope * x for x in i["x"]]


def _avoided(i: Inputs) -> float:
    line = _baseline(i)
    return guideline.avoided_energy(line.slope, line.intercept, i["x_report"], i["y_report"])


def _avoided_fraction(i: Inputs) -> float:
    return annual.saving_fraction(_avoided(i) + sum(i["y_report"]), sum(i["y_report"]))


def _spread(i: Inputs) -> guideline.Spread:
    t_90 = propagate.student_t(0.9, len(i["x"]) - 2)
    return guideline.avoided_energy_spread(i["x"], i["y"], i["x_report"], _avoided(i), t_90)


def _short_formula(i: Inputs) -> float:
    points = len(i["x"])
    variation = guideline.fit_variation(i["y"], _fitted(i), 2)
    t_90 = propagate.student_t(0.9, points - 2)
    return guideline.guideline_uncertainty(t_90, variation, _avoided_fraction(i), points, points, len(i["x_report"]))


def _of_flows(method: Callable[..., float], i: Inputs, *rates: float) -> float:
    return method(i["net_cost"], i["saving_year1"], *rates, i["e"], i["n"])


Binding = Callable[[Inputs], Any]


def _calibration(i: Inputs) -> calibration.Calibration:
    return calibration.calibrate(i["applied"], i["up"], i["down"])


BY_QUANTITY: dict[str, Binding] = {
    # speed and current
    "synchronous speed": lambda i: speed.synchronous_speed(i["f"], i["poles"]),
    "slip fraction at rated load": lambda i: speed.slip(speed.synchronous_speed(i["f"], i["poles"]), i["n"]),
    "pole count inferred from rated speed": lambda i: speed.pole_count(i["f"], i["n_rated"]),
    "NEC three-phase induction motor full-load current": lambda i: current.table_full_load_current(i["P"], i["V"], 3),
    "NEC single-phase motor full-load current": lambda i: current.table_full_load_current(i["P"], i["V"], 1),
    "line current from nameplate power, efficiency, power factor": lambda i: current.line_current(
        i["P_out"], i["V_LL"], i["pf"], i["eta"]
    ),
    "power factor implied by rated power, current and efficiency": lambda i: current.implied_power_factor(
        i["P_out"], i["V_LL"], i["I"], i["eta"]
    ),
    "rated torque SI": lambda i: speed.shaft_torque(i["P_out"], i["n"]),
    "rated torque US": lambda i: speed.shaft_torque(i["P_out"], i["n"]),
    "apparent power at NEC table current": lambda i: current.apparent_power(i["V_LL"], i["I"]),
    "NEMA standard size rounding": lambda i: current.next_standard_horsepower(i["P"]),
    # efficiency and load
    "NEMA premium nominal full-load efficiency 60 Hz": lambda i: _nema(i, "premium"),
    "NEMA energy efficient nominal full-load efficiency 60 Hz": lambda i: _nema(i, "energy_efficient"),
    "NEMA minimum efficiency for a nominal efficiency": lambda i: efficiency.nema_minimum_efficiency(i["eta_nominal"]),
    "load-dependent loss coefficient v_L": lambda i: _efficiency_pair(i).load_dependent,
    "constant loss coefficient v_0": lambda i: _efficiency_pair(i).constant,
    "motor efficiency at part load (two-loss model)": lambda i: efficiency.part_load_efficiency(
        i["load"], *_efficiency_pair(i)
    ),
    "load of peak efficiency": lambda i: efficiency.best_load(i["v0"], i["vL"]),
    "power factor at 50 % load (constant magnetising current model)": lambda i: efficiency.part_load_power_factor(
        i["pf_rated"], i["load"]
    ),
    "load by slip, no voltage correction": lambda i: load.load_by_slip(i["n_s"], i["n"], i["n_rated"]),
    "load by slip, voltage compensated": lambda i: load.load_by_slip(
        i["n_s"], i["n"], i["n_rated"], i["V_rated"], i["V"]
    ),
    "load by input power": lambda i: load.load_by_input_power(i["P_in"], i["P_rated"], i["eta_rated"]),
    "load by current, linear with voltage correction": lambda i: load.load_by_current(
        i["I"], i["I_rated"], i["V"], i["V_rated"]
    ),
    "load by current with no-load current removed": lambda i: load.load_by_current_less_no_load(
        i["I"], i["I_rated"], i["I_0"]
    ),
    "slip-method lower bound for +20 % rated-slip tolerance": lambda i: (
        load.slip_load_bounds(i["slip"] / i["slip_rated"], i["tol"]).low
    ),
    "slip-method upper bound for -20 % rated-slip tolerance": lambda i: (
        load.slip_load_bounds(i["slip"] / i["slip_rated"], i["tol"]).high
    ),
    "shaft power from input power and part-load efficiency": lambda i: (
        load.load_by_power_and_losses(i["P_in"], i["P_rated"], i["v0"], i["vL"]) * i["P_rated"]
    ),
    # supply and drive
    "percent voltage unbalance": lambda i: ub.unbalance(i["V"]),
    "current unbalance": lambda i: ub.unbalance(i["I"]),
    "negative-sequence voltage unbalance factor": lambda i: ub.negative_sequence_unbalance(i["V"]),
    "motor derating factor at voltage unbalance": lambda i: ub.unbalance_derating(i["unbalance"]),
    "derating factor at 3.5 % by linear interpolation": lambda i: ub.unbalance_derating(i["unbalance"]),
    "normal-duty overload current": lambda i: rating.overload_current(i["I_rated"], i["factor"]),
    "heavy-duty overload current": lambda i: rating.overload_current(i["I_rated"], i["factor"]),
    "heat rejected by drive": lambda i: losses.drive_heat(i["P_out"], i["eta"]),
    "generic drive efficiency": lambda i: losses.drive_efficiency(i["P"], i["load"]),
    "altitude derating": lambda i: rating.altitude_derating(i["Z"]),
    "critical cable length for full reflected-wave doubling": lambda i: motor_lead.critical_lead_length(
        i["t_rise"], i["v"]
    ),
    "motor terminal peak on a short cable": lambda i: motor_lead.motor_peak_voltage(
        i["V_dc"], i["l"], i["l_c"], i["Gamma"]
    ),
    "motor terminal peak beyond critical length": lambda i: motor_lead.motor_peak_voltage(
        i["V_dc"], 100.0, 7.5, i["Gamma"]
    ),
    "volts per hertz": lambda i: rating.volts_per_hertz(i["V"], i["f"]),
    # pump and system
    "affinity flow": lambda i: affinity.affinity_flow(i["Q1"], i["n1"], i["n2"]),
    "affinity head": lambda i: affinity.affinity_head(i["H1"], i["n1"], i["n2"]),
    "affinity power": lambda i: affinity.affinity_power(i["P1"], i["n1"], i["n2"]),
    "quadratic pump-curve coefficient c2": lambda i: _fit(i).c2,
    "quadratic pump-curve coefficient c1": lambda i: _fit(i).c1,
    "quadratic pump-curve coefficient c0": lambda i: _fit(i).c0,
    "system curve resistance": lambda i: system_curve.system_resistance(i["H"], i["H_static"], i["Q"]),
    "duty-point flow, quadratic pump and system": lambda i: system_curve.duty_flow(
        i["s"], i["A"], 0.0, -i["B"], i["H_static"], i["K"]
    ),
    "speed at which the pump just meets static head": lambda i: pump_curve.no_flow_speed(i["H_static"], i["H_shutoff"]),
    "lowest useful speed for constant-pressure set point at zero flow": lambda i: pump_curve.no_flow_speed(
        i["H_set"], i["H0"]
    ),
    "the same as rpm": lambda i: affinity.speed_in_rpm(i["s0"], i["n"]),
    "pump efficiency corrected for speed": lambda i: pump_curve.efficiency_at_speed(i["eta1"], i["s"]),
    "hydraulic power SI": lambda i: power.hydraulic_power(i["Q"], i["H"], i["rho"], i["g"]),
    "specific speed metric (m3/s, m)": lambda i: power.specific_speed(i["n"], i["Q"], i["H"]),
    "EPANET one-point curve shutoff head": lambda i: pump_curve.curve_from_duty_point(i["Q1"], i["H1"]).c0,
    "shutoff head rise": lambda i: pump_curve.shutoff_rise(i["H0"], i["H_duty"]),
    "system head at 15 L/s": lambda i: _slowed(i)[0],
    "pump head at 15 L/s full speed (throttled)": lambda i: _throttled(i)[0],
    "head lost in throttling valve": lambda i: _throttled(i)[0] - _slowed(i)[0],
    "speed ratio that gives 15 L/s with open valve": lambda i: _slowed(i)[1],
    "pump efficiency throttled": lambda i: _throttled(i)[1],
    "pump efficiency at reduced speed (affinity)": lambda i: _slowed(i)[2],
    "pump efficiency at reduced speed, speed corrected": lambda i: pump_curve.efficiency_at_speed(
        _slowed(i)[2], _slowed(i)[1]
    ),
    "shaft power throttled": _throttled_power,
    "shaft power by speed control": _slowed_power,
    "shaft power saving fraction": lambda i: annual.saving_fraction(_throttled_power(i), _slowed_power(i)),
    "naive cube-law power at 15/20 flow (the mistake)": _cube,
    "ratio of true to cube-law power": lambda i: _slowed_power(i) / _cube(i),
    "tank acceptance (drawdown) factor, precharge = cut-in": _drawdown,
    "tank drawdown factor, precharge = cut-in - 2 psi": _drawdown,
    "tank factor SI": _drawdown,
    "tank volume for run time": lambda i: tank.tank_volume_for_run(i["Q"], i["t_run"], i["DF"]),
    # signal
    "4-20 mA to engineering value": lambda i: loop.pressure_of_signal(i["I"], i["lo"], i["hi"]),
    "engineering value to 4-20 mA": lambda i: loop.signal_of_pressure(i["x"], i["lo"], i["hi"]),
    "set point as percent of span": lambda i: loop.percent_of_span(i["SP"], i["lo"], i["hi"]),
    "maximum loop resistance": lambda i: loop.loop_load_limit(i["V_supply"], i["V_min"], i["I_max"]),
    "loop wire resistance": lambda i: loop.loop_wire_resistance(i["length_one_way"], i["A"], i["rho"]),
    "NAMUR NE 43 signal state": lambda i: loop.signal_state(i["I"]),
    "pressure at the control point, gauge 3 m below it": lambda i: loop.pressure_at_height(
        i["p_read"], i["dz"], i["rho"]
    ),
    "level from hydrostatic pressure": lambda i: system_curve.head_of_pressure(i["p"], i["rho"]),
    # controller
    "identified time constant": lambda i: tuning.two_point_identification(i["t28"], i["t63"]).time_constant,
    "identified dead time": lambda i: tuning.two_point_identification(i["t28"], i["t63"]).dead_time,
    "process gain from a bump test in percent": lambda i: tuning.process_gain(
        i["dPV"], i["PV_span"], i["dOut"], i["Out_span"]
    ),
    "SIMC PI, tau_c=theta gain Kc": lambda i: tuning.simc_pi(i["K"], i["tau"], i["theta"], i["tau_c"]).gain,
    "SIMC PI, tau_c=theta integral time Ti": lambda i: (
        tuning.simc_pi(i["K"], i["tau"], i["theta"], i["tau_c"]).integral_time
    ),
    "lambda PI, lambda=3 tau gain Kc": lambda i: tuning.lambda_pi(i["K"], i["tau"], i["theta"], i["lambda"]).gain,
    "lambda PI, lambda=3 tau integral time Ti": lambda i: (
        tuning.lambda_pi(i["K"], i["tau"], i["theta"], i["lambda"]).integral_time
    ),
    "ideal to parallel Ki": lambda i: tuning.parallel_integral_gain(i["Kc"], i["Ti"]),
    "proportional band": lambda i: tuning.proportional_band(i["Kc"]),
    # air
    "fan law flow": lambda i: fan.fan_law_flow(i["Q1"], i["n1"], i["n2"]),
    "fan law pressure": lambda i: fan.fan_law_pressure(i["p1"], i["n1"], i["n2"]),
    "fan law power": lambda i: fan.fan_law_power(i["P1"], i["n1"], i["n2"]),
    "fan power at changed density, same speed": lambda i: fan.fan_law_power(i["P1"], 1.0, 1.0, i["rho1"], i["rho2"]),
    "pressure ratio at 5000 ft": lambda i: air.pressure_at_altitude(i["Z"]) / 101_325,
    "dry-air density at 5000 ft and 70 degF": lambda i: air.air_density(
        air.pressure_at_altitude(i["Z"]), 70 * 5 / 9 - 160 / 9
    ),
    "density factor for 200 degF air": lambda _: air.density_factor(101_325, 200 * 5 / 9 - 160 / 9),
    "air density at 20 degC, 1 atm dry": lambda i: air.air_density(101_325, i["T"]),
    "moist-air density 35 degC 60 % RH at 300 m": lambda i: air.moist_air_density(
        air.pressure_at_altitude(i["Z"]), i["T"], i["RH"], water.vapour_pressure(i["T"])
    ),
    "velocity from velocity pressure, standard air US": lambda i: air.air_speed(i["vp"], 0.075 * UNITS["lb/ft3"]),
    "velocity pressure at 3000 fpm": lambda i: air.velocity_pressure(i["V"], 0.075 * UNITS["lb/ft3"]),
    "velocity from velocity pressure, thin air": lambda i: air.air_speed(i["vp"], i["rho"]),
    "velocity pressure SI": lambda i: air.velocity_pressure(i["v"], i["rho"]),
    "fan static efficiency US": lambda i: fan.fan_efficiency(i["Q"], i["p_s"], i["bhp"]),
    "fan shaft power SI": lambda i: fan.fan_shaft_power(i["Q"], i["p"], i["eta"]),
    "duct system pressure at changed flow": lambda i: fan.duct_pressure_at_flow(i["p1"], i["Q1"], i["Q2"]),
    "air power fraction at 50 % flow with one third held static pressure": lambda i: fan.held_pressure_power(
        i["q"], i["sp_hold"]
    ),
    "VAV fan with variable-speed drive, fraction of full-load power": lambda i: fan.fan_part_load_power(
        i["PLR"], "variable speed, 90.1 G"
    ),
    "fan power fraction, inlet vanes": lambda i: fan.fan_part_load_power(i["x"], "inlet vanes"),
    "fan power fraction, discharge damper": lambda i: fan.fan_part_load_power(i["x"], "discharge damper"),
    "fan power fraction, variable speed": lambda i: fan.fan_part_load_power(i["x"], "variable speed"),
    "fan power fraction at 60 % flow, FC riding curve": lambda i: fan.fan_part_load_power(
        i["x"], "forward-curved riding its curve"
    ),
    "fan power fraction at 60 % flow, vane-axial variable pitch": lambda i: fan.fan_part_load_power(
        i["x"], "vane-axial variable pitch"
    ),
    "fan power fraction at 60 % flow, VSD with static pressure reset": lambda i: fan.fan_part_load_power(
        i["x"], "variable speed with pressure reset"
    ),
    "air temperature rise across fan, motor in stream": lambda i: fan.fan_temperature_rise(
        i["p_t"], i["eta_total"], i["rho"], i["cp"]
    ),
    "fan energy index reference shaft power (static basis)": lambda i: fan.reference_fan_power(i["Q"], i["P_s"]),
    # inertia
    "fan acceleration time US": lambda i: inertia.acceleration_time(i["WK2"], i["dN"], i["T_avg"]),
    "acceleration time SI": lambda i: inertia.acceleration_time(i["J"], i["dn"], i["T"]),
    "inertia reflected through belt to motor": lambda i: inertia.reflected_inertia(
        i["J_fan"], i["n_fan"], i["n_motor"]
    ),
    "maximum load inertia NEMA": lambda i: inertia.largest_load_inertia(i["P"], i["n"]),
    # cooling of motor and drive
    "water velocity past submersible motor in casing": lambda i: motor_cooling.annulus_velocity(
        i["Q"], i["D_casing"], i["d_motor"]
    ),
    "flow for 0.15 m/s past 137 mm motor in 202.7 mm casing": lambda i: motor_cooling.flow_for_velocity(
        i["v"], i["D"], i["d"]
    ),
    "flow for 0.25 ft/s past 3.75 in motor in 6.065 in casing": lambda i: motor_cooling.flow_for_velocity(
        i["v"], i["D"], i["d"]
    ),
    "velocity in open 10 in well without sleeve": lambda i: motor_cooling.annulus_velocity(i["Q"], i["D"], i["d"]),
    "largest flow-sleeve inside diameter for 0.15 m/s": lambda i: motor_cooling.sleeve_bore(i["Q"], i["d"], i["v"]),
    "lowest speed that keeps 0.15 m/s if flow follows speed": lambda i: suction.least_flow_share(
        i["Q_min"], i["Q_full"]
    ),
    "copper winding temperature from resistance": lambda i: motor_cooling.winding_temperature(
        i["R1"], i["T1"], i["R2"]
    ),
    "aluminium winding temperature from resistance": lambda i: motor_cooling.winding_temperature(
        i["R1"], i["T1"], i["R2"], 225.0
    ),
    "temperature rise over final ambient": lambda i: motor_cooling.temperature_rise(i["T2"], i["T_amb"]),
    "insulation class B total temperature limit": lambda _: motor_cooling.insulation_limit("B"),
    "insulation class F total temperature limit": lambda _: motor_cooling.insulation_limit("F"),
    "insulation class H total temperature limit": lambda _: motor_cooling.insulation_limit("H"),
    "life factor running class F motor at class B rise (80 instead of 105 K)": lambda i: drive_cooling.life_factor(
        -i["dT"]
    ),
    "service factor power": lambda i: motor_cooling.service_factor_power(i["P"], i["SF"]),
    "square-law torque at 50 % speed": lambda i: motor_cooling.square_law_torque(i["s"]),
    "winding copper loss at square-law 50 % speed, magnetising share 0.35 of rated current": lambda i: (
        motor_cooling.square_law_copper_loss(i["s"], i["i0"])
    ),
    "winding temperature rise at 90 % load": lambda i: motor_cooling.rise_at_load(
        i["rise_rated"], i["L"], i["fixed_share"]
    ),
    "heat rejected in Btu/h": lambda i: i["Q"],
    "inside air temperature rise, closed steel enclosure, no ventilation": lambda i: drive_cooling.enclosure_rise(
        i["P"], i["A"], i["k"]
    ),
    "heat a closed enclosure can shed at 15 K rise": lambda i: drive_cooling.enclosure_heat_limit(
        i["dT"], i["A"], i["k"]
    ),
    "ventilation airflow metric rule": lambda i: drive_cooling.ventilation_rule(i["P"], i["dT"]),
    "ventilation airflow at 2000 m altitude": lambda i: drive_cooling.ventilation_flow(
        i["P"], i["dT"], air.air_density(air.pressure_at_altitude(i["Z"]), i["T_air"])
    ),
    "life factor by 10 K rule": lambda i: drive_cooling.life_factor(i["dT"]),
    "Arrhenius life ratio 105 -> 120 degC with Ea=1.0 eV": lambda i: drive_cooling.arrhenius_life(
        i["T1"], i["T2"], i["Ea"]
    ),
    "reference CDM loss at 90 % frequency and 100 % torque current": lambda i: drive_cooling.reference_drive_loss(
        i["P_motor"]
    ),
    "apparent output power of reference drive, 7.5 kW motor": lambda i: current.apparent_power(i["V"], i["I"]),
    "single-phase supply current for same dc power": lambda i: drive_cooling.single_phase_input_current(i["I_3ph"]),
    "drive current rating for single-phase input, 50 % derate": lambda i: drive_cooling.single_phase_drive_current(
        i["I_motor"], i["derate"]
    ),
    "mean dc-bus voltage of ideal 6-pulse bridge": lambda i: harmonics.bus_voltage_mean(i["V_LL"]),
    "peak dc-bus voltage": lambda i: harmonics.bus_voltage_peak(i["V_LL"]),
    "inverter-duty motor peak voltage withstand, 460 V": lambda i: motor_cooling.motor_peak_withstand(i["V_rated"]),
    "motor loss on inverter supply": lambda i: motor_cooling.inverter_motor_loss(i["P_loss_sine"], i["r_HL"]),
    "current derate that keeps total drive loss when carrier goes 4 -> 8 kHz (model)": lambda i: (
        drive_cooling.carrier_derating(4000 * i["ratio"], 4000.0, i["switching_share_at_4kHz"])
    ),
    # cables
    "three-phase voltage drop, 8 AWG copper PVC conduit": lambda i: cables.three_phase_drop(
        i["I"], i["L"], i["R"], i["X"], i["pf"]
    ),
    "voltage drop percent": lambda i: cables.drop_share(i["dV"], i["V"]),
    "three-phase voltage drop IEC, 16 mm2 copper": lambda i: cables.three_phase_drop(
        i["I"], i["L"], cables.conductor_resistance(i["S"], i["rho1"]), i["lambda"], i["pf"]
    ),
    "ampacity copper 75 degC column, 30 degC ambient": lambda i: cables.awg_ampacity(i["size"]),
    "motor branch conductor minimum ampacity": lambda i: cables.motor_branch_ampacity(i["FLC"]),
    "drive supply conductor minimum ampacity": lambda i: cables.motor_branch_ampacity(i["I_drive_input"]),
    "smallest copper 75 degC conductor for 42.5 A": lambda i: cables.smallest_awg(i["ampacity"]),
    "smallest copper 75 degC conductor, 100 hp 460 V": lambda i: cables.smallest_awg(
        cables.motor_branch_ampacity(i["FLC"])
    ),
    "smallest copper 75 degC conductor, 50 hp 460 V": lambda i: cables.smallest_awg(
        cables.motor_branch_ampacity(i["FLC"])
    ),
    "ambient correction factor, 75 degC conductor": lambda i: cables.ambient_conductor_factor(i["T_amb"]),
    "overload relay maximum trip setting, SF 1.15": lambda i: cables.overload_relay_limit(i["I_nameplate"]),
    "inverse-time breaker maximum": lambda i: cables.breaker_limit(i["FLC"]),
    "resistance of 18 AWG copper at 20 degC": lambda i: cables.conductor_resistance(i["A"], i["rho"]),
    # harmonics
    "TDD limit 120 V..69 kV": lambda i: harmonics.demand_distortion_limit(i["Isc/IL"]),
    "individual odd harmonic limit": lambda i: harmonics.harmonic_limit(i["Isc/IL"], i["h"]),
    "voltage THD limit at <=1 kV PCC": lambda i: harmonics.voltage_distortion_limit(i["V"]),
    "available short-circuit current from transformer": lambda i: harmonics.transformer_fault_current(
        i["S"], i["V"], i["Z"]
    ),
    "short-circuit ratio": lambda i: harmonics.short_circuit_ratio(i["Isc"], i["IL"]),
    "6-pulse current THD from tabulated harmonics": lambda i: harmonics.six_pulse_distortion(i["Z"]),
    "true power factor from displacement factor and THDi": lambda i: harmonics.true_power_factor(i["DPF"], i["THDi"]),
    "rms current from fundamental and THDi": lambda i: harmonics.rms_with_harmonics(i["I1"], i["THDi"]),
    "TDD at PCC, one drive 100 A with 44 % and linear load to IL=250 A": lambda i: harmonics.demand_distortion(
        i["THDi"], i["I1_drive"], i["IL"]
    ),
    "inductance of 3 % line reactor": lambda i: harmonics.reactor_inductance(i["Z"], i["V"], i["I"], i["f"]),
    "effective percent impedance of 0.62 mH at 17 A": lambda i: harmonics.reactor_impedance(
        i["L"], i["V"], i["I"], i["f"]
    ),
    "characteristic harmonics of a 6-pulse bridge up to 19": lambda i: harmonics.characteristic_harmonics(
        int(i["pulses"])
    ),
    "kvar to correct (do NOT place capacitors on drive output)": lambda i: harmonics.correction_kvar(
        i["P"], i["pf1"], i["pf2"]
    ),
    # suction, surge, sump, friction
    "temperature rise through pump at low flow": lambda i: suction.low_flow_rise(i["H"], i["eta"], i["cp"]),
    "NPSH available, suction lift at 1000 m altitude, 25 degC": lambda i: suction.npsh_available(
        i["p_atm"], i["p_v"], -i["lift"], i["h_f"], i["rho"]
    ),
    "water vapour pressure": lambda i: water.vapour_pressure(i["T"]),
    "water density at 1 atm": lambda i: water.water_density(i["T"]),
    "inside preferred operating region": lambda i: suction.preferred_region(i["Ns_US"]).holds(i["Q"] / i["Q_bep"]),
    "pressure-wave speed, 8 in schedule 40 steel, 20 degC water": lambda i: surge.wave_speed(
        i["D"], i["e"], i["E"], i["K"], i["rho"]
    ),
    "Joukowsky pressure rise": lambda i: surge.joukowsky_pressure(
        i["dv"], surge.wave_speed(i["D"], i["e"], i["E"], i["K"], i["rho"]), i["rho"]
    ),
    "Joukowsky head rise": lambda i: surge.surge_head(1000.0, i["dv"], 1e-3, i["a"]),
    "critical closure time": lambda i: surge.critical_stop_time(i["L"], i["a"]),
    "head rise for linear velocity stop": lambda i: surge.surge_head(i["L"], i["dv"], i["t"], i["a"]),
    "sump volume for minimum cycle time": lambda i: suction.sump_volume(i["Q_pump"], i["T_min"]),
    "Darcy friction factor commercial steel DN150": lambda i: surge.friction_factor(i["Re"], i["eps"] / i["D"]),
    "friction head per 100 m": lambda i: surge.darcy_head(i["f"], 100.0, i["D"], surge.pipe_velocity(i["Q"], i["D"])),
    "Hazen-Williams head loss per 100 m": lambda i: surge.hazen_williams_head(i["Q"], 100.0, i["D"], i["C"]),
    # signal
    "2-10 V to percent": lambda i: loop.value_of_volts(i["U"], 0.0, 1.0, 2.0),
    "0-10 V to engineering": lambda i: loop.value_of_volts(i["U"], i["lo"], i["hi"]),
    "4-20 mA into 250 ohm": lambda i: loop.loop_volts(i["I"], i["R"]),
    "elevation correction US": lambda i: loop.pressure_at_height(i["p_read"], i["dz"]),
    "level set point mA, 0-10 m transmitter 0.5 m above floor, level 4 m": lambda i: loop.signal_of_share(
        loop.share_of_range(i["level"] - i["offset"], 0.0, i["range"])
    ),
    "largest error (percent of span)": lambda i: _calibration(i).largest_error,
    "hysteresis (percent of span)": lambda i: _calibration(i).hysteresis,
    "zero error": lambda i: _calibration(i).zero_error,
    "span error": lambda i: _calibration(i).span_error,
    "independent (best straight line, least-squares) non-conformity": lambda i: _calibration(i).nonconformity,
    "combined instrument error RSS": lambda i: loop.combined_error(i["accuracy"], i["temperature"], i["converter"]),
    "resolution of a 12-bit 0-20 mA input on a 0-10 bar 4-20 mA signal": lambda i: loop.input_resolution(
        0.0, i["span"], i["bits"]
    ),
    # energy and money
    "annual energy, throttled, direct on line": lambda i: worked_savings(i).before,
    "annual energy, variable speed": lambda i: worked_savings(i).now,
    "annual saving": lambda i: worked_savings(i).saved,
    "saving fraction": lambda i: worked_savings(i).fraction,
    "electrical input at 14 L/s throttled": lambda i: _level(i, 0.014).before.input,
    "electrical input at 14 L/s variable speed": lambda i: _level(i, 0.014).now.input,
    "peak input throttled (20 L/s)": lambda i: _level(i, 0.020).before.input,
    "peak input with drive (20 L/s)": lambda i: _level(i, 0.020).now.input,
    "cube-law estimate of variable-speed energy (the mistake)": lambda i: worked_savings(i).cube_energy,
    "speed ratio at 7 L/s": lambda i: _level(i, 0.007).now.ratio,
    "wire-to-water efficiency": lambda i: annual.wire_to_water_efficiency(i["Q"], i["H"], i["P_in"], i["rho"]),
    "specific energy": lambda i: annual.specific_energy(i["P_in"], i["Q"]),
    "simple payback": lambda i: payback.simple_payback(i["net_cost"], i["saving_year1"]),
    "net present value": lambda i: payback.net_present_value(*_npv_inputs(i)),
    "uniform present value factor": lambda i: payback.uniform_present_value(i["d"], i["n"]),
    "combined motor x drive efficiency": lambda i: 1 / annual.input_power(1.0, i["eta_motor"], i["eta_drive"]),
    "annual cost with time of use": lambda i: tariff.time_of_use_cost(
        [kwh * 3.6e6 for kwh in i["kWh_on,mid,off"]], [r / 3.6e6 for r in i["rate_on,mid,off"]]
    ),
    "blended rate": lambda i: tariff.blended_price(i["cost"], i["kWh"]),
    "demand saving": lambda i: tariff.demand_cost(i["dkW"], i["rate"]),
    "demand with 80 % ratchet": lambda i: tariff.ratcheted_demand(i["month_peak"], i["max_of_prior_11"], i["ratchet"]),
    "internal rate of return": lambda i: _of_flows(worth.internal_rate_of_return, i),
    "modified internal rate of return": lambda i: _of_flows(worth.modified_rate_of_return, i, i["reinvest"]),
    "discounted payback (linear within the year)": lambda i: _of_flows(worth.discounted_payback, i, i["d"]),
    "savings-to-investment ratio": lambda i: worth.savings_to_investment(
        worth.present_value_of_savings(i["saving_year1"], i["d"], i["e"], i["n"]), i["net_cost"]
    ),
    "modified uniform present value, escalation applied from year 1": lambda i: worth.escalated_present_value(
        i["d"], i["e"], i["n"]
    ),
    "capital recovery factor": lambda i: worth.capital_recovery(i["d"], i["n"]),
    "real discount rate": lambda i: worth.real_rate(i["nominal"], i["inflation"]),
    "baseline slope": lambda i: _baseline(i).slope,
    "baseline intercept": lambda i: _baseline(i).intercept,
    "baseline R2": lambda i: _baseline(i).determination,
    "CV(RMSE)": lambda i: guideline.fit_variation(i["y"], _fitted(i), 2),
    "NMBE of the baseline fit (zero by construction)": lambda i: guideline.fit_bias(i["y"], _fitted(i), 2),
    "NMBE of a simulated against measured series": lambda i: guideline.fit_bias(i["measured"], i["simulated"], i["p"]),
    "CV(RMSE) of a simulated series": lambda i: guideline.fit_variation(i["measured"], i["simulated"], 1),
    "avoided energy (adjusted baseline minus reporting)": _avoided,
    "saving fraction F": _avoided_fraction,
    "t for 90 % two-sided, 10 degrees of freedom": lambda i: propagate.student_t(i["conf"], i["dof"]),
    "fractional savings uncertainty 90 %, no autocorrelation": _short_formula,
    "exact OLS fractional savings uncertainty 90 %": lambda i: _spread(i).fraction,
    "standard error of the summed saving": lambda i: _spread(i).standard,
    "lag-1 autocorrelation of residuals": lambda i: guideline.lag_one(
        [y - f for y, f in zip(i["y"], _fitted(i), strict=True)]
    ),
    "effective number of points": lambda i: guideline.effective_points(i["n"], i["rho"]),
    "daily-model fractional savings uncertainty with autocorrelation": lambda i: guideline.guideline_uncertainty(
        i["t"], i["CV"], i["F"], i["n"], guideline.effective_points(i["n"], i["rho"]), i["m"]
    ),
    "replacement of 1.26 for monthly data, 12 months": lambda i: guideline.monthly_factor(i["M"]),
    "sample size, infinite population 90/10": lambda i: propagate.sample_size(i["z"], i["cv"], i["e"]),
    "finite population correction": lambda i: propagate.finite_sample_size(i["n0"], i["N"]),
    "Option A saving: measured power, stipulated hours": lambda i: guideline.spot_saving(
        i["kW_base"], i["kW_post"], i["hours"]
    ),
    "relative uncertainty of the power difference (2 % power meter)": lambda i: propagate.uncertainty_of_difference(
        i["kW_base"], i["kW_post"], i["u_kW"]
    ),
    "combined with hours": lambda i: propagate.root_sum_of_squares([i["u_dP"], i["u_h"]]),
    # what is usual where nothing else is known
    "part-load efficiency factor relative to full load": lambda i: usual_efficiency.underloaded_efficiency_factor(
        i["P"], i["load"]
    ),
    "output power by slip": lambda i: load.power_at_load(i["L"], i["P_rated"]),
    "Corripio motor efficiency correlation": lambda i: usual_efficiency.usual_motor_efficiency(i["P"]),
    "Corripio pump efficiency": lambda i: usual_pump.usual_pump_efficiency(i["Q"]),
    "percentage increase of temperature rise": lambda i: ub.unbalance_heating(i["unbalance"]),
    "extra annual energy from 2.5 % unbalance, 100 hp": lambda i: annual.energy_of_lower_efficiency(
        i["P"] * i["kW_per_hp"], i["hours"], i["eta_balanced"], i["eta_unbalanced"]
    ),
    "measured motor efficiency under voltage unbalance, 100 hp class example": lambda i: ub.efficiency_under_unbalance(
        i["unbalance"], i["load"]
    ),
    "base current that keeps rms at 1 pu with 150 % 60 s in 600 s": lambda i: rating.base_current_under_overload(
        i["over"], i["t_over"], i["t_cycle"]
    ),
    "maximum CDM loss for class IE2": lambda i: drive_cooling.drive_class_losses(i["P_ref"]).best,
    "minimum CDM loss for class IE0": lambda i: drive_cooling.drive_class_losses(i["P_ref"]).worst,
    "ventilation airflow US rule": lambda i: drive_cooling.ventilation_flow(
        i["P"], i.raw["dT"]["value"] * UNITS["degF_diff"], 0.075 * UNITS["lb/ft3"]
    ),
    "Arrhenius activation energy equivalent to 10 K halving at 130->140 degC": lambda i: (
        drive_cooling.activation_energy(i["T1"], i["T2"])
    ),
    "R2 of the quadratic fit": lambda i: pump_curve.fit_quality(
        i["H"], [pump_curve.pump_head(q, 1.0, *_fit(i)) for q in i["Q"]]
    ),
    "EPANET flow of variable-speed pump against 15 m static through 1000 m DN150": _through_pipe,
    "EPANET pump head at the same duty": lambda i: _pump_of_three(i, _through_pipe(i)),
    "wntr pump power, Net1 pump 9 at time 0 (global efficiency 75 %)": lambda i: power.pump_shaft_power(
        i["Q"], i["H"], i["eta"], 1000 * 9.81 / G
    ),
    "brake horsepower US": lambda i: power.pump_shaft_power(
        i["Q"], i["H"], i["eta"], i["SG"] * 33000 / 3960 * POUND / GALLON
    ),
    "specific speed US (gpm, ft)": lambda i: power.specific_speed_us(power.specific_speed(i["n"], i["Q"], i["H"])),
    "conversion US/metric specific speed": lambda _: power.specific_speed_us(1.0),
    "temperature rise US": lambda i: suction.low_flow_rise(i["H"], i["eta"], 778.17 * UNITS["ft-lbf/lb/degF"]),
    "valve Kv to Cv": lambda i: (
        DIMENSIONS["valve_capacity"].unit("Cv").from_si(DIMENSIONS["valve_capacity"].unit("Kv").to_si(i["Kv"]))
    ),
    "pump acceptance tolerance grade 1E: head": lambda i: usual_pump.acceptance_tolerance(i["grade"]).head,
    "pump acceptance tolerance grade 2B: head": lambda i: usual_pump.acceptance_tolerance(i["grade"]).head,
    "pump acceptance tolerance grade 3B: head": lambda i: usual_pump.acceptance_tolerance(i["grade"]).head,
    "pipe pressure loss 1 km DN150 at 18 kg/s": _pipe_loss,
    "part-load power fraction at 60 % flow, pump riding its curve": lambda i: usual_pump.pump_part_load_power(
        i["x"], "riding its curve"
    ),
    "part-load power fraction at 60 % flow, pump with VSD, no reset": lambda i: usual_pump.pump_part_load_power(
        i["x"], "variable speed"
    ),
    "water column per psi": lambda i: (
        system_curve.head_of_pressure(PSI, water.water_density((i.raw["T"]["value"] - 32) * 5 / 9)) / PSI
    ),
    "true power factor at 3 % reactance (simulation)": lambda i: harmonics.true_power_factor(
        0.98, harmonics.six_pulse_distortion(i["Z"])
    ),
    # stored charge, insulation
    "bus capacitor safe-discharge voltage limit": lambda _: bus.touchable_bus(2200e-6),
    "time after which marking is compulsory": lambda _: practice.safety.LABEL_AFTER,
    "pins of an unplugged plug, discharge time": lambda _: practice.safety.PLUG_AFTER,
    "bleed time from 680 V to 60 V": lambda i: bus.bus_discharge_time(i["R"], i["C"], i["V0"], i["V"]),
    "stored energy of bus": lambda i: bus.bus_energy(i["C"], i["V"]),
    "residual charge at 60 V": lambda i: bus.bus_charge(i["C"], i["V"]),
    "US general rule for power-capacitor discharge": lambda _: practice.safety.SAFE_VOLTS,
    "voltage left after a 5-minute wait": lambda i: bus.bus_volts_left(i["t"], i["R"], i["C"], i["V0"]),
    "motor minimum insulation resistance at 40 degC, form-wound/random-wound below 1 kV (post-1970 random wound)": (
        lambda _: insulation.insulation_least(400.0)
    ),
    "insulation resistance corrected to 40 degC": lambda i: insulation.insulation_at_40(
        i["R_T"], insulation.insulation_temperature_factor(i["T"])
    ),
    "avoided emission": lambda i: annual.avoided_emission(i["E"], i["factor"]),
}

BY_ID: dict[str, Binding] = {
    "M01-44": lambda i: speed.speed_on_drive(i["f"], i["poles"], 60.0, 1800 - i["slip_rated"], i["T_frac"]),
    "M01-45": lambda i: speed.speed_on_drive(i["f"], i["poles"], 60.0, 1800 - i["slip_rated"], i["T_frac"]),
    "M02-15": _poles_then_fit,
    "M02-16": _poles_then_fit,
    "M02-17": _poles_then_fit,
    "M02-53": lambda i: load.three_phase_input_power(
        sum(i["V_ab,V_bc,V_ca"]) / 3, sum(i["I_a,I_b,I_c"]) / 3, sum(i["pf_a,b,c"]) / 3
    ),
    "M07-08": lambda i: pump_curve.pump_head(
        i["Q"], i["s"], i.raw["c"]["value"][2], i.raw["c"]["value"][1] * 1e3, i.raw["c"]["value"][0] * 1e6
    ),
    "M07-09": lambda i: pump_curve.epanet_exponent(i["H0"], *i.raw["Q1,H1"]["value"], *i.raw["Q2,H2"]["value"]),
    "M04-22": lambda i: drive_cooling.enclosure_area(i["W"], i["H"], i["D"], "free"),
    "M04-23": lambda i: drive_cooling.enclosure_area(i["W"], i["H"], i["D"], "wall"),
    "M04-24": lambda i: drive_cooling.enclosure_area(i["W"], i["H"], i["D"], "row_mid_wall"),
    "M04-31": lambda i: drive_cooling.motor_ambient_at_altitude(i["rise_limit"], i["Z"]),
    "M04-32": lambda i: drive_cooling.motor_ambient_at_altitude(i["rise_limit"], i["Z"]),
    "M04-33": lambda i: drive_cooling.motor_ambient_at_altitude(i["rise_limit"], i["Z"]),
    "M07-30": lambda i: power.specific_speed(i["n"], i["Q"], i["H"]),
    "P10-01": lambda i: identify.time_to_share(i["tau"], i["theta"], 0.283),
    "P10-02": lambda i: identify.time_to_share(i["tau"], i["theta"], 0.632),
    "P10-49": lambda i: identify.late_points_identification(i["t35"], i["t85"]).time_constant,
    "P10-50": lambda i: identify.late_points_identification(i["t35"], i["t85"]).dead_time,
    "P10-06": lambda i: _two_lags(i).time_constant,
    "P10-07": lambda i: _two_lags(i).dead_time,
    "P10-08": lambda i: identify.half_rule(i["tau1"], i["tau2"], i["theta"]).time_constant,
    "P10-11a": lambda i: rules.open_loop_pi(*_model(i)).gain,
    "P10-11b": lambda i: rules.open_loop_pi(*_model(i)).integral_time,
    "P10-12a": lambda i: rules.open_loop_pid(*_model(i)).gain,
    "P10-12b": lambda i: rules.open_loop_pid(*_model(i)).integral_time,
    "P10-12c": lambda i: rules.open_loop_pid(*_model(i)).derivative_time,
    "P10-13a": lambda i: rules.amigo_pi(*_model(i)).gain,
    "P10-13b": lambda i: rules.amigo_pi(*_model(i)).integral_time,
    "P10-14a": lambda i: rules.amigo_pid(*_model(i)).gain,
    "P10-14b": lambda i: rules.amigo_pid(*_model(i)).integral_time,
    "P10-14c": lambda i: rules.amigo_pid(*_model(i)).derivative_time,
    "P10-15": lambda i: margins.ultimate_of_process(*_model(i)).gain,
    "P10-16": lambda i: margins.ultimate_of_process(*_model(i)).period,
    "P10-17": lambda i: rules.ultimate_pi(i["Ku"], 1.0).gain,
    "P10-18": lambda i: rules.ultimate_pi(1.0, i["Pu"]).integral_time,
    "P10-19": lambda i: rules.ultimate_pid(i["Ku"], 1.0).gain,
    "P10-20": lambda i: _simc_loop(i).gain_margin,
    "P10-21": lambda i: _simc_loop(i).phase_margin,
    "P10-22": lambda i: _simc_loop(i).sensitivity,
    "P10-23": lambda i: margins.loop_margins(*_model(i), *rules.open_loop_pi(*_model(i))).gain_margin,
    "P10-24": lambda i: margins.loop_margins(*_model(i), *rules.open_loop_pi(*_model(i))).phase_margin,
    "P10-25": lambda i: margins.loop_margins(*_model(i), *rules.amigo_pi(*_model(i))).sensitivity,
    "P10-26": lambda i: margins.loop_margins(*_model(i), *tuning.lambda_pi(*_model(i), 3 * i["tau"])).phase_margin,
    "P10-27": lambda i: _simc_step(i).overshoot,
    "P10-28": lambda i: _simc_step(i).rise_time,
    "P10-29": lambda i: _simc_step(i).overshoot,
    "P10-31": lambda i: forms.parallel_derivative_gain(i["Kc"], i["Td"]),
    "P10-32": lambda i: forms.series_of_ideal(i["Kc"], i["Ti"], i["Td"]).gain,
    "P10-33": lambda i: forms.series_of_ideal(i["Kc"], i["Ti"], i["Td"]).integral_time,
    "P10-34": lambda i: forms.series_of_ideal(i["Kc"], i["Ti"], i["Td"]).derivative_time,
    "P10-35": lambda i: forms.ideal_of_series(i["K'"], i["Ti'"], i["Td'"]).gain,
    "P10-37": lambda i: forms.repeats_per_minute(i["Ti"]) / 60,
    "P10-38": lambda i: rules.level_slope_gain(i["Q_full"], i["A"], i["span"]),
    "P10-39": lambda i: rules.simc_integrating(i["k'"], i["theta"], i["tau_c"]).gain,
    "P10-40": lambda i: rules.simc_integrating(1.0, i["theta"], i["tau_c"]).integral_time,
    "P10-41": lambda i: rules.averaging_gain(i["dOut"], i["dLevel"]),
    "P10-42": lambda _: controller_action(+1),
    "P10-43": lambda _: controller_action(-1),
    "P10-46": lambda _: controller_action(+1),
    "P10-47": lambda _: controller_action(-1),
    "P10-48": lambda _: controller_action(-1),
}


def _model(i: Inputs) -> tuple[float, float, float]:
    return i["K"], i["tau"], i["theta"]


def _two_lags(i: Inputs) -> tuning.FirstOrder:
    times = [identify.time_to_share_of_two(i["tau1"], i["tau2"], i["theta"], share) for share in (0.283, 0.632)]
    return tuning.two_point_identification(*times)


def _simc_loop(i: Inputs) -> margins.Margins:
    return margins.loop_margins(*_model(i), *tuning.simc_pi(*_model(i), i["theta"]))


def _simc_step(i: Inputs) -> margins.Step:
    return margins.loop_step(*_model(i), *tuning.simc_pi(*_model(i), i["theta"]))


def binding_of(case: dict[str, Any]) -> Binding | None:
    """The binding of a case; None when its method does not exist yet."""
    if case["id"] in BY_ID:
        return BY_ID[case["id"]]
    quantity = case["quantity"]
    if quantity.startswith(("IE1", "IE2", "IE3", "IE4")) and quantity.endswith("nominal efficiency limit 50 Hz"):
        return lambda i: efficiency.ie_efficiency(i["P"], i["poles"], i["class"])
    return BY_QUANTITY.get(quantity)
