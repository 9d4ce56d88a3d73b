"""The cable between drive and motor: reflected waves."""

from typing import Annotated

from mainspring.core.method import In, Source, method
from mainspring.core.quantity import Metre, MetrePerSecond, Ratio, Second, Volt

_REFLECTED = Source("Persson, IEEE Trans. Ind. Appl. 28(5), 1992", "transmission-line effects in PWM drives")


@method("l_c = v * t_r / 2", _REFLECTED)
def critical_lead_length(
    rise_time: Annotated[Second, In("of the drive's output pulse", "t_r", above=0)],
    wave_speed: Annotated[MetrePerSecond, In("along the cable, 150 to 165 m/µs", "v")] = 150e6,
) -> Metre:
    """Motor lead beyond which the voltage at the motor reaches its full reflected peak.

    >>> round(critical_lead_length(0.1e-6), 2)
    7.5
    """
    return wave_speed * rise_time / 2


@method("V_pk = V_dc * (1 + Gamma * min(1, l / l_c))", _REFLECTED)
def motor_peak_voltage(
    bus_voltage: Annotated[Volt, In("of the drive's direct-current link", "V_dc")],
    lead_length: Annotated[Metre, In("drive to motor", "l", atleast=0)],
    critical_length: Annotated[Metre, In("from the pulse's rise time", "l_c", above=0)],
    reflection: Annotated[Ratio, In("coefficient, about 0.9 for small motors, 0.6 to 0.8 above 75 kW", "Gamma")] = 0.9,
) -> Volt:
    """Peak voltage at the motor terminals from reflected waves.

    >>> round(motor_peak_voltage(650, 3, 7.5), 1)
    884.0
    """
    return bus_voltage * (1 + reflection * min(1.0, lead_length / critical_length))
