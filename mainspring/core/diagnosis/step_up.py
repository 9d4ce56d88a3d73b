"""What the readings of a step-up fit: usual causes, told by the signs and sizes of the deviations.

The signatures are common practice; the sizes are those of centrifugal machines.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from statistics import fmean

from mainspring.core.diagnosis.pattern import Pattern
from mainspring.core.method import Figure, given
from mainspring.core.sentence import say

SPEED_OFF, CURRENT_OFF, POWER_OFF, PRESSURE_OFF = 0.02, 0.10, 0.10, 0.08
LIMITS = {"speed": SPEED_OFF, "current": CURRENT_OFF, "power": POWER_OFF, "pressure": PRESSURE_OFF}
ROOT_THREE = 3**0.5


@dataclass(frozen=True)
class Row:
    """One step: its reference [Hz], and the deviation of each reading from what was expected, as a share."""

    reference: float
    off: Mapping[str, float]


@dataclass(frozen=True)
class _Means:
    """Mean deviations of the rows from half speed up, where readings carry weight; None where none was read."""

    speed: float | None
    current: float | None
    power: float | None
    pressure: float | None
    steady: bool  # pressure deviates by the same share at every speed
    fan: bool


def deviations(read: Mapping[str, float], expected: Mapping[str, Figure]) -> dict[str, float]:
    """Deviation of each reading as a share of what was expected."""
    return {
        name: value / expected[name] - 1
        for name, value in read.items()
        if name in expected and abs(expected[name]) > 1e-9
    }


def step_up_pattern(rows: Sequence[Row], *, fan: bool = False) -> Pattern | None:
    """The likeliest cause of what does not fit, or None while all fits.

    A row that stands apart from its neighbours was misread. Otherwise rows from half speed up are read together;
    where that says nothing, the fastest that does not fit by itself.
    """
    strong = [r for r in rows if r.reference >= max(x.reference for x in rows) / 2]
    return _apart(strong) or _cause(strong, fan) or next((c for r in strong[::-1] if (c := _cause([r], fan))), None)


def _apart(rows: Sequence[Row]) -> Pattern | None:
    """One row that does not fit between rows that do: no machine does that, a reader does."""
    ordered = sorted(rows, key=lambda r: r.reference)
    for i, row in enumerate(ordered[1:-1], start=1):
        beside = (ordered[i - 1], ordered[i + 1])
        for name, limit in LIMITS.items():
            neighbours = [abs(r.off[name]) for r in beside if name in r.off]
            off = row.off.get(name, 0.0)
            if abs(off) > 2 * limit and len(neighbours) == 2 and max(neighbours) <= limit:
                said = {
                    "at": given("reference", row.reference, "frequency", "the row"),
                    "off": given(name, off, "percent", "deviation from what is expected"),
                    "most": given(f"{name} beside it", max(neighbours), "percent", "the rows before and after"),
                }
                words = f"{name.capitalize()} {{off}} at {{at}}; the rows beside it within {{most}}."
                return Pattern("apart", "One row stands apart", say(words, **said), "Read that row again.")
    return None


def _cause(rows: Sequence[Row], fan: bool) -> Pattern | None:
    def mean(name: str) -> float | None:
        found = [r.off[name] for r in rows if name in r.off]
        return fmean(found) if found else None

    pressures = [r.off["pressure"] for r in rows if "pressure" in r.off]
    steady = bool(pressures) and max(pressures) - min(pressures) < 0.06
    means = _Means(mean("speed"), mean("current"), mean("power"), mean("pressure"), steady, fan)
    return next((found for rule in _RULES if (found := rule(means))), None)


def _pattern(means: _Means, id: str, title: str, words: str, do: str) -> Pattern:
    numbers = {
        name: given(name, value, "percent", "deviation from what is expected")
        for name in LIMITS
        if (value := getattr(means, name)) is not None
    }
    return Pattern(id, title, say(words, **numbers), do)


def _low(value: float | None, limit: float) -> bool:
    return value is not None and value < -limit


def _high(value: float | None, limit: float) -> bool:
    return value is not None and value > limit


def _fits(value: float | None, limit: float) -> bool:
    return value is None or abs(value) <= limit


def _speed(m: _Means) -> Pattern | None:
    if _fits(m.speed, SPEED_OFF):
        return None
    return _pattern(
        m,
        "speed",
        "The speed is another",
        "Speed {speed} off at every step.",
        "Poles and rated speed, on the plate and in the drive; then the belt or the meter.",
    )


def _air_locked(m: _Means) -> Pattern | None:
    if m.fan or not (_low(m.pressure, 0.5) and _low(m.power, 0.35)):
        return None
    return _pattern(
        m,
        "air_locked",
        "Air in the pump",
        "Hardly any pressure ({pressure}) and little power ({power}): it is not moving water.",
        "Stop. Prime and vent; suction valve, foot valve, water level.",
    )


def _reversed(m: _Means) -> Pattern | None:
    if not _low(m.pressure, 0.25) or m.power is None or not -0.45 <= m.power <= 0.15:
        return None
    return _pattern(
        m,
        "reversed",
        "Turning backwards",
        "Pressure {pressure} with power only {power}: about what a wheel gives when it turns backwards.",
        "Prove rotation again, by the shaft.",
    )


def _throttled(m: _Means) -> Pattern | None:
    if not (_low(m.power, POWER_OFF) and _high(m.pressure, PRESSURE_OFF / 2)):
        return None
    what = "a damper or dirty filter" if m.fan else "a valve that is not fully open"
    return _pattern(
        m,
        "throttled",
        "Throttled",
        f"Power {{power}} and pressure {{pressure}}: less flow. Fits {what}.",
        "Walk the system, open what is shut.",
    )


def _open(m: _Means) -> Pattern | None:
    if not (_high(m.power, POWER_OFF) and _low(m.pressure, PRESSURE_OFF / 2)):
        return None
    what = "an open door or missing filter" if m.fan else "a burst, or more open than surveyed"
    return _pattern(
        m,
        "open",
        "More open than surveyed",
        f"Power {{power}} and pressure {{pressure}}: more flow. Fits {what}.",
        "Look for it. If the system is right, correct its known point in the survey.",
    )


def _curve(m: _Means) -> Pattern | None:
    if _fits(m.pressure, PRESSURE_OFF) or not m.steady or m.power is None or m.pressure is None:
        return None
    if m.power * m.pressure < 0 or abs(m.power) < abs(m.pressure) / 2:
        return None
    wheel = "a smaller wheel" if m.pressure < 0 else "a larger wheel"
    return _pattern(
        m,
        "curve",
        "Another curve",
        f"Pressure {{pressure}} and power {{power}}, the same at every step: {wheel}, or another model.",
        "The machine's plate against the curve on record.",
    )


def _amps(m: _Means) -> Pattern | None:
    if _fits(m.current, CURRENT_OFF) or m.current is None or not _fits(m.power, POWER_OFF) or m.power is None:
        return None
    ratio = 1 + m.current
    volts = any(abs(ratio / wanted - 1) < 0.12 for wanted in (ROOT_THREE, 1 / ROOT_THREE, 2.0, 0.5))
    tail = " About the ratio of two voltages of a plate." if volts else ""
    return _pattern(
        m,
        "plate_amps",
        "Plate amps are others",
        "Amps {current} while power fits ({power})." + tail,
        "Amps and power factor of the connected voltage on the plate; then the meter.",
    )


def _something(m: _Means) -> Pattern | None:
    limits = (("power", POWER_OFF), ("pressure", PRESSURE_OFF), ("current", CURRENT_OFF))
    name = next((n for n, limit in limits if not _fits(getattr(m, n), limit)), None)
    if name is None:
        return None
    return _pattern(
        m,
        "reading",
        "A reading is off",
        f"{name.capitalize()} {{{name}}}, and nothing else says why.",
        "Read it again, with another instrument if there is one.",
    )


_RULES: tuple[Callable[[_Means], Pattern | None], ...] = (
    _speed,
    _air_locked,
    _reversed,
    _throttled,
    _open,
    _curve,
    _amps,
    _something,
)
