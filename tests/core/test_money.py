"""Tariffs by hand, and the worth of a saving against numpy-financial."""

import numpy_financial as theirs
import pytest
from hypothesis import given as for_all
from hypothesis import strategies as st

from mainspring.core.benches.savings.bill import bill_of, worth_of
from mainspring.core.benches.savings.duty import CALENDAR, YEAR, asked_of, year_hours
from mainspring.core.benches.savings.tariffs import tariff_of
from mainspring.core.errors import BadEntry, NoSolution, NotKnown
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.money import worth
from mainspring.core.money.tariff import tiered_cost
from tests.conftest import line_of

KWH = 3.6e6
HOUR = 3600.0


def watts(*values: float) -> list[Figure]:
    return [given("power", v, "input_power") for v in values]


def pump(site: dict[str, object], **duty: object) -> Line:
    profile = {"profile": [[0.02, 1000 * HOUR], [0.01, 2000 * HOUR]]} if "week" not in duty else {}
    return line_of({"line": {"application": "transfer"}, "site": site, "duty": {**profile, **duty}})


@for_all(
    cost=st.floats(1e3, 1e5),
    share=st.floats(0.15, 2.0),
    rise=st.floats(-0.02, 0.08),
    rate=st.floats(0.01, 0.15),
    years=st.integers(2, 25),
)
@pytest.mark.published("numpy-financial: npv, irr and mirr of the same cash flow")
def test_worth_agrees_with_numpy_financial(cost: float, share: float, rise: float, rate: float, years: int) -> None:
    saving = cost * share
    flow = [-cost] + [saving * (1 + rise) ** (t - 1) for t in range(1, years + 1)]
    present = worth.present_value_of_savings(saving, rate, rise, years)
    assert float(present) - cost == pytest.approx(theirs.npv(rate, flow), rel=1e-9, abs=1e-6 * cost)
    expected = theirs.mirr(flow, rate, rate)
    assert worth.modified_rate_of_return(cost, saving, rate, rise, years) == pytest.approx(expected, rel=1e-9, abs=1e-9)
    irr = worth.internal_rate_of_return(cost, saving, rise, years)
    assert theirs.npv(float(irr), flow) == pytest.approx(0.0, abs=1e-5 * cost)


@pytest.mark.published("numpy-financial: the payment of a loan of 1")
@pytest.mark.parametrize(("rate", "years"), [(0.03, 5), (0.08, 10), (0.12, 20)])
def test_capital_recovery_is_a_loans_payment(rate: float, years: int) -> None:
    assert worth.capital_recovery(rate, years) == pytest.approx(-theirs.pmt(rate, years, 1), rel=1e-12)


def test_discounted_payback_is_where_the_present_value_is_the_cost() -> None:
    whole = worth.discounted_payback(21_000, 5156, 0.08, 0.03, 10)
    before = worth.present_value_of_savings(5156, 0.08, 0.03, int(whole))
    after = worth.present_value_of_savings(5156, 0.08, 0.03, int(whole) + 1)
    assert before + (whole - int(whole)) * (after - before) == pytest.approx(21_000, rel=1e-9)
    with pytest.raises(NoSolution, match="not paid back within 3 years"):
        worth.discounted_payback(21_000, 5156, 0.08, 0.0, 3)


def test_what_never_pays_has_no_rate_of_return() -> None:
    with pytest.raises(NoSolution, match="no rate of return"):
        worth.internal_rate_of_return(1000, -10, 0.0, 5)
    assert worth.internal_rate_of_return(1000, 100, 0.0, 5) < 0  # it pays back half


def test_the_calendar_is_a_year_of_365_days_that_begins_on_a_monday() -> None:
    assert CALENDAR.sum() == pytest.approx(YEAR, rel=1e-12)
    assert CALENDAR[0].sum() == 31 * 24 * HOUR
    assert CALENDAR[:, 0].sum() == 53 * 24 * HOUR  # the first day of the week comes once more
    assert CALENDAR[:, 6].sum() == 52 * 24 * HOUR


