"""What was there before, how the setpoint is led now, and where the energy goes: against the trade and by physics."""

from typing import Any

import pytest

from mainspring.core.benches.owner import NBSP, owner_words
from mainspring.core.benches.savings import Modelled, Savings, modelled_of, savings_of, tornado_of
from mainspring.core.benches.spots import spots_of
from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution, NotKnown
from mainspring.core.known import places, promises
from mainspring.core.line import Line, OnSite, Taken, in_force
from tests.conftest import line_of

HOUR = 3600.0
KWH = 3.6e6


def saved(line: Line) -> Savings:
    return savings_of(line, Derived(line))


@pytest.fixture
def pump(records: dict[str, Any]) -> Line:
    return line_of(records["filter"])


@pytest.fixture
def fan(records: dict[str, Any]) -> Line:
    return line_of(records["supply_fan"])


def before_kw(line: Line, kind: str) -> list[float]:
    return [float(x.before.input) / 1e3 for x in saved(line.with_values(proof={"before": kind})).levels]


@pytest.mark.common_practice
def test_the_demonstration_of_the_trade(records: dict[str, Any]) -> None:
    """No static head, 40 to 30 units of flow: throttled saves about a tenth and loses efficiency, slowed about half."""
    line = line_of(records["filter"]).with_values(
        system={"static_head": 0.0}, duty={"profile": [[0.02, 4000 * HOUR], [0.015, 4000 * HOUR]]}
    )
    full, less = saved(line).levels
    assert 1 - less.before.input / full.before.input == pytest.approx(0.10, abs=0.04)
    assert 1 - less.now.input / full.now.input == pytest.approx(0.55, abs=0.08)
    before = [level.arrives / level.before.input for level in (full, less)]
    now = [level.arrives / level.now.input for level in (full, less)]
    assert before[1] < 0.6 * before[0]  # throttled, the whole gets worse
    assert now[1] > 0.93 * now[0]  # slowed, it holds


def test_each_alternative_takes_what_its_kind_takes(pump: Line) -> None:
    throttled, bypass, nothing = (before_kw(pump, kind) for kind in ("throttle", "bypass", "nothing"))
    switched = before_kw(pump, "on_off")
    assert bypass == pytest.approx(nothing, rel=1e-12)
    assert max(bypass) - min(bypass) < 1e-9  # full flow whatever is asked for
    assert all(t <= b + 1e-9 for t, b in zip(throttled, bypass, strict=True))
    flows = [float(x.flow) for x in saved(pump).levels]
    assert switched == pytest.approx([bypass[0] * q / 0.02 for q in flows], rel=1e-3)


@pytest.mark.published("ASHRAE HVAC 2 toolkit (1993): fan with inlet guide vanes at part flow, from memory")
def test_vanes_follow_the_published_curve(fan: Line) -> None:
    full = float(Derived(fan).full_flow)
    found = saved(
        fan.with_values(proof={"before": "vanes"}, duty={"air_profile": [[0.6 * full, HOUR], [0.99 * full, HOUR]]})
    )
    top, low = found.levels
    share = 0.35071223 + 0.30850535 * 0.6 - 0.54137364 * 0.36 + 0.87198823 * 0.216
    shaft_at_full = top.before.shaft / (0.35071223 + 0.30850535 * 0.99 - 0.54137364 * 0.99**2 + 0.87198823 * 0.99**3)
    assert low.before.shaft / shaft_at_full == pytest.approx(share, rel=1e-6)


def test_vanes_are_of_fans(pump: Line) -> None:
    with pytest.raises(NoSolution, match="vanes are of fans"):
        saved(pump.with_values(proof={"before": "vanes"}))


def test_a_setpoint_that_falls_saves_more_and_one_that_follows_most(fan: Line) -> None:
    constant, proportional, reset = (
        saved(fan.with_values(proof={"setpoint_way": way})) for way in ("constant", "proportional", "reset")
    )
    assert constant.saved < proportional.saved < reset.saved
    assert reset.chains[1].efficiency > constant.chains[1].efficiency
    deeper = saved(fan.with_values(proof={"setpoint_way": "proportional", "setpoint_least": 0.2}))
    assert proportional.saved < deeper.saved


@pytest.mark.published("M. Karassik et al., Pump Handbook: affinity laws without static head, from memory")
def test_a_reset_setpoint_without_static_head_runs_by_the_affinity_laws(fan: Line) -> None:
    found = saved(fan.with_values(proof={"setpoint_way": "reset"}))
    top = found.levels[0]
    for level in found.levels[1:]:
        assert level.now.ratio / top.now.ratio == pytest.approx(float(level.flow / top.flow), rel=0.01)


def test_the_lowest_speed_costs_what_it_makes_too_much(pump: Line) -> None:
    held = saved(pump.with_values(control={"low_limit": 40.0}))
    free = saved(pump)
    assert held.saved < free.saved
    low = held.levels[-1]
    assert low.now.ratio == pytest.approx(0.8, rel=1e-9)
    assert any(p.name == "setpoint" for p in held.chains[1].losses)
    for chain in held.chains:
        assert sum(p.energy for p in chain.losses) + chain.useful == pytest.approx(float(chain.taken), rel=1e-9)


def test_several_machines_run_as_many_as_take_least(records: dict[str, Any]) -> None:
    record = records["fan_wall"]
    line = line_of(record)
    one = float(line.machine.air_flow)
    count = int(line.value("machine.count"))
    set_of = line.with_values(duty={"air_profile": [[one * count * 0.9, HOUR], [one * 0.8, HOUR]]})
    top, low = saved(set_of).levels
    assert top.now.machines >= count - 1
    assert low.now.machines < top.now.machines
    assert low.before.machines < top.before.machines
    assert low.now.input < top.now.input


