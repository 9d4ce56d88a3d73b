"""A drive's own parameters: kept under their label with value and reason, read back, dialled, and in every file."""

import json

import pytest

from mainspring.core.errors import BadEntry
from mainspring.core.settings.own import own_id, setting_of
from mainspring.service.errors import BadRecord
from mainspring.service.handover import settings_table
from mainspring.service.service import Service
from mainspring.service.sheet import set_rows
from mainspring.service.transfer import export_line

STOP = "own.61.4 Stop at no flow"


@pytest.mark.parametrize("label", ["", "x", "a/b", "n" * 71, "61.4\x07"])
def test_a_label_that_cannot_stand_is_refused_by_name(label: str) -> None:
    with pytest.raises(BadEntry, match=r"parameter is .*; allowed: number and name as the drive shows them"):
        own_id(label)


def test_a_label_keeps_its_words_with_single_spaces() -> None:
    assert own_id("  61.4  Stop at   no flow ") == STOP
    assert setting_of("own.61.4  Stop") is None  # not as it would be kept
    assert setting_of("limits.nothing") is None
    known = setting_of(STOP)
    assert known is not None
    assert (known.label, known.group) == ("61.4 Stop at no flow", "own")


def test_it_is_found_decided_left_and_told_like_any_setting(service: Service, line_id: str) -> None:
    service.sheets.put(line_id, STOP, "found", "275", "Ana")
    with pytest.raises(BadRecord, match="reason"):
        service.sheets.put(line_id, STOP, "decided", "0", "Ana")
    sheet = service.sheets.put(line_id, STOP, "decided", "0", "Ana", why="learning runs with it off")
    [row] = [r for r in sheet.rows if r.id == STOP]
    assert (row.group, row.found, row.decided, row.left, row.verdict) == ("own", "275", "0", None, "open")
    assert any(r.row.setting.id == STOP for r in set_rows(service.sheets.lines.open(line_id)))
    sheet = service.sheets.put(line_id, STOP, "left", "275", "Ana")
    [row] = [r for r in sheet.rows if r.id == STOP]
    assert row.verdict == "differs"
    sheet = service.sheets.put(line_id, STOP, "left", "0", "Ana", seen="275")
    assert next(r for r in sheet.rows if r.id == STOP).verdict == "decided"


def test_it_is_at_the_keypad_with_its_number_before_the_code_closes(service: Service, line_id: str) -> None:
    service.sheets.put(line_id, STOP, "decided", "275", "Ana", why="as the maker's sheet has it")
    view = service.keypads.view(service.sheets.lines.open(line_id))
    [step] = [s for s in view.steps if s.setting == STOP]
    assert (step.fields[0].number, step.text) == ("61.4", "275")
    assert step.label == "61.4 Stop at no flow"
    after = service.keypads.put(line_id, STOP, "left", "275", None, "Ana")
    assert next(s for s in after.steps if s.setting == STOP).left == "275"


def test_it_stands_in_the_table_and_comes_back_from_a_file(service: Service, line_id: str) -> None:
    service.sheets.put(line_id, STOP, "left", "275", "Ana")
    assert "61.4 Stop at no flow" in settings_table(service.sheets.lines.open(line_id), "si")
    sent = export_line(service.sheets.lines.open(line_id))
    assert any(part["setting"] == STOP and part["value"] == "275" for part in json.loads(sent)["settings"])
