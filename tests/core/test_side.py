"""A period from several logs: each hour once, each logger its own file, and what is not the drive's doing."""

from dataclasses import replace

import numpy as np
import pytest
from numpy.typing import NDArray

from mainspring.core.errors import NoSolution
from mainspring.core.measured.claimed import Accuracy, Claim, Plate, YearOf
from mainspring.core.measured.saving import claim
from mainspring.core.measured.side import moved, side_of, ways_in
from mainspring.core.measured.trend import Means, Trend, trend_of
from mainspring.standins.meter import Works, measured_year

Numbers = NDArray[np.float64]
PROMISED = Accuracy(0.01, 0.02)
YEAR = measured_year(21, interval=600.0, days=120, change_day=60)
BOTH = ("power", "flow")


def log(rows: slice, *names: str, **more: Numbers) -> Trend:
    columns = {"power": YEAR.power[rows], "flow": YEAR.flow[rows], **{n: v[rows] for n, v in more.items()}}
    return trend_of(YEAR.times[rows], {n: c for n, c in columns.items() if not names or n in names or n in more})


BEFORE, AFTER = slice(0, YEAR.change), slice(YEAR.change, None)


def same(one: Means, other: Means) -> bool:
    return np.array_equal(one.times, other.times) and all(
        np.allclose(one.columns[n], other.columns[n], rtol=1e-12) for n in other.columns
    )


def made(before: Trend, after: Trend, year: YearOf | None = None, **more: object) -> Claim:
    sides = [side_of([("log", t)], BOTH).means for t in (before, after)]
    return claim(*sides, "flow", year, (PROMISED, PROMISED), same_meters=True, **more)  # type: ignore[arg-type]


def refusals(found: Claim) -> str:
    return " | ".join(f"{r.why}. {r.need}" for r in found.refused if r.what == "everything")


WHOLE = side_of([("whole", log(BEFORE))], BOTH)


@pytest.mark.parametrize("parts", [
    [("a", log(slice(0, 3000))), ("b", log(slice(3000, YEAR.change)))],  # one after the other
    [("b", log(slice(3000, YEAR.change))), ("a", log(slice(0, 3000)))],  # chosen in the other order
    [("power", log(BEFORE, "power")), ("flow", log(BEFORE, "flow"))],  # each logger its own file
    [("power", log(BEFORE, "power")), ("a", log(slice(0, 3000), "flow")), ("b", log(slice(3000, YEAR.change), "flow"))],
    [("a", log(BEFORE)), ("again", log(BEFORE))],  # read twice
    [("a", log(slice(0, 5000))), ("b", log(slice(3000, YEAR.change)))],  # overlapping
])  # fmt: skip
def test_however_the_files_are_cut_it_is_the_same_period(parts: list[tuple[str, Trend]]) -> None:
    assert same(side_of(parts, BOTH).means, WHOLE.means)


def test_what_is_read_twice_is_told_and_what_differs_is_asked() -> None:
    assert WHOLE.told == ()
    again = side_of([("a", log(BEFORE)), ("copy.csv", log(BEFORE))], BOTH)
    assert again.told == (f"{len(WHOLE.means.times)} hours of “copy.csv” are in another log of this period too:"
                          " each counts once.",)  # fmt: skip
    other = log(BEFORE)
    other = replace(other, columns={**other.columns, "power": other.columns["power"] * 1.4})
    differs = side_of([("a", log(BEFORE)), ("b", other)], BOTH)
    assert any("differ there by 40 %" in t and "another meter, unit or clock?" in t for t in differs.told)
    assert same(differs.means, WHOLE.means)


def test_files_that_share_no_hour_are_not_compared() -> None:
    with pytest.raises(NoSolution, match="no hour in which all of power, flow was read"):
        side_of([("power", log(BEFORE, "power")), ("flow", log(AFTER, "flow"))], BOTH)


def test_what_can_be_compared_is_what_both_periods_have_in_any_file() -> None:
    always, ways = ("schedule", "hours"), ("flow", "pressure")
    assert ways_in([[{"power"}, {"flow"}], [{"energy", "flow", "pressure"}]], ways, always) == ["flow", *always]
    assert ways_in([[{"flow"}], [{"power", "flow"}]], ways, always) == []
    assert ways_in([], ways, always) == []


# at rest


