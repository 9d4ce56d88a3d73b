"""What a method refuses is said of the plant or the entry: no bare mould of a method reaches a finding."""

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Severity
from mainspring.core.checks.plainly import MEANS, plainly
from mainspring.core.errors import BadEntry, NoSolution, OutOfRange, check_range
from tests.conftest import line_of
from tests.core.test_answers import changed
from tests.core.test_checks import Record

UNJUDGED = [
    ("circulator", "machine.best_flow=0.0006 machine.curve=-", "times the best flow"),
    ("booster", "system.suction_pressure=900000", "The inlet alone gives more"),
    ("fan_wall", "motor.magnet_poles=5", "even number of poles"),
    ("booster", "motor.rated_speed=3545", "faster than a motor of two poles"),
    ("booster", "drive.ambient=68", "outside any derating"),
]


@pytest.mark.parametrize(("name", "changes", "said"), UNJUDGED)
def test_a_finding_that_cannot_be_judged_says_what_is_wrong_and_what_to_look_at(
    name: str, changes: str, said: str, records: dict[str, Record]
) -> None:
    found = [f for f in assess(line_of(changed(records[name], changes))).findings if f.severity is Severity.UNKNOWN]
    told = [f for f in found if f.title.startswith("Cannot be judged")]
    assert any(said in f.because.text() for f in told), [f.because.text() for f in told]
    for f in told:
        assert "allowed:" not in f.because.text(), f.because.text()


def test_whatever_else_is_refused_is_a_sentence_too() -> None:
    why, do = plainly(OutOfRange("tank ratio", "3", "up to 2"))
    assert why == "Tank ratio 3 is outside what can be computed: up to 2"
    assert do
    assert plainly(NoSolution("no water moves")) == ("no water moves", "")
    for words, look in MEANS.values():
        assert words.format(field="x", value="1", allowed="up to 2")
        assert look.endswith(".")


@pytest.mark.parametrize("typed", [80.0, 1.5, 100.0])
def test_a_percentage_read_as_a_ratio_says_how_to_write_it(typed: float) -> None:
    with pytest.raises(
        BadEntry, match=f"efficiency: {typed:g} was read as a ratio; write {typed:g} % or {typed / 100:g}"
    ):
        check_range("efficiency", typed, above=0, upto=1)
    with pytest.raises(BadEntry, match="allowed: above 0 up to 1"):
        check_range("efficiency", 8000.0, above=0, upto=1)
