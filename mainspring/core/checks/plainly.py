"""What stands behind a method's refusal, said of the plant or the entry: what is wrong, and what to look at."""

from mainspring.core.errors import BadEntry, MainspringError

# by what the method calls it: what it means of the plant ({value}, {allowed}), and what to look at
MEANS: dict[str, tuple[str, str]] = {
    "flow over best flow": (
        "At full speed the flow would be {value} times the best flow; a curve is followed up to twice it",
        "Look at the best flow, the curve and the known point of the system, each with its unit.",
    ),
    "held head": (
        "The inlet alone gives more than is to be held: {value} of head are left for the machine",
        "Look at the setpoint, the inlet pressure and the heights, each with its unit.",
    ),
    "poles": ("A motor has an even number of poles; {value} was entered", "Read the poles on the plate again."),
    "full-load speed": (
        "{value} is faster than a motor of two poles turns at this frequency",
        "Read speed and frequency on the plate again.",
    ),
    "setpoint": (
        "{value} is too low a setpoint for the usual rule of the precharge, which needs it {allowed}",
        "Look at the setpoint and its unit; of so low a pressure the precharge is a share.",
    ),
    "air at the drive": (
        "{value} round the drive is outside any derating, which goes {allowed}",
        "Cool it, or take another place, before it is powered.",
    ),
    "bore of casing or sleeve": (
        "{value} is no bore that this motor goes into: it must be {allowed}",
        "Measure casing or sleeve, and the motor's diameter, again.",
    ),
}
ELSE = ("{field} {value} is outside what can be computed: {allowed}", "Look at it again, and at its unit.")


def plainly(reason: MainspringError) -> tuple[str, str]:
    """Why something cannot be judged, and what to look at; numbers in both unit systems, as the error has them."""
    if not isinstance(reason, BadEntry):
        return reason.tellings, ""
    why, do = MEANS.get(reason.field.lower(), ELSE)
    field = f"{reason.field[:1].upper()}{reason.field[1:]}"
    return why.format(field=field, value=reason.value, allowed=reason.allowed), do
