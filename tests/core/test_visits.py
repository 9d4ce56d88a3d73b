"""The right sheet for the visit: short ones are short, and what was moved is proven anew."""

from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from itertools import cycle
from typing import Any

import pytest

from mainspring.core.assess import Assessment, assess
from mainspring.core.diagnosis.trips import CAUSES
from mainspring.core.line import Line, OnSite, in_force
from mainspring.core.method import Figure
from mainspring.core.procedure import (
    Evidence,
    Held,
    StepState,
    StepStatus,
    Visit,
    admit,
    by_step,
    judge_evidence,
    sheet_status,
    standing,
    still_behind,
)
from mainspring.core.procedure.stay import CAUSE, FOUND, ROWS, SWAP, TOUCHED
from mainspring.core.procedure.telling import told_on_site
from mainspring.demo.evidence import answers
from tests.conftest import line_of
from tests.second_eye.lines import right_lines

BEGAN = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
Data = dict[str, Any]
RIGHT = right_lines()


@dataclass(frozen=True)
class Left:
    """A setting as left on the settings sheet."""

    setting: str
    value: float | str
    at: datetime
    moment: str = "left"
    by: str = "Ana"
    why: str = ""
    taken: bool = False


class Site:
    """A line with what was kept of it, as it goes on from visit to visit."""

    def __init__(self, line: Line) -> None:
        self.line, self.now = line, BEGAN
        self.left: list[Left] = []  # on the settings sheet
        self.kept: list[Evidence] = []
        self._judged: tuple[OnSite, Assessment] | None = None
        self.visits: list[Visit] = []
        self.comes("start-up")

    def comes(self, purpose: str) -> None:
        self.now += timedelta(days=30)
        self.visits = [replace(v, closed=v.closed or self.now) for v in self.visits]
        self.visits.append(Visit(f"v{len(self.visits)}", purpose, "Ana", self.now))

    @property
    def judged(self) -> Assessment:
        told = told_on_site(self.left, by_step(self.kept), self.visits)
        if self._judged is None or self._judged[0] != told:
            self._judged = told, assess(in_force(self.line, told))
        return self._judged[1]

    @property
    def sheet(self) -> dict[str, StepStatus]:
        judged = self.judged
        return {s.step.id: s for s in sheet_status(judged.steps, self.kept, judged.line)}

    def state(self, step: str) -> StepState:
        return self.sheet[step].state

    def keeps(self, step: str, kind: str, data: Data | None = None, note: str = "", wait: float = 60.0) -> Evidence:
        self.now += timedelta(seconds=wait)
        status = self.sheet[step]
        admit(status, kind)
        earlier = [e for e in self.kept if e.step == step and status.step.counts(e)]
        made = judge_evidence(status.step, kind, data or {}, "Ana", self.now, earlier, note)
        self.kept.append(replace(made, id=f"e{len(self.kept)}", visit=self.visits[-1].id))
        return self.kept[-1]

    def does(self, step: str) -> None:
        status = self.sheet[step]
        if status.step.proof == "photo":
            self.keeps(step, "photo", {"photo": "p1"})
        for kind, data, wait in answers(status.step):
            self.keeps(step, kind, data, wait=60 + wait)

    def does_all(self) -> "Site":
        while todo := next((s for s in self.sheet.values() if s.state is StepState.NEXT), None):
            self.does(todo.step.id)
        return self

    @property
    def open(self) -> list[str]:
        return [s for s, status in self.sheet.items() if not status.done_or_left_out]

    def leaves_as_proposed(self) -> None:
        """Every setting goes into the drive as the sheet proposes it, to the figures that a display shows."""
        planned = {r.setting.id: r.planned.value for r in self.judged.settings if r.planned is not None}
        self.left = [Left(id, shown(v), self.now) for id, v in planned.items()]


def shown(value: Figure | str) -> float | str:
    return value if isinstance(value, str) else float(f"{float(value):.3g}")


@pytest.fixture
def fan(records: dict[str, Any]) -> Site:
    """A supply fan, started up and handed over."""
    return Site(line_of(records["supply_fan"])).does_all()


@pytest.fixture
def pump(booster: Line) -> Site:
    return Site(booster).does_all()


def test_a_start_up_leaves_nothing_open(fan: Site, pump: Site) -> None:
    assert fan.open == pump.open == []


