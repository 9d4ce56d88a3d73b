"""What is dialled for a value, and back; families as files and pasted tables; what differs and what is wrong."""

import json
import math
import random
from dataclasses import replace
from datetime import date
from difflib import SequenceMatcher
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry
from mainspring.core.families import (
    Bit,
    Family,
    Given,
    Needs,
    Parameter,
    Rest,
    Word,
    dial,
    keypad_steps,
    problems_of,
    read_back,
)
from mainspring.core.families.changes import changes_between
from mainspring.core.families.dial import same_to_the_drive, whole_of
from mainspring.core.families.keypad import CLOSES, LEADS
from mainspring.core.families.pasted import SPELLING, SURE, guess_setting, guess_table, likeness, search_settings
from mainspring.core.method import Figure
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.settings import SETTINGS, plan_settings
from mainspring.exchange.family_file import (
    family_csv,
    family_of_plain,
    parameters_of_csv,
    read_family,
    schema_text,
    write_family,
)
from tests.conftest import ROOT, line_of

FILES = sorted((ROOT / "mainspring/families").glob("*.json"))
NUMBERS = [s for s in SETTINGS.values() if s.dimension is not None]
CHOSEN = [s for s in SETTINGS.values() if s.choices]


def shipped(path: Path) -> Family:
    return read_family(path.read_text())


def planned(record: dict[str, Any]) -> dict[str, float | str]:
    line = line_of(record)
    rows = plan_settings(line, Derived(line))
    values = {r.setting.id: r.planned.value for r in rows if r.planned is not None}
    return {id: float(v) if isinstance(v, Figure) else v for id, v in values.items()}


@st.composite
def numbers(draw: st.DrawFn) -> tuple[Parameter, Any, float]:
    """A parameter as some make may have it, its setting, and a value that it can hold."""
    setting = draw(st.sampled_from(NUMBERS))
    assert setting.dimension is not None
    unit = draw(st.sampled_from(DIMENSIONS[setting.dimension].units)).symbol
    decimals = draw(st.integers(0, 4))
    parameter = Parameter(
        draw(st.sampled_from(("12", "3-03", "P0.03", "F 001", "/a/b"))),
        {"en": "x"},
        setting=setting.id,
        unit="" if unit == "–" else unit,
        scale=draw(st.sampled_from((1.0, 10.0, 100.0, 1000.0, 0.1, 60.0))),
        offset=draw(st.sampled_from((0.0, 0.0, 0.0, -100.0, 32.0))),
        decimals=decimals,
        step=draw(st.sampled_from((0.0, 0.0, 5.0, 0.5))) if decimals >= 1 else draw(st.sampled_from((0.0, 2.0, 500.0))),
        rest=draw(st.sampled_from((None, None, Rest("13", 1000)))),
    )
    shown = draw(st.integers(0, 10**6)) * parameter.stepped
    return (
        parameter,
        setting,
        DIMENSIONS[setting.dimension].unit(unit).to_si((shown - parameter.offset) / parameter.scale),
    )


@given(numbers())
def test_what_is_dialled_reads_back_as_the_value(case: tuple[Parameter, Any, float]) -> None:
    parameter, setting, value = case
    dialled = dial(parameter, setting, value)
    again = read_back(parameter, setting, dialled.text)
    assert isinstance(again, float)
    assert isinstance(dialled.holds, float)
    scale = max(abs(value), abs(again), 1e-9)
    assert math.isclose(again, dialled.holds, rel_tol=1e-9, abs_tol=1e-9 * scale)
    assert same_to_the_drive(parameter, setting, value, again)


@given(numbers(), st.floats(0.001, 0.999))
def test_a_value_between_steps_is_held_within_half_a_step_and_said(
    case: tuple[Parameter, Any, float], part: float
) -> None:
    parameter, setting, value = case
    unit = DIMENSIONS[setting.dimension].unit(
        parameter.unit or "–" if parameter.unit else DIMENSIONS[setting.dimension].si
    )
    step = abs(parameter.stepped / parameter.scale * unit.factor)
    off = value + part * step
    dialled = dial(parameter, setting, off)
    assert isinstance(dialled.holds, float)
    assert abs(dialled.holds - off) <= step * 0.5001 + abs(off) * 1e-9
    if 0.01 < part < 0.99 and step > abs(off) * 1e-6:
        assert dialled.rounded


