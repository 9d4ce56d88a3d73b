"""Every error the core raises.

MainspringError
├── NotKnown        (LookupError)  a record value that a computation needs is missing
├── BadEntry        (ValueError)   something entered is not allowed: field, value, what is allowed
│   └── OutOfRange                 a number outside what a method or field covers
├── NoSolution      (ArithmeticError)  the physics has no answer for these numbers
└── UnknownMethod   (LookupError)  no method of that id
"""

from collections.abc import Callable

from mainspring.core.told import told


class MainspringError(Exception):
    """Base of every error that Mainspring raises on purpose; its text is for a technician."""

    def __str__(self) -> str:
        return told(self.tellings, "si")

    @property
    def tellings(self) -> str:
        """The text with its numbers in both unit systems; see `told`."""
        return super().__str__()


class NotKnown(MainspringError, LookupError):
    """A value of the record is missing; `field` is its path, `label` what to call it."""

    def __init__(self, field: str, label: str) -> None:
        self.field, self.label = field, label
        super().__init__(f"not known yet: needs {label}")


class BadEntry(MainspringError, ValueError):
    """Something entered cannot be taken; `field`, `value` and `allowed` say why."""

    def __init__(self, field: str, value: object, allowed: str, words: str = "") -> None:
        self.field, self.value, self.allowed = field, value, allowed
        super().__init__(words or f"{field} is {shown(value)}; allowed: {allowed}")


class OutOfRange(BadEntry):
    """A number outside the range that a method or a field covers."""


class NoSolution(MainspringError, ArithmeticError):
    """No operating point, root or fit exists for these numbers; the text says why."""


class UnknownMethod(MainspringError, LookupError):
    """No method carries this id."""

    def __init__(self, method_id: str, near: list[str]) -> None:
        self.method_id = method_id
        hint = f"; did you mean {', '.join(near)}?" if near else ""
        super().__init__(f"no method is called {method_id!r}{hint}")


def shown(value: object, limit: int = 80) -> str:
    """The value as a message may carry it: short, on one line."""
    text = " ".join(f"{value:g}".split()) if isinstance(value, float) else " ".join(str(value).split())
    return repr(text[:limit] + "…") if len(text) > limit else (text or "empty")


def check_range(
    name: str,
    value: float,
    *,
    above: float | None = None,
    atleast: float | None = None,
    upto: float | None = None,
    below: float | None = None,
) -> None:
    """Raise OutOfRange unless the value lies within the bounds given (NaN never does).

    Value and bounds are told with the unit of what the value is, where it is a figure.
    """
    within = (
        (above is None or value > above)
        and (atleast is None or value >= atleast)
        and (upto is None or value <= upto)
        and (below is None or value < below)
        and value == value
    )
    if within:
        return
    show = getattr(value, "told", _plainly)  # a figure tells numbers of its kind with their unit
    meant = ""
    if upto == 1 and 1 < value <= 100:
        meant = f"{name}: {value:g} was read as a ratio; write {value:g} % or {value / 100:g}"
    allowed = bounds_in_words(show, above=above, atleast=atleast, upto=upto, below=below)
    raise OutOfRange(name, show(float(value)), allowed, meant)


def bounds_in_words(
    show: Callable[[float], str],
    *,
    above: float | None = None,
    atleast: float | None = None,
    upto: float | None = None,
    below: float | None = None,
) -> str:
    """Bounds as a refusal and a screen say them: above 0 and below 2, from 0 up to 5; empty where there are none."""
    bounds = (("above", above), ("from", atleast), ("up to", upto), ("below", below))
    words = [f"{word} {show(float(bound))}" for word, bound in bounds if bound is not None]
    return (" and " if above is not None and below is not None else " ").join(words)


def _plainly(number: float) -> str:
    return f"{number:.4g}" if abs(number) < 1e4 else f"{number:.0f}"


def check_whole(name: str, value: float, *, atleast: int, upto: int = 400, step: int = 1) -> None:
    """Raise OutOfRange unless the value is one of the whole numbers from `atleast` on, `step` by `step`."""
    if not (atleast <= value <= upto and (value - atleast) % step == 0):
        listed = range(atleast, upto + 1, step)
        some = ", ".join(map(str, listed[:4])) + (f" … up to {listed[-1]}" if len(listed) > 4 else "")
        raise OutOfRange(name, f"{float(value):g}", some)
