"""What a line would show, if the quantities that plates promise had given values: many sets of them in one call.

The same equations as the readings to expect by the plate (`core.derived`), written for arrays of sets by readings:
motor speed from load and slip, the curve by affinity, its meeting with the system, shaft power by the efficiency
parabola, losses by speed and torque, and what gauge, sensor and display make of it. Near the speed that just lifts, the
corner is rounded off a little: a slope without end there would look like certainty.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from mainspring.core.known.facts import Facts
from mainspring.core.known.unknowns import places
from mainspring.core.quantity import WATER_20C, G

Array = npt.NDArray[np.float64]
Key = tuple[str, float]  # kind of reading, drive frequency

SOFT = 0.002  # of the rise at no flow: how far the corner is rounded
HELD_EFFICIENCY = 0.4  # of the best: below it the correction for speed is held
TURNS = 3  # of load and slip: more change the speed by less than a display shows


@dataclass(frozen=True)
class _Run:
    """The machine running at some frequencies: all [sets, frequencies]."""

    speed_ratio: Array
    rpm: Array
    flow: Array
    rise: Array
    shaft: Array
    power: Array
    amps: Array


class Model:
    """The forward model of one line."""

    def __init__(self, facts: Facts) -> None:
        self.facts = facts
        self.place = places(facts.air)
        self.weight = 1.0 if facts.air else WATER_20C * G  # from a rise to a pressure

    def forward(self, theta: Array, keys: Sequence[Key]) -> Array:
        """What would be read, [sets, readings], of quantities [sets, unknowns]."""
        set_ = _Set(self, theta)
        runs: dict[bool, tuple[list[float], _Run]] = {}
        for shut in (False, True):
            if at := sorted({f for kind, f in keys if f and kind.startswith("shut_") == shut}):
                runs[shut] = at, set_.run(np.array(at), shut=shut)
        out = np.empty((len(theta), len(keys)))
        shown: dict[str, Array] = {}  # by kind, at every frequency that is asked
        for i, (kind, f) in enumerate(keys):
            if f:
                references, run = runs[kind.startswith("shut_")]
                if kind not in shown:
                    shown[kind] = set_.shown(kind.removeprefix("shut_"), run)
                out[:, i] = shown[kind][:, references.index(f)]
            else:
                out[:, i] = set_.of_no_frequency(kind)[:, 0]
        return out

    def full_flow(self, theta: Array) -> Array:
        """Flow at full speed into the open system [sets, 1]."""
        return _Set(self, theta).run(np.array([self.facts.frequency]), shut=False).flow


class _Set:
    """Sets of values of the quantities, unpacked: each [sets, 1]."""

    def __init__(self, model: Model, theta: Array) -> None:
        facts = self.facts = model.facts
        self.model, self.theta = model, theta
        denser = np.exp(self("density"))
        air = denser * facts.density  # against that of the curve
        head, self.flow_scale = np.exp(self("head_scale")), np.exp(self("flow_scale"))
        bend = self("shape") * facts.c0 / facts.best_flow
        c1 = facts.c1 - bend
        c2 = np.minimum(facts.c2 + bend / facts.best_flow, -1e-3 * facts.c0 / facts.best_flow**2)
        self.a = head * facts.c0 * air
        self.b = head * c1 / self.flow_scale * air
        self.c = head * c2 / self.flow_scale**2 * air
        self.static = facts.static + self("static")
        self.resistance = facts.resistance * np.exp(self("resistance")) * denser
        self.suction = facts.suction + self("suction")
        self.efficiency = np.minimum(facts.best_efficiency * np.exp(self("efficiency")), 0.98)
        self.no_load = facts.no_load_amps * np.exp(self("no_load_amps"))
        self.full_load = facts.rated_amps * np.exp(self("plate_amps"))
        self.slip = (facts.synchronous - facts.rpm) * np.exp(self("slip"))
        self.loss = np.exp(self("loss"))
        self.by_belt = np.exp(self("speed_scale"))

    def __call__(self, name: str) -> Array:
        place = self.model.place.get(name)
        return np.zeros((len(self.theta), 1)) if place is None else self.theta[:, place, None]

    def rise(self, flow: Array, s: Array) -> Array:
        rise: Array = self.a * s * s + self.b * s * flow + self.c * flow * flow
        return rise

    def flow(self, s: Array) -> Array:
        """Where the curve meets the open system; 0 where it lifts nothing."""
        lift = self.a * s * s - self.static
        if not self.facts.air:
            corner = SOFT * self.facts.c0
            lift = 0.5 * (lift + np.sqrt(lift * lift + corner * corner))
        b, k = self.b * s, self.resistance - self.c
        root = np.sqrt(np.maximum(b * b + 4 * k * np.maximum(lift, 0.0), 0.0))
        flow: Array = np.maximum((b + root) / (2 * k), 0.0)
        return flow

    def shaft(self, flow: Array, rise: Array, s: Array) -> Array:
        facts = self.facts
        x = np.clip(flow / (self.flow_scale * s * facts.best_flow), 0.0, 1.7)
        power = self.model.weight * np.maximum(rise, 0.0) * s * facts.best_flow * self.flow_scale
        power = power / (self.efficiency * (2 - x)) * np.exp(self("efficiency_shape") * (1 - x))
        if not facts.air:
            held = np.maximum(self.efficiency * (2 * x - x * x), HELD_EFFICIENCY * self.efficiency)
            power = power * held / np.maximum(1 - (1 - held) * s**-0.1, 0.02)
        return power

    def electric(self, shaft: Array, torque: Array, s: Array) -> tuple[Array, Array]:
        """Power to the motor and amps."""
        facts = self.facts
        falls = s ** np.clip(self("loss_exponent"), -0.5, 4.0)
        loss = self.loss * (facts.constant_loss * falls + facts.load_loss * torque**2)
        working = np.maximum(self.full_load**2 - self.no_load**2, 0.0)
        return shaft + loss * facts.rated_power, np.sqrt(self.no_load**2 + working * torque**2)

    def run(self, frequencies: Array, *, shut: bool) -> _Run:
        """Everything at some frequencies, motor speed and load settled with each other."""
        facts = self.facts
        ratio = frequencies[None, :] / facts.frequency
        turned = ratio * np.ones_like(self.a)
        rpm = turned * facts.rpm
        for _ in range(TURNS):
            s = turned
            flow = np.zeros_like(s) if shut else self.flow(s)
            rise = self.rise(flow, s)
            shaft = self.shaft(flow, rise, s)
            torque = shaft / facts.rated_power / s
            rpm = facts.synchronous * ratio - self.slip * torque
            turned = np.maximum(rpm / facts.rpm * self.by_belt, 0.02)
        power, amps = self.electric(shaft, torque, s)
        return _Run(turned, rpm, flow, rise, shaft, power, amps)

    def shown(self, kind: str, run: _Run) -> Array:
        """What instruments make of it."""
        if kind == "speed":
            return run.rpm
        if kind == "current":
            return run.amps * np.exp(self("drive_amps"))
        if kind == "power":
            return run.power * np.exp(self("drive_power"))
        if kind == "clamp":
            return run.power * np.exp(self("clamp"))
        if kind == "flow":
            return run.flow * np.exp(self("flow_meter"))
        if kind == "wheel":
            return run.speed_ratio * (self.facts.wheel_rpm or self.facts.rpm)
        assert kind == "pressure", kind
        return self._gauge(self._outlet(run.rise))

    def _outlet(self, rise: Array) -> Array:
        facts = self.facts
        if facts.air:
            return rise
        if facts.well:  # the gauge stands at the well head, as high above the water as is lifted before anything flows
            return np.maximum(self.model.weight * (rise - self.static), 0.0)
        return self.suction + self.model.weight * rise

    def _gauge(self, pressure: Array) -> Array:
        return pressure * (1 + self("gauge_span")) + self("gauge_zero")

    def _sensor(self, pressure: Array) -> Array:
        return pressure * (1 + self("sensor_span")) + self("sensor_zero")

    def of_no_frequency(self, kind: str) -> Array:
        facts = self.facts
        if kind == "hold":
            return self.hold()
        if kind == "rest_sensor":
            lift = 0.0 if facts.well else self.static - facts.sensor_height
            return self._sensor(self.suction + self.model.weight * lift)
        if kind == "vented_gauge":
            return self("gauge_zero")
        if kind == "suction":
            return self.suction
        assert kind == "tape", kind
        return self.static

    def hold(self) -> Array:
        """Drive frequency at which the sensor shows the setpoint at no demand."""
        facts = self.facts
        assert facts.held is not None, "nothing is held"
        at_sensor = (facts.held - self("sensor_zero")) / (1 + self("sensor_span"))
        if facts.air:
            rise = at_sensor
        else:
            height = self.static if facts.well else facts.sensor_height
            before = 0.0 if facts.across else self.suction
            rise = np.maximum((at_sensor - before) / self.model.weight + height, 0.1)
        s = np.sqrt(np.maximum(rise, 1e-6) / self.a)
        torque = self.shaft(np.zeros_like(s), self.rise(np.zeros_like(s), s), s) / facts.rated_power / s
        return (s / self.by_belt * facts.rpm + self.slip * torque) / facts.synchronous * facts.frequency


def answers(facts: Facts, kinds: Iterable[str]) -> frozenset[str]:
    """Of some kinds of reading those that the model has an answer to on this line."""
    found = set(kinds)
    if facts.held is None:
        found.discard("hold")
    if facts.air:
        found -= {"tape", "suction", "rest_sensor", "vented_gauge", "shut_pressure"}  # nobody shuts a duct to read it
    if facts.closed:
        found -= {"tape", "rest_sensor"}
    if facts.open_surface:
        found.discard("suction")
    return frozenset(found)
