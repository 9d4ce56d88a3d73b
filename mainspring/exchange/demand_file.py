"""A demand as somebody has it: a table of time in s and demand in % of full, typed, pasted or exported as CSV."""

from mainspring.core.errors import BadEntry
from mainspring.core.simulation.demand import Steps, own_steps
from mainspring.exchange.step_file import SIZE_LIMIT, is_number, number, rows_of


def read_demand(text: str) -> Steps:
    """Times [s] from 0 and shares of full demand; headings before the first row are passed over.

    Raises BadEntry with the row.
    """
    if len(text) > SIZE_LIMIT:
        raise BadEntry("the table", f"{len(text)} characters", f"up to {SIZE_LIMIT}")
    found: list[tuple[float, float]] = []
    for n, row in enumerate(rows_of(text), 1):
        cells = [cell.removesuffix("%").strip() for cell in row]
        if not found and n <= 2 and not (len(cells) > 1 and is_number(cells[0]) and is_number(cells[1])):
            continue  # a heading, and its units
        if len(cells) < 2:
            raise BadEntry(f"row {n}", " ".join(row), "a time in s and a demand in % of full")
        found.append((number(cells[0], n), number(cells[1], n) / 100.0))
    first = found[0][0] if found else 0.0
    return own_steps([(t - first, q) for t, q in found])
