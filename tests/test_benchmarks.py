"""Every measurement runs, small: none of them judges, so here only that it ends with its line."""

import math
import subprocess
import sys

import pytest

from tests.conftest import ROOT

SMALL: dict[str, list[str]] = {
    "assess": ["--runs", "3"],
    "simulation": ["--day", "600", "--candidates", "10"],
    "loop": ["--day", "600", "--peer", "20"],
    "keystroke": ["--keys", "4"],
    "start": [],
    "families": ["--families", "12", "--rows", "60"],
    "crowd": ["--seconds", "2", "--clients", "6", "--workers", "2"],
    "round": ["--lines", "80", "--sites", "4"],
    "fuzz": ["--examples", "1"],
    "mutations": ["--n", "1"],
    "second_eye": ["--per_line", "1"],
    "log": ["--days", "12"],
    "coverage": ["--years", "3", "--badly", "1"],
    "proposals": ["--lines", "12"],
    "known": ["--lines", "4"],
    "age": ["--pieces", "20", "--tries", "2"],
}


def run(*arguments: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "benchmarks", *arguments], cwd=ROOT, capture_output=True, text=True, timeout=280
    )


def figures(name: str, *arguments: str) -> dict[str, float]:
    done = run(name, *arguments)
    assert done.returncode == 0, done.stderr[-2000:]
    pairs = (pair.partition("=") for pair in done.stdout.strip().splitlines()[-1].split())
    return {key: float(value) for key, _, value in pairs}


@pytest.mark.parametrize("name", SMALL)
def test_a_measurement_runs_and_ends_with_its_line(name: str) -> None:
    found = figures(name, *SMALL[name])
    assert found
    assert all(math.isfinite(v) for v in found.values())
    assert found.get("errors", 0) == found.get("lost", 0) == found.get("doubled", 0) == 0


def test_a_dozen_kills_lose_nothing_that_was_acknowledged() -> None:
    found = figures("kills", "--n", "12")
    assert (found["lost"], found["doubled"], found["refused"], found["counter_off"]) == (0, 0, 0, 0)
    assert found["acknowledged"] > 12


def test_all_are_run_here() -> None:
    names = {p.stem for p in (ROOT / "benchmarks").glob("*.py") if not p.stem.startswith("_")}
    assert names == {*SMALL, "kills"}


def test_a_wrong_word_is_answered_in_a_line() -> None:
    for arguments in (["nothing"], ["crowd", "--hours", "2"], ["crowd", "--seconds"], []):
        done = run(*arguments)
        assert done.returncode == 2
        assert len(done.stderr.strip().splitlines()) == 1
