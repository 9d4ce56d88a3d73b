"""What a trial means, in words: each judgement with its numbers and the setting to change."""

from mainspring.core.checks.finding import Severity
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.simulation import kernel
from mainspring.core.simulation.judge.hurt import dry, limited, peak, signal, surging
from mainspring.core.simulation.judge.kinds import acting, following, level, staging, stopping
from mainspring.core.simulation.judge.looked import Judge, Looked, Meaning, look
from mainspring.core.simulation.judge.margin import robust
from mainspring.core.simulation.judge.rest import USUAL_STARTS, cycling, dipping, resting, waking
from mainspring.core.simulation.judge.tuning import holding, hunting, reaching
from mainspring.core.simulation.trial import Trial

__all__ = ["USUAL_STARTS", "Meaning", "faults_of", "judge"]


def judge(line: Line, derived: Derived, trial: Trial) -> list[Meaning]:
    """Everything there is to say of a trial, what matters first."""
    looked = look(line, derived, trial)
    c = trial.setup.config
    spared = c.plant.dry_from < kernel.NEVER or c.sensor.lost_from < kernel.NEVER  # what goes wrong is not its tuning
    judges = [one for one in _JUDGES if not (spared and one in _TUNED)]
    if acting(looked) is not None:
        judges = [one for one in judges if one is acting or one not in _SOUND]  # no gain cures that
    found = [made for one in judges if (made := _tell(one, looked)) is not None]
    return sorted(found, key=lambda m: m.verdict.severity)


def faults_of(line: Line, derived: Derived, trial: Trial) -> list[str]:
    """Titles of what is wrong with a trial as a loop: it hunts, cannot reach, does not come back, strikes, trips."""
    looked = look(line, derived, trial)
    found = [made for one in _SOUND if (made := _tell(one, looked)) is not None]
    return [m.verdict.title for m in found if m.verdict.severity <= Severity.CAUTION]


def _tell(one: Judge, looked: Looked) -> Meaning | None:
    try:
        return one(looked)
    except MainspringError:  # what it stands on is not known: nothing can be said
        return None


_JUDGES: tuple[Judge, ...] = (
    acting, peak, surging, hunting, cycling, reaching, holding, robust, resting, waking, dipping, level, stopping,
    staging, following, dry, limited, signal,
)  # fmt: skip
_TUNED: tuple[Judge, ...] = (hunting, cycling, reaching, holding, robust, resting, waking, dipping)
_SOUND: tuple[Judge, ...] = (acting, peak, hunting, cycling, reaching, holding, resting, level, staging)
