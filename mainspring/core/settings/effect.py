"""What a value does that is not the proposed one, and how a setting judges its own.

A setting is judged by what it does and not by being different. Each judge stands beside its setting, and sees the line
as it is in force, but for the setting itself.
"""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.checks.finding import Severity
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.method import Figure
from mainspring.core.sentence import Sentence, say
from mainspring.core.settings.setting import Setting, SettingValue, same_value


@dataclass(frozen=True)
class Effect:
    """What a value does: how bad, in a few words, with the numbers."""

    severity: Severity
    title: str
    because: Sentence


@dataclass(frozen=True)
class Deviation:
    """A value beside the proposal, on its line as it is in force without it."""

    setting: Setting
    proposed: SettingValue
    value: SettingValue
    how: str  # found, decided, left
    line: Line
    derived: Derived

    @property
    def number(self) -> Figure:
        """The value of a setting that is a quantity."""
        assert isinstance(self.value, Figure)
        return self.value

    @property
    def wanted(self) -> Figure:
        """The proposal for a quantity."""
        assert isinstance(self.proposed, Figure)
        return self.proposed

    def known(self, compute: Callable[[], Figure]) -> Figure | None:
        """A figure to compare with, where it can be told."""
        try:
            return compute()
        except MainspringError:
            return None

    def said(self, words: str, **figures: Figure) -> Sentence:
        """Words with the value, the proposal and further figures."""
        for name, one in (("value", self.value), ("proposed", self.proposed)):
            if isinstance(one, Figure):
                figures[name] = one
            else:
                words = words.replace(f"{{{name}}}", self.setting.choices.get(one, one))
        return say(words, **figures)

    def bad(self, title: str, words: str, **figures: Figure) -> Effect:
        """It does harm."""
        return Effect(Severity.STOP, title, self.said(words, **figures))

    def doubt(self, title: str, words: str, **figures: Figure) -> Effect:
        """There is something to know."""
        return Effect(Severity.CAUTION, title, self.said(words, **figures))

    def fine(self, title: str, words: str, **figures: Figure) -> Effect:
        """Nothing speaks against it."""
        return Effect(Severity.CLEAR, title, self.said(words, **figures))


Judge = Callable[[Deviation], Effect | None]
JUDGES: dict[str, Judge] = {}
NEAR = 1.006  # what a display cannot tell apart


def judged(*ids: str) -> Callable[[Judge], Judge]:
    """Declare what decides by physics what a value of some settings does."""

    def declare(judge: Judge) -> Judge:
        JUDGES.update(dict.fromkeys(ids, judge))
        return judge

    return declare


def effect_of(deviation: Deviation) -> Effect:
    """What a value does."""
    setting, proposed, value = deviation.setting, deviation.proposed, deviation.value
    if same_value(proposed, value, exact=setting.exact):
        return Effect(Severity.CLEAR, "As proposed", say("The value that is proposed."))
    if setting.exact:
        return deviation.bad("Not the plate's value", "{value}, the plate has {proposed}: it may not start.")
    judge = JUDGES.get(setting.id)
    judged = judge(deviation) if judge else None
    if judged is not None:
        return judged
    does = setting.consequence(value, proposed)
    if does is not None:
        return Effect(does.severity, does.title, deviation.said(does.words))
    return deviation.fine("Harmless", "Another value than the proposed one; nothing here speaks against it.")
