"""Lines whose truth is known, rougher than what is believed of any: worn, off gauge, wrong heads, optimistic plates.

Every quantity is drawn evenly to the end of its limit and beyond, not from the beliefs' own normals. Equations are
written here once more, plainly and one reading at a time, with what a real plant may do and the estimate does not know:
a leak back past the check valve, another exponent of friction, a humped curve. Sizes are of the trade, from memory.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from random import Random

from mainspring.core.known import Facts
from mainspring.core.line import Taken

RHO_G = 998.2 * 9.80665
BAR = 1e5
LADDERS = {1: (1.0,), 2: (0.7, 1.0), 4: (0.6, 0.75, 0.9, 1.0), 6: (0.5, 0.6, 0.7, 0.8, 0.9, 1.0)}
ROW = ("speed", "current", "power", "pressure")


@dataclass(frozen=True)
class Truth:
    """How one line truly differs from its plates; factors are e^x."""

    head: float
    flow: float
    speed: float
    static: float
    resistance: float
    suction: float
    gauge_zero: float
    gauge_span: float
    sensor_zero: float
    sensor_span: float
    no_load: float
    full_load: float
    slip: float
    loss: float
    efficiency: float
    drive_power: float
    drive_amps: float
    bend: float
    efficiency_bend: float
    falls: float
    leak: float = 0.0  # of best flow, runs back past the check valve
    exponent: float = 2.0  # of friction on flow
    hump: float = 0.0  # of the rise at no flow


def facts_drawn(rng: Random, *, air: bool) -> Facts:
    """Plates of one line."""
    kw = rng.choice((2.2, 4, 5.5, 7.5, 11, 15, 22) if air else (2.2, 3, 4, 5.5, 7.5, 11, 15, 22, 30))
    power, efficiency = 1e3 * kw, rng.uniform(0.6, 0.78) if air else rng.uniform(0.55, 0.8)
    rise = rng.uniform(500, 1400) if air else rng.uniform(22, 60)
    load = rng.uniform(0.6, 0.92)
    best = load * power * efficiency / (rise * (1 if air else RHO_G))
    c0 = rise * (rng.uniform(1.15, 1.35) if air else rng.uniform(1.18, 1.4))
    c1 = rng.uniform(0, 0.25) * rise / best if air else -rng.uniform(0, 0.3) * (c0 - rise) / best
    static = 0.0 if air else rise * rng.uniform(0.15, 0.6)
    suction = 0.0 if air else rng.uniform(0, 1.5) * BAR
    held = rise * rng.uniform(0.25, 0.6) if air else suction + RHO_G * c0 * rng.uniform(0.45, 0.7)
    hertz, poles = rng.choice(((50.0, 4), (50.0, 2), (60.0, 4)))
    synchronous = 120 * hertz / poles
    eta, pf = 0.855 + 0.06 * math.log10(kw / 2.2), rng.uniform(0.79, 0.88)
    share, lost = rng.uniform(0.3, 0.42), 1 / eta - 1
    amps = power / (3**0.5 * 400 * pf * eta)
    return Facts(
        air=air, c0=c0, c1=c1, c2=(rise - c0 - c1 * best) / best**2, best_flow=best, best_efficiency=efficiency,
        static=static, resistance=(rise - static) / best**2 * rng.uniform(0.85, 1.25), suction=suction,
        sensor_height=0.0, held=held, rated_power=power, rated_amps=amps, no_load_amps=amps * math.sqrt(1 - pf**2),
        rpm=round(synchronous * (1 - rng.uniform(0.015, 0.035)) / 5) * 5.0, synchronous=synchronous, frequency=hertz,
        constant_loss=lost * share, load_loss=lost * (1 - share),
        sensor_span=2000.0 if air else 10 * BAR, belt=air, condition="used",
    )  # fmt: skip


def truth_drawn(rng: Random, facts: Facts) -> Truth:
    """How that line is."""
    u, n, air = rng.uniform, rng.gauss, facts.air
    zero = u(-4, 4) if air else (u(-0.25, 0.25) if rng.random() < 0.5 else u(-0.08, 0.08)) * BAR
    return Truth(
        head=-u(0, 0.10) + n(0, 0.012), flow=-u(0, 0.10) + n(0, 0.02), speed=-u(0, 0.02) if air else n(0, 0.002),
        static=0.0 if air else u(-0.15, 0.15) * facts.static + u(-1, 1), resistance=u(-0.4, 0.4),
        suction=0.0 if air else u(-0.15, 0.15) * BAR, gauge_zero=zero,
        gauge_span=u(-0.03, 0.03) if air else u(-0.016, 0.016), sensor_zero=u(-0.007, 0.007) * facts.sensor_span,
        sensor_span=u(-0.006, 0.006), no_load=u(-0.2, 0.2), full_load=u(-0.03, 0.03),
        slip=u(-0.2, 0.2) + u(-2.5, 2.5) / (facts.synchronous - facts.rpm), loss=u(-0.08, 0.22),
        efficiency=-u(0, 0.11) + n(0, 0.012), drive_power=u(-0.05, 0.05), drive_amps=u(-0.03, 0.03),
        bend=u(-0.05, 0.05), efficiency_bend=u(-0.08, 0.08), falls=u(0.5, 2.0),
    )  # fmt: skip


class Plant:
    """The line as it truly is."""

    def __init__(self, facts: Facts, truth: Truth) -> None:
        self.facts, self.truth = facts, truth
        self.best = facts.best_flow * math.exp(truth.flow)

    def rise(self, flow: float, s: float) -> float:
        """Head or pressure at a flow and a share of full speed."""
        f, t = self.facts, self.truth
        x = flow / self.best
        promised = f.c0 * s * s + f.c1 * f.best_flow * s * x + f.c2 * (f.best_flow * x) ** 2
        bent = t.bend * f.c0 * (x * x - s * x)
        hump = t.hump * f.c0 * s * s * math.sin(math.pi * min(x / s, 2.0))
        return math.exp(t.head) * f.density * (promised + bent + hump)

    def flow(self, s: float) -> float:
        """Through the machine into the open system; what leaks back goes round."""
        f, t = self.facts, self.truth
        k = f.resistance * math.exp(t.resistance) * f.best_flow ** (2 - t.exponent)
        low, high = 0.0, 2.5 * f.best_flow
        for _ in range(60):
            middle = (low + high) / 2
            out = max(middle - t.leak * f.best_flow * s, 0.0)
            if self.rise(middle, s) > f.static + t.static + k * out**t.exponent:
                low = middle
            else:
                high = middle
        return low

    def shaft(self, flow: float, s: float) -> float:
        """Shaft power."""
        f, t = self.facts, self.truth
        x = min(flow / (s * self.best), 1.7)
        eta = f.best_efficiency * math.exp(t.efficiency)
        weight = 1.0 if f.air else RHO_G
        power = weight * max(self.rise(flow, s), 0.0) * s * self.best / (eta * (2 - x))
        power *= math.exp(t.efficiency_bend * (1 - x))
        if f.air:
            return power
        held = max(eta * (2 * x - x * x), 0.4 * eta)
        return power * held / (1 - (1 - held) * s**-0.1)

    def running(self, hertz: float) -> dict[str, float]:
        """Everything at a drive frequency."""
        f, t = self.facts, self.truth
        ratio = hertz / f.frequency
        s, torque, flow, shaft = ratio, 0.0, 0.0, 0.0
        for _ in range(5):
            flow = self.flow(s)
            shaft = self.shaft(flow, s)
            torque = shaft / f.rated_power / s
            rpm = f.synchronous * ratio - (f.synchronous - f.rpm) * math.exp(t.slip) * torque
            s = rpm / f.rpm * math.exp(t.speed)
        loss = math.exp(t.loss) * (f.constant_loss * s**t.falls + f.load_loss * torque**2)
        no_load, full = f.no_load_amps * math.exp(t.no_load), f.rated_amps * math.exp(t.full_load)
        rise = self.rise(flow, s)
        outlet = rise if f.air else f.suction + t.suction + RHO_G * rise
        electric = shaft + loss * f.rated_power
        return {
            "speed": rpm,
            "current": math.sqrt(no_load**2 + (full**2 - no_load**2) * torque**2) * math.exp(t.drive_amps),
            "power": electric * math.exp(t.drive_power),
            "pressure": outlet * (1 + t.gauge_span) + t.gauge_zero,
            "flow": flow - t.leak * f.best_flow * s,
            "wheel": s * f.rpm,
        }

    def flow_at_full_speed(self) -> float:
        """What is delivered at the plate's frequency."""
        return self.running(self.facts.frequency)["flow"]

    def hold(self) -> float:
        """Frequency at which the sensor shows the setpoint and nothing is drawn."""
        f, t = self.facts, self.truth
        assert f.held is not None
        at_sensor = (f.held - t.sensor_zero) / (1 + t.sensor_span)
        wanted = at_sensor if f.air else (at_sensor - f.suction - t.suction) / RHO_G
        low, high = 0.1, 2.0
        for _ in range(60):
            s = (low + high) / 2
            low, high = (s, high) if self.rise(t.leak * f.best_flow * s, s) < wanted else (low, s)
        torque = self.shaft(t.leak * f.best_flow * low, low) / f.rated_power / low
        slip = (f.synchronous - f.rpm) * math.exp(t.slip)
        return (low / math.exp(t.speed) * f.rpm + slip * torque) / f.synchronous * f.frequency


