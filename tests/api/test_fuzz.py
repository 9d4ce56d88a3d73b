"""Whatever the schema allows, and much that it does not, gets an answer in words and never a server error."""

import json
import os
import uuid
from typing import Any

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from hypothesis.errors import Unsatisfiable
from peewee import MySQLDatabase
from schemathesis.generation import GenerationMode
from schemathesis.specs.openapi.checks import negative_data_rejection, positive_data_acceptance
from starlette.testclient import TestClient

from mainspring.api.app import create_app
from mainspring.api.settings import AppSettings
from mainspring.core.procedure import kinds
from mainspring.demo import pumps
from mainspring.demo.load import load_demo
from tests.api.conftest import Line

EXAMPLES = int(os.environ.get("MAINSPRING_FUZZ", "100"))  # `benchmarks fuzz` asks for 2,000
QUIET = {"deadline": None, "database": None, "suppress_health_check": list(HealthCheck)}


@pytest.mark.parametrize("mode", [GenerationMode.POSITIVE, GenerationMode.NEGATIVE])
def test_every_answer_is_one_that_the_schema_tells_of(mode: GenerationMode, db: MySQLDatabase, compiled: None) -> None:
    load_demo(db)
    app = create_app(AppSettings(), db)
    schema = schemathesis.openapi.from_asgi("/api/openapi.json", app, headers={"Host": "127.0.0.1"})
    tried = 0
    for found in schema.get_all_operations():
        operation = found.ok()
        if operation.path.endswith("/stream"):
            continue  # has no end; tests/ui/test_stream.py reads it

        @given(case=operation.as_strategy(generation_mode=mode))
        @settings(max_examples=max(1, EXAMPLES // 12), derandomize=True, **QUIET)
        def ask(case: schemathesis.Case) -> None:
            response = case.call(headers={"Host": "127.0.0.1"})
            # what no schema can say: a record may be of the right shape and still make no sense
            # and a body that is too large is refused before it is read, whatever stands in it
            refused = [negative_data_rejection] if response.status_code == 413 else []
            case.validate_response(response, excluded_checks=[positive_data_acceptance, *refused])

        try:
            ask()
        except Unsatisfiable:  # nothing about this operation can be got wrong
            continue
        tried += 1
    assert tried >= 10


# much that no client of ours would send

odd_text = st.text(max_size=40) | st.sampled_from(
    ["\x00", "\ud800", "\r", "'; DROP TABLE site; --", "<script>", "{x}", "％", "1e400", "=1+1", "x" * 3000]
)
odd_number = st.floats() | st.integers() | st.sampled_from([1e308, -1e308, 10**400, 2**63, -0.0])
odd = st.recursive(
    st.none() | st.booleans() | odd_number | odd_text,
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(odd_text, inner, max_size=4),
    max_leaves=12,
)
odd_moment = st.sampled_from(["0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-14:00", "2026-02-30T00:00:00Z", "now"])


def post(client: TestClient, method: str, path: str, body: Any) -> None:
    """Ask with a body that JSON itself may not allow; the answer is one of ours."""
    content = json.dumps(body).encode("utf-8", "surrogatepass")
    answer = client.request(method, path, content=content, headers={"Content-Type": "application/json"})
    assert answer.status_code < 500, f"{method} {path}: {answer.text[:300]}"
    if answer.status_code >= 400:
        assert answer.headers["content-type"] == "application/problem+json"
        assert answer.json()["detail"]


def changed(record: dict[str, Any], draw: st.DrawFn) -> dict[str, Any]:
    """A right record with something odd somewhere."""
    copied: dict[str, Any] = json.loads(json.dumps(record))
    group = draw(st.sampled_from(sorted(copied)))
    name = draw(st.sampled_from(sorted(copied[group])) | odd_text)
    copied[group][name] = draw(odd | st.fixed_dictionaries({"value": odd, "provenance": odd_text, "note": odd}))
    return copied


@st.composite
def requests(draw: st.DrawFn) -> tuple[str, str, Any]:
    """A request to any route that takes a body, right but for something odd."""
    key = str(uuid.UUID(int=draw(st.integers(0, 2**128 - 1))))
    step = draw(st.sampled_from(["isolate.lock_out", "isolate.absence", "turn.step_up"]) | odd_text)
    by = draw(st.just("Ana") | odd_text)
    entry = {"id": key, "step": step, "kind": draw(st.sampled_from(kinds()) | odd_text), "by": by}
    more = {"data": odd, "note": odd, "at": odd_moment, "paper": st.booleans(), "seen": odd, "instrument": odd}
    entry |= draw(st.fixed_dictionaries({}, optional=more))
    visit = {"by": by, "purpose": draw(st.just("start-up") | odd_text)}
    visit |= draw(st.fixed_dictionaries({}, optional={"instruments": odd, "note": odd, "closed": odd, "seen": odd}))
    record = changed(pumps.BOOSTER, draw)
    draft = {"record": record, "site_id": draw(st.none() | odd_text)}
    options: list[tuple[str, str, Any]] = [
        ("POST", "/evidence", entry),
        ("PUT", f"/visits/{key}", visit),
        ("PUT", "/settings/ramps.up/left", {"value": draw(odd), "seen": draw(odd), "by": by}),
        ("PUT", "", {"revision": draw(odd), "tag": draw(odd), "record": record, "by": by}),
        ("POST", "/api/assess", draft),
        ("POST", "/api/loop", {**draft, "tried": draw(odd)}),
        ("POST", "/api/working", {**draft, "key": draw(st.just("line.slip") | odd_text)}),
        ("POST", "/api/trips", {**draft, "kind": draw(st.just("overcurrent") | odd_text), "frequency": draw(odd)}),
        ("POST", "/api/curves", draft),
        ("POST", "/api/sites", {"id": key, "name": draw(odd), "entries": draw(odd), "by": by}),
        ("PUT", f"/api/sites/{key}", {"revision": 1, "name": draw(odd), "entries": draw(odd), "by": by}),
        ("POST", "/api/methods/pump_shaft_power", {"inputs": draw(odd)}),
    ]
    return draw(st.sampled_from(options))


def test_nothing_odd_in_a_body_makes_a_server_error(client: TestClient, new_line: Line) -> None:
    @given(of=requests())
    @settings(max_examples=EXAMPLES, **QUIET)
    def ask(of: tuple[str, str, Any]) -> None:
        method, path, body = of
        post(client, method, path if path.startswith("/api") else f"/api/lines/{new_line['id']}{path}", body)

    ask()
    assert client.get(f"/api/lines/{new_line['id']}").status_code == 200


def test_nothing_odd_in_a_file_makes_a_server_error(client: TestClient, demo: dict[str, str]) -> None:
    whole = client.get(f"/api/lines/{demo['CW-BST-2']}/export.json").json()

    @st.composite
    def spoilt(draw: st.DrawFn) -> dict[str, Any]:
        file: dict[str, Any] = json.loads(json.dumps(whole))
        part = draw(st.sampled_from(["site", "line", "visits", "evidence", "settings", "version", "units"]))
        inside = file[part]
        if isinstance(inside, list) and inside:
            inside = inside[draw(st.integers(0, len(inside) - 1))]
        if isinstance(inside, dict):
            inside[draw(st.sampled_from(sorted(inside)) | odd_text)] = draw(odd | odd_moment)
        else:
            file[part] = draw(odd)
        return file

    @given(file=spoilt())
    @settings(max_examples=EXAMPLES, **QUIET)
    def ask(file: dict[str, Any]) -> None:
        post(client, "POST", f"/api/import?id={uuid.uuid4()}&by=Ana", file)

    @given(text=st.text(st.sampled_from("0123456789.,;\t\n\r eE+-[]()inQHmsg\"'\x00"), max_size=400), fan=st.booleans())
    @settings(max_examples=EXAMPLES, **QUIET)
    def read(text: str, fan: bool) -> None:
        answer = client.post(f"/api/curves/file?fan={fan}", content=text.encode())
        assert answer.status_code in (200, 422), answer.text[:300]

    ask()
    read()