def resting(standby: tuple[float, float], hours: float = 8.0) -> tuple[Trend, Trend]:
    """The year, at rest for the first hours of every day, with what it takes then before and after."""
    night = YEAR.times % 86400 < hours * 3600
    flow = np.where(night, 0.0, YEAR.flow)
    power = np.where(night, np.where(np.arange(len(flow)) < YEAR.change, *standby), YEAR.power)
    both = [trend_of(YEAR.times[s], {"power": power[s], "flow": flow[s]}) for s in (BEFORE, AFTER)]
    return both[0], both[1]


@pytest.mark.parametrize("standby", [20.0, 60.0, 150.0])
def test_what_the_drive_takes_at_rest_is_taken_off(standby: float) -> None:
    nothing, waiting = made(*resting((0.0, 0.0))), made(*resting((0.0, standby)))
    assert float(nothing.saved - waiting.saved) == pytest.approx(8760 * 3600 / 3 * standby, rel=1e-6)
    assert waiting.before.at(np.array([0.012])) == pytest.approx(nothing.before.at(np.array([0.012])), rel=1e-9)
    assert any("at rest" in leaf.label for leaf, _ in waiting.saved.leaves())
    assert waiting.holds


def test_a_machine_that_never_rests_has_no_hours_at_rest() -> None:
    assert made(log(BEFORE), log(AFTER)).rest is None


def test_hours_of_the_duty_that_are_none_are_at_rest() -> None:
    year = YearOf(np.array([0.008, 0.012]), np.array([1000.0, 2000.0]) * 3600, "the duty", entered=True)
    found = made(*resting((0.0, 60.0)), year)
    assert found.rest is not None
    assert found.rest.seconds == pytest.approx((8760 - 3000) * 3600, rel=1e-9)


# what is not the drive's doing


def test_right_logs_are_refused_nothing() -> None:
    curve = tuple((q, 8500.0 + 1.5e5 * q) for q in (0.002, 0.01, 0.03))
    found = made(log(BEFORE), log(AFTER), plate=Plate(20e3, 9789.0 * 12.0, curve), moved=0.2)
    assert found.holds


def test_an_hour_is_not_before_and_after() -> None:
    assert "count as before the change and as after it" in refusals(made(log(slice(0, 9000)), log(slice(8000, None))))


def test_what_is_called_before_and_was_read_later_may_be_swapped() -> None:
    assert "are the two swapped?" in refusals(made(log(AFTER), log(BEFORE)))
    bypass = replace(YEAR, power=np.where(np.arange(len(YEAR.power)) < YEAR.change, 4000.0 + YEAR.flow, 8000.0))
    later = [trend_of(bypass.times[s], {"power": bypass.power[s], "flow": bypass.flow[s]}) for s in (AFTER, BEFORE)]
    assert made(*later).holds  # a week on the bypass, read afterwards, is as good


@pytest.mark.parametrize(
    ("by", "holds"), [((1.0, 1.0), True), ((1.3, 1.0), True), ((2.0, 1.0), False), ((2.0, 2.0), False)]
)
def test_more_than_the_machine_can_take_at_a_flow_is_more_than_one(by: tuple[float, float], holds: bool) -> None:
    curve = tuple((q, float(np.polyval(Works().before[::-1], q))) for q in (0.002, 0.01, 0.02, 0.03))
    rows = np.arange(len(YEAR.power)) < YEAR.change
    power = YEAR.power * np.where(rows, *by)
    both = [trend_of(YEAR.times[s], {"power": power[s], "flow": YEAR.flow[s]}) for s in (BEFORE, AFTER)]
    found = made(*both, plate=Plate(60e3, 0.0, curve))
    assert found.holds is holds
    assert holds or "did more of them run?" in refusals(found)


@pytest.mark.parametrize("by", [-6.0, 0.0, 6.0])
def test_another_level_is_not_the_drives_doing(by: float) -> None:
    rng = np.random.default_rng(3)
    level = 8.0 + 100 * YEAR.flow + rng.normal(0, 0.1, len(YEAR.flow))
    level[YEAR.change :] += by
    sides = [side_of([("log", log(s, level=level))], BOTH) for s in (BEFORE, AFTER)]
    assert sides[0].witness is not None
    assert sides[1].witness is not None
    shift = moved(sides[0].witness, sides[1].witness, "flow", "level")
    assert shift == pytest.approx(by, abs=0.05)
    found = made(log(BEFORE), log(AFTER), moved=shift)
    assert ("the level stood" in refusals(found)) is (by != 0)
