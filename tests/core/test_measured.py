"""Logs looked through, curves with what they can carry, and the saving that a made-up year truly had."""

import itertools
from dataclasses import replace

import numpy as np
import pytest
from numpy.typing import NDArray

from benchmarks.coverage import claim_of_year, judged, on_change
from mainspring.core.errors import BadEntry, NoSolution
from mainspring.core.measured.claimed import Accuracy, Claim, Plate, YearOf
from mainspring.core.measured.fit import fit_curve, slot_of
from mainspring.core.measured.saving import claim, year_of_log
from mainspring.core.measured.trend import Found, Trend, means_of, thinned, trend_of, with_power
from mainspring.standins.meter import Logged, Works, measured_year

Numbers = NDArray[np.float64]
START = 1735689600.0  # Wednesday, 1 January 2025
PROMISED = Accuracy(0.01, 0.02)


def steady(days: int = 10, interval: float = 300.0, seed: int = 1) -> tuple[Numbers, dict[str, Numbers]]:
    rng = np.random.default_rng(seed)
    times = START + np.arange(int(days * 86400 / interval)) * interval
    flow = 0.01 + 0.004 * np.sin(times / 13751) + rng.normal(0, 1e-4, len(times))
    return times, {"flow": np.round(flow, 6), "power": np.round(5000 + 3e5 * flow + rng.normal(0, 30, len(times)))}


def found_in(trend: Trend, kind: str) -> list[Found]:
    return [f for f in trend.found if f.kind == kind]


def test_a_clean_log_has_nothing_wrong() -> None:
    for seed in range(8):
        assert trend_of(*steady(seed=seed)).found == ()


def test_gaps_are_told_and_not_filled() -> None:
    times, columns = steady()
    keep = (np.arange(len(times)) < 500) | (np.arange(len(times)) >= 572)
    trend = trend_of(times[keep], {n: c[keep] for n, c in columns.items()})
    (gap,) = found_in(trend, "gap")
    assert (gap.start, gap.length) == (times[500], 72 * 300.0)
    assert len(trend.times) == keep.sum()


def test_a_stuck_reading_is_marked_while_the_machine_works() -> None:
    times, columns = steady()
    columns["flow"][700:760] = columns["flow"][700]
    trend = trend_of(times, columns)
    (stuck,) = found_in(trend, "stuck")
    assert (stuck.quantity, stuck.length) == ("flow", 60 * 300.0)
    assert np.isnan(trend.sound("flow")[700:760]).all()
    assert not np.isnan(trend.sound("flow", leave_out=False)).any()
    columns["power"][700:760] = 0.0  # at rest nothing moves
    assert not found_in(trend_of(times, columns), "stuck")


def test_what_moves_slowly_and_coarsely_is_not_stuck() -> None:
    times, columns = steady()
    columns["temperature"] = np.round(12 + 6 * np.sin(times / 13751), 1)
    assert trend_of(times, columns).found == ()


def test_single_readings_far_off_are_marked_and_steps_are_not() -> None:
    times, columns = steady()
    columns["power"][100] = 90e3
    columns["power"][1500:] += 4000  # a true step
    trend = trend_of(times, columns)
    (spike,) = found_in(trend, "spike")
    assert (spike.count, spike.start) == (1, times[100])


@pytest.mark.parametrize(("month", "day", "moved"), [(10, 26, -3600.0), (3, 30, 3600.0)])
def test_a_clock_put_back_or_on_is_found_and_the_axis_goes_on(month: int, day: int, moved: float) -> None:
    at = (np.datetime64(f"2025-{month:02d}-{day:02d}T02:00") - np.datetime64("1970-01-01T00:00")) / np.timedelta64(
        1, "s"
    )
    times = float(at) - 5 * 86400 + np.arange(2880) * 300.0
    wall = np.where(times < at, times, times + moved)
    trend = trend_of(wall, {"power": np.random.default_rng(2).normal(5000, 50, len(times))})
    (clock,) = found_in(trend, "clock")
    assert clock.value == moved
    assert np.diff(trend.times) == pytest.approx(300.0, abs=1e-9)
    assert not found_in(trend, "gap")


def test_a_gap_of_an_hour_on_another_day_is_a_gap() -> None:
    times, columns = steady()
    keep = (np.arange(len(times)) < 500) | (np.arange(len(times)) >= 512)
    trend = trend_of(times[keep], {n: c[keep] for n, c in columns.items()})
    assert not found_in(trend, "clock")
    assert len(found_in(trend, "gap")) == 1


