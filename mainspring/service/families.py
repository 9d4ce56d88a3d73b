"""Families of drives: those that ship, those that people made, and every version of them."""

import contextlib
from collections.abc import Mapping
from dataclasses import replace
from functools import lru_cache
from pathlib import Path
from typing import Any

from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.core.families import NEUTRAL, Family, Parameter, Problem, check_family, keypad_steps, problems_of
from mainspring.core.families.changes import Change, changes_between
from mainspring.core.families.keypad import without_parameter
from mainspring.core.families.pasted import Guess, guess_table
from mainspring.exchange.family_file import (
    family_csv,
    family_json,
    family_of_plain,
    parameters_of_csv,
    read_family,
)
from mainspring.service.errors import BadRecord, FamilyBetween
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened, OpenLines
from mainspring.service.present import present
from mainspring.service.sheet import set_rows
from mainspring.store import family_table
from mainspring.store.errors import NotFound
from mainspring.store.repository import Overtaken

SHIPPED = Path(__file__).parents[1] / "families"
Values = Mapping[str, float | str]


class FamilySummary(BaseModel):
    """A family in the list."""

    id: str
    name: str
    about: str
    fits: str
    shipped: bool
    parameters: int
    mapped: int
    doubtful: int
    proven: int
    digest: str
    by: str
    at: str


class FamilyProblemView(BaseModel):
    """What is wrong at a parameter, by its place; -1 for the family as a whole."""

    at: int
    words: str
    grave: bool


class ChangeView(BaseModel):
    """What differs at one parameter from another family or version."""

    number: str
    label: str
    words: str


class DialView(BaseModel):
    """What would be dialled at a parameter, by its place."""

    at: int
    text: str
    says: str
    rounded: bool
    problem: str


class FamilyView(BaseModel):
    """A family to look at and to change: the file's own content, and what is wrong with it."""

    family: Family
    revision: int
    digest: str
    shipped: bool
    by: str
    at: str
    problems: list[FamilyProblemView]
    lines: list[str]


class TriedView(BaseModel):
    """What a draft of a family says: its problems, and what would be dialled on a line."""

    problems: list[FamilyProblemView]
    dials: list[DialView]
    without: list[str]  # settings of that line that it has no parameter for


class PastedView(BaseModel):
    """A pasted table as it was understood, for somebody to confirm."""

    columns: list[str]
    roles: list[str]
    cells: list[list[str]]
    parameters: list[Parameter]
    unsure: list[int]  # places of those whose setting was guessed with doubt


@lru_cache(1)
def shipped_families() -> dict[str, Family]:
    """The families that ship with the application; invented, as no maker's own is ours to ship."""
    found = {f.stem: read_family(f.read_text()) for f in sorted(SHIPPED.glob("*.json"))}
    return {NEUTRAL.id: NEUTRAL, **found}


