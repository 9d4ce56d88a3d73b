"""How a flow is met: by what was there before at full speed, and by the drive now; averages over the time at it."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated

from mainspring.core.air.fan import fan_part_load_power
from mainspring.core.control.sleep import frequency_of_speed
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, as_figure, assume, given, method
from mainspring.core.quantity import DIMENSIONS, InputWatt, Percent, Watt
from mainspring.core.ratios import share_of, split_between

ENOUGH = 0.9999  # of a rise, from which it counts as made
SETPOINT_LEAST = 0.5  # of a setpoint that falls with the flow, at no flow; common practice, no source


@method("P = n * x * P_1", DERIVED)
def power_of_several(
    machines: Annotated[float, In("running together", "n")],
    share: Annotated[Percent, In("of the time they run", "x", atleast=0, upto=1)],
    of_one: Annotated[InputWatt, In("while it runs", "P_1")],
) -> InputWatt:
    """Mean power of several alike that run for a share of the time.

    >>> float(power_of_several(2, 0.5, 1000))
    1000.0
    """
    return machines * share * of_one


@method("H = H_s * (r + (1 - r) * x)", DERIVED, like="held")
def setpoint_at_flow(
    held: Annotated[float, In("at full flow, a head or a pressure", "H_s")],
    least: Annotated[Percent, In("share of it that is held at no flow", "r", atleast=0, upto=1)],
    share: Annotated[Percent, In("of full flow", "x")],
) -> float:
    """What is held at a flow by a setpoint that falls with it.

    >>> float(setpoint_at_flow(20, 0.5, 0.5))
    15.0
    """
    return held * (least + (1 - least) * share)


@dataclass(frozen=True)
class State:
    """How one alternative meets a flow."""

    machines: int
    share: Figure  # of the time they run
    each: Figure  # flow of one while it runs
    rise: Figure  # made by it
    ratio: Figure  # of full speed
    frequency: Figure
    shaft: Figure  # of one while it runs
    motor_efficiency: Figure
    drive_efficiency: Figure
    input: Figure  # electrical, of all, averaged

    def mean(self, of_one: Figure) -> Figure:
        """The mean of all of a power of one."""
        return power_of_several(float(self.machines), self.share, of_one)


WHOLE = given("share", 1.0, "percent", "it runs all the time")
NO_DRIVE = given("drive_efficiency", 1.0, "percent", "straight on the line")


class Ways:
    """Both alternatives of one line, flow by flow; a missing input raises NotKnown."""

    def __init__(self, line: Line, derived: Derived, full_flow: Figure) -> None:
        self.line, self.derived, self.machine = line, derived, derived.machine
        self.full_flow = full_flow  # the largest that the year asks for
        self.kind = self.machine.words.flow
        self.count = int(line.value("machine.count") or 1) if "many_drives" in line.traits else 1

    @property
    def alternative(self) -> str:
        """What was there before."""
        return str(self.line.value("proof.before") or "throttle")

    def needed(self, flow: Figure) -> Figure:
        """Rise that a flow needs while the loop holds; of a set, the record's figures are those of one."""
        return self.machine.required_head(self._of_one(flow))

    def arrives(self, flow: Figure) -> Figure:
        """Rise that the system itself takes at a flow, with nothing held and nothing throttled."""
        return self.machine.least_rise(self._of_one(flow))

    def _of_one(self, flow: Figure) -> Figure:
        return flow if self.count == 1 else self._split(flow, self.count)

    def _split(self, flow: Figure, machines: int) -> Figure:
        return flow if machines == 1 else split_between(flow, given("machines", float(machines), "count"))

    # before

    def before(self, flow: Figure) -> State:
        """By what was there before, at full speed."""
        make: Callable[[Figure], State] = {
            "throttle": self._throttled,
            "vanes": self._by_vanes,
            "bypass": self._always,
            "nothing": self._always,
            "on_off": self._switched,
        }[self.alternative]
        return make(flow)

    def _fewest(self, flow: Figure) -> int:
        """How many it takes at full speed. Raises NoSolution where not even all do."""
        needed = self.needed(flow)
        for n in range(1, self.count + 1):
            if self.machine.head_at(self._split(flow, n), FULL_SPEED) >= needed * ENOUGH:
                return n
        made = self.machine.head_at(self._split(flow, self.count), FULL_SPEED)
        words, rise = self.machine.words, DIMENSIONS[self.machine.words.rise].tellings
        all_of = f"{self.count} {words.name}s make" if self.count > 1 else f"the {words.name} makes"
        raise NoSolution(
            f"at {DIMENSIONS[self.kind].tellings(float(flow))} {all_of} {rise(float(made))} at full speed and"
            f" {rise(float(needed))} are needed: this level cannot be reached"
        )

    def _state(
        self, n: int, each: Figure, rise: Figure, ratio: Figure, shaft: Figure, share: Figure, *, with_drive: bool
    ) -> State:
        return State(
            machines=n,
            share=share,
            each=each,
            rise=rise,
            ratio=ratio,
            frequency=frequency_of_speed(ratio, self.line.motor.rated_frequency),
            shaft=shaft,
            motor_efficiency=self.derived.motor_efficiency(shaft),
            drive_efficiency=self.derived.drive_efficiency(shaft) if with_drive else NO_DRIVE,
            input=power_of_several(float(n), share, self.derived.input_power(shaft, with_drive=with_drive)),
        )

    def _at_full_speed(self, n: int, each: Figure, share: Figure = WHOLE) -> State:
        rise = self.machine.head_at(each, FULL_SPEED)
        shaft = self.machine.shaft_power(each, rise, FULL_SPEED)
        return self._state(n, each, rise, FULL_SPEED, shaft, share, with_drive=False)

    def _throttled(self, flow: Figure) -> State:
        n = self._fewest(flow)
        return self._at_full_speed(n, self._split(flow, n))

    def _by_vanes(self, flow: Figure) -> State:
        if "fan" not in self.line.traits:
            raise NoSolution("inlet guide vanes are of fans: say what was there before the pump's drive")
        n = self._fewest(flow)
        each, full = self._split(flow, n), self._open_flow
        rise = self.machine.head_at(full, FULL_SPEED)
        share = min(share_of(each, full), given("whole", 1.0, "ratio"))
        part = fan_part_load_power(share, "inlet vanes")
        shaft = shaft_by_share(self.machine.shaft_power(full, rise, FULL_SPEED), part)
        return self._state(n, each, self.needed(flow), FULL_SPEED, shaft, WHOLE, with_drive=False)

    @cached_property
    def _open_flow(self) -> Figure:
        """Flow of one at full speed into the system as it stands."""
        return self.derived.full_flow

    def _always(self, flow: Figure) -> State:
        return self._at_full_speed(self._fewest(flow), self._open_flow)

    def _switched(self, flow: Figure) -> State:
        n = self._fewest(flow)
        share = min(share_of(self._split(flow, n), self._open_flow), given("whole", 1.0, "ratio"))
        return self._at_full_speed(n, self._open_flow, share)

    # now

    def now(self, flow: Figure) -> State:
        """By the drive: as many as take least, slowed, resting where that is set up."""
        rise = self._by_setpoint(flow)
        states = []
        problem: MainspringError | None = None
        for n in range(1, self.count + 1):
            try:
                states.append(self._slowed(flow, n, rise))
            except MainspringError as gap:
                problem = gap
        if not states:
            raise problem or NoSolution("no speed brings this flow")
        reached = [s for s in states if s.ratio <= 1 + 1e-6]
        return min(reached or states, key=lambda s: s.input)

    def _by_setpoint(self, flow: Figure) -> Figure:
        """Rise that is made at a flow, as the setpoint is led."""
        way = self.line.value("proof.setpoint_way")
        needed = self.needed(flow)
        if way == "reset":
            return min(self.arrives(flow), needed)
        if way != "proportional":
            return needed
        proof = self.line.proof
        why = "a setpoint that falls with the flow is led down to half of it"
        least = (
            proof.setpoint_least
            if proof.has("setpoint_least")
            else assume("proof.setpoint_least", SETPOINT_LEAST, "percent", why)
        )
        held = self.machine.held
        fallen = held - setpoint_at_flow(held, least, share_of(flow, self.full_flow))
        led: Figure = max(as_figure(needed - fallen), min(self.arrives(flow), needed))
        return led

    def _slowed(self, flow: Figure, n: int, rise: Figure) -> State:
        each, share = self._split(flow, n), WHOLE
        ratio = self.machine.speed_for(each, rise)
        resting = self._resting
        if resting is not None and ratio < resting[0]:
            ratio, least = resting
            share = min(share_of(each, least), WHOLE)
            each = least
        floor = self._floor
        if floor is not None and ratio < floor:
            ratio, rise = floor, self.machine.head_at(each, floor)
        shaft = self.machine.shaft_power(each, rise, ratio)
        return self._state(n, each, rise, ratio, shaft, share, with_drive=True)

    @cached_property
    def _floor(self) -> Figure | None:
        """Slowest that it may run, where that is set."""
        if not self.line.control.has("low_limit"):
            return None
        return share_of(self.line.control.low_limit, self.line.motor.rated_frequency)

    @cached_property
    def _resting(self) -> tuple[Figure, Figure] | None:
        """Speed at which it goes to sleep, and the flow there: with less it runs and rests by turns."""
        if "rests" not in self.line.traits or not self.line.control.has("sleep_below"):
            return None
        ratio = share_of(self.line.control.sleep_below, self.line.motor.rated_frequency)
        low, high = 0.0, float(self.full_flow) / self.count
        for _ in range(40):
            middle = 0.5 * (low + high)
            try:
                whole = given("flow", middle * self.count, self.kind)
                below = self.machine.speed_for(given("flow", middle, self.kind), self.needed(whole)) < ratio
            except MainspringError:
                below = True
            low, high = (middle, high) if below else (low, middle)
        if high <= 1e-9:
            return None
        return ratio, given("rest_flow", high, self.kind, "flow at the speed at which it goes to sleep")


@method("P_2 = x * P_f", DERIVED)
def shaft_by_share(
    full: Annotated[Watt, In("at full flow", "P_f", atleast=0)], part: Annotated[Percent, In("of it", "x", atleast=0)]
) -> Watt:
    """Shaft power at part flow, from that at full flow.

    >>> float(shaft_by_share(1000, 0.6))
    600.0
    """
    return part * full
