"""The line as known: bands that hold the truth, misreadings named, wrong models noticed, right lines left alone."""

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import replace
from itertools import product
from random import Random
from typing import Any

import numpy as np
import pytest
import wntr

from mainspring.core.derived import Derived
from mainspring.core.known import KINDS, Facts, best_next, corrected, estimate, judge, learnt, worth
from mainspring.core.known.estimate import NORMAL_95, search
from mainspring.core.known.judge import exchanged
from mainspring.core.known.model import Model
from mainspring.core.known.unknowns import beliefs, places, promises
from mainspring.core.line import Line, OnSite, Taken, in_force
from mainspring.core.method import Figure, given
from tests.conftest import line_of
from tests.known_truth import BAR, ROW, Plant, Truth, drawn, facts_drawn, read, truth_drawn

LINES = 60
_OTHER = ("leak", "exponent", "hump")
AS_PROMISED = Truth(**{f: 0.0 for f in Truth.__dataclass_fields__ if f not in _OTHER})
KEYS = [(kind, 0.55) for kind in ROW]


def _covered(air: bool, rows: int, hold: bool) -> tuple[dict[str, float], dict[str, float]]:
    """Share of lines whose next reading, and whose flow at full speed, lay in the 95 % band; and mean half widths."""
    inside: Counter[str] = Counter()
    wide: Counter[str] = Counter()
    for seed in range(LINES):
        rng, plant, readings = drawn(seed, air=air, rows=rows, hold=hold)
        known = estimate(plant.facts, readings)
        hertz = round(0.55 * plant.facts.frequency, 1)
        after = read(rng, plant, [hertz])
        bands = known.expected([r.key for r in after])
        for r, v, u in zip(after, bands.values, bands.uncertainties, strict=True):
            inside[r.kind] += abs(r.value - v) < NORMAL_95 * u
            wide[r.kind] += NORMAL_95 * u / abs(v) / LINES
        flow = known.of(known.model.full_flow)
        true = plant.flow_at_full_speed()
        inside["flow"] += abs(true - flow.values[0]) < NORMAL_95 * flow.uncertainties[0]
        wide["flow"] += NORMAL_95 * flow.uncertainties[0] / true / LINES
    return {k: v / LINES for k, v in inside.items()}, dict(wide)


@pytest.mark.parametrize(("air", "rows", "hold"), [*product((False, True), (1, 2, 6), (False,)), (False, 6, True)])
def test_bands_hold_the_truth_of_lines_rougher_than_is_believed(air: bool, rows: int, hold: bool) -> None:
    covered, _ = _covered(air, rows, hold)
    assert min(covered.values()) >= 0.88, covered  # of 60 lines; 200 in the benchmark
    assert covered["flow"] >= 0.88


@pytest.mark.parametrize("air", [False, True])
def test_bands_narrow_as_rows_come_in(air: bool) -> None:
    _, one = _covered(air, 1, hold=False)
    _, six = _covered(air, 6, hold=False)
    assert six["current"] < one["current"] / 2
    assert six["power"] < one["power"] / 1.5
    assert six["flow"] < one["flow"]


@pytest.mark.parametrize("air", [False, True])
def test_nothing_is_named_on_right_lines(air: bool) -> None:
    told = Counter()
    for seed in range(100, 100 + LINES):
        _, plant, readings = drawn(seed, air=air, rows=6)
        verdict = judge(estimate(plant.facts, readings))
        told["misread"] += bool(verdict.misread)
        told["other"] += bool(verdict.causes or verdict.not_this)
    assert told["misread"] <= 1, told
    assert told["other"] <= 4, told  # a pump worn by a tenth is odd


@pytest.mark.parametrize("air", [False, True])
def test_a_reading_with_two_digits_exchanged_is_named_and_no_other_ever(air: bool) -> None:
    found = Counter()
    for seed in range(300, 300 + LINES):
        rng, plant, readings = drawn(seed, air=air, rows=6)
        i = rng.randrange(len(readings) - 1)
        wrong = exchanged(readings[i].value, KINDS[readings[i].kind].dimension(plant.facts))
        if not wrong:
            continue
        slipped = replace(readings[i], value=wrong[0])
        verdict = judge(estimate(plant.facts, (*readings[:i], slipped, *readings[i + 1 :])))
        named = [d.reading for d in verdict.misread]
        found["right" if named == [slipped] else "among" if slipped in named else "none" if not named else "wrong"] += 1
        if named == [slipped]:
            assert abs(verdict.misread[0].expected - readings[i].value) < 5 * verdict.misread[0].uncertainty
    assert found["wrong"] == 0, found
    assert found["right"] > 0.8 * LINES * 0.9, found


