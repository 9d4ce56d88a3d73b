"""Findings: one judgement at a station or joint. Importing this package registers every check."""

from mainspring.core.checks import (
    drive_motor,
    drive_place,
    machine_system,
    motor_machine,
    motor_plate,
    second_setpoint,
    sensor_drive,
    supply_drive,
    system_sensor,
    whole_line,
)
from mainspring.core.checks.finding import Finding, Fix, Severity, run_checks

__all__ = [
    "Finding",
    "Fix",
    "Severity",
    "drive_motor",
    "drive_place",
    "machine_system",
    "motor_machine",
    "motor_plate",
    "run_checks",
    "second_setpoint",
    "sensor_drive",
    "supply_drive",
    "system_sensor",
    "whole_line",
]
