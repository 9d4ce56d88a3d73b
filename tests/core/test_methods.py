"""House rules of the methods: a source, documented inputs, and a shown formula that is what is computed."""

import ast
import inspect
import math
import re
import textwrap
from typing import Any, get_args, get_type_hints

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import mainspring.service.catalogue  # noqa: F401 registers every method
from mainspring.core.errors import MainspringError, UnknownMethod
from mainspring.core.method import METHODS, Figure, Method, find_method
from mainspring.core.method import given as figure
from mainspring.core.quantity import DIMENSIONS, dimension_of

ALL = sorted(METHODS.values(), key=lambda m: m.id)
WITH_FORMULA = [m for m in ALL if not m.words]

FUNCTIONS = ("sqrt", "log", "exp", "floor", "cos", "tan", "acos", "atan", "atanh", "pi")

# a range in which each parameter is an ordinary engineering value
USUAL: dict[str, tuple[float, float]] = {
    "frequency": (10, 60), "rated_frequency": (50, 60), "poles": (2, 8), "rated_rpm": (700, 2990),
    "speed_rpm": (600, 3500), "synchronous_rpm": (3600, 3700), "rated_slip_from": (3400, 3500),
    "torque_ratio": (0, 1.2), "power": (1e3, 5e4), "voltage": (200, 500), "power_factor": (0.6, 0.95),
    "efficiency": (0.5, 0.95), "current": (20, 30), "rated_current": (40, 60), "no_load_current": (5, 15),
    "load": (0.1, 1.2), "speed_ratio": (0.3, 1.1), "flow": (0.002, 0.01), "full_flow": (0.01, 0.03),
    "best_flow": (0.009, 0.03), "best_efficiency": (0.5, 0.85), "head": (20, 60), "static_head": (0, 5),
    "resistance": (1e4, 1e5), "c0": (40, 80), "c1": (-300, 0), "c2": (-5e4, -1e4), "shutoff_head": (70, 90),
    "head_1": (50, 60), "head_2": (10, 40), "flow_1": (0.001, 0.01), "flow_2": (0.02, 0.03), "held_head": (5, 60),
    "precharge": (1e5, 2e5), "low_pressure": (2e5, 3e5), "high_pressure": (3e5, 6e5), "setpoint": (2e5, 6e5),
    "range_low": (0, 1e4), "range_high": (6e5, 1.6e6), "signal": (0.005, 0.02), "altitude": (0, 3000),
    "ambient_degc": (20, 49), "rated_degc": (40, 50), "rated_power": (1e3, 1e5), "rated_power_factor": (0.6, 0.9),
    "motor_efficiency": (0.6, 0.95), "drive_efficiency": (0.6, 0.98), "margin": (0.5, 1), "share": (0.02, 0.2),
    "value": (1, 10), "whole": (10, 20), "available": (1, 10), "needed": (1, 10), "years": (1, 20),
    "discount": (0.01, 0.1), "after": (1, 10), "before": (11, 20), "constant_loss": (0.005, 0.03),
    "load_loss": (0.02, 0.06), "wave_speed": (1.5e8, 1.65e8), "rise_time": (1e-7, 4e-7), "lead_length": (1, 100),
    "carrier": (2e3, 16e3), "wanted_power_factor": (0.9, 1), "share_of_best": (0.1, 1.9), "humidity": (0, 1),
    "bore": (0.15, 0.2), "motor_diameter": (0.09, 0.13), "load_torque": (0.2, 1),
    "no_flow_ratio": (0, 0.9), "impedance": (0.01, 0.1), "pressure": (9e4, 1.1e5), "saturation": (1e3, 5e3),
    "critical_length": (5, 30), "lower": (0.3, 0.5),
    "overload": (1.1, 1.5), "time": (20, 60), "cycle": (600, 900), "unbalance_ratio": (0, 0.024),
    "reflection": (0.6, 0.95), "correlation": (-0.3, 0.9), "ratchet": (0.5, 0.9), "least": (0.1, 0.9),
}  # fmt: skip


