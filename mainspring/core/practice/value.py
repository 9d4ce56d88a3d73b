"""A value that the trade goes by: named once, with its source, and used by checks, settings, charts and prose alike."""

from dataclasses import dataclass
from typing import NamedTuple

from mainspring.core.method import COMMON_PRACTICE, Figure, Leaf, Source


@dataclass(frozen=True)
class Practice:
    """One value: what it is, in SI, on whose authority, and within what a site may set its own."""

    id: str
    label: str
    figure: Figure
    source: Source
    own: tuple[float, float] | None  # least and most of a site's own value; None where nobody may differ

    @property
    def dimension(self) -> str:
        """Kind of quantity."""
        assert self.figure.dimension is not None
        return self.figure.dimension


PRACTICE: dict[str, Practice] = {}


def practice(
    id: str,
    value: float,
    dimension: str,
    label: str,
    *,
    source: Source = COMMON_PRACTICE,
    own: tuple[float, float] | None = None,
) -> Figure:
    """Declare a value and give its figure.

    Parameters
    ----------
    id : its name, alone in the program; that of the site's field where a site may set its own
    value : in the SI unit of its dimension
    dimension : id of the kind of quantity
    label : what it is, as a form shows it
    source : a standard, a handbook, or common practice
    own : least and most that a site may put in its place

    Raises
    ------
    TypeError : two values have one id
    """
    if id in PRACTICE:
        raise TypeError(f"two practice values are called {id}")
    # where a site may differ it is a value of the record: a proof on the trade's turns stale with the site's own
    field = id if own is None else f"site.{id}"
    figure = Figure(value, Leaf(field, label, dimension, "given", str(source)))
    PRACTICE[id] = Practice(id, label, figure, source, own)
    return figure


class Band(NamedTuple):
    """From a low to a high value, both within."""

    low: Figure
    high: Figure

    def holds(self, value: float) -> bool:
        """Whether a value lies within."""
        return self.low <= value <= self.high


def band(id: str, low: float, high: float, dimension: str, label: str, *, source: Source = COMMON_PRACTICE) -> Band:
    """Declare the two ends of a band; see `practice`."""
    return Band(
        practice(f"{id}_low", low, dimension, f"{label}, least", source=source),
        practice(f"{id}_high", high, dimension, f"{label}, most", source=source),
    )
