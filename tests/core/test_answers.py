"""What is said can be answered: advice followed closes its finding, and no line is told what it does not have."""

import copy
import re
from collections import defaultdict
from collections.abc import Iterator
from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Finding, Severity
from mainspring.core.checks.finding import CHECKS, Check, caution, run_check
from mainspring.core.derived import Derived
from mainspring.core.diagnosis import MOMENTS, Moment, rank_causes
from mainspring.core.diagnosis.trips import trips_of
from mainspring.core.errors import BadEntry
from mainspring.core.line import Choice, Flags, OnSite, Quantity, find_field, in_force, parse_line
from mainspring.core.line.on_site import Told
from mainspring.core.sentence import say
from mainspring.core.settings import SETTINGS
from tests.conftest import line_of
from tests.core.test_checks import BOTH_SIDES, ON_OTHER_LINES, PLACES, Record, changes_of, plain
from tests.second_eye.lines import as_entered, right_lines, with_slip

LINES = right_lines()
FANS = [name for name, record in LINES.items() if "fan" in line_of(record).traits]
PUMPS = [name for name in LINES if name not in FANS]
# what only a line with water has: its machine, its pipes, its protections
OF_PUMPS = re.compile(r"\b(pumps?|suction|strainer|foot valve|water|prime|impeller|well water|dry run|tank)\b", re.I)
ALSO_OF_FANS = ("hand pump", "water hammer", "water or condensation")


def given(record: dict[str, Any], **entries: str) -> dict[str, Any]:
    """A record with entries as they are typed, by path with two underscores."""
    made = copy.deepcopy(record)
    for name, typed in entries.items():
        group, _, field = name.partition("__")
        made.setdefault(group, {})[field] = as_entered(f"{group}.{field}", typed)
    return made


def troubles(record: dict[str, Any], check: str) -> list[Finding]:
    found = assess(line_of(record)).findings
    return [f for f in found if f.id == check and f.severity <= Severity.CAUTION]


# finding, what raises it on a right line, and what its advice says to do
FOLLOWED = [
    ("supply_is_balanced", {"supply__reading_23": "385 V"}, {"supply__reactor": "line3"}),
    ("harmonics_are_bearable", {"supply__reactor": "none"}, {"supply__reactor": "line3"}),
    ("fault_level_is_known", {"supply__fault_current": "20 kA"}, {"drive__short_circuit_rating": "65 kA"}),
    ("speed_within_machine", {"machine__highest_speed": "1650 r/min"}, {"machine__highest_speed": "3600 r/min"}),
    ("relief_is_there", {"system__relief": "no"}, {"system__relief": "yes"}),
    ("tank_is_large_enough", {"system__tank_volume": "4 L"}, {"system__tank_volume": "200 L"}),
    ("precharge_suits_setpoint", {"system__tank_precharge": "1 bar"}, {"system__tank_precharge": "4.3 bar"}),
    ("drive_carries_motor_amps", {"drive__rated_current": "8 A"}, {"drive__rated_current": "13 A"}),
    ("setpoint_within_range", {"control__setpoint": "11 bar"}, {"control__setpoint": "6 bar"}),
    ("range_covers_shutoff", {"sensor__range_high": "4 bar"}, {"sensor__range_high": "16 bar"}),
]  # fmt: skip


@pytest.mark.parametrize(("check", "raised", "done"), FOLLOWED)
def test_advice_followed_closes_its_finding(check: str, raised: dict[str, str], done: dict[str, str]) -> None:
    record = given(LINES["multistage_booster"], **raised)
    told = troubles(record, check)
    assert told, "it is raised"
    assert all(f.do is not None for f in told)
    assert troubles(given(record, **done), check) == []


