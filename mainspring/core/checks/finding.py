"""What a check says, and how checks are declared and run."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from enum import IntEnum

from mainspring.core.checks.plainly import plainly
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, NoSolution, NotKnown
from mainspring.core.line import Line, find_field
from mainspring.core.line.applications import known_trait
from mainspring.core.line.stations import GROUPS, JOINTS, STATIONS
from mainspring.core.method import Source
from mainspring.core.sentence import Sentence, listed, say


class Severity(IntEnum):
    """How much a finding matters; the order is the order of attention."""

    STOP = 0
    CAUTION = 1
    UNKNOWN = 2
    CLEAR = 3

    @property
    def word(self) -> str:
        """stop, caution, unknown or clear."""
        return self.name.lower()


@dataclass(frozen=True)
class Fix:
    """A correction offered at one touch: the field and the likelier value (SI)."""

    field: str
    value: float | str | list[list[float]]
    label: Sentence


@dataclass(frozen=True)
class Finding:
    """One judgement: what, because (with numbers), what to do, on whose authority."""

    id: str
    place: str  # station or joint id
    severity: Severity
    title: str
    because: Sentence
    do: Sentence | None
    source: Source
    fields: tuple[str, ...]
    fix: Fix | None = None
    needs: tuple[str, ...] = ()
    doubts: str = ""  # the plate value that may be upheld against this finding
    meant: str = ""  # the entry that may stay as it is for a reason
    upheld: str = ""  # why it was upheld, or stays
    answers: tuple[str, ...] = ()  # entries, and settings, that close it
    holds: str = ""  # what must wait for it, a key of HOLDS
    asks: bool = False  # either of its entries may be the slip: it accuses none

    @property
    def accused(self) -> str:
        """The entry that it points at, if any."""
        return self.fix.field if self.fix else "" if self.asks else self.doubts


@dataclass(frozen=True)
class Verdict:
    """What a check function returns; the check adds id, place and source."""

    severity: Severity
    title: str
    because: Sentence
    do: Sentence | None = None
    fix: Fix | None = None
    asks: bool = False
    answers: tuple[str, ...] = ()  # those of the check's that close this verdict; none named means all


def stop(title: str, because: Sentence, do: Sentence, fix: Fix | None = None) -> Verdict:
    """Do not go on."""
    return Verdict(Severity.STOP, title, because, do, fix)


def caution(title: str, because: Sentence, do: Sentence | None = None, fix: Fix | None = None) -> Verdict:
    """Go on knowingly."""
    return Verdict(Severity.CAUTION, title, because, do, fix)


def asking(title: str, because: Sentence, do: Sentence) -> Verdict:
    """Go on knowingly; either of its entries may be the slip, and none is accused."""
    return Verdict(Severity.CAUTION, title, because, do, asks=True)


def clear(title: str, because: Sentence) -> Verdict:
    """Checked and right."""
    return Verdict(Severity.CLEAR, title, because)


# What a stop can hold: whatever would hurt, or be in vain, while it stands.
HOLDS = {
    "power": "power to the drive",
    "data": "what is entered into the drive",
    "turn": "the first turn",
    "loop": "closing the loop",
}

CheckFunction = Callable[[Line, Derived], Verdict | None]


@dataclass(frozen=True)
class Check:
    """A declared check."""

    id: str
    place: str
    about: str
    needs: tuple[str, ...]
    source: Source
    function: CheckFunction
    only: tuple[str, ...]
    once: tuple[str, ...]
    doubts: str
    holds: str
    partial: bool
    answers: tuple[str, ...]
    meant: str


CHECKS: list[Check] = []
# the plates first: a slip there is the root of what the joints then say
PLACE_ORDER = ("motor", *(s.id for s in STATIONS if s.id != "motor"), *JOINTS)


def check(
    *,
    place: str,
    about: str,
    needs: tuple[str, ...],
    source: Source,
    only: tuple[str, ...] = (),
    once: tuple[str, ...] = (),
    doubts: str = "",
    holds: str = "",
    partial: bool = False,
    answers: tuple[str, ...] = (),
    meant: str = "",
) -> Callable[[CheckFunction], CheckFunction]:
    """Declare a check at a station or joint.

    `about` completes "not known yet: …"; `needs` are the fields without which it says so; `only` are the traits of
    which the line must have one; `once` are fields asked on demand, and the check is silent until they are entered;
    `doubts` is the plate value that the technician may uphold against it; `holds` is what waits for it where it stops,
    and for a check that may stop it waits too while that check cannot judge, for the worst case is often the one that
    no method covers; a `partial` check judges what is there, and tells what is missing only where that stands. A check
    that may warn names its `answers`, the entries (or `settings.` and an id) that close it, with `@setpoint`,
    `@second` and `@range_high` for those of what the line holds; `meant` is the entry that may stay as it is for a
    reason, where it warns and does not stop. A check returns None where it has nothing to say.
    """
    if place not in PLACE_ORDER:
        raise TypeError(f"no station or joint is called {place}")
    if holds and holds not in HOLDS:
        raise TypeError(f"a stop cannot hold {holds}")
    for trait in only:
        known_trait(trait)
    entries = (path for path in (*answers, meant, doubts) if path and not path.startswith(("@", "settings.")))
    for path in (*needs, *once, *entries):
        find_field(path)

    def declare(function: CheckFunction) -> CheckFunction:
        CHECKS.append(
            Check(
                id=function.__name__,
                place=place,
                about=about,
                needs=needs,
                source=source,
                function=function,
                only=only,
                once=once,
                doubts=doubts,
                holds=holds,
                partial=partial,
                answers=answers,
                meant=meant,
            )
        )
        return function

    return declare


def run_checks(line: Line, derived: Derived) -> list[Finding]:
    """Every finding on a record, what matters most first; plates before joints within a severity."""
    found = [f for c in CHECKS if (f := run_check(c, line, derived))]
    return sorted(found, key=lambda f: (f.severity, PLACE_ORDER.index(f.place)))


def run_check(declared: Check, line: Line, derived: Derived) -> Finding | None:
    """What one check finds on a record; None where it is not for it, or has nothing to say.

    Raises TypeError for a check that stops without saying what it holds, or warns without saying what answers it.
    """
    if not line.applies(declared.only) or not all(line.has(path) for path in declared.once):
        return None
    missing = tuple(path for path in declared.needs if not line.has(path))
    if missing and not declared.partial:
        return _unknown(declared, missing)
    try:
        verdict = declared.function(line, derived)
    except NotKnown as gap:
        return _unknown(declared, missing or (gap.field,))
    except (NoSolution, BadEntry) as reason:
        why, look = plainly(reason)
        title = f"Cannot be judged: {declared.about}"
        verdict = Verdict(Severity.UNKNOWN, title, _told(why), say(look) if look else None)
    if verdict is None:
        return None
    if verdict.severity is Severity.STOP and not declared.holds:
        raise TypeError(f"{declared.id} stops and does not say what it holds")
    warns = verdict.severity <= Severity.CAUTION
    if warns and not declared.answers:
        raise TypeError(f"{declared.id} warns and does not say what answers it")
    meant = _entry(line, declared.meant) if verdict.severity is Severity.CAUTION else ""
    not_judged = verdict.severity is Severity.UNKNOWN
    finding = Finding(
        declared.id,
        declared.place,
        verdict.severity,
        verdict.title,
        verdict.because,
        verdict.do,
        declared.source,
        declared.needs,
        verdict.fix,
        doubts=declared.doubts if warns else "",
        meant=meant if meant and line.has(meant) else "",
        answers=tuple(path for a in verdict.answers or declared.answers if (path := _entry(line, a))) if warns else (),
        holds=declared.holds if verdict.severity is Severity.STOP or not_judged else "",
        asks=verdict.asks,
    )
    return _upheld(line, finding) if finding.doubts or finding.meant else finding


def _entry(line: Line, path: str) -> str:
    """The path that an answer means on this line: of what it holds where it is a part of that, else as it stands.

    Empty where the line is not asked it.
    """
    if path.startswith("settings."):
        return path
    if path.startswith("@"):
        path = "" if line.held is None else getattr(line.held, path[1:])
    return path if path and (line.has(path) or line.applies(find_field(path).when)) else ""


def _upheld(line: Line, finding: Finding) -> Finding:
    """A finding against an entry that the technician upholds: no longer in the way, its numbers still shown."""
    path = finding.doubts or finding.meant
    group, _, name = path.partition(".")
    entered = line.entries[group][name].upheld
    why = entered or (finding.meant and line.on_site.reason(path))
    if not why:
        return finding
    words, told = ("upheld", "The plate says so") if finding.doubts else ("meant so", "It stays so")
    return replace(
        finding,
        severity=Severity.CLEAR,
        title=f"{finding.title}: {words}",
        do=say(_safe(f"{told}: {why}")),
        fix=None,
        upheld=why,
        meant=finding.meant if entered else "",  # what was decided on the sheet is taken back there
        holds="",
        answers=(),
    )


def _unknown(declared: Check, missing: tuple[str, ...]) -> Finding:
    spoken = [find_field(path).spoken for path in missing]
    labels = [
        f"{label} of the {GROUPS[path.partition('.')[0]].label.lower()}" if spoken.count(label) > 1 else label
        for label, path in zip(spoken, missing, strict=True)
    ]
    return Finding(
        declared.id,
        declared.place,
        Severity.UNKNOWN,
        f"Not known yet: {declared.about}",
        say(_safe(f"Needs {listed(labels)}.")),
        None,
        declared.source,
        declared.needs,
        needs=missing,
        answers=missing,
    )


def _told(reason: str) -> Sentence:
    """What an error says, as a sentence of its own."""
    text = _safe(reason).rstrip(".")
    return say(f"{text[:1].upper()}{text[1:]}.")


def _safe(text: str) -> str:
    """Text without slot marks, so that what somebody typed is never taken for one."""
    return text.replace("{", "(").replace("}", ")")
