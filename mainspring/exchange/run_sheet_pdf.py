"""The run sheet on paper, to be filled in by hand and typed in later."""

from dataclasses import dataclass, field

from mainspring.exchange.pdf import laid_out

PAPERS = ("A4", "Letter")


@dataclass(frozen=True)
class PaperStep:
    """One step as printed, in the reader's units."""

    number: int
    phase: str  # empty when it is that of the step before
    title: str
    what: str
    danger: str
    proof: str
    kept: str  # who and when, where it is done already
    blanks: list[tuple[str, str]] = field(default_factory=list)  # label with unit, what is expected
    boxes: list[str] = field(default_factory=list)
    heads: list[str] = field(default_factory=list)  # of a table
    rows: list[list[str]] = field(default_factory=list)  # reference, then what is expected in each column


@dataclass(frozen=True)
class RunSheetPages:
    """The whole sheet."""

    site: str
    tag: str
    title: str
    printed: str
    paper: str
    instruments: list[str]
    steps: list[PaperStep]
    units: str


def render_run_sheet(pages: RunSheetPages) -> bytes:
    """The sheet as PDF bytes."""
    pdf: bytes = laid_out("run_sheet.html", pages.units, sheet=pages).write_pdf()
    return pdf