@given(st.sampled_from(CHOSEN), st.data())
def test_a_choice_reads_back_by_its_code_and_by_its_word(setting: Any, data: st.DataObject) -> None:
    words = {c: Word(str(n), {"en": f"word {n}", "de": f"Wort {n}"}) for n, c in enumerate(setting.choices)}
    bit = data.draw(st.sampled_from((None, Bit(3))))
    parameter = Parameter("7", {"en": "x"}, setting=setting.id, choices=words, bit=bit)
    for choice, word in words.items():
        dialled = dial(parameter, setting, choice)
        assert read_back(parameter, setting, dialled.text) == choice
        assert read_back(parameter, setting, word.word["de"].upper()) == choice
    with pytest.raises(BadEntry, match="0 word 0"):
        read_back(parameter, setting, "99")


RAMP = Parameter("E01", {"en": "Climb"}, setting="ramps.up", scale=10.0, unit="s", low=1, high=6000)


def test_scaled_values_say_what_they_are() -> None:
    dialled = dial(RAMP, SETTINGS["ramps.up"], 10.0)
    assert (dialled.text, dialled.says) == ("100", "tenths of s: 10.0 s")
    up = SETTINGS["ramps.up"]
    assert read_back(RAMP, up, "100") == 10.0
    assert read_back(RAMP, up, "10.0") == 10.0  # read as it says, and not as it is dialled
    assert read_back(RAMP, up, "10 s") == 10.0
    assert read_back(RAMP, up, "10", wanted=10.0) == 10.0
    assert read_back(RAMP, up, "10", wanted=5.0) == 1.0  # dialled in tenths: it stands at one second
    assert read_back(RAMP, up, "0.5 min") == 30.0
    with pytest.raises(BadEntry, match="a number as the display has it"):
        read_back(RAMP, up, "fast")
    assert dial(RAMP, up, 700.0).problem == "Above what it takes: 6000 at most."
    assert dial(RAMP, up, 10.04).rounded


def test_a_value_in_two_fields_and_one_in_percent_of_another() -> None:
    power = Parameter("A", {"en": "P"}, setting="motor.rated_power", unit="W", step=10, rest=Rest("B", 100))
    dialled = dial(power, SETTINGS["motor.rated_power"], 5500.0)
    assert dialled.fields == (("A", "5"), ("B", "50"))
    assert read_back(power, SETTINGS["motor.rated_power"], "5 50") == 5500.0
    amps = Parameter("21.1", {"en": "Amps"}, setting="limits.current", unit="%", of="motor.rated_current")
    limits = SETTINGS["limits.current"]
    assert dial(amps, limits, 11.0, {"motor.rated_current": 10.0}.get).text == "110"
    assert read_back(amps, limits, "110", {"motor.rated_current": 10.0}.get) == pytest.approx(11.0, rel=1e-9)
    assert dial(amps, limits, 11.0).problem  # of what is not known
    with pytest.raises(BadEntry, match=r"motor\.rated_current known"):
        read_back(amps, limits, "110")


def test_bits_of_one_word_are_dialled_together() -> None:
    def bit(at: int, setting: str) -> Parameter:
        return Parameter(
            "W", {"en": setting}, setting=setting, bit=Bit(at), choices={"on": Word("1"), "off": Word("0")}
        )

    family = Family("x", "X", parameters=(bit(0, "protection.phase_loss_in"), bit(5, "protection.earth_fault")))
    steps = keypad_steps(family, {"protection.phase_loss_in": "on", "protection.earth_fault": "on"})
    assert [s.word for s in steps] == ["33", "33"]
    assert steps[0].siblings == ("protection.earth_fault",)
    assert not problems_of(family)  # one number, but each its own bit


def test_what_the_display_asks_only_after_something_else() -> None:
    magnet = Parameter(
        "C11", {"en": "Volts"}, setting="motor.back_emf", unit="V", needs=Needs("motor.type", ("permanent_magnet",))
    )
    family = Family("x", "X", parameters=(magnet,))
    (step,) = keypad_steps(family, {"motor.back_emf": 100.0, "motor.type": "induction"})
    assert "Permanent magnet" in step.hidden
    (step,) = keypad_steps(family, {"motor.back_emf": 100.0, "motor.type": "permanent_magnet"})
    assert not step.hidden


