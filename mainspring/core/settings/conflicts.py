"""Settings that contradict one another: found in one pass over what is in force, each with what to do.

A value may be harmless by itself and wrong beside another; what one value does by itself is judged in `effects`.
"""

from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass

from mainspring.core import practice
from mainspring.core.checks.finding import Severity
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.limits import inertia_at_motor, run_down_time, run_up_time, surge_ramp
from mainspring.core.line import Line
from mainspring.core.method import Figure
from mainspring.core.sentence import Sentence, say
from mainspring.core.settings.effect import NEAR
from mainspring.core.settings.held import PREFIXES
from mainspring.core.settings.inputs import FUNCTIONS, INPUTS, wanted_functions
from mainspring.core.settings.setting import SETTINGS, SettingValue


@dataclass(frozen=True)
class Conflict:
    """Two settings, or a setting and a fact of the line, that cannot both be right."""

    id: str
    settings: tuple[str, ...]
    severity: Severity
    title: str
    because: Sentence
    do: Sentence


@dataclass(frozen=True)
class InForce:
    """What is in force of a sheet, on its line."""

    line: Line
    derived: Derived
    values: Mapping[str, SettingValue]

    def number(self, id: str) -> Figure | None:
        """A setting that is a quantity; None while nothing is in force."""
        value = self.values.get(id)
        return value if isinstance(value, Figure) else None

    def choice(self, id: str) -> str | None:
        """A setting that is a choice."""
        value = self.values.get(id)
        return value if isinstance(value, str) else None

    def known(self, compute: Callable[[], Figure]) -> Figure | None:
        """A figure, where it can be told."""
        try:
            return compute()
        except MainspringError:
            return None


Finder = Callable[[InForce], Iterator[Conflict]]
FINDERS: list[Finder] = []


def in_force_values(line: Line, planned: Mapping[str, SettingValue]) -> dict[str, SettingValue]:
    """What is in force of a sheet: as left, else as decided, else as proposed."""
    found = dict(planned)
    for id, declared in SETTINGS.items():
        told = line.told(id, declared.dimension or "", declared.label)
        if told is not None and line.applies(declared.only):
            found[id] = told
    return found


def conflicts_of(line: Line, derived: Derived, values: Mapping[str, SettingValue]) -> list[Conflict]:
    """Every conflict among the values in force, the gravest first."""
    sheet = InForce(line, derived, values)
    found = [conflict for find in FINDERS for conflict in find(sheet)]
    return sorted(found, key=lambda c: c.severity is not Severity.STOP)


def _finds(finder: Finder) -> Finder:
    FINDERS.append(finder)
    return finder


def _conflict(
    id: str, settings: tuple[str, ...], severity: Severity, title: str, because: str, do: str, **figures: Figure
) -> Conflict:
    return Conflict(id, settings, severity, title, say(because, **figures), say(do, **figures))


def _out_of_order(
    sheet: InForce, id: str, low: str, high: str, severity: Severity, title: str, because: str, do: str
) -> Iterator[Conflict]:
    """A conflict where one setting is not below another."""
    a, b = sheet.number(low), sheet.number(high)
    if a is not None and b is not None and a >= b:
        yield _conflict(id, (low, high), severity, title, because, do, low=a, high=b)


