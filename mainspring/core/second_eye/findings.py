"""What is said of a suspicion, and what then becomes of the checks' own accusations."""

from dataclasses import replace

from mainspring.core.checks.finding import PLACE_ORDER, Finding, Fix, Severity
from mainspring.core.line import Line, find_field
from mainspring.core.line.fields import Points, Quantity
from mainspring.core.method import DERIVED, Figure, given
from mainspring.core.second_eye.edits import Edit
from mainspring.core.second_eye.finder import CERTAIN, Suspicion, find_slips
from mainspring.core.second_eye.ranges import PLAUSIBLE
from mainspring.core.second_eye.relation import Facts
from mainspring.core.sentence import Sentence, listed, say

_PLACES = {"control": "system-sensor", "site": "supply", "duty": "machine", "proof": "motor"}
# what a sure slip at a place holds until it is put right, or upheld
_HOLDS = {
    "supply": "power",
    "drive": "power",
    "motor": "data",
    "machine": "turn",
    "system": "turn",
    "sensor": "loop",
    "system-sensor": "loop",
}
MOST_WITNESSES = 3


def look_again(line: Line, findings: list[Finding]) -> list[Finding]:
    """The checks' findings with those of the second eye, what matters most first.

    Where it names an entry, a check that accuses the same says with whom it disagrees and offers the same correction;
    one that accuses another of the same contradiction is overruled: its weight goes to the finding on the one named.
    """
    facts = Facts(line)
    suspicions = find_slips(facts)
    unusual = [path for path in PLAUSIBLE if path in facts.values and _is_unusual(facts, path)]
    if not suspicions and not unusual:
        return findings
    kept = list(findings)
    told: set[str] = set()
    for suspicion in suspicions:
        if suspicion.only_ranges and suspicion.field in PLAUSIBLE:
            continue
        own = _finding(line, suspicion)
        told.update(own.fields)
        kept = _taken_in(kept, own, suspicion)
    kept += [_question(line, path, suspicions) for path in unusual if path not in told]
    return sorted(kept, key=lambda f: (f.severity, PLACE_ORDER.index(f.place)))


def _taken_in(findings: list[Finding], own: Finding, suspicion: Suspicion) -> list[Finding]:
    """The findings with one more: joined to the check that says the same, in place of those that it overrules."""
    kept: list[Finding] = []
    joined = False
    explained = {path for relation in suspicion.broken for path in relation.fields}
    for finding in findings:
        accused = finding.accused if finding.severity <= Severity.CAUTION else ""
        if not accused or accused not in explained:
            kept.append(finding)
        elif accused in suspicion.fields:
            same = suspicion.named and not joined
            joined = joined or same
            kept.append(_joined(finding, own) if same else finding)
        elif suspicion.named and finding.doubts:
            own = replace(own, severity=min(own.severity, finding.severity), holds=own.holds or finding.holds)
        else:
            kept.append(replace(finding, fix=None, doubts=""))
    return kept if joined else [*kept, own]


def _joined(check: Finding, own: Finding) -> Finding:
    """One finding where both accuse the same entry: the check's title says best what it is, the witnesses are told."""
    because = Sentence(f"{check.because.template} {own.because.template}", check.because.figures | own.because.figures)
    do, fix = (own.do, own.fix) if own.fix else (check.do, check.fix)  # one value is told, and offered
    severity, holds = min(check.severity, own.severity), check.holds or own.holds
    return replace(check, severity=severity, because=because, do=do, fix=fix, holds=holds)


def _finding(line: Line, suspicion: Suspicion) -> Finding:
    edit = suspicion.edits[0]
    sure = suspicion.named and not suspicion.only_ranges and suspicion.no_slip < CERTAIN
    said = _either(line, suspicion) if len(suspicion.fields) > 1 else _named(line, suspicion)
    return _made(suspicion.fields, sure, said, _fix(line, edit) if suspicion.named else None)


def _made(fields: tuple[str, ...], sure: bool, said: tuple[str, Sentence, Sentence], fix: Fix | None) -> Finding:
    group, _, name = fields[0].partition(".")
    place = _PLACES.get(group, group)
    return Finding(
        f"second_eye_{group}_{name}",
        place,
        Severity.STOP if sure else Severity.CAUTION,
        *said,
        DERIVED,
        fields,
        fix,
        doubts=fields[0] if len(fields) == 1 else "",
        answers=fields,
        holds=_HOLDS[place] if sure else "",
    )


def _is_unusual(facts: Facts, path: str) -> bool:
    plausible = PLAUSIBLE[path]
    return not plausible.low <= facts.values[path] <= plausible.high and facts.may_be_wrong(path)


