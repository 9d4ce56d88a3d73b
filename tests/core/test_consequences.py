"""What a value does that is not the proposed one: told by direction, for every pair of every choice."""

from itertools import permutations
from typing import Any

import pytest

from mainspring.core.checks import Severity
from mainspring.core.derived import Derived
from mainspring.core.families.pasted import search_settings
from mainspring.core.line import Line
from mainspring.core.line.on_site import OF_SETTING
from mainspring.core.method import Figure, given
from mainspring.core.sentence import say
from mainspring.core.settings import SETTINGS, Planned, plan_settings
from mainspring.core.settings.deviations import value_effect
from mainspring.core.settings.does import doubt
from mainspring.core.settings.effect import JUDGES, Deviation, Effect, effect_of, judged
from mainspring.core.settings.setting import SettingRow, setting
from tests.conftest import line_of

NUMBERS = [id for id, s in SETTINGS.items() if s.below is not None]
CHOSEN = {id: s for id, s in SETTINGS.items() if s.dimension is None}
TASTE = {"application.preset"}  # which of a make's presets is nearest: nothing speaks against another
PAIRS = [(id, *pair) for id, s in CHOSEN.items() for pair in permutations(s.choices, 2)]


def of_pair(line: Line, id: str, proposed: str | Figure, value: str | Figure) -> Effect:
    return effect_of(Deviation(SETTINGS[id], proposed, value, "left", line, Derived(line)))


@pytest.mark.parametrize(("id", "proposed", "value"), PAIRS)
def test_every_pair_of_a_choice_says_what_that_value_does(id: str, proposed: str, value: str, booster: Line) -> None:
    told = of_pair(booster, id, proposed, value)
    assert "{" not in told.because.text()
    if id not in TASTE and id not in JUDGES:
        # where the table says nothing of a value, no line is ever proposed another than it
        does = CHOSEN[id].does
        assert value in does or told.title == "Harmless"
        assert value in does or all(v == value for v in CHOSEN[id].choices if v not in does)
    back = of_pair(booster, id, value, proposed)
    if id not in TASTE | {"feedback.signal", "reference.signal", "motor.type", "pid.action"}:
        words = (told.title, told.because.text()), (back.title, back.because.text())
        assert words[0] != words[1], "the same words both ways round"


@pytest.mark.common_practice
@pytest.mark.parametrize(
    ("id", "proposed", "value", "says", "never"),
    [
        ("reset.factory_before", "no", "yes", "is gone", "earlier life"),
        ("reset.factory_before", "yes", "no", "earlier life", "is gone"),
        ("motor.thermal_protection", "model", "thermistor", "none wired", "cooked"),
        ("motor.thermal_protection", "thermistor", "model", "blocked fan", "cooked"),
        ("motor.thermal_protection", "model", "off", "cooked", "thermistor"),
        ("start.wiring", "two_wire", "three_wire", "until somebody presses start", "it starts with the contact"),
        ("start.wiring", "three_wire", "two_wire", "it starts with the contact", "until somebody"),
        ("start.local", "keypad", "contact", "keypad cannot start it", "where it stands"),
        ("start.local", "keypad", "none", "but by its isolator", "contacts"),
        ("start.torque", "normal", "high", "More amps", "break away"),
        ("start.torque", "high", "normal", "break away", "More amps"),
        ("protection.least_flow", "alarm", "stop", "stop at little demand", "eats its seal"),
        ("protection.least_flow", "stop", "alarm", "until somebody comes", "eats its seal"),
        ("feedback.loss_action", "last", "stop", "must not stop", "burst"),
        ("feedback.loss_action", "stop", "last", "burst", "must not stop"),
        ("limits.direction", "forward", "both", "the wrong way", "throat"),
        ("limits.direction", "both", "forward", "throat", "the wrong way"),
        ("protection.phase_loss_in", "off", "on", "lost one", "overloaded"),
        ("level.anti_clog", "off", "cycles", "nothing to clear", "jams"),
    ],
)
def test_a_choice_is_told_by_its_direction(
    id: str, proposed: str, value: str, says: str, never: str, booster: Line
) -> None:
    words = of_pair(booster, id, proposed, value).because.text()
    assert says in words
    assert never not in words


