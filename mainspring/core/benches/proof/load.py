"""Motor load three ways from one full-speed reading, each with its uncertainty, and one estimate made of them."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Annotated

from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NotKnown
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, Leaf, as_figure, assume, given, method
from mainspring.core.motor.efficiency import part_load_efficiency
from mainspring.core.motor.load import (
    load_by_current_less_no_load,
    load_by_power_and_losses,
    load_by_slip,
)
from mainspring.core.motor.speed import synchronous_speed
from mainspring.core.practice import proof as usual
from mainspring.core.quantity import Hertz, Percent, Ratio, RevPerMin, Volt, VoltPerHertz
from mainspring.core.sentence import in_percent
from mainspring.core.uncertainty.propagate import (
    Combined,
    combined_estimate,
    coverage_factor,
    half_width,
    propagated,
    propagated_uncertainty,
    rectangular_uncertainty,
)

CONFIDENCE = 0.95
LEAST_LOAD = 0.02


@method("n_rs = n_sf - x * (n_s - n_r)", DERIVED)
def speed_at_rated_slip(
    synchronous_now: Annotated[RevPerMin, In("at the output frequency", "n_sf")],
    synchronous_rated: Annotated[RevPerMin, In("at rated frequency", "n_s")],
    rated_rpm: Annotated[RevPerMin, In("full-load speed of the plate", "n_r")],
    part: Annotated[Ratio, In("of the plate's slip that this motor truly has", "x", above=0)] = 1.0,
) -> RevPerMin:
    """Speed that the motor would have at full load at the frequency of the moment.

    >>> float(speed_at_rated_slip(1500, 1500, 1445))
    1445.0
    """
    return synchronous_now - part * (synchronous_rated - rated_rpm)


@method("k = V / f", DERIVED)
def flux_of(
    voltage: Annotated[Volt, In("line to line", "V")], frequency: Annotated[Hertz, In("of it", "f", above=0)]
) -> VoltPerHertz:
    """Flux of a motor, as volts for each hertz.

    >>> float(flux_of(400, 50))
    8.0
    """
    return voltage / frequency


@method("L = L_0 + U", DERIVED)
def end_of_interval(
    middle: Annotated[Percent, In("of the interval", "L_0")], half: Annotated[Percent, In("of its width", "U")]
) -> Percent:
    """Upper end of an interval; with half of it negative the lower one, which is never below nought.

    >>> round(end_of_interval(0.8, -0.05), 3)
    0.75
    """
    return max(0.0, middle + half)


@dataclass(frozen=True)
class Estimate:
    """Load by one method."""

    id: str
    title: str
    load: Figure | None
    low: Figure | None
    high: Figure | None
    worth: str
    missing: str = ""
    uncertainty: Figure | None = None  # standard
    share: float = 0.0  # of the weight in the combined estimate


@dataclass(frozen=True)
class Proof:
    """Load of the motor three ways, the one estimate made of them, and the efficiency there."""

    estimates: list[Estimate]
    best: Figure | None
    low: Figure | None
    high: Figure | None
    trusted: str  # which, and why
    contradict: bool
    efficiency: Figure | None
    readings: dict[str, Figure]


READING_LABELS = {
    "reference": ("Drive frequency", "frequency"),
    "speed": ("Speed", "speed"),
    "current": ("Current", "current"),
    "power": ("Power to the motor", "input_power"),
    "pressure": ("Outlet pressure", "pressure"),
}


def readings_as_figures(row: dict[str, float]) -> dict[str, Figure]:
    """A kept row as figures that say they were measured."""
    return {
        name: Figure(row[name], Leaf(f"baseline.{name}", label, dimension, "measured", "full-speed row of the step-up"))
        for name, (label, dimension) in READING_LABELS.items()
        if name in row
    }


def proof_of(line: Line, derived: Derived, row: dict[str, float]) -> Proof:
    """Load by power, by slip and by amps from a full-speed row (SI, keys of READING_LABELS), and by all together."""
    read = readings_as_figures(row)
    estimates = [_by_power(line, derived, read), _by_slip(line, derived, read), _by_amps(line, derived, read)]
    best, low, high, trusted, contradict, weighed = _together(estimates)
    efficiency = None
    if best is not None:
        try:
            efficiency = part_load_efficiency(best, *derived.losses)
        except MainspringError:
            efficiency = None
    return Proof(weighed, best, low, high, trusted, contradict, efficiency, read)


@dataclass(frozen=True)
class _Input:
    """A value that a load hangs on, and its standard uncertainty."""

    value: Figure
    uncertainty: float


def _within(value: Figure, relative: Figure) -> _Input:
    """An input off by at most a share of itself."""
    return _Input(value, abs(float(value)) * float(rectangular_uncertainty(relative)))


def _off_by(value: Figure, most: Figure) -> _Input:
    """An input off by at most so much."""
    return _Input(value, float(most) / 3**0.5)


def _known(value: Figure) -> _Input:
    return _Input(value, 0.0)


def _estimate(
    id: str, title: str, worth: str, compute: Callable[[], tuple[Callable[..., Figure], list[_Input]]]
) -> Estimate:
    try:
        of, inputs = compute()
        values = [i.value for i in inputs]
        load = as_figure(of(*values))
        standard = _uncertainty(of, inputs)
    except (MainspringError, KeyError) as gap:
        missing = f"needs the reading of {gap}" if isinstance(gap, KeyError) else gap.tellings
        return Estimate(id, title, None, None, None, worth, missing)
    return Estimate(id, title, load, *_interval(load, standard), worth, uncertainty=standard)


def _interval(middle: Figure, standard: Figure) -> tuple[Figure, Figure]:
    """Both ends of where a load lies."""
    half = half_width(standard, coverage_factor(given("confidence", CONFIDENCE, "percent")))
    minus = given("half", -float(half), "percent", "the other way")
    return end_of_interval(middle, minus), end_of_interval(middle, half)


def _uncertainty(of: Callable[..., Figure], inputs: Sequence[_Input]) -> Figure:
    """Standard uncertainty of a load, each input moved by its own."""
    values, known = [float(i.value) for i in inputs], [i.uncertainty for i in inputs]
    parts = [propagated(of, values, [u if i == j else 0.0 for j, u in enumerate(known)]) for i in range(len(values))]
    return propagated_uncertainty([1.0] * len(parts), [max(p, 1e-6) for p in parts])


def _by_power(line: Line, derived: Derived, read: dict[str, Figure]) -> Estimate:
    def compute() -> tuple[Callable[..., Figure], list[_Input]]:
        meter = line.proof.meter_after if line.has("proof.meter_after") else usual.POWER_READING
        fixed, rising = (as_figure(v) for v in derived.losses)
        return load_by_power_and_losses, [
            _within(read["power"], meter),
            _known(line.motor.rated_power),
            _within(fixed, usual.LOSSES_WITHIN),
            _within(rising, usual.LOSSES_WITHIN),
        ]

    return _estimate(
        "power", "By power", "Good at every load. The plate's losses may be 15 % off, a drive's display 5 %.", compute
    )


def _by_slip(line: Line, derived: Derived, read: dict[str, Figure]) -> Estimate:
    def compute() -> tuple[Callable[..., Figure], list[_Input]]:
        if "permanent_magnet" in line.traits:
            raise NotKnown("motor.rated_speed", "a motor that slips: this one turns with its frequency")
        poles, rated = derived.poles, line.motor.rated_speed
        synchronous = derived.synchronous_rpm

        rated_flux = flux_of(line.motor.rated_voltage, line.motor.rated_frequency)

        def of(frequency: float, speed: float, plate: float, tolerance: float, volts: float) -> Figure:
            now = synchronous_speed(frequency, poles)
            at_full = speed_at_rated_slip(now, synchronous, plate, tolerance)
            return load_by_slip(now, speed, at_full, rated_flux, flux_of(volts, frequency))

        full = given("slip_tolerance", 1.0, "ratio", "of the plate's slip")
        rounding = given("rounding", float(usual.PLATE_ROUNDING) / 2, "speed", "half of what a plate is rounded to")
        return of, [
            _off_by(read["reference"], usual.HERTZ_READING),
            _off_by(read["speed"], usual.SPEED_READING),
            _off_by(rated, rounding),
            _within(full, usual.SLIP_WITHIN),
            _volts(line, read["reference"]),
        ]

    return _estimate(
        "slip",
        "By slip",
        "From 30 to 100 % load. The plate's slip may be 20 % off, and its rounding is much of a small slip.",
        compute,
    )


def _volts(line: Line, frequency: Figure) -> _Input:
    """Motor volts as read; else as the drive keeps them, in proportion to the frequency up to the plate's."""
    motor = line.motor
    if line.has("proof.motor_volts"):
        return _within(line.proof.motor_volts, usual.VOLTS_READING)
    kept = float(motor.rated_voltage) * min(1.0, float(frequency) / float(motor.rated_frequency))
    why = "not read: taken as the drive keeps the flux"
    return _within(assume("proof.motor_volts", kept, "voltage", why), usual.VOLTS_KEPT)