# each line read near one edge of every band, one line low, the next one high
@pytest.mark.parametrize(("name", "share"), list(zip(sorted(RIGHT), cycle((-0.9, 0.9)), strict=False)))
def test_what_a_later_step_reads_inside_its_band_undoes_no_earlier_one(name: str, share: float) -> None:
    site = Site(line_of(RIGHT[name]))
    site.leaves_as_proposed()
    sheet = site.sheet
    while todo := next((s for s in sheet.values() if s.state is StepState.NEXT), None):
        off = {
            r.id: float(r.expected) * (1 + share * r.tolerance)
            for r in todo.step.readings
            if r.expected is not None and r.tolerance is not None and not r.twice
        }
        for kind, data, wait in answers(todo.step):
            site.keeps(todo.step.id, kind, data | off, "as read", 60 + wait)
        if todo.step.proof == "photo":
            site.keeps(todo.step.id, "photo", {"photo": "p1"})
        sheet = site.sheet
        stale = {s: status.changed for s, status in sheet.items() if status.state is StepState.STALE}
        assert stale == {}, todo.step.id
        assert sheet[todo.step.id].done_or_left_out, todo.step.id


# the fault call


def test_a_fault_call_asks_what_the_display_says_before_anything_else(fan: Site) -> None:
    fan.comes("fault call")
    assert list(fan.sheet) == [FOUND, TOUCHED, "finish.automatic", "finish.put_back", "finish.record"]
    assert [s.state.value for s in fan.sheet.values()] == ["next", *["later"] * 4]
    with pytest.raises(Held, match="As found"):
        fan.keeps(TOUCHED, "picked", {"sensor": True})
    fan.keeps(FOUND, "log", {"trip": "overvoltage", "when": "ramping_down", "code": "F 012", "frequency": 22.0})
    cause = fan.sheet[CAUSE].step
    assert {"ramp_down_too_short", "overhauled", "other"} == set(cause.choices or {})
    first = next(c for c in CAUSES if c.id == next(iter(cause.choices or {})))
    assert first.measure[1:] in cause.what.text()  # the likeliest cause's next measurement


PARTS = [
    ("nothing", set(), {"isolate.lock_out", "power.energise", "turn.rotation"}),
    ("settings", {"data.motor", "data.limits", "loop.steady"}, {"isolate.lock_out", "turn.rotation"}),
    ("sensor", {"isolate.absence", "signals.sensor", "loop.action"}, {"turn.rotation", "data.motor"}),
    ("motor", {"isolate.insulation", "data.motor", "turn.rotation", "turn.baseline"}, {"signals.input", "loop.steady"}),
    ("motor_cable", {"isolate.absence", "isolate.insulation", "turn.rotation"}, {"turn.step_up", "data.motor"}),
    ("supply", {"isolate.absence", "power.line_volts", "power.energise"}, {"turn.rotation", "data.limits"}),
    ("contacts", {"isolate.interlock", "signals.digital"}, {"turn.rotation", "data.motor"}),
    ("machine", {"isolate.lock_out", "turn.rotation", "turn.baseline"}, {"isolate.absence", "data.motor"}),
]


@pytest.mark.parametrize(("part", "asked", "spared"), PARTS)
def test_only_what_a_repair_can_have_moved_is_proven_anew(
    part: str, asked: set[str], spared: set[str], fan: Site
) -> None:
    fan.comes("fault call")
    fan.keeps(FOUND, "log", {"trip": "overcurrent", "when": "starting"})
    fan.keeps(CAUSE, "choice", {"choice": "other"})
    fan.keeps(TOUCHED, "picked", {part: True})
    assert asked <= set(fan.open)
    assert not spared & set(fan.sheet)
    fan.does_all()
    assert fan.open == []


def test_what_was_touched_stays_to_be_proven_when_the_visit_is_ended_too_early(fan: Site) -> None:
    fan.comes("fault call")
    fan.keeps(FOUND, "log", {"trip": "overcurrent", "when": "starting"})
    fan.keeps(TOUCHED, "picked", {"motor": True})
    fan.comes("start-up")
    assert "turn.rotation" in fan.open
    assert "signals.input" not in fan.open
    assert [e for e in fan.kept if e.step == "turn.rotation"]  # never deleted


def test_two_fault_calls_each_ask_of_their_own(fan: Site) -> None:
    for _ in range(2):
        fan.comes("fault call")
        assert fan.state(FOUND) is StepState.NEXT
        fan.keeps(FOUND, "log", {"trip": "sensor_lost", "when": "steady"})
        fan.keeps(CAUSE, "choice", {"choice": "other"})
        fan.keeps(TOUCHED, "picked", {"nothing": True})
        fan.does_all()
        assert fan.open == []


# the re-check


