"""What a line holds: its setpoint, its sensor's range, and in which direction the controller must act."""

from mainspring.core.errors import NoSolution
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.signal.loop import share_of_range, signal_of_share, volts_of_share


def held_figures(line: Line) -> tuple[Figure, Figure, Figure]:
    """Setpoint, low end and high end of the range of what the line holds; NotKnown for the first that is missing."""
    _ = line.application  # not known: says so
    held = line.held
    assert held is not None
    if not held.setpoint:
        raise NoSolution("the speed comes from outside: nothing is held")
    low, high = line.figure(held.range_low), line.figure(held.range_high)
    return line.figure(held.setpoint), low, high


def signal_at_setpoint(line: Line) -> Figure:
    """What the input reads at the setpoint: a current, or volts where the sensor sends volts."""
    share = share_of_range(*held_figures(line))
    zero = ZERO_VOLTS.get(line.value("sensor.signal") or "")
    if zero is None:
        return signal_of_share(share)
    return volts_of_share(share, given("zero_volts", zero, "voltage", "the signal's zero"))


ZERO_VOLTS = {"0-10V": 0.0, "2-10V": 2.0}


def rises_with_speed(line: Line) -> bool:
    """Whether running faster raises what is held.

    As the application has it where there is no other way round, whatever was entered; else as entered, else as the
    application usually has it.
    """
    held, entered = line.held, line.value("control.effect")
    usual = held is None or held.id not in line.application.falls
    return usual if entered is None or has_one_way(line) else bool(entered == "rise")


def has_one_way(line: Line) -> bool:
    """Whether nothing but physics decides what running faster does: a wet well is emptied, a booster raises."""
    held = line.held
    return held is not None and held.id in line.application.certain


def check_direction(line: Line) -> None:
    """Raise NotKnown where only somebody on site can tell: whether the air or water of a loop cools or heats."""
    held = line.held
    if held is not None and held.id == "temperature" and not has_one_way(line):
        _ = line.control.effect


def action_words(line: Line) -> str:
    """The action in plain words: "Pressure falls, the drive goes faster"."""
    held = line.held
    assert held is not None
    falls = "falls" if rises_with_speed(line) else "rises"
    return f"{held.noun.capitalize()} {falls}, the drive goes faster"
