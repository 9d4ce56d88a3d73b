"""What can be added to: a made-up one of each from outside the package, without changing a file.

A kind of proof stands in `test_judgement`, a setting in `test_consequences`, a unit system in `test_quantity`.
"""

from typing import Any

import pytest

from mainspring.core.assess import assess
from mainspring.core.benches.savings.bill import bill_of
from mainspring.core.benches.savings.duty import asked_of
from mainspring.core.benches.savings.tariffs import COSTS, Tariff
from mainspring.core.checks import finding
from mainspring.core.checks.finding import Severity, Verdict, caution, check
from mainspring.core.derived import Derived
from mainspring.core.energy.annual import energy_of_profile
from mainspring.core.line import Line
from mainspring.core.line.applications import APPLICATIONS, Application
from mainspring.core.line.tariffs import TARIFFS
from mainspring.core.method import COMMON_PRACTICE, Figure, given
from mainspring.core.money.payback import yearly_money
from mainspring.core.sentence import say
from tests.conftest import line_of

DOSING = Application(
    "dosing",
    "Dosing pump",
    "pump",
    ("reference", "flow"),
    5.0,
    "a diaphragm stands any speed",
    1.0,
    1.0,
    "Dosing: at once.",
    does="Adds so much of one liquid to another.",
    certain=("flow",),
    traits=("meters",),
)


def test_an_application_is_asked_checked_and_set_by_its_row(
    monkeypatch: pytest.MonkeyPatch, records: dict[str, Any]
) -> None:
    monkeypatch.setitem(APPLICATIONS, "dosing", DOSING)
    record = records["irrigation"]
    record["line"] = {**record["line"], "application": "dosing", "holds": "reference"}
    line = line_of(record)
    assert {"dosing", "pump", "meters", "holds:reference"} <= line.traits
    found = assess(line)
    told = [f for f in found.findings if "applications" in f.id or "application" in f.id]
    assert all(f.severity is not Severity.STOP for f in told)
    planned = {r.setting.id: r.planned for r in found.settings if r.planned is not None}
    assert planned["ramps.up"].value == 1.0
    assert "a diaphragm stands any speed" in planned["limits.minimum_speed"].reason.text()
    assert found.steps


def test_a_check_is_run_where_its_trait_is(monkeypatch: pytest.MonkeyPatch, booster: Line) -> None:
    monkeypatch.setattr(finding, "CHECKS", [*finding.CHECKS])

    @check(
        place="machine",
        about="whether it is green",
        needs=("machine.count",),
        source=COMMON_PRACTICE,
        only=("pump",),
        answers=("machine.count",),
        meant="machine.count",
    )
    def it_is_green(line: Line, derived: Derived) -> Verdict:
        return caution("It is green", say("{n} of them.", n=line.machine.count), say("Paint it."))

    found = {f.id: f for f in assess(booster).findings}
    assert found["it_is_green"].title == "It is green"
    assert found["it_is_green"].severity is Severity.CAUTION


def test_a_tariff_is_a_name_and_what_it_costs(monkeypatch: pytest.MonkeyPatch) -> None:
    def half_price(line: Line, asked: list[Any], powers: list[Figure]) -> Figure:
        return yearly_money(energy_of_profile(powers, [a.hours for a in asked]), line.site.energy_price * 0.5)

    monkeypatch.setitem(TARIFFS, "friends", "For friends")
    monkeypatch.setitem(COSTS, "friends", Tariff(half_price, lambda _: []))
    bills = {}
    for tariff in ("flat", "friends"):
        line = line_of(
            {
                "line": {"application": "transfer"},
                "site": {"energy_price": 0.20 / 3.6e6, "tariff": tariff},
                "duty": {"profile": [[0.02, 3.6e6], [0.01, 7.2e6]]},
            }
        )
        bills[tariff] = bill_of(line, asked_of(line), [given("p", v, "input_power") for v in (4e3, 1e3)]).total
    assert bills["flat"] == pytest.approx(0.20 * (4 * 1000 + 1 * 2000), rel=1e-9)
    assert bills["friends"] == pytest.approx(bills["flat"] / 2, rel=1e-9)