@pytest.mark.parametrize("path", FILES, ids=lambda p: p.stem)
def test_what_ships_is_sound_and_the_same_after_its_file(path: Path) -> None:
    family = shipped(path)
    assert family.id == path.stem
    assert len(family.parameters) > 50
    assert problems_of(family) == []
    again = read_family(write_family(family))
    assert again == family
    assert again.digest == family.digest
    assert parameters_of_csv(family_csv(family), family) == family.parameters


def test_four_families_ship_as_unlike_each_other_as_makes_are() -> None:
    families = {p.stem: shipped(p) for p in FILES}
    assert len(families) == 4
    assert any(p.bit for p in families["wren"].parameters)
    assert any(p.rest for p in families["wren"].parameters)
    assert any(p.of for p in families["tern"].parameters)
    assert all(" > " in p.number for p in families["oriel"].parameters)
    assert any(p.scale == 10 for p in families["calder"].parameters)


@pytest.mark.parametrize(
    ("path", "name"),
    [(p, n) for p, n in zip(FILES, ("booster", "set", "irrigation", "supply_fan"), strict=True)],
    ids=lambda x: getattr(x, "stem", x),
)
def test_a_shipped_family_dials_a_real_line_whole(path: Path, name: str, records: dict[str, dict[str, Any]]) -> None:
    family, values = shipped(path), planned(records[name])
    steps = keypad_steps(family, values)
    assert len(steps) >= 40
    for step in steps:
        assert not step.dial.problem, (step.parameter.number, step.dial.problem)
        again = read_back(step.parameter, step.setting, step.dial.text, whole_of(values), step.wanted)
        assert same_to_the_drive(step.parameter, step.setting, step.wanted, again, whole_of(values))
    graves = [p for p in problems_of(family, values) if p.grave]
    assert not graves, [(family.parameters[p.at].number, p.words) for p in graves]


def test_checks_find_what_would_be_dialled_wrong() -> None:
    wrong = (
        Parameter("1", {"en": "a"}, setting="ramps.up", unit="bar"),
        Parameter("1", {"en": "b"}, setting="ramps.down", unit="s"),
        Parameter("2", {"en": "c"}, setting="ramps.down", unit="s", low=50),
        Parameter("3", {"en": "d"}, setting="stop.mode", choices={"coast": Word("0")}),
        Parameter("4", {"en": "e"}),
        Parameter("5", {"en": "f"}, setting="pid.setpoint_1", unit="bar", step=1.0),
    )
    found = problems_of(Family("x", "X", parameters=wrong), {"ramps.down": 20.0, "pid.setpoint_1": 3.4e5})
    said = {(p.at, p.words) for p in found}
    assert (0, "Number 1 stands twice.") in said
    assert any(at == 0 and "Unit bar is none of" in w for at, w in said)
    assert (2, "Below what it takes: 50 at least.") in said
    assert (3, "No code for Ramp.") in said
    assert (4, "Not said which setting it is.") in said
    assert any(at == 5 and "steps lose" in w for at, w in said)
    assert any(p.at == 1 and "stands twice" in p.words for p in found)


def test_only_what_differs_is_told() -> None:
    before = Family("x", "X", parameters=(RAMP, Parameter("E02", {"en": "Fall"}, setting="ramps.down")))
    proven = replace(RAMP, proven=Given("Ana", date(2026, 3, 2)))
    after = Family("x", "X", parameters=(replace(proven, scale=100.0), Parameter("E09", {"en": "New one"})))
    told = [(c.number, c.words) for c in changes_between(before, after)]
    assert told == [("E01", "scale 10 → 100."), ("E09", "New."), ("E02", "Gone.")]
    assert changes_between(before, before) == []


