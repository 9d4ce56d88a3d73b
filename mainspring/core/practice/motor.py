"""What the trade goes by at the motor's plate."""

from mainspring.core.method import Source
from mainspring.core.practice.value import band, practice

_SLIP = Source("IEC 60034-1 / NEMA MG-1", "slip of an induction motor at full load, from memory", "standard")
_CLASS = Source("IEC 60034-1", "tolerance on the efficiency, from memory", "standard")

SMALL = practice("small_motor", 1000.0, "power", "Motor small enough for much slip, below")
SLIP_MOST_SMALL = practice("slip_most_small", 0.18, "percent", "Slip of a small motor, most", source=_SLIP)
SLIP_MOST = practice("slip_most", 0.06, "percent", "Slip of a motor, most", source=_SLIP)
SLIP_LEAST = practice("slip_least", 0.004, "percent", "Slip of a motor, least", source=_SLIP)
SYNCHRONOUS = practice("synchronous_within", 0.002, "percent", "Speed taken for the synchronous one, within")
POLES_MOST = practice("poles_most", 12.0, "count", "Poles of a motor on a drive, most")
# what a motor of up to so many watts slips, to propose a reading and never to compute
USUAL_SLIP = (
    (1.5e3, practice("slip_usual_1500", 0.05, "percent", "Usual slip up to 1.5 kW")),
    (4e3, practice("slip_usual_4000", 0.04, "percent", "Usual slip up to 4 kW")),
    (11e3, practice("slip_usual_11000", 0.033, "percent", "Usual slip up to 11 kW")),
    (45e3, practice("slip_usual_45000", 0.02, "percent", "Usual slip up to 45 kW")),
    (float("inf"), practice("slip_usual_large", 0.012, "percent", "Usual slip above 45 kW")),
)
# what a motor of up to so many watts whose plate does not say comes to; about IE1, from memory
USUAL_EFFICIENCY = (
    (200.0, practice("efficiency_usual_200", 0.57, "percent", "Usual efficiency up to 0.2 kW")),
    (550.0, practice("efficiency_usual_550", 0.66, "percent", "Usual efficiency up to 0.55 kW")),
    (1.2e3, practice("efficiency_usual_1200", 0.74, "percent", "Usual efficiency up to 1.2 kW")),
    (3e3, practice("efficiency_usual_3000", 0.80, "percent", "Usual efficiency up to 3 kW")),
    (11e3, practice("efficiency_usual_11000", 0.86, "percent", "Usual efficiency up to 11 kW")),
    (45e3, practice("efficiency_usual_45000", 0.91, "percent", "Usual efficiency up to 45 kW")),
    (float("inf"), practice("efficiency_usual_large", 0.935, "percent", "Usual efficiency above 45 kW")),
)
USUAL_POWER_FACTOR = (
    (1.2e3, practice("power_factor_usual_1200", 0.72, "ratio", "Usual power factor up to 1.2 kW")),
    (11e3, practice("power_factor_usual_11000", 0.80, "ratio", "Usual power factor up to 11 kW")),
    (float("inf"), practice("power_factor_usual_large", 0.85, "ratio", "Usual power factor above 11 kW")),
)

PLATE = band("plate_agrees", 0.9, 1.12, "ratio", "Power of the plate's volts and amps over its own")
PLATE_DOUBTED = band("plate_doubted", 0.8, 1.25, "ratio", "Power of volts and amps, doubted and not stopped")
OTHER_VOLTS = practice("other_volts_within", 0.08, "percent", "Amps taken for those of the other connection, within")
DELTA = band("delta_volts", 1.65, 1.82, "ratio", "Supply over a motor's volts in delta, run to 87 Hz")
DECADE = practice("decade_within", 0.12, "percent", "Amps taken for a decade off, within")
OTHER_UNIT = practice("other_unit_within", 0.05, "percent", "Power taken for the other unit, within")
POWER_FACTOR = band("power_factor_possible", 0.60, 0.95, "ratio", "Power factor of an induction motor")
CLASS_WITHIN = practice("class_within", 0.02, "percent", "Efficiency off its class, most", source=_CLASS)
TABLE = band("table_amps", 0.68, 1.35, "ratio", "Amps over those of the table")
TABLE_SMALL = practice("table_amps_small", 1.6, "ratio", "Amps over those of the table below 4 kW, most")
TABLE_SMALL_BELOW = practice("table_small_below", 4000.0, "power", "Motors whose amps differ more, below")
TABLE_MOVED = band("table_moved", 0.75, 1.3, "ratio", "Amps over the table's once the decimal mark is moved")
TABLE_OTHER = band("table_other", 0.9, 1.1, "ratio", "Amps over the table's at the other connection")
TABLE_STOP = band("table_stop", 0.5, 2.0, "ratio", "Amps over the table's, doubted and not stopped")
PAIR_WITHIN = practice("pair_within", 0.06, "percent", "Volts times amps of both connections apart, most")
SERVICE_AMPS = band("service_amps", 1.0, 1.3, "ratio", "Service-factor amps over full-load amps")
SERVICE_USUAL = practice("service_usual", 1.12, "ratio", "Service-factor amps, usual")
EMF = band("emf_share", 0.6, 1.05, "percent", "Back-EMF at rated speed over the rated volts")
MAGNET_WITHIN = practice("magnet_within", 0.005, "percent", "Speed of a magnet rotor off the synchronous, most")
LIGHT_PUMP = practice("light_load_pump", 0.4, "percent", "Load of a pump's motor at the duty point, least")
LIGHT_FAN = practice("light_load_fan", 0.35, "percent", "Load of a fan's motor at the duty point, least")
RUN_OUT = practice(
    "run_out", 1.1, "ratio", "Power at run-out over the motor's that a current limit does not just hold, from"
)
POWER_ROUNDING = practice("power_rounding", 1.0001, "ratio", "Power over the motor's that is no rounding")
CURVE_SPEED = band("curve_speed", 0.9, 1.1, "ratio", "Speed of the curve over that of the machine")
COLD_WINDING = practice("cold_winding", 20.0, "temperature", "Winding of a motor that has stood in the room")
UNKNOWN_LOAD = practice("unknown_load", 0.75, "ratio", "Torque of an unknown machine at full speed, share of rated")
