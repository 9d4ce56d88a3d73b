"""A wait that cannot be bent: not by a date, not by a clock, not by a restart; and what is entered from paper."""

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from mainspring.core.procedure import Held, StepState
from mainspring.service.errors import BadRecord
from mainspring.service.service import Service
from tests.service.conftest import ABSENCE, LOCK, WAIT, Clocks, entry

SECONDS = 300  # on the label of the clean booster's drive


def absence(service: Service, line_id: str) -> dict[str, float]:
    status = service.open_lines.open(line_id).status(ABSENCE)
    assert status is not None
    return {r.id: 0.1 for r in status.step.readings}


def state(service: Service, line_id: str, step: str) -> StepState:
    status = service.open_lines.open(line_id).status(step)
    assert status is not None
    return status.state


@pytest.fixture
def started(service: Service, line_id: str, clocks: Clocks) -> str:
    """Locked out, and the clock started."""
    service.run.keep(line_id, entry(LOCK))
    clocks.go(10)
    service.run.keep(line_id, entry(WAIT, "start"))
    return line_id


def test_the_wait_is_as_long_as_it_is(service: Service, started: str, clocks: Clocks) -> None:
    clocks.go(SECONDS - 1)
    with pytest.raises(Held, match="0 min 01 s left"):
        service.run.keep(started, entry(WAIT))
    clocks.go(1)
    service.run.keep(started, entry(WAIT))
    assert state(service, started, WAIT) is StepState.DONE


def test_setting_the_clock_forward_shortens_no_wait(service: Service, started: str, clocks: Clocks) -> None:
    clocks.go(20)
    clocks.set(hours=1)
    with pytest.raises(Held, match="4 min 40 s left"):
        service.run.keep(started, entry(WAIT))
    with pytest.raises(Held, match="4 min 40 s left"):  # nor by an end dated back into the hour that never was
        service.run.keep(started, entry(WAIT, at=clocks.wall - timedelta(minutes=5)))


def test_a_clock_that_went_back_starts_the_wait_anew(service: Service, started: str, clocks: Clocks) -> None:
    clocks.go(SECONDS)
    clocks.set(hours=-1)
    with pytest.raises(Held, match="start it anew"):
        service.run.keep(started, entry(WAIT))
    service.run.keep(started, entry(WAIT, "start"))
    clocks.go(SECONDS - 1)
    with pytest.raises(Held, match="0 min 01 s left"):
        service.run.keep(started, entry(WAIT))
    clocks.go(1)
    service.run.keep(started, entry(WAIT))
    assert state(service, started, WAIT) is StepState.DONE


def test_after_a_restart_of_the_machine_the_wall_counts(service: Service, started: str, clocks: Clocks) -> None:
    clocks.reboot(SECONDS - 1)
    with pytest.raises(Held, match="0 min 01 s left"):
        service.run.keep(started, entry(WAIT))
    clocks.go(1)
    service.run.keep(started, entry(WAIT))


def test_a_start_dated_back_before_the_lock_out_is_refused(service: Service, line_id: str, clocks: Clocks) -> None:
    service.run.keep(line_id, entry(LOCK))
    with pytest.raises(BadRecord, match="when what comes first was done"):
        service.run.keep(line_id, entry(WAIT, "start", at=clocks.wall - timedelta(hours=1)))


def test_a_start_told_later_counts_for_what_is_done_now_from_when_it_was_told(
    service: Service, line_id: str, clocks: Clocks
) -> None:
    ago = clocks.wall - timedelta(hours=1)
    service.run.keep(line_id, entry(LOCK, at=ago))
    service.run.keep(line_id, entry(WAIT, "start", at=ago + timedelta(seconds=5)))
    with pytest.raises(Held, match="5 min 00 s left"):
        service.run.keep(line_id, entry(WAIT))
    clocks.go(SECONDS)
    service.run.keep(line_id, entry(WAIT))


RUN = str(uuid.uuid4())


def test_a_wait_made_without_a_link_is_as_long_as_the_devices_running_clock_saw_it(
    service: Service, line_id: str, clocks: Clocks
) -> None:
    ago = clocks.wall - timedelta(hours=1)
    end = {"at": ago + timedelta(seconds=5 + SECONDS), "device": RUN}
    service.run.keep(line_id, entry(LOCK, at=ago))
    service.run.keep(line_id, entry(WAIT, "start", at=ago + timedelta(seconds=5), device=RUN, ran=40.0))
    with pytest.raises(Held, match="0 min 01 s left"):  # whatever its clock on the wall says
        service.run.keep(line_id, entry(WAIT, **end, ran=39.0 + SECONDS))
    service.run.keep(line_id, entry(WAIT, **end, ran=40.0 + SECONDS))
    (kept,) = [e for e in service.open_lines.open(line_id).steps[WAIT] if e.kind == "tick"]
    assert (kept.received, kept.paper) == (clocks.wall, False)
    assert kept.clock is not None
    assert (kept.clock.device, kept.clock.ran) == (RUN, 40.0 + SECONDS)


