"""Parameters that the sheet has no setting for: kept under the label they bear in the drive, with value and reason.

Their id is that label, so that the file, the story and the paper say what the display says: `own.61.4 Stop at no flow`.
"""

from mainspring.core.errors import BadEntry, NotKnown
from mainspring.core.settings.setting import SETTINGS, Planned, Setting

OWN = "own."
LABEL_LIMIT = 70
GROUP = "own"
WRONG = "It does what its manual says; only that says what else goes wrong."


def _nothing_proposed(*_: object) -> Planned:
    raise NotKnown("settings", "a value decided: nothing is proposed for it")


def own_id(label: str) -> str:
    """The id of a parameter by its label. Raises BadEntry."""
    text = " ".join(label.split())
    if not 2 <= len(text) <= LABEL_LIMIT or "/" in text or not text.isprintable():
        allowed = f"number and name as the drive shows them, 2 to {LABEL_LIMIT} characters, no slash"
        raise BadEntry("parameter", label[:80], allowed)
    return OWN + text


def setting_of(id: str) -> Setting | None:
    """The setting of an id: one of the sheet's, or a drive's own parameter; None for neither."""
    if id in SETTINGS:
        return SETTINGS[id]
    if not id.startswith(OWN):
        return None
    try:
        own = own_id(id.removeprefix(OWN))
    except BadEntry:
        return None
    return Setting(own, GROUP, own.removeprefix(OWN), None, {}, WRONG, (), _nothing_proposed) if own == id else None
