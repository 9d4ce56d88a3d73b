"""A whole line as open JSON: record, evidence and settings, with its site; imports again as an equal line."""

import json
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from mainspring.core.errors import BadEntry

FORMAT = "mainspring-line"
VERSION = 2  # 2: visits, and what each piece of evidence was measured with
SIZE_LIMIT = 20_000_000  # bytes


@dataclass(frozen=True)
class LineFile:
    """What an export holds."""

    site: dict[str, Any]
    tag: str
    title: str
    record: dict[str, Any]
    evidence: list[dict[str, Any]]
    settings: list[dict[str, Any]]
    visits: list[dict[str, Any]] = field(default_factory=list)


def dump(file: LineFile) -> str:
    """The text of an export, stable from one export to the next."""
    return json.dumps(
        {
            "format": FORMAT,
            "version": VERSION,
            "units": "SI; speeds in r/min, temperatures in °C, time in s",
            "site": file.site,
            "line": {"tag": file.tag, "title": file.title, "record": file.record},
            "visits": file.visits,
            "evidence": file.evidence,
            "settings": file.settings,
        },
        ensure_ascii=False,
        allow_nan=False,
        indent=1,
    )


def load(text: bytes | str) -> LineFile:
    """An export read back; BadEntry says what is wrong with a file that is cut, foreign or of a newer version."""
    if len(text) > SIZE_LIMIT:
        raise BadEntry("file", f"{len(text)} bytes", f"up to {SIZE_LIMIT} bytes")
    try:
        data = json.loads(text)
        json.dumps(data, ensure_ascii=False).encode()  # half a surrogate pair is no text that can be kept
    except (ValueError, RecursionError) as error:
        where = f" (it ends or breaks at character {error.pos})" if isinstance(error, json.JSONDecodeError) else ""
        raise BadEntry("file", "not whole JSON", f"a complete Mainspring export{where}") from None
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise BadEntry("format", data.get("format") if isinstance(data, dict) else type(data).__name__, FORMAT)
    version = data.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise BadEntry("version", version, f"1 to {VERSION}")
    if version > VERSION:
        raise BadEntry("version", version, f"up to {VERSION}: the file comes from a newer Mainspring, update this one")
    line = _mapping(data, "line")
    tag, title = line.get("tag"), line.get("title", "")
    if not isinstance(tag, str) or not isinstance(title, str):
        raise BadEntry("line.tag", tag, "text")
    return LineFile(
        _mapping(data, "site"),
        tag,
        title,
        _mapping(line, "record"),
        _rows(data, "evidence", ("step", "kind", "by", "at")),
        _rows(data, "settings", ("setting", "moment", "by", "at")),
        _rows(data, "visits", ("by", "at")),
    )


def moment(text: object) -> datetime:
    """A moment of the file; BadEntry when it is none or lacks its offset."""
    try:
        found = datetime.fromisoformat(str(text))
    except ValueError:
        raise BadEntry("at", text, "a date and time such as 2026-11-25T09:41:00+00:00") from None
    if found.tzinfo is None:
        raise BadEntry("at", text, "a date and time with its offset")
    return found


def _mapping(data: dict[str, Any], name: str) -> dict[str, Any]:
    found = data.get(name)
    if not isinstance(found, dict):
        raise BadEntry(name, "missing" if found is None else type(found).__name__, "an object")
    return found


def _rows(data: dict[str, Any], name: str, texts: tuple[str, ...]) -> list[dict[str, Any]]:
    found = data.get(name, [])
    if not isinstance(found, list) or not all(isinstance(r, dict) for r in found):
        raise BadEntry(name, type(found).__name__, "a list of objects")
    for row in found:
        for text in texts:
            if not isinstance(row.get(text), str):
                raise BadEntry(f"{name}.{text}", row.get(text), "text")
    return found