NO_CLOCK = [
    ({}, {}),
    ({"device": RUN, "ran": 1.0}, {}),
    ({}, {"device": RUN, "ran": 999.0}),
    ({"device": RUN, "ran": 1.0}, {"device": str(uuid.uuid4()), "ran": 999.0}),
]


@pytest.mark.parametrize("ends", NO_CLOCK)
def test_dating_both_ends_back_shortens_no_wait(
    ends: tuple[dict[str, Any], dict[str, Any]], service: Service, line_id: str, clocks: Clocks
) -> None:
    ago = clocks.wall - timedelta(hours=1)
    start, end = ends
    service.run.keep(line_id, entry(LOCK, at=ago))
    service.run.keep(line_id, entry(WAIT, "start", at=ago + timedelta(seconds=5), **start))
    with pytest.raises(Held, match="5 min 00 s left"):
        service.run.keep(line_id, entry(WAIT, at=ago + timedelta(seconds=5 + SECONDS), **end))
    clocks.go(SECONDS)
    service.run.keep(line_id, entry(WAIT, at=ago + timedelta(seconds=5 + SECONDS), **end))


def test_what_is_from_paper_keeps_its_mark_its_own_visit_and_opens_nothing_done_now(
    service: Service, line_id: str, clocks: Clocks
) -> None:
    ago = clocks.wall - timedelta(days=1)
    service.run.keep(line_id, entry(LOCK, at=ago, paper=True))
    service.run.keep(line_id, entry(WAIT, "start", at=ago + timedelta(seconds=9), paper=True))
    service.run.keep(line_id, entry(WAIT, at=ago + timedelta(seconds=9 + SECONDS), paper=True))
    read = absence(service, line_id)
    with pytest.raises(Held, match="Wait for the capacitors was entered from paper"):
        service.run.keep(line_id, entry(ABSENCE, "readings", data=read))
    service.run.keep(line_id, entry(ABSENCE, "readings", data=read, at=ago + timedelta(seconds=600), paper=True))
    opened = service.open_lines.open(line_id)
    (visit,) = opened.visits
    assert (visit.paper, visit.at, visit.closed) == (True, ago, ago + timedelta(seconds=600))
    assert {e.paper for e in opened.evidence} == {True}
    assert {e.visit for e in opened.evidence} == {visit.id}
    assert opened.visit is None
    service.run.keep(line_id, entry(WAIT, "start"))  # now, on the server's clock
    clocks.go(SECONDS)
    service.run.keep(line_id, entry(WAIT))
    service.run.keep(line_id, entry(ABSENCE, "readings", data=read))
    assert [v.paper for v in service.open_lines.open(line_id).visits] == [True, False]


@pytest.mark.parametrize(
    "at", [datetime(1, 1, 1, tzinfo=UTC), datetime(1999, 12, 31, tzinfo=UTC), datetime(9999, 12, 31, tzinfo=UTC)]
)
def test_no_entry_is_from_before_its_time_or_after_it(at: datetime, service: Service, line_id: str) -> None:
    with pytest.raises(BadRecord, match="from 2000, and not later than now"):
        service.run.keep(line_id, entry(LOCK, at=at))


def test_the_later_entry_is_the_later_also_when_the_clock_was_set_back(
    service: Service, line_id: str, clocks: Clocks
) -> None:
    service.run.keep(line_id, entry(LOCK, by="Ana"))
    clocks.set(hours=-2)
    service.run.keep(line_id, entry(LOCK, by="Ben"))
    status = service.open_lines.open(line_id).status(LOCK)
    assert status is not None
    assert [e.by for e in status.evidence] == ["Ben"]


def test_what_was_sent_behind_an_entry_that_the_server_dated_late_stays_behind_it(
    service: Service, line_id: str, clocks: Clocks
) -> None:
    made = clocks.wall
    clocks.go(4)  # the first was tried for so long; the device made the second one meanwhile
    service.run.keep(line_id, entry(LOCK))
    service.run.keep(line_id, entry(WAIT, "start", at=made + timedelta(seconds=1)))
    first, second = service.open_lines.open(line_id).evidence
    assert (first.step, second.step) == (LOCK, WAIT)
    assert first.at < second.at <= first.at + timedelta(seconds=1)