def read(rng: Random, plant: Plant, hertz: Sequence[float], kinds: Sequence[str] = ROW) -> list[Taken]:
    """Rows as instruments show them: scatter, and the last digit of the display."""
    facts, found = plant.facts, []
    for f in hertz:
        shown = plant.running(f)
        found.extend(Taken(kind, f, _shown(rng, facts, kind, shown[kind])) for kind in kinds)
    return found


def read_hold(rng: Random, plant: Plant) -> Taken:
    """The hold as read."""
    return Taken("hold", 0.0, round(plant.hold() + rng.gauss(0, 0.08), 1))


def _shown(rng: Random, facts: Facts, kind: str, value: float) -> float:
    if kind in ("speed", "wheel"):
        return float(round(value + rng.uniform(-2, 2)))
    if kind == "current":
        return round(value * (1 + rng.gauss(0, 0.005)), 1)
    if kind == "power":
        step = 100.0 if facts.rated_power >= 7500 else 10.0
        return round(value * (1 + rng.gauss(0, 0.009)) / step) * step
    if kind == "flow":
        return value * (1 + rng.gauss(0, 0.005))
    if facts.air:
        return float(round(value * (1 + rng.gauss(0, 0.013))))
    return round((value + rng.gauss(0, 0.035 * BAR)) / 5e3) * 5e3


def drawn(seed: int, *, air: bool, rows: int, other: dict[str, float] | None = None,
          hold: bool = True) -> tuple[Random, Plant, tuple[Taken, ...]]:  # fmt: skip
    """One line and its readings; `other` is what its truth does that nobody expects."""
    rng = Random(f"known {seed} {air}")
    facts = facts_drawn(rng, air=air)
    plant = Plant(facts, replace(truth_drawn(rng, facts), **(other or {})))
    found = read(rng, plant, [round(x * facts.frequency, 1) for x in LADDERS[rows]])
    return rng, plant, (*found, *((read_hold(rng, plant),) if hold else ()))