# what those that are tried on both sides elsewhere do not raise: line, check, changes that raise it
RAISED = [
    ("booster", "drive_power_covers_motor", "drive.rated_power=5300"),
    ("booster", "range_covers_shutoff", "sensor.range_high=250000"),
    ("booster", "range_covers_shutoff", "sensor.range_high=250000 sensor.overload=400000"),
    ("booster", "carrier_suits_lead", "drive.carrier=4200 drive.lead_length=31"),
    ("booster", "loop_has_volts_left", "sensor.cable_length=700 sensor.loop_supply=18 sensor.cable_area=0.00000013"),
    ("borehole", "sleeps_before_it_cooks", "system.sleeve_bore=- control.sleep_below=42"),
    ("borehole", "pump_lifts_static_head", "system.pumping_level=300"),
    ("wet_well", "speed_range_is_useful", "system.static_head=16"),
    ("wet_well", "pit_levels_in_order", "system.high_level=1.5"),
    ("wet_well", "pit_levels_in_order", "system.stop_level=2.5"),
    ("fan_wall", "exact_values_agree", "motor.stator_resistance_again=1 motor.inductance_q_again=0.0336"),
    ("fan_wall", "exact_values_agree", "motor.inductance_d_again=0.001 motor.inductance_q_again=0.0336"),
    ("fan_wall", "exact_values_agree", "motor.magnet_poles_again=4 motor.inductance_q_again=0.0336"),
    ("fan_wall", "magnet_speed_is_synchronous", "motor.magnet_poles=8"),
    ("booster", "motor_cooled_at_low_speed", "line.load=positive_displacement"),
    ("drooping", "curve_does_not_hunt", "-"),
]  # fmt: skip
TRIED = sorted(
    {("booster", check, wrong, right) for check, right, wrong, severity, _ in BOTH_SIDES if severity != "unknown"}
    | {
        (base, check, wrong, right)
        for base, check, right, wrong, severity, _ in ON_OTHER_LINES + PLACES
        if severity != "unknown"
    }
    | {(*row, "") for row in RAISED}
)
BY_ID = {declared.id: declared for declared in CHECKS}
FINE = [10 ** (k / 16) for k in range(-26, 27)] + [1 + k / 200 for k in range(-30, 31)]
NEVER_SET = [10 ** (k / 24) for k in range(-144, 192)]  # of a field that nobody has entered, in SI


def changed(record: Record, text: str) -> Record:
    """A copy of bare values with changes as `changes_of` reads them."""
    made = plain(record)
    for group, values in (changes_of(text) if text not in ("", "-") else {}).items():
        for name, value in values.items():
            made.setdefault(group, {})[name] = value
            if value is None:
                del made[group][name]
    return made


def on(records: dict[str, Record], base: str) -> Record:
    if base != "drooping":
        return records[base]
    record = plain(LINES["drooping_curve_booster"])
    record["machine"]["curve"][0][1] = 52.0
    return record


def values_of(path: str, record: Record, near: list[float]) -> Iterator[Any]:
    """What somebody could enter at a path: every choice, numbers round the one that stands, the numbers beside it."""
    field = find_field(path)
    group, _, name = path.partition(".")
    was = record.get(group, {}).get(name)
    if isinstance(field, Choice):
        tried: list[Any] = list(field.choices)
    elif isinstance(field, Flags):
        tried = [[]]
    elif isinstance(field, Quantity):
        tried = near + ([was * f for f in FINE] + [was - 273.15, was - 20.0, was - 40.0] if was else NEVER_SET)
        tried += [float(n) for n in range(1, 25)] if field.dimension == "count" else []
    else:
        tried = [None]  # a curve: another is not made up here, and without it the parabola serves
    for value in tried:
        try:
            yield value if value is None else field.check(value)
        except BadEntry:
            continue


def milder(before: Finding, after: Finding | None) -> bool:
    """Whether it is closed: clear, or what stopped has become something to know."""
    return after is None or after.severity is Severity.CLEAR or (
        after.severity is Severity.CAUTION and before.severity is Severity.STOP
    )  # fmt: skip


