"""What can be moved on the loop bench: which value, of which setting, within which limits, and where it stands.

A knob stands where it was moved to, else where the settings sheet has it (as left, as decided, else as planned), else
where the record or the trade has it.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, MainspringError, check_range
from mainspring.core.line import Line
from mainspring.core.line.on_site import OF_SETTING
from mainspring.core.method import Figure
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.settings.setting import SETTINGS, plan_of

HELD_DIMENSION = "of what is held"
CONTROLLER, REST, RAMPS, SEVERAL, PROTECTION, UNKNOWN = (
    "Controller",
    "Rest",
    "Ramps and limits",
    "In turn",
    "Protection",
    "What nobody knows for sure",
)


@dataclass(frozen=True)
class Knob:
    """One value that can be moved."""

    id: str
    label: str
    group: str
    dimension: str
    least: float
    most: float
    usual: Callable[[Line, Derived], float]
    setting: str = ""  # that an accepted value becomes; its place for the held quantity's prefix is {}
    when: tuple[str, ...] = ()
    hint: str = ""
    slides: bool = False  # with a slider, not only a number


KNOBS: dict[str, Knob] = {}


def _knob(
    id: str,
    label: str,
    group: str,
    dimension: str,
    least: float,
    most: float,
    usual: float | Figure | Callable[[Line, Derived], float],
    setting: str = "",
    when: tuple[str, ...] = (),
    hint: str = "",
    slides: bool = False,
) -> None:
    stands = usual if callable(usual) else lambda line, derived: float(usual)
    KNOBS[id] = Knob(id, label, group, dimension, least, most, stands, setting, when, hint, slides)


def _low_limit(line: Line, derived: Derived) -> float:
    return float(derived.low_limit)


def duty_flow(line: Line) -> float:
    """Flow of one machine at its duty point."""
    machine = line.machine
    return float(machine.air_flow if "fan" in line.traits else machine.duty_flow)


def _before_sensor(line: Line, derived: Derived) -> float:
    """Rise lost at the duty flow between machine and sensor."""
    flow = duty_flow(line)
    if "holds:differential" in line.traits:
        return float(derived.pump.held_resistance) * flow**2
    if "holds:duct" in line.traits:
        return float(derived.fan.resistance) * flow**2
    return 0.0


_RESTS, _LOOP, _WELL, _SET = ("rests",), ("loop",), ("submersible",), ("cascade",)
_TANK = ("tank",)
_HEAT = ("holds:temperature",)
_DEAD = {"temperature": 20.0, "duct": 0.3, "level": 0.5}
_LAG = {"temperature": 20.0, "duct": 0.5, "level": 1.0, "differential": 0.5, "flow": 0.5}
_HEATS = {"tower_fan": 300.0, "circulator": 240.0}  # s, what is heated or cooled at full flow; common practice


def _by_held(table: Mapping[str, float], usual: float) -> Callable[[Line, Derived], float]:
    return lambda line, derived: table.get(line.held.id if line.held else "", usual)


def _stream(line: Line, derived: Derived) -> float:
    """Temperature of what the machine brings: as far the other side of the setpoint as its kind usually has it."""
    away = {"tower_fan": 6.0, "circulator": 20.0}.get(line.line.application, 8.0)
    rises = line.value("control.effect") == "rise" and "tower_fan" not in line.traits
    return float(line.plant_setpoint()) + (away if rises else -away)


def _underload(line: Line, derived: Derived) -> float:
    planned = _planned(line, derived, "protection.underload")
    return 0.0 if planned is None else planned


_knob("setpoint", "Setpoint", CONTROLLER, HELD_DIMENSION, -2e4, 4e7,
      lambda line, derived: float(line.figure(line.held.setpoint if line.held else "")), "pid.{}setpoint_1", _LOOP,
      slides=True)  # fmt: skip
_knob("gain", "Gain", CONTROLLER, "gain", 0.001, 1000, practice.loop.STARTING_GAIN, "pid.gain", _LOOP,
      "% of speed per % of range", slides=True)  # fmt: skip
_knob("integral_time", "Integral time", CONTROLLER, "time", 0.05, 3600, 10.0, "pid.integral_time", _LOOP, slides=True)
_knob("derivative_time", "Derivative time", CONTROLLER, "time", 0, 600, 0.0, "", _LOOP, "0: none, as most pumps have")
_knob("low_limit", "Low limit", REST, "frequency", 0, 400, _low_limit, "pid.output_low", _RESTS,
      "above what holds at no flow", slides=True)  # fmt: skip
_knob("lowest", "Lowest speed", RAMPS, "frequency", 0, 400, lambda line, derived: line.application.lowest,
      "limits.minimum_speed", slides=True)  # fmt: skip
_knob("highest", "Highest speed", RAMPS, "frequency", 1, 400,
      lambda line, derived: float(line.motor.rated_frequency), "limits.maximum_speed")  # fmt: skip
_knob("sleep_below", "Sleep below", REST, "frequency", 0, 400, lambda line, derived: float(derived.sleep_below),
      "sleep.frequency", _RESTS, slides=True)  # fmt: skip
_knob("sleep_delay", "Sleep delay", REST, "time", 0, 3600, practice.loop.SLEEP_DELAY, "sleep.delay", _RESTS)
_knob("boost", "Boost before sleep", REST, "pressure", 0, 1e6, practice.loop.BOOST, "sleep.boost", _RESTS, slides=True)
_knob("wake_at", "Wake at", REST, "pressure", 0, 4e7, lambda line, derived: float(derived.wake_at),
      "sleep.wake_level", _RESTS, slides=True)  # fmt: skip
_knob("stop_level", "Stop level", REST, "head", 0, 50, lambda line, derived: float(line.system.stop_level),
      "level.stop_level", ("wet_well",), slides=True)  # fmt: skip
_knob("start_level", "Start level", REST, "head", 0, 50, lambda line, derived: float(line.system.start_level),
      "level.start_level", ("wet_well",), slides=True)  # fmt: skip
_knob("high_level", "High-level relay", REST, "head", 0, 50, lambda line, derived: float(line.system.high_level),
      "level.high_level", ("wet_well",))  # fmt: skip
_knob("stop_delay", "Stop delay", REST, "time", 0, 60, practice.loop.STOP_DELAY, "level.stop_delay", ("wet_well",))
_knob("ramp_up", "Up, 0 to full", RAMPS, "time", 0.1, 3600, 10.0, "ramps.up", slides=True)
_knob("ramp_down", "Down, full to 0", RAMPS, "time", 0.1, 3600, 20.0, "ramps.down", slides=True)
_knob("stage_on", "Another comes at", SEVERAL, "frequency", 1, 400,
      lambda line, derived: float(line.motor.rated_frequency) - 1.0, "cascade.stage_on", _SET, slides=True)  # fmt: skip
_knob("stage_off", "The last goes at", SEVERAL, "frequency", 0, 400,
      lambda line, derived: float(derived.hold_frequency), "cascade.stage_off", _SET, slides=True)  # fmt: skip
_knob("stage_delay", "Delay before either", SEVERAL, "time", 0, 600, practice.loop.STAGE_DELAY,
      "cascade.stage_delay", _SET)  # fmt: skip
_knob("turns", "Turns taken every", SEVERAL, "hours", 60, 40 * 86_400, practice.loop.ALTERNATION,
      "cascade.alternation", _SET)  # fmt: skip
_knob("underload", "Dry-run threshold", PROTECTION, "percent", 0, 1, _underload, "protection.underload", ("pump",),
      "share of motor power; 0: none")  # fmt: skip
_knob("tank_volume", "Tank", UNKNOWN, "volume", 0, 100,
      lambda line, derived: float(line.system.tank_volume) if line.has("system.tank_volume") else 0.0, "", _TANK,
      slides=True)  # fmt: skip
_knob("tank_precharge", "Its precharge", UNKNOWN, "pressure", 0, 2.5e6,
      lambda line, derived: float(line.system.tank_precharge) if line.has("system.tank_precharge") else 0.0, "",
      _TANK)  # fmt: skip
_knob("lost_before", "Lost before the sensor, at duty flow", UNKNOWN, "head", 0, 1000, _before_sensor, "",
      ("holds:pressure", "holds:differential"), slides=True)  # fmt: skip
_knob("duct_loss", "Lost before the sensor, at duty flow", UNKNOWN, "air_pressure", 0, 2e4, _before_sensor, "",
      ("holds:duct",), slides=True)  # fmt: skip
_knob("drop", "Well drops by, at duty flow", UNKNOWN, "head", 0, 300, 0.0, "", _WELL, slides=True)
_knob("area", "Area of the tank", UNKNOWN, "area", 0.05, 1e4,
      lambda line, derived: float(line.system.pit_area) if line.has("system.pit_area") else duty_flow(line) * 600,
      "", ("holds:level",), "left open in the record: full flow fills a metre in ten minutes", slides=True)  # fmt: skip
_knob("heat_time", "Time constant at full flow", UNKNOWN, "time", 5, 36_000,
      lambda line, derived: _HEATS.get(line.line.application, 600.0), "", _HEAT, slides=True)  # fmt: skip
_knob("stream", "Temperature it brings", UNKNOWN, "temperature", -60, 400, _stream, "", _HEAT, slides=True)
_knob("dead_time", "Dead time", UNKNOWN, "time", 0, 600, _by_held(_DEAD, 0.05), "", _LOOP, slides=True)
_knob("lag", "Lag of the sensor", UNKNOWN, "time", 0, 600, _by_held(_LAG, 0.2), "", _LOOP, slides=True)
_knob("noise", "Noise of the signal", UNKNOWN, "percent", 0, 0.1, 0.0, "", _LOOP, "of the range, standard deviation",
      slides=True)  # fmt: skip


def knobs_of(line: Line) -> list[Knob]:
    """The knobs that this line has, in order."""
    return [k for k in KNOBS.values() if line.applies(k.when)]


def setting_of(knob: Knob, line: Line) -> str:
    """The setting that an accepted value of a knob becomes; empty where it is none."""
    return knob.setting.format(line.held.prefix if line.held else "")


def dimension_of_knob(knob: Knob, line: Line) -> str:
    """Its kind of quantity."""
    if knob.dimension != HELD_DIMENSION:
        return knob.dimension
    return (line.held.dimension if line.held else None) or "ratio"


def stands_at(line: Line, derived: Derived, moved: Mapping[str, float]) -> dict[str, float]:
    """Where every knob of a line stands.

    Raises
    ------
    BadEntry : a knob that there is not, or a value that it does not take
    NotKnown : the record lacks what one stands on
    """
    found: dict[str, float] = {}
    own = knobs_of(line)
    for name in moved:
        if name not in {k.id for k in own}:
            raise BadEntry("knob", name, ", ".join(k.id for k in own))
    for knob in own:
        value = moved[knob.id] if knob.id in moved else _stands(knob, line, derived)
        kind = DIMENSIONS[dimension_of_knob(knob, line)]
        check_range(f"{knob.label.lower()} in {kind.units[0].symbol}", value, atleast=knob.least, upto=knob.most)
        found[knob.id] = float(value)
    return found


def _stands(knob: Knob, line: Line, derived: Derived) -> float:
    setting = setting_of(knob, line)
    if setting:
        field = OF_SETTING.get(setting)
        if knob.group != UNKNOWN and isinstance(field, str) and line.has(field):
            return float(line.figure(field))
        found = _planned(line, derived, setting)
        if found is not None:
            return found
    return float(knob.usual(line, derived))


def _planned(line: Line, derived: Derived, setting: str) -> float | None:
    """A setting as left or decided, else as planned; None where it cannot be told."""
    declared = SETTINGS[setting]
    told = line.told(setting, declared.dimension or "", declared.label)
    if isinstance(told, Figure):
        return float(told)
    if not line.applies(declared.only):
        return None
    try:
        row = plan_of(declared, line, derived)
    except MainspringError:
        return None
    return float(row.planned.value) if row.planned and isinstance(row.planned.value, Figure) else None