@pytest.mark.parametrize("id", NUMBERS)
def test_a_number_is_told_by_its_side(id: str, booster: Line) -> None:
    dimension = SETTINGS[id].dimension
    assert dimension is not None
    sides = [of_pair(booster, id, given("p", 10.0, dimension), given("v", v, dimension)) for v in (5.0, 20.0)]
    assert all("{" not in e.because.text() for e in sides)
    assert (SETTINGS[id].below == SETTINGS[id].above) == (sides[0].title == sides[1].title)


def test_nothing_falls_through_to_words_of_neither_side(booster: Line) -> None:
    judged = JUDGES.keys() | {id for id, s in SETTINGS.items() if s.does} | set(NUMBERS)
    exact = {id for id, s in SETTINGS.items() if s.exact}
    numbers_of_a_set = {id for id in SETTINGS if id.startswith("cascade.")}  # taste; conflicts say where they clash
    assert SETTINGS.keys() - judged - exact - numbers_of_a_set - TASTE == set()


def test_fans_and_pumps_are_told_in_their_own_words(records: dict[str, Any]) -> None:
    pump_words = ("impeller", "churn", "water", "dry run")
    line = line_of(records["supply_fan"])
    derived = Derived(line)
    for id, declared in CHOSEN.items():
        if not line.applies(declared.only):
            continue
        for proposed, value in permutations(declared.choices, 2):
            row = SettingRow(declared, Planned(proposed, say("…")))
            told = value_effect(line, derived, row, value, "left")
            assert told is not None
            assert not any(w in told.because.text().lower() for w in pump_words), (id, value)


def test_what_guards_is_a_stop_when_it_is_off(booster: Line) -> None:
    for id, value in (("motor.thermal_protection", "off"), ("protection.phase_loss_in", "off"),
                      ("protection.earth_fault", "off")):  # fmt: skip
        assert of_pair(booster, id, "on", value).severity is Severity.STOP


def test_a_setting_from_outside_is_one_declaration(booster: Line) -> None:
    """Definition, other words, range, proposal, field and what its values do: on the sheet and judged at once."""
    before = dict(SETTINGS), dict(JUDGES), dict(OF_SETTING)
    try:

        @setting(
            "ramps.quick_stop",
            "Ramp on the stop button",
            dimension="time",
            wrong="Hammer.",
            means="Time to standstill when the stop button is pressed.",
            also="quick stop; fast stop",
            between=(0.1, 600),
            above=doubt("Stops late", "{value} after the button; {proposed} is proposed."),
        )
        def quick_stop(line: Line, derived: Derived) -> Planned:
            """Half of the usual ramp."""
            return Planned(given("half", 5.0, "time"), say("Half of the usual ramp."))

        @judged("ramps.quick_stop")
        def _hammers(d: Deviation) -> Effect | None:
            return d.bad("Hammers", "{value} is a shut valve.") if d.number < 1 else None

        derived = Derived(booster)
        row = next(r for r in plan_settings(booster, derived) if r.setting.id == "ramps.quick_stop")
        assert row.planned is not None
        assert row.planned.value == 5.0
        for value, severity in ((5.0, Severity.CLEAR), (20.0, Severity.CAUTION), (0.5, Severity.STOP)):
            effect = value_effect(booster, derived, row, value, "left")
            assert effect is not None
            assert effect.severity is severity
        assert search_settings("fast stop")[0] == "ramps.quick_stop"
    finally:
        for table, was in zip((SETTINGS, JUDGES, OF_SETTING), before, strict=True):
            table.clear()
            table.update(was)  # type: ignore[attr-defined]
