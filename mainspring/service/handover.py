"""Hand-over: what is missing, and the pages and the table that leave the house."""

from dataclasses import dataclass

from mainspring.core.benches.savings import worth_as_read
from mainspring.core.benches.savings.chain import WORDS
from mainspring.core.checks import Severity
from mainspring.core.families.sheet import SetRow
from mainspring.core.method import Figure, given
from mainspring.core.procedure import PHASES, PROOFS, StepState, StepStatus, standing, still_behind
from mainspring.core.quantity import DIMENSIONS, round_significant
from mainspring.core.sentence import in_percent, show
from mainspring.core.settings import Setting
from mainspring.core.settings.kept import KeptSetting
from mainspring.core.told import told
from mainspring.exchange import settings_csv
from mainspring.exchange.handover_pdf import HandoverPage, render_pdf
from mainspring.exchange.run_sheet_pdf import PaperStep, RunSheetPages, render_run_sheet
from mainspring.service.opened import Opened
from mainspring.service.proof import baseline_row, proof_of_line
from mainspring.service.sheet import set_rows, sheet_conflicts
from mainspring.store import repository


@dataclass(frozen=True)
class Ready:
    """Whether a line can be handed over, and what stands against it."""

    missing: list[str]


def readiness(opened: Opened) -> Ready:
    """What is still missing before hand-over."""
    stops = [f"Stop open: {f.title}" for f in opened.assessment.findings if f.severity is Severity.STOP]
    steps = [f"Run sheet: {s.step.title} is {_state(s.state)}" for s in opened.sheet if not s.done_or_left_out]
    behind = [f"To be put back: {what}" for what in still_behind(opened.sheet)]
    stay = opened.judged.on_site.stay
    new_drive = stay.purpose == "replacement" and "drive" in stay.parts
    if opened.short and not new_drive:  # what was there before this visit is not its to prove
        return Ready([*stops, *behind, *steps])
    rows = set_rows(opened)
    still_open = sum(r.verdict == "open" for r in rows)
    settings = [f"Settings: {still_open} without an as-left value"] if still_open else []
    if opened.short:
        return Ready([*stops, *behind, *steps, *settings])
    baseline = [] if baseline_row(opened.whole) else ["No baseline at full speed"]
    otherwise = [
        f"Left otherwise than decided: {r.row.setting.label}" for r in rows if r.decided and r.verdict == "differs"
    ]
    against = [
        f"Settings against one another: {c.title}" for c in sheet_conflicts(opened) if c.severity is Severity.STOP
    ]
    return Ready([*stops, *against, *behind, *steps, *settings, *otherwise, *baseline])


def settings_table(opened: Opened, system: str) -> str:
    """The settings sheet as CSV."""
    return settings_csv.write_csv(_csv_row(row, system) for row in set_rows(opened))


def settings_book(opened: Opened, system: str) -> bytes:
    """The settings sheet as a spreadsheet."""
    return settings_csv.write_xlsx((_csv_row(row, system) for row in set_rows(opened)), opened.kept.tag)


def _csv_row(entered: SetRow, system: str) -> tuple[str, ...]:
    setting, planned, parameter = entered.row.setting, entered.row.planned, entered.parameter
    return (
        setting.id,
        setting.label,
        parameter.number if parameter else "",
        parameter.called() if parameter else "",
        "" if entered.dial is None else entered.dial.text,
        _number(entered.planned, setting.dimension, system) or told(entered.row.missing, system),
        "" if setting.dimension is None else _unit(setting.dimension, system),
        _number(_entered(entered.found), setting.dimension, system),
        _number(_entered(entered.left), setting.dimension, system),
        entered.verdict,
        planned.reason.text(system) if planned else "",
        str(planned.source) if planned else "",
    )


def _entered(kept: KeptSetting | None) -> float | str | None:
    return None if kept is None else kept.value


def _unit(dimension: str, system: str) -> str:
    return DIMENSIONS[dimension].symbol(system)


def _number(value: float | str | None, dimension: str | None, system: str, digits: int = 6) -> str:
    if value is None or isinstance(value, str) or dimension is None:
        return "" if value is None else str(value)
    known = DIMENSIONS[dimension]
    return round_significant(known.unit(_unit(dimension, system)).from_si(value), digits)


def _said(figure: Figure | None, system: str) -> str:
    return "" if figure is None else show(figure, system)


def _value(value: float | str | None, setting: Setting, system: str) -> str:
    if value is None:
        return "–"
    if isinstance(value, str):
        return setting.choices.get(value, value)
    return DIMENSIONS[setting.dimension].show(value, system) if setting.dimension else f"{value:g}"


