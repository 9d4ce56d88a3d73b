"""What was decided, left or read on site is in force, and a deviation is judged by what it does."""

from datetime import UTC, datetime
from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Severity
from mainspring.core.derived import Derived
from mainspring.core.limits import lowest_in_force
from mainspring.core.line import HOLD, Line, OnSite, Told, in_force
from mainspring.core.line.record import leaf_value
from mainspring.core.procedure import Evidence, sheet_status
from mainspring.core.procedure.telling import told_on_site
from mainspring.core.progress import progress_of
from mainspring.core.settings import SETTINGS, plan_settings
from mainspring.core.settings.deviations import value_effect
from mainspring.core.settings.effect import Effect
from mainspring.core.settings.setting import plan_of
from tests.conftest import line_of

NOW = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)


def told(line: Line, why: str = "", how: str = "left", **settings: float | str) -> Line:
    """The line with settings told on site, dots of their ids as double underscores."""
    return in_force(line, OnSite({k.replace("__", "."): Told(v, how, "Ana", None, why) for k, v in settings.items()}))


def effect(line: Line, setting: str, value: float | str, how: str = "left") -> Effect:
    derived = Derived(line)
    found = value_effect(line, derived, plan_of(SETTINGS[setting], line, derived), value, how)
    assert found is not None
    return found


def test_a_decided_lowest_speed_rules_everything_after_it(records: dict[str, Any]) -> None:
    line = line_of(records["booster"])
    decided = told(line, "hums", "decided", limits__minimum_speed=45.0)
    assert float(lowest_in_force(decided, Derived(decided))) == 45.0
    proposed = next(r for r in plan_settings(decided, Derived(decided)) if r.setting.id == "limits.minimum_speed")
    assert proposed.planned is not None
    assert float(proposed.planned.value) == pytest.approx(42.46, abs=0.01)  # the proposal stays what it was
    assert leaf_value(decided, "settings.limits.minimum_speed") == 45.0
    assert leaf_value(line, "settings.limits.minimum_speed") is None


def test_what_is_left_stands_in_the_place_of_the_field_and_the_record_keeps_its_own(records: dict[str, Any]) -> None:
    line = line_of(records["booster"])
    left = told(line, pid__setpoint_1=5e5, ramps__up=4.0)
    assert left.control.setpoint == 5e5
    assert Derived(left).hold_frequency > Derived(line).hold_frequency
    assert left.record.control.setpoint == 4e5
    assert left.record.to_data() == line.to_data()
    proposed = {r.setting.id: r.planned for r in plan_settings(left, Derived(left))}
    setpoint, ramp = proposed["pid.setpoint_1"], proposed["ramps.up"]
    assert setpoint is not None
    assert ramp is not None
    assert (float(setpoint.value), float(ramp.value)) == (4e5, 10.0)


def test_what_a_display_cannot_tell_apart_changes_nothing(records: dict[str, Any]) -> None:
    line = line_of(records["booster"])
    assert told(line, pid__setpoint_1=58 * 6894.757).control.setpoint == 4e5


def test_the_reading_on_site_gives_low_limit_and_sleep(records: dict[str, Any]) -> None:
    line = line_of(records["booster"])
    read = in_force(line, OnSite({}, {HOLD: Told(38.0, "read", "Ben")}))
    derived = Derived(read)
    assert float(derived.hold_frequency) == 38.0
    assert float(derived.hold_model) == pytest.approx(41.46, abs=0.01)  # the model beside it
    assert (float(derived.low_limit), float(derived.sleep_below)) == (39.0, 39.5)
    assert {leaf.field for leaf, _ in derived.low_limit.leaves()} >= {f"readings.{HOLD}"}