@pytest.mark.common_practice
def test_a_bill_by_time_of_use_is_what_a_hand_computes() -> None:
    """A pump at 10 kW from 8 to 18 h on working days, 4 kW else: 0.20 from 8 to 18 h, 0.10 else."""
    site = {
        "energy_price": 0.10 / KWH,
        "tariff": "bands",
        "price_bands": [[1, 12, 1, 5, 8, 18, 0.20 / KWH]],
    }
    line = pump(site, week=[[1, 5, 8, 18, 0.02], [1, 7, 0, 24, 0.01]])
    asked = asked_of(line)
    days = 53 + 4 * 52  # working days of that year
    assert [a.hours / HOUR for a in asked] == pytest.approx([days * 10, 8760 - days * 10], rel=1e-12)
    bill = bill_of(line, asked, watts(10e3, 4e3))
    by_hand = days * 10 * 10 * 0.20 + (8760 - days * 10) * 4 * 0.10
    assert bill.total == pytest.approx(by_hand, rel=1e-9)
    assert bill.demand is None


@pytest.mark.common_practice
def test_a_demand_charge_is_of_each_months_highest_and_a_ratchet_of_the_years() -> None:
    site = {"energy_price": 0.10 / KWH, "demand_price": 12e-3}
    line = pump(site, week=[[1, 7, 0, 24, 0.01]])
    plain = bill_of(line, asked_of(line), watts(5e3))
    assert plain.demand == pytest.approx(12 * 5 * 12, rel=1e-9)
    ratchet = pump({**site, "demand_ratchet": 0.8}, week=[[1, 7, 0, 24, 0.01]])
    assert bill_of(ratchet, asked_of(ratchet), watts(5e3)).demand == pytest.approx(12 * 5 * 12, rel=1e-9)


@pytest.mark.common_practice
def test_in_blocks_a_saving_is_worth_the_last_one() -> None:
    tiers = [[500 * KWH, 0.10 / KWH], [1000 * KWH, 0.20 / KWH]]
    site = {"energy_price": 0.10 / KWH, "tariff": "tiers", "price_tiers": tiers, "other_use": 800 * KWH}
    line = pump(site, week=[[1, 7, 0, 24, 0.01]])
    asked = asked_of(line)
    before, now = watts(1e3), watts(500.0)
    found = worth_of(line, asked, before, now, year_hours([a.hours for a in asked]), given("s", 4380 * KWH, "energy"))
    assert found.marginal is not None
    assert found.marginal * KWH == pytest.approx(0.20, rel=1e-9)
    assert tiered_cost(800 * KWH, [r[0] for r in tiers], [r[1] for r in tiers]) == pytest.approx(110.0, rel=1e-9)


def test_bands_take_the_first_row_that_fits_and_reach_over_midnight_and_new_year() -> None:
    night = [[11, 2, 1, 7, 22, 6, 0.05 / KWH], [1, 12, 6, 7, 0, 24, 0.07 / KWH]]
    line = pump({"energy_price": 0.10 / KWH, "tariff": "bands", "price_bands": night})
    found = tariff_of(line).bands(line)
    first, second, rest = (band.where for band in found)
    assert first[0, 0, 23]
    assert first[11, 3, 2]
    assert not first[5, 0, 23]
    assert second[0, 6, 12]
    assert not second[0, 6, 23]  # the first row has it
    assert rest[5, 0, 12]
    assert not (first & second).any()
    assert (first | second | rest).all()


def test_hours_alone_are_spread_evenly_and_said_to_be_assumed() -> None:
    line = pump({"energy_price": 0.10 / KWH, "tariff": "bands", "price_bands": [[1, 12, 1, 7, 0, 12, 0.20 / KWH]]})
    asked = asked_of(line)
    bill = bill_of(line, asked, watts(10e3, 4e3))
    assert bill.total == pytest.approx((10 * 1000 + 4 * 2000) * 0.15, rel=1e-9)
    assert bill.total.assumed


def test_more_hours_than_a_year_has_are_refused_and_none_are_missing() -> None:
    with pytest.raises(BadEntry, match="at most the 8760"):
        asked_of(pump({}, profile=[[0.02, 5000 * HOUR], [0.01, 5000 * HOUR]]))
    with pytest.raises(NotKnown, match="hours at each flow"):
        asked_of(line_of({"line": {"application": "transfer"}}))
    with pytest.raises(NotKnown, match="hours at each flow"):
        asked_of(pump({}, profile=[[0.02, 0.0]]))
