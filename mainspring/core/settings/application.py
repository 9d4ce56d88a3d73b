"""Region, reset and application: what is set first, since it changes other defaults."""

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.line.applications import APPLICATIONS, Labels
from mainspring.core.settings.does import bad, doubt, fine
from mainspring.core.settings.setting import Planned, fixed, setting

YES_NO = {"yes": "Yes", "no": "No"}


@setting(
    "region.base_standard",
    "Regional standard",
    choices={"50": "50 Hz", "60": "60 Hz"},
    wrong="Every default after it.",
    means="Which mains the factory values are for.",
    also="region; local; mains; grid; net; netz; 50/60 hz",
    does={
        "50": bad("Defaults for 50 Hz", "Every default after it is for 50 Hz; the supply here has 60."),
        "60": bad("Defaults for 60 Hz", "Every default after it is for 60 Hz; the supply here has 50."),
    },
)
def base_standard(line: Line, derived: Derived) -> Planned:
    """50 or 60 Hz, from the supply."""
    return fixed(
        "50" if line.supply.frequency < practice.supply.BETWEEN_REGIONS else "60",
        "From the supply; set first, it changes other defaults.",
    )


@setting(
    "region.power_unit",
    "Power unit",
    choices={"kW": "kW", "hp": "hp"},
    wrong="Power typed in the wrong unit.",
    means="Whether powers are entered and shown in kW or hp.",
    also="power in; kw/hp; units; leistungseinheit",
    does={
        "kW": fine("Shows kW", "Powers are typed and read in kW: a plate in hp has to be turned into kW first."),
        "hp": fine("Shows hp", "Powers are typed and read in hp: a plate in kW has to be turned into hp first."),
    },
)
def power_unit(line: Line, derived: Derived) -> Planned:
    """kW or hp, by the region."""
    return fixed(
        "kW" if line.supply.frequency < practice.supply.BETWEEN_REGIONS else "hp",
        "By the region; check against the motor's plate.",
    )


@setting(
    "region.clock",
    "Date and time",
    choices={"set": "Set", "not_set": "Not set"},
    wrong="Faults cannot be dated.",
    means="Date and time of the log.",
    also="date; time; clock; real time; datum; uhrzeit",
    does={"not_set": fine("Clock not set", "Faults in its log cannot be dated.")},
)
def clock(line: Line, derived: Derived) -> Planned:
    """The clock is set so that faults can be dated."""
    return fixed("set", "So that faults can be dated.")


@setting(
    "reset.factory_before",
    "Reset to factory values first",
    choices=YES_NO,
    wrong="Leftovers of an earlier life.",
    means="Whether factory values are restored before anything is set.",
    also="recall; restore; default; works values; werkseinstellung; initialise; reset",
    does={
        "no": doubt("Not reset", "Values of the drive's earlier life stay in it, where nobody looks for them."),
        "yes": doubt("Reset", "What was set in it before is gone: it must have been saved first."),
    },
)
def factory_reset(line: Line, derived: Derived) -> Planned:
    """A used drive is reset after saving; a new one is not."""
    if line.line.drive_state == "used":
        return fixed("yes", "A used drive: save what is there first, then reset.")
    return fixed("no", "A new drive needs no reset.")


@setting(
    "application.load_torque",
    "Load torque",
    choices={"variable": "Variable (square law)", "constant": "Constant"},
    wrong="Overload reserve and energy.",
    means="How the load's torque grows with speed.",
    also="torque characteristics; torque profile; load kind; vt; ct; v/f; lastkennlinie; u/f",
    does={
        "variable": doubt(
            "Set for a light start", "With less torque at low speed a load of constant torque may stick."
        ),
        "constant": fine("Set for full torque", "Full torque at low speed: a little more heat and noise than needed."),
    },
)
def load_torque(line: Line, derived: Derived) -> Planned:
    """Centrifugal machines are variable torque."""
    machine = line.application.machine
    if line.value("line.load") == "positive_displacement":
        return fixed("constant", "A positive-displacement machine: the same torque at any speed.")
    return fixed("variable", f"A centrifugal {machine}: torque grows with the square of speed.")


@setting(
    "application.preset",
    "Application",
    choices=Labels(APPLICATIONS),
    wrong="Wrong hidden defaults.",
    means="The ready-made set of values nearest to what the line does.",
    also="application; wizard; anwendung; template",
)
def preset(line: Line, derived: Derived) -> Planned:
    """What the line is for, to be matched with the make's own list."""
    return fixed(line.application.id, "Take the nearest of the make's presets, before anything else is entered.")


@setting(
    "application.duty_rating",
    "Duty rating",
    choices={"normal": "Normal", "heavy": "Heavy"},
    wrong="Trips at start, or needless size.",
    means="Whether the drive is used at its normal or its heavy rating.",
    also="duty; nd; hd; overload class; rating; overload",
    does={
        "normal": doubt("Set for normal duty", "It gives less overload than this load asks for: it may trip at start."),
        "heavy": doubt("Set for heavy duty", "It gives fewer amps all the time: it may not reach full load."),
    },
)
def duty_rating(line: Line, derived: Derived) -> Planned:
    """The duty by which the drive was chosen."""
    duty = line.drive.duty
    return fixed(duty, "As the drive was chosen; centrifugal pumps and fans are normal duty.")


@setting(
    "display.lines",
    "Display lines",
    choices={"hz_a_power_speed": "Hz, A, power, r/min", "other": "Other"},
    wrong="Blind diagnosis.",
    means="What the display shows while it runs.",
    also="display; status line; monitor; home view; anzeige",
    does={"other": fine("Shows other lines", "Hz, A, power and r/min have to be looked for when it is diagnosed.")},
)
def display_lines(line: Line, derived: Derived) -> Planned:
    """The four readings that help to diagnose."""
    return fixed("hz_a_power_speed", "The four that help to diagnose.")