def test_a_re_check_reads_todays_rows_beside_the_baseline(pump: Site) -> None:
    full = next(e for e in reversed(pump.kept) if e.step == "turn.step_up")
    pump.comes("re-check")
    table = pump.sheet[ROWS].step.table
    assert table is not None
    assert float(table.references[-1]) == full.data["reference"]
    assert {c: float(f) for c, f in table.expected[-1].items()} == {
        c: v for c, v in full.data.items() if c != "reference"
    }
    assert table.expected[-1]["current"].origin.provenance == "read"  # type: ignore[union-attr]
    worn = {**full.data, "pressure": full.data["pressure"] * 0.85}
    made = pump.keeps(ROWS, "row", worn)
    assert made.out == ("pressure",)
    assert "signals.sensor" in pump.open
    assert len(pump.sheet) <= 6


def test_without_a_baseline_it_is_read_beside_the_model(booster: Line) -> None:
    site = Site(booster)
    site.comes("re-check")
    assert "beside the model" in site.sheet[ROWS].step.what.text()


# the replacement


def test_a_replaced_drive_makes_everything_be_proven_anew(pump: Site) -> None:
    pump.comes("replacement")
    assert next(iter(pump.sheet)) == TOUCHED
    pump.keeps(TOUCHED, "picked", {"drive": True})
    whole = {s.id for s in pump.judged.plan.whole}
    assert set(pump.open) >= {s for s in whole if s.split(".")[0] in ("isolate", "power", "data", "turn", "signals")}
    assert pump.judged.line.on_site.settings == {}  # what was read back from the old drive says nothing of the new one
    pump.does_all()
    assert pump.open == []


def test_a_replaced_sensor_leaves_the_motor_alone(pump: Site) -> None:
    pump.comes("replacement")
    pump.keeps(TOUCHED, "picked", {"sensor": True})
    assert "signals.sensor" in pump.open
    assert "data.motor" not in pump.sheet


# the wrong way round


def test_the_wrong_way_round_opens_lock_wait_and_measuring_anew(booster: Line) -> None:
    site = Site(booster)
    while site.state("turn.rotation") is not StepState.NEXT:
        site.does(next(s for s, status in site.sheet.items() if status.state is StepState.NEXT))
    assert SWAP not in site.sheet
    site.keeps("turn.rotation", "choice", {"choice": "wrong"})
    assert site.open[:4] == ["isolate.lock_out", "isolate.capacitors", "isolate.absence", SWAP]
    assert site.state("turn.rotation") is StepState.LATER
    with pytest.raises(Held, match="Turn it round"):
        site.keeps("turn.rotation", "choice", {"choice": "right"})
    assert site.state("isolate.wiring") is StepState.DONE
    site.does("isolate.lock_out")
    with pytest.raises(Held, match="the clock has not been started"):  # that of the first wait does not count
        site.keeps("isolate.capacitors", "tick")
    for step in ("isolate.capacitors", "isolate.absence"):
        site.does(step)
    site.keeps(SWAP, "choice", {"choice": "vw"})
    site.does("power.energise")
    site.does("turn.rotation")
    assert site.state("turn.rotation") is StepState.DONE
    assert site.sheet[SWAP].evidence[0].data == {"choice": "vw"}


def test_reversed_in_the_drive_no_lead_is_touched(booster: Line) -> None:
    site = Site(booster)
    while site.state("turn.rotation") is not StepState.NEXT:
        site.does(next(s for s, status in site.sheet.items() if status.state is StepState.NEXT))
    site.keeps("turn.rotation", "choice", {"choice": "wrong", "school": "drive"}, "no isolator in reach tonight")
    assert SWAP not in site.sheet
    assert site.state("turn.rotation") is StepState.FAILED
    assert standing(list(site.sheet.values()))


# to put back


def test_what_is_changed_for_now_holds_the_end_until_it_is_back(pump: Site) -> None:
    pump.comes("fault call")
    noted = pump.keeps("finish.put_back", "temporary", {"what": "Bridge on the safety contact"})  # before its turn
    assert "Bridge on the safety contact" in still_behind(list(pump.sheet.values()))
    pump.keeps(FOUND, "log", {"trip": "interlock", "when": "standing"})
    pump.keeps(CAUSE, "choice", {"choice": "other"})
    pump.keeps(TOUCHED, "picked", {"nothing": True})
    pump.does("finish.automatic")
    with pytest.raises(Held, match="Bridge on the safety contact"):
        pump.does("finish.put_back")
    pump.keeps("finish.put_back", "back", {"of": noted.id})
    pump.does("finish.put_back")
    assert still_behind(list(pump.sheet.values())) == []


