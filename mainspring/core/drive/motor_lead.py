"""The cable between drive and motor: reflected waves."""

from mainspring.core.method import Source, method
from mainspring.core.quantity import Metre, MetrePerSecond, Ratio, Second, Volt

_REFLECTED = Source("Persson, IEEE Trans. Ind. Appl. 28(5), 1992", "transmission-line effects in PWM drives")


@method(
    id="critical_lead_length",
    symbol="l_c",
    formula="v * t_r / 2",
    symbols={"v": "wave_speed", "t_r": "rise_time"},
    source=_REFLECTED,
)
def critical_lead_length(rise_time: Second, wave_speed: MetrePerSecond = 150e6) -> Metre:
    """Motor lead beyond which the voltage at the motor reaches its full reflected peak.

    Parameters
    ----------
    rise_time : of the drive's output pulse, > 0 [s]
    wave_speed : along the cable, 150 to 165 m/µs [m/s]

    Examples
    --------
    >>> round(critical_lead_length(0.1e-6), 2)
    7.5
    """
    return wave_speed * rise_time / 2


@method(
    id="motor_peak_voltage",
    symbol="V_pk",
    formula="V_dc * (1 + Gamma * min(1, l / l_c))",
    symbols={"V_dc": "bus_voltage", "Gamma": "reflection", "l": "lead_length", "l_c": "critical_length"},
    source=_REFLECTED,
)
def motor_peak_voltage(bus_voltage: Volt, lead_length: Metre, critical_length: Metre, reflection: Ratio = 0.9) -> Volt:
    """Peak voltage at the motor terminals from reflected waves.

    Parameters
    ----------
    bus_voltage : of the drive's direct-current link [V]
    lead_length : drive to motor [m], >= 0
    critical_length : from the pulse's rise time [m], > 0
    reflection : coefficient, about 0.9 for small motors, 0.6 to 0.8 above 75 kW [-]

    Examples
    --------
    >>> round(motor_peak_voltage(650, 3, 7.5), 1)
    884.0
    """
    return bus_voltage * (1 + reflection * min(1.0, lead_length / critical_length))
