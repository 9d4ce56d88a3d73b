"""The motor's load with its uncertainty, what is looked at beside it, and what a drift means."""

from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
import pytest

from mainspring.core.benches.proof import Look, drift_of, looks_of, proof_of
from mainspring.core.benches.proof.drift import Row, meaning
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.method import given
from mainspring.core.motor.load import load_by_power_and_losses
from mainspring.core.uncertainty.propagate import combined_estimate, propagated
from tests.conftest import line_of


@pytest.fixture
def line(records: dict[str, Any]) -> Line:
    return line_of(records["filter"])


def row_at(line: Line, load: float = 1.0) -> dict[str, float]:
    expected = Derived(line).expected_at(given("reference", 50.0, "frequency"))
    row = {"reference": 50.0, **{k: float(v) for k, v in expected.items()}}
    row["power"] *= load
    return row


def looks(line: Line, load: float | None = 0.9) -> dict[str, Look]:
    figure = None if load is None else given("load", load, "percent")
    return {f"{p}.{x.id}": x for p, found in looks_of(line, Derived(line), figure).items() for x in found}


@pytest.mark.published("JCGM 101: propagation of distributions by Monte Carlo, 200 000 draws")
def test_a_propagated_uncertainty_is_that_of_many_draws(line: Line) -> None:
    fixed, rising = (float(v) for v in Derived(line).losses)
    middle, spread = [10_000.0, 11_000.0, fixed, rising], [290.0, 0.0, 0.087 * fixed, 0.087 * rising]
    rng = np.random.default_rng(1)
    draws = [rng.normal(m, s, 200_000) for m, s in zip(middle, spread, strict=True)]
    available = draws[0] / draws[1] - draws[2]
    loads = (np.sqrt(1 + 4 * draws[3] * available) - 1) / (2 * draws[3])
    assert propagated(load_by_power_and_losses, middle, spread) == pytest.approx(float(loads.std()), rel=0.01)


@pytest.mark.published("R. T. Birge, Physical Review 40 (1932): weighted mean and external consistency, from memory")
def test_estimates_that_contradict_widen_the_mean() -> None:
    agree = combined_estimate([0.80, 0.82], [0.02, 0.02])
    apart = combined_estimate([0.60, 1.00], [0.02, 0.02])
    assert agree.uncertainty == pytest.approx(0.02 / 2**0.5, rel=1e-9)
    assert apart.disagreement == pytest.approx(0.4 / 2**0.5 / 0.02, rel=1e-9)
    assert apart.uncertainty == pytest.approx(0.2, rel=1e-9)


def test_the_surest_estimate_carries_most_and_says_so(line: Line) -> None:
    proof = proof_of(line, Derived(line), row_at(line))
    shares = {e.id: e.share for e in proof.estimates}
    assert sum(shares.values()) == pytest.approx(1.0, rel=1e-9)
    assert shares["power"] > shares["amps"] > shares["slip"]
    assert "by power" in proof.trusted
    assert proof.low is not None
    assert proof.best is not None
    assert proof.high is not None
    assert proof.low < proof.best < proof.high
    assert not proof.contradict


@pytest.mark.published("US DOE motor load fact sheet: 1770 r/min of 1750 and 1800 at 480 V on a 460 V motor is 65.3 %")
def test_slip_is_corrected_for_volts() -> None:
    motor = {
        "rated_power": 25 * 745.7,
        "rated_voltage": 460.0,
        "rated_current": 30.0,
        "rated_speed": 1750.0,
        "rated_frequency": 60.0,
    }
    row = {"reference": 60.0, "speed": 1770.0}
    plain = line_of({"line": {"application": "transfer"}, "motor": motor})
    read = plain.with_values(proof={"motor_volts": 480.0})
    loads = [proof_of(x, Derived(x), row).estimates[1].load for x in (plain, read)]
    assert loads == [pytest.approx(0.60, rel=1e-6), pytest.approx(0.6533, abs=1e-4)]


def test_a_reading_against_the_others_is_not_averaged_away(line: Line) -> None:
    proof = proof_of(line, Derived(line), {**row_at(line), "current": 35.0})
    assert proof.contradict
    assert "contradict" in proof.trusted
    power = next(e for e in proof.estimates if e.id == "power")
    assert proof.best == power.load


def test_a_better_meter_narrows_the_load(line: Line) -> None:
    coarse = line.with_values(proof={"meter_after": 0.05})
    widths = []
    for one in (line, coarse):
        estimate = proof_of(one, Derived(one), row_at(one)).estimates[0]
        assert estimate.high is not None
        assert estimate.low is not None
        widths.append(estimate.high - estimate.low)
    assert widths[1] > 2 * widths[0]


@pytest.mark.parametrize(("load", "severity"), [(0.9, "clear"), (1.04, "caution"), (0.3, "caution")])
def test_load_is_judged(line: Line, load: float, severity: str) -> None:
    assert looks(line, load)["motor.load"].severity == severity


def test_without_a_reading_each_says_what_it_needs(line: Line) -> None:
    found = looks(line, None)
    for id in ("motor.load", "motor.efficiency", "drive.loss"):
        assert found[id].severity == "unknown"
        assert "full-speed row" in found[id].said


