"""The line as known, for the screen: what its readings taught, what they leave open, and what to expect by them."""

from collections.abc import Callable, Iterator

from mainspring.core.derived import Derived, moved_to
from mainspring.core.diagnosis import pattern_of_verdict
from mainspring.core.errors import MainspringError
from mainspring.core.known import KINDS, NORMAL_95, asked_of, best_next, judge, learnt, worth_reading
from mainspring.core.method import Figure
from mainspring.service.keys import Key
from mainspring.service.views import ExpectView, KnownView, Ledger, NextReadingView

HOLD_STEP, HOLD_HOW = "loop.hold", "The frequency that holds at no demand"


def known_view(ledger: Ledger, key: Key, derived: Derived) -> KnownView | None:
    """The line as known; None where too little is promised to compare."""
    try:
        everything = derived.estimate
    except MainspringError:
        return None
    verdict, known = judge(everything), derived.trusted
    return KnownView(
        readings=len(everything.readings),
        fits=known is not None,
        says=ledger.pattern(key, pattern_of_verdict(everything, verdict)),
        learnt=[] if known is None else [ledger.sentence(key / "learnt" / i, s) for i, s in enumerate(learnt(known))],
        next=[] if known is None else list(_next(ledger, key, derived)),
        expects=[] if known is None else list(_expects(ledger, key / "expects", derived)),
    )


def _next(ledger: Ledger, key: Key, derived: Derived) -> Iterator[NextReadingView]:
    known = derived.trusted
    assert known is not None
    told: set[str] = set()
    for of, asked in asked_of(known.facts).items():
        best = best_next(known, of)
        if best is None or best.key[0] in told:
            continue
        kind = KINDS[best.key[0]]
        told.add(kind.id)
        how = (kind.fan_how if known.facts.air else "") or kind.how or HOLD_HOW
        yield NextReadingView(
            step="" if kind.field else HOLD_STEP,
            field=kind.field_of(air=known.facts.air),
            said=ledger.sentence(key / "next" / of, worth_reading(best, how, asked)),
        )


def _expects(ledger: Ledger, key: Key, derived: Derived) -> Iterator[ExpectView]:
    """Hold, and flow and power at full speed."""
    known, motor = derived.trusted, derived.line.motor
    assert known is not None
    full = known.facts.frequency
    wanted: list[tuple[str, str, tuple[str, float], Callable[[], Figure]]] = [
        ("flow", "Flow at full speed", ("flow", full), lambda: derived.full_flow),
        ("power", "Power at full speed", ("clamp", full), lambda: derived.expected_at(motor.rated_frequency)["power"]),
    ]
    if known.facts.held is not None and not known.facts.air:
        wanted.append(("hold", "Holds at no demand", ("hold", 0.0), lambda: derived.hold_model))
    for id, label, reading, plate in wanted:
        try:
            promised = plate()
        except MainspringError:
            continue
        bands = known.shown([reading])
        value, half = float(bands.values[0]), NORMAL_95 * float(bands.uncertainties[0])
        by = f"what {len(known.readings)} readings move it"
        yield ExpectView(
            id=id,
            label=label,
            plate=ledger.figure(key / id / "plate", promised),
            known=ledger.figure(key / id / "known", moved_to(promised, value, by, id)),
            low=ledger.figure(key / id / "low", moved_to(promised, value - half, f"{by}, lower end of 95 %", id)),
            high=ledger.figure(key / id / "high", moved_to(promised, value + half, f"{by}, upper end of 95 %", id)),
        )
