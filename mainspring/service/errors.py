"""What a service refuses, beside the errors of core and store."""

from typing import Any

from mainspring.core.errors import BadEntry


class BadRecord(ValueError):
    """Entries of a record that cannot be taken, by path; nothing of the record was kept."""

    def __init__(self, problems: dict[str, BadEntry]) -> None:
        self.problems = problems
        super().__init__("; ".join(str(p) for p in problems.values()))

    @property
    def tellings(self) -> str:
        """The text with its numbers in both unit systems."""
        return "; ".join(p.tellings for p in self.problems.values())


class UnknownFigure(LookupError):
    """No figure of that key in this assessment."""


class KeptBetween(RuntimeError):
    """Somebody else kept evidence for the same step, which this one's maker had not seen."""

    def __init__(self, title: str, theirs: list[Any]) -> None:
        self.theirs = theirs
        last = theirs[-1]
        super().__init__(f"{last.by} kept “{title}” at {last.at:%H:%M} UTC, which you had not seen")


class SetBetween(RuntimeError):
    """Somebody else entered another value of a setting, which this one's maker had not seen."""

    def __init__(self, label: str, value: Any, by: str) -> None:
        self.value, self.by = value, by
        super().__init__(f"{by} entered {label} in between; look at it and enter yours again")


class FamilyBetween(RuntimeError):
    """Somebody else kept another version of a family, which this one's maker had not seen."""

    def __init__(self, name: str, by: str) -> None:
        self.by = by
        super().__init__(f"{by} saved {name} in between; look at it and save yours again")


class KeyUnusable(RuntimeError):
    """The key of the access codes cannot be used: empty, damaged, or readable by others."""


class InUse(RuntimeError):
    """It cannot be taken away: something rests on it."""
