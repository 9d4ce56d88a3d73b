"""How a motor is turned the other way round: by its kind and the way it starts, said here and nowhere else."""

from collections.abc import Mapping
from dataclasses import dataclass

from mainspring.core.line.record import Line


@dataclass(frozen=True)
class Reversal:
    """What makes one kind of motor turn the other way, and what to ask of whoever did it."""

    cure: str  # "… is cured by …"
    act: str  # what is done, isolated and proven dead
    asked: str  # what is asked of whoever did it
    choices: Mapping[str, str]  # what was done
    turned: str  # how the second of two directions is called
    at_the_drive: bool  # whether a drive could do it by a setting, and must not where there is a bypass


_LEADS = Reversal(
    cure="swapping two motor leads",
    act="Swap two motor leads at the drive, then prove it again. With a bypass, reversing in the drive would leave the"
    " motor running backwards in bypass.",
    asked="then swap two motor leads at the drive. Which ones?",
    choices={"uv": "U and V swapped", "vw": "V and W swapped", "uw": "U and W swapped"},
    turned="Swapped",
    at_the_drive=True,
)
_WINDING = Reversal(
    cure="connecting its start winding the other way, by the motor's own diagram",
    act="A single-phase motor turns as its start winding is connected: change that by the diagram of the motor or its"
    " control box. Exchanging the two supply wires changes nothing.",
    asked="then the start winding, by the diagram of the motor or its control box.",
    choices={"winding": "Start winding connected the other way"},
    turned="Start winding the other way",
    at_the_drive=False,
)
_SHADED = Reversal(
    cure="another motor, or this one mounted the other way round",
    act="A shaded-pole motor turns one way only, as its poles are cut; no wire changes that. Look at the arrow and at"
    " how it is mounted: it takes another motor, or this one turned round on the shaft where its maker allows that.",
    asked="then the motor changed, or turned round on its shaft: no wire turns a shaded-pole motor. What was done?",
    choices={"motor": "Another motor fitted", "mounted": "Mounted the other way round"},
    turned="After the change",
    at_the_drive=False,
)

SAFE_FIRST = "Power off, lock, wait, measure."


def reversal_of(line: Line) -> Reversal:
    """How this line's motor is turned round; common practice, no source."""
    if "single_phase" not in line.traits:
        return _LEADS
    return _SHADED if line.value("motor.starting") == "shaded" else _WINDING


def wrong_way(line: Line) -> str:
    """What to do where it turns the wrong way: dead first, then what its kind of motor asks."""
    return f"{SAFE_FIRST} {reversal_of(line).act}"
