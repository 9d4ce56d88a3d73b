"""Every sentence that findings, steps, settings and causes say on the demo's lines, in both unit systems, to be read.

Findings also on the right lines and slips of the tests.

`.venv/bin/python -m tools.sentences docs/sentences.md` makes the catalogue; a sentence stands once, by what says it.
"""

import sys
from pathlib import Path

from mainspring.core.assess import assess
from mainspring.core.derived import Derived
from mainspring.core.diagnosis.trips import MOMENTS, TRIPS, Moment, rank_causes
from mainspring.core.line import parse_line
from mainspring.core.sentence import Sentence
from mainspring.core.settings import SETTINGS
from mainspring.core.settings.does import Does
from mainspring.core.told import told
from mainspring.demo import fans, pumps, sites
from tests.second_eye.lines import right_lines, slips_by_hand, with_slip

AT_HOME = (
    pumps.BOOSTER,
    pumps.FILTER,
    pumps.BOREHOLE,
    pumps.WET_WELL,
    fans.SUPPLY_FAN,
    fans.POOL_EXHAUST,
    fans.FAN_WALL,
)
ABROAD = (pumps.CIRCULATOR, fans.TOWER_FAN)


def catalogue() -> str:
    """The whole of it, as text."""
    names = ("Findings", "Steps", "Settings", "Values beside the proposed one", "Causes of a trip")
    parts: dict[str, dict[str, dict[str, str]]] = {name: {} for name in names}

    def add(part: str, title: str, *sentences: Sentence | str | None) -> None:
        kept = parts[part].setdefault(title, {})
        for said in sentences:
            if isinstance(said, str) and said:
                kept.setdefault(said, told_both(said))
            elif isinstance(said, Sentence):
                kept.setdefault(said.template, _both(said))

    slipped = [with_slip(right_lines()[slip.line], slip.field, slip.typed) for slip in slips_by_hand()]
    for record in (*right_lines().values(), *slipped):
        for finding in assess(parse_line(record)[0]).findings:
            add("Findings", told_both(finding.title), finding.because, finding.do)
    lines = [*((record, sites.ORRENDALE) for record in AT_HOME), *((record, sites.MARROW) for record in ABROAD)]
    for record, site in lines:
        line, _ = parse_line({**record, "site": site["entries"]})
        found = assess(line)
        for finding in found.findings:
            add("Findings", told_both(finding.title), finding.because, finding.do)
        for step in found.steps:
            add("Steps", step.title, step.what, step.why, step.danger, step.wrong)
        for row in found.settings:
            if row.planned is not None:
                add("Settings", row.setting.label, row.planned.reason)
        for kind in TRIPS:
            for when in MOMENTS:
                for cause in rank_causes(kind, line, Derived(line), Moment(when)):
                    add("Causes of a trip", cause.title, cause.because, cause.measure)
    for setting in SETTINGS.values():
        sides = {"below": setting.below, "above": setting.above}
        told = {**{setting.choices[v]: d for v, d in setting.does.items()}, **{n: d for n, d in sides.items() if d}}
        for value, does in told.items():
            add("Values beside the proposed one", f"{setting.label}: {value}", _plain(does))
    pages = ["# Every sentence, to be read aloud", "", "Made by `.venv/bin/python -m tools.sentences docs/sentences.md`"
             " from the demo's lines, findings also", "of the right and slipped lines in `tests/second_eye`; SI and US"
             " beside each other.", ""]  # fmt: skip
    for part, titles in parts.items():
        pages += [f"## {part}", ""]
        for title, sentences in sorted(titles.items()):
            pages += [f"**{title}**", "", *(f"- {s}" for s in sentences.values()), ""]
    return "\n".join(pages)


def _plain(does: Does) -> str:
    """What a value does, its two slots in angle brackets."""
    return f"{does.severity.word}: {does.title}. {does.words}".replace("{", "‹").replace("}", "›")


def _both(said: Sentence) -> str:
    """In SI, and in US units where that reads otherwise."""
    return _beside(said.text(), said.text("us"))


def told_both(text: str) -> str:
    """Plain text in SI, and in US units where that reads otherwise."""
    return _beside(told(text), told(text, "us"))


def _beside(si: str, us: str) -> str:
    return si if si == us else f"{si} | {us}"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(catalogue())
