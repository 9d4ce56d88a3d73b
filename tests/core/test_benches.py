"""Settings, proof and savings: laws and facts beyond the published cases."""

import math
from dataclasses import replace
from typing import Any

import fluids.pump
import numpy as np
import numpy_financial
import pytest

from mainspring.core.assess import assess
from mainspring.core.benches.proof import proof_of
from mainspring.core.benches.savings import savings_of
from mainspring.core.derived import Derived
from mainspring.core.drive.losses import drive_efficiency
from mainspring.core.errors import BadEntry, NoSolution, NotKnown
from mainspring.core.hydraulics.power import no_flow_power
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.money.payback import net_present_value
from mainspring.core.motor.efficiency import nema_efficiency
from mainspring.core.quantity import HORSEPOWER
from mainspring.core.settings import SETTINGS
from mainspring.core.settings.setting import same_value
from tests.conftest import line_of
from tests.drawn import drawn


def planned(line: Line) -> dict[str, Any]:
    return {r.setting.id: r.planned.value for r in assess(line).settings if r.planned is not None}


def test_at_least_24_settings_each_with_reason_and_source(booster: Line) -> None:
    rows = assess(booster).settings
    assert len(rows) >= 24
    for row in rows:
        assert row.planned is not None, f"{row.setting.id}: {row.missing}"
        assert row.planned.reason.text()
        assert str(row.planned.source)
        assert row.setting.wrong
        assert isinstance(row.planned.value, Figure) == (row.setting.dimension is not None)
        if isinstance(row.planned.value, str):
            assert row.planned.value in row.setting.choices


@pytest.mark.common_practice
def test_sleep_settings_follow_from_the_hold_frequency_as_by_hand(booster: Line) -> None:
    values = planned(booster)
    hold = float(Derived(booster).hold_frequency)
    assert values["pid.output_low"] == pytest.approx(hold + 1, rel=1e-6)  # low limit is noted + 1 Hz
    assert values["sleep.frequency"] == pytest.approx(hold + 1.5, rel=1e-6)  # 0.5 to 1 Hz above
    assert values["sleep.delay"] == 20
    assert values["sleep.wake_level"] == pytest.approx(4e5 - 0.08 * 1e6, rel=1e-6)  # 8 % of range


def test_current_limit_is_never_above_the_drive(booster: Line) -> None:
    small = booster.with_values(drive={"rated_current": 9.0})
    assert float(planned(small)["limits.current"]) == 9.0
    assert float(planned(booster)["limits.current"]) == 10.9


def test_lowest_speed_is_the_highest_of_the_reasons(records: dict[str, Any]) -> None:
    transfer = line_of(records["filter"])
    assert planned(transfer)["limits.minimum_speed"] == pytest.approx(50 * math.sqrt(15 / 50) + 1, rel=1e-6)
    flat = transfer.with_values(system={"static_head": 0.0})
    assert planned(flat)["limits.minimum_speed"] == 15.0


def test_a_missing_input_is_named_not_defaulted(records: dict[str, Any]) -> None:
    del records["booster"]["motor"]["rated_current"]
    rows = {r.setting.id: r for r in assess(line_of(records["booster"])).settings}
    assert rows["motor.rated_current"].planned is None
    assert rows["motor.rated_current"].missing == "not known yet: needs full-load current"


def test_transfer_lines_have_no_sleep_settings(records: dict[str, Any]) -> None:
    assert not [s for s in planned(line_of(records["filter"])) if s.startswith(("sleep", "pid"))]


@pytest.mark.parametrize(
    ("plan", "actual", "same"),
    [
        (10.9, 10.9, True),
        (10.9, 10.96, True),
        (10.9, 10.969, False),
        (10.9, 11.1, False),
        (0.0, 0.95e-9, True),  # nothing is nothing, whatever the arithmetic leaves
        (0.0, 1.05e-9, False),
        ("on", "off", False),
        ("on", "on", True),
    ],
)
def test_as_left_agrees_within_what_a_display_can_show(plan: Any, actual: Any, same: bool) -> None:
    value = given("x", plan) if isinstance(plan, float) else plan
    assert same_value(value, actual) is same


def test_a_setting_in_words_takes_no_story() -> None:
    free = replace(SETTINGS["region.clock"], choices={})
    assert free.check("a" * 200) == "a" * 200
    with pytest.raises(BadEntry, match="text of up to 200 characters"):
        free.check("a" * 201)


def test_a_setting_in_numbers_takes_no_nonsense() -> None:
    ramp = SETTINGS["ramps.up"]
    assert ramp.check(0.95e12) == 0.95e12
    for wrong in (1.05e12, float("nan"), "12", True):
        with pytest.raises(BadEntry, match="a number in s"):
            ramp.check(wrong)


