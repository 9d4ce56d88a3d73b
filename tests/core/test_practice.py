"""Practice values: named once, and one change moves the check, the setting, the chart and the sentence."""

import re
from typing import Any

import pytest

from mainspring.core import practice
from mainspring.core.assess import assess
from mainspring.core.line import Line, parse_line
from mainspring.core.practice.__main__ import listed
from mainspring.core.practice.value import practice as declare
from tests.conftest import ROOT


def with_site(record: dict[str, Any], changes: dict[str, tuple[str, float]], **own: float) -> Line:
    data = {g: dict(f) for g, f in record.items()}
    for group, (name, value) in changes.items():
        data.setdefault(group, {})[name] = {"value": value}
    data["site"] = {**data.get("site", {}), **{k: {"value": v} for k, v in own.items()}}
    line, problems = parse_line(data)
    assert not problems
    return line


def finding(line: Line, check: str) -> tuple[str, str]:
    found = next(f for f in assess(line).findings if f.id == check)
    return found.severity.word, " ".join(p.text() for p in (found.because, found.do) if p is not None)


def planned(line: Line, setting: str) -> tuple[Any, str]:
    row = next(r for r in assess(line).settings if r.setting.id == setting)
    assert row.planned is not None, row.missing
    return row.planned.value, row.planned.reason.text()


def test_a_site_that_fits_filters_later_has_its_own_limit(records: dict[str, dict[str, Any]]) -> None:
    lead = {"drive": ("lead_length", 45.0)}
    severity, words = finding(with_site(records["booster"], lead), "motor_lead_is_short")
    assert (severity, "over 30 m" in words.replace("\u202f", " ")) == ("caution", True)
    assert finding(with_site(records["booster"], lead, lead_plain=50.0), "motor_lead_is_short")[0] == "clear"


def test_the_low_limit_moves_in_setting_reason_and_what_rests_on_it(records: dict[str, dict[str, Any]]) -> None:
    usual, own = (with_site(records["booster"], {}, **v) for v in ({}, {"low_limit_above": 2.0}))
    for setting, by in (("pid.output_low", 1.0), ("sleep.frequency", 1.0)):
        assert planned(own, setting)[0] == pytest.approx(planned(usual, setting)[0] + by, abs=1e-9)
    assert "2 Hz above" in planned(own, "pid.output_low")[1].replace("\u202f", " ")
    assert planned(own, "limits.minimum_speed")[0] == pytest.approx(
        planned(usual, "limits.minimum_speed")[0] + 1.0, abs=1e-9
    )


@pytest.mark.parametrize(
    ("setting", "own", "value"),
    [
        ("sleep.delay", "house_sleep_delay", 45.0),
        ("sleep.boost", "house_boost", 4e4),
        ("retry.count", "house_retries", 1.0),
        ("protection.dry_run_restart", "dry_run_restart", 1200.0),
        ("protection.dry_run_tries", "dry_run_tries", 3.0),
    ],
)
def test_a_house_rule_is_what_is_planned(
    setting: str, own: str, value: float, records: dict[str, dict[str, Any]]
) -> None:
    record = {g: dict(f) for g, f in records["booster"].items()}
    for name in ("sleep_delay", "boost"):
        record["control"].pop(name, None)
    found, words = planned(with_site(record, {}, **{own: value}), setting)
    assert float(found) == value
    assert planned(with_site(record, {}), setting)[0] != value
    assert words


def test_a_site_may_not_go_beyond_what_is_sensible() -> None:
    _, problems = parse_line({"site": {"lead_plain": {"value": 400.0}, "safe_volts": {"value": 60.0}}})
    assert "up to 150" in str(problems["site.lead_plain"])
    assert "site.safe_volts" in problems  # nobody may differ on what keeps people safe


def test_a_value_is_named_once_and_told_with_its_source() -> None:
    with pytest.raises(TypeError, match="two practice values are called lead_plain"):
        declare("lead_plain", 1.0, "length", "again")
    assert practice.PRACTICE["safe_volts"].source.title == "NFPA 70E, OSHA 1910.333"
    assert (ROOT / "docs/practice.md").read_text() == listed(), "python -m mainspring.core.practice docs/practice.md"


def test_no_check_or_setting_holds_a_number_of_its_own() -> None:
    """What is compared is a named value: bare numbers would be thresholds that nobody finds."""
    compared = re.compile(r"(?:[<>]=?|==)\s*-?(\d+\.?\d*(?:e-?\d+)?)\b|\b(\d+\.?\d*)\s*[<>]=?")
    allowed = {"0", "1", "2", "0.0", "1.0"}
    for file in sorted((ROOT / "mainspring/core/checks").glob("*.py")):
        for number, text in enumerate(file.read_text().splitlines(), 1):
            found = {g for m in compared.finditer(text.split("#")[0]) for g in m.groups() if g}
            assert found <= allowed, f"{file.name}:{number}: {text.strip()}"
