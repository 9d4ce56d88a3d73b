"""What is usual of motors and machines of a size: to weigh an entry by, never to compute with.

Common practice, no source, from memory: smooth lines through what catalogues of all makes print. The bands of the
relations are as wide as those catalogues scatter.
"""

import itertools
import math

LN_ROOT3 = math.log(math.sqrt(3))
# sizes that motors and drives are made in
KILOWATTS = (0.12, 0.18, 0.25, 0.37, 0.55, 0.75, 1.1, 1.5, 2.2, 3.0, 4.0, 5.5, 7.5, 11.0, 15.0, 18.5, 22.0, 30.0, 37.0,
             45.0, 55.0, 75.0, 90.0, 110.0, 132.0, 160.0, 200.0, 250.0, 315.0, 355.0, 400.0)  # fmt: skip
HORSEPOWERS = (0.25, 0.33, 0.5, 0.75, 1.0, 1.5, 2.0, 3.0, 5.0, 7.5, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0,
               75.0, 100.0, 125.0, 150.0, 200.0, 250.0, 300.0)  # fmt: skip
_SLIP = ((0.09e3, 0.13), (0.37e3, 0.085), (0.75e3, 0.06), (2.2e3, 0.042), (5.5e3, 0.03), (15e3, 0.022), (45e3, 0.013),
         (132e3, 0.0085), (400e3, 0.006))  # fmt: skip
_POWER_FACTOR = ((0.09e3, 0.63), (0.37e3, 0.72), (0.75e3, 0.77), (2.2e3, 0.80), (5.5e3, 0.83), (15e3, 0.84),
                 (45e3, 0.86), (132e3, 0.875), (400e3, 0.885))  # fmt: skip
_LOSS = ((0.09e3, 0.95), (0.18e3, 0.60), (0.37e3, 0.38), (0.75e3, 0.22), (2.2e3, 0.153), (5.5e3, 0.116), (15e3, 0.085),
         (45e3, 0.062), (132e3, 0.047), (400e3, 0.040))  # loss over shaft power, best common class  # fmt: skip
_BY_POLES = {2: 0.03, 4: 0.0, 6: -0.06, 8: -0.11}


def _on(points: tuple[tuple[float, float], ...], size: float) -> float:
    """Between the points, in the logarithm of the size; the ends go on level."""
    if size <= points[0][0]:
        return points[0][1]
    for (low, at_low), (high, at_high) in itertools.pairwise(points):
        if size <= high:
            return at_low + (at_high - at_low) * math.log(size / low) / math.log(high / low)
    return points[-1][1]


def runs_to_87(motor: float, supply: float) -> bool:
    """Whether a motor is in delta for 1/√3 of the supply's volts, which is run to 87 Hz and no slip."""
    return abs(math.log(supply / motor) - LN_ROOT3) < 0.06


def usual_slip(power: float) -> float:
    """Slip at full load."""
    return _on(_SLIP, power)


def usual_power_factor(power: float, poles: int) -> float:
    """Power factor at full load."""
    return _on(_POWER_FACTOR, power) + _BY_POLES.get(poles, -0.13)


def usual_loss(power: float) -> float:
    """Loss over shaft power at full load."""
    return _on(_LOSS, power)


def usual_amps(power: float, voltage: float) -> float:
    """Full-load amps of a four-pole motor."""
    return power * (1 + usual_loss(power)) / (math.sqrt(3) * voltage * usual_power_factor(power, 4))


def usual_pump_efficiency(flow: float) -> float:
    """Best efficiency of a pump of a flow [m³/s]."""
    return min(0.86, 0.56 + 0.055 * math.log(max(flow, 1e-5) * 1e3))


def usual_fan_efficiency(flow: float) -> float:
    """Best efficiency of a fan of a flow [m³/s]."""
    return min(0.82, 0.59 + 0.055 * math.log(max(flow, 1e-3)))


def poles_of(frequency: float, speed: float) -> int:
    """The number of poles whose synchronous speed is the next above; 0 where there is none up to twelve."""
    for poles in (2, 4, 6, 8, 10, 12):
        synchronous = 120 * frequency / poles
        if 0.8 * synchronous <= speed < synchronous:
            return poles
    return 0
