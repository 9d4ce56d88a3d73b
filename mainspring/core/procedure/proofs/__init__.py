"""The kinds of proof, a module each. A new one is declared here, and has its component in `web/src/lib/run/proofs`."""

from dataclasses import replace

from mainspring.core.procedure.proofs.choice import Choice
from mainspring.core.procedure.proofs.countdown import Countdown
from mainspring.core.procedure.proofs.kind import Paper, Proof
from mainspring.core.procedure.proofs.listed import Listed
from mainspring.core.procedure.proofs.log import Log
from mainspring.core.procedure.proofs.photo import Photo
from mainspring.core.procedure.proofs.picked import Picked
from mainspring.core.procedure.proofs.put_back import PutBack
from mainspring.core.procedure.proofs.readings import Readings
from mainspring.core.procedure.proofs.table import Table
from mainspring.core.procedure.proofs.tick import Tick
from mainspring.core.procedure.proofs.turns import Turns
from mainspring.core.procedure.proofs.units import Units
from mainspring.core.procedure.rules import Form, Rules, Why
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import say

PROOFS: dict[str, Proof] = {
    p.id: p
    for p in (
        Tick(),
        Countdown(),
        Readings(),
        Choice(),
        Listed(),
        Picked(),
        Log(),
        Table(),
        Units(),
        Turns(),
        PutBack(),
        Photo(),
    )
}
_BARE = Step("", "", say(""), "", "")
_WHY = "why it is left out; it stays on the sheet with your name"
_NOTE = Form((Why("note", "some words"),), beside=True)
_LEFT_OUT = Form((Why("reason", _WHY),), leaves_out=True)
_PICTURE = replace(PROOFS["photo"].forms(_BARE)["photo"], beside=True)
BESIDE = ("note", "photo")  # kinds that any step takes, beside what proves it


def rules_of(step: Step) -> Rules:
    """The rules of a step."""
    never = f"“{step.title}” guards people or machine: it cannot be overridden"
    left_out = _LEFT_OUT if step.skip and not step.safety else replace(_LEFT_OUT, never=never)
    return Rules(
        step=step.id,
        title=step.title,
        forms={"note": _NOTE, "photo": _PICTURE, "override": left_out, **PROOFS[step.proof].forms(step)},
        after=step.after,
        stops=step.held_by,
        reopens=step.reopens,
    )


def kinds() -> tuple[str, ...]:
    """Every kind of evidence."""
    found = [kind for proof in PROOFS.values() for kind in proof.forms(_BARE)]
    return tuple(dict.fromkeys([*found, *BESIDE, "override"]))


__all__ = ["BESIDE", "PROOFS", "Paper", "Proof", "kinds", "rules_of"]
