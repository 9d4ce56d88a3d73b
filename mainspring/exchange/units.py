"""The unit system of a file or a request, refused where there is no such one."""

from typing import Annotated

from pydantic import AfterValidator, Field

from mainspring.core.errors import BadEntry
from mainspring.core.systems import SYSTEMS


def _known(system: str) -> str:
    if system not in SYSTEMS:
        raise BadEntry("units", system, ", ".join(SYSTEMS))
    return system


Units = Annotated[str, AfterValidator(_known), Field(json_schema_extra={"enum": list(SYSTEMS)})]