@pytest.mark.parametrize("air", [False, True])
def test_a_row_that_was_read_at_another_opening_stands_apart(air: bool) -> None:
    """All other rows fit: a valve was moved for one of them, and nothing of it reaches what is expected."""
    told: Counter[str] = Counter()
    for seed in range(500, 515):
        rng, plant, readings = drawn(seed, air=air, rows=6)
        at = round(0.8 * plant.facts.frequency, 1)
        shut = Plant(replace(plant.facts, resistance=4 * plant.facts.resistance), plant.truth)
        moved = read(rng, shut, [at])
        others = [r for r in readings if r.at != at]
        verdict = judge(estimate(plant.facts, (*others, *moved)))
        told["row" if verdict.row == at else "none" if verdict.fits else "other"] += 1
        if verdict.row:
            assert set(verdict.left_out) == set(moved)
    assert told["row"] >= 9, told


def test_digits_are_exchanged_as_they_are_shown() -> None:
    assert exchanged(4800.0, "input_power") == [8400.0]
    assert pytest.approx(2.1e5, rel=1e-9) in exchanged(1.2e5, "pressure")
    assert exchanged(1111.0, "speed") == []


# what is otherwise than the record has it


def _otherwise(facts: Facts, seed: int, hertz: Sequence[float], **changes: Any) -> Any:
    rng = Random(f"otherwise {seed}")
    true = replace(facts, **changes)
    plant = Plant(true, truth_drawn(rng, true))
    return judge(estimate(facts, tuple(read(rng, plant, hertz))))


def _scaled(f: Facts, head: float, flow: float, efficiency: float = 1.0) -> dict[str, float]:
    return {
        "c0": f.c0 * head,
        "c1": f.c1 * head / flow,
        "c2": f.c2 * head / flow**2,
        "best_flow": f.best_flow * flow,
        "best_efficiency": f.best_efficiency * efficiency,
    }


@pytest.mark.common_practice
@pytest.mark.parametrize(
    ("cause", "air", "changes"),
    [
        ("throttled", False, lambda f: {"resistance": 6 * f.resistance}),
        ("throttled", True, lambda f: {"resistance": 6 * f.resistance}),
        ("open", False, lambda f: {"resistance": 0.2 * f.resistance}),
        ("open", True, lambda f: {"resistance": 0.2 * f.resistance}),
        ("plate_amps", False, lambda f: {"rated_amps": 1.732 * f.rated_amps, "no_load_amps": 1.732 * f.no_load_amps}),
        ("plate_amps", True, lambda f: {"rated_amps": 0.577 * f.rated_amps, "no_load_amps": 0.577 * f.no_load_amps}),
        ("reversed", False, lambda f: _scaled(f, 0.5, 0.55, 0.6)),
        ("air_locked", False, lambda f: _scaled(f, 0.08, 0.35, 0.4)),
        ("curve", False, lambda f: _scaled(f, 0.72, 0.85)),
    ],
)
def test_a_known_cause_is_among_what_is_told(cause: str, air: bool, changes: Any) -> None:
    told = Counter()
    for seed in range(12):
        facts = facts_drawn(Random(f"cause {seed}"), air=air)
        verdict = _otherwise(facts, seed, [round(x * facts.frequency) for x in (0.6, 0.75, 0.9, 1.0)], **changes(facts))
        told["told" if cause in [c.id for c in verdict.causes] else "nothing" if verdict.fits else "other"] += 1
    assert told["told"] >= 7, told
    assert told["nothing"] <= 2, told


def test_a_motor_of_other_poles_is_told_by_its_speed() -> None:
    facts = facts_drawn(Random("poles"), air=False)
    other = facts.synchronous / 2
    slip = facts.synchronous - facts.rpm
    k = (other - slip) / facts.rpm
    changes = {**_scaled(facts, k * k, k), "synchronous": other, "rpm": other - slip}
    hertz = [round(x * facts.frequency) for x in (0.6, 0.75, 0.9, 1.0)]
    assert [c.id for c in _otherwise(facts, 1, hertz, static=1.0, **changes).causes] == ["poles"]


