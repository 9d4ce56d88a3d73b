"""Plain text that reads in every unit system: where a number stands in it, each telling does.

Sentences carry live figures; labels, hints and errors are plain text, and say `⟨300 mm|12 in⟩`, in the order of
`SYSTEMS`: a system without a telling of its own reads the first. Whoever shows them picks one with `told`; the screens
do the same (`words` in `web/src/lib/units.ts`).
"""

import re

from mainspring.core.systems import SYSTEMS, USUAL

_TELLINGS = re.compile("⟨([^⟩]*)⟩")


def tellings(*texts: str) -> str:
    """The tellings of one thing, in the order of `SYSTEMS`, as one text."""
    return texts[0] if len(set(texts)) == 1 else f"⟨{'|'.join(texts)}⟩"


def told(text: str, system: str = USUAL) -> str:
    """The text in one unit system.

    >>> told("keep ⟨300 mm|12 in⟩ apart", "us")
    'keep 12 in apart'
    >>> told("often ⟨50 °C|122 °F⟩", "im")
    'often 50 °C'
    """
    if "⟨" not in text:
        return text
    place = list(SYSTEMS).index(system)

    def pick(found: re.Match[str]) -> str:
        texts = found[1].split("|")
        return texts[place if place < len(texts) else 0]

    return _TELLINGS.sub(pick, text)
