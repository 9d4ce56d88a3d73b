"""What the Round shows of a line, kept with it by every command."""

from typing import Any

from mainspring.core.procedure import still_behind
from mainspring.core.sentence import in_sentence
from mainspring.service.opened import Opened

SUMMARY_VERSION = 8


def summary_of(opened: Opened) -> dict[str, Any]:
    """What the Round shows of a line."""
    line, findings = opened.line, opened.assessment.findings
    first = min(findings, key=lambda f: f.severity, default=None)
    stale = next((s for s in opened.sheet if s.changed), None)
    severity, headline = ("unknown", "Nothing known yet") if first is None else (first.severity.word, first.title)
    behind = still_behind(opened.whole)
    if severity in ("clear", "unknown") and behind:
        severity, headline = "caution", f"To be put back: {in_sentence(behind[0])}"
    elif severity in ("clear", "unknown") and stale is not None:
        severity, headline = "caution", f"Stale: {in_sentence(stale.step.title)}"
    elif severity == "clear":
        headline = "Everything checked is clear"
    held = line.held
    wanted = held if held is not None and held.setpoint else None
    flow = ("machine.air_flow", "air_flow") if "fan" in line.traits else ("machine.duty_flow", "flow")
    return {
        "version": SUMMARY_VERSION,
        "site": opened.head.site_seq,
        "states": opened.progress.states,
        "words": opened.progress.words,
        "severity": severity,
        "headline": headline,
        "stops": sum(f.severity.word == "stop" for f in findings),
        "power": line.value("motor.rated_power"),
        "wanted": line.value(wanted.setpoint if wanted else flow[0]),
        "wanted_dimension": wanted.dimension if wanted else flow[1],
        "saved": opened.saved,
        "measured": None if opened.claimed is None else float(opened.claimed.data["saved"]),
        "behind": len(behind),
    }
