"""Curves out of a file that the technician has."""

from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.exchange.curve_file import read_curves


class FoundCurve(BaseModel):
    """A curve found in a file, SI."""

    name: str
    points: list[list[float]]


def curves_of_file(content: bytes, fan: bool, system: str) -> list[FoundCurve]:
    """The curves of a table or an EPANET network. Raises BadEntry."""
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadEntry("curve file", "not text", "a text file: comma-separated values or an EPANET network") from None
    kinds = ("air_flow", "air_pressure") if fan else ("flow", "head")
    return [FoundCurve(name=c.name, points=[list(p) for p in c.points]) for c in read_curves(text, *kinds, system)]