@pytest.mark.parametrize(
    ("other", "most"),
    [({"exponent": 1.85}, 0.06), ({"hump": 0.03}, 0.06), ({"leak": 0.05}, 0.12), ({"leak": 0.15}, 0.30)],
)
def test_how_far_off_a_wrong_model_is(other: dict[str, float], most: float) -> None:
    """What is told of the flow where the truth does what no reading shows: a leak lies, and is not noticed."""
    off = []
    for seed in range(30):
        _, plant, readings = drawn(seed, air=False, rows=6, other=other)
        known = estimate(plant.facts, readings)
        flow = float(known.of(known.model.full_flow).values[0])
        off.append(flow / plant.flow_at_full_speed() - 1)
    assert abs(float(np.median(off))) < most


def test_a_flow_meter_gives_a_leak_away() -> None:
    noticed = 0
    for seed in range(20):
        rng, plant, readings = drawn(seed, air=False, rows=6, other={"leak": 0.2})
        meter = read(rng, plant, [plant.facts.frequency], ["flow"])
        noticed += not estimate(plant.facts, (*readings, *meter)).fits
    assert noticed >= 14


# against others


def test_the_search_is_a_textbook_weighted_least_squares_with_prior_knowledge() -> None:
    """Near the mean a linear model: x = (S_a⁻¹ + KᵀS_e⁻¹K)⁻¹ KᵀS_e⁻¹ y, Rodgers 2000, eq. 2.31 and 4.3, from memory."""
    facts = facts_drawn(Random("linear"), air=False)
    mean, sd = beliefs(facts)
    count = len(mean)
    keys = [("vented_gauge", 0.0), ("suction", 0.0), ("tape", 0.0)]  # linear in one quantity each
    readings = tuple(
        Taken(k, f, v) for (k, f), v in zip(keys, (8e3, facts.suction + 9e3, facts.static + 2), strict=True)
    )
    found = search(facts, readings)
    slopes = np.zeros((3, count))
    for row, name in enumerate(("gauge_zero", "suction", "static")):
        slopes[row, places(False)[name]] = 1.0
    noise = np.diag([KINDS[r.kind].noise(facts, r.value) ** 2 for r in readings])
    prior = np.diag(sd**2)
    gain = prior @ slopes.T @ np.linalg.inv(slopes @ prior @ slopes.T + noise)
    expected = gain @ (np.array([8e3, 9e3, 2.0]))
    assert np.allclose(found.theta - mean, expected, rtol=1e-3, atol=1e-6 * sd)
    assert np.allclose(
        (sd[:, None] * found.covariance * sd), prior - gain @ slopes @ prior, atol=1e-3 * np.outer(sd, sd)
    )


@pytest.mark.parametrize("worn", [0.0, 0.06])
def test_a_network_solver_gives_readings_that_are_explained(worn: float, tmp_path: Any) -> None:
    """Flow and pressure of EPANET 2.2 at four speeds: wear, static head and gauge come out inside their bands."""
    facts = replace(facts_drawn(Random("epanet"), air=False), c1=0.0, held=None, suction=0.0)
    c0, q = facts.c0 * (1 - worn), facts.best_flow
    static, zero = facts.static + 2.0, 0.15 * BAR
    rise = c0 + facts.c2 * (1 - worn) * q * q  # EPANET's one point: no flow at 4/3 of it, run-out at twice its flow
    readings: list[Taken] = []
    flows = {}
    for x in (0.7, 0.8, 0.9, 1.0):
        hertz = x * facts.frequency
        model = Model(facts)
        mean = np.zeros((1, len(beliefs(facts)[0])))
        promised = dict(zip(ROW, model.forward(mean, [(k, hertz) for k in ROW])[0], strict=True))
        s = float(promised["speed"]) / facts.rpm
        net = wntr.network.WaterNetworkModel()
        net.add_curve("c", "HEAD", [(0.0, c0), (q, rise), (1.6 * q, c0 + facts.c2 * (1 - worn) * (1.6 * q) ** 2)])
        net.add_reservoir("well", base_head=0.0)
        net.add_junction("outlet", base_demand=0.0, elevation=0.0)
        net.add_reservoir("high", base_head=static)
        net.add_pump("p", "well", "outlet", "HEAD", "c")
        length, bore = 100.0, 0.15
        net.add_pipe("pipe", "outlet", "high", length=length, diameter=bore, roughness=130, minor_loss=0.0)
        friction = facts.resistance * 2 * 9.80665 * (math.pi * bore**2 / 4) ** 2
        net.get_link("pipe").minor_loss = friction  # all of it as v²: the same law as the record's
        net.get_link("pipe").length = 0.01
        net.get_link("p").base_speed = s
        net.options.time.duration = 0
        net.options.hydraulic.headloss = "H-W"
        result = wntr.sim.EpanetSimulator(net).run_sim(file_prefix=str(tmp_path / f"n{x}"))
        head = float(result.node["head"]["outlet"].iloc[0])
        flows[x] = float(result.link["flowrate"]["p"].iloc[0])
        readings.append(Taken("pressure", hertz, 998.2 * 9.80665 * head + zero))
        readings.append(Taken("speed", hertz, float(promised["speed"])))
    readings += [Taken("tape", 0.0, static)]
    known = estimate(facts, tuple(readings))
    assert known.fits
    value, sd = known.quantity("gauge_zero")
    assert abs(value - zero) < NORMAL_95 * sd
    value, sd = known.quantity("head_scale")
    assert abs(math.expm1(value) + worn) < NORMAL_95 * sd + 0.01
    flow = known.of(known.model.full_flow)
    assert abs(flows[1.0] - flow.values[0]) < NORMAL_95 * flow.uncertainties[0]


