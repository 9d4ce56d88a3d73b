"""Plain text that reads in both unit systems: where a number stands in it, both tellings do.

Sentences carry live figures; labels, hints and errors are plain text, and say `⟨300 mm|12 in⟩`. Whoever shows them
picks one with `told`; the screens do the same (`words` in `web/src/lib/units.ts`).
"""

import re

_BOTH = re.compile("⟨([^|⟩]*)\\|([^⟩]*)⟩")


def both(si: str, us: str) -> str:
    """Two tellings of one thing, as one text."""
    return si if si == us else f"⟨{si}|{us}⟩"


def told(text: str, system: str = "si") -> str:
    """The text in one unit system.

    >>> told("keep ⟨300 mm|12 in⟩ apart", "us")
    'keep 12 in apart'
    """
    return _BOTH.sub(r"\2" if system == "us" else r"\1", text) if "⟨" in text else text