def closes(declared: Check, before: Finding, record: Record, answer: str, right: dict[str, dict[str, Any]]) -> bool:
    """Whether some value of an answer, an entry or a setting that somebody decides, closes a finding."""
    if answer.startswith("settings."):
        setting = answer.removeprefix("settings.")
        for value in [10 ** (k / 16) for k in range(-16, 30)]:
            line = in_force(line_of(record), OnSite({setting: Told(value, "decided", why="seen on site")}))
            if milder(before, run_check(declared, line, Derived(line))):
                return True
        return False
    beside = [record.get(g, {}).get(n) for g, _, n in (p.partition(".") for p in declared.needs + declared.once)]
    group, _, name = answer.partition(".")
    near = [v for v in [*beside, right.get(group, {}).get(name), 50.0, 60.0] if isinstance(v, float)]
    for value in values_of(answer, record, near):
        made = {g: dict(fields) for g, fields in record.items()}
        made.setdefault(group, {})[name] = value
        if value is None:
            del made[group][name]
        line, problems = parse_line(made)
        if not problems and milder(before, run_check(declared, line, Derived(line))):
            return True
    return False


def test_every_finding_says_what_answers_it_and_each_answer_closes_one(records: dict[str, Record]) -> None:
    closed: dict[str, set[str]] = defaultdict(set)
    nothing = []
    for base, check, wrong, right in TRIED:
        record = changed(on(records, base), wrong)
        line = line_of(record)
        told = run_check(BY_ID[check], line, Derived(line))
        assert told is not None, (check, wrong)
        assert told.answers, (check, wrong)
        for path in told.answers:
            if path.startswith("settings."):
                assert path.removeprefix("settings.") in SETTINGS
        done = [a for a in told.answers if closes(BY_ID[check], told, record, a, changes_of(right) if right else {})]
        closed[check].update(done)
        if not done:
            nothing.append((check, wrong, told.title))
    assert nothing == []
    unproven = {
        (c.id, a)
        for c in CHECKS
        for a in c.answers
        if c.answers and a not in closed[c.id] and not (a.startswith("@") and closed[c.id])
    }
    assert unproven == set()


def test_what_is_meant_as_it_is_stays_for_a_reason(records: dict[str, Record]) -> None:
    """A caution is answered by a reason, on its entry or where its setting was decided; a stop is not."""
    for base, check, wrong, _ in TRIED:
        declared = BY_ID[check]
        record = changed(on(records, base), wrong)
        line = line_of(record)
        told = run_check(declared, line, Derived(line))
        assert told is not None
        if told.severity is Severity.STOP:
            assert not told.meant, check
        if not told.meant:
            continue
        group, _, name = told.meant.partition(".")
        record[group][name] = {"value": record[group][name], "upheld": "as page 12 of its manual has it"}
        reasoned = line_of(record)
        after = run_check(declared, reasoned, Derived(reasoned))
        assert after is not None
        assert after.severity is Severity.CLEAR, check
        assert "page 12" in after.upheld
        assert after.meant == told.meant, "it can be taken back"


def test_a_setting_decided_with_its_reason_answers_the_caution_on_its_entry() -> None:
    record = plain(LINES["multistage_booster"])
    record["drive"] |= {"carrier": 12000.0, "rated_current": 40.0}
    for why, left in (("", ["High carrier costs amps"]), ("heard in the bedrooms", [])):
        told = OnSite({"carrier.frequency": Told(12000.0, "decided", why=why)})
        line = in_force(line_of(record), told)
        found = run_check(BY_ID["carrier_suits_lead"], line, Derived(line))
        assert found is not None
        assert [found.title for _ in [0] if found.severity is Severity.CAUTION] == left


def test_a_check_that_warns_without_saying_what_answers_it_is_a_slip_of_ours() -> None:
    said = caution("…", say("…"))
    silent = Check("silent", "drive", "…", (), CHECKS[0].source, lambda *_: said, (), (), "", "", False, (), "")
    with pytest.raises(TypeError, match="what answers it"):
        run_check(silent, line_of(LINES["multistage_booster"]), Derived(line_of(LINES["multistage_booster"])))