def test_the_model_at_its_promises_is_what_the_plate_leads_one_to_expect(booster: Line) -> None:
    """Two ways of writing the same equations: the readings to expect of `Derived`, and the arrays of the estimate."""
    derived = Derived(booster)
    facts = derived.facts
    theta = promises(False)[None].copy()
    for x in (0.6, 0.8, 1.0):
        f = given("f", x * facts.frequency, "frequency")
        promised = derived.expected_at(f)
        found = derived.estimate.model.forward(theta, [(k, float(f)) for k in ROW])[0]
        for kind, value in zip(ROW, found, strict=True):
            assert value == pytest.approx(float(promised[kind]), rel=0.01), kind


def test_two_ways_of_writing_the_truth_agree() -> None:
    for air in (False, True):
        facts = facts_drawn(Random("two ways"), air=air)
        plant = Plant(facts, replace(AS_PROMISED, falls=1.2))
        theta = promises(air)[None].copy()
        hertz = 0.8 * facts.frequency
        shown = plant.running(hertz)
        for kind in (*ROW, "flow"):
            found = float(Model(facts).forward(theta, [(kind, hertz)])[0, 0])
            assert found == pytest.approx(shown[kind], rel=2e-3), (air, kind)


# what it says


def test_what_was_learnt_has_both_ends_and_says_nothing_of_what_was_not() -> None:
    facts = replace(facts_drawn(Random("learnt"), air=False), condition="used")
    plant = Plant(facts, replace(AS_PROMISED, head=-0.09, gauge_zero=0.3 * BAR, falls=1.2, loss=0.05, efficiency=-0.04))
    rng = Random("readings")
    rows = read(rng, plant, [round(x * facts.frequency) for x in (0.5, 0.6, 0.7, 0.8, 0.9, 1.0)])
    vented = Taken("vented_gauge", 0.0, 0.3 * BAR)
    said = [s.text() for s in learnt(estimate(facts, (*rows, vented)))]
    assert any("less head than its curve" in s and " to " in s for s in said), said
    assert any(s.startswith("the gauge reads high by") for s in said), said
    assert not any("flow" in s for s in said), said
    assert learnt(estimate(facts, ())) == []


def test_the_reading_that_tells_most_does() -> None:
    """What a flow reading is expected to take of the doubt about the flow is about what it takes."""
    shares, taken = [], []
    for seed in range(20):
        rng, plant, readings = drawn(seed, air=False, rows=2)
        known = estimate(plant.facts, readings)
        full = plant.facts.frequency
        [found] = worth(known, [("flow", full)], "flow")
        after = estimate(plant.facts, (*readings, *read(rng, plant, [full], ["flow"])))
        before, then = (k.of(k.model.full_flow).uncertainties[0] for k in (known, after))
        shares.append(found.share)
        taken.append(1 - (then / before) ** 2)
        best = best_next(known, "flow")
        assert best is not None
        assert best.share >= found.share - 1e-9
    assert np.mean(shares) == pytest.approx(np.mean(taken), abs=0.06)
    assert np.mean(shares) > 0.8


# on the line


def _with(line: Line, *taken: Taken) -> Derived:
    return Derived(in_force(line, OnSite(taken=taken)))


