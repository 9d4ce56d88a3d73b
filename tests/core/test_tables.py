"""Every row of every table, against something that did not come from the table: a formula, a ratio, another library."""

import math
from importlib import resources
from itertools import pairwise
from typing import Any

import fluids.pump
import pytest

from mainspring.core.motor.efficiency import ie_efficiency, ie_efficiency_fit, nema_efficiency
from mainspring.core.quantity import HORSEPOWER
from mainspring.core.tables import table

NAMES = sorted(f.name[:-5] for f in resources.files("mainspring.core.tables").iterdir() if f.name.endswith(".json"))


@pytest.mark.parametrize("name", NAMES)
def test_every_table_says_where_it_comes_from(name: str) -> None:
    assert table(name)["source"]
    assert table(name)["units"]


# full-load amps

THREE = table("full_load_amps")["three_phase"]


@pytest.mark.published("NFPA 70 table 430.250: columns keep the ratios of their voltages")
@pytest.mark.parametrize("hp", list(THREE["rows"]))
@pytest.mark.parametrize(("volts", "of_460"), [(200, 2.30), (208, 2.20), (230, 2.0), (575, 0.8)])
def test_full_load_amps_keep_the_ratio_of_their_column(hp: str, volts: int, of_460: float) -> None:
    row = THREE["rows"][hp]
    amps, reference = row[THREE["voltages"].index(volts)], row[THREE["voltages"].index(460)]
    assert abs(amps - of_460 * reference) <= max(0.035 * amps, 0.11)  # the table's own rounding


@pytest.mark.published("NFPA 70 table 430.248: 115 V amps are twice the 230 V amps")
@pytest.mark.parametrize("hp", list(table("full_load_amps")["single_phase"]["rows"]))
def test_single_phase_amps_keep_their_ratio(hp: str) -> None:
    part = table("full_load_amps")["single_phase"]
    row = part["rows"][hp]
    assert row[part["voltages"].index(115)] == pytest.approx(2 * row[part["voltages"].index(230)], rel=0.03)


@pytest.mark.published("P = √3·V·I·pf·η with the IE1 efficiency of the size")
@pytest.mark.parametrize("kilowatts", list(table("full_load_amps_50hz")["rows"]))
def test_amps_at_50_hz_imply_a_power_factor_that_motors_have(kilowatts: str) -> None:
    amps, power = table("full_load_amps_50hz")["rows"][kilowatts], float(kilowatts) * 1e3
    eta = float(ie_efficiency(power, 4, "IE1")) if 750 <= power <= 200e3 else 0.68
    power_factor = power / (math.sqrt(3) * 400 * amps * eta)
    assert 0.68 <= power_factor <= 0.94


# efficiencies


@pytest.mark.published("IEC 60034-30-1: the fit printed beside the tables")
@pytest.mark.parametrize("ie_class", ["IE1", "IE2", "IE3", "IE4"])
def test_every_cell_of_the_classes_lies_on_its_fit(ie_class: str) -> None:
    data = table("motor_efficiency")
    cells = 0
    for poles in data["iec"][ie_class]:
        for kilowatts in data["iec_kw"]:
            if kilowatts > 200:
                continue
            cell = ie_efficiency(kilowatts * 1e3, float(poles), ie_class)
            fit = ie_efficiency_fit(kilowatts * 1e3, float(poles), ie_class)
            assert cell == pytest.approx(fit, abs=0.00055), (ie_class, poles, kilowatts)
            cells += 1
    assert cells >= 66


@pytest.mark.published("fluids.pump.CSA_motor_efficiency")
@pytest.mark.parametrize("enclosure", ["TEFC", "ODP"])
@pytest.mark.parametrize("grade", ["premium", "energy_efficient"])
def test_every_row_of_the_us_efficiencies_agrees_with_an_open_library(enclosure: str, grade: str) -> None:
    key = "nema_premium" if grade == "premium" else "nema_energy_efficient"
    for poles in table("motor_efficiency")[key][enclosure]:
        for hp in table("motor_efficiency")["nema_hp"]:
            theirs = fluids.pump.CSA_motor_efficiency(
                hp * HORSEPOWER, closed=enclosure == "TEFC", poles=int(poles), high_efficiency=grade == "premium"
            )
            ours = nema_efficiency(hp * HORSEPOWER, float(poles), enclosure, grade)
            assert ours == pytest.approx(theirs, abs=1e-9), (hp, poles)


@pytest.mark.published("fluids.pump.VFD_efficiency")
def test_every_cell_of_the_drive_efficiencies_agrees_with_an_open_library() -> None:
    data = table("drive_efficiency")
    for hp, row in data["rows"].items():
        for load, eta in zip(data["loads"], row, strict=True):
            assert eta == pytest.approx(fluids.pump.VFD_efficiency(float(hp) * HORSEPOWER, load), abs=1e-9)


