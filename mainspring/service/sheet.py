"""The settings sheet: planned, as found, as left."""

from peewee import MySQLDatabase

from mainspring.core.errors import BadEntry
from mainspring.core.method import Figure
from mainspring.core.settings import SETTINGS, family_of
from mainspring.core.settings.setting import SettingRow, same_value
from mainspring.service.lines import BadRecord, Opened, check_name, open_line, refresh_summary
from mainspring.service.views import FamilyParameter, Ledger, SettingView, SheetView
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import KeptSetting


def sheet_view(opened: Opened) -> tuple[SheetView, Ledger]:
    """The sheet for the screen, and the ledger of its figures."""
    ledger = Ledger()
    family = family_of(opened.line.value("drive.family"))
    kept = {(s.setting, s.moment): s for s in opened.settings}
    rows = [
        _row(
            ledger,
            row,
            family.parameter(row.setting.id),
            kept.get((row.setting.id, "found")),
            kept.get((row.setting.id, "left")),
        )
        for row in opened.assessment.settings
    ]
    view = SheetView(
        family=family.id,
        family_name=family.name,
        rows=rows,
        set_count=sum(r.left is not None for r in rows),
        differs_count=sum(r.verdict == "differs" for r in rows),
    )
    return view, ledger


def _row(
    ledger: Ledger, row: SettingRow, parameter: object, found: KeptSetting | None, left: KeptSetting | None
) -> SettingView:
    setting, planned = row.setting, row.planned
    key = f"setting.{setting.id}"
    value = None if planned is None else planned.value
    return SettingView(
        id=setting.id,
        group=setting.group,
        label=setting.label,
        dimension=setting.dimension,
        choices=setting.choices,
        planned=ledger.figure(key, value) if isinstance(value, Figure) else None,
        planned_choice=value if isinstance(value, str) else None,
        reason=[] if planned is None else ledger.sentence(f"{key}.reason", planned.reason),
        source="" if planned is None else str(planned.source),
        wrong=setting.wrong,
        missing=row.missing,
        needs=row.needs,
        family=None if parameter is None else FamilyParameter.model_validate(parameter, from_attributes=True),
        found=None if found is None else found.value,
        left=None if left is None else left.value,
        left_by="" if left is None else left.by,
        left_at=None if left is None else left.at,
        verdict=_verdict(value, left),
    )


def _verdict(planned: Figure | str | None, left: KeptSetting | None) -> str:
    if left is None:
        return "open"
    if planned is None:
        return "unplanned"
    return "same" if same_value(planned, left.value) else "differs"


def put_setting(
    db: MySQLDatabase, line_id: str, setting_id: str, moment: str, value: float | str | None, by: str
) -> Opened:
    """Keep a setting as found or as left; None takes it away."""
    by = check_name("by", by)
    if setting_id not in SETTINGS:
        raise BadRecord({"setting": BadEntry("setting", setting_id, "an id of the settings sheet")})
    try:
        checked = None if value is None else SETTINGS[setting_id].check(value)
    except BadEntry as problem:
        raise BadRecord({setting_id: problem}) from None

    def write() -> None:
        repository.line(line_id)
        repository.put_setting(line_id, setting_id, moment, checked, by)

    transact(db, write)
    return refresh_summary(db, line_id)


def take_plan(db: MySQLDatabase, line_id: str, by: str) -> Opened:
    """Enter every planned value that is still open as left: for a drive set straight from the sheet."""
    by = check_name("by", by)
    opened = open_line(db, line_id)
    have = {s.setting for s in opened.settings if s.moment == "left"}
    planned = {
        row.setting.id: float(row.planned.value) if isinstance(row.planned.value, Figure) else row.planned.value
        for row in opened.assessment.settings
        if row.planned is not None and row.setting.id not in have
    }

    def write() -> None:
        for setting_id, value in planned.items():
            repository.put_setting(line_id, setting_id, "left", value, by)

    transact(db, write)
    return refresh_summary(db, line_id)