def test_rows_out_of_order_and_doubled_are_put_in_order_and_told() -> None:
    times, columns = steady()
    order = np.arange(len(times))
    order[[50, 51]] = order[[51, 50]]
    order = np.concatenate((order, [100, 100]))
    trend = trend_of(times[order], {n: c[order] for n, c in columns.items()})
    assert found_in(trend, "order")
    assert found_in(trend, "doubled")[0].count == 2
    assert np.array_equal(trend.times, times)
    assert np.array_equal(trend.columns["flow"], columns["flow"])


def test_power_comes_from_a_counter_and_a_reset_gives_none() -> None:
    times, columns = steady()
    counter = np.cumsum(columns["power"]) * 300.0
    counter[1000:] -= counter[1000]
    trend = with_power(trend_of(times, {"energy": counter}))
    assert found_in(trend, "reset")[0].count == 1
    assert trend.columns["power"][5] == pytest.approx(columns["power"][6], rel=1e-9)
    assert np.isnan(trend.columns["power"][999])
    with pytest.raises(BadEntry, match="none of an energy counter"):
        with_power(trend_of(times, {"flow": columns["flow"]}))


def test_an_hour_counts_with_three_quarters_of_its_rows() -> None:
    times, columns = steady(days=2)
    columns["flow"][12:16] = np.nan  # a third of the second hour
    columns["flow"][24:26] = np.nan
    hours = means_of(trend_of(times, columns), ("power", "flow"))
    assert len(hours.times) == 47
    assert (times[0] + 3600) not in hours.times


def test_thinning_loses_no_extreme_and_keeps_holes() -> None:
    rng = np.random.default_rng(3)
    times, values = np.arange(1_000_000.0), rng.normal(0, 1, 1_000_000)
    values[123_456], values[765_432], values[500_000:500_040] = 99.0, -77.0, np.nan
    at, shown = thinned(times, values, 2000)
    assert len(at) <= 2010
    assert np.nanmax(shown) == 99.0
    assert np.nanmin(shown) == -77.0
    assert np.isnan(shown).any()
    assert (np.diff(at) > 0).all()
    assert np.array_equal(thinned(times[:100], values[:100], 2000)[1], values[:100])


def test_a_column_of_nothing_and_numbers_without_end_are_missing() -> None:
    times, columns = steady()
    columns["power"][7] = np.inf
    trend = trend_of(times, {**columns, "current": np.full(len(times), np.nan)})
    told = {f.quantity: f.count for f in found_in(trend, "empty")}
    assert told == {"power": 1, "current": len(times)}
    assert np.isnan(trend.columns["power"][7])


def test_too_few_rows_or_a_time_that_stands_are_refused() -> None:
    with pytest.raises(BadEntry, match="at least 8"):
        trend_of(np.arange(5.0), {"power": np.arange(5.0)})
    with pytest.raises(BadEntry, match="times that move"):
        trend_of(np.zeros(20), {"power": np.arange(20.0)})


def hours_of(days: int, slope: float = 3e5, noise: float = 50.0, seed: int = 4) -> tuple[Numbers, Numbers, Numbers]:
    rng = np.random.default_rng(seed)
    times = START + np.arange(days * 24) * 3600.0
    x = 0.008 + 0.006 * rng.random(len(times))
    return times, x, 5000 + slope * x + rng.normal(0, noise, len(times))


@pytest.mark.published("C. F. Gauss (1821), ordinary least squares, by numpy.polyfit")
def test_a_straight_relation_is_found_straight() -> None:
    times, x, power = hours_of(30)
    fit = fit_curve(x, power, np.floor(times / 86400).astype(np.int64))
    assert fit.kind == "straight"
    assert fit.at(np.array([0.01]))[0] == pytest.approx(np.polyval(np.polyfit(x, power, 1), 0.01), rel=1e-9)
    assert abs(fit.bias) < 0.01
    assert fit.variation == pytest.approx(50 / power.mean(), rel=0.1)


def test_a_bent_relation_is_not_taken_for_straight() -> None:
    times, x, power = hours_of(40, slope=0.0)
    bent = power + 4e7 * x**2
    assert fit_curve(x, bent, np.floor(times / 86400).astype(np.int64)).kind != "straight"