@pytest.mark.published("IEC 60034-1 8.6.2, rise by resistance of copper: 1.2 ohm at 22 °C to 1.55 ohm, from memory")
def test_a_winding_by_resistance(line: Line) -> None:
    read = {"cold_resistance": 1.2, "cold_degc": 22.0, "hot_resistance": 1.55, "coolant_degc": 25.0}
    cool = looks(line.with_values(proof=read))
    assert cool["motor.winding"].figure == pytest.approx(96.81, abs=0.01)
    assert cool["motor.winding"].severity == "clear"
    assert cool["motor.life"].figure == pytest.approx(2**3, rel=1e-9)  # no further than the rule reaches
    assert "or more" in cool["motor.life"].said
    hot = looks(line.with_values(proof={**read, "hot_resistance": 1.82}))
    assert hot["motor.winding"].severity == "caution"
    assert looks(line.with_values(proof={**read, "hot_resistance": 1.95}))["motor.winding"].severity == "stop"
    assert hot["motor.rise"].severity == "caution"  # warmer than its load explains


@pytest.mark.parametrize(
    ("volts", "severity"),
    [((400, 400, 400), "clear"), ((460, 467, 450), "caution"), ((400, 380, 420), "caution"), ((400, 360, 420), "stop")],
)
def test_uneven_volts_are_judged(line: Line, volts: tuple[float, ...], severity: str) -> None:
    read = dict(zip(("volts_ab", "volts_bc", "volts_ca"), map(float, volts), strict=True))
    assert looks(line.with_values(proof=read))["motor.volts"].severity == severity


def test_a_lowest_speed_too_slow_for_its_own_fan_is_said(line: Line) -> None:
    slow = line.with_values(motor={"cooling": "own_fan"}, control={"low_limit": 10.0})
    assert looks(slow)["motor.low_speed"].figure is not None
    water = line.with_values(motor={"cooling": "water"})
    assert "motor.low_speed" not in looks(water)


def test_the_drives_air_is_held_against_forecast_and_rating(line: Line) -> None:
    assert looks(line.with_values(proof={"box_degc": 37.0}))["drive.air"].severity == "clear"
    cool = line.with_values(drive={"ambient": 25.0}, proof={"box_degc": 34.0})
    assert "forecast" in looks(cool)["drive.air"].said
    hot = looks(line.with_values(proof={"box_degc": 56.0}))
    assert hot["drive.air"].severity == "caution"
    assert hot["drive.life"].figure is not None
    assert hot["drive.life"].figure < 10


def test_a_worn_pump_lies_below_its_curve(line: Line) -> None:
    at = {"flow": 0.018, "power": 10_500.0, "frequency": 50.0}
    right = float(Derived(line).machine.head_at(given("q", 0.018, "flow"), given("s", 1.0, "ratio")))
    assert looks(line.with_values(proof={**at, "head": right}))["machine.curve"].severity == "clear"
    worn = looks(line.with_values(proof={**at, "head": 0.88 * right}))["machine.curve"]
    assert worn.severity == "caution"
    assert "worn" in worn.said
    assert looks(line.with_values(proof={**at, "head": 1.12 * right}))["machine.curve"].severity == "caution"


def test_a_flow_is_inferred_from_pressure_else_from_power(line: Line) -> None:
    bare = line_of({k: v for k, v in line.record.to_data().items() if k != "proof"})
    head = float(Derived(bare).machine.head_at(given("q", 0.016, "flow"), given("s", 1.0, "ratio")))
    by_head = looks(bare.with_values(proof={"head": head}))["machine.flow"]
    assert by_head.figure == pytest.approx(0.016, rel=1e-3)
    assert "From the pressure" in by_head.said
    shaft = Derived(bare).machine.shaft_power(
        given("q", 0.016, "flow"), given("h", head, "head"), given("s", 1.0, "ratio")
    )
    taken = float(Derived(bare).input_power(shaft, with_drive=True))
    by_power = looks(bare.with_values(proof={"power": taken}))["machine.flow"]
    assert by_power.figure == pytest.approx(0.016, rel=0.01)
    assert "From the power" in by_power.said
    assert looks(bare)["machine.flow"].severity == "unknown"


@pytest.mark.published("wire-to-water efficiency of the dossier: 15 L/s, 29.0625 m, 6.5 kW is 65.65 %")
def test_water_to_wire(line: Line) -> None:
    read = {"flow": 0.015, "head": 29.0625, "power": 6500.0, "frequency": 42.0}
    assert looks(line.with_values(proof=read))["machine.whole"].figure == pytest.approx(0.65652, rel=1e-4)


@pytest.mark.parametrize(
    ("off", "fan", "words"),
    [
        ({"pressure": -0.08, "power": -0.06}, False, "Worn ring"),
        ({"pressure": 0.09, "power": -0.07}, False, "filter or the pipe"),
        ({"pressure": 0.12, "power": -0.08}, True, "filter, coil or damper"),
        ({"pressure": -0.10, "power": -0.10}, True, "belt slips"),
        ({"current": 0.09}, False, "More amps alone"),
        ({"pressure": 0.02, "power": -0.03, "current": 0.04}, False, ""),
        ({"speed": -0.015}, True, "more slip"),
    ],
)
@pytest.mark.common_practice
def test_each_drift_usually_means_something(off: dict[str, float], fan: bool, words: str) -> None:
    told = meaning(off, fan=fan)
    assert (words in told) if words else told == ""


def test_later_visits_stand_against_the_first() -> None:
    now = datetime(2026, 11, 1, tzinfo=UTC)
    rows = [
        Row(now + timedelta(days=90), "B", "re-check", {"power": 9_000.0, "pressure": 3.6e5}),
        Row(now, "A", "start-up", {"power": 10_000.0, "pressure": 4.0e5, "speed": 1475.0}),
    ]
    drift = drift_of(rows, fan=False)
    assert drift is not None
    assert drift.baseline.by == "A"
    (later,) = drift.visits
    assert later.off["power"] == pytest.approx(-0.10, rel=1e-9)
    assert set(later.off) == {"power", "pressure"}
    assert "Worn" in later.means
    assert drift_of([], fan=False) is None
