"""Evidence: what was read or done, by whom and when, with the values it rested on. The one shape of it everywhere."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime
from typing import Any

from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.line.record import is_field, unentered
from mainspring.core.method import Figure
from mainspring.core.procedure.clock import Clock

ANY_TIME = ("temporary", "back")  # what was changed for the work is noted when it is, and not when its step comes
NAME_LIMIT = 120
NOTE_LIMIT = 2000
INSTRUMENT_NAME_LIMIT = 200
OLDEST = datetime(2000, 1, 1, tzinfo=UTC)  # no entry is older


class Held(MainspringError, PermissionError):
    """A step cannot be proven now; the text says what holds it and for how long."""


@dataclass(frozen=True)
class Instrument:
    """What was measured with, and the last day on which its calibration holds."""

    name: str
    due: date | None = None

    def to_data(self) -> dict[str, str]:
        """As kept and filed."""
        return {"name": self.name, **({"due": self.due.isoformat()} if self.due else {})}

    @classmethod
    def from_data(cls, data: object) -> "Instrument":
        """From kept or filed data. Raises BadEntry."""
        if not isinstance(data, Mapping):
            raise BadEntry("instrument", data, "a name, and the date its calibration ends")
        name = check_text("instrument", data.get("name"), INSTRUMENT_NAME_LIMIT, least=1)
        due = data.get("due")
        if due is None:
            return cls(name)
        try:
            return cls(name, date.fromisoformat(due))
        except (TypeError, ValueError):
            raise BadEntry("instrument.due", due, "a date such as 2027-03-31") from None

    def overdue(self, at: datetime) -> bool:
        """Whether its calibration was over at a moment."""
        return self.due is not None and at.date() > self.due


@dataclass(frozen=True)
class Evidence:
    """One piece of evidence, never changed once kept.

    `out` are the readings outside their band; with a `note` that explains them the piece may have passed all the same.
    `received` is when the server took it, where that is another moment than `at`: entered without a link or from
    paper; `paper` marks the latter for ever. `clock` is when the server took it, by two clocks.
    """

    step: str
    kind: str  # start, or that of a proof, or note, photo, override
    data: dict[str, Any]
    by: str
    at: datetime
    leaves: dict[str, Any] = field(default_factory=dict)
    passed: bool = True
    note: str = ""
    id: str = ""
    instrument: Instrument | None = None
    received: datetime | None = None
    visit: str | None = None
    paper: bool = False
    clock: Clock | None = None
    digest: str = ""  # of what was sent

    @property
    def out(self) -> tuple[str, ...]:
        """Ids of the readings outside their band."""
        return tuple(self.data.get("out", ()))


def leaves_of(figures: Iterable[Figure]) -> dict[str, Any]:
    """The record values that figures rest on, by field path; constants and assumptions of rules left out.

    So is a field for which something was assumed because nobody had entered it: entered later, it is another value.
    """
    found: dict[str, Any] = {}
    for figure in figures:
        for leaf, value in figure.leaves():
            if "." not in leaf.field or found.get(leaf.field) is not None:
                continue
            if leaf.entered:
                found[leaf.field] = value
            elif is_field(leaf.field):
                found[leaf.field] = unentered(leaf.field)
    return found


def check_name(by: object) -> str:
    """The name of who does it. Raises BadEntry."""
    try:
        return check_text("name", by, NAME_LIMIT, least=1)
    except BadEntry as problem:
        raise BadEntry("name", problem.value, f"who did it, up to {NAME_LIMIT} characters") from None


def check_text(name: str, text: object, limit: int, *, least: int = 0) -> str:
    """A text as kept: trimmed, neither too short nor too long, and one that can be kept at all. Raises BadEntry."""
    if not isinstance(text, str):
        raise BadEntry(name, text, "text")
    cleaned = text.strip()
    if not least <= len(cleaned) <= limit:
        allowed = f"up to {limit} characters, not {len(cleaned)}" if cleaned else "at least one character"
        raise BadEntry(name, cleaned, allowed)
    try:
        cleaned.encode()
    except UnicodeEncodeError:  # half of a surrogate pair
        raise BadEntry(name, ascii(cleaned), "text in whole characters") from None
    return cleaned


def check_plain(name: str, value: object, depth: int = 2, most: int = 200) -> None:
    """Data of an entry as it may be kept: finite numbers, short texts, few keys, little nesting. Raises BadEntry."""
    if value is None or isinstance(value, bool):
        return
    if isinstance(value, (int, float)):
        if not math.isfinite(value) or abs(value) >= 1e15:
            raise BadEntry(name, value, "a finite number")
    elif isinstance(value, str):
        check_text(name, value, NOTE_LIMIT)
    elif isinstance(value, (list, tuple, Mapping)):
        if depth == 0 or len(value) > most:
            raise BadEntry(name, type(value).__name__, f"up to {most} values, nested no deeper than two")
        pairs = value.items() if isinstance(value, Mapping) else enumerate(value)
        for key, inner in pairs:
            check_text(f"{name}: key", str(key), 200)
            check_plain(f"{name}.{key}", inner, depth - 1, most)
    else:
        raise BadEntry(name, type(value).__name__, "numbers, texts, lists and objects")
