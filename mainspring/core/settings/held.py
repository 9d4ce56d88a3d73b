"""What a loop holds: range, setpoint and second setpoint of each quantity, whose units differ, so each has its own."""

from dataclasses import dataclass

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.line.applications import HELD
from mainspring.core.settings.effect import Deviation, Effect, judged
from mainspring.core.settings.setting import Planned, plate, setting

Span = tuple[float, float]


@dataclass(frozen=True)
class _Kind:
    """One quantity: which loops hold it, and what any drive could take at both ends of its sensor and as setpoint."""

    noun: str
    holds: tuple[str, ...]
    low: Span
    high: Span
    wanted: Span
    more: tuple[str, str, str, str] = ("", "", "", "")  # further words for low end, high end and the setpoints


KINDS = {
    "pressure": _Kind(
        "pressure",
        ("pressure", "differential"),
        (-1e5, 1e8),
        (100, 1e8),
        (0, 1e8),
        (
            "; istwert minimum; feedback minimum",
            "; istwert maximum; feedback maximum; sensor range; span",
            "; pid setpoint",
            "; sollwert 2",
        ),
    ),
    "duct": _Kind("air pressure", ("duct",), (-1e4, 1e5), (1, 1e5), (-1e4, 1e5)),
    "level": _Kind("level", ("level",), (-100, 1000), (0.01, 1000), (0, 1000)),
    "temperature": _Kind("temperature", ("temperature",), (-200, 500), (-200, 1000), (-100, 500)),
    "flow": _Kind("flow", ("flow",), (-10, 10), (1e-6, 100), (0, 100)),
}


def range_and_setpoint(id: str) -> None:
    """Declare both ends of the sensor and the setpoint."""
    kind, held = KINDS[id], HELD[id]
    prefix, dimension = held.prefix, held.dimension
    only = tuple(f"holds:{h}" for h in kind.holds)
    low_words, high_words, first_words, _ = kind.more
    noun, short = kind.noun, "pressure" if "pressure" in kind.noun else kind.noun

    def low(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(held.range_low), "From the label on the sensor.")

    def high(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(held.range_high), "From the label on the sensor, not from the box.")

    def wanted(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(held.setpoint), "What is wanted at the sensor.")

    setting(
        f"feedback.{prefix}range_low",
        "Feedback at the low end",
        dimension=dimension,
        wrong="Setpoint wrong by the ratio.",
        only=only,
        means=f"{noun.capitalize()} at the sensor's low end.",
        also=f"sensor at zero; feedback low; transducer zero{low_words}",
        between=kind.low,
    )(low)
    setting(
        f"feedback.{prefix}range_high",
        "Feedback at the high end",
        dimension=dimension,
        wrong="Setpoint wrong by the ratio.",
        only=only,
        means=f"{noun.capitalize()} at its high end.",
        also=f"sensor at full; feedback high; transducer full scale{high_words}",
        between=kind.high,
    )(high)
    setting(
        f"pid.{prefix}setpoint_1",
        "Setpoint",
        dimension=dimension,
        wrong="Comfort, burst.",
        only=only,
        means=f"The {noun} that it holds.",
        also=f"wanted value; target; setpoint; sollwert; set {short}{first_words}",
        between=kind.wanted,
        field=held.setpoint,
    )(wanted)


def second_setpoint(id: str) -> None:
    """Declare the setpoint that it holds while a contact is made."""
    kind, held = KINDS[id], HELD[id]

    def wanted(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(held.second), "What is wanted while its contact is made.")

    setting(
        f"pid.{held.prefix}setpoint_2",
        "Second setpoint",
        dimension=held.dimension,
        wrong="Comfort, burst.",
        only=tuple(f"second:{h}" for h in kind.holds),
        means=f"The {kind.noun} that it holds while a contact is made.",
        also=f"second setpoint; setpoint 2; target 2{kind.more[3]}",
        between=kind.wanted,
    )(wanted)


PREFIXES = tuple(HELD[id].prefix for id in KINDS)


# what a value does


@judged(*(f"feedback.{p}range_{end}" for p in PREFIXES for end in ("low", "high")))
def _range(d: Deviation) -> Effect:
    return d.bad("Every value is wrong by the ratio", "{value} in the drive, the sensor's label says {proposed}.")


@judged(*(f"pid.{p}setpoint_{n}" for p in PREFIXES for n in (1, 2)))
def _setpoint(d: Deviation) -> Effect | None:
    rating = d.line.value("system.pressure_rating") if d.setting.id in ("pid.setpoint_1", "pid.setpoint_2") else None
    if rating is not None and d.number > rating:
        words = "{value}, the weakest part is rated {rating}."
        return d.bad("Above the rating", words, rating=d.line.system.pressure_rating)
    if d.how == "decided":
        return d.fine("Another setpoint", "{value} is wanted instead of {proposed}; all that follows goes by it.")
    return d.doubt("Not the setpoint wanted", "It holds {value}; {proposed} is wanted.")
