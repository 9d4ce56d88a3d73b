"""The one pure call: from a record to everything that is derived from it."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cached_property

from mainspring.core.checks import Finding, Severity, run_checks
from mainspring.core.checks.finding import PLACE_ORDER
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.errors import MainspringError
from mainspring.core.held import rises_with_speed, signal_at_setpoint
from mainspring.core.line import Line
from mainspring.core.line.stations import JOINTS, STATIONS
from mainspring.core.method import Figure, as_figure
from mainspring.core.procedure.plan import Plan, make_plan
from mainspring.core.procedure.step import Step
from mainspring.core.second_eye.findings import look_again
from mainspring.core.sentence import Sentence, say
from mainspring.core.settings import plan_settings
from mainspring.core.settings.deviations import deviations
from mainspring.core.settings.setting import SettingRow


@dataclass(frozen=True)
class StationMark:
    """One station of the strip: its key figure, a second line, and its worst finding."""

    id: str
    label: str
    key: Sentence
    second: Sentence
    severity: Severity


@dataclass(frozen=True)
class JointMark:
    """One joint of the strip."""

    id: str
    severity: Severity


@dataclass(frozen=True)
class Strip:
    """The drawn line: six stations, the joints between them, and the sensor's return."""

    stations: list[StationMark]
    joints: list[JointMark]
    back: Sentence


@dataclass(frozen=True)
class Assessment:
    """Everything derived from one record; sheet and steps when they are asked for, since a draft shows neither."""

    line: Line
    derived: Derived
    findings: list[Finding]
    clashing: tuple[str, ...] = ()  # words on other lines of the site that answer to this one's address

    @cached_property
    def settings(self) -> list[SettingRow]:
        """The settings sheet."""
        return plan_settings(self.line, self.derived)

    @cached_property
    def plan(self) -> Plan:
        """The run sheets: of the visit in hand, and the whole one."""
        return make_plan(self.line, self.derived, self.findings, self.clashing)

    @property
    def steps(self) -> list[Step]:
        """The run sheet's steps."""
        return self.plan.steps

    @cached_property
    def strip(self) -> Strip:
        """The drawn line."""
        return _strip(self.line, self.findings)

    def count(self, severity: Severity) -> int:
        """How many findings of a severity."""
        return sum(f.severity is severity for f in self.findings)


def assess(line: Line, clashing: Iterable[str] = ()) -> Assessment:
    """Derived figures, findings, settings and steps of a record; pure, for saved records and drafts alike.

    `clashing` are words on other lines of the site that answer to this one's address.
    """
    derived = Derived(line)
    found = run_checks(line, derived) + deviations(line, derived)
    found.sort(key=lambda f: (f.severity, PLACE_ORDER.index(f.place)))
    return Assessment(line, derived, look_again(line, found), tuple(clashing))


def _strip(line: Line, findings: list[Finding]) -> Strip:
    worst: dict[str, Severity] = {}
    for finding in findings:
        worst[finding.place] = min(worst.get(finding.place, finding.severity), finding.severity)
    keys = {
        "supply": (_said(line, "{0} {1}", "supply.voltage", "supply.frequency"), _phases(line)),
        "drive": (_said(line, "{0}", "drive.rated_current"), say(_duty(line))),
        "motor": (
            _said(line, "{0}", "motor.rated_current"),
            _said(line, "{0}, {1}", "motor.rated_power", "motor.rated_speed"),
        ),
        "machine": _machine(line),
        "system": _system(line),
        "sensor": (_range(line), say(_signal(line))),
    }
    return Strip(
        [StationMark(s.id, s.label, *keys[s.id], worst.get(s.id, _joint_default(findings, s.id))) for s in STATIONS],
        [JointMark(j, worst.get(j, Severity.UNKNOWN)) for j in JOINTS],
        _back(line),
    )


def _joint_default(findings: list[Finding], station: str) -> Severity:
    """A station without a finding of its own takes the best of its joints: nothing is held against it."""
    near = [f.severity for f in findings if station in f.place.split("-")]
    return max(near, default=Severity.UNKNOWN)


def _said(line: Line, template: str, *paths: str) -> Sentence:
    """The template with the values at the paths, or a dash while one is missing."""
    if not all(line.has(p) for p in paths):
        return say("–")
    names = {f"v{i}": line.figure(p) for i, p in enumerate(paths)}
    return say(template.format(*(f"{{v{i}}}" for i in range(len(paths)))), **names)


def _phases(line: Line) -> Sentence:
    return say({"3": "three-phase", "1": "single-phase"}.get(line.value("supply.phases") or "", "phases not known"))


