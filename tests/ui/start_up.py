"""A fresh line at the server, for tests that begin with one."""

import copy
import json
import time
import urllib.request
import uuid
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from mainspring.core.assess import assess
from mainspring.core.line import OnSite, Told, in_force
from mainspring.core.procedure import Step
from mainspring.demo.evidence import answers
from mainspring.demo.sites import demo_id
from tests.conftest import line_of

if TYPE_CHECKING:
    from tests.ui.conftest import Application

Records = dict[str, dict[str, Any]]


class StartUp:
    """A fresh line, its steps as the core plans them, and what the server has of it."""

    def __init__(self, application: "Application", record: dict[str, Any], tag: str) -> None:
        self.application, self.id, self.tag, self.record = application, str(uuid.uuid4()), tag, record
        self.steps = {s.id: s for s in assess(line_of(record)).steps}
        self._send(
            "POST", "/api/lines", id=self.id, site_id=demo_id("orrendale"), tag=tag, title="", record=self._own()
        )

    def _own(self) -> dict[str, Any]:
        return {g: f for g, f in self.record.items() if g != "site"}

    def _send(self, method: str, path: str, **body: Any) -> Any:
        text = json.dumps({"by": "Ana", **body}).encode()
        request = urllib.request.Request(
            self.application.url + path, text, {"Content-Type": "application/json"}, method=method
        )
        with urllib.request.urlopen(request) as answer:
            return json.load(answer)

    def asks(self, path: str = "") -> Any:
        with urllib.request.urlopen(f"{self.application.url}/api/lines/{self.id}{path}") as answer:
            return json.load(answer)

    def keeps(self, step: str, kind: str = "tick", at: str | None = None, **data: Any) -> None:
        """Evidence from somewhere else: another person, or paper."""
        self._send(
            "POST", f"/api/lines/{self.id}/evidence", id=str(uuid.uuid4()), step=step, kind=kind, data=data, at=at
        )

    def changes(self, field: str, value: Any) -> Any:
        """One value of the record, as saved by somebody else; returns what it was."""
        group, name = field.split(".")
        was = self.record[group][name]
        self.record[group][name] = value
        line = self.asks()
        self._send(
            "PUT", f"/api/lines/{self.id}", revision=line["revision"], tag=self.tag, title="", record=self._own()
        )
        return was

    def kept(self, step: str) -> list[dict[str, Any]]:
        return next(s["evidence"] for s in self.asks("/run")["steps"] if s["id"] == step)

    def upto(self, last: str) -> Iterator[Step]:
        for step in self.steps.values():
            yield step
            if step.id == last:
                return

    def at(self, line_id: str) -> "StartUp":
        """The same, of another line that is like it."""
        other = copy.copy(self)
        other.id = line_id
        return other

    def does_upto(self, last: str, without: tuple[str, ...] = ()) -> None:
        """Every step up to and with one, as somebody else would have done it, but for some."""
        for step in self.upto(last):
            if step.id in without:
                continue
            if step.proof == "photo":
                self._keeps(step.id, "override", note="camera forgotten")
                continue
            for kind, data, _ in answers(step):
                self._keeps(step.id, kind, data)
                if kind == "start":
                    time.sleep(float(step.seconds or 0.0) + 0.1)  # a real clock: it cannot be cut short

    def _keeps(self, step: str, kind: str, data: dict[str, Any] | None = None, note: str = "") -> None:
        entry = {"id": str(uuid.uuid4()), "step": step, "kind": kind, "data": data or {}, "note": note}
        self._send("POST", f"/api/lines/{self.id}/evidence", **entry)

    def decides(self, why: str, **settings: float) -> None:
        """Settings as decided, dots as two underscores; the steps are those that follow from it."""
        named = {name.replace("__", "."): value for name, value in settings.items()}
        for name, value in named.items():
            self._send("PUT", f"/api/lines/{self.id}/settings/{name}/decided", value=value, why=why)
        told = {name: Told(value, "decided", "Ana", None, why) for name, value in named.items()}
        decided = in_force(line_of(self.record), OnSite(told, {}, told))
        self.steps = {s.id: s for s in assess(decided).steps}

    def takes_the_plan(self) -> None:
        """Everything else as proposed, not read back."""
        self._send("POST", f"/api/lines/{self.id}/settings/take-plan")

    def leaves(self, **settings: Any) -> None:
        """Settings as left, dots as two underscores."""
        for name, value in settings.items():
            self._send("PUT", f"/api/lines/{self.id}/settings/{name.replace('__', '.')}/left", value=value)