@_finds
def _orders(sheet: InForce) -> Iterator[Conflict]:
    """Pairs of which one has to be below the other."""
    yield from _out_of_order(
        sheet, "speeds", "limits.minimum_speed", "limits.maximum_speed", Severity.STOP,
        "Lowest speed above the highest", "Lowest {low}, highest {high}: it runs at one speed, or not at all.",
        "Read both again; set the lower one below the higher.",
    )  # fmt: skip
    yield from _out_of_order(
        sheet, "reference_span", "reference.low", "reference.high", Severity.STOP,
        "The speed signal has no span", "{low} at its low end, {high} at its high end.",
        "Set the speed at the signal's high end above that at its low end.",
    )  # fmt: skip
    yield from _out_of_order(
        sheet, "stages", "cascade.stage_off", "cascade.stage_on", Severity.STOP,
        "Pumps come and go without end", "The next comes at {high}, the last goes at {low}.",
        "Let the last one go at a lower speed than the next one comes.",
    )  # fmt: skip
    yield from _out_of_order(
        sheet, "levels", "level.stop_level", "level.start_level", Severity.STOP,
        "It stops where it starts", "Stops at {low}, starts at {high}.",
        "Set the start above the stop by what the pit's starts allow.",
    )  # fmt: skip
    yield from _out_of_order(
        sheet, "level_alarm", "level.start_level", "level.high_level", Severity.CAUTION,
        "Alarm at or below the start", "It starts at {low}, the alarm stands at {high}.",
        "Set the alarm above the level at which the pump starts.",
    )  # fmt: skip
    for kind in PREFIXES:
        yield from _out_of_order(
            sheet, f"{kind}range", f"feedback.{kind}range_low", f"feedback.{kind}range_high", Severity.STOP,
            "The sensor has no span", "{low} at its low end, {high} at its high end.",
            "Read both from the label on the sensor.",
        )  # fmt: skip
        top = sheet.number(f"feedback.{kind}range_high")
        for id, which in ((f"pid.{kind}setpoint_1", ""), (f"pid.{kind}setpoint_2", "Second ")):
            setpoint = sheet.number(id)
            if setpoint is None or top is None or setpoint <= top:
                continue
            yield _conflict(
                f"{kind}{'second_' if which else ''}setpoint_range",
                (id, f"feedback.{kind}range_high"),
                Severity.STOP,
                f"{which}setpoint above the sensor's range".capitalize(),
                "{setpoint} is wanted, the sensor ends at {top}.",
                "A sensor with a larger range, or another setpoint.", setpoint=setpoint, top=top,
            )  # fmt: skip


@_finds
def _resting(sheet: InForce) -> Iterator[Conflict]:
    """Sleep, boost and wake beside limits, setpoint and tank."""
    sleep, low = sheet.number("sleep.frequency"), sheet.number("pid.output_low")
    lowest = sheet.number("limits.minimum_speed")
    for id, setting, floor in (
        ("sleep_floor", "pid.output_low", low),
        ("sleep_lowest", "limits.minimum_speed", lowest),
    ):
        if sleep is not None and floor is not None and 0 < sleep <= floor:
            yield _conflict(
                id, ("sleep.frequency", setting), Severity.CAUTION, "It never sleeps",
                "It rests below {sleep} and never runs slower than {floor}.",
                "Sleep a little above the low limit, or a lower limit.", sleep=sleep, floor=floor,
            )  # fmt: skip
            return
    setpoint, wake = sheet.number("pid.setpoint_1"), sheet.number("sleep.wake_level")
    if setpoint is not None and wake is not None and wake >= setpoint:
        yield _conflict(
            "wake_setpoint", ("sleep.wake_level", "pid.setpoint_1"), Severity.CAUTION, "It wakes at once",
            "It wakes at {wake}, the setpoint is {setpoint}.", "Wake below the setpoint by what the tank may give.",
            wake=wake, setpoint=setpoint,
        )  # fmt: skip
    precharge = sheet.known(lambda: sheet.line.system.tank_precharge)
    if precharge is not None and wake is not None and precharge > wake:
        yield _conflict(
            "precharge_wake", ("sleep.wake_level",), Severity.CAUTION, "The tank is empty before it wakes",
            "Precharge {precharge}, it wakes at {wake}: the tank has nothing left to give.",
            "Less precharge, or wake above it.", precharge=precharge, wake=wake,
        )  # fmt: skip
    fill = sheet.number("protection.line_fill_pressure")
    if fill is not None and setpoint is not None and fill >= setpoint:
        yield _conflict(
            "fill_setpoint", ("protection.line_fill_pressure", "pid.setpoint_1"), Severity.CAUTION,
            "Filling never ends", "The line counts as full at {fill}, the setpoint is {setpoint}.",
            "A fill pressure well below the setpoint.", fill=fill, setpoint=setpoint,
        )  # fmt: skip
    alarm = sheet.number("protection.high_pressure")
    for name, id in (("alarm_setpoint", "pid.setpoint_1"), ("alarm_second_setpoint", "pid.setpoint_2")):
        held = sheet.number(id)
        if alarm is not None and held is not None and alarm <= held:
            yield _conflict(
                name, ("protection.high_pressure", id), Severity.STOP,
                "It trips at its own setpoint", "The alarm stands at {alarm}, the setpoint is {setpoint}.",
                "An alarm above the setpoint and below the weakest part's rating.", alarm=alarm, setpoint=held,
            )  # fmt: skip
    second = sheet.number("pid.setpoint_2")
    if second is not None and wake is not None and wake >= second:
        yield _conflict(
            "wake_second", ("sleep.wake_level", "pid.setpoint_2"), Severity.CAUTION,
            "It does not wake at the second setpoint's drop",
            "It wakes at {wake}, the second setpoint is {second}: asleep there it wakes at once.",
            "A wake level below both setpoints.", wake=wake, second=second,
        )  # fmt: skip


