"""A photo."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Proof, Read, Told
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import Step


class Photo(Proof):
    """A picture of what nobody will open to look at again."""

    id, kind, words = "photo", "photo", "a photo"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        return replace(made, data={"photo": photo_id(data)}, leaves={})

    def told(self, evidence: Evidence, step: Step) -> Told:
        return ["photo kept"]

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return []  # there is no picture to show


def photo_id(data: Mapping[str, Any]) -> str:
    """The id of the photo that an entry names. Raises BadEntry."""
    photo = data.get("photo")
    if not isinstance(photo, str) or not 1 <= len(photo) <= 36:
        raise BadEntry("photo", photo, "the id of a photo of this line")
    return photo
