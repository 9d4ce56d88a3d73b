"""A whole line as open JSON: record, visits, evidence and settings, with its site; imports again as an equal line.

The models below are the format. Their JSON Schema is published in `docs/line-file.schema.json`, written by
`python -m mainspring.exchange.line_file FILE`, and every export is checked against it in the tests.
"""

import json
import sys
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, PlainSerializer, ValidationError

from mainspring.core.errors import BadEntry
from mainspring.core.procedure import OLDEST, PURPOSES, Evidence, Instrument, Visit, kinds
from mainspring.core.systems import USUAL
from mainspring.exchange.units import Units

FORMAT = "mainspring-line"
# 2: visits and instruments; 3: what was entered from paper, and when the server took each piece; 4: decided;
# 5: each drive of a set, what is to be put back, the former drive
# 6: each unit of a wall of fans
VERSION = 6
UNITS = "SI; speeds in r/min, temperatures in °C, time in s"
SIZE_LIMIT = 20_000_000  # bytes
DEPTH_LIMIT = 12

Moment = Annotated[AwareDatetime, PlainSerializer(lambda at: at.isoformat(), return_type=str)]
Plain = dict[str, Any]
Name = Annotated[str, Field(min_length=1, max_length=120)]
Words = Annotated[str, Field(max_length=2000)]


class _Part(BaseModel):
    """Base of the parts: nothing unknown, no NaN or infinity; what is empty is not written."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class InstrumentPart(_Part):
    """What was measured with."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    due: date | None = None


class VisitPart(_Part):
    """One dated stay."""

    purpose: str = Field(json_schema_extra={"enum": list(PURPOSES)})
    by: Name
    at: Moment
    instruments: Annotated[list[InstrumentPart], Field(max_length=30)] = []
    note: Words = ""
    closed: Moment | None = None
    paper: bool = False


class EvidencePart(_Part):
    """One piece of evidence; `visit` counts the file's visits from 0."""

    step: Annotated[str, Field(min_length=1, max_length=80)]
    kind: str = Field(json_schema_extra={"enum": list(kinds())})
    data: Plain = {}
    leaves: Plain = {}
    passed: bool = True
    by: Name
    at: Moment
    note: Words = ""
    instrument: InstrumentPart | None = None
    received: Moment | None = None
    paper: bool = False
    visit: Annotated[int, Field(ge=0)] | None = None


class SettingPart(_Part):
    """A setting as found, decided or left; a decided one with its reason, `taken` one that was not read back."""

    setting: Annotated[str, Field(max_length=80)]
    moment: Literal["found", "decided", "left", "former"]
    value: float | str
    by: Name
    at: Moment
    why: Annotated[str, Field(max_length=500)] = ""
    taken: bool = False


class SitePart(_Part):
    """The site the line stands at."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    units: Units = USUAL
    entries: Plain = {}


class LinePart(_Part):
    """The line itself; `record` by group and field, as the catalogue names them."""

    tag: Annotated[str, Field(min_length=1, max_length=200)]
    title: Annotated[str, Field(max_length=200)] = ""
    record: Plain


class LineFile(_Part):
    """What an export holds."""

    format: Literal["mainspring-line"] = "mainspring-line"
    version: int = VERSION
    units: str = UNITS
    site: SitePart
    line: LinePart
    visits: Annotated[list[VisitPart], Field(max_length=2000)] = []
    evidence: Annotated[list[EvidencePart], Field(max_length=50_000)] = []
    settings: Annotated[list[SettingPart], Field(max_length=2000)] = []


def part_of_visit(visit: Visit) -> VisitPart:
    """A visit as filed."""
    return VisitPart(
        purpose=visit.purpose,
        by=visit.by,
        at=visit.at,
        instruments=[InstrumentPart(name=i.name, due=i.due) for i in visit.instruments],
        note=visit.note,
        closed=visit.closed,
        paper=visit.paper,
    )


def visit_of(part: VisitPart, id: str) -> Visit:
    """A visit from a file."""
    tools = tuple(Instrument(i.name, i.due) for i in part.instruments)
    return Visit(id, part.purpose, part.by, part.at, tools, part.note, part.closed, part.paper)


def part_of_evidence(made: Evidence, visits: list[str]) -> EvidencePart:
    """A piece of evidence as filed; `visits` are the ids of the file's visits."""
    tool = made.instrument
    return EvidencePart(
        step=made.step,
        kind=made.kind,
        data=made.data,
        leaves=made.leaves,
        passed=made.passed,
        by=made.by,
        at=made.at,
        note=made.note,
        instrument=None if tool is None else InstrumentPart(name=tool.name, due=tool.due),
        received=made.received,
        paper=made.paper,
        visit=visits.index(made.visit) if made.visit in visits else None,
    )


def dump(file: LineFile) -> str:
    """The text of an export, stable from one export to the next."""
    return json.dumps(file.model_dump(mode="json"), ensure_ascii=False, allow_nan=False, indent=1)


def load(text: bytes | str) -> LineFile:
    """An export read back; BadEntry says what is wrong with a file that is cut, foreign or of a newer version."""
    if len(text) > SIZE_LIMIT:
        raise BadEntry("file", f"{len(text)} bytes", f"up to {SIZE_LIMIT} bytes")
    data = _json(text)
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadEntry("format", data.get("format") if isinstance(data, dict) else type(data).__name__, FORMAT)
    version = data.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise BadEntry("version", version, f"1 to {VERSION}")
    if version > VERSION:
        raise BadEntry("version", version, f"up to {VERSION}: the file comes from a newer Mainspring, update this one")
    try:
        return LineFile.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        path = ".".join(str(p) for p in first["loc"])
        raise BadEntry(path, first.get("input"), first["msg"]) from None


def _json(text: bytes | str) -> Any:
    try:
        data = json.loads(text, parse_constant=_no_number)
        json.dumps(data, ensure_ascii=False).encode()  # half a surrogate pair is no text that can be kept
        _shallow(data)
    except (ValueError, RecursionError) as error:
        where = f" (it ends or breaks at character {error.pos})" if isinstance(error, json.JSONDecodeError) else ""
        raise BadEntry("file", "not whole JSON", f"a complete Mainspring export{where}") from None
    return data


def _no_number(name: str) -> float:
    raise ValueError(f"{name} is no number")


def _shallow(data: object, depth: int = 0) -> None:
    if depth > DEPTH_LIMIT:
        raise ValueError("nested too deep")
    inner = data.values() if isinstance(data, dict) else data if isinstance(data, list) else ()
    for value in inner:
        _shallow(value, depth + 1)


def check_moment(name: str, at: datetime, now: datetime) -> datetime:
    """A moment from 2000 to now. Raises BadEntry."""
    if not OLDEST <= at <= now:
        raise BadEntry(name, at.isoformat(), f"from {OLDEST:%Y} to now")
    return at.astimezone(UTC)


def schema_text() -> str:
    """The JSON Schema of the format."""
    schema = LineFile.model_json_schema(mode="serialization")
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(schema_text(), encoding="utf-8")
