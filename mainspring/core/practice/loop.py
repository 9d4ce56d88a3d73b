"""What the trade goes by at the controller, at rest and at restarts."""

from mainspring.core.practice.value import practice

WAKE_DROP = practice("house_wake_drop", 0.08, "percent", "Wake drop, share of the sensor's range", own=(0.01, 0.3))
WAKE_ABOVE_AIR = practice("wake_above_air", 0.2e5, "pressure", "Wake pressure over the tank's precharge, least")
WAKE_LEAST = practice("wake_least", 0.01, "percent", "Wake drop, share of the sensor's range, least")
BOOST = practice("house_boost", 20_684.27, "pressure", "Boost before sleep", own=(0.0, 1e5))
SLEEP_DELAY = practice("house_sleep_delay", 20.0, "time", "Sleep delay", own=(1.0, 600.0))
LOW_LIMIT_ABOVE = practice("low_limit_above", 1.0, "frequency", "Low limit above the hold frequency", own=(0.2, 5.0))
SLEEP_ABOVE = practice("sleep_above", 0.5, "frequency", "Sleep frequency above the low limit", own=(0.1, 3.0))
LOW_LIMIT_LEAST = practice("low_limit_least", 0.2, "frequency", "Low limit above the hold frequency, flat curve, least")
SLEEP_LEAST = practice("sleep_least", 0.1, "frequency", "Sleep frequency above the low limit, flat curve, least")
SLEEP_MOST = practice("sleep_most", 0.48, "percent", "Share of the duty flow that the sleep frequency may carry, most")
PIT_LEAST = practice(
    "pit_least", 0.15, "percent", "Share of the duty flow that a pit's pump still brings at its stop level"
)
STARTING_GAIN = practice("starting_gain", 0.5, "ratio", "Gain to begin with", own=(0.05, 20.0))
# a quarter of the sensor's range for the whole speed: on wide ranges 0.5 left every load's change uncured on the bench
STARTING_GAIN_TEMPERATURE = practice("starting_gain_temperature", 4.0, "ratio", "Gain to begin with, temperature")
INTEGRAL_TIME = {  # to begin with, by how slow the plant is
    held: practice(f"integral_time_{held}", seconds, "time", f"Integral time to begin with, {held}")
    for held, seconds in (
        ("duct", 8.0),
        ("differential", 10.0),
        ("level", 120.0),
        ("temperature", 180.0),
        ("flow", 5.0),
    )
}
DEAD_TIME = practice("dead_time", 0.5, "time", "Dead time of a drive's input filter and sampling")
TIME_CONSTANT = practice("least_time_constant", 1.0, "time", "Time constant of ramp and inertia, least")
STOP_DELAY = practice("house_stop_delay", 2.0, "time", "Stop delay against waves", own=(0.0, 60.0))
RETRIES = practice("house_retries", 3.0, "count", "Restarts by itself", own=(0.0, 5.0))
STAGE_BELOW_TOP = practice("stage_below_top", 1.0, "frequency", "Another machine comes below the highest speed")
STAGE_DELAY = practice("house_stage_delay", 10.0, "time", "Delay before a machine comes or goes", own=(1.0, 300.0))
ALTERNATION = practice("house_alternation", 24 * 3600.0, "hours", "Turns taken in a set", own=(3600.0, 30 * 86400.0))
SKIP_HALF = practice("skip_half", 2.0, "frequency", "Skipped either side of a resonance")
