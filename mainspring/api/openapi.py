"""Write the OpenAPI schema, from which the front end's types are made: python -m mainspring.api.openapi FILE."""

import json
import sys
from pathlib import Path

from mainspring.api.app import create_app
from mainspring.api.settings import AppSettings
from mainspring.store.database import pooled_database


def schema_text() -> str:
    """The schema as stable JSON; needs no running database."""
    app = create_app(AppSettings(), pooled_database("mysql://nobody@127.0.0.1:1/none"))
    return json.dumps(app.openapi(), indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(schema_text(), encoding="utf-8")
