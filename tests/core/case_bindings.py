"""Which method answers which check value: by the quantity it names, or by its id where names are shared."""

from collections.abc import Callable
from typing import Any

from mainspring.core.control import tuning
from mainspring.core.control.tuning import controller_action
from mainspring.core.derived import Derived
from mainspring.core.drive import losses, motor_lead, rating
from mainspring.core.electrical import unbalance as ub
from mainspring.core.energy import annual
from mainspring.core.energy.savings import Savings, savings_of
from mainspring.core.hydraulics import affinity, power, pump_curve, system_curve, tank
from mainspring.core.line import parse_line
from mainspring.core.money import payback
from mainspring.core.motor import current, efficiency, load, speed
from mainspring.core.quantity import GALLON, HORSEPOWER, PSI
from mainspring.core.signal import loop

UNITS: dict[str, float] = {
    "": 1, "1": 1, "%": 0.01, "% span": 0.01, "Hz": 1, "rpm": 1, "hp": HORSEPOWER, "kW": 1e3, "W": 1, "kVA": 1e3,
    "V": 1, "A": 1, "mA": 1e-3, "uF": 1e-6, "kohm": 1e3, "ohm": 1, "m": 1, "mm": 1e-3, "ft": 0.3048, "in": 0.0254,
    "m3/s": 1, "L/s": 1e-3, "m3/h": 1 / 3600, "gpm": GALLON / 60, "gal": GALLON, "L": 1e-3, "s": 1, "min": 60,
    "h": 3600, "a": 1, "kg/m3": 1, "kPa": 1e3, "kPa(g)": 1e3, "bar": 1e5, "psi": PSI, "psig": PSI, "Pa": 1,
    "m/(m3/s)^2": 1, "kWh": 3.6e6, "kg/kWh": 1 / 3.6e6, "kg": 1, "$": 1, "$/kWh": 1 / 3.6e6, "%/%": 1, "m/us": 1e6,
    "us": 1e-6, "N.m": 1, "lbf.ft": 1.3558179483314004, "V/Hz": 1, "m/s2": 1, "kWh/m3": 3.6e6, "degC": 1, "K": 1,
    "m/(L/s)^2": 1e6, "m/(L/s)": 1e3, "ohm.mm2/m": 1e-6, "mm2": 1e-6, "1/s": 1, "1/min": 1 / 60,
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


def _drawdown(i: Inputs) -> float:
    return tank.tank_drawdown(i["P_pre"], i["P_on"], i["P_off"], i["P_atm"])


def _poles_then_fit(i: Inputs) -> float:
    names = {0.0773: "IE3", 0.2972: "IE2", 0.2412: "IE4"}
    coefficients = i.raw["coefficients A,B,C,D"]["value"]
    return efficiency.ie_efficiency_fit(i["P"], i["poles"], names[coefficients[0]])


def _npv_inputs(i: Inputs) -> tuple[float, float, float, float, float]:
    return i["net_cost"], i["saving_year1"], i["d"], i["e"], i["n"]


Binding = Callable[[Inputs], Any]

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
    # energy and money
    "annual energy, throttled, direct on line": lambda i: worked_savings(i).throttled,
    "annual energy, variable speed": lambda i: worked_savings(i).slowed,
    "annual saving": lambda i: worked_savings(i).saved,
    "saving fraction": lambda i: worked_savings(i).fraction,
    "electrical input at 14 L/s throttled": lambda i: _level(i, 0.014).throttled_input,
    "electrical input at 14 L/s variable speed": lambda i: _level(i, 0.014).input,
    "peak input throttled (20 L/s)": lambda i: _level(i, 0.020).throttled_input,
    "peak input with drive (20 L/s)": lambda i: _level(i, 0.020).input,
    "cube-law estimate of variable-speed energy (the mistake)": lambda i: worked_savings(i).cube_energy,
    "speed ratio at 7 L/s": lambda i: _level(i, 0.007).speed_ratio,
    "wire-to-water efficiency": lambda i: annual.wire_to_water_efficiency(i["Q"], i["H"], i["P_in"], i["rho"]),
    "specific energy": lambda i: annual.specific_energy(i["P_in"], i["Q"]),
    "simple payback": lambda i: payback.simple_payback(i["net_cost"], i["saving_year1"]),
    "net present value": lambda i: payback.net_present_value(*_npv_inputs(i)),
    "uniform present value factor": lambda i: payback.uniform_present_value(i["d"], i["n"]),
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
    "M07-30": lambda i: power.specific_speed(i["n"], i["Q"], i["H"]),
    "P10-42": lambda _: controller_action(+1),
    "P10-43": lambda _: controller_action(-1),
    "P10-46": lambda _: controller_action(+1),
    "P10-47": lambda _: controller_action(-1),
    "P10-48": lambda _: controller_action(-1),
}


def binding_of(case: dict[str, Any]) -> Binding | None:
    """The binding of a case; None when its method does not exist yet."""
    if case["id"] in BY_ID:
        return BY_ID[case["id"]]
    quantity = case["quantity"]
    if quantity.startswith(("IE1", "IE2", "IE3", "IE4")) and quantity.endswith("nominal efficiency limit 50 Hz"):
        return lambda i: efficiency.ie_efficiency(i["P"], i["poles"], i["class"])
    return BY_QUANTITY.get(quantity)
