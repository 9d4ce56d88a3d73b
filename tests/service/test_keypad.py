"""The keypad over a store: what was read back by a version of a map is told when that map has changed."""

from dataclasses import replace

import pytest
from peewee import MySQLDatabase

from mainspring.demo.load import load_demo
from mainspring.demo.sites import demo_id
from mainspring.service import families
from mainspring.service.service import Service


def test_a_family_that_ships_otherwise_next_time_is_compared_with_what_was_read_back(
    db: MySQLDatabase, monkeypatch: pytest.MonkeyPatch
) -> None:
    load_demo(db)
    line = demo_id("CW-BST-1")
    before = Service(db).keypads.put(line, "ramps.up", "left", "100", None, "Ana")
    assert before.older == []
    shipped = families.shipped_families()
    calder = shipped["calder"]
    finer = tuple(replace(p, scale=100.0) if p.setting == "ramps.up" else p for p in calder.parameters)
    monkeypatch.setattr(families, "shipped_families", lambda: {**shipped, "calder": replace(calder, parameters=finer)})
    again = Service(db)  # as the next version of the application has it
    (older,) = again.keypads.view(again.open_lines.open(line)).older
    assert older.digest == calder.digest
    assert [(c.number, c.words) for c in older.changes] == [("E01", "scale 10 → 100.")]