def test_the_largest_reactor_is_not_advised_where_it_stands() -> None:
    weak = {"supply__demand_current": "12 A", "supply__fault_current": "1 kA"}
    (without,) = troubles(given(LINES["multistage_booster"], supply__reactor="none", **weak), "harmonics_are_bearable")
    (fitted,) = troubles(given(LINES["multistage_booster"], supply__reactor="line5", **weak), "harmonics_are_bearable")
    assert without.do is not None
    assert fitted.do is not None
    assert "line reactor" in without.do.text("si")
    assert "reactor" not in fitted.do.text("si").replace("reactors do", "")


@pytest.mark.parametrize("value", ["back_emf", "stator_resistance", "inductance_d", "inductance_q", "magnet_poles"])
def test_two_that_should_be_the_same_are_told_before_the_rest_is_typed(value: str) -> None:
    (name,) = [n for n, r in LINES.items() if "permanent_magnet" in line_of(r).traits][:1]
    record = copy.deepcopy(LINES[name])
    again = record["motor"][f"{value}_again"]["typed"]
    for other in ("back_emf", "stator_resistance", "inductance_d", "inductance_q", "magnet_poles"):
        if other != value:
            record["motor"].pop(f"{other}_again", None)
    number, _, unit = again.partition(" ")
    wrong = with_slip(record, f"motor.{value}_again", f"{float(number) + 1:g} {unit}".strip())
    (told,) = troubles(wrong, "exact_values_agree")
    assert told.severity is Severity.STOP
    assert troubles(record, "exact_values_agree") == []
    (waits,) = [f for f in assess(line_of(record)).findings if f.id == "exact_values_agree"]
    assert len(waits.needs) == 4


@pytest.mark.parametrize("name", FANS)
def test_a_fan_is_told_nothing_of_pumps(name: str) -> None:
    found = assess(line_of(LINES[name]))
    told = [(f.id, f"{f.title} {f.because.text('si')} {f.do.text('si') if f.do else ''}") for f in found.findings]
    told += [
        (s.id, f"{s.title} {s.what.text('si')} {s.why} {s.danger} {s.wrong} {s.skip} {s.choices} {s.items}")
        for s in found.steps
    ]
    told += [(r.setting.id, f"{r.setting.label} {r.setting.wrong}") for r in found.settings]
    told += [
        (cause.id, f"{cause.title} {cause.because.text('si')} {cause.measure}")
        for kind in trips_of(found.line)
        for when in MOMENTS
        for cause in rank_causes(kind, found.line, found.derived, Moment(when=when))
    ]
    for known in ALSO_OF_FANS:
        told = [(id, text.lower().replace(known, "")) for id, text in told]
    assert [(id, OF_PUMPS.findall(text)) for id, text in told if OF_PUMPS.search(text)] == []


@pytest.mark.parametrize("name", FANS)
def test_a_line_that_holds_nothing_asks_for_no_setpoint(name: str) -> None:
    line = line_of(LINES[name])
    if any(t.startswith("holds:") for t in line.traits):
        return
    asked = {path for f in assess(line).findings for path in f.needs}
    assert not [path for path in asked if "setpoint" in path]


@pytest.mark.parametrize(("kind", "when", "first"), [
    ("overvoltage", "ramping_down", {"ramp_down_too_short"}),
    ("undervoltage", "standing", {"switched_off"}),
    ("overcurrent", "ramping_up", {"ramp_up_too_short", "windmilling", "exact_values_wrong", "jam"}),
])  # fmt: skip
def test_the_moment_of_a_trip_says_what_comes_first(kind: str, when: str, first: set[str]) -> None:
    for name, record in LINES.items():
        line = line_of(record)
        assert rank_causes(kind, line, Derived(line), Moment(when=when))[0].id in first, name