def test_what_lasts_all_day_counts_once() -> None:
    """The same scatter, once by the hour and once by the day: days know less."""
    times, x, power = hours_of(40, noise=0.0)
    day = np.floor(times / 86400).astype(np.int64)
    rng = np.random.default_rng(5)
    by_hour = fit_curve(x, power + rng.normal(0, 100, len(x)), day)
    by_day = fit_curve(x, power + rng.normal(0, 100, 40)[day - day[0]], day)
    weights = by_hour.design(np.array([0.011]))[0]
    assert by_day.uncertainty_of(weights) > 2.5 * by_hour.uncertainty_of(weights)


def test_less_than_a_day_carries_no_curve() -> None:
    _, x, power = hours_of(1)
    with pytest.raises(NoSolution, match="at least 24"):
        fit_curve(x[:20], power[:20], np.zeros(20, np.int64))


def test_slots_of_the_week() -> None:
    wednesday_five, saturday_five = START + 5 * 3600, START + (3 * 24 + 5) * 3600
    assert slot_of(np.array([wednesday_five, saturday_five])).tolist() == [5.0, 29.0]


@pytest.mark.published("known by construction: the true saving of 100 made-up years")
def test_the_true_saving_lies_in_its_interval_in_95_of_100_years() -> None:
    inside = 0
    for seed in range(100):
        found, true = claim_of_year(seed, 0.95)
        inside += abs(found.saved - true) <= found.half
        assert found.half < 0.05 * found.saved  # an interval that holds everything says nothing
    assert inside >= 95


def sides(logged: Logged, way: str = "flow", days: tuple[int, int] = (90, 90), **more: object) -> Claim:
    rows = 144  # a day of ten minutes
    before = slice(logged.change - days[0] * rows, logged.change)
    after = slice(logged.change, logged.change + days[1] * rows)
    means = [
        means_of(trend_of(logged.times[s], {"power": logged.power[s], "flow": logged.flow[s]}), ("power", "flow"))
        for s in (before, after)
    ]
    return claim(means[0], means[1], way, None, (PROMISED, PROMISED), **{"same_meters": True, **more})  # type: ignore[arg-type]


YEAR = measured_year(11, interval=600.0)


def test_every_way_of_comparing_finds_about_the_same() -> None:
    same = {"service": "the same taps, the same timetable"}
    by_flow, by_hours = sides(YEAR), sides(YEAR, "schedule", **same)
    assert by_flow.saved == pytest.approx(
        YEAR.true_saving * by_flow.seconds / by_flow.seconds_all, rel=0.08
    )  # half a year stands for a year
    assert by_hours.saved == pytest.approx(float(by_flow.saved), rel=0.15)
    assert sides(YEAR, "hours", **same).seconds == 8760 * 3600
    month = sides(YEAR, "schedule", days=(28, 28), **same)  # a mean of each of 48 hours costs no 48 days
    assert month.holds
    assert month.half < 0.2 * month.saved
    with pytest.raises(BadEntry, match="flow, air_flow"):
        sides(YEAR, "moon")


def test_fewer_days_and_more_confidence_widen_the_interval() -> None:
    assert sides(YEAR, days=(14, 14)).half > 1.2 * sides(YEAR).half
    assert sides(YEAR, confidence=0.95).half > sides(YEAR, confidence=0.80).half
    assert sides(YEAR, same_meters=False).half > sides(YEAR).half


def test_less_than_a_week_claims_nothing_and_says_how_many_days_would() -> None:
    found = sides(YEAR, days=(90, 4))
    assert not found.holds
    (few,) = [r for r in found.refused if "week" in r.why]
    assert few.need.startswith("3 more days after")


def test_what_was_not_read_is_not_claimed() -> None:
    base = sides(YEAR)
    at = np.array([0.008, 0.012, 0.030])
    hours = np.array([1000.0, 2000.0, 500.0]) * 3600
    logged = YEAR
    rows = slice(logged.change - 90 * 144, logged.change), slice(logged.change, logged.change + 90 * 144)
    means = [
        means_of(trend_of(logged.times[s], {"power": logged.power[s], "flow": logged.flow[s]}), ("power", "flow"))
        for s in rows
    ]
    found = claim(
        means[0], means[1], "flow", YearOf(at, hours, "a duty", entered=True), (PROMISED, PROMISED), same_meters=True
    )
    assert [p.covered for p in found.points] == [True, True, False]
    assert found.seconds == 3000 * 3600
    (refused,) = found.refused
    assert refused.what.startswith("above")
    assert "500 h a year" in refused.why
    assert "more days with flows above" in refused.need
    assert found.parts[2].energy > 0  # a flow meter that is off reads the curves beside the duty's flows
    assert base.parts[2].energy == 0  # and where the log itself tells the year it does not matter


