"""What a value does that is not the proposed one: told by direction, for every pair of every choice."""

from itertools import permutations
from typing import Any

import pytest

from mainspring.core.checks import Severity
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.sentence import say
from mainspring.core.settings import SETTINGS, Planned
from mainspring.core.settings.consequences import CHOICES, NUMBERS
from mainspring.core.settings.effects import JUDGES, Deviation, Effect, effect_of, value_effect
from mainspring.core.settings.setting import SettingRow
from tests.conftest import line_of

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
        assert value in CHOICES[id] or told.title == "Harmless"
        assert value in CHOICES[id] or all(v == value for v in CHOSEN[id].choices if v not in CHOICES[id])
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
    around = NUMBERS[id]
    assert (around.below == around.above) == (sides[0].title == sides[1].title)


def test_nothing_falls_through_to_words_of_neither_side(booster: Line) -> None:
    judged = JUDGES.keys() | CHOICES.keys() | NUMBERS.keys()
    exact = {id for id, s in SETTINGS.items() if s.exact}
    numbers_of_a_set = {id for id in SETTINGS if id.startswith("cascade.")}  # taste; conflicts say where they clash
    assert SETTINGS.keys() - judged - exact - numbers_of_a_set - TASTE == set()


def test_fans_and_pumps_are_told_in_their_own_words(records: dict[str, Any]) -> None:
    pump_words = ("impeller", "churn", "water", "dry run")
    line = line_of(records["supply_fan"])
    derived = Derived(line)
    for id, setting in CHOSEN.items():
        if not line.applies(setting.only):
            continue
        for proposed, value in permutations(setting.choices, 2):
            row = SettingRow(setting, Planned(proposed, say("…")))
            told = value_effect(line, derived, row, value, "left")
            assert told is not None
            assert not any(w in told.because.text().lower() for w in pump_words), (id, value)


def test_what_guards_is_a_stop_when_it_is_off(booster: Line) -> None:
    for id, value in (("motor.thermal_protection", "off"), ("protection.phase_loss_in", "off"),
                      ("protection.earth_fault", "off")):  # fmt: skip
        assert of_pair(booster, id, "on", value).severity is Severity.STOP