@_finds
def _stopping(sheet: InForce) -> Iterator[Conflict]:
    """Ramps and stop mode beside the pipeline, the check valve and the wheel."""
    line, derived = sheet.line, sheet.derived
    down, up, mode = sheet.number("ramps.down"), sheet.number("ramps.up"), sheet.choice("stop.mode")
    if mode == "coast" and line.value("system.check_valve") == "swing" and "pump" in line.traits:
        yield _conflict(
            "coast_valve", ("stop.mode",), Severity.CAUTION, "It coasts into a valve that slams",
            "The check valve is a swing one, and the drive lets go at once.", "Ramp down, or a quiet check valve.",
        )  # fmt: skip
    surge = sheet.known(lambda: surge_ramp(line, derived)) if "pump" in line.traits else None
    if mode != "coast" and surge is not None and down is not None and down * NEAR < surge:
        yield _conflict(
            "ramp_surge", ("ramps.down", "stop.mode"), Severity.CAUTION, "The stop hammers",
            "It ramps down in {down}, the pipeline asks for {surge}.", "A longer ramp down.", down=down, surge=surge,
        )  # fmt: skip
    if not sheet.known(lambda: inertia_at_motor(line, derived)):
        return
    for id, ramp, least, words in (
        ("ramp_down_inertia", down, sheet.known(lambda: run_down_time(line, derived)), "overvoltage"),
        ("ramp_up_inertia", up, sheet.known(lambda: run_up_time(line, derived)), "current limit"),
    ):
        if ramp is not None and least is not None and ramp * NEAR < least and not (mode == "coast" and "down" in id):
            other = "ramps.down" if "down" in id else "ramps.up"
            yield _conflict(
                id, (other, "limits.current") if "up" in id else (other, "stop.mode"), Severity.CAUTION,
                f"The wheel does not follow: {words}", "{ramp} is set, the inertia asks for {least}.",
                "A longer ramp.", ramp=ramp, least=least,
            )  # fmt: skip


@_finds
def _carrier(sheet: InForce) -> Iterator[Conflict]:
    """The carrier beside the lead."""
    line, carrier = sheet.line, sheet.number("carrier.frequency")
    length = sheet.known(lambda: line.drive.lead_length)
    if carrier is None or length is None or line.value("drive.output_filter") not in (None, "none"):
        return
    plain = line.own(practice.drive.LEAD_PLAIN)
    if length > plain and carrier > practice.drive.LONG_LEAD_CARRIER * NEAR:
        yield _conflict(
            "carrier_lead", ("carrier.frequency",), Severity.CAUTION, "A fast carrier on a long lead",
            "{carrier} on {length} of motor lead without a filter.", "A carrier of {least}, or a filter.",
            carrier=carrier, length=length, least=practice.drive.LONG_LEAD_CARRIER,
        )  # fmt: skip