def _rows(
    derived: Derived, changes: dict[str, float], hertz: Sequence[float] = (35.0, 40.0, 45.0, 50.0)
) -> list[Taken]:
    theta = promises(derived.facts.air)[None].copy()
    for name, value in changes.items():
        theta[0, places(derived.facts.air)[name]] = value
    keys = [(k, f) for f in hertz for k in ROW]
    return [Taken(k, f, float(v)) for (k, f), v in zip(keys, Model(derived.facts).forward(theta, keys)[0], strict=True)]


def test_the_line_as_known_moves_what_is_expected_and_what_hangs_on_it(booster: Line) -> None:
    plate = Derived(booster)
    worn = _with(booster, *_rows(plate, {"head_scale": -0.08, "flow_scale": -0.06}))
    assert worn.trusted is not None
    assert worn.known is not worn
    at = given("f", 48.0, "frequency")
    [by_plate], [by_readings] = plate.foretold_at([at]), worn.foretold_at([at])
    assert by_readings["pressure"].figure < by_plate["pressure"].figure
    assert by_readings["current"].uncertainty is not None
    assert by_plate["current"].uncertainty is not None
    assert by_readings["current"].uncertainty < by_plate["current"].uncertainty / 2
    assert worn.hold_frequency > plate.hold_frequency  # a worn pump holds the same pressure at more speed
    assert worn.known.shutoff_pressure < plate.shutoff_pressure
    assert worn.known.full_flow < plate.full_flow
    assert [leaf.field for leaf, _ in by_readings["pressure"].figure.leaves() if leaf.field.startswith("moved")]


def test_what_rests_on_the_record_stays_when_only_readings_came_in(booster: Line) -> None:
    from mainspring.core.procedure import leaves_of

    plate = Derived(booster)
    read_ = _with(booster, *_rows(plate, {"head_scale": -0.05}))
    at = given("f", 48.0, "frequency")
    before = leaves_of(f.figure for f in plate.foretold_at([at])[0].values())
    after = leaves_of(f.figure for f in read_.foretold_at([at])[0].values())
    assert before == after


def test_a_line_that_is_not_this_one_is_not_corrected(booster: Line) -> None:
    plate = Derived(booster)
    rows = [replace(t, value=t.value * (0.4 if t.kind == "pressure" else 1.0)) for t in _rows(plate, {})]
    other = _with(booster, *rows)
    assert other.trusted is None
    assert other.known is other
    at = given("f", 48.0, "frequency")
    assert other.foretold_at([at])[0]["pressure"].figure == plate.expected_at(at)["pressure"]


def test_a_named_misreading_does_not_move_the_line(booster: Line) -> None:
    plate = Derived(booster)
    rows = _rows(plate, {"head_scale": -0.04})
    clean = _with(booster, *rows)
    slip = [replace(t, value=t.value * 1.4) if t.key == ("power", 40.0) else t for t in rows]
    slipped = _with(booster, *slip)
    assert judge(slipped.estimate).one_misread
    assert clean.trusted is not None
    assert slipped.trusted is not None
    assert len(slipped.trusted.readings) == len(clean.trusted.readings) - 1
    at = given("f", 48.0, "frequency")
    one, other = (float(d.foretold_at([at])[0]["power"].figure) for d in (clean, slipped))
    assert one == pytest.approx(other, rel=0.01)


@pytest.mark.parametrize("name", ["booster", "irrigation", "filter", "supply_fan", "wet_well", "circulator"])
def test_the_corrected_record_gives_what_the_estimate_says(name: str, records: dict[str, Any]) -> None:
    line = line_of(records[name])
    plate = Derived(line)
    top = plate.facts.frequency
    rows = _rows(plate, {"head_scale": -0.05, "resistance": 0.2}, [0.8 * top, 0.9 * top, top])
    derived = _with(line, *rows)
    known = derived.trusted
    assert known is not None
    assert len(corrected(derived.line, known).to_data()) >= len(line.to_data())
    flow = float(known.of(known.model.full_flow).values[0])
    assert float(derived.known.full_flow) == pytest.approx(flow, rel=0.03)
    assert isinstance(derived.known.full_flow, Figure)


def test_the_same_readings_give_the_same_on_every_process() -> None:
    _, plant, readings = drawn(1, air=False, rows=6)
    one, other = search(plant.facts, readings), search(plant.facts, readings)
    assert one.z.tobytes() == other.z.tobytes()
    assert estimate(plant.facts, readings) is estimate(plant.facts, tuple(readings))
