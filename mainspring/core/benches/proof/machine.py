"""The machine as measured against its curve: flow by meter or inferred, wear or blockage, efficiency of the whole."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated

from mainspring.core.benches.proof.rule import Look, Rule, looked
from mainspring.core.derived import Derived
from mainspring.core.energy.annual import specific_energy, wire_to_water_efficiency
from mainspring.core.errors import MainspringError, NoSolution, NotKnown
from mainspring.core.hydraulics.usual_pump import acceptance_tolerance
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, Leaf, as_figure, assume, given, method
from mainspring.core.practice import proof as usual
from mainspring.core.quantity import DIMENSIONS, AirFlow, AirPascal, InputWatt, Percent
from mainspring.core.ratios import share_of
from mainspring.core.uncertainty.propagate import rectangular_uncertainty

STEPS = 60  # halvings


@method("eta_aw = Q * p / P_in", DERIVED)
def air_to_wire_efficiency(
    flow: Annotated[AirFlow, In("volume flow", "Q", atleast=0)],
    pressure: Annotated[AirPascal, In("over the fan", "p", atleast=0)],
    power: Annotated[InputWatt, In("electrical input", "P_in", above=0)],
) -> Percent:
    """Useful air power over electrical input.

    >>> round(air_to_wire_efficiency(5.0, 900.0, 8000.0), 4)
    0.5625
    """
    return flow * pressure / power


@method("d = x / x_0 - 1", DERIVED)
def deviation(
    found: Annotated[float, In("read", "x")], expected: Annotated[float, In("of the same kind, not 0", "x_0")]
) -> Percent:
    """How far a reading lies from what is expected, as a share of it.

    >>> round(deviation(29, 30), 4)
    -0.0333
    """
    return found / expected - 1


@dataclass(frozen=True)
class Inferred:
    """A flow: by meter, or by what else was read, with its standard uncertainty."""

    flow: Figure
    uncertainty: float
    how: str


class Measured:
    """What was read on the machine, against its curve; NotKnown for what is missing."""

    def __init__(self, line: Line, derived: Derived) -> None:
        self.line, self.derived, self.machine = line, derived, derived.machine
        self.air = "fan" in line.traits

    @property
    def rise(self) -> Figure:
        """Head or pressure that was read."""
        return self.line.proof.air_pressure if self.air else self.line.proof.head

    @property
    def ratio(self) -> Figure:
        """Speed then, of full speed."""
        proof = self.line.proof
        base = self.line.motor.rated_frequency
        frequency = (
            proof.frequency
            if proof.has("frequency")
            else assume("proof.frequency", base, "frequency", "not noted: taken as full speed")
        )
        return share_of(frequency, base)

    @property
    def metered(self) -> Figure | None:
        """Flow by meter, where it was read."""
        name = "air_flow" if self.air else "flow"
        return self.line.figure(f"proof.{name}") if self.line.has(f"proof.{name}") else None

    def flow(self) -> Inferred:
        """By meter; else from the head and the curve; else from the power. Raises NotKnown for neither."""
        metered = self.metered
        if metered is not None:
            limit = self.line.proof.flow_meter if self.line.has("proof.flow_meter") else usual.FLOW_METER
            return Inferred(metered, float(metered) * float(rectangular_uncertainty(limit)), "by meter")
        try:
            return self._by_rise()
        except MainspringError as first:
            if not self.line.has("proof.power"):
                raise first
            return self._by_power()

    def _by_rise(self) -> Inferred:
        rise, ratio = self.rise, self.ratio
        most = 1.6 * float(self.machine.best_flow)

        def at(flow: float) -> float:
            return float(self.machine.head_at(self._figure(flow), ratio))

        if not at(most) < rise < at(1e-6 * most):
            raise NoSolution("the pressure read lies off the curve: the flow cannot be told from it")
        flow = _solved(lambda q: at(q) - float(rise), 1e-6 * most, most)
        slope = (at(flow * 1.01) - at(flow * 0.99)) / (0.02 * flow)
        off = float(rise) * float(rectangular_uncertainty(usual.HEAD_GAUGE))
        return Inferred(self._figure(flow, "from the pressure and the curve"), abs(off / slope), "from the pressure")

    def _by_power(self) -> Inferred:
        power, ratio = self.line.proof.power, self.ratio
        most = 1.4 * float(self.machine.best_flow)

        def at(flow: float) -> float:
            q = self._figure(flow)
            shaft = self.machine.shaft_power(q, self.machine.head_at(q, ratio), ratio)
            return float(self.derived.input_power(shaft, with_drive=True))

        if not at(0.02 * most) < power < at(most):
            raise NoSolution("the power read lies off the curve: the flow cannot be told from it")
        flow = _solved(lambda q: float(power) - at(q), 0.02 * most, most)
        slope = (at(flow * 1.01) - at(flow * 0.99)) / (0.02 * flow)
        limit = self.line.proof.meter_after if self.line.has("proof.meter_after") else usual.POWER_READING
        off = float(power) * float(rectangular_uncertainty(limit))
        return Inferred(self._figure(flow, "from the power and the curve"), abs(off / slope), "from the power")

    def _figure(self, flow: float, why: str = "tried") -> Figure:
        return Figure(flow, Leaf("proof.inferred_flow", "Flow inferred", self.machine.words.flow, "assumed", why))


def _solved(of: Callable[[float], float], low: float, high: float) -> float:
    """Where a falling function meets nought, by halving."""
    for _ in range(STEPS):
        middle = 0.5 * (low + high)
        low, high = (middle, high) if of(middle) > 0 else (low, middle)
    return 0.5 * (low + high)


def machine_looks(line: Line, derived: Derived) -> list[Look]:
    """The machine against its curve, and the whole."""
    try:
        seen = Measured(line, derived)
    except MainspringError as gap:
        return [Look("unknown", None, None, gap.tellings, "machine", "Machine")]
    rules: tuple[tuple[str, str, Rule], ...] = (
        ("flow", "Flow", lambda: _flow(seen)),
        ("curve", "Against its curve", lambda: _curve(seen)),
        ("whole", "Air-to-wire efficiency" if seen.air else "Water-to-wire efficiency", lambda: _whole(seen)),
        ("specific", "Energy for each cubic metre", lambda: _specific(seen)),
    )
    return [looked(*rule) for rule in rules]


def _flow(seen: Measured) -> Look:
    found = seen.flow()
    show = DIMENSIONS[seen.machine.words.flow].tellings
    said = f"{found.how.capitalize()}, ±{show(1.96 * found.uncertainty)} at 95 %."
    return Look("clear", found.flow, seen.machine.best_flow if float(seen.ratio) == 1.0 else None, said)


def _curve(seen: Measured) -> Look:
    if seen.metered is None:
        raise NotKnown("proof.flow", "the flow by a meter: it is inferred from the curve itself")
    expected = seen.machine.head_at(seen.metered, seen.ratio)
    off = deviation(seen.rise, expected)
    within = as_figure(acceptance_tolerance("2B").head)
    words = seen.machine.words
    if off < -max(within, usual.WORN):
        how = (
            "worn ring or wheel, something in it, air, turning backwards"
            if not seen.air
            else "belt, dirt, inlet blocked"
        )
        return Look("caution", off, within, f"Below its curve: {how}; or the gauge, the meter, the speed.")
    if off > within:
        return Look("caution", off, within, "Above its curve: gauge, meter or curve is of another machine.")
    return Look("clear", off, within, f"On its curve within what a {words.name} may differ.")


def _whole(seen: Measured) -> Look:
    flow, power = seen.flow(), seen.line.proof.power
    make = air_to_wire_efficiency if seen.air else wire_to_water_efficiency
    found = make(flow.flow, seen.rise, power)
    rise = seen.machine.head_at(flow.flow, seen.ratio)
    shaft = seen.machine.shaft_power(flow.flow, rise, seen.ratio)
    expected = make(flow.flow, rise, seen.derived.input_power(shaft, with_drive=True))
    if found > 1:
        raise NoSolution("more comes out than goes in: check power, flow and pressure")
    if found < 0.9 * expected:
        return Look("caution", found, expected, "Less than machine, motor and drive should give together.")
    return Look("clear", found, expected, "As measured, beside the model.")


def _specific(seen: Measured) -> Look:
    found = specific_energy(seen.line.proof.power, seen.flow().flow)
    figure = given("specific_energy", float(found), "energy_slope", "power over flow")
    return Look("clear", figure, None, "To compare periods and machines that move different amounts.")
