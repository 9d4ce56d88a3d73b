"""Everything that the application does, over one database: what routes, the command line and the demo are given."""

from pathlib import Path

from peewee import MySQLDatabase

from mainspring.service.codes import Codes
from mainspring.service.families import Families
from mainspring.service.keypad import Keypads
from mainspring.service.lines import Drafts, Lines
from mainspring.service.logs import Logs
from mainspring.service.measured import Measured
from mainspring.service.opened import OpenLines
from mainspring.service.owner import Owners
from mainspring.service.photo import Photos
from mainspring.service.round import Round
from mainspring.service.run import RunSheets
from mainspring.service.sheet import Sheets
from mainspring.service.story import Stories
from mainspring.service.transfer import Transfers


class Service:
    """The uses by subject, and the lines they share."""

    def __init__(self, db: MySQLDatabase, key_file: Path | None = None) -> None:
        self.open_lines = OpenLines(db)
        self.families = Families(self.open_lines)
        self.round = Round(self.open_lines)
        self.lines = Lines(self.open_lines)
        self.drafts = Drafts(self.open_lines)
        self.run = RunSheets(self.open_lines)
        self.sheets = Sheets(self.open_lines)
        self.keypads = Keypads(self.families, self.sheets)
        self.codes = Codes(self.open_lines, key_file)
        self.photos = Photos(self.open_lines)
        self.logs = Logs(self.open_lines)
        self.measured = Measured(self.open_lines, self.logs)
        self.owners = Owners(self.open_lines, self.measured)
        self.stories = Stories(self.open_lines)
        self.transfers = Transfers(self.open_lines)