def _by_amps(line: Line, derived: Derived, read: dict[str, Figure]) -> Estimate:
    def compute() -> tuple[Callable[..., Figure], list[_Input]]:
        return load_by_current_less_no_load, [
            _within(read["current"], usual.AMPS_READING),
            _within(line.motor.rated_current, usual.AMPS_READING),
            _within(derived.no_load_amps, usual.NO_LOAD_WITHIN),
        ]

    return _estimate(
        "amps",
        "By amps",
        "Worst below half load, where amps are mostly magnetising; what they magnetise with is a guess by the plate.",
        compute,
    )


_Together = tuple[Figure | None, Figure | None, Figure | None, str, bool, list[Estimate]]


def _together(estimates: list[Estimate]) -> _Together:
    """One estimate of all, each by its weight; where they contradict, the surest alone, and that is said."""
    known = [e for e in estimates if e.load is not None and e.uncertainty is not None and e.load > LEAST_LOAD]
    if not known:
        return None, None, None, "", False, estimates
    loads, uncertain = [e.load for e in known if e.load is not None], [e.uncertainty or 1.0 for e in known]
    made = combined_estimate(loads, uncertain)
    surest = min(known, key=lambda e: float(e.uncertainty or 1.0))
    if made.disagreement > usual.CONTRADICT:
        words = f"The estimates contradict each other: the one {surest.title.lower()} alone is taken. Read again."
        return surest.load, surest.low, surest.high, words, True, _weighed(estimates, [surest])
    if len(known) == 1:
        words = f"{surest.title} alone: nothing else was read."
        return surest.load, surest.low, surest.high, words, False, _weighed(estimates, known)
    best = as_figure(made.value)
    low, high = _interval(best, as_figure(made.uncertainty))
    weighed = _weighed(estimates, known)
    return best, low, high, _trusted(weighed, made), False, weighed


def _weighed(estimates: list[Estimate], used: list[Estimate]) -> list[Estimate]:
    weights = {e.id: 1 / float(e.uncertainty or 1.0) ** 2 for e in used}
    whole = sum(weights.values())
    return [replace(e, share=weights.get(e.id, 0.0) / whole) for e in estimates]


def _trusted(weighed: list[Estimate], made: Combined) -> str:
    first = max(weighed, key=lambda e: e.share)
    agree = "They agree" if made.disagreement <= 1 else "They lie further apart than they should"
    title = f"{first.title[0].lower()}{first.title[1:]}"
    return f"The estimate {title} carries {in_percent(first.share)} of the weight: it is the surest here. {agree}."
