"""What differs between two families, or two versions of one: only that, parameter by parameter."""

from dataclasses import dataclass, fields

from mainspring.core.families.family import Family, Parameter, Word


@dataclass(frozen=True)
class Change:
    """One parameter that is new, gone or otherwise."""

    number: str
    label: str
    words: str


_NAMES = {"label": "label", "page": "menu", "setting": "setting", "of": "percent of", "default": "factory value"}
_QUIET = ("number", "proven")  # the key, and who read it: no difference of what is dialled


def changes_between(before: Family, after: Family) -> list[Change]:
    """From one family to another, in the order of the second, what is gone at the end."""
    old = {_key(p): p for p in before.parameters}
    found = []
    for p in after.parameters:
        was = old.pop(_key(p), None)
        if was is None:
            found.append(Change(p.number, p.called(), "New."))
        elif words := _differences(was, p):
            found.append(Change(p.number, p.called(), "; ".join(words) + "."))
    return found + [Change(p.number, p.called(), "Gone.") for p in old.values()]


def _key(p: Parameter) -> tuple[str, int | None]:
    return p.number, p.bit.at if p.bit else None


def _differences(was: Parameter, now: Parameter) -> list[str]:
    found = []
    for field in fields(Parameter):
        a, b = getattr(was, field.name), getattr(now, field.name)
        if a == b or field.name in _QUIET:
            continue
        name = _NAMES.get(field.name, field.name)
        found.append(_choices(a, b) if field.name == "choices" else f"{name} {_say(a)} → {_say(b)}")
    return found


def _choices(a: dict[str, Word], b: dict[str, Word]) -> str:
    changed = [id for id in {**a, **b} if a.get(id) != b.get(id)]
    told = (f"{id} {_code(a.get(id))} → {_code(b.get(id))}" for id in changed)
    return "choices: " + ", ".join(told)


def _code(word: Word | None) -> str:
    return "none" if word is None else " ".join(filter(None, (word.code, word.word.get("en", ""))))


def _say(value: object) -> str:
    if isinstance(value, dict):
        return ", ".join(f"{k} {v}" for k, v in value.items()) or "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, float):
        return f"{value:g}"
    return "none" if value in (None, "") else str(value)