class Families:
    """What is done with families."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines
        self._kept = lru_cache(1024)(self._read)  # a version never changes
        lines.family = self.of

    def of(self, family_id: str | None) -> Family:
        """The family of that id as it is in force; the neutral one when nobody knows it."""
        if not family_id or family_id == NEUTRAL.id:
            return NEUTRAL
        kept = self.lines.look(lambda: family_table.family(family_id))
        return self.version(kept.digest) if kept else shipped_families().get(family_id, NEUTRAL)

    def version(self, digest: str) -> Family:
        """A version of a family by its hash. Raises NotFound."""
        for family in shipped_families().values():
            if family.digest == digest:
                return family
        return self._kept(digest)

    def remember(self, family: Family, by: str) -> None:
        """Keep the version of a family that something was read back by: one that ships may ship otherwise next time."""
        with contextlib.suppress(Overtaken):  # somebody else has just kept the very same
            self.lines.transact(lambda: family_table.keep_version(family.id, family.digest, family_json(family), by))

    def _read(self, digest: str) -> Family:
        plain = self.lines.look(lambda: family_table.body(digest))
        if plain is None:
            raise NotFound("no such version of a family")
        return family_of_plain(plain)

    def all(self) -> list[FamilySummary]:
        """Every family by name, those that somebody changed in their own version."""
        kept = self.lines.look(family_table.families)
        found = [
            FamilySummary(id=k.id, shipped=False, digest=k.digest, by=k.by, at=k.at.isoformat(), **k.summary)
            for k in kept
        ]
        found += [
            FamilySummary(id=f.id, shipped=True, digest=f.digest, by="", at="", **summary_of(f))
            for f in shipped_families().values()
            if f is not NEUTRAL and f.id not in {k.id for k in kept}
        ]
        return sorted(found, key=lambda s: s.name.casefold())

    def view(self, family_id: str) -> FamilyView:
        """One family. Raises NotFound."""
        kept = self.lines.look(lambda: family_table.family(family_id))
        if kept is None and family_id not in shipped_families():
            raise NotFound("no such family")
        family = self.of(family_id)
        lines = self.lines.look(lambda: family_table.lines_using(family_id))
        return FamilyView(
            family=family,
            revision=0 if kept is None else kept.revision,
            digest=family.digest,
            shipped=kept is None,
            by="" if kept is None else kept.by,
            at="" if kept is None else kept.at.isoformat(),
            problems=_problems(problems_of(family)),
            lines=lines,
        )

    def put(self, family_id: str, revision: int, made: Family, by: str) -> FamilyView:
        """Keep a family over the revision that its maker saw. The same again is harmless.

        Raises BadRecord for what no family can hold, FamilyBetween where somebody else kept another one.
        """
        by = check_who(by)
        try:
            family = check_family(replace(made, id=family_id))
            if family_id == NEUTRAL.id:
                raise BadEntry("id", family_id, "anything but the neutral one, which has no parameters")
        except BadEntry as problem:
            raise BadRecord({problem.field: problem}) from None
        there = self.lines.look(lambda: family_table.family(family_id))
        shipped = shipped_families().get(family_id)
        now = there.digest if there is not None else shipped.digest if shipped is not None else ""
        if now == family.digest:
            return self.view(family_id)
        try:
            self.lines.transact(
                lambda: family_table.put_family(
                    family_id, revision, family.digest, summary_of(family), family_json(family), by
                )
            )
        except Overtaken:
            other = self.lines.look(lambda: family_table.family(family_id))
            raise FamilyBetween(family.name, "" if other is None else other.by) from None
        return self.view(family_id)

    def take_in(self, content: bytes, into: str = "") -> Family:
        """A family out of its file, for somebody to look at; a CSV goes into a family that is there."""
        text = content.decode("utf-8", "replace")
        try:
            if text.lstrip()[:1] == "{":
                return read_family(content)
            base = self.of(into)
            return _with(base, parameters_of_csv(text, base))
        except BadEntry as problem:
            raise BadRecord({problem.field: problem}) from None

    def csv(self, family_id: str) -> str:
        """The parameter list as CSV."""
        return family_csv(self.of(family_id))

    def tried(self, made: Family, line_id: str | None) -> TriedView:
        """A draft: what is wrong with it, and what would be dialled with it on a line."""
        try:
            family = check_family(made)
        except BadEntry as problem:
            raise BadRecord({problem.field: problem}) from None
        values = {} if line_id is None else wanted_values(self.lines.open(line_id))
        place = {id(p): at for at, p in enumerate(family.parameters)}
        dials = [present(None, DialView, s.dial, at=place[id(s.parameter)]) for s in keypad_steps(family, values)]
        without = without_parameter(family, values)
        return TriedView(problems=_problems(problems_of(family, values)), dials=dials, without=without)

    def pasted(self, text: str, roles: list[str] | None = None) -> PastedView:
        """A table pasted from a manual, as it was understood; `roles` says it where somebody knows better."""
        try:
            guess: Guess = guess_table(text, roles)
        except BadEntry as problem:
            raise BadRecord({problem.field: problem}) from None
        return present(None, PastedView, guess, columns=list(guess.header), cells=[list(row) for row in guess.cells])

    def differences(self, family_id: str, other: str) -> list[ChangeView]:
        """What differs in a family from another, or from an older version of it by its hash."""
        before = self.version(other) if len(other) == 64 else self.of(other)
        return [change_view(c) for c in changes_between(before, self.of(family_id))]


def wanted_values(opened: Opened) -> dict[str, float | str]:
    """What is to be set on a line, by setting: as decided, else as proposed."""
    return {r.row.setting.id: r.wanted for r in set_rows(opened) if r.wanted is not None}


def _with(family: Family, parameters: Any) -> Family:
    return replace(family, parameters=tuple(parameters))


def _problems(found: list[Problem]) -> list[FamilyProblemView]:
    return [FamilyProblemView(at=p.at, words=p.words, grave=p.grave) for p in found]


def change_view(change: Change) -> ChangeView:
    """What differs at one parameter, for the screen."""
    return ChangeView(number=change.number, label=change.label, words=change.words)


def summary_of(family: Family) -> dict[str, Any]:
    """What a list shows of a family; kept with it, so that a list need not read every family."""
    return {
        "name": family.name,
        "about": family.about,
        "fits": family.fits,
        "parameters": len(family.parameters),
        "mapped": sum(bool(p.setting) for p in family.parameters),
        "doubtful": sum(bool(p.doubt) for p in family.parameters),
        "proven": sum(p.proven is not None for p in family.parameters),
    }