# files


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "JSON of a family"),
        ("[" * 100_000, "JSON of a family"),
        ('{"format": "else"}', "mainspring-family"),
        ('{"format": "mainspring-family", "version": 2}', "newer Mainspring"),
        ('{"format": "mainspring-family", "version": 1, "id": "A B", "name": "x"}', "small letters"),
        ('{"format": "mainspring-family", "version": 1, "id": "a", "name": "x", "more": 1}', "more"),
        (
            '{"format": "mainspring-family", "version": 1, "id": "a", "name": "x",'
            ' "parameters": [{"number": "1", "label": {}, "scale": 0}]}',
            "anything but 0",
        ),
        (
            '{"format": "mainspring-family", "version": 1, "id": "a", "name": "x",'
            ' "parameters": [{"number": "1", "label": {}, "low": NaN}]}',
            "finite",
        ),
        (
            '{"format": "mainspring-family", "version": 1, "id": "a", "name": "x",'
            ' "parameters": [{"number": "1", "label": {}, "setting": "nothing.such"}]}',
            "an id of the dictionary",
        ),
    ],
)
def test_a_file_that_is_none_is_refused_with_its_place(text: str, words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        read_family(text)


def test_the_published_schema_is_that_of_the_code() -> None:
    published = (ROOT / "docs/family-file.schema.json").read_text()
    assert schema_text() == published, (
        "run: .venv/bin/python -m mainspring.exchange.family_file docs/family-file.schema.json"
    )


def test_a_csv_row_that_cannot_be_read_is_named() -> None:
    family = shipped(FILES[0])
    with pytest.raises(BadEntry, match="row 2"):
        parameters_of_csv("number,label,scale\nA1,x,much\n", family)
    with pytest.raises(BadEntry, match="the columns"):
        parameters_of_csv("nothing", family)


# tables from manuals

TABLE = """Code\tDesignation\tRange\tUnit\tFactory
A-10\tLoad torque\t[0] Constant [1] Variable\t\t1
A-20\tRated motor power\t0.12 - 110.00\tkW\t4.00
A-22\tMotor voltage\t50 - 1000\tV\t400
A-24\tMotor current\t0.01 - 26.00\tA\t8.20
B-01\tAcceleration time\t0.05 - 3600\ts\t3.00
B-02\tDeceleration time\t0.05 - 3600\ts\t3.00
B-12\tMinimum frequency\t0 - 400\tHz\t0
C-01\tSet pressure\t0 - 25\tbar\t0
C-07\tFunction of lamp\t0 - 9\t\t0
"""
AS = {
    "A-10": "application.load_torque",
    "A-20": "motor.rated_power",
    "A-22": "motor.rated_voltage",
    "A-24": "motor.rated_current",
    "B-01": "ramps.up",
    "B-02": "ramps.down",
    "B-12": "limits.minimum_speed",
    "C-01": "pid.setpoint_1",
    "C-07": "",
}


@pytest.mark.parametrize("between", ["\t", ";", " | ", "   "])
def test_a_pasted_table_is_understood_whatever_stands_between(between: str) -> None:
    text = TABLE.replace("\t", between) if between != "   " else TABLE.replace("\t\t", "\t-\t").replace("\t", between)
    guess = guess_table(text)
    assert guess.roles[:2] == ("number", "label")
    assert {p.number: p.setting for p in guess.parameters} == AS
    by = {p.number: p for p in guess.parameters}
    assert by["A-10"].choices == {"variable": Word("1", {"en": "Variable"}), "constant": Word("0", {"en": "Constant"})}
    assert (by["A-20"].unit, by["A-20"].low, by["A-20"].high, by["A-20"].decimals) == ("kW", 0.12, 110.0, 2)
    assert by["B-01"].default["50"] == "3.00"


def test_a_table_without_headers_goes_by_what_stands_in_it() -> None:
    body = TABLE.partition("\n")[2]
    guess = guess_table(body)
    assert guess.roles == ("number", "label", "range", "unit", "default")
    assert {p.number: p.setting for p in guess.parameters} == AS


def test_who_knows_better_says_which_column_is_what() -> None:
    guess = guess_table("x\ty\nRamp up\tZ9\nRamp down\tZ8\n", ["label", "number"])
    assert [(p.number, p.called(), p.setting) for p in guess.parameters[1:]] == [
        ("Z9", "Ramp up", "ramps.up"),
        ("Z8", "Ramp down", "ramps.down"),
    ]
    with pytest.raises(BadEntry, match="roles"):
        guess_table(TABLE, ["label"])


@given(st.text(max_size=400))
def test_any_text_is_a_table_or_refused(text: str) -> None:
    try:
        guess = guess_table(text)
    except BadEntry:
        return
    assert len(guess.roles) == len(guess.header)
    family_of_plain({"id": "x", "name": "x"})


def test_the_dictionary_defines_every_setting_once() -> None:
    assert len(SETTINGS) >= 110
    for id, told in SETTINGS.items():
        assert told.means.endswith("."), id
        if told.low is not None and told.high is not None:
            assert told.low < told.high, id
        assert (told.plan.__doc__ or told.means).strip(), id


def test_search_finds_a_setting_by_any_word_for_it() -> None:
    assert search_settings("nennstrom")[0] == "motor.rated_current"
    assert "sleep.frequency" in search_settings("sleep")
    assert search_settings("hochlauf")[0] == "ramps.up"
    assert guess_setting("Preset speed 2", False, "Hz")[0] == "reference.preset_2"


@pytest.mark.parametrize("name", ["booster", "set", "borehole", "wet_well", "supply_fan", "fan_wall", "circulator"])
def test_what_is_proposed_lies_in_what_any_drive_could_take(name: str, records: dict[str, dict[str, Any]]) -> None:
    for id, value in planned(records[name]).items():
        told = SETTINGS[id]
        if isinstance(value, float) and told.low is not None and told.high is not None:
            assert told.low <= value <= told.high, (id, value)


def test_json_of_a_family_says_only_what_is_not_usual() -> None:
    assert json.loads(write_family(Family("x", "X", parameters=(Parameter("1", {"en": "a"}),))))["parameters"] == [
        {"number": "1", "label": {"en": "a"}}
    ]


# the order at the keypad


@pytest.mark.parametrize("path", FILES, ids=lambda p: p.stem)
@given(seed=st.integers(0, 10_000))
@settings(max_examples=20, deadline=None)
def test_what_wipes_or_locks_leads_or_closes_whatever_its_number(path: Path, seed: int) -> None:
    """The same family with its parameters in any order: reset first, then what changes defaults; the code last."""
    family = shipped(path)
    shuffled = list(family.parameters)
    random.Random(seed).shuffle(shuffled)
    anyhow = replace(family, parameters=tuple(shuffled))
    values: dict[str, float | str] = {
        p.setting: next(iter(SETTINGS[p.setting].choices), 1.0) if SETTINGS[p.setting].dimension is None else 1.0
        for p in shuffled
        if p.setting in SETTINGS
    }
    values["reset.factory_before"] = "yes"
    order = [s.setting.id for s in keypad_steps(anyhow, values)]
    lead = [id for id in LEADS if id in order]
    close = [id for id in CLOSES if id in order]
    assert order[: len(lead)] == lead
    assert order[len(order) - len(close) :] == close
    reset = next((s for s in keypad_steps(anyhow, values) if s.setting.id == "reset.factory_before"), None)
    assert reset is None or "wipes everything" in reset.moved


def test_a_reset_at_the_end_of_the_manual_is_dialled_first_and_says_why() -> None:
    family = shipped(ROOT / "mainspring/families/calder.json")
    reset = next(p for p in family.parameters if p.setting == "reset.factory_before")
    last = replace(family, parameters=(*(p for p in family.parameters if p is not reset), replace(reset, number="Z99")))
    steps = keypad_steps(last, {"reset.factory_before": "yes", "ramps.up": 10.0, "region.base_standard": "50"})
    assert [s.setting.id for s in steps] == ["reset.factory_before", "region.base_standard", "ramps.up"]
    assert steps[0].moved.startswith("First of all")


NAMES = "motor motr current curent limit speed preset 1 2 ramp stop start frequency level sleep"
WORDS = st.sampled_from(tuple(NAMES.split(" ")))


@given(st.lists(WORDS, min_size=1, max_size=5, unique=True), st.lists(WORDS, min_size=1, max_size=5, unique=True))
def test_likeness_is_by_words_and_letters_however_soon_it_is_ruled_out(name: list[str], label: list[str]) -> None:
    """Against both likenesses worked out in full by the standard library's matcher."""
    by_words = 2 * len(set(name) & set(label)) / (len(name) + len(label))
    letters = SequenceMatcher(None, " ".join(name), " ".join(label)).ratio()
    numbers = [{w for w in words if w.isdigit()} for words in (name, label)]
    plain = max(by_words, min(letters * 0.95, SURE - 0.01) if letters > SPELLING else 0.0)
    expected = 1.0 if name == label else plain * (0.4 if all(numbers) and numbers[0] != numbers[1] else 1.0)
    assert likeness(" ".join(name), " ".join(label)) == pytest.approx(expected, abs=1e-12)
