"""The wrong way round: cured as each kind of motor is, filled and slow where nobody sees the shaft."""

from collections.abc import Iterator
from typing import Any

import pytest

from mainspring.core.assess import Assessment, assess
from mainspring.core.line.reversal import reversal_of
from mainspring.core.procedure import Step
from tests.conftest import line_of
from tests.second_eye.lines import right_lines

LINES = right_lines()
LEADS = ("two leads", "two motor leads", "swap two", "motor leads, not in the drive")
WINDING = ("change that by the diagram", "start winding connected", "its start winding the other way")


def with_motor(record: dict[str, Any], **motor: str) -> Assessment:
    made = {**record, "motor": {**record["motor"], **{k: {"value": v} for k, v in motor.items()}}}
    return assess(line_of(made))


def words_of(step: Step) -> Iterator[str]:
    """Everything that a step says."""
    yield from (step.title, step.what.text(), step.why, step.danger, step.wrong)
    yield from (step.choices or {}).values()
    yield from step.items.values()
    yield from (f"{s.label} {s.why}" for s in step.schools.values())
    yield from (r.label for r in step.readings)


def everything_said(found: Assessment) -> str:
    """What steps, settings and findings of a line say, in one text."""
    words = [w for step in (*found.steps, *found.plan.asleep) for w in words_of(step)]
    words += [row.planned.reason.text() for row in found.settings if row.planned is not None]
    words += [f.do.text() for f in found.findings if f.do is not None]
    return "\n".join(words).lower()


@pytest.mark.common_practice
@pytest.mark.parametrize("name", LINES)
@pytest.mark.parametrize("starting", ["switch", "capacitor", "shaded", ""])
def test_no_wire_is_swapped_on_a_motor_that_it_does_not_turn(name: str, starting: str) -> None:
    motor = {"type": "single_phase", **({"starting": starting} if starting else {})}
    found = with_motor(LINES[name], **motor)
    assert [s.id for s in found.steps if s.id.startswith("turn.rotation") and s.schools] == []  # no drive reverses it
    said = everything_said(found)
    assert [w for w in LEADS if w in said] == []
    if starting == "shaded":
        assert [w for w in WINDING if w in said] == []
        assert "turns one way only" in said
    else:
        assert "start winding" in said


@pytest.mark.common_practice
@pytest.mark.parametrize("name", LINES)
@pytest.mark.parametrize("kind", ["induction", "permanent_magnet"])
def test_a_three_phase_motor_is_turned_round_by_two_leads(name: str, kind: str) -> None:
    found = with_motor(LINES[name], type=kind)
    assert "wap two motor leads" in reversal_of(found.line).act
    assert any(w in everything_said(found) for w in LEADS)


def boreholes() -> list[str]:
    return [name for name, record in LINES.items() if record["line"]["application"]["value"] == "borehole"]


@pytest.mark.common_practice
@pytest.mark.parametrize("name", boreholes())
def test_an_unseen_shaft_is_judged_on_a_full_line_and_no_faster_than_that_takes(name: str) -> None:
    found = assess(line_of(LINES[name]))
    steps = {s.id: s for s in found.steps}
    order = [s.id for s in found.steps]
    assert order.index("turn.waste") < order.index("turn.fill") < order.index("turn.rotation")
    assert {"turn.waste", "turn.fill"} <= set(steps["turn.rotation"].after)
    at = float(steps["turn.rotation"].rests_on[0])
    line = found.line
    assert line.application.lowest <= at < float(line.motor.rated_frequency)
    # at that speed the right direction delivers: it shows at the gauge, well above what no water would
    foretold = steps["turn.rotation"].readings[0].expected
    assert foretold is not None
    assert float(foretold) > 0
    assert "full speed" not in " ".join(words_of(steps["turn.rotation"]))
    assert "wrong way" in steps["turn.fill"].wrong  # a line that does not fill may be turned wrongly


def test_boreholes_are_among_the_right_lines() -> None:
    assert len(boreholes()) >= 2
