"""A family of drives as an open file: JSON with a published schema, and its parameter list as CSV.

The JSON is `core.families.Family` with `format` and `version`; its schema is `docs/family-file.schema.json`, written by
`python -m mainspring.exchange.family_file FILE`. The CSV has one row for each parameter; choices stand in one cell as
`choice=[code] word` with a bar between, and what a table cannot say stays as it is in the family it is read into.
"""

import csv
import io
import json
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter, ValidationError

from mainspring.core.errors import BadEntry
from mainspring.core.families import Family, Parameter, Word, check_family
from mainspring.exchange.settings_csv import harmless

FORMAT, VERSION = "mainspring-family", 1
SIZE_LIMIT = 5_000_000  # bytes
_FAMILY = TypeAdapter(Family)
_PARAMETER = TypeAdapter(Parameter)


def family_json(family: Family) -> dict[str, Any]:
    """The family as plain data; what stands at its default is not written."""
    plain: dict[str, Any] = _FAMILY.dump_python(family, mode="json", exclude_defaults=True)
    return plain


def write_family(family: Family) -> str:
    """The file's text."""
    return json.dumps({"format": FORMAT, "version": VERSION, **family_json(family)}, ensure_ascii=False, indent=1)


def family_of_plain(plain: Any) -> Family:
    """A family from plain data; BadEntry names the place, what stands there and what is allowed."""
    try:
        return check_family(_FAMILY.validate_python(plain))
    except ValidationError as problem:
        first = problem.errors(include_url=False)[0]
        place = ".".join(map(str, first["loc"])) or "the file"
        raise BadEntry(place, str(first.get("input"))[:80], first["msg"]) from None


def read_family(text: str | bytes) -> Family:
    """A file read back; BadEntry for one that is cut, foreign, too large or of a newer version."""
    if len(text) > SIZE_LIMIT:
        raise BadEntry("the file", f"{len(text)} bytes", f"up to {SIZE_LIMIT} bytes")
    try:
        plain = json.loads(text)
    except (ValueError, RecursionError):
        raise BadEntry("the file", text[:40], "JSON of a family") from None
    if not isinstance(plain, dict) or plain.get("format") != FORMAT:
        raise BadEntry("format", "none" if not isinstance(plain, dict) else plain.get("format"), FORMAT)
    if plain.get("version") != VERSION:
        raise BadEntry("version", plain.get("version"), f"{VERSION}; a newer file needs a newer Mainspring")
    return family_of_plain({k: v for k, v in plain.items() if k not in ("format", "version")})


COLUMNS = (
    "number", "label", "page", "setting", "unit", "scale", "offset", "decimals", "step", "low", "high", "of",
    "default 50 Hz", "default 60 Hz", "choices", "stopped", "cycle", "doubt",
)  # fmt: skip


def family_csv(family: Family) -> str:
    """The parameter list as CSV, in the first language of the family."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for p in family.parameters:
        cells = (
            p.number, p.called(), p.page, p.setting, p.unit, f"{p.scale:g}", f"{p.offset:g}", str(p.decimals),
            f"{p.step:g}", _cell(p.low), _cell(p.high), p.of, p.default.get("50", ""), p.default.get("60", ""),
            " | ".join(f"{id}=[{w.code}] {p.word(id)}".strip() for id, w in p.choices.items()),
            "yes" * p.stopped, "yes" * p.cycle, p.doubt,
        )  # fmt: skip
        writer.writerow([harmless(cell) for cell in cells])
    return out.getvalue()


def parameters_of_csv(text: str, into: Family) -> tuple[Parameter, ...]:
    """The parameter list of a CSV as written above; what a row does not say is taken from the family it goes into.

    Raises BadEntry with the row's number.
    """
    rows = list(csv.DictReader(io.StringIO(text.removeprefix("\ufeff"))))
    if not rows or "number" not in rows[0]:
        raise BadEntry("the table", text[:40], f"CSV with the columns {', '.join(COLUMNS)}")
    known = {(p.number, p.setting): p for p in into.parameters}
    language = into.languages[0]
    found = []
    for at, row in enumerate(rows, 2):
        cells = {k: (v or "").strip().removeprefix("'") for k, v in row.items() if isinstance(k, str)}
        base = known.get((cells["number"], cells.get("setting", ""))) or Parameter(cells["number"], {})
        try:
            found.append(_of_cells(base, cells, language))
        except ValueError as problem:
            raise BadEntry(f"row {at}", cells["number"], str(problem)) from None
    return tuple(found)


def _cell(number: float | None) -> str:
    return "" if number is None else f"{number:.12g}"


def _of_cells(base: Parameter, cells: dict[str, str], language: str) -> Parameter:
    def number(name: str, otherwise: float) -> float:
        return float(cells[name]) if cells.get(name) else otherwise

    default = {r: cells[f"default {r} Hz"] for r in ("50", "60") if cells.get(f"default {r} Hz")}
    return replace(
        base,
        label={**base.label, language: cells.get("label", "")} if cells.get("label") else base.label,
        page=cells.get("page", base.page),
        setting=cells.get("setting", base.setting),
        unit=cells.get("unit", base.unit),
        scale=number("scale", 1.0),
        offset=number("offset", 0.0),
        decimals=int(number("decimals", 0)),
        step=number("step", 0.0),
        low=float(cells["low"]) if cells.get("low") else None,
        high=float(cells["high"]) if cells.get("high") else None,
        of=cells.get("of", base.of),
        default=default or base.default,
        choices=_choices(cells.get("choices", ""), base, language),
        stopped=cells.get("stopped", "") == "yes",
        cycle=cells.get("cycle", "") == "yes",
        doubt=cells.get("doubt", ""),
    )


def _choices(cell: str, base: Parameter, language: str) -> dict[str, Word]:
    found: dict[str, Word] = {}
    for part in filter(None, (p.strip() for p in cell.split("|"))):
        id, _, told = part.partition("=")
        code, _, word = told.strip().removeprefix("[").partition("]")
        word = word.strip()
        others = base.choices[id.strip()].word if id.strip() in base.choices else {}
        found[id.strip()] = Word(code, {**others, language: word} if word else others)
    return found


def schema_text() -> str:
    """The published JSON Schema."""
    schema = _FAMILY.json_schema()
    schema["title"] = "A Mainspring family of drives"
    head = {"format": {"const": FORMAT}, "version": {"const": VERSION}}
    schema["properties"] = {**head, **schema["properties"]}
    schema["required"] = [*head, *schema["required"]]
    return json.dumps(schema, indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(schema_text())
