"""Which entry was the slip: the one change that heals most, weighed against there being none."""

import math
from collections.abc import Iterable
from dataclasses import dataclass

from mainspring.core.second_eye import electrical, machine, motor, ranges, system
from mainspring.core.second_eye.edits import FREE, Edit, edits_of
from mainspring.core.second_eye.relation import Facts, Relation, Relations, Values, misfit

MOST_SLIPS = 3  # looked for in one group of contradictions
RARE = 3.2  # ln: how much rarer a slip in one field is than none at all
UNHEARD, FAR_BEHIND = -2.5, 5.0  # ln: scores below, or so far behind the best, are not heard of
CANDIDATE = 1.5  # strains from which a relation puts its entries in doubt
SILENT, SPEAKS, ALONE = 0.82, 0.40, 0.68  # of P(no slip), and of a field's share among the fields
MANY_ENTRIES, ALONE_IN_ONE = 4, 0.9  # entries of a single relation from which a field needs a larger share to be named
LONE = 0.75  # P(no slip) above which a single field that is not sure is not asked of
CERTAIN = 0.02  # P(no slip) below which a range alone may accuse, and a correction is a stop


@dataclass(frozen=True)
class Suspicion:
    """One group of contradictions, and what explains it best.

    `named` is whether one field stands alone; otherwise `fields` holds the two likeliest and a question is asked.
    """

    fields: tuple[str, ...]
    edits: tuple[Edit, ...]  # the likeliest of each field
    named: bool
    no_slip: float  # probability
    broken: tuple[Relation, ...]  # that the first edit heals
    against: tuple[str, ...]  # witnesses that disagree with what stands there
    agree: tuple[str, ...]  # witnesses that agree with the correction

    @property
    def field(self) -> str:
        """The likeliest."""
        return self.fields[0]

    @property
    def only_ranges(self) -> bool:
        """Whether nothing but a plausible range speaks."""
        return all(r.is_range for r in self.broken)


def relations_of(facts: Facts) -> list[Relation]:
    """Every relation that the line has the entries for."""
    to = Relations(facts)
    for station in (motor, electrical, machine, system, ranges):
        station.relate(to, facts)
    return to.found


def find_slips(facts: Facts) -> list[Suspicion]:
    """A suspicion for each connected group of contradictions that is likelier a slip than not."""
    relations = relations_of(facts)
    strains = [(r, s) for r in relations if (s := r.strain(facts.values))]
    if not strains:
        return []
    by_field: dict[str, list[Relation]] = {}
    for relation in relations:
        for field in relation.fields:
            by_field.setdefault(field, []).append(relation)
    found: list[Suspicion] = []
    for group in _groups(strains):
        found += _slips_of(facts, group, by_field)
    return found


def _slips_of(facts: Facts, broken: dict[Relation, float], by_field: dict[str, list[Relation]]) -> list[Suspicion]:
    """The slips of one group: once one is named, what its correction leaves broken is looked at again."""
    found: list[Suspicion] = []
    before = dict(facts.values)
    while broken and len(found) < MOST_SLIPS:
        suspicion = _decide(facts, broken, by_field)
        if suspicion is None or any(suspicion.field == s.field for s in found):
            break
        found.append(suspicion)
        if not suspicion.named:
            break
        facts.values.update(suspicion.edits[0].changes)
        broken = {r: s for r in broken if r not in suspicion.broken and (s := r.strain(facts.values))}
    facts.values.update(before)
    return found


def _groups(strains: list[tuple[Relation, float]]) -> Iterable[dict[Relation, float]]:
    """Contradictions that share an entry belong together; two slips on one line are judged apart."""
    groups: list[tuple[set[str], dict[Relation, float]]] = []
    for relation, strain in strains:
        fields, joined = set(relation.fields), {relation: strain}
        rest = []
        for others, members in groups:
            if others & fields:
                fields |= others
                joined |= members
            else:
                rest.append((others, members))
        groups = [*rest, (fields, joined)]
    return [members for _, members in groups]


def _decide(facts: Facts, broken: dict[Relation, float], by_field: dict[str, list[Relation]]) -> Suspicion | None:
    doubted = {f for r, s in broken.items() if s >= CANDIDATE for f in r.fields}
    candidates = sorted(f for f in doubted if facts.may_be_wrong(f))
    if not candidates:
        return None
    weights = {r: misfit(s) for r, s in broken.items()}
    trials = [_Trial(field, facts.values, weights, by_field) for field in candidates]
    scored: list[tuple[float, str, Edit]] = []
    top = UNHEARD
    for trial in sorted(trials, key=lambda t: -t.potential):
        field, typed = trial.field, facts.typed(trial.field)
        bent = any(r.fields == (field,) for r in weights)
        worth = max(UNHEARD, top - FAR_BEHIND) + RARE - trial.potential  # a likelihood below it cannot pay
        for edit in (*edits_of(field, facts.values, typed, worth, bent=bent), *_free(field, facts.values, broken)):
            if len(edit.changes) > 1 and not all(facts.may_be_wrong(path) for path, _ in edit.changes):
                continue
            least = max(UNHEARD, top - FAR_BEHIND)
            score = trial.score(edit, least)
            if score > least:
                scored.append((score, field, edit))
                top = max(top, score)
    return _weigh(facts, broken, by_field, scored) if scored else None


