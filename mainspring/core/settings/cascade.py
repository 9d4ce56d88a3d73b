"""Several drives on one pipe: who leads, when another comes and goes, who takes turns."""

from collections.abc import Callable
from typing import Any

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.limits import told_speed
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, given
from mainspring.core.ratios import difference_of, mean_of
from mainspring.core.sentence import say
from mainspring.core.settings.does import doubt
from mainspring.core.settings.setting import Planned, fixed, plate, setting

_SET = ("cascade",)


@setting(
    "cascade.pumps",
    "Number of machines",
    dimension="count",
    wrong="Two leads.",
    only=("several",),
    means="How many machines share the pipe.",
    also="number of pumps; pumps; drives in set; anzahl pumpen",
    between=(1, 20),
)
def pumps(line: Line, derived: Derived) -> Planned:
    """As many as stand there."""
    return Planned(line.machine.count, say("All alike; each drive gets its own number, the first leads."), DERIVED)


def _numbers(line: Line) -> list[str]:
    count = int(line.value("machine.count") or 1)
    return [str(n) for n in range(1, count + 1)] if count > 1 else []


def _addresses(path: str) -> Callable[[Line], list[str]]:
    def each(line: Line) -> list[str]:
        first = line.value(path)
        return [] if first is None else [f"{int(first) + i}" for i, _ in enumerate(_numbers(line))]

    return each


@setting(
    "cascade.own_number",
    "Number of this drive",
    dimension="count",
    wrong="Two with one number fight.",
    only=("many_drives",),
    each=_numbers,
    means="Which of them this drive is.",
    also="own number; pump number; station number; eigene nummer",
    between=(1, 250),
)
def own_number(line: Line, derived: Derived) -> Planned:
    """1 leads."""
    return Planned(given("leader", 1.0, "count", "of the first"), say("1 leads; the others count on from it."))


@setting(
    "cascade.stage_on",
    "Another comes at",
    dimension="frequency",
    wrong="Pressure sags before it comes, or it comes and goes.",
    only=_SET,
    means="At which speed the next one comes.",
    also="stage on; staging speed; aux start; zuschaltfrequenz; start next",
    between=(0, 400),
)
def stage_on(line: Line, derived: Derived) -> Planned:
    """Just below the highest speed, where one more is needed."""
    highest = line.motor.rated_frequency
    told = told_speed(line, "limits.maximum_speed")
    top = highest if told is None else told
    return Planned(
        difference_of(top, practice.loop.STAGE_BELOW_TOP), say("A little below the highest speed: it has nothing more.")
    )


@setting(
    "cascade.stage_off",
    "The last one goes at",
    dimension="frequency",
    wrong="It comes and goes: the set hunts.",
    only=_SET,
    means="At which speed the last one goes.",
    also="stage off; destaging speed; aux stop; abschaltfrequenz; stop last",
    between=(0, 400),
)
def stage_off(line: Line, derived: Derived) -> Planned:
    """Between the speed at which two carry what one just could, and the one that carries nothing."""
    shared = derived.shared_frequency
    return Planned(
        mean_of(derived.hold_frequency, shared),
        say(
            "Right after a second one comes both run at {shared}: below that, or they come and go; above {hold}, where"
            " no water moves.",
            shared=shared,
            hold=derived.hold_frequency,
        ),
        DERIVED,
    )


@setting(
    "cascade.stage_delay",
    "Delay before one comes or goes",
    dimension="time",
    wrong="Hunting, sags.",
    only=_SET,
    means="How long it waits before one comes or goes.",
    also="stage delay; staging delay; zuschaltverzögerung",
    between=(0, 36000),
)
def stage_delay(line: Line, derived: Derived) -> Planned:
    """Longer than a tap is open."""
    return Planned(practice.loop.STAGE_DELAY, say("Longer than one tap is open; the ramp comes on top."))


@setting(
    "cascade.alternation",
    "Turns taken every",
    dimension="hours",
    wrong="One wears out, one seizes.",
    only=_SET,
    means="After how long another one leads.",
    also="alternation; rotation interval; pumpenwechsel; lead change",
    between=(0, 1e7),
)
def alternation(line: Line, derived: Derived) -> Planned:
    """Once a day, so that each runs."""
    return Planned(practice.loop.ALTERNATION, say("Once a day: each runs, none seizes, all age alike."))


def _bus(id: str, label: str, path: str, wrong: str, **more: Any) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(path), "Its own on the link; no other has it.")

    setting(f"bus.{id}", label, dimension="count", wrong=wrong, only=("linked",), each=_addresses(path), **more)(plan)


_bus(
    "address",
    "Address on the link",
    "control.bus_address",
    "Two that answer to one address, or silence.",
    means="Its address on the link.",
    also="address; node; station address; slave address; mac id; busadresse",
    between=(0, 254),
    either=doubt("Another address", "It answers to {value}; {proposed} is its own, {value} may be another's."),
)
_bus(
    "device_instance",
    "Device instance",
    "control.device_instance",
    "Two of one instance take both down.",
    means="Its number in the building's automation.",
    also="device instance; instance; object instance; device id",
    between=(0, 4194302),
    either=doubt("Another instance", "It answers to {value}; two of one instance take both down."),
)


@setting(
    "bus.loss_action",
    "When the link is lost",
    choices={"stop": "Stop", "hold": "Go on as last told", "preset": "Run at a preset speed"},
    wrong="Runaway, or stop.",
    only=("linked",),
    means="What it does when the link is lost.",
    also="bus loss; communication loss; comm loss; bus fault reaction; busausfall; timeout",
    does={
        "stop": doubt("Stops with the link", "When the link is lost it stops; agreed was “{proposed}”."),
        "hold": doubt("Goes on without the link", "When the link is lost nobody can slow or stop it from afar."),
        "preset": doubt("Runs without the link", "When the link is lost it runs at its preset speed, wanted or not."),
    },
)
def link_lost(line: Line, derived: Derived) -> Planned:
    """As agreed; nothing is silently better than another here."""
    return fixed(line.control.link_lost, "As agreed with who runs the automation.", DERIVED)