@pytest.mark.published("IEC 61800-9-2: a larger reference drive loses a smaller share")
def test_reference_losses_grow_with_size_and_fall_as_a_share() -> None:
    rows = list(table("drive_reference_loss")["rows"].items())
    losses = [row[1] for _, row in rows]
    shares = [row[1] / row[0] for _, row in rows]
    assert losses == sorted(losses)
    assert shares == sorted(shares, reverse=True)
    for kilowatts, (apparent, _loss) in rows:
        assert 1.15 <= apparent / float(kilowatts) <= 2.4


@pytest.mark.published("NEMA MG-1 14.36 and the literature: losses grow with twice the square of unbalance")
def test_unbalance_derating_never_rises_and_follows_the_heating() -> None:
    points = table("unbalance_derating")["points"]
    factors = [f for _, f in points]
    assert factors == sorted(factors, reverse=True)
    for percent, factor in points[1:]:
        # a rise of 2·u² percent at the same load; derated, I² heating gives it back, read to ±0.05
        assert factor == pytest.approx(1 / math.sqrt(1 + 0.02 * percent**2), abs=0.08)


# conductors


def circular_mils(size: str) -> float:
    """Area of an AWG or kcmil size in mm², from the definition of the gauge (ASTM B258)."""
    if "/" in size or int(size) < 50:
        number = 1 - int(size[0]) if "/" in size else int(size)
        diameter = 0.127 * 92 ** ((36 - number) / 39)
        return math.pi / 4 * diameter**2
    return int(size) * 0.506707


@pytest.mark.published("ASTM B258: diameter = 0.127 mm · 92^((36 − n)/39)")
@pytest.mark.parametrize("size", list(table("conductors")["awg"]))
def test_conductor_areas_follow_the_definition_of_the_gauge(size: str) -> None:
    assert table("conductors")["awg"][size]["area"] == pytest.approx(circular_mils(size), rel=0.01)


@pytest.mark.published("NFPA 70 table 310.16: current density falls as conductors grow")
def test_ampacities_grow_with_size_and_their_density_falls() -> None:
    for rows in (table("conductors")["awg"], table("conductors")["metric"]):
        amps = [r["ampacity"] for r in rows.values()]
        assert amps == sorted(amps)
        density = [r["ampacity"] / r["area"] for r in rows.values()]
        assert all(b <= a * 1.02 for a, b in pairwise(density))


@pytest.mark.published(
    "IEC 60364-5-52 annex D: I = 13.5·S^0.625 to 16 mm², 12.4·S^0.635 beyond (method C), from memory"
)
@pytest.mark.parametrize("area", list(table("conductors")["metric"]))
def test_metric_ampacities_lie_on_the_formula_of_the_annex(area: str) -> None:
    s = 47.5 if area == "50" else float(area)  # the annex: a nominal 50 mm² is built with 47.5
    formula = 13.5 * s**0.625 if s <= 16 else 12.4 * s**0.635
    assert table("conductors")["metric"][area]["ampacity"] == pytest.approx(formula, rel=0.012)


@pytest.mark.published("NFPA 70 310.15(B): factor = √((75 − T)/(75 − 30)) at the upper end of each band")
@pytest.mark.parametrize("row", table("conductors")["ambient_75"])
def test_ambient_factors_follow_their_formula(row: list[float]) -> None:
    upto, factor = row
    assert factor == pytest.approx(math.sqrt((75 - upto) / 45), abs=0.006)


# harmonics


@pytest.mark.published("the distortion printed beside each column: 102.5, 72.2, 44.1, 35.0 %, from memory")
@pytest.mark.parametrize(("impedance", "printed"), [("0.5", 102.5), ("1", 72.2), ("3", 44.1), ("5", 35.0)])
def test_six_pulse_columns_sum_to_their_printed_distortion(impedance: str, printed: float) -> None:
    column = table("harmonics")["six_pulse"][impedance]
    assert math.sqrt(sum(h * h for h in column)) == pytest.approx(printed, abs=1.1)
    assert column == sorted(column, reverse=True)


@pytest.mark.published("IEEE 519: stiffer supplies allow more, higher orders less")
def test_harmonic_limits_grow_with_stiffness_and_fall_with_order() -> None:
    rows: list[dict[str, Any]] = table("harmonics")["ieee519"]
    for low, high in pairwise(rows):
        assert all(high[k] > low[k] for k in low)
    for row in rows:
        bands = [row[k] for k in ("h3", "h11", "h17", "h23", "h35")]
        assert bands == sorted(bands, reverse=True)
        assert row["tdd"] > row["h3"]
