"""What is in force other than proposed: told on the line, as a stop or a caution that nobody has decided."""

from mainspring.core.checks.finding import Finding, Severity
from mainspring.core.derived import Derived
from mainspring.core.line import Line, OnSite, in_force
from mainspring.core.line.on_site import HOW, LEADING, OF_SETTING, Told
from mainspring.core.method import COMMON_PRACTICE, Figure, Leaf
from mainspring.core.sentence import in_sentence, say
from mainspring.core.settings.effect import Deviation, Effect, effect_of
from mainspring.core.settings.setting import SETTINGS, Setting, SettingRow, SettingValue, plan_of, same_value, without

# where a deviation is told on the line: by the group of its setting
_PLACES = {
    "motor": "drive-motor", "carrier": "drive-motor", "limits": "motor-machine", "ramps": "motor-machine",
    "stop": "motor-machine", "start": "motor-machine", "feedback": "sensor-drive", "reference": "sensor-drive",
    "pid": "sensor-drive", "sleep": "sensor-drive", "level": "system-sensor",
}  # fmt: skip


def _held_by(setting: Setting, told: Told, effect: Effect) -> str:
    """What a harmful value holds: not the step at which it is read back, or nobody could put it right.

    Nothing once somebody decided it and said why: that is the answer which the finding asks for; it stays in sight.
    """
    if effect.severity is not Severity.STOP or told.why:
        return ""
    return "loop" if setting.group in ("feedback", "pid", "sleep", "level", "reference") else "turn"


def value_effect(line: Line, derived: Derived, row: SettingRow, value: float | str, how: str) -> Effect | None:
    """What a value of a setting does, as found, decided or left; None where nothing is proposed to go by."""
    if row.planned is None:
        return None
    setting = row.setting
    bare, of_bare = without(line, derived, setting.id)
    shown: SettingValue = value if isinstance(value, str) else Figure(
        value, Leaf(f"settings.{setting.id}", f"{setting.label}, as {how}", setting.dimension, how)
    )  # fmt: skip
    return effect_of(Deviation(setting, row.planned.value, shown, how, bare, of_bare))


def _leads(setting: str) -> bool:
    """Whether the value of another setting is derived from it."""
    return setting in OF_SETTING or (setting in LEADING and setting != "protection.interlock")


def _all_as_proposed(line: Line) -> bool:
    """Whether every setting that others are derived from is as it would be proposed had none been told.

    Then each is as proposed given the others too, and no line without just that one has to be worked out.
    """
    bare = in_force(line.record, OnSite({}, line.on_site.readings, line.on_site.decided))
    derived = Derived(bare)
    for id, told in line.on_site.settings.items():
        setting = SETTINGS.get(id)
        if _leads(id) and setting is not None and line.applies(setting.only):
            planned = plan_of(setting, bare, derived).planned
            if planned is None or not same_value(planned.value, told.value, exact=setting.exact):
                return False
    return True


def deviations(line: Line, derived: Derived) -> list[Finding]:
    """What is in force other than proposed and does something: a stop, or a caution that nobody has decided.

    What somebody decided with a reason is said on the sheet and no longer here, unless it is a stop or a defeated
    interlock, which stays visible.
    """
    if not line.on_site.settings:
        return []
    found = []
    as_proposed = _all_as_proposed(line)
    for id, told in line.on_site.settings.items():
        setting = SETTINGS.get(id)
        if setting is None or not line.applies(setting.only) or (as_proposed and _leads(id)):
            continue
        row = plan_of(setting, line, derived)
        effect = value_effect(line, derived, row, told.value, told.how)
        if effect is None or effect.severity is Severity.CLEAR:
            continue
        if effect.severity is Severity.CAUTION and told.why and id != "protection.interlock":
            continue
        assert row.planned is not None
        wanted = row.planned.value
        do = (
            say("Set {wanted}, or decide it and say why.", wanted=wanted)
            if isinstance(wanted, Figure)
            else say(f"Set “{setting.choices.get(wanted, wanted)}”, or decide it and say why.")
        )
        place = "drive-motor" if id == "limits.current" else _PLACES.get(setting.group, "drive")
        title = f"{setting.label} {HOW[told.how]}: {in_sentence(effect.title)}"
        found.append(
            Finding(f"setting_{id.replace('.', '_')}", place, effect.severity, title, effect.because, do,
                    COMMON_PRACTICE, (f"settings.{id}",), answers=(f"settings.{id}",),
                    holds=_held_by(setting, told, effect))
        )  # fmt: skip
    return found