def test_hours_at_rest_bend_no_curve_and_are_not_hours_of_running() -> None:
    resting = replace(YEAR, power=YEAR.power.copy(), flow=YEAR.flow.copy())
    night = (np.arange(len(YEAR.times)) % 144) < 48  # eight hours of every day
    resting.power[night] = 40.0
    resting.flow[night] = 0.0
    found, plain = sides(resting), sides(YEAR)
    assert found.before.kind == plain.before.kind
    assert found.seconds_all == pytest.approx(8760 * 3600 * 2 / 3, rel=0.01)
    day = np.array([0.012])
    assert found.before.at(day)[0] == pytest.approx(plain.before.at(day)[0], rel=0.01)


def test_a_saving_lost_in_the_scatter_is_not_claimed() -> None:
    same = replace(YEAR, power=YEAR.power.copy())
    rng = np.random.default_rng(6)
    a, b, c = 7000.0, 2.0e5, -1.0e6
    true = a + b * same.true_flow + c * same.true_flow**2
    true[same.change :] *= 0.995
    same.power[:] = true * (1 + np.repeat(rng.normal(0, 0.08, 365), 144))
    found = sides(same, days=(20, 20), same_meters=False)
    assert not found.holds
    (why,) = [r for r in found.refused if r.what == "everything"]
    assert "the guideline stops" in why.why or "as much as before" in why.why


def test_what_takes_more_than_before_is_said() -> None:
    worse = replace(YEAR, power=YEAR.power.copy())
    worse.power[worse.change :] += 9000
    found = sides(worse)
    assert not found.holds
    assert any("as much as before or more" in r.why for r in found.refused)


def test_a_coarse_meter_is_what_would_sharpen_most() -> None:
    assert sides(YEAR, days=(180, 180)).sharpen.startswith("The power meter: from 1.0 % to 0.5 %")
    scattered = measured_year(12, interval=600.0, works=Works(day_noise=0.06))
    assert sides(scattered, days=(10, 10)).sharpen.startswith("Days: four times as many")


def test_a_year_like_the_log_has_all_its_hours() -> None:
    rows = slice(0, YEAR.change)
    trend = trend_of(YEAR.times[rows], {"power": YEAR.power[rows], "flow": YEAR.flow[rows]})
    means = means_of(trend, ("power", "flow"))
    year = year_of_log(means, means, "flow")
    assert year.seconds.sum() == pytest.approx(8760 * 3600, rel=1e-9)
    assert all(a < b for a, b in itertools.pairwise(year.at))


def test_the_working_of_a_claim_goes_down_to_each_flow() -> None:
    found = sides(YEAR)
    fields = {leaf.field for leaf, _ in found.saved.leaves()}
    assert {"measured.hours", "measured.before", "measured.after"} <= fields
    assert found.short_formula is not None
    assert 0 < found.short_formula < 0.2


# what cannot be so


def refusals(found: Claim) -> str:
    return " | ".join(r.why for r in found.refused if r.what == "everything")


def scaled(by: float, which: tuple[bool, bool] = (True, True)) -> Logged:
    """The year with its power read otherwise, before and after the change."""
    rows = np.arange(len(YEAR.power)) < YEAR.change
    return replace(YEAR, power=np.where(rows, *(YEAR.power * (by if w else 1.0) for w in which)))


PUMP = Plate(most=20e3, rise=9789.0 * 12.0)  # of the pump that the made-up year is of: 12 m of lift


def test_a_right_claim_is_held_against_the_plate_and_stands() -> None:
    assert sides(YEAR, plate=PUMP).holds


@pytest.mark.parametrize(("by", "which", "says"), [
    (1000.0, (True, True), "motor takes"),  # W taken for kW
    (1000.0, (True, False), "motor takes"),
    (1000.0, (False, True), "motor takes"),
    (3.0, (True, False), "motor takes"),  # the meter of a whole plant room
    (0.001, (True, True), "lifting that alone needs"),  # kW taken for W
    (0.001, (False, True), "lifting that alone needs"),
    (1 / 3, (False, True), "lifting that alone needs"),  # one phase of three
])  # fmt: skip
def test_a_power_that_cannot_be_is_refused_with_what_it_may_be(by: float, which: tuple[bool, bool], says: str) -> None:
    found = sides(scaled(by, which), plate=PUMP)
    assert not found.holds
    assert says in refusals(found)
    asked = next(r.need for r in found.refused if says in r.why)
    assert any(word in asked for word in ("unit", "phases"))