@pytest.mark.parametrize("method", ALL, ids=lambda m: m.id)
def test_method_states_its_source_and_documents_every_parameter(method: Method) -> None:
    assert str(method.source).strip()
    assert method.title[0].isupper()
    assert method.title
    hints = get_type_hints(method.function, include_extras=True)
    for parameter in method.parameters:
        assert re.search(rf"^{parameter.name} : ", method.doc, re.MULTILINE), f"{parameter.name} is not documented"
        if parameter.dimension is None and not parameter.text:
            assert get_args(hints[parameter.name])[0] in (float, int), f"{parameter.name} carries no unit"
    assert method.dimension or method.parts or re.search(r"\[[^\]]+\]", method.title) or hints["return"] is float


@pytest.mark.parametrize("method", ALL, ids=lambda m: m.id)
def test_dimensions_named_by_types_exist(method: Method) -> None:
    named = [p.dimension for p in method.parameters] + [method.dimension, *method.parts.values()]
    assert all(d is None or d in DIMENSIONS for d in named)


def _inputs(method: Method, draw: Any) -> dict[str, float]:
    found = {}
    for p in method.parameters:
        if not p.required:
            found[p.name] = p.default
            continue
        low, high = USUAL.get(p.name, (1.0, 10.0))
        found[p.name] = draw(st.floats(low, high)) if p.name != "poles" else draw(st.sampled_from([2, 4, 6, 8]))
    return found


@pytest.mark.parametrize("method", WITH_FORMULA, ids=lambda m: m.id)
@settings(max_examples=25, deadline=None, derandomize=True)
@given(data=st.data())
def test_the_shown_formula_is_what_the_code_computes(method: Method, data: st.DataObject) -> None:
    inputs = _inputs(method, data.draw)
    try:
        computed = float(method(**inputs))
    except MainspringError:
        return  # outside what the method covers: it says so and computes nothing
    symbols = {p.symbol: float(inputs[p.name]) for p in method.parameters}
    functions = {n: getattr(math, n) for n in FUNCTIONS}
    shown = eval(method.formula, {"__builtins__": {"max": max, "min": min}}, functions | symbols)
    assert computed == pytest.approx(shown, rel=1e-9, abs=1e-12)


@pytest.mark.parametrize("method", WITH_FORMULA, ids=lambda m: m.id)
def test_the_usual_ranges_lie_within_what_the_method_covers(method: Method) -> None:
    """Otherwise the test above would compare nothing."""
    middle = {
        p.name: (sum(USUAL.get(p.name, (1.0, 10.0))) / 2 if p.name != "poles" else 4.0) if p.required else p.default
        for p in method.parameters
    }
    assert math.isfinite(float(method(**middle)))


def test_formula_symbols_are_all_parameters() -> None:
    for method in WITH_FORMULA:
        words = set(re.findall(r"[A-Za-z_]\w*", re.sub(r"\d\.?\d*e-?\d+", "", method.formula)))
        known = {p.symbol for p in method.parameters} | {*FUNCTIONS, "max", "min"}
        assert words <= known, f"{method.id}: {words - known}"


def test_a_method_called_by_id_gives_a_figure() -> None:
    assert isinstance(find_method("synchronous_speed")(60, 4), Figure)


def test_unknown_method_suggests_near_ones() -> None:
    with pytest.raises(UnknownMethod, match="synchronous_speed"):
        find_method("synchronous_sped")


def test_public_functions_of_the_trades_are_methods_or_say_what_they_return() -> None:
    from mainspring.core.hydraulics import affinity, power, pump_curve, system_curve, tank
    from mainspring.core.motor import current, efficiency, load, speed

    for module in (affinity, power, pump_curve, system_curve, tank, current, efficiency, load, speed):
        for name, function in inspect.getmembers(module, inspect.isfunction):
            if function.__module__ != module.__name__ or name.startswith("_"):
                continue
            hints = get_type_hints(inspect.unwrap(function), include_extras=True)
            assert any(dimension_of(h) for h in hints.values()), f"{module.__name__}.{name} carries no unit at all"


