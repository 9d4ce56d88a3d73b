"""What the readings of a machine say together, as the run sheet tells it."""

from collections.abc import Sequence

from mainspring.core.diagnosis.pattern import Pattern
from mainspring.core.known import KINDS, UNKNOWNS, Doubted, Estimate, Verdict
from mainspring.core.method import Figure, given
from mainspring.core.sentence import Sentence, say

AGAIN = "Read it again."
_LABELS = {u.id: u.label for u in UNKNOWNS}


def pattern_of_verdict(known: Estimate, verdict: Verdict) -> Pattern | None:
    """The verdict in words, with the numbers that say so; None while all fits."""
    if verdict.fits:
        return None
    if verdict.causes:
        return _caused(known, verdict)
    if verdict.not_this:
        odd = f" What would have to be far from usual: {_LABELS[known.odd[0]].lower()}." if known.odd else ""
        words = f"Readings and record do not go together.{odd} Until that is cleared all is told by the plate."
        do = "The machine's plate against the curve on record, then heads and known point of the system."
        return Pattern("not_this", "Not the machine of this curve, or not this system", say(words), do)
    if verdict.row:
        return _row_apart(known, verdict)
    if verdict.more:
        return Pattern("more", "More than one reading does not fit", _doubt(known, verdict.misread[0]), AGAIN)
    if len(verdict.misread) > 1:
        first, other = verdict.misread[:2]
        one, two = (f"{{value{n}}} {_kind(d)}{_at(d, f'at{n}')}" for d, n in ((first, ""), (other, "2")))
        said = say(
            f"Either {one}, or {two}: one of them does not fit the others.",
            **_figures(known, first),
            **{f"{n}2": f for n, f in _figures(known, other).items()},
        )
        return Pattern("either", "One of two readings does not fit", said, "Read both again.")
    return Pattern("apart", "One reading does not fit", _doubt(known, verdict.misread[0]), AGAIN)


def _row_apart(known: Estimate, verdict: Verdict) -> Pattern:
    worst = verdict.misread[0]
    said = say(
        f"All other rows fit each other; at {{at}} {_kind(worst)} {{value}} stands where they have {{expected}}.",
        **_figures(known, worst),
    )
    do = "Was a valve, a tap or a damper moved while it was read? Put it back and read the row again."
    return Pattern("row", "One row stands apart", said, do)


def _kind(doubted: Doubted) -> str:
    return KINDS[doubted.reading.kind].label


def _at(doubted: Doubted, slot: str = "at") -> str:
    return f" at {{{slot}}}" if doubted.reading.at else ""


def _figures(known: Estimate, doubted: Doubted) -> dict[str, Figure]:
    reading, kind = doubted.reading, KINDS[doubted.reading.kind]
    dimension = kind.dimension(known.facts)
    by_others = "by all other readings and the plate"
    return {
        "value": given(reading.kind, reading.value, dimension, "as read"),
        "expected": given(f"{reading.kind}_expected", doubted.expected, dimension, by_others),
        "at": given("reference", reading.at, "frequency", "of the reading"),
        "others": given("others", len(known.readings) - 1.0, "count", "readings of this line"),
        "exchanged": given(f"{reading.kind}_exchanged", doubted.exchanged or 0.0, dimension, "two digits exchanged"),
    }


def _doubt(known: Estimate, doubted: Doubted) -> Sentence:
    would = "{exchanged}, with two digits exchanged, would" if doubted.exchanged is not None else "{expected} would"
    words = (
        f"{_kind(doubted).capitalize()} {{value}}{_at(doubted)} does not fit the other {{others}} readings; {would}."
    )
    return say(words, **_figures(known, doubted))


def _caused(known: Estimate, verdict: Verdict) -> Pattern:
    causes, air = verdict.causes, known.facts.air
    told = [c.words(air) for c in causes]
    off = _deviations(known)
    figures = " ".join(f"{KINDS[kind].label.capitalize()} {{{kind}}}." for kind in off)
    read = f" Or {_kind(verdict.misread[0])} was misread." if verdict.misread else ""
    if len(causes) == 1:
        says, do = told[0]
        title = causes[0].title
        return Pattern(causes[0].id, title, say(f"{says}{read} {figures}", **off), f"{AGAIN} {do}" if read else do)
    titles = "; ".join(c.title.lower() for c in causes)
    words = f"Explained as well by each of: {titles}.{read} {figures}"
    return Pattern(causes[0].id, "One of several causes", say(words, **off), " ".join(do for _, do in told[:2]))


def _deviations(known: Estimate) -> dict[str, Figure]:
    """How far the fastest reading of each kind lies from what the plates promise, as a share."""
    fastest: dict[str, int] = {}
    for i, reading in enumerate(known.readings):
        if reading.at and (reading.kind not in fastest or reading.at >= known.readings[fastest[reading.kind]].at):
            fastest[reading.kind] = i
    keys = [known.readings[i].key for i in fastest.values()]
    promised: Sequence[float] = known.promised(keys)
    return {
        kind: given(kind, known.readings[i].value / p - 1, "percent", "the fastest row off what the plates promise")
        for (kind, i), p in zip(fastest.items(), promised, strict=True)
        if abs(p) > 1e-9
    }