def test_a_level_out_of_reach_is_left_out_with_its_hours(pump: Line) -> None:
    line = pump.with_values(duty={"profile": [[0.03, 500 * HOUR], [0.02, 1000 * HOUR], [0.01, 2000 * HOUR]]})
    found = saved(line)
    (left,) = found.refused
    assert left.hours == 500 * HOUR
    assert "cannot be reached" in left.why
    assert found.hours == 3000 * HOUR
    assert found.rest == pytest.approx(5260 * HOUR, rel=1e-9)


def test_the_same_hours_as_a_week_or_as_a_profile_save_the_same(pump: Line) -> None:
    week = saved(pump.with_values(duty={"week": [[1, 5, 6, 18, 0.017], [1, 7, 0, 24, 0.010]]}))
    days = 53 + 4 * 52
    hours = days * 12 * HOUR
    profile = [[0.017, hours], [0.010, 8760 * HOUR - hours]]
    assert week.saved == pytest.approx(float(saved(pump.with_values(duty={"profile": profile})).saved), rel=1e-9)
    assert week.spread is False
    assert saved(pump).spread is True


def test_what_the_answer_hangs_on(pump: Line) -> None:
    bars = {bar.id: bar for bar in tornado_of(pump)}
    hours, price, cost = bars["hours"], bars["price"], bars["cost"]
    assert hours.saved[1] / hours.saved[0] == pytest.approx(8760 / (0.8 * 7760), rel=1e-6)  # no more than a year has
    assert price.saved[0] == price.saved[1]
    assert price.payback[0] == pytest.approx(1.5 * price.payback[1], rel=1e-6)  # type: ignore[operator]
    assert cost.payback[1] == pytest.approx(1.5 * cost.payback[0], rel=1e-6)  # type: ignore[operator]
    assert bars["static"].saved[0] > bars["static"].saved[1]
    assert "setpoint" not in bars  # a transfer line holds none


@pytest.mark.published("IPMVP option A, (9.7 - 6.1) kW over 6000 h, its uncertainty by the GUM; from memory")
def test_spot_readings_of_one_duty(pump: Line) -> None:
    line = pump.with_values(
        duty={"profile": [[0.014, 6000 * HOUR]]},
        proof={
            "spots_before": [[0.014, 9700.0]],
            "spots_after": [[0.014, 6100.0]],
            "meter_before": 0.02,
            "meter_after": 0.02,
            "same_meters": "no",
            "hours_accuracy": 0.05,
            "confidence": "95",
        },
    )
    found = spots_of(line)
    assert found.saved / KWH == pytest.approx(21_600, rel=1e-9)
    power = 0.0636590067 / 3**0.5  # limits, evenly likely within, where the example takes standard uncertainties
    hours = 0.05 / 3**0.5
    assert found.half / found.saved == pytest.approx(1.959964 * (power**2 + hours**2) ** 0.5, rel=1e-5)


def test_spot_readings_claim_nothing_where_nothing_was_read(records: dict[str, Any]) -> None:
    line = line_of(records["irrigation"])
    found = spots_of(line)
    refused = [level for level in found.levels if level.why]
    assert len(refused) == 1
    assert "was read from" in refused[0].why
    assert found.seconds == found.seconds_all - float(refused[0].hours)
    with pytest.raises(NotKnown, match="spot readings"):
        spots_of(line_of(records["filter"]))


def test_the_owner_is_told_what_the_figures_say(pump: Line, records: dict[str, Any]) -> None:
    found = saved(pump)
    words = owner_words(pump, Modelled(found), None, None)
    assert words is not None
    told = words.headline.replace(NBSP, " ")
    assert "34 % less electricity" in told
    assert "26 000 kWh" in told
    assert "4 700 EUR" in told
    assert "not yet measured" in words.sure
    assert not words.measured
    line = line_of(records["irrigation"])
    by_spots = owner_words(line, Modelled(saved(line)), None, spots_of(line))
    assert by_spots is not None
    assert by_spots.headline.startswith("By spot readings")
    assert by_spots.not_counted
    assert owner_words(pump, None, None, None) is None


def test_a_drive_that_saves_nothing_is_said_to_save_nothing(pump: Line) -> None:
    line = pump.with_values(duty={"profile": [[0.02, 8000 * HOUR]]})
    words = owner_words(line, Modelled(saved(line)), None, None)
    assert words is not None
    assert "does not save here" in words.headline


def test_what_was_read_sets_the_model_right_and_gives_it_both_ends(pump: Line) -> None:
    """Readings as promised leave the saving where the plates have it; a worn pump's move it; both have an interval."""
    derived = Derived(pump)
    assert modelled_of(derived).half is None
    moved = {}
    for name, head in (("as promised", 0.0), ("worn", -0.08)):
        theta = promises(False)[None].copy()
        theta[0, places(False)["head_scale"]] = head
        keys = [(k, f) for f in (35.0, 40.0, 45.0, 50.0) for k in ("speed", "current", "power", "pressure")]
        values = derived.estimate.model.forward(theta, keys)[0]
        taken = tuple(Taken(k, f, float(v)) for (k, f), v in zip(keys, values, strict=True))
        found = modelled_of(Derived(in_force(pump, OnSite(taken=taken))))
        assert found.half is not None
        assert found.by_plate is not None
        assert 0.01 < found.half / found.savings.saved < 0.4
        moved[name] = float(found.savings.saved / found.by_plate)
    assert moved["as promised"] == pytest.approx(1.0, abs=0.06)
    assert moved["worn"] < moved["as promised"] - 0.02
    told = owner_words(pump, found, None, None)
    assert told is not None
    assert "calculated from what was read on site" in told.sure
    assert "between" in told.sure
    assert "set right by what was read" in told.rests