def test_three_load_estimates_agree_on_a_motor_that_keeps_its_own_laws(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    derived = Derived(line)
    expected = derived.expected_at(given("reference", 50.0, "frequency"))
    row = {"reference": 50.0, **{k: float(v) for k, v in expected.items()}}
    proof = proof_of(line, derived, row)
    loads = [float(e.load) for e in proof.estimates if e.load is not None]
    true = float(derived.duty_power) / 11_000
    assert loads[0] == pytest.approx(true, rel=0.02)  # at 50 Hz it slips less than at full load, and turns faster
    assert loads[1] == pytest.approx(true, rel=0.03)
    assert loads[2] == pytest.approx(true, rel=0.03)
    for estimate in proof.estimates:
        assert estimate.load is not None
        assert estimate.low is not None
        assert estimate.high is not None
        assert estimate.low < estimate.load < estimate.high


def test_a_proof_without_a_reading_says_which(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    proof = proof_of(line, Derived(line), {"reference": 50.0, "power": 10_000.0})
    assert [e.missing != "" for e in proof.estimates] == [False, True, True]
    assert "speed" in proof.estimates[1].missing


def test_less_power_than_its_own_losses_is_no_reading(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    assert "constant losses" in proof_of(line, Derived(line), {"reference": 50.0, "power": 10.0}).estimates[0].missing


@pytest.mark.published("dossier of the worked example, its totals printed to the kWh")
def test_the_filter_pump_of_the_demo_is_the_worked_example(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    found = savings_of(line, Derived(line))
    assert found.before / 3.6e6 == pytest.approx(75_536.3, abs=1)
    assert found.now / 3.6e6 == pytest.approx(49_536.2, abs=1)
    assert found.fraction == pytest.approx(0.3442, abs=5e-5)
    assert found.cube_energy / 3.6e6 == pytest.approx(37_077, abs=1)
    assert found.worth.payback == pytest.approx(19_000 / (26_000 * 0.18), rel=1e-3)


@pytest.mark.parametrize("rises", [0.0, 0.02, 0.07])
def test_the_factor_that_is_shown_is_the_one_that_was_used(rises: float, records: dict[str, Any]) -> None:
    record = records["filter"]
    site = record["site"] | {"escalation": rises, "discount": 0.05}
    worth = savings_of(line := line_of(record | {"site": site}), Derived(line)).worth
    assert worth.present_value + worth.cost == pytest.approx(worth.yearly * worth.escalated, rel=1e-12)
    assert worth.escalated == pytest.approx(worth.uniform, rel=1e-12) if rises == 0 else worth.escalated > worth.uniform


@pytest.mark.parametrize("name", ["filter", "irrigation"])
def test_energy_is_conserved_along_both_chains(name: str, records: dict[str, Any]) -> None:
    line = line_of(records[name])
    found = savings_of(line, Derived(line))
    for chain in found.chains:
        assert sum(p.energy for p in chain.losses) + chain.useful == pytest.approx(float(chain.taken), rel=1e-9)
        assert all(p.energy >= -1e-6 for p in chain.losses)
    assert found.chains[0].useful == pytest.approx(float(found.chains[1].useful), rel=1e-6)
    assert sum(p.energy for p in found.cube_gap) == pytest.approx(found.now - found.cube_energy, rel=1e-9)


def test_without_static_head_the_cube_law_is_nearly_right(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    flat = line.with_values(system={"static_head": 0.0})
    with_static = savings_of(line, Derived(line))
    without = savings_of(flat, Derived(flat))

    def miss(found: Any) -> float:
        return float(found.now / found.cube_energy)

    assert miss(without) < 1.2 < miss(with_static)


@pytest.mark.common_practice
def test_throttling_saves_a_little_and_slowing_much(records: dict[str, Any]) -> None:
    """From 40 to 30 units of flow: a valve saves about a tenth of the power, slowing about half (no static head)."""
    line = line_of(records["filter"]).with_values(
        system={"static_head": 0.0}, duty={"profile": [[0.02, 3.6e6], [0.015, 3.6e6]]}
    )
    full, less = savings_of(line, Derived(line)).levels
    assert 0.02 < 1 - less.before.input / full.before.input < 0.15
    assert 0.45 < 1 - less.now.input / full.now.input < 0.65


def test_at_full_flow_the_drive_costs_its_own_loss(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    found = savings_of(line, Derived(line))
    assert found.levels[0].saved < 0
    assert found.demand_saved < 0


def test_a_level_out_of_reach_is_said_in_words(records: dict[str, Any]) -> None:
    line = line_of(records["filter"]).with_values(duty={"profile": [[0.03, 3600.0]]})
    with pytest.raises(NoSolution, match="cannot be reached"):
        savings_of(line, Derived(line))


def test_no_price_no_money_and_it_says_so(records: dict[str, Any]) -> None:
    del records["filter"]["site"]["energy_price"]
    line = line_of(records["filter"])
    found = savings_of(line, Derived(line))
    assert found.worth.yearly is None
    assert found.worth.payback is None
    assert "not known yet: needs energy price" in found.missing


def test_no_profile_no_savings(booster: Line) -> None:
    with pytest.raises(NotKnown, match="hours at each flow"):
        savings_of(booster, Derived(booster))


@pytest.mark.published("fluids.pump.VFD_efficiency, an open library's own table")
@pytest.mark.parametrize("horsepower", [3, 7.5, 15, 25, 60, 150])
@pytest.mark.parametrize("load", [0.05, 0.2, 0.5, 0.8, 1.0])
def test_drive_efficiency_agrees_with_an_open_library(horsepower: float, load: float) -> None:
    theirs = fluids.pump.VFD_efficiency(horsepower * HORSEPOWER, load)
    assert drive_efficiency(horsepower * HORSEPOWER, load) == pytest.approx(theirs, abs=6e-4)


@pytest.mark.published("fluids.pump.CSA_motor_efficiency, exact table sizes")
@pytest.mark.parametrize("horsepower", [1, 5, 10, 25, 60, 100, 200])
@pytest.mark.parametrize("poles", [2, 4, 6])
def test_premium_efficiencies_agree_with_an_open_library(horsepower: float, poles: int) -> None:
    theirs = fluids.pump.CSA_motor_efficiency(horsepower * HORSEPOWER, closed=True, poles=poles, high_efficiency=True)
    assert nema_efficiency(horsepower * HORSEPOWER, poles) == pytest.approx(theirs, abs=1e-6)


@pytest.mark.published("numpy_financial.npv")
@pytest.mark.parametrize(("discount", "escalation", "years"), [(0.08, 0.03, 10), (0.05, 0.0, 15), (0.12, 0.06, 3)])
def test_present_value_agrees_with_an_open_library(discount: float, escalation: float, years: int) -> None:
    flows = [-21_000.0] + [5156.0 * (1 + escalation) ** t for t in range(years)]
    assert net_present_value(21_000, 5156, discount, escalation, years) == pytest.approx(
        numpy_financial.npv(discount, flows), rel=1e-6
    )


def test_expected_readings_grow_with_speed_and_meet_the_duty_point(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    derived = Derived(line)
    rows = [derived.expected_at(given("f", float(f), "frequency")) for f in range(10, 51, 5)]
    for name in ("speed", "power", "pressure"):
        values = [float(r[name]) for r in rows]
        assert values == sorted(values), name
    assert rows[-1]["power"] / 1e3 == pytest.approx(10.7772, rel=0.01)  # throttled row at 20 L/s, open valve


@pytest.mark.parametrize("seed", range(40))
def test_what_is_foretold_of_a_pump_has_no_jump_where_it_just_lifts(seed: int) -> None:
    """Power by tenths of a hertz from far below the one that lifts to full speed: known, and never a step."""
    line = line_of(drawn(seed, ("booster", "transfer", "borehole", "wet_well")[seed % 4]))
    derived = Derived(line)
    full = float(line.motor.rated_frequency)
    lifts = float(derived.lifting_frequency)
    at = list(np.arange(max(lifts - 3, 5.0), min(lifts + 3, full), 0.1))
    powers = [float(derived.expected_at(given("f", float(f), "frequency"))["power"]) for f in at]
    steps = np.diff(powers) / np.array(powers[:-1])
    assert np.abs(steps).max() < 0.06, (lifts, at[int(np.abs(steps).argmax())])
    assert steps.min() > -0.02  # where it just lifts it rises steeply, and three turns leave that much


def test_a_lightly_loaded_machine_turns_faster_than_by_frequency_alone(records: dict[str, Any]) -> None:
    derived = Derived(line_of(records["filter"]))
    for hertz in (20.0, 35.0, 50.0):
        row = derived.expected_at(given("f", hertz, "frequency"))
        by_frequency = float(derived.line.motor.rated_speed) * hertz / 50.0
        assert by_frequency < float(row["speed"]) < float(derived.synchronous_rpm) * hertz / 50.0


@pytest.mark.common_practice
def test_losses_by_torque_and_speed_are_below_those_by_a_share_of_power(records: dict[str, Any]) -> None:
    """At half speed a motor's constant loss has fallen too: 12 to 61 % less than by the share of power."""
    for name in ("filter", "booster", "supply_fan"):
        derived = Derived(line_of(records[name]))
        half = derived.expected_at(given("f", 25.0, "frequency"))
        shaft = derived._turned(given("r", float(half["speed"]) / float(derived.line.motor.rated_speed), "ratio"))[2]
        assert float(shaft) < float(half["power"]) < float(derived.input_power(shaft, with_drive=False))


def test_a_dry_run_threshold_is_one_that_does_not_trip_at_night(records: dict[str, Any]) -> None:
    line = line_of(records["booster"])
    row = next(r for r in assess(line).settings if r.setting.id == "protection.underload")
    assert row.planned is not None
    derived = Derived(line)
    low = float(derived.rest_floor) / 50.0
    shut = no_flow_power(derived.pump.curve.c0, low, derived.machine.best_flow, line.machine.best_efficiency)
    assert float(row.planned.value) == pytest.approx(0.8 * float(shut) / float(line.motor.rated_power), rel=1e-9)
    assert "would trip every night" in row.planned.reason.text()


def test_the_exact_values_of_a_magnet_motor_agree_to_the_last_digit_or_not_at_all() -> None:
    assert SETTINGS["motor.back_emf"].exact
    assert not SETTINGS["motor.rated_current"].exact
    assert same_value(180.0, 180.4)
    assert not same_value(180.0, 180.4, exact=True)
    assert same_value(0.0336, 33.6 * 1e-3, exact=True)