class _Trial:
    """Edits of one entry tried on the relations that it stands in."""

    def __init__(
        self, field: str, values: Values, weights: dict[Relation, float], by_field: dict[str, list[Relation]]
    ) -> None:
        self.field, self.values, self.weights, self.by_field = field, values, weights, by_field
        self.alone = self._relations((field,))
        self.potential = sum(weights.get(r, 0.0) for r in self.alone)

    def _relations(self, fields: tuple[str, ...]) -> list[Relation]:
        """Those of the entries, the broken ones first."""
        touched = dict.fromkeys(r for f in fields for r in self.by_field.get(f, ()))
        return sorted(touched, key=lambda r: r not in self.weights)

    def score(self, edit: Edit, least: float) -> float:
        """Misfit taken away less misfit brought in, and how likely the edit is; cut short below the least."""
        changes = edit.changes
        if len(changes) == 1:
            relations, score = self.alone, self.potential
        else:
            relations = self._relations(tuple(path for path, _ in changes))
            score = sum(self.weights.get(r, 0.0) for r in relations)
        score += edit.prior - RARE
        if score <= least:
            return score
        values = self.values
        before = [(path, values[path]) for path, _ in changes]
        values.update(changes)
        for relation in relations:
            score -= misfit(relation.strain(values))
            if score <= least:
                break
        values.update(before)
        return score


def _free(field: str, values: Values, broken: dict[Relation, float]) -> Iterable[Edit]:
    """Another number altogether: the one that brings a broken relation to the middle of its band."""
    at = values[field]
    if not isinstance(at, float) or at == 0:
        return
    seen: list[float] = []
    for relation in broken:
        if field not in relation.fields or relation.is_range:
            continue
        value = _solved(relation, field, values)
        if value is not None and all(abs(value / s - 1) > 0.02 for s in seen):
            seen.append(value)
    for value in seen:
        yield Edit(((field, value),), FREE - math.log(len(seen)), "another number")


def _solved(relation: Relation, field: str, values: Values) -> float | None:
    """By two steps of the secant, in the logarithm."""
    at = values[field]
    wanted = (relation.low + relation.high) / 2
    factor, step = 1.0, 1.05
    try:
        for _ in range(3):
            here, there = (_measured(relation, field, values, at * f) for f in (factor, factor * step))
            slope = (there - here) / math.log(step)
            if abs(slope) < 1e-6:
                return None
            factor *= math.exp(max(-7.0, min(7.0, (wanted - here) / slope)))
    except (ValueError, ZeroDivisionError, OverflowError):
        return None
    return at * factor if 1e-4 < factor < 1e4 else None


def _measured(relation: Relation, field: str, values: Values, value: float) -> float:
    return relation.measure(*[value if f == field else values[f] for f in relation.fields])


def _weigh(
    facts: Facts,
    broken: dict[Relation, float],
    by_field: dict[str, list[Relation]],
    scored: list[tuple[float, str, Edit]],
) -> Suspicion | None:
    top = max(s for s, *_ in scored)
    none = math.exp(min(700.0, -top))
    shares: dict[str, float] = {}
    best: dict[str, tuple[float, Edit]] = {}
    for score, _field, edit in scored:
        weight = math.exp(score - top)
        for path, _ in edit.changes:  # an exchange speaks for both
            shares[path] = shares.get(path, 0.0) + weight / len(edit.changes)
            if path not in best or score > best[path][0]:
                best[path] = (score, edit)
    whole = sum(shares.values())
    no_slip = none / (none + whole)
    order = sorted(shares, key=lambda f: -shares[f])
    first = order[0]
    edit = best[first][1]
    healed = _healed(edit, facts.values, broken)
    only_ranges = all(r.is_range for r in healed)
    if no_slip > SILENT:
        return None
    pair = {path for path, _ in edit.changes}
    together = sum(shares[p] for p in pair if p in shares)
    alone = together / whole > (ALONE if _told_apart(healed) else ALONE_IN_ONE)
    named = alone and no_slip < (CERTAIN if only_ranges else SPEAKS)
    if not named and len(order) == 1 and no_slip > LONE:
        return None  # one likely among entries that may all be the slip
    fields = tuple(order[:1]) if alone or len(order) == 1 else tuple(order[:2])
    if not named and len(edit.changes) > 1:
        fields = tuple(path for path, _ in edit.changes)  # either of the two that may stand in each other's place
        best |= dict.fromkeys(fields, (best[first][0], edit))
    against, agree = _witnesses(first, edit, facts.values, broken, by_field)
    return Suspicion(fields, tuple(best[f][1] for f in fields), named, no_slip, tuple(healed), against, agree)


def _told_apart(healed: list[Relation]) -> bool:
    """Whether more than one relation of many entries speaks: of one alone any of its entries may be the slip."""
    speaking = [r for r in healed if not r.is_range]
    return len(speaking) != 1 or len(speaking[0].fields) < MANY_ENTRIES


def _with(edit: Edit, values: Values) -> Values:
    return {**values, **dict(edit.changes)}


def _healed(edit: Edit, values: Values, broken: dict[Relation, float]) -> list[Relation]:
    after = _with(edit, values)
    return [r for r, strain in broken.items() if r.strain(after) < 0.5 * strain]


def _witnesses(
    field: str, edit: Edit, values: Values, broken: dict[Relation, float], by_field: dict[str, list[Relation]]
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Words for what disagrees with the entry, and for what agrees with the correction."""
    after = _with(edit, values)
    against = [r.witness_against(field) for r in broken if field in r.fields]
    agree = [r.witness_against(field) for r in by_field.get(field, ()) if not r.strain(after) and not r.is_range]
    return tuple(dict.fromkeys(against)), tuple(dict.fromkeys(agree))
