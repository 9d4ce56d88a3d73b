"""A step test over HTTP: read in the reader's units, refused with its reason, decided as settings."""

import pytest
from fastapi.testclient import TestClient

from tests.core.test_step_test import made

PSI = 6894.757293168361


def table(unit: float = 1e5, noise: float = 0.0005) -> str:
    """Pressure of a 0 to 10 bar sensor in a unit, output in Hz of 50."""
    rows = zip(*made(1.2, 10.0, 2.0, noise), strict=True)
    return "time,pressure,Hz\n" + "\n".join(f"{t:g},{y * 10e5 / unit:.5f},{50 * u:.2f}" for t, y, u in rows)


def test_a_step_test_gives_model_and_rules(client: TestClient, demo: dict[str, str]) -> None:
    path = f"/api/lines/{demo['CW-BST-2']}/step-test"
    seen = client.post(path, json={"text": table()}).json()
    assert seen["refused"] == ""
    assert seen["fit"]["process_gain"] == pytest.approx(1.2, rel=0.02)
    assert seen["fit"]["time_constant"] == pytest.approx(10.0, rel=0.05)
    assert len(seen["fitted"]) == len(seen["times"])
    rules = {r["id"]: r for r in seen["rules"]}
    assert rules[seen["begin_with"]]["sound"]
    in_psi = client.post(path, json={"text": table(PSI)}, headers={"X-Units": "us"}).json()
    assert in_psi["fit"]["process_gain"] == pytest.approx(seen["fit"]["process_gain"], rel=1e-3)
    percent = table().replace("Hz", "out")
    wrong = client.post(path, json={"text": percent, "output": "%"}).json()  # 40 to 55 % of full, not Hz
    assert wrong["fit"]["process_gain"] == pytest.approx(2.4, rel=0.02)


def test_what_is_no_use_is_said_and_a_broken_table_refused(client: TestClient, demo: dict[str, str]) -> None:
    path = f"/api/lines/{demo['CW-BST-2']}/step-test"
    noisy = client.post(path, json={"text": table(noise=0.06)})
    assert noisy.status_code == 200
    assert "five times the noise" in noisy.json()["refused"]
    assert client.post(path, json={"text": "1,2"}).status_code == 422
    assert client.post(path, json={"text": "t,p,u\n0,x,1"}).json()["detail"]
