"""The command line: methods, calculations, assessing files, export and import, and its errors."""

import json
from pathlib import Path
from typing import Any

import pytest
from peewee import MySQLDatabase

from mainspring import cli
from mainspring.demo.load import load_demo


def run(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[int, str, str]:
    try:
        code = cli.main(list(arguments))
    except SystemExit as left:
        code = int(left.code or 0)
    said = capsys.readouterr()
    return code, said.out, said.err


def test_methods_are_listed_with_formula_and_source(capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = run(capsys, "methods")
    assert code == 0
    assert "pump_shaft_power" in out
    assert "Pump Handbook" in out


@pytest.mark.parametrize(
    ("arguments", "answer"),
    [
        (("pump_shaft_power", "flow=50 L/s", "head=20 m", "efficiency=80 %"), "pump_shaft_power = 12.2362 kW"),
        (("pump_shaft_power", "flow=50 L/s", "head=20 m", "efficiency=80 %", "--us"), "16.4091 hp"),
        (("synchronous_speed", "frequency=60", "poles=4"), "synchronous_speed = 1800 r/min"),
        (("unbalance", "readings=460;467;450"), "unbalance = 1.96078 %"),
        (("simc_pi", "process_gain=2", "time_constant=10 s", "dead_time=2", "closed_loop_time=2"), "gain = 1.25"),
        (("pump_shaft_power", "Q=50 L/s", "H=20 m", "eta=80 %"), "12.2362 kW"),
    ],
)
def test_calc(arguments: tuple[str, ...], answer: str, capsys: pytest.CaptureFixture[str]) -> None:
    code, out, _ = run(capsys, "calc", *arguments)
    assert code == 0
    assert answer in out


def test_calc_shows_its_working_and_speaks_json(capsys: pytest.CaptureFixture[str]) -> None:
    _, out, _ = run(capsys, "calc", "synchronous_speed", "frequency=50", "poles=4", "--working")
    assert "120·f / p" in out
    assert "120 × 50 Hz / 4" in out
    _, out, _ = run(capsys, "calc", "synchronous_speed", "frequency=50", "poles=4", "--json", "--working")
    assert json.loads(out)["working"]["value"] == 1500


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (("calc", "pump_shaft_power", "flow=x"), "flow is x"),
        (("calc", "pump_shaft_power", "flow"), "is not NAME="),
        (("calc", "pump_shaft_power", "flow=1"), "also head, efficiency"),
        (("calc", "pump_shaft_power", "flow=1", "head=1", "efficiency=80"), "write 80 % or 0.8"),
        (("calc", "pump_shaft_pwr"), "did you mean pump_shaft_power"),
        (("assess", "/nowhere.json"), "No such file"),
        (("serve", "--host", "0.0.0.0"), "loopback only"),
        (("dance",), "invalid choice"),
    ],
)
def test_bad_input_goes_to_standard_error_with_code_2(
    arguments: tuple[str, ...], words: str, capsys: pytest.CaptureFixture[str]
) -> None:
    code, out, err = run(capsys, *arguments)
    assert code == 2
    assert words in err
    assert out == ""


def test_assess_judges_a_bare_record(
    tmp_path: Path, records: dict[str, Any], capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "record.json"
    file.write_text(json.dumps(records["planted"]))
    code, out, _ = run(capsys, "assess", str(file))
    assert code == 0
    assert out.startswith("stop     motor           Speed is the synchronous speed. 1500 r/min leaves no slip")
    _, out, _ = run(capsys, "assess", str(file), "--json")
    assert json.loads(out)["findings"][0]["id"] == "speed_leaves_slip"
    records["planted"]["supply"]["voltage"] = 5000
    file.write_text(json.dumps(records["planted"]))
    code, out, _ = run(capsys, "assess", str(file))
    assert code == 2
    assert "not taken: Nominal voltage is 5000 V" in out
    file.write_text("{")
    code, _, err = run(capsys, "assess", str(file))
    assert code == 2
    assert "breaks at character" in err


def test_export_and_import_over_a_given_database(
    db: MySQLDatabase,
    database_url: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    monkeypatch.setenv("MAINSPRING_DATABASE_URL", database_url)
    load_demo(db)
    assert run(capsys, "migrate")[1] == "nothing to do\n"
    file = tmp_path / "line.json"
    assert run(capsys, "export", "CW-BST-2", str(file))[0] == 0
    assert json.loads(file.read_text())["line"]["tag"] == "CW-BST-2"
    code, out, _ = run(capsys, "import", str(file), "--by", "Ana")
    assert code == 0
    assert out.startswith("CW-BST-2 imported as ")
    code, _, err = run(capsys, "export", "CW-BST-2")
    assert code == 2
    assert "2 lines are called CW-BST-2" in err
    assert run(capsys, "demo", "--reset", "--yes")[0] == 0
    assert run(capsys, "export", "CW-BST-2")[0] == 0


def test_families_go_out_to_a_folder_and_come_in_from_it(
    db: MySQLDatabase,
    database_url: str,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
) -> None:
    monkeypatch.setenv("MAINSPRING_DATABASE_URL", database_url)
    folder = tmp_path / "maps"
    code, out, _ = run(capsys, "families", "out", str(folder))
    assert code == 0
    assert {line.split()[0] for line in out.splitlines()} >= {"calder", "oriel", "tern", "wren"}
    own = json.loads((folder / "wren.json").read_text())
    (folder / "own.json").write_text(json.dumps({**own, "id": "own-wren", "name": "Own"}))
    code, out, _ = run(capsys, "families", "in", str(folder), "--by", "Ana")
    assert code == 0
    assert "own.json: Own taken in" in out
    assert "wren.json: Wren as it was" in out
    assert "own.json: Own as it was" in run(capsys, "families", "in", str(folder))[1]
    (folder / "zz.json").write_text("{")
    code, _, err = run(capsys, "families", "in", str(folder))
    assert code == 2
    assert "JSON of a family" in err
    assert run(capsys, "families", "in", str(tmp_path / "none"))[0] == 2