def handover_pdf(opened: Opened, system: str) -> bytes:
    """The one-page hand-over."""
    proof = proof_of_line(opened)
    return render_pdf(
        HandoverPage(
            site=opened.site.name,
            tag=opened.kept.tag,
            title=opened.kept.title,
            printed=f"{repository.now():%Y-%m-%d %H:%M} UTC",
            stations=[
                (s.label, s.key.text(system), s.second.text(system), s.severity.word)
                for s in opened.assessment.strip.stations
            ],
            findings=[
                (f.severity.word, f.title, f.because.text(system))
                for f in opened.assessment.findings
                if f.severity is not Severity.CLEAR
            ][:12],
            baseline=_baseline(opened, system),
            proof=[
                (
                    e.title,
                    _said(e.load, system) or e.missing,
                    f"{_said(e.low, system)} to {_said(e.high, system)}" if e.load else "",
                )
                for e in (proof.estimates if proof else ())
            ],
            savings=[*_measured(opened, system), *_savings(opened, system)],
            settings=[
                (
                    r.row.setting.label,
                    _value(r.wanted, r.row.setting, system),
                    _value(_entered(r.left), r.row.setting, system),
                    r.verdict,
                )
                for r in set_rows(opened)
                if not r.absent
            ],
            steps_done=f"{sum(s.done_or_left_out for s in opened.sheet)} of {len(opened.sheet)} done",
            steps=[(s.step.title, _state(s.state)) for s in opened.sheet if not s.done_or_left_out][:14],
            standing=[(s.title, f"{s.words} {s.by}, {s.at:%Y-%m-%d}: {s.why}") for s in standing(opened.sheet)][:8],
            missing=readiness(opened).missing[:6],
            units=system,
        )
    )


def _state(state: StepState) -> str:
    return state.value.replace("_", " ")


def run_sheet_pdf(opened: Opened, system: str, paper: str) -> bytes:
    """The run sheet on paper."""
    visit = opened.visit
    steps = []
    before = ""
    for number, status in enumerate(opened.sheet, 1):
        phase = PHASES[status.step.phase]
        steps.append(_paper_step(number, "" if phase == before else phase, status, system))
        before = phase
    return render_run_sheet(
        RunSheetPages(
            site=opened.site.name,
            tag=opened.kept.tag,
            title=opened.kept.title,
            printed=f"{repository.now():%Y-%m-%d %H:%M} UTC",
            paper=paper,
            instruments=[] if visit is None else [i.name for i in visit.instruments],
            steps=steps,
            units=system,
        )
    )


def _paper_step(number: int, phase: str, status: StepStatus, system: str) -> PaperStep:
    step, last = status.step, status.evidence[-1] if status.evidence else None
    done = status.done_or_left_out and last is not None
    proof = PROOFS[step.proof]
    paper = proof.on_paper(step, system)
    return PaperStep(
        number=number,
        phase=phase,
        title=step.title,
        what=step.what.text(system),
        danger=step.danger,
        proof=proof.words,
        kept=f"{_state(status.state)}, {last.by}, {last.at:%Y-%m-%d %H:%M}" if done and last else "",
        blanks=paper.blanks,
        boxes=paper.boxes,
        heads=paper.heads,
        rows=paper.rows,
    )


def _baseline(opened: Opened, system: str) -> list[tuple[str, str, str]]:
    row = baseline_row(opened.whole)
    if row is None:
        return []
    table = next(s.step.table for s in opened.whole if s.step.id == "turn.step_up")
    assert table is not None  # a row of it was kept
    expected = table.expected[-1] if table.expected else {}
    return [
        (
            c.label,
            DIMENSIONS[c.dimension].show(float(row[c.id]), system) if c.id in row else "–",
            _said(expected.get(c.id), system),
        )
        for c in table.columns
    ]


def _measured(opened: Opened, system: str) -> list[tuple[str, str]]:
    """The measured saving that somebody stands up for."""
    kept = opened.claimed
    if kept is None:
        return []
    data, show_energy = kept.data, DIMENSIONS["energy"].show
    saved, half = show_energy(data["saved"], system, 3), show_energy(data["half"], system, 2)
    words = f"{saved} ± {half} at {in_percent(data['confidence'])}, by {kept.by}"
    return [("Measured, a year", words)]


def _savings(opened: Opened, system: str) -> list[tuple[str, str]]:
    modelled = opened.judged.modelled
    if modelled is None:
        return []
    found = modelled.savings
    worth, by = found.worth, ""
    if (claimed := opened.claimed) is not None:  # money is of what was measured, as on every other page
        saved = given("saved", claimed.data["saved"], "energy", f"measured, claimed by {claimed.by}")
        hours = given("hours", claimed.data["seconds"], "hours", "of the year that was read")
        worth, by = worth_as_read(opened.line, worth, saved, hours), ", of what was measured"
    wanted = (
        (f"{WORDS[found.alternative]}, a year", found.before),
        ("Slowed, a year", found.now),
        ("Saved, a year, modelled" if by else "Saved, a year", found.saved),
        ("Share saved, modelled" if by else "Share saved", found.fraction),
        (f"Money a year{by}", worth.yearly),
        (f"Simple payback{by}, years", worth.payback),
        ("The cube law would promise", found.cube_saved),
    )
    return [(label, show(figure, system)) for label, figure in wanted if figure is not None]
