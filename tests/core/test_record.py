"""The record: bounds, provenance, plain data and back."""

import contextlib
import json
import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.assess import assess
from mainspring.core.benches.proof import proof_of
from mainspring.core.benches.savings import savings_of
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.line import GROUPS, Choice, Flags, Line, Points, Quantity, find_field, parse_line
from mainspring.core.line.applications import ENCLOSURES, MOTORS
from mainspring.core.line.fields import Field
from mainspring.core.simulation import try_line
from mainspring.demo import fans, pumps
from tests.conftest import line_of


@pytest.mark.parametrize(
    ("path", "value", "allowed"),
    [
        ("supply.voltage", 5000.0, "up to 1000 V"),
        ("motor.rated_speed", 1e9, "up to 12000 r/min"),
        ("motor.rated_power", -5.0, "above 0 kW"),
        ("motor.power_factor", 1.2, "up to 1"),
        ("motor.rated_current", math.nan, "a number"),
        ("motor.rated_current", math.inf, "a number"),
        ("motor.rated_current", "11", "a number"),
        ("motor.rated_current", True, "a number"),
        ("supply.phases", "two", "3, 1"),
        ("machine.curve", [[0.0]], "2 numbers"),
        ("machine.curve", [], "1 to 60 rows"),
        ("machine.curve", [[0.0, -4.0]], "0 m to"),
        ("site.currency", "x" * 3000, "up to 2000 characters"),
    ],
)
def test_bad_entries_name_field_value_and_what_is_allowed(path: str, value: Any, allowed: str) -> None:
    group, name = path.split(".")
    line, problems = parse_line({group: {name: {"value": value}}, "motor2": {}})
    assert allowed in str(problems[path])
    assert find_field(path).label in str(problems[path])
    assert not line.has(path)
    assert "motor2" in problems


def test_a_bad_entry_leaves_the_others_in_place() -> None:
    line, problems = parse_line({"motor": {"rated_speed": 1445.0, "rated_power": -1.0, "colour": "red"}})
    assert float(line.motor.rated_speed) == 1445.0
    assert set(problems) == {"motor.rated_power", "motor.colour"}


def test_data_that_are_no_record_are_refused_whole() -> None:
    with pytest.raises(BadEntry, match="groups of fields"):
        parse_line("motor")


def test_record_goes_to_data_and_back_unchanged(records: dict[str, dict[str, Any]]) -> None:
    for record in records.values():
        line = line_of(record)
        assert line_of(json.loads(json.dumps(line.to_data()))) == line


def test_provenance_and_note_are_kept() -> None:
    line = line_of({"motor": {"rated_speed": {"value": 1445.0, "provenance": "assumed", "note": "plate unreadable"}}})
    leaf, value = next(iter(line.motor.rated_speed.leaves()))
    assert (leaf.provenance, leaf.why, value) == ("assumed", "plate unreadable", 1445.0)


def test_wrong_provenance_is_refused() -> None:
    _, problems = parse_line({"motor": {"rated_speed": {"value": 1445.0, "provenance": "guess"}}})
    assert "plate, measured, given, assumed" in str(problems["motor.rated_speed"])


def _entry(field: Field) -> st.SearchStrategy[Any]:
    if isinstance(field, Quantity):
        low = field.atleast if field.atleast is not None else (field.above or 0.0) + 1e-9 * field.upto
        return st.floats(low, field.upto).filter(lambda v: field.above is None or v > field.above)
    if isinstance(field, Choice):
        return st.sampled_from(sorted(field.choices))
    if isinstance(field, Flags):
        return st.lists(st.sampled_from(sorted(field.choices)), unique=True, max_size=3)
    if isinstance(field, Points):
        row = st.tuples(*(st.floats(c.atleast, c.upto) for c in field.columns)).map(list)
        return st.lists(row, min_size=1, max_size=6)
    return st.text(max_size=20)


RECORDS = st.fixed_dictionaries(
    {},
    optional={
        g: st.fixed_dictionaries({}, optional={n: _entry(f) for n, f in group.fields.items()})
        for g, group in GROUPS.items()
    },
)


@given(record=RECORDS)
@settings(max_examples=150, deadline=None, derandomize=True)
def test_no_record_in_range_makes_an_assessment_fail(record: dict[str, Any]) -> None:
    line, problems = parse_line(record)
    assert not problems
    assessment = assess(line)
    for finding in assessment.findings:
        assert finding.because.text("us")
        assert str(finding.source)
    with contextlib.suppress(MainspringError):  # a reason in words is a good answer, any other error is not
        savings_of(line, assessment.derived)


WHOLE: dict[str, dict[str, Any]] = {
    "booster": pumps.BOOSTER,
    "filter": pumps.FILTER,
    "borehole": pumps.BOREHOLE,
    "circulator": pumps.CIRCULATOR,
    "wet_well": pumps.WET_WELL,
    "supply_fan": fans.SUPPLY_FAN,
    "fan_wall": fans.FAN_WALL,
    "tower": fans.TOWER_FAN,
}


@given(
    record=RECORDS,
    base=st.sampled_from(sorted(WHOLE)),
    part=st.sampled_from(["machine", "system", "sensor", "control"]),
)
@settings(max_examples=80, deadline=None, derandomize=True)
def test_no_record_in_range_makes_a_bench_fail(record: dict[str, Any], base: str, part: str) -> None:
    """A whole line with one station replaced by anything in range: the loop, the proof and the savings still answer."""
    whole = WHOLE[base]
    line, _ = parse_line({**whole, part: {**whole[part], **record.get(part, {})}})
    derived = Derived(line)
    with contextlib.suppress(MainspringError):
        trial = try_line(line, duration=5.0)
        assert np.isfinite(trial.value).all()
        assert np.isfinite(trial.power).all()
    row = {"reference": 50.0, "speed": 1460.0, "current": 9.0, "power": 5000.0}
    assert len(proof_of(line, derived, row).estimates) == 3
    with contextlib.suppress(MainspringError):
        savings_of(line, derived)


def test_an_empty_record_is_all_unknown_and_says_what_it_needs() -> None:
    assessment = assess(Line())
    assert {f.severity.word for f in assessment.findings} == {"unknown"}
    assert all(f.needs for f in assessment.findings)
    assert all(row.planned is not None or row.missing for row in assessment.settings)


def test_a_misspelt_trait_is_an_error_wherever_it_stands(booster: Line) -> None:
    from mainspring.core.checks.finding import check
    from mainspring.core.line.fields import Text
    from mainspring.core.line.stations import GROUPS
    from mainspring.core.method import COMMON_PRACTICE
    from mainspring.core.settings.setting import setting

    with pytest.raises(TypeError, match="no trait is called 'fann'"):
        Text("Note", when=("fann",))
    with pytest.raises(TypeError, match="no trait is called 'pmup'"):
        check(place="motor", about="it", needs=(), source=COMMON_PRACTICE, only=("pmup",))
    misspelt = setting("a.b", "A", wrong="", means="A.", only=("loops",))
    with pytest.raises(TypeError, match="no trait is called 'loops'"):
        misspelt(lambda _line, _derived: None)  # type: ignore[arg-type,return-value]
    with pytest.raises(TypeError, match="no trait is called 'submersable'"):
        _ = "submersable" in booster.traits
    choices = {n: GROUPS[g].fields[n].choices for g, n in (("motor", "type"), ("drive", "enclosure"))}  # type: ignore[attr-defined]
    assert set(choices["type"]) == set(MOTORS)
    assert set(choices["enclosure"]) == set(ENCLOSURES)
