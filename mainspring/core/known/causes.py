"""What may be otherwise than the record has it: each supposes other facts, and is asked how well it explains.

What is supposed is common practice, no source; the sizes are those of centrifugal machines.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from mainspring.core.known.estimate import Estimate, search
from mainspring.core.known.facts import Facts

ROOT_THREE = 3**0.5
MOST = 0.1  # of the misfit: what may be left where hardly anything was right
RARE = 10.0  # of misfit: what a supposition must explain before it is worth telling


@dataclass(frozen=True)
class Cause:
    """One thing that may be otherwise: its words for a pump and a fan, what to do, and the facts it supposes."""

    id: str
    title: str
    says: str
    do: str
    supposes: Callable[[Facts], Iterable[Facts]]
    fan_says: str = ""
    fan_do: str = ""

    def words(self, air: bool) -> tuple[str, str]:
        """What it says and what to do."""
        return (self.fan_says or self.says, self.fan_do or self.do) if air else (self.says, self.do)


def _wheel(facts: Facts, head: float, flow: float, efficiency: float = 1.0) -> Facts:
    return replace(
        facts,
        c0=facts.c0 * head,
        c1=facts.c1 * head / flow,
        c2=facts.c2 * head / flow**2,
        best_flow=facts.best_flow * flow,
        best_efficiency=facts.best_efficiency * efficiency,
        loose=True,
    )


def _poles(facts: Facts) -> Iterable[Facts]:
    if facts.synchronous <= facts.rpm:
        return
    slip = facts.synchronous - facts.rpm
    for poles in (2, 4, 6, 8):
        synchronous = 120 * facts.frequency / poles
        if abs(synchronous / facts.synchronous - 1) > 0.05:
            k = (synchronous - slip) / facts.rpm
            yield replace(_wheel(facts, k * k, k), synchronous=synchronous, rpm=synchronous - slip)


def _amps(facts: Facts) -> Iterable[Facts]:
    for ratio in (ROOT_THREE, 1 / ROOT_THREE, 2.0, 0.5):
        yield replace(facts, rated_amps=facts.rated_amps * ratio, no_load_amps=facts.no_load_amps * ratio)


def _dry(facts: Facts) -> Iterable[Facts]:
    if not facts.air:
        yield _wheel(facts, 0.2, 0.4, 0.6)
        yield _wheel(facts, 0.05, 0.3, 0.3)


def _backwards(facts: Facts) -> Iterable[Facts]:
    yield _wheel(facts, 0.55, 0.6, 0.65)
    yield _wheel(facts, 0.4, 0.6, 0.5)


CAUSES: tuple[Cause, ...] = (
    Cause("poles", "The speed is another", "The speeds read are those of a motor with other poles.",
          "Poles and rated speed, on the plate and in the drive.", _poles),
    Cause("plate_amps", "Plate amps are others", "The amps read are those of the plate's other voltage.",
          "Amps and power factor of the connected voltage on the plate; then the meter.", _amps),
    Cause("air_locked", "Air in the pump", "Hardly any pressure and little power: it is not moving water.",
          "Stop. Prime and vent; suction valve, foot valve, water level.", _dry),
    Cause("reversed", "Turning backwards", "Much less pressure for the power: about what a wheel gives backwards.",
          "Prove rotation again, by the shaft.", _backwards),
    Cause("throttled", "Throttled", "Less power, more pressure: less flow, as of a valve that is not fully open.",
          "Walk the system, open what is shut.",
          lambda f: (replace(f, resistance=f.resistance * k, loose=True) for k in (3.0, 10.0)),
          fan_says="Less power, more pressure: less flow, as of a damper or a dirty filter."),
    Cause("open", "More open than surveyed", "More power, less pressure: more flow, as of a burst or a tap.",
          "Look for it. If the system is right, correct its known point in the survey.",
          lambda f: (replace(f, resistance=f.resistance * k, loose=True) for k in (0.3, 0.08)),
          fan_says="More power, less pressure: more flow, as of an open door or a missing filter."),
    Cause("curve", "Another curve", "Pressure and power are off the same way at every step: another wheel or model.",
          "The machine's plate against the curve on record.",
          lambda f: (_wheel(f, k * k, k) for k in (0.8, 0.9, 1.1, 1.2))),
)  # fmt: skip


def causes_of(known: Estimate) -> tuple[tuple[float, Cause], ...]:
    """What would explain readings that the record does not, with the misfit that is left; the best first.

    The record as it is has the first word: a supposition is told where it explains what the record cannot.
    """
    found: list[tuple[float, Cause]] = []
    for cause in CAUSES:
        tried = [search(facts, known.readings) for facts in cause.supposes(known.facts)]
        best = min(tried, key=lambda e: e.misfit, default=None)
        if best is not None and best.misfit < min(known.misfit - RARE, max(best.limit, MOST * known.misfit)):
            found.append((best.misfit, cause))
    return tuple(sorted(found, key=lambda pair: pair[0]))
