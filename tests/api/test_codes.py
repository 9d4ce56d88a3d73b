"""Access codes: encrypted, shown with a reason that the story tells, in no export; and the sheet as files."""

import io
import subprocess
import threading
import zipfile
from pathlib import Path
from typing import Any

import openpyxl
import pytest
from cryptography.fernet import Fernet
from fastapi.testclient import TestClient
from peewee import MySQLDatabase

from mainspring.api.app import create_app
from mainspring.api.settings import AppSettings
from mainspring.exchange.settings_csv import HEADER, write_xlsx
from mainspring.service.service import Service
from mainspring.store import repository
from mainspring.store.database import transact
from tests.conftest import ROOT

CODE = "4711-blau"


@pytest.fixture
def own(db: MySQLDatabase, tmp_path: Path, compiled: None) -> Any:
    """A client whose data folder is its own, and that folder's key file."""
    settings = AppSettings(data=tmp_path / "kept")
    return TestClient(create_app(settings, db), base_url="http://127.0.0.1"), tmp_path / "kept.key"


def test_a_code_is_kept_encrypted_and_shown_with_a_reason(own: Any, demo: dict[str, str], db: MySQLDatabase) -> None:
    client, key = own
    path = f"/api/lines/{demo['PF-1']}/code"
    assert client.get(path).json()["kept"] is False
    kept = client.put(path, json={"code": CODE, "by": "Ana"})
    assert (kept.status_code, kept.json()["code"], kept.json()["by"]) == (200, None, "Ana")
    assert key.stat().st_mode & 0o077 == 0  # nobody else reads the key
    secret = transact(db, lambda: repository.code(demo["PF-1"]))
    assert secret is not None
    assert CODE not in secret.secret
    assert Fernet(key.read_bytes()).decrypt(secret.secret.encode()).decode() == CODE
    assert client.post(f"{path}/show", json={"why": " ", "by": "Ben"}).status_code == 422
    shown = client.post(f"{path}/show", json={"why": "setpoint asked for by the site", "by": "Ben"}).json()
    assert shown["code"] == CODE
    story = client.get(f"/api/lines/{demo['PF-1']}/story").text
    assert "Access code shown" in story
    assert "setpoint asked for by the site" in story
    for text in (story, client.get(f"/api/lines/{demo['PF-1']}/export.json").text):
        assert CODE not in text
        assert secret.secret not in text
    key.write_bytes(Fernet.generate_key())  # another machine, another key
    lost = client.post(f"{path}/show", json={"why": "again", "by": "Ben"})
    assert lost.status_code == 404
    assert "kept.key" in lost.json()["detail"]
    assert client.put(path, json={"code": "", "by": "Ana"}).json()["kept"] is False
    assert client.put(path, json={"code": "x" * 300, "by": "Ana"}).status_code == 422


@pytest.mark.parametrize(("content", "mode", "says"), [
    (b"", 0o600, "holds no key"), (b"not a key", 0o600, "holds no key"),
    (Fernet.generate_key(), 0o644, "read by others"), (Fernet.generate_key(), 0o660, "read by others"),
], ids=["empty", "no key", "read by all", "written by the group"])  # fmt: skip
def test_a_key_that_cannot_be_used_is_said_and_everything_else_works(
    own: Any, demo: dict[str, str], content: bytes, mode: int, says: str
) -> None:
    client, key = own
    key.write_bytes(content)
    key.chmod(mode)
    path = f"/api/lines/{demo['PF-1']}/code"
    refused = client.put(path, json={"code": CODE, "by": "Ana"})
    assert (refused.status_code, says in refused.json()["detail"]) == (503, True)
    assert CODE not in refused.text
    assert client.get(path).json()["kept"] is False
    assert client.get(f"/api/lines/{demo['PF-1']}").status_code == 200


def test_the_key_is_made_at_first_start_for_its_owner_alone(db: MySQLDatabase, tmp_path: Path, compiled: None) -> None:
    create_app(AppSettings(data=tmp_path / "fresh"), db)
    key = tmp_path / "fresh.key"
    assert key.stat().st_mode & 0o777 == 0o600
    first = key.read_bytes()
    create_app(AppSettings(data=tmp_path / "fresh"), db)
    assert key.read_bytes() == first  # and kept
    create_app(AppSettings(data=tmp_path / "other"), db)
    assert (tmp_path / "other.key").read_bytes() != first


def test_no_key_is_in_the_repository() -> None:
    listed = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=False).stdout.split()
    assert [f for f in listed if f.endswith(".key")] == []
    assert "*.key" in (ROOT / ".gitignore").read_text().split()


@pytest.mark.parametrize("body", [
    {"code": CODE}, {"code": CODE, "by": 5}, {"code": CODE, "by": "Ana", "more": 1}, {"code": [CODE], "by": "Ana"},
    {"code": {"a": CODE}, "by": "Ana"}, {"code": CODE * 30, "by": "Ana"}, {"code": CODE, "by": ""},
])  # fmt: skip
def test_a_refusal_never_says_what_the_code_was(own: Any, demo: dict[str, str], body: dict[str, Any]) -> None:
    refused = own[0].put(f"/api/lines/{demo['PF-1']}/code", json=body)
    assert refused.status_code == 422
    assert CODE not in refused.text


def test_two_that_make_the_key_at_the_same_moment_have_one(
    demo: dict[str, str], db: MySQLDatabase, tmp_path: Path
) -> None:
    service = Service(db, tmp_path / "new" / "kept.key")
    gate = threading.Barrier(6)
    found: list[bytes] = []

    def make() -> None:
        gate.wait()
        service.codes._fernet()
        found.append(service.codes.key_file.read_bytes())

    threads = [threading.Thread(target=make) for _ in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(set(found)) == 1
    assert list(service.codes.key_file.parent.iterdir()) == [service.codes.key_file]


def test_the_sheet_goes_out_as_a_spreadsheet_and_as_paper(client: TestClient, demo: dict[str, str]) -> None:
    line = demo["CW-BST-2"]
    book = openpyxl.load_workbook(io.BytesIO(client.get(f"/api/lines/{line}/settings.xlsx").content))
    rows = {r[0]: dict(zip(HEADER, r, strict=True)) for r in book.active.iter_rows(min_row=2, values_only=True)}
    assert rows["ramps.up"]["dial"] == 100
    assert rows["ramps.up"]["planned"] == 10
    assert rows["stop.mode"]["as left"] == "ramp"
    pdf = client.get(f"/api/lines/{line}/keypad.pdf")
    assert pdf.headers["content-type"] == "application/pdf"
    assert pdf.content.startswith(b"%PDF")


@pytest.mark.parametrize("cell", ["=1+1", "+A1", "@SUM(A1)", "-cmd", "=HYPERLINK(1)", "\x07bell"])
def test_no_cell_starts_a_formula(cell: str) -> None:
    made = write_xlsx([[cell] * len(HEADER)], "a/b")
    sheet = openpyxl.load_workbook(io.BytesIO(made)).active
    assert all(c.data_type == "s" for c in sheet[2])
    with zipfile.ZipFile(io.BytesIO(made)) as parts:
        assert b"<f>" not in parts.read("xl/worksheets/sheet1.xml")
