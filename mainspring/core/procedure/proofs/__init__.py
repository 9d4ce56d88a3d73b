"""The kinds of proof, a module each. A new one is declared here, and has its component in `web/src/lib/run/proofs`."""

from mainspring.core.procedure.proofs.choice import Choice
from mainspring.core.procedure.proofs.countdown import Countdown
from mainspring.core.procedure.proofs.kind import Paper, Proof, part_of
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
KINDS = tuple(dict.fromkeys([*(k for p in PROOFS.values() for k in p.kinds), "photo", "note", "override"]))

__all__ = ["KINDS", "PROOFS", "Paper", "Proof", "part_of"]
