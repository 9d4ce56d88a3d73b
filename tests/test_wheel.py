"""A wheel built here works where there is no checkout: its commands, and the application with its screens."""

import json
import os
import re
import shutil
import subprocess
import sys
import urllib.request
import venv
from pathlib import Path

import pytest

from mainspring import __version__
from mainspring.demo import pumps
from tests.conftest import ROOT


@pytest.fixture(scope="module")
def installed(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The `mainspring` command of an environment in which the wheel, and what it needs, is all there is."""
    folder = tmp_path_factory.mktemp("wheel")
    source = folder / "source"
    shutil.copytree(ROOT / "mainspring", source / "mainspring", ignore=shutil.ignore_patterns("__pycache__"))
    for name in ("pyproject.toml", "README.md"):
        shutil.copy(ROOT / name, source / name)
    pip = [sys.executable, "-m", "pip", "--disable-pip-version-check", "-q"]
    offline = ["--no-index", "--no-deps"]
    subprocess.run([*pip, "wheel", *offline, "--no-build-isolation", "-w", str(folder), str(source)], check=True)
    (wheel,) = folder.glob("mainspring-*.whl")
    assert f"-{__version__}-" in wheel.name
    shutil.rmtree(source)
    environment = folder / "env"
    venv.create(environment, with_pip=False)
    (packages,) = environment.glob("lib/python*/site-packages")
    subprocess.run([*pip, "--python", str(environment), "install", *offline, str(wheel)], check=True)
    # its dependencies as they are installed here; an editable install of this checkout is not followed from there
    (packages / "needed.pth").write_text(str(next(Path(sys.prefix).glob("lib/python*/site-packages"))))
    return environment / "bin" / "mainspring"


def elsewhere() -> dict[str, str]:
    """The environment of a machine that knows nothing of this checkout."""
    return {k: v for k, v in os.environ.items() if not k.startswith(("MAINSPRING_", "PYTHON"))}


def run(command: Path, *arguments: str) -> str:
    """What a command prints, from a folder that is none of ours."""
    done = subprocess.run(
        [str(command), *arguments], cwd=command.parent, env=elsewhere(), capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    return done.stdout


def test_it_is_the_wheel_that_is_run(installed: Path) -> None:
    python = installed.parent / "python"
    where = subprocess.run(
        [str(python), "-c", "import mainspring; print(mainspring.__file__)"],
        cwd=installed.parent, capture_output=True, text=True, check=True,
    ).stdout  # fmt: skip
    assert where.startswith(str(installed.parents[1]))


def test_it_computes_and_judges(installed: Path) -> None:
    told = run(installed, "calc", "pump_shaft_power", "flow=50 L/s", "head=20 m", "efficiency=0.7")
    assert told.strip() == "pump_shaft_power = 13.9843 kW"
    record = installed.parents[1] / "line.json"
    record.write_text(json.dumps(pumps.PLANTED))
    assert "Amps of the other voltage" in run(installed, "assess", str(record))


def test_it_serves_the_screens_and_the_demo(installed: Path, tmp_path: Path) -> None:
    command = [str(installed), "serve", "--data", str(tmp_path / "data"), "--port", "0"]
    environment = {**elsewhere(), "PYTHONUNBUFFERED": "1"}
    with subprocess.Popen(
        command, cwd=tmp_path, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
    ) as serving:
        try:
            assert serving.stdout is not None
            lines: list[str] = []
            while (found := re.search(r"http://127\.0\.0\.1:\d+", "".join(lines))) is None:
                lines.append(serving.stdout.readline())
                assert lines[-1], "".join(lines)
            with urllib.request.urlopen(found[0]) as answer:
                assert b"/_app/begin.js" in answer.read()
            with urllib.request.urlopen(f"{found[0]}/api/round") as answer:
                assert len(json.load(answer)["sites"]) == 2
            with urllib.request.urlopen(f"{found[0]}/api/families") as answer:
                assert len(json.load(answer)) == 4
        finally:
            serving.terminate()
