"""Patterns of an analogue input: each usual mistake is made on purpose and recognised by its numbers."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.diagnosis import pattern_of
from mainspring.core.errors import OutOfRange
from mainspring.core.signal.calibration import FIVE_POINTS, PASS, calibrate

MISTAKES = {
    "right": lambda x: x + 0.002,
    "broken_wire": lambda _: -0.25,
    "dead": lambda _: 0.01,
    "reversed": lambda x: 1 - x,
    "swapped": lambda x: -x,
    "live_zero": lambda x: 0.2 + 0.8 * x,
    "no_live_zero": lambda x: 1.25 * x - 0.25,
    "half": lambda x: 0.5 * x,
    "offset": lambda x: x + 0.049,
    "span": lambda x: 10 / 16 * x,
    "bent": lambda x: x + 0.1 * x * (1 - x) * 4,
}


@pytest.mark.published("usual mistakes at an analogue input, common practice, no source")
@pytest.mark.parametrize("mistake", list(MISTAKES))
def test_each_mistake_is_recognised(mistake: str) -> None:
    found = pattern_of(FIVE_POINTS, [MISTAKES[mistake](x) for x in FIVE_POINTS], 1e6)
    assert found.id == mistake
    assert found.do


@pytest.mark.parametrize("mistake", [m for m in MISTAKES if m not in ("right", "dead", "broken_wire", "bent")])
@given(noise=st.lists(st.floats(-0.002, 0.002), min_size=5, max_size=5))
@settings(max_examples=30, deadline=None, derandomize=True)
def test_a_little_noise_does_not_hide_it(mistake: str, noise: list[float]) -> None:
    read = [MISTAKES[mistake](x) + n for x, n in zip(FIVE_POINTS, noise, strict=True)]
    assert pattern_of(FIVE_POINTS, read).id == mistake


def test_an_offset_is_told_as_a_column_of_water() -> None:
    found = pattern_of(FIVE_POINTS, [x + 0.0489 for x in FIVE_POINTS], 1e6)
    assert "5 m" in found.because.text()  # 0.0489 of 10 bar over 998.2 kg/m³ · 9.80665 m/s²


def test_a_two_to_ten_volt_reference_reads_twelve_hertz_at_its_zero() -> None:
    found = pattern_of(FIVE_POINTS, [0.2 + 0.8 * x for x in FIVE_POINTS])
    assert "12 Hz of 60" in found.do
    assert 0.2 * 60 == 12


def test_a_perfect_input_has_no_error_and_passes() -> None:
    ideal = [0.004 + 0.016 * x for x in FIVE_POINTS]
    found = calibrate(FIVE_POINTS, ideal, ideal)
    assert max(abs(v) for v in found) < 1e-12
    assert found.largest_error < PASS


@pytest.mark.parametrize(("applied", "read"), [((0.0, 1.0), (0.0, 1.0)), (FIVE_POINTS, (0.0, 0.5, 1.0)), ((), ())])
def test_too_few_or_unequal_points_are_refused(applied: tuple[float, ...], read: tuple[float, ...]) -> None:
    with pytest.raises(OutOfRange, match="points"):
        pattern_of(applied, read)
    with pytest.raises(OutOfRange, match="points"):
        calibrate(applied[:1], read, read)
