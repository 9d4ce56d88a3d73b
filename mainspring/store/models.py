"""The tables. Every one has a primary key; ids are made by the client, so that a repeated create is harmless."""

import json
from datetime import UTC, datetime
from typing import Any

from peewee import (
    AutoField,
    BlobField,
    BooleanField,
    CharField,
    CompositeKey,
    DatabaseProxy,
    DateTimeField,
    DoubleField,
    Field,
    ForeignKeyField,
    IntegerField,
    Model,
)

database_proxy = DatabaseProxy()


class UtcField(DateTimeField):
    """A moment, aware in Python, UTC in the table, to the microsecond."""

    field_type = "DATETIME(6)"

    def db_value(self, value: datetime | None) -> Any:
        """Naive UTC for the driver."""
        if value is None:
            return None
        return value.astimezone(UTC).replace(tzinfo=None)

    def python_value(self, value: Any) -> datetime | None:
        """Aware UTC from the driver."""
        return None if value is None else value.replace(tzinfo=UTC)


class JsonField(Field):
    """A JSON document in a LONGTEXT; NaN and infinity never get in."""

    field_type = "LONGTEXT"

    def db_value(self, value: Any) -> str | None:
        """Compact JSON text."""
        if value is None:
            return None
        return json.dumps(value, ensure_ascii=False, allow_nan=False, separators=(",", ":"))

    def python_value(self, value: Any) -> Any:
        """The document."""
        return None if value is None else json.loads(value)


class Table(Model):
    """Base of the tables."""

    class Meta:
        database = database_proxy
        legacy_table_names = False


class Site(Table):
    """A place with lines; `entries` are the record's site group."""

    id = CharField(36, primary_key=True)
    name = CharField(200)
    units = CharField(2, default="si")
    entries = JsonField()
    revision = IntegerField(default=1)
    seq = IntegerField(default=1)  # counts changes of what its lines share
    created_at = UtcField()

    class Meta:
        table_name = "site"


class DriveLine(Table):
    """One drive line; `record` is what core.line reads, `summary` what the Round shows of it.

    `seq` counts every change of the line and of all that hangs on it; a writer that finds it moved has lost the race.
    """

    id = CharField(36, primary_key=True)
    site = ForeignKeyField(Site, on_delete="RESTRICT")
    site_id: str
    tag = CharField(200)
    title = CharField(200, default="")
    record = JsonField()
    schema_version = IntegerField()
    revision = IntegerField(default=1)
    seq = IntegerField(default=1)
    settings_seq = IntegerField(default=1)  # the seq at which a setting last changed
    visits_seq = IntegerField(default=1)
    summary = JsonField(null=True)
    created_at = UtcField()
    updated_at = UtcField()

    class Meta:
        table_name = "drive_line"


class Visit(Table):
    """One dated stay at a line."""

    id = CharField(36, primary_key=True)
    line = ForeignKeyField(DriveLine, on_delete="CASCADE")
    line_id: str
    purpose = CharField(40)
    by = CharField(120, column_name="opened_by")
    at = UtcField(column_name="opened_at")
    instruments = JsonField(default=list)
    note = CharField(2000, default="")
    closed = UtcField(null=True, column_name="closed_at")
    paper = BooleanField(default=False)

    class Meta:
        table_name = "visit"


class EvidenceRow(Table):
    """One piece of evidence; only ever added."""

    id = CharField(36, primary_key=True)
    line = ForeignKeyField(DriveLine, on_delete="CASCADE")
    visit = ForeignKeyField(Visit, null=True, on_delete="SET NULL")
    visit_id: str | None
    step = CharField(80)
    kind = CharField(20)
    data = JsonField()
    leaves = JsonField()
    passed = BooleanField()
    by = CharField(120, column_name="done_by")
    at = UtcField(column_name="done_at")
    note = CharField(2000, default="")
    instrument = JsonField(null=True)
    received = UtcField(null=True, column_name="received_at")
    seq = IntegerField(default=1)
    paper = BooleanField(default=False)
    # when the server took it, by the wall's clock and by one that cannot jump; and one run of the application on the
    # device that made it, with its seconds
    clock_wall = UtcField(null=True, column_name="kept_at")
    clock_boot = CharField(36, default="", column_name="boot")
    clock_uptime = DoubleField(null=True, column_name="uptime")
    clock_device = CharField(36, default="", column_name="device")
    clock_ran = DoubleField(null=True, column_name="ran")
    digest = CharField(64, default="")  # of what was sent, so that the same id with other content is noticed

    class Meta:
        table_name = "evidence"


