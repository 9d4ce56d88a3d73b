"""A figure knows its working, because the computation that made it recorded it."""

import pickle
from typing import Any

import pytest

from mainspring.core.benches.savings import savings_of
from mainspring.core.derived import Derived
from mainspring.core.drive.rating import altitude_derating
from mainspring.core.energy.annual import energy_of_profile, energy_saved
from mainspring.core.errors import NotKnown
from mainspring.core.hydraulics.power import pump_shaft_power
from mainspring.core.hydraulics.pump_curve import pump_curve_fit, pump_efficiency
from mainspring.core.hydraulics.system_curve import setpoint_head, system_head
from mainspring.core.line import Line
from mainspring.core.line.record import leaf_value
from mainspring.core.method import Figure, Made, assume, given, walk
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.sentence import say
from mainspring.core.working import Working, has_constants, pretty, working_of
from tests.conftest import line_of


def test_a_figure_is_a_float_that_remembers_its_method_and_inputs() -> None:
    power = pump_shaft_power(flow=0.05, head=20.0, efficiency=0.8)
    assert isinstance(power, float)
    assert isinstance(power.origin, Made)
    assert power.origin.method.id == "pump_shaft_power"
    assert power.origin.inputs["flow"] == 0.05
    assert power.origin.inputs["density"] == 998.2  # the default that was used stands in the working too


def test_arithmetic_outside_a_method_is_a_plain_float_again() -> None:
    assert type(given("a", 2.0) * 2) is float


def test_figures_of_one_kind_add_and_subtract_and_keep_what_they_came_from(booster: Line) -> None:
    low, high = booster.sensor.range_low, booster.sensor.range_high
    for found, value, formula in ((high + low, 1e6, "a + b"), (high - low, 1e6, "a - b")):
        assert isinstance(found, Figure)
        assert (float(found), found.dimension) == (value, "pressure")
        assert {leaf.field for leaf, _ in found.leaves()} == {"sensor.range_low", "sensor.range_high"}
        assert working_of(found).formula == formula
    assert type(high + 1.0) is float
    assert type(high - booster.motor.rated_power) is float  # a pressure less a power is no quantity


def test_max_keeps_the_figure_it_chose() -> None:
    small, large = given("small", 1.0), given("large", 2.0)
    assert max(small, large) is large
    assert min(small, large) is small


def test_an_assumption_marks_everything_computed_from_it() -> None:
    efficiency = pump_efficiency(0.01, 1.0, 0.01, assume("machine.best_efficiency", 0.7, "percent", "typical"))
    power = pump_shaft_power(0.01, 30.0, efficiency)
    assert [a.why for a in power.assumptions] == ["typical"]
    assert pump_shaft_power(0.01, 30.0, 0.7).assumptions == []


def test_results_of_several_parts_each_know_their_part() -> None:
    curve = pump_curve_fit((0.0, 0.01, 0.02), (50.0, 47.5, 40.0))
    assert isinstance(curve.c0, Figure)
    assert curve.c0.dimension == "head"
    assert working_of(curve.c0).symbol == "c0"


def test_leaves_are_the_fields_of_the_record(booster: Line) -> None:
    fields = {leaf.field for leaf, _ in Derived(booster).low_limit.leaves()}
    assert {"control.setpoint", "system.suction_pressure", "motor.rated_frequency", "machine.curve[0].head"} <= fields
    for leaf, value in Derived(booster).low_limit.leaves():
        if "." in leaf.field:
            assert leaf_value(booster, leaf.field) == value


def test_reading_a_missing_value_names_it() -> None:
    with pytest.raises(NotKnown, match="needs full-load current"):
        _ = Line().motor.rated_current


def test_working_shows_formula_numbers_source_and_the_steps_beneath(booster: Line) -> None:
    sheet = working_of(Derived(booster).hold_frequency)
    assert sheet.formula == "s·f_r"
    assert told(sheet).endswith(" × 50 Hz")
    beneath = sheet.inputs[0].step
    assert beneath is not None
    assert beneath.method_id == "no_flow_speed"
    assert beneath.formula == "√(H / H_0)"
    held = beneath.inputs[0].step
    assert held is not None
    assert held.method_id == "setpoint_head"
    assert {i.symbol for i in held.inputs} == {"p_set", "p_s", "z", "ρ", "g"}