def example(method: Method) -> dict[str, Any]:
    """The inputs of a method's own example; none where it builds them first."""
    for line in re.findall(r">>> (.*)", method.doc):
        for node in ast.walk(ast.parse(line.strip())):
            names = {n.id for n in ast.walk(node) if isinstance(n, ast.Name)}
            if isinstance(node, ast.Call) and names == {method.function.__name__} == {ast.unparse(node.func)}:
                positional = dict(zip(method.names, map(_value, node.args), strict=False))
                return positional | {str(k.arg): _value(k.value) for k in node.keywords}
    return {}


def _value(node: ast.expr) -> Any:
    return eval(compile(ast.Expression(node), "example", "eval"), {"__builtins__": {}})


AT_THE_EDGE = (0.0, -1.0, 1e-9, 1e9, math.nan, math.inf, 2.5)


@pytest.mark.parametrize("method", [m for m in ALL if example(m)], ids=lambda m: m.id)
def test_at_the_edge_it_gives_a_figure_or_says_what_is_allowed(method: Method) -> None:
    inputs = example(method)
    for parameter in method.parameters:
        if parameter.text:
            continue
        usual = inputs.get(parameter.name, parameter.default)
        for edge in AT_THE_EDGE:
            tried = [(edge,) * len(usual), (edge, *usual[1:]), ()] if parameter.many else [edge]
            for value in tried:
                try:
                    found = method(**{**inputs, parameter.name: value})
                except MainspringError:
                    continue
                results = [found] if isinstance(found, float) else list(found)
                assert all(math.isfinite(r) for r in results), (parameter.name, value, results)
                if "efficiency" in method.id:
                    assert all(r >= 0 for r in results), (parameter.name, value, results)


def test_nearly_every_method_has_an_example_to_start_from() -> None:
    assert len([m for m in ALL if not example(m)]) <= 2


def test_what_is_documented_of_an_input_is_what_is_enforced() -> None:
    bounded = 0
    for method in ALL:
        inputs = example(method)
        for parameter in method.parameters:
            line = re.search(rf"^{parameter.name} : (.*)$", method.doc, re.MULTILINE)
            assert line is not None
            marks = ((">= 0", -1.0), ("> 0", 0.0), (" 0 < ", 0.0), (" 0 <= ", -1.0))
            outside = next((v for mark, v in marks if mark in f" {line[1]}"), None)
            if outside is None or not inputs or parameter.many:
                continue
            bounded += 1
            with pytest.raises(MainspringError, match=r"allowed: (above|from)"):
                method(**{**inputs, parameter.name: outside})
    assert bounded > 150


def test_what_is_refused_is_told_with_its_unit() -> None:
    with pytest.raises(MainspringError, match="flow is -1000 L/s; allowed: above 0 L/s"):
        find_method("curve_from_duty_point")(flow=figure("flow", -1.0, "flow"), head=10.0)
    with pytest.raises(MainspringError, match=r"poles is 3; allowed: 2, 4, 6, 8"):
        find_method("synchronous_speed")(frequency=50.0, poles=3.0)
    with pytest.raises(MainspringError, match=r"harmonic order is 5\.5; allowed: 3, 5, 7, 9"):
        find_method("harmonic_limit")(short_circuit=100.0, order=5.5)
    with pytest.raises(MainspringError, match="phases is 2; allowed: 1, 3"):
        find_method("table_full_load_current")(power=7457.0, voltage=460.0, phases=2.0)


def test_no_method_checks_again_what_its_documented_bounds_say() -> None:
    """The bounds in the docstring are kept at the door; in the body stands only what they cannot say."""
    twice = []
    for method in METHODS.values():
        bounds = {b.name: b for b in method.bounds}
        tree = ast.parse(textwrap.dedent(inspect.getsource(inspect.unwrap(method.function))))
        for node in ast.walk(tree):
            if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "check_range"):
                continue
            checked = node.args[1]
            if not isinstance(checked, ast.Name) or checked.id not in bounds:
                continue
            bound = bounds[checked.id]
            known = {name: getattr(bound.told, name) for name in ("above", "atleast", "upto", "below")}
            if all((at := _number(k.value)) is not None and known[str(k.arg)] == at for k in node.keywords):
                twice.append(f"{method.id}: {ast.unparse(node)}")
    assert twice == []


def _number(node: ast.expr) -> float | None:
    try:
        return float(ast.literal_eval(node))
    except ValueError:
        return None