def _duty(line: Line) -> str:
    return {"normal": "normal duty", "heavy": "heavy duty"}.get(line.value("drive.duty") or "", "duty not known")


def _machine(line: Line) -> tuple[Sentence, Sentence]:
    many = f"{line.machine.count:.0f}×" if line.has("machine.count") and line.machine.count > 1 else ""
    if "fan" in line.traits:
        key = _said(line, many + "{0}", "machine.air_flow")
        return key, _said(line, "at {0}, best {1}", "machine.air_pressure", "machine.best_efficiency")
    key = _said(line, many + "{0}", "machine.duty_flow")
    return key, _said(line, "at {0}, best {1}", "machine.duty_head", "machine.best_efficiency")


def _system(line: Line) -> tuple[Sentence, Sentence]:
    if "fan" in line.traits:
        return _said(line, "{0}", "machine.air_pressure"), _said(line, "duct, air {0}", "system.air_degc")
    if "submersible" in line.traits:
        return _said(line, "{0}", "system.pumping_level"), say("up from the water")
    if "closed" in line.traits:
        return _said(line, "{0}", "machine.duty_head"), say("closed loop")
    key = _said(line, "{0}", "system.static_head")
    if line.has("system.tank_volume"):
        return key, _said(line, "static, tank {0}", "system.tank_volume")
    return key, say("static head" if line.has("system.static_head") else "not known")


def _range(line: Line) -> Sentence:
    held = line.held
    if held is None or not held.range_high:
        return say("–")
    if line.value(held.range_low) == 0 and line.has(held.range_high):
        return say("0–{high}", high=line.figure(held.range_high))
    return _said(line, "{0}–{1}", held.range_low, held.range_high)


def _signal(line: Line) -> str:
    if line.held is not None and line.held.id == "reference":
        told = {"0-10V": "0–10 V", "2-10V": "2–10 V", "4-20mA": "4–20 mA"}.get(line.value("control.speed_signal") or "")
        return f"speed by {told}" if told else "speed from outside"
    return {"4-20mA": "4–20 mA", "0-10V": "0–10 V", "2-10V": "2–10 V"}.get(
        line.value("sensor.signal") or "", "signal not known"
    )


def _back(line: Line) -> Sentence:
    held = line.held
    if held is None:
        return say("what it holds is not known yet")
    if held.id == "reference":
        return say("speed reference from outside; follows the system's own curve")
    if not line.has(held.setpoint):
        return say("setpoint not known yet")
    wanted = line.figure(held.setpoint)
    signal = _try(lambda: signal_at_setpoint(line))
    action = f"{held.noun} {'falls' if rises_with_speed(line) else 'rises'} → faster"
    low, high = line.value(held.range_low), line.value(held.range_high)
    if signal is None or not low <= wanted <= high:
        return say("{wanted} wanted, " + action, wanted=wanted)
    return say("{wanted} wanted, {signal} at the input, " + action, wanted=wanted, signal=signal)


def _try(compute: Callable[[], Figure]) -> Figure | None:
    try:
        return compute()
    except MainspringError:
        return None


def key_figures(derived: Derived) -> dict[str, Figure | str]:
    """The named figures of the loop bench and the line, each a figure or the reason why it is not known."""
    wanted: dict[str, Callable[[], Figure]] = {
        "synchronous_speed": lambda: derived.synchronous_rpm,
        "slip": lambda: derived.rated_slip,
        "setpoint_head": lambda: derived.pump.setpoint_head,
        "shutoff_head": lambda: as_figure(derived.machine.curve.c0),
        "duty_flow": lambda: derived.full_flow,
        "duty_head": lambda: derived.machine.head_at(derived.full_flow, FULL_SPEED),
        "duty_power": lambda: derived.duty_power,
        "hold_speed": lambda: derived.machine.hold_speed,
        "hold_frequency": lambda: derived.hold_frequency,
        "low_limit": lambda: derived.low_limit,
        "sleep_below": lambda: derived.sleep_below,
        "wake_at": lambda: derived.wake_at,
        "drawdown": lambda: derived.drawdown,
        "starts_on_leak": lambda: derived.starts_on_leak,
        "shutoff_pressure": lambda: derived.shutoff_pressure,
        "drive_amps": lambda: derived.drive_amps,
        "drive_loss": lambda: derived.drive_loss,
    }
    found: dict[str, Figure | str] = {}
    for name, compute in wanted.items():
        try:
            found[name] = compute()
        except MainspringError as reason:
            found[name] = reason.tellings
    return found