def _question(line: Line, path: str, suspicions: list[Suspicion]) -> Finding:
    """Beyond what is plausible: asked, with a correction only where one is as good as certain."""
    mine = next((s for s in suspicions if s.named and s.field == path), None)
    return _made((path,), False, _unusual(line, path), None if mine is None else _fix(line, mine.edits[0]))


def _named(line: Line, suspicion: Suspicion) -> tuple[str, Sentence, Sentence]:
    field, edit = suspicion.field, suspicion.edits[0]
    against = listed(suspicion.against[:MOST_WITNESSES])
    agree = listed(suspicion.agree[:MOST_WITNESSES])
    title = f"{find_field(field).label} does not fit the rest"
    if len(edit.changes) > 1:
        other = next(path for path, _ in edit.changes if path != field)
        return (
            title,
            say(f"{{eye_now}} disagrees with {against}; exchanged with {find_field(other).spoken} both would agree.",
                eye_now=line.figure(field)),
            say(f"Check {find_field(field).spoken} and {find_field(other).spoken}: were they exchanged?"),
        )  # fmt: skip
    likely = _likely(edit)
    if likely is None:  # a curve
        return (
            title,
            say(f"It disagrees with {against}; it would agree with another reading of {edit.kind}."),
            say(f"Read the curve again: {edit.kind}?"),
        )
    about = "about " if edit.free else ""
    agrees = f"agrees with {agree}" if agree else "would agree"
    told = f"{{eye_now}} disagrees with {against}; {about}{{eye_likely}} {agrees}."
    return (
        title,
        say(told, eye_now=line.figure(field), eye_likely=likely),
        say(f"Check {find_field(field).spoken}{'.' if edit.free else f': {edit.kind}?'}"),
    )


def _either(line: Line, suspicion: Suspicion) -> tuple[str, Sentence, Sentence]:
    one, other = (find_field(path) for path in suspicion.fields)
    numbers: dict[str, Figure] = {}
    told = []
    for n, (path, edit) in enumerate(zip(suspicion.fields, suspicion.edits, strict=True)):
        likely = _likely(edit, path)
        if likely is None:  # a curve
            told.append(find_field(path).spoken)
            continue
        numbers |= {f"eye_now{n}": line.figure(path), f"eye_likely{n}": likely}
        would = f", where {'about ' if edit.free else ''}{{eye_likely{n}}} would agree"
        whole = likely.dimension != "count" or likely.is_integer()  # no 3.3 poles
        told.append(f"{find_field(path).spoken} {{eye_now{n}}}{would if whole else ''}")
    return (
        f"{one.label} or {other.spoken} does not fit the rest",
        say(f"Either {told[0]}, or {told[1]}.", **numbers),
        say(f"Check both: {one.spoken} and {other.spoken}."),
    )


def _unusual(line: Line, field: str) -> tuple[str, Sentence, Sentence]:
    declared, plausible = find_field(field), PLAUSIBLE[field]
    assert isinstance(declared, Quantity)
    low, high = (given(n, getattr(plausible, n), declared.dimension) for n in ("low", "high"))
    now = line.figure(field)
    return (
        f"Is {declared.spoken} right?",
        say(f"{{now}}; {{low}} to {{high}} is usual, and {plausible.why}.", now=now, low=low, high=high),
        say("Read it again, with its unit; where it is so, say why it stands."),
    )


def _likely(edit: Edit, path: str = "") -> Figure | None:
    """What the entry should say; None of a curve."""
    field, value = next((c for c in edit.changes if c[0] == path), edit.changes[0])
    declared = find_field(field)
    if not isinstance(declared, Quantity):
        return None
    if edit.free:
        value = float(f"{value:.2g}")
    return given("likely", value, declared.dimension, edit.kind)


def _fix(line: Line, edit: Edit) -> Fix | None:
    """At one touch only what is exact, and one entry at a time."""
    if edit.free or len(edit.changes) > 1:
        return None
    likely = _likely(edit)
    if likely is not None:
        return Fix(edit.changes[0][0], float(likely), say("{likely}?", likely=likely))
    path, rows = edit.changes[0]
    field = find_field(path)
    assert isinstance(field, Points)
    cells = [
        given("likely", number, field.columns[column].dimension)
        for row, was in zip(rows, line.value(path), strict=True)
        for column, number in enumerate(row)
        if number != was[column]
    ]
    # one number of one point is told; a whole column in another unit by what became of its last
    return Fix(path, rows, say("{likely}?" if len(cells) == 1 else "… {likely}?", likely=cells[-1]))
