"""The second eye: a line says the same thing several ways; where they disagree, which one entry was the slip?

`relation` what a relation is and how its misfit counts; `usual` what motors and machines of a size usually are;
`motor`, `electrical`, `machine`, `system`, `ranges` the relations; `edits` what hands and eyes do to a number; `finder`
the decision; `findings` what is said of it.
"""

from mainspring.core.second_eye.finder import Suspicion, find_slips
from mainspring.core.second_eye.relation import Facts

__all__ = ["Facts", "Suspicion", "find_slips"]
