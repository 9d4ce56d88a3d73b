"""The process a pressure controller sees, from the record: gain, time constant, dead time."""

from typing import Annotated

from mainspring.core import practice
from mainspring.core.control.tuning import PiGains, simc_pi
from mainspring.core.derived import Derived
from mainspring.core.hydraulics.tank import ATMOSPHERE
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, assume, assume_practice, given, method
from mainspring.core.quantity import (
    WATER_20C,
    Acceleration,
    CubicMetre,
    CubicMetrePerSecond,
    G,
    KilogramPerCubicMetre,
    MetreHead,
    Pascal,
    PipeResistance,
    Ratio,
    Second,
)

PIPE_COMPLIANCE = 2e-9  # m³/Pa, a few tens of metres of pipe with a little air; used where there is no tank


@method("K = 2 * rho * g * H_0 * s / span", DERIVED)
def pressure_gain(
    shutoff_head: Annotated[MetreHead, In("of the pump at full speed", "H_0")],
    speed_ratio: Annotated[Ratio, In("where the loop works", "s")],
    span: Annotated[Pascal, In("of the sensor", "span", above=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Ratio:
    """Change of pressure per change of speed near no flow, percent of span per percent of full speed.

    >>> round(pressure_gain(50, 0.84, 1e6), 3)
    0.822
    """
    return 2 * density * gravity * shutoff_head * speed_ratio / span


@method("C = V * (p_pre + p_a) / (p + p_a)**2 + C_pipe", DERIVED)
def tank_compliance(
    tank_volume: Annotated[CubicMetre, In("total", "V")],
    precharge: Annotated[Pascal, In("gauge", "p_pre")],
    pressure: Annotated[Pascal, In("gauge, working", "p")],
    atmosphere: Annotated[Pascal, In("absolute", "p_a")] = ATMOSPHERE,
    pipe: Annotated[float, In("compliance of the pipework itself", "C_pipe")] = PIPE_COMPLIANCE,
) -> float:
    """Water that tank and pipe take for each pascal [m³/Pa], isothermal.

    >>> round(tank_compliance(0.18, 260e3, 400e3) * 1e9, 1)
    260.8
    """
    return tank_volume * (precharge + atmosphere) / (pressure + atmosphere) ** 2 + pipe


@method("tau = C * rho * g * 2 * R * Q", DERIVED)
def pressure_time_constant(
    compliance: Annotated[float, In("of tank and pipe", "C")],
    steepness: Annotated[PipeResistance, In("of the pump curve", "R", above=0)],
    flow: Annotated[CubicMetrePerSecond, In("where the loop works", "Q", above=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Second:
    """Time constant of tank against the steepness of the pump's curve at a flow.

    >>> round(pressure_time_constant(2.6e-7, 200_000, 0.005), 2)
    5.09
    """
    return compliance * density * gravity * 2 * steepness * flow


def gains_from_model(line: Line, derived: Derived) -> PiGains:
    """PI gains by SIMC for this line near its least flow, where the process gain is highest."""
    span = line.sensor.range_high - line.sensor.range_low
    gain = pressure_gain(derived.pump.curve.c0, derived.machine.hold_speed, span)
    flow = line.machine.duty_flow
    if line.system.has("tank_volume") and line.system.has("tank_precharge"):
        compliance: float = tank_compliance(line.system.tank_volume, line.system.tank_precharge, line.control.setpoint)
    else:
        compliance = assume("system.tank_volume", PIPE_COMPLIANCE, None, "no tank entered: pipework alone")
    half_flow = assume("loop.working_flow", flow / 2, "flow", "half the duty flow")
    steepness = given("steepness", -derived.pump.curve.parabola[2], "pipe_resistance", "of the curve's own parabola")
    tau: Figure = pressure_time_constant(compliance, steepness, half_flow)
    dead = assume_practice("loop.dead_time", practice.loop.DEAD_TIME)
    tau = max(tau, assume_practice("loop.least_time_constant", practice.loop.TIME_CONSTANT))
    return simc_pi(gain, tau, dead, 3 * dead)