@_finds
def _starting(sheet: InForce) -> Iterator[Conflict]:
    """Who may start it, and what stops it."""
    source, wiring = sheet.choice("start.source"), sheet.choice("start.wiring")
    retries, interlock = sheet.number("retry.count"), sheet.choice("protection.interlock")
    if retries is not None and retries > 0 and interlock == "disabled":
        yield _conflict(
            "retry_interlock", ("retry.count", "protection.interlock"), Severity.CAUTION,
            "It starts by itself, and nothing stops it through its enable input",
            "{retries} automatic restarts, and the enable input is disabled.",
            "Wire the safety contact, or no automatic restarts.", retries=retries,
        )  # fmt: skip
    if source == "terminal" and wiring == "none":
        yield _conflict(
            "start_wires", ("start.source", "start.wiring"), Severity.STOP, "Nobody can start it",
            "It waits for its contacts, and none is wired to start it.", "Say with which contacts it is started.",
        )  # fmt: skip
    if source == "keypad" and sheet.choice("start.local") == "none":
        yield _conflict(
            "start_keypad", ("start.source", "start.local"), Severity.STOP, "Nobody can start it",
            "It is started at its keypad, where local orders are locked.", "Unlock local orders, or another source.",
        )  # fmt: skip


@_finds
def _speed(sheet: InForce) -> Iterator[Conflict]:
    """Two who say how fast it runs, or none."""
    source, link = sheet.choice("reference.source"), sheet.line.value("control.link")
    if link == "speed" and source not in (None, "bus"):
        word = SETTINGS["reference.source"].choices.get(str(source), str(source)).lower()
        yield _conflict(
            "two_masters", ("reference.source", "bus.loss_action"), Severity.STOP, "Two masters for one speed",
            f"The automation is to set the speed over the link, and the drive takes it from elsewhere: {word}.",
            "Agree who sets the speed; the other one only watches.",
        )  # fmt: skip
    if source == "bus" and link in (None, "none", "monitor", "start_stop"):
        yield _conflict(
            "no_master", ("reference.source",), Severity.STOP, "Nobody sets the speed",
            "The drive waits for the link to tell it, and the automation is not to set it.",
            "Another source, or a link that may set the speed.",
        )  # fmt: skip


@_finds
def _contacts(sheet: InForce) -> Iterator[Conflict]:
    """Inputs: one function at two, one that the line needs at none, an interlock that nobody wired."""
    given = {f"io.digital_{n}": sheet.choice(f"io.digital_{n}") for n in range(1, INPUTS + 1)}
    have = Counter(f for f in given.values() if f not in (None, "none"))
    for function, times in have.items():
        if times > 1:
            at = tuple(id for id, f in given.items() if f == function)
            yield _conflict(
                f"twice_{function}", at, Severity.CAUTION, f"Two inputs for one thing: {FUNCTIONS[str(function)]}",
                "Which of them acts depends on the make.", "One input for it; the other for nothing.",
            )  # fmt: skip
    free = next((id for id, f in given.items() if f == "none"), "io.digital_1")
    for function in wanted_functions(sheet.line):
        if have[function] or not any(given.values()):
            continue
        unwired = function == "enable"
        yield _conflict(
            f"none_{function}", ("protection.interlock", free) if unwired else (free,),
            Severity.STOP if unwired else Severity.CAUTION,
            "An interlock that no input reads" if unwired else f"No input for: {FUNCTIONS[function]}",
            "The sheet has it wired, and no contact input does it.", "Give it an input, or say that it is not wired.",
        )  # fmt: skip
