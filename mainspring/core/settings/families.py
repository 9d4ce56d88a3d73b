"""Two invented drive families: how one make labels, scales and words the neutral settings."""

from dataclasses import dataclass, field


@dataclass(frozen=True)
class Parameter:
    """One make's parameter: its number and label, its unit (None: the neutral one), its words for the choices."""

    number: str
    label: str
    unit: str | None = None
    words: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Family:
    """A make's map from neutral settings to its own parameters."""

    id: str
    name: str
    parameters: dict[str, Parameter]

    def parameter(self, setting_id: str) -> Parameter | None:
        """The family's parameter for a setting, if it has one."""
        return self.parameters.get(setting_id)


_CALDER = {
    "region.base_standard": Parameter("A01", "Region"),
    "region.power_unit": Parameter("A02", "Power in"),
    "region.clock": Parameter("A04", "Clock"),
    "reset.factory_before": Parameter("A09", "Recall works values"),
    "application.load_torque": Parameter("B01", "Load kind", words={"variable": "Quadratic", "constant": "Linear"}),
    "application.duty_rating": Parameter("B02", "Rating", words={"normal": "ND", "heavy": "HD"}),
    "motor.type": Parameter("C01", "Machine type"),
    "motor.rated_power": Parameter("C02", "Motor output", "kW"),
    "motor.rated_voltage": Parameter("C03", "Motor volts"),
    "motor.rated_frequency": Parameter("C04", "Motor hertz"),
    "motor.rated_current": Parameter("C05", "Motor amps"),
    "motor.rated_speed": Parameter("C06", "Motor speed"),
    "motor.power_factor": Parameter("C07", "Motor cos phi"),
    "motor.identification": Parameter(
        "C20", "Learn motor", words={"standstill": "Still", "rotating": "Turning", "off": "No"}
    ),
    "limits.current": Parameter("D01", "Ceiling amps"),
    "limits.minimum_speed": Parameter("D03", "Floor hertz"),
    "limits.maximum_speed": Parameter("D04", "Ceiling hertz"),
    "limits.direction": Parameter("D07", "Turn", words={"forward": "One way", "both": "Two ways"}),
    "ramps.up": Parameter("E01", "Rise time"),
    "ramps.down": Parameter("E02", "Fall time"),
    "stop.mode": Parameter("E05", "Stop by"),
    "feedback.signal": Parameter("G01", "Sensor signal"),
    "feedback.range_low": Parameter("G02", "Sensor at zero", "bar"),
    "feedback.range_high": Parameter("G03", "Sensor at full", "bar"),
    "pid.setpoint_1": Parameter("H01", "Wanted value", "bar"),
    "pid.action": Parameter("H02", "Sense", words={"falls_faster": "Normal", "rises_faster": "Turned"}),
    "pid.gain": Parameter("H03", "Gain"),
    "pid.integral_time": Parameter("H04", "Reset time"),
    "pid.output_low": Parameter("H06", "Loop floor"),
    "sleep.frequency": Parameter("H10", "Rest below"),
    "sleep.delay": Parameter("H11", "Rest after"),
    "sleep.boost": Parameter("H12", "Top-up", "bar"),
    "sleep.wake_level": Parameter("H13", "Rise at", "bar"),
    "carrier.frequency": Parameter("K01", "Switching kHz"),
    "protection.underload": Parameter("L02", "Dry limit", "%"),
    "protection.interlock": Parameter("L09", "Enable input"),
    "io.relay_1": Parameter("M01", "Relay one"),
    "io.relay_2": Parameter("M02", "Relay two"),
}

_TERN = {
    "region.base_standard": Parameter("10.1", "Net"),
    "application.load_torque": Parameter("11.2", "Torque profile", words={"variable": "VT", "constant": "CT"}),
    "motor.rated_power": Parameter("20.1", "Nameplate power", "hp"),
    "motor.rated_voltage": Parameter("20.2", "Nameplate volts"),
    "motor.rated_frequency": Parameter("20.3", "Nameplate frequency"),
    "motor.rated_current": Parameter("20.4", "Nameplate amps"),
    "motor.rated_speed": Parameter("20.5", "Nameplate speed"),
    "limits.current": Parameter("21.1", "Amps allowed"),
    "limits.minimum_speed": Parameter("22.1", "Speed, lowest"),
    "limits.maximum_speed": Parameter("22.2", "Speed, highest"),
    "ramps.up": Parameter("23.1", "Accelerate over"),
    "ramps.down": Parameter("23.2", "Decelerate over"),
    "feedback.range_high": Parameter("30.3", "Transducer full scale", "psi"),
    "pid.setpoint_1": Parameter("31.1", "Target", "psi"),
    "pid.action": Parameter("31.2", "Response", words={"falls_faster": "Inverse", "rises_faster": "Direct"}),
    "pid.gain": Parameter("31.3", "Proportional"),
    "pid.integral_time": Parameter("31.4", "Integral"),
    "pid.output_low": Parameter("31.6", "Output, lowest"),
    "sleep.frequency": Parameter("32.1", "Idle speed"),
    "sleep.delay": Parameter("32.2", "Idle wait"),
    "sleep.boost": Parameter("32.3", "Idle lift", "psi"),
    "sleep.wake_level": Parameter("32.4", "Idle end", "psi"),
}

FAMILIES: dict[str, Family] = {
    "calder": Family("calder", "Calder", _CALDER),
    "tern": Family("tern", "Tern", _TERN),
    "neutral": Family("neutral", "Neutral", {}),
}


def family_of(family_id: str | None) -> Family:
    """The family of that id; the neutral one when unknown."""
    return FAMILIES.get(family_id or "neutral", FAMILIES["neutral"])