class SettingEntry(Table):
    """A setting as found or as left; the latest value, its history is in the events."""

    line = ForeignKeyField(DriveLine, on_delete="CASCADE")
    setting = CharField(80)
    moment = CharField(10)  # found, decided, left
    value = JsonField()
    by = CharField(120, column_name="done_by")
    at = UtcField(column_name="done_at")
    why = CharField(500, default="")  # of what was decided
    taken = BooleanField(default=False)  # from the plan, not read back
    family = CharField(64, default="")  # hash of the family by which it was read back at the keypad

    class Meta:
        table_name = "setting_entry"
        primary_key = CompositeKey("line", "setting", "moment")


class FamilyRow(Table):
    """A family of drives that somebody made or changed: which version is in force."""

    id = CharField(40, primary_key=True)
    digest = CharField(64)
    revision = IntegerField()
    summary = JsonField()  # what a list shows of it
    by = CharField(120, column_name="done_by")
    at = UtcField(column_name="done_at")

    class Meta:
        table_name = "family"


class FamilyVersion(Table):
    """A version of a family, by the hash of its content; only ever added."""

    digest = CharField(64, primary_key=True)
    family = CharField(40)
    body = JsonField()
    by = CharField(120, column_name="done_by")
    at = UtcField(column_name="done_at")

    class Meta:
        table_name = "family_version"


class AccessCode(Table):
    """The access code of a line's drive, encrypted."""

    line = ForeignKeyField(DriveLine, primary_key=True, on_delete="CASCADE")
    secret = CharField(2000)
    by = CharField(120, column_name="done_by")
    at = UtcField(column_name="done_at")

    class Meta:
        table_name = "access_code"


class Photo(Table):
    """A photo of a plate, re-encoded as JPEG and without anything the camera wrote into it."""

    id = CharField(36, primary_key=True)
    line = ForeignKeyField(DriveLine, on_delete="CASCADE")
    station = CharField(20)
    width = IntegerField()
    height = IntegerField()
    picture = BlobField()
    by = CharField(120, column_name="done_by")
    at = UtcField(column_name="done_at")

    class Meta:
        table_name = "photo"


class TrendRow(Table):
    """A log that was read: what it is; its readings are in its parts and never change."""

    id = CharField(36, primary_key=True)
    line = ForeignKeyField(DriveLine, on_delete="CASCADE")
    side = CharField(10)  # before or after the change
    name = CharField(200)  # of the file
    layout = JsonField()  # as it was confirmed
    signature = CharField(64)  # by which a file laid out alike is known again
    digest = CharField(64)  # of the file
    summary = JsonField()  # rows, span, columns, what was found wrong
    aside = BooleanField(default=False)  # kept, and not counted
    by = CharField(120, column_name="done_by")
    at = UtcField(column_name="done_at")

    class Meta:
        table_name = "trend"


class TrendPart(Table):
    """A piece of one column of a log, as Parquet."""

    trend = ForeignKeyField(TrendRow, on_delete="CASCADE")
    quantity = CharField(40)
    part = IntegerField()
    piece = BlobField()

    class Meta:
        table_name = "trend_part"
        primary_key = CompositeKey("trend", "quantity", "part")


class Event(Table):
    """Who changed what, when, from what to what; written in the same transaction as the change."""

    id = AutoField()
    at = UtcField()
    who = CharField(120)
    what = CharField(40)
    site_id = CharField(36, null=True)
    line_id = CharField(36, null=True)
    seq = IntegerField(null=True)
    subject = CharField(200, default="")
    before = JsonField(null=True)
    after = JsonField(null=True)

    class Meta:
        table_name = "event"


TABLES = (
    Site,
    DriveLine,
    Visit,
    EvidenceRow,
    SettingEntry,
    FamilyRow,
    FamilyVersion,
    AccessCode,
    Photo,
    TrendRow,
    TrendPart,
    Event,
)
