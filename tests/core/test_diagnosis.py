"""Trips: every class has causes, and what is known of the line and the moment moves them."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.derived import Derived
from mainspring.core.diagnosis import CAUSES, MOMENTS, TRIPS, Moment, rank_causes
from mainspring.core.errors import BadEntry
from mainspring.core.line import Line
from mainspring.demo import fans, pumps
from tests.conftest import line_of

LINES = [
    pumps.BOOSTER,
    pumps.BOREHOLE,
    pumps.WET_WELL,
    pumps.IRRIGATION,
    fans.SUPPLY_FAN,
    fans.FAN_WALL,
    fans.TOWER_FAN,
]


def causes(record: dict[str, Any], kind: str, moment: Moment | None = None, **changes: Any) -> list[str]:
    line = line_of(record).with_values(**changes) if changes else line_of(record)
    return [c.id for c in rank_causes(kind, line, Derived(line), moment or Moment())]


def test_every_class_of_trip_has_causes_and_every_cause_a_class() -> None:
    for kind in TRIPS:
        assert any(kind in c.trips for c in CAUSES), kind
    assert all(set(c.trips) <= set(TRIPS) and c.measure for c in CAUSES)


@given(
    record=st.sampled_from(LINES),
    kind=st.sampled_from(sorted(TRIPS)),
    when=st.sampled_from(sorted(MOMENTS)),
    frequency=st.none() | st.floats(0, 400),
    current=st.none() | st.floats(0, 5000),
)
@settings(max_examples=150, deadline=None, derandomize=True)
def test_any_moment_gets_an_ordered_answer(
    record: dict[str, Any], kind: str, when: str, frequency: float | None, current: float | None
) -> None:
    line = line_of(record)
    found = rank_causes(kind, line, Derived(line), Moment(when, frequency, current))
    weights = [c.weight for c in found]
    assert weights == sorted(weights, reverse=True)
    assert all(0 <= w <= 1.2 for w in weights)
    assert all(c.because.text() and c.measure for c in found)


@pytest.mark.parametrize("kind", sorted(TRIPS))
def test_an_empty_record_still_gets_an_answer(kind: str) -> None:
    assert rank_causes(kind, Line(), Derived(Line()), Moment())


@pytest.mark.published("first causes of each class, common practice, no source")
@pytest.mark.parametrize(
    ("record", "kind", "moment", "changes", "first"),
    [
        (fans.SUPPLY_FAN, "overcurrent", Moment("ramping_up"), {"control": {"ramp_up": 3.0}}, "ramp_up_too_short"),
        (fans.SUPPLY_FAN, "overcurrent", Moment("starting"), {}, "windmilling"),
        (pumps.WET_WELL, "overcurrent", Moment("steady", 12.0, 9.0), {}, "jam"),
        (pumps.BOOSTER, "overcurrent", Moment(), {"drive": {"current_limit": 14.5}}, "wrong_motor_data"),
        (
            fans.SUPPLY_FAN,
            "overvoltage",
            Moment("ramping_down"),
            {"control": {"ramp_down": 10.0}},
            "ramp_down_too_short",
        ),
        (
            pumps.BOOSTER,
            "overvoltage",
            Moment("standing"),
            {"supply": {"voltage": 520.0, "reading_12": 520.0}},
            "supply_high",
        ),
        (
            pumps.BOOSTER,
            "overvoltage",
            Moment("ramping_down"),
            {"supply": {"reading_12": 470.0}},
            "ramp_down_too_short",
        ),
        (pumps.BOOSTER, "undervoltage", Moment("standing"), {"supply": {"reading_12": 402.0}}, "switched_off"),
        (pumps.BOOSTER, "undervoltage", Moment(), {"supply": {"reading_12": 380.0}}, "supply_dip"),
        (fans.FAN_WALL, "overcurrent", Moment("starting"), {"system": {"windmills": "no"}}, "exact_values_wrong"),
        (pumps.BOREHOLE, "earth_fault", Moment(), {}, "moisture"),
        (pumps.BOOSTER, "phase_out", Moment(), {}, "loose_terminal"),
        (pumps.IRRIGATION, "motor_overload", Moment("steady", 60.0, 30.0), {}, "overloaded"),
        (fans.TOWER_FAN, "drive_hot", Moment(), {}, "hot_air"),
        (pumps.BOOSTER, "underload", Moment("steady", 38.0), {}, "threshold_at_low_speed"),
        (pumps.BOOSTER, "underload", Moment("steady", 49.0, 5.0), {}, "broken_coupling"),
        (pumps.BOOSTER, "sensor_lost", Moment(), {}, "loop_broken"),
        (pumps.BOOSTER, "sensor_lost", Moment(), {"sensor": {"place": ["freezes"]}}, "sensor_blocked"),
        (pumps.BOOSTER, "interlock", Moment("standing"), {}, "interlock_open"),
        (pumps.BOREHOLE, "no_fill", Moment(), {}, "no_water"),
        (pumps.BOREHOLE, "restarts", Moment(), {}, "underlying"),
    ],
)
def test_the_likeliest_cause_on_this_line_comes_first(
    record: dict[str, Any], kind: str, moment: Moment, changes: dict[str, Any], first: str
) -> None:
    assert causes(record, kind, moment, **changes)[0] == first


def test_a_cause_that_cannot_be_is_left_out() -> None:
    assert "windmilling" not in causes(pumps.BOOSTER, "overcurrent", Moment("starting"))
    assert "ramp_up_too_short" not in causes(fans.SUPPLY_FAN, "overcurrent", Moment("steady"))
    assert "no_water" not in causes(fans.SUPPLY_FAN, "underload")


@pytest.mark.parametrize(
    ("kind", "moment", "words"),
    [
        ("gremlins", Moment(), "overcurrent"),
        ("overcurrent", Moment("yesterday"), "ramping_up"),
        ("overcurrent", Moment(frequency=-1.0), "frequency in Hz"),
    ],
)
def test_what_cannot_be_is_refused_by_name(kind: str, moment: Moment, words: str) -> None:
    line = line_of(pumps.BOOSTER)
    with pytest.raises(BadEntry, match=words):
        rank_causes(kind, line, Derived(line), moment)
