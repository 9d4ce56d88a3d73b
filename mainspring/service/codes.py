"""Access codes of drives: encrypted in the store, shown when somebody asks, which the line's story tells.

The key lies in a file beside the data folder and never in the database or an export: who has only one of the two reads
nothing.
"""

import os
import tempfile
from datetime import datetime
from pathlib import Path

from cryptography.fernet import Fernet, InvalidToken
from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.core.procedure import check_text
from mainspring.service.commands import carry_out
from mainspring.service.errors import BadRecord, KeyUnusable
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened, OpenLines
from mainspring.store import repository
from mainspring.store.errors import NotFound
from mainspring.store.repository import Change, KeptCode

CODE_LIMIT, WHY_LIMIT = 100, 200


class CodeView(BaseModel):
    """Whether a code is kept of a line, by whom; the code itself only where it was asked for."""

    kept: bool
    by: str = ""
    at: datetime | None = None
    code: str | None = None


class Codes:
    """What is done with access codes."""

    def __init__(self, lines: OpenLines, key_file: Path | None) -> None:
        self.lines, self.key_file = lines, key_file

    def make_key(self) -> None:
        """Make the key where there is none yet, at first start. Raises KeyUnusable for one that cannot be used."""
        self._fernet()

    def view(self, line_id: str) -> CodeView:
        """Whether one is kept."""
        self.lines.head(line_id)
        kept = self.lines.look(lambda: repository.code(line_id))
        return CodeView(kept=False) if kept is None else CodeView(kept=True, by=kept.by, at=kept.at)

    def put(self, line_id: str, code: str, by: str) -> CodeView:
        """Keep a code in the place of the one that is there; an empty one takes it away."""
        by = check_who(by)
        try:
            check_text("code", code, CODE_LIMIT, least=0)
        except BadEntry:  # which must not say what was typed
            raise BadRecord({"code": BadEntry("code", "too long", f"up to {CODE_LIMIT} characters")}) from None
        secret = self._fernet().encrypt(code.encode()).decode() if code else ""

        def decide(_: Opened) -> Change:
            note = "access code kept" if code else "access code taken away"
            return Change(by, code=KeptCode(secret, by, repository.now()), note=note)

        carry_out(self.lines, line_id, decide)
        return self.view(line_id)

    def show(self, line_id: str, by: str, why: str) -> CodeView:
        """The code; the story tells who asked and why. Raises NotFound where none is kept, or its key is not."""
        by = check_who(by)
        try:
            why = check_text("why", why, WHY_LIMIT, least=1)
        except BadEntry as problem:
            raise BadRecord({"why": problem}) from None
        kept = self.lines.look(lambda: repository.code(line_id))
        if kept is None:
            raise NotFound("no access code is kept of this line")
        try:
            code = self._fernet().decrypt(kept.secret.encode()).decode()
        except InvalidToken:
            where = self.key_file.name if self.key_file is not None else "any file"
            raise NotFound(
                f"this code was kept under another key than the one at {where}: ask who knows it, and enter it again"
            ) from None
        carry_out(self.lines, line_id, lambda _: Change(by, note="access code shown", why=why))
        return CodeView(kept=True, by=kept.by, at=kept.at, code=code)

    def _fernet(self) -> Fernet:
        """The key, made once; of two that make it at the same moment one wins and both use that.

        Raises KeyUnusable.
        """
        if self.key_file is None:
            raise KeyUnusable("no file was named to keep the key in: codes are kept by the served application only")
        if not self.key_file.exists():
            self.key_file.parent.mkdir(parents=True, exist_ok=True)
            handle, name = tempfile.mkstemp(dir=self.key_file.parent)  # readable by its owner only
            try:
                with os.fdopen(handle, "wb") as file:
                    file.write(Fernet.generate_key())
                os.link(name, self.key_file)
            except FileExistsError:
                pass
            finally:
                os.unlink(name)
        mode = self.key_file.stat().st_mode & 0o777
        if mode & 0o077:
            raise KeyUnusable(
                f"{self.key_file.name} can be read by others (mode {mode:o}): who read it can read every code. Set it"
                " to 600 if nobody did; else take it away, start anew, and enter the codes again"
            )
        try:
            return Fernet(self.key_file.read_bytes().strip())
        except ValueError:
            raise KeyUnusable(
                f"{self.key_file.name} holds no key: put the right one back, or take it away and enter the codes again"
            ) from None