@pytest.mark.parametrize(
    ("record", "setting", "value", "severity", "title"),
    [
        ("booster", "limits.current", 16.0, Severity.STOP, "Above what the drive gives"),
        ("booster", "limits.current", 13.0, Severity.STOP, "Does not protect the motor"),
        ("booster", "limits.current", 6.0, Severity.CAUTION, "Holds the motor back"),
        ("booster", "limits.current", 10.5, Severity.CLEAR, "Protects the motor"),
        ("booster", "motor.rated_current", 109.0, Severity.STOP, "Does not protect the motor"),
        ("booster", "motor.rated_voltage", 230.0, Severity.STOP, "Wrong flux in the motor"),
        ("booster", "limits.minimum_speed", 20.0, Severity.CAUTION, "It may churn"),
        ("booster", "limits.minimum_speed", 45.0, Severity.CLEAR, "It never runs slower"),
        ("booster", "limits.minimum_speed", 51.0, Severity.STOP, "Above the highest speed"),
        ("borehole", "limits.minimum_speed", 25.0, Severity.STOP, "Under the bearing's limit"),
        ("borehole", "ramps.up", 6.0, Severity.STOP, "Too slow through the bearing's film"),
        ("supply_fan", "limits.maximum_speed", 45.0, Severity.CLEAR, "It never runs faster"),
        ("supply_fan", "limits.maximum_speed", 60.0, Severity.STOP, "Too fast"),
        ("supply_fan", "ramps.up", 5.0, Severity.CAUTION, "Current limit reached"),
        ("supply_fan", "stop.mode", "ramp", Severity.CLEAR, "Harmless"),
        ("booster", "stop.mode", "coast", Severity.CAUTION, "The check valve may slam"),
        ("booster", "feedback.range_high", 1.6e6, Severity.STOP, "Every value is wrong by the ratio"),
        ("booster", "pid.action", "rises_faster", Severity.STOP, "Runs away"),
        ("booster", "sleep.frequency", 40.0, Severity.CAUTION, "It can never sleep"),
        ("booster", "protection.interlock", "disabled", Severity.CAUTION, "Defeated interlock"),
        ("booster", "region.clock", "other", Severity.CLEAR, "Harmless"),
    ],
)
def test_a_deviation_is_judged_by_what_it_does(
    records: dict[str, Any], record: str, setting: str, value: float | str, severity: Severity, title: str
) -> None:
    found = effect(line_of(records[record]), setting, value)
    assert (found.severity, found.title) == (severity, title)
    assert "{" not in found.because.text()


def test_the_proposed_value_of_every_setting_does_no_harm(records: dict[str, Any]) -> None:
    for name, record in records.items():
        line = line_of(record)
        derived = Derived(line)
        for row in plan_settings(line, derived):
            if row.planned is not None:
                value = row.planned.value
                plain = value if isinstance(value, str) else float(value)
                judged = value_effect(line, derived, row, plain, "left")
                assert judged is not None
                assert judged.severity is Severity.CLEAR, (name, row.setting.id)


def test_a_stop_is_a_finding_and_a_decided_caution_is_not(records: dict[str, Any]) -> None:
    line = line_of(records["booster"])
    ids = lambda found: {f.id for f in assess(found).findings if f.id.startswith("setting_")}  # noqa: E731
    assert ids(told(line, limits__current=16.0)) == {"setting_limits_current"}
    assert ids(told(line, "by the owner", "decided", limits__current=16.0)) == {"setting_limits_current"}
    assert ids(told(line, stop__mode="coast")) == {"setting_stop_mode"}
    assert ids(told(line, "no check valve here", "decided", stop__mode="coast")) == set()
    assert ids(told(line, "the door switch comes next week", "decided", protection__interlock="disabled")) == {
        "setting_protection_interlock"
    }  # a defeated interlock stays visible


def test_what_is_left_as_proposed_raises_nothing_new(records: dict[str, Any]) -> None:
    for name, record in records.items():
        line = line_of(record)
        before = assess(line)
        left = {
            row.setting.id: Told(
                value if isinstance(value := row.planned.value, str) else round(float(value), 4), "left"
            )
            for row in before.settings
            if row.planned is not None
        }
        troubles = {f.id for f in before.findings if f.severity <= Severity.CAUTION}
        after = assess(in_force(line, OnSite(left)))
        assert {f.id for f in after.findings if f.severity <= Severity.CAUTION} <= troubles, name


def test_what_the_run_sheet_read_of_sleep_is_left_and_asked_nowhere_else() -> None:
    at = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
    steps = {
        "loop.low_limit": (Evidence("loop.low_limit", "readings", {"limit": 41.5, "pressure": 4.1e5}, "Ana", at),),
        "loop.sleep_below": (Evidence("loop.sleep_below", "readings", {"below": 42.5}, "Ana", at),),
    }
    found = told_on_site((), steps).settings
    assert {id: (t.value, t.how) for id, t in found.items()} == {
        "pid.output_low": (41.5, "left"),
        "sleep.frequency": (42.5, "left"),
    }


@pytest.mark.parametrize(("proven", "words"), [(0, "Handed over with nothing proven"), (1, "Handed over, open: ")])
def test_a_hand_over_is_told_as_what_it_is(records: dict[str, Any], proven: int, words: str) -> None:
    found = assess(line_of(records["booster"]))
    sheet = sheet_status(found.steps, [Evidence(found.steps[0].id, "tick", {}, "Ana", NOW)][:proven], found.line)
    told = progress_of(found, sheet, 0, 0, False, True)
    assert told.words.startswith(words)
    assert told.states["handover"] == ("done" if proven else "todo")
    assert not progress_of(found, sheet, 0, 0, False, False).words.startswith("Handed over")
