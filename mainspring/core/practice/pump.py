"""What the trade goes by at pumps, tanks, pits and pipes."""

from mainspring.core.method import Source
from mainspring.core.practice.value import band, practice

_HI = Source("ANSI/HI 9.6.3", "preferred operating region, from memory", "standard")

BEST_FLOW = band("best_flow", 0.70, 1.20, "percent", "Flow over the best flow", source=_HI)
BEST_FLOW_FAST = band(
    "best_flow_fast", 0.80, 1.15, "percent", "Flow over the best flow, high specific speed", source=_HI
)
FAST_ABOVE = practice("specific_speed_high", 4500.0, "count", "Specific speed (US) that is high, from", source=_HI)
OVERSPEED = practice("overspeed", 1.2, "ratio", "Speed over the rated one at which nobody would run, from")
SETPOINT_SHORT = practice("setpoint_short", 0.995, "ratio", "Head at duty flow over that of the setpoint, least")
CONTROL_ROOM = practice("control_room", 0.95, "percent", "Hold frequency over full, most")
DIFFERENCE_AT_PUMP = practice(
    "difference_at_pump", 1.02, "ratio", "Held difference at the pump over the duty head, most"
)
DIFFERENCE_FAR = practice("difference_far", 0.85, "ratio", "Held difference far away over the duty head, most")

STARTS = practice("tank_starts", 20 / 3600, "rate", "Starts that a motor stands", own=(1 / 3600, 60 / 3600))
PRECHARGE_BELOW = practice("precharge_below", 137_895.146, "pressure", "Precharge below the setpoint, one school")
PRECHARGE_SHARE = practice("precharge_share", 0.7, "percent", "Precharge over the setpoint, the other school")
PRECHARGE_SCHOOLS = practice(
    "precharge_schools", 1.6e5, "pressure", "Setpoint at which both schools can be asked, from"
)
PRECHARGE_OFF = practice("precharge_off", 0.12, "percent", "Precharge off what a school asks, most")
TANK_SHARE = practice("tank_share", 0.2, "percent", "Tank over a minute of the pump's flow", own=(0.05, 1.0))
TANK_SMALL = practice("tank_small", 0.5, "ratio", "Tank under that practice that is said")
TANK_REST = practice("tank_rest", 180.0, "time", "Rest between two starts on a leak", own=(30.0, 1800.0))
PIT_CYCLE = practice("pit_cycle", 360.0, "time", "Between two starts of a pit's pump", own=(120.0, 1800.0))

LEAST_FLOW = practice("least_flow_share", 0.6, "percent", "Least continuous flow over the best, most")
LEAST_FLOW_RISE = practice("least_flow_rise", 8.0, "temperature_difference", "Warming of the water at least flow, most")
SHUTOFF_RISE = practice("shutoff_rise", 0.10, "percent", "Rise of head to shut-off that shares the flow, least")
SURGE_SHARE = practice("surge_share", 0.2, "percent", "Surge of a ramp over the working head, most", own=(0.05, 0.5))

DRY_RUN_SHARE = practice("dry_run_share", 0.8, "percent", "Dry-run threshold over the no-flow power", own=(0.5, 0.95))
DRY_RUN_RESTART = practice("dry_run_restart", 600.0, "time", "Restart after a dry run", own=(60.0, 7200.0))
DRY_RUN_TRIES = practice("dry_run_tries", 5.0, "count", "Dry runs in an hour before it locks out", own=(1.0, 10.0))
FILL_PRESSURE = practice("line_fill_pressure", 0.7e5, "pressure", "Pressure that shows a full line", own=(0.2e5, 4e5))
FILL_TIME = practice("line_fill_time", 180.0, "time", "Time in which a line fills", own=(30.0, 3600.0))
WASTE_FREQUENCY = practice("waste_frequency", 45.0, "frequency", "First flow to waste, against up-thrust")
INITIAL_RAMP = practice("initial_ramp", 1.0, "time", "Ramp of a submersible to its lowest speed, most")
DROOP_SHOWN = practice("droop_shown", 0.002, "percent", "Rise of a drooping curve over no flow that is drawn, from")
DROOP = practice("droop", 0.03, "percent", "Rise of a drooping curve over no flow that hunts, from")
DIRECTIONS_APART = practice("directions_apart", 0.05, "percent", "Directions that tell apart, from")
TELLING = practice("telling_speed", 1.1, "ratio", "Speed that tells a direction over the one that just lifts")
