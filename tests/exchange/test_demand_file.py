"""Demand tables as somebody has them."""

from typing import Any

import pytest

from mainspring.core.errors import BadEntry
from mainspring.exchange.demand_file import read_demand


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("t;Q\ns;%\n0;20\n60;45,5", ((0.0, 0.2), (60.0, 0.455))),
        ("0,20\n60,45.5", ((0.0, 0.2), (60.0, 0.455))),
        ("10\t20 %\n70\t45.5 %", ((0.0, 0.2), (60.0, 0.455))),
        ("0 20\r\n60 45.5", ((0.0, 0.2), (60.0, 0.455))),
        ("07:00 20\n07:01 45.5", ((0.0, 0.2), (60.0, 0.455))),
    ],
)
def test_a_demand_table_is_read_however_it_is_parted(text: str, found: Any) -> None:
    rows = read_demand(text)
    assert [t for t, _ in rows] == [t for t, _ in found]
    assert [q for _, q in rows] == pytest.approx([q for _, q in found], rel=1e-9)


@pytest.mark.parametrize(
    ("text", "match"),
    [("", "0 rows"), ("0 1\nx 2\n3 4", "row 2"), ("0 1\n0 2", "later"), ("0 9e9", "share"), ("0 10\n9", "row 2")],
)
def test_a_demand_table_that_cannot_be_names_the_row(text: str, match: str) -> None:
    with pytest.raises(BadEntry, match=match):
        read_demand(text)
