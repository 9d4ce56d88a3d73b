"""The kinds of reading that tell of a line, and what scatters in each besides what is estimated."""

import math
from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.known.facts import Facts

BAR = 1e5
ROOT_12 = 12**0.5


@dataclass(frozen=True)
class Kind:
    """One kind of reading: its words, the dimension it is told in, its repeatability and its display's last digit.

    `shut` is with the valve or damper shut, `moment` one that belongs to no frequency.
    """

    id: str
    label: str
    pump: str  # dimension
    fan: str
    scatter: Callable[[Facts, float], float]  # standard deviation, of the value expected
    rounds_to: Callable[[Facts], float]
    moment: bool = False
    field: str = ""  # of the record, where it is entered there: at full speed, or at rest, with everything open
    how: str = ""  # what to do to take it
    fan_how: str = ""

    def dimension(self, facts: Facts) -> str:
        """What it is told in."""
        return self.fan if facts.air else self.pump

    def field_of(self, *, air: bool) -> str:
        """Where it is entered in the record; empty where it is not."""
        return self.field.replace("open_flow", "open_air_flow") if air else self.field

    def noise(self, facts: Facts, expected: float) -> float:
        """Standard deviation of one reading: repeatability, and the rounding of the display."""
        return math.hypot(self.scatter(facts, abs(expected)), self.rounds_to(facts) / ROOT_12)


def _share(share: float) -> Callable[[Facts, float], float]:
    return lambda _, value: share * value


def _fixed(sd: float) -> Callable[[Facts, float], float]:
    return lambda _f, _v: sd


def _bar(pump: float, fan: float) -> Callable[[Facts], float]:
    return lambda facts: fan if facts.air else pump * BAR


def _amps(facts: Facts) -> float:
    return 0.1 if facts.rated_amps >= 1.5 else 0.01


def _watts(facts: Facts) -> float:
    return 100.0 if facts.rated_power >= 7500 else 10.0


def _gauge(facts: Facts, value: float) -> float:
    return 0.015 * value if facts.air else 0.04 * BAR


KINDS: dict[str, Kind] = {
    k.id: k
    for k in (
        Kind("speed", "speed", "speed", "speed", _fixed(1.3), lambda _: 1.0),
        Kind("current", "amps", "current", "current", _share(0.006), _amps),
        Kind("power", "power", "input_power", "input_power", _share(0.010), _watts),
        Kind("pressure", "pressure", "pressure", "air_pressure", _gauge, _bar(0.05, 1.0)),
        Kind("clamp", "power by a clamp", "input_power", "input_power", _share(0.006), lambda _: 10.0,
             field="proof.clamp_power", how="A clamp behind the drive, at full speed"),
        Kind("flow", "flow", "flow", "air_flow", lambda f, v: 0.006 * v + 0.002 * f.best_flow, lambda _: 0.0,
             field="proof.open_flow", how="A flow meter, clamp-on or fixed, at full speed",
             fan_how="A traverse of the duct, or a measuring cross, at full speed"),
        Kind("wheel", "speed of the wheel", "speed", "speed", _fixed(1.3), lambda _: 1.0,
             field="proof.wheel_speed", how="A tachometer on the wheel's own shaft, at full speed"),
        Kind("shut_pressure", "pressure, shut", "pressure", "air_pressure", _gauge, _bar(0.05, 1.0),
             field="proof.shut_pressure", how="The outlet gauge at full speed with the valve shut, seconds only"),
        Kind("hold", "frequency that holds at no demand", "frequency", "frequency", _fixed(0.12), lambda _: 0.1,
             moment=True),
        Kind("rest_sensor", "sensor at rest", "pressure", "air_pressure", lambda f, _: 0.002 * f.sensor_span,
             _bar(0.01, 1.0), moment=True,
             field="proof.rest_sensor", how="The sensor's display with the machine at rest"),
        Kind("vented_gauge", "gauge, open to air", "pressure", "air_pressure", lambda f, _: 1.0 if f.air else 1500.0,
             _bar(0.05, 1.0), moment=True,
             field="proof.gauge_zero", how="The gauge, its cock shut and open to air"),
        Kind("suction", "suction by a good gauge", "pressure", "air_pressure", _fixed(0.02 * BAR), _bar(0.01, 1.0),
             moment=True,
             field="proof.suction", how="The suction by a good gauge, with the machine at rest"),
        Kind("tape", "static head by tape", "head", "head", _fixed(0.3), lambda _: 0.1, moment=True,
             field="proof.tape", how="The static head by tape, from the water to where it flows out"),
    )
}  # fmt: skip
