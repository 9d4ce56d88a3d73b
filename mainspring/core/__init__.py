"""The rules of the job: pure computation that knows no database, web or file."""

import mainspring.core.ratios  # noqa: F401 by which figures add and subtract