def test_what_is_still_changed_is_on_the_list_of_the_next_visit_too(pump: Site) -> None:
    noted = pump.keeps("finish.put_back", "temporary", {"what": "High-pressure alarm raised"})
    pump.comes("re-check")
    assert "High-pressure alarm raised" in still_behind(list(pump.sheet.values()))
    pump.keeps("finish.put_back", "back", {"of": noted.id})
    pump.does_all()
    assert pump.open == []


def test_what_a_step_leaves_behind_is_on_the_list_once_it_is_done(booster: Line) -> None:
    site = Site(booster)
    assert still_behind(list(site.sheet.values())) == []
    while site.state("finish.put_back") is not StepState.NEXT:
        site.does(next(s for s, status in site.sheet.items() if status.state is StepState.NEXT))
    assert any("Source off the sensor input" in what for what in still_behind(list(site.sheet.values())))
    site.does("finish.put_back")
    assert still_behind(list(site.sheet.values())) == []
    site.keeps("finish.put_back", "temporary", {"what": "Ramp at 0 s"})
    assert site.state("finish.put_back") is not StepState.DONE


# several drives


def test_each_drive_of_a_set_has_its_own_evidence(records: dict[str, Any]) -> None:
    site = Site(line_of(records["set"]))
    rotations = [s for s in site.sheet if s.startswith("turn.rotation")]
    assert rotations == ["turn.rotation", "turn.rotation.2", "turn.rotation.3"]
    absence = site.sheet["isolate.absence"].step
    assert [float(r) for r in absence.table.references] == [1, 2, 3]  # type: ignore[union-attr]
    site.does("isolate.lock_out")
    site.does("isolate.capacitors")
    dead = {r.id: 0.3 for r in absence.table.columns}  # type: ignore[union-attr]
    site.keeps("isolate.absence", "row", {"reference": 1, **dead})
    assert site.state("isolate.absence") is StepState.NEXT  # two are still to be measured
    site.keeps("isolate.absence", "row", {"reference": 2, **dead, "dc": 240.0}, "a little charge, it will be fine")
    assert site.state("isolate.absence") is StepState.FAILED
    for drive in (2, 3):
        site.keeps("isolate.absence", "row", {"reference": drive, **dead})
    assert site.state("isolate.absence") is StepState.DONE
    site.does_all()
    assert site.open == []
    assert {e.step for e in site.kept} >= {"turn.step_up.2", "turn.step_up.3"}


def test_one_drive_that_turns_the_wrong_way_holds_the_set(records: dict[str, Any]) -> None:
    site = Site(line_of(records["set"]))
    while site.state("turn.rotation.2") is not StepState.NEXT:
        site.does(next(s for s, status in site.sheet.items() if status.state is StepState.NEXT))
    site.keeps("turn.rotation.2", "choice", {"choice": "wrong"})
    assert "isolate.lock_out" in site.open
    assert site.state("turn.step_up") is StepState.LATER


def test_the_units_of_a_wall_take_their_numbers_before_anything_is_entered(records: dict[str, Any]) -> None:
    site = Site(line_of(records["fan_wall"]))
    order = list(site.sheet)
    assert order.index("power.region") < order.index("power.number") < order.index("data.motor")
    table = site.sheet["isolate.absence"].step.table
    assert table is not None
    assert len(table.references) == 6
    assert "Unit 1 only" in site.sheet["power.energise"].step.what.text()
    site.does_all()
    assert site.state("power.number") is StepState.DONE
    assert site.state("data.motor") is StepState.HELD  # its plate was typed twice, and not the same


def test_a_borehole_that_gives_what_is_foretold_is_right_as_wired(records: dict[str, Any]) -> None:
    site = Site(line_of(records["borehole"]))
    while site.state("turn.rotation") is not StepState.NEXT:
        site.does(next(s for s, status in site.sheet.items() if status.state is StepState.NEXT))
    foretold = site.sheet["turn.rotation"].step.readings[0].expected
    assert foretold is not None
    site.keeps("turn.rotation", "turns", {"first_pressure": float(foretold) * 0.97, "choice": "first"})
    assert site.state("turn.rotation") is StepState.DONE


def test_each_drive_of_a_set_shows_its_own_address(records: dict[str, Any]) -> None:
    line = line_of(records["set"]).with_values(control={"link": "monitor", "bus_address": 17, "device_instance": 2001})
    link = Site(line).sheet["many.link"].step
    assert (link.proof, link.units) == ("units", 3)
    assert link.items["bus_address"].endswith("17, 18, 19")
    assert link.items["device_instance"].endswith("2001, 2002, 2003")
    assert "may" in link.items