def test_the_working_is_the_very_numbers_that_were_used(booster: Line) -> None:
    for figure in walk(Derived(booster).sleep_below):
        if isinstance(figure.origin, Made) and not figure.origin.part:
            again = figure.origin.method(**figure.origin.inputs)
            assert float(again) == float(figure)


def test_a_figure_survives_a_copy() -> None:
    figure = given("a", 2.0, "head")
    again = pickle.loads(pickle.dumps(figure))
    assert again == 2.0
    assert again.dimension == "head"


def test_formulas_read_like_an_engineers() -> None:
    assert pretty("rho * g * Q * H / eta") == "ρ·g·Q·H / η"
    assert pretty("sqrt(3) * V") == "√(3)·V"


def test_a_sentence_must_be_given_what_it_names() -> None:
    with pytest.raises(TypeError, match="amps"):
        say("it draws {amps}")


def test_a_sentence_speaks_in_the_readers_units() -> None:
    sentence = say("hold {p}", p=given("p", 4e5, "pressure"))
    assert sentence.text("si") == "hold 4 bar"
    assert sentence.text("us") == "hold 58 psi"


def test_the_members_of_a_sequence_bring_their_working(booster: Line) -> None:
    power = pump_shaft_power(0.01, 30.0, 0.7)
    sheet = working_of(energy_of_profile([power, 5.0], [3600.0, 3600.0]))
    assert [s.method_id for s in sheet.inputs[0].steps] == ["pump_shaft_power"]
    assert sheet.inputs[1].steps == []


def test_a_step_used_twice_is_worked_once_and_then_named_by_its_number(booster: Line) -> None:
    power = pump_shaft_power(0.01, 30.0, 0.7)
    first, second = working_of(energy_of_profile([power, power], [3600.0, 3600.0])).inputs[0].steps
    assert (first.number, first.again, bool(first.inputs)) == (2, False, True)
    assert (second.number, second.again, second.inputs) == (2, True, [])
    assert second.value == first.value


def test_a_saving_is_worked_in_no_more_steps_than_it_has(records: dict[str, Any]) -> None:
    line = line_of(records["filter"])
    saved = savings_of(line, Derived(line)).saved
    assert saved is not None

    def full(working: Working) -> int:
        beneath = [s for i in working.inputs for s in ([i.step] if i.step else []) + i.steps]
        return bool(working.method_id and not working.again) + sum(map(full, beneath))

    assert full(working_of(saved)) == sum(isinstance(f.origin, Made) for f in walk(saved))


def told(working: Working, system: str = "si") -> str:
    """The formula with its values put in, as read in a unit system."""
    return "".join(
        p if isinstance(p, str) else DIMENSIONS[p.dimension or "count"].show(p.value, system, 5, p.unit)
        for p in working.substituted
    )


def test_values_stand_in_a_formula_in_the_readers_units() -> None:
    saved = working_of(energy_saved(2.7193e11, 1.78e11))
    assert told(saved) == "75536 kWh - 49444 kWh"
    held = working_of(setpoint_head(4e5, 1e5, -2.0))
    assert told(held) == "(4 bar - 1 bar) / (998.2 kg/m³ × 9.8066 m/s²) + (-2 m)"
    assert told(held, "us").startswith("(58.015 psi - 14.504 psi) / (62.316 lb/ft³ × 32.174 ft/s²)")
    assert told(working_of(system_head(15.0, 62500.0, 0.015))) == "15 m + 62500 m/(m³/s)² × (15 L/s)²"


def test_a_formula_with_constants_of_its_own_is_told_in_their_units() -> None:
    assert told(working_of(altitude_derating(2000.0)), "us") == "1 - 0.01 × max(0, 2000 m - 1000) / 100"
    assert has_constants("1 - 0.01 * max(0, Z - 1000) / 100")
    assert not has_constants("1 - (1 - eta) * (1 / s)**0.1")
    assert not has_constants("sqrt(3) * V * I")


def test_a_sum_shows_its_terms() -> None:
    energy = energy_of_profile([5e3, 4e3, 3e3, 2e3], [3.6e6, 7.2e6, 3.6e6, 3.6e6])
    assert told(working_of(energy)) == "5 kW × 1000 h + 4 kW × 2000 h + 3 kW × 1000 h + … (4 terms)"