def test_a_clamp_the_wrong_way_round_is_no_saving() -> None:
    with pytest.raises(NoSolution, match="a clamp the wrong way round"):
        sides(scaled(-1.0, (False, True)), plate=PUMP)


@pytest.mark.parametrize("way", ["schedule", "hours"])
def test_power_alone_is_claimed_only_with_what_shows_the_same_service(way: str) -> None:
    alone = sides(YEAR, way)
    assert not alone.holds
    assert "asked of it in both periods" in refusals(alone)
    assert sides(YEAR, way, service="same timetable, same weather").holds


def test_nights_alone_do_not_speak_for_whole_days() -> None:
    night = YEAR.times % 86400 < 6 * 3600
    found = sides(replace(YEAR, power=np.where(night, YEAR.power, np.nan)), "hours", service="the same")
    assert "hours of a day were read" in refusals(found)


def test_power_below_nought_is_told_and_left_out() -> None:
    times, columns = steady()
    columns["power"] = -columns["power"]
    trend = trend_of(times, columns)
    assert [f.kind for f in trend.found] == ["reversed"]
    assert np.isnan(trend.sound("power")).all()


def same_log(one: Trend, other: Trend) -> bool:
    return np.array_equal(one.times, other.times) and all(
        np.array_equal(one.columns[n], other.columns[n], equal_nan=True) for n in one.columns
    )


def test_the_newest_row_first_is_the_same_log() -> None:
    times, columns = steady()
    turned = trend_of(times[::-1], {n: c[::-1] for n, c in columns.items()})
    assert same_log(turned, trend_of(times, columns))
    assert [f.kind for f in turned.found] == ["newest"]


@pytest.mark.parametrize("seed", range(4))
def test_rows_in_no_order_are_put_in_order_and_no_clock_is_moved(seed: int) -> None:
    times, columns = steady(days=3, interval=60.0)
    mixed = np.random.default_rng(seed).permutation(len(times))
    trend = trend_of(times[mixed], {n: c[mixed] for n, c in columns.items()})
    assert same_log(trend, trend_of(times, columns))
    assert trend.days == pytest.approx(3.0, rel=1e-9)
    assert [f.kind for f in trend.found] == ["shuffled"]


def test_rows_written_on_change_count_by_the_time_they_held() -> None:
    """An hour at 10 kW in one row and an hour at 2 kW in sixty: the mean is 6, and not 2.1."""
    rng = np.random.default_rng(5)
    times, power = [], []
    for hour in range(72):
        start = START + hour * 3600.0
        if hour % 2:
            times.append(start)
            power.append(10_000.0)
        else:
            at = np.sort(rng.uniform(0, 3590, 59))
            times += [start, *(start + at)]
            power += [2000.0 + rng.normal(0, 5) for _ in range(60)]
    trend = trend_of(np.array(times), {"power": np.array(power)})
    assert [f.kind for f in trend.found if f.kind == "uneven"] == ["uneven"]
    means = means_of(trend, ("power",))
    assert float(means.columns["power"].mean()) == pytest.approx(6000, rel=0.02)


def test_rows_written_on_change_are_known_by_their_steps() -> None:
    """Also where half of the steps are the usual one; and a file with one row of seven missing has even rows."""
    for logged in (measured_year(seed, interval=600.0) for seed in range(3)):
        for rows in (slice(None, logged.change), slice(logged.change, None)):
            times, flow, power = (column[rows] for column in (logged.times, logged.flow, logged.power))
            written = on_change(times, flow, power, False)
            assert found_in(trend_of(written[1], {"power": written[3]}), "uneven")
            some = np.random.default_rng(3).random(len(times)) > 1 / 7
            assert not found_in(trend_of(times[some], {"power": power[some]}), "uneven")
    # years whose interval missed the truth while only one of their sides was seen to be written on change
    hard = [judged(measured_year(seed, interval=600.0), "on_change", 0.95) for seed in (2, 10, 11, 15, 17, 19)]
    assert hard == ["inside"] * 6
