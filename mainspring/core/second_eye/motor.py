"""Relations of the motor's plate with itself."""

import math

from mainspring.core.errors import OutOfRange
from mainspring.core.motor.efficiency import class_efficiency
from mainspring.core.second_eye.relation import Facts, Relations, near
from mainspring.core.second_eye.usual import poles_of, usual_amps, usual_loss, usual_power_factor, usual_slip

P, V, A = "motor.rated_power", "motor.rated_voltage", "motor.rated_current"
N, HZ, PF, ETA = "motor.rated_speed", "motor.rated_frequency", "motor.power_factor", "motor.efficiency"
LARGE = 37e3  # W
NO_POLES = 3.0  # what a speed of no number of poles counts for, as a logarithm


def relate(to: Relations, facts: Facts) -> None:
    """Those that hold for the kind of motor."""
    if "permanent_magnet" in facts.traits:
        _magnet(to, facts)
        return
    root = 1.0 if "single_phase" in facts.traits else math.sqrt(3)
    to.add(
        "the power of volts and amps",
        (V, A, PF, ETA, P),
        (-0.06, 0.06),
        0.025,
        lambda v, a, pf, eta, p: math.log(root * v * a * pf * eta / p),
    )
    if PF not in facts.values or ETA not in facts.values:  # else one fact would count twice
        to.add(
            "the amps usual of its power", (A, P, V), (-0.3, 0.3), 0.09, lambda a, p, v: math.log(a / usual_amps(p, v))
        )
    to.add("50 and 60 Hz", (HZ,), (0.0, 0.012), 0.02, lambda hz: near(hz, (50.0, 60.0, 87.0, 100.0, 120.0)))
    _efficiency(to, facts)
    _speed(to, facts)
    wide = 0.04 if facts.values.get(P, 1e3) < 0.75e3 else 0.0
    to.add(
        "the power factor usual of its size",
        (PF, P, N, HZ),
        (-0.08 - wide, 0.06 + wide),
        0.033,
        lambda pf, p, n, hz: pf - usual_power_factor(p, poles_of(hz, n) or 4),
    )
    to.ratio("the full-load amps", "motor.service_factor_current", A, (math.log(1.02), math.log(1.2)), 0.04)
    to.add(
        "volts and amps of the other connection",
        (V, A, "motor.other_voltage", "motor.other_current"),
        (-0.05, 0.05),
        0.02,
        lambda v, a, v2, a2: math.log(v * a / (v2 * a2)),
    )
    to.add(
        "the volts of the other connection",
        (V, "motor.other_voltage"),
        (0.0, 0.05),
        0.02,
        lambda v, v2: min(abs(abs(math.log(v / v2)) - math.log(r)) for r in (math.sqrt(3), 2.0)),
    )
    to.add(
        "the service factor",
        ("motor.service_factor", "motor.service_factor_current", A),
        (-0.2, 0.06),
        0.04,
        lambda sf, sfa, a: math.log(sfa / a / sf),
    )


def _speed(to: Relations, facts: Facts) -> None:
    def slip(n: float, hz: float, p: float) -> float:
        poles = poles_of(hz, n)
        if not poles:
            return NO_POLES
        lost = 1 - n * poles / (120 * hz)
        return math.log(max(lost, 1e-4) / usual_slip(p))

    wide = 0.35 if facts.line.applies(("single_phase", "submersible")) else 0.0
    large = facts.values.get(P, 0.0) > LARGE  # whose slips scatter less
    band, spread = ((-0.6, 0.5), 0.15) if large else ((-0.85, 0.65 + wide), 0.22)
    to.add("the slip usual of its size", (N, HZ, P), band, spread, slip)
    to.add(
        "the poles printed",
        ("motor.poles", N, HZ),
        (-0.2, -0.003),
        0.02,
        lambda poles, n, hz: math.log(n * poles / (120 * hz)),
    )


def _efficiency(to: Relations, facts: Facts) -> None:
    known = facts.choice("motor.ie_class")

    def by_class(eta: float, p: float, n: float, hz: float) -> float:
        try:
            limit = float(class_efficiency(p, poles_of(hz, n) or 4, known, hz))
        except OutOfRange:
            return 0.0
        return math.log((1 / eta - 1) / (1 / limit - 1))

    def by_size(eta: float, p: float) -> float:
        return math.log((1 / eta - 1) / usual_loss(p))

    if known and HZ in facts.values and N in facts.values:
        to.add("the limit of its class", (ETA, P, N, HZ), (-0.16, 0.13), 0.1, by_class)
    elif "submersible" in facts.traits:
        to.add("the efficiency usual of its size", (ETA, P), (-0.1, 1.2), 0.15, by_size)
    else:
        to.add("the efficiency usual of its size", (ETA, P), (-0.5, 0.6), 0.12, by_size)


def _magnet(to: Relations, facts: Facts) -> None:
    at_rated = facts.choice("motor.back_emf_at") == "rated"
    to.add(
        "the power of volts and amps",
        (V, A, ETA, P),
        (-0.12, 0.30),
        0.06,
        lambda v, a, eta, p: math.log(math.sqrt(3) * v * a * eta / p),
    )
    to.add(
        "poles and hertz",
        (N, "motor.magnet_poles", HZ),
        (-0.006, 0.006),
        0.004,
        lambda n, poles, hz: math.log(n * poles / (120 * hz)),
    )
    to.add(
        "the volts at its speed",
        ("motor.back_emf", N, V),
        (math.log(0.55), math.log(1.06)),
        0.05,
        lambda emf, n, v: math.log((emf if at_rated else emf * n / 1000) / v),
    )
    to.add(
        "the efficiency usual of its size",
        (ETA, P),
        (-1.6, 0.3),
        0.15,
        lambda e, p: math.log((1 / e - 1) / usual_loss(p)),
    )
    to.ratio("the other inductance", "motor.inductance_q", "motor.inductance_d", (-0.05, 1.4), 0.1)
