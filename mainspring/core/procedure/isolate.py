"""Dead and locked: isolation, the wait, absence of voltage, and the work on an open drive."""

from mainspring.core import practice
from mainspring.core.hydraulics.tank import precharge_below_setpoint, precharge_share_of_setpoint
from mainspring.core.line import Line
from mainspring.core.method import as_figure, assume, given
from mainspring.core.motor.insulation import insulation_least, insulation_temperature_factor, least_at
from mainspring.core.procedure.step import Reading, School, Step, first_known, known
from mainspring.core.sentence import in_prose, listed, say, show

_THREE = (("l1_l2", "L1 to L2"), ("l2_l3", "L2 to L3"), ("l3_l1", "L3 to L1"))
_EARTH = (("l1_pe", "L1 to earth"), ("l2_pe", "L2 to earth"), ("l3_pe", "L3 to earth"), ("dc", "DC+ to DC−"))


def isolate_steps(line: Line) -> list[Step]:
    """From the lock to the cover back on."""
    steps = [_lock_out(line), _capacitors(line), _absence(line), _wiring(line), _interlock(line)]
    if "tank" in line.traits:
        steps.append(_precharge(line))
    if "fan_array" in line.traits:
        steps.append(_ends(line))
    return [*steps, _insulation(line), _photo()]


def _lock_out(line: Line) -> Step:
    turns = "a windmilling fan" if "fan" in line.traits else "a pump turning backwards"
    return Step(
        "isolate.lock_out",
        "Lock out, tag, try",
        say("Open the isolator, put your own lock and tag on it, then try to start."),
        "The lock is yours and so is the key; trying proves that the right isolator was opened.",
        "tick",
        danger=f"Every source counts: control power, a bypass, {turns}. Follow the site's permit rules and local code.",
    )


def _capacitors(line: Line) -> Step:
    seconds = (
        line.drive.discharge_time
        if line.drive.has("discharge_time")
        else assume(
            "drive.discharge_time",
            float(practice.safety.DISCHARGE),
            "time",
            "not on record: the longer of the usual labels",
        )
    )
    return Step(
        "isolate.capacitors",
        "Wait for the capacitors",
        say(
            "Start the clock when the isolator is open. Do not open the drive for {wait}. A drive that needs"
            " longer than {label} must say so on a label.",
            wait=seconds,
            label=practice.safety.LABEL_AFTER,
        ),
        "The bus capacitors hold a deadly charge after the supply is gone. A dark display is a sign, not a proof.",
        "countdown",
        danger="Stored charge. The time on the drive's own label governs; a failed bleeder defeats any wait, so the"
        " next step measures.",
        after=("isolate.lock_out",),
        seconds=seconds,
        rests_on=(seconds,),
    )


def _absence(line: Line) -> Step:
    pairs: tuple[tuple[str, str], ...] = (*_THREE, *_EARTH)
    if two_hot_wires(line):
        pairs = (("l1_l2", "L1 to L2"), ("l1_pe", "L1 to earth"), ("l2_pe", "L2 to earth"), ("dc", "DC+ to DC−"))
    elif line.value("supply.phases") == "1":
        pairs = (("l_n", "L to N"), ("l_pe", "L to earth"), ("n_pe", "N to earth"), ("dc", "DC+ to DC−"))
    return Step(
        "isolate.absence",
        "Prove absence of voltage",
        say("Prove the tester on a live source, measure every pair and the bus, prove the tester again."),
        "Only a measurement says that it is dead.",
        "readings",
        danger=f"Treat as live until every reading is below {show(practice.safety.SAFE_VOLTS)}."
        " Protective equipment to the local rule.",
        after=("isolate.capacitors",),
        readings=tuple(
            Reading(i, label, "voltage", low=0.0, high=float(practice.safety.SAFE_VOLTS)) for i, label in pairs
        ),
        wrong="Something is still alive. Close the cover, start again at the lock: another source, or a charged bus.",
    )


def two_hot_wires(line: Line) -> bool:
    """Whether a single-phase supply comes on two live wires: 200 to 250 V where the mains have 60 Hz."""
    volts, hertz = line.value("supply.voltage"), line.value("supply.frequency")
    if line.value("supply.phases") != "1" or volts is None or hertz is None:
        return False
    return bool(practice.supply.TWO_HOT.holds(volts) and hertz > practice.supply.BETWEEN_REGIONS)


def _insulation(line: Line) -> Step:
    least = insulation_least(line.motor.rated_voltage) if line.motor.has("rated_voltage") else insulation_least(400.0)
    cold = practice.motor.COLD_WINDING
    wanted = as_figure(least_at(least, insulation_temperature_factor(cold)))
    return Step(
        "isolate.insulation",
        "Insulation of motor and cable",
        say(
            "Take the motor cable off the drive. 500 V from each core to earth, one minute, motor and cable together:"
            " {wanted} at least with a winding at {cold}; it is {least} at {warm}, half for each {step} more.",
            wanted=wanted,
            cold=cold,
            least=least,
            warm=given("warm_winding", 40.0, "temperature", "at which the least is told"),
            step=given("halving", 10.0, "temperature_difference", "for which insulation halves, common practice"),
        ),
        "A damp winding or a nicked cable shows here, and not as a trip at first start.",
        "readings",
        danger="The tester's volts destroy a drive: cable off at the drive first. Let the winding discharge to earth"
        " afterwards.",
        after=("isolate.absence",),
        readings=(Reading("resistance", "Resistance to earth", "insulation", low=float(wanted)),),
        safety=False,
        skip="A fault of winding or cable will be found by the drive, at first power.",
        wrong="Motor and cable apart: which one is it? Dry it, or change it, then measure again.",
    )


_START_WIRES = {
    "three_wire": "Start button normally open, stop button normally closed",
    "keypad": "No start contact: it is started at the keypad",
    "link": "No start contact: it is started over the link",
}


def _wiring(line: Line) -> Step:
    items = {
        "earth": "Protective earth of supply, drive, motor and box connected, sized by local code",
        "supply": "Supply cable and branch protection sized on the drive's input current: its manual and local code",
        "torque": "Terminals to the strip length and torque on the drive's label",
        "apart": "Supply, motor and signal cables apart, crossing at a right angle, "
        f"{in_prose(practice.sensor.APART)} where they run side by side",
        "shield": "Signal shields earthed at the drive end only; the screen of the motor cable at both ends, all round",
        "contacts": _START_WIRES.get(line.value("control.start_from") or "", "Start contact normally open")
        + (", no safety contact: its input is disabled" if defeated(line) else ", safety contact normally closed"),
        "leads": "Motor leads on the drive's output, connected for the volts on record",
    }
    orders = [
        *(("the preset contacts",) if "presets" in line.traits else ()),
        *(("the setpoint contact",) if line.value("control.setpoints") == "two" else ()),
        *(("the hand/off/auto switch",) if line.value("control.local_orders") == "contact" else ()),
    ]
    if orders:
        items["orders"] = f"Wired to the inputs that the sheet names: {listed(orders)}"
    if line.value("supply.phases") == "1":
        items["single"] = "Single-phase feed on the two terminals that the drive's manual names"
    if line.value("drive.output_filter") not in (None, "none"):
        items["filter"] = "Motor leads from the output filter, the filter from the drive"
    if line.value("motor.thermal") not in (None, "none"):
        items["thermal"] = "Thermal contact of the motor wired to the drive"
    if "loop" in line.traits:
        volts = line.value("sensor.signal") in ("0-10V", "2-10V")
        items["switch"] = f"Input switch on {'voltage' if volts else 'current'}, sensor cable cut to length, not coiled"
    if line.value("control.bypass") == "contactor":
        items["bypass"] = "Bypass contactor interlocked with the drive's, motor overload in the bypass set"
    return Step(
        "isolate.wiring",
        "Wiring",
        say("Look at each, tighten by the label. Local code governs."),
        "Loose and over-tightened both fail. A broken wire in a normally-closed contact stops the drive.",
        "list",
        after=("isolate.absence",),
        items=items,
    )


def defeated(line: Line) -> bool:
    """Whether the safety interlock is defeated, by whatever sheet says so."""
    return line.told("protection.interlock") == "disabled"


def _interlock(line: Line) -> Step:
    told = line.on_site.settings.get("protection.interlock")
    by = f" {told.by} has it as {'disabled' if defeated(line) else 'wired'}." if told is not None else ""
    return Step(
        "isolate.interlock",
        "Safety interlock",
        say(_safe_words("The drive's enable input: what stands behind it?" + by)),
        "The first alarm of a new drive is often this input, which expects a closed contact.",
        "choice",
        danger="A defeated interlock stays on this sheet and on the hand-over, with your name.",
        after=("isolate.absence",),
        choices={"wired": "A normally-closed safety contact", "disabled": "Nothing: the input is disabled"},
        right="*",
        schools={
            "wired": School("A real contact", "A broken wire stops the drive. The usual way."),
            "disabled": School(
                "Input disabled", "It starts without a contact, and nothing stops it through this input.", asks_why=True
            ),
        },
    )


def _safe_words(text: str) -> str:
    """Text without slot marks: a name that somebody typed is never taken for one."""
    return text.replace("{", "(").replace("}", ")")


def _precharge(line: Line) -> Step:
    share = first_known(lambda: precharge_share_of_setpoint(line.control.setpoint))
    below = first_known(lambda: precharge_below_setpoint(line.control.setpoint))
    schools = {"share": School("70 % of the setpoint", "Grows with the setpoint: safe on low ones.", share)}
    if below is not None and below > 0:
        schools["below"] = School(
            f"{in_prose(practice.pump.PRECHARGE_BELOW)} below the setpoint", "The same drop at any setpoint.", below
        )
    return Step(
        "isolate.precharge",
        "Precharge of the tank",
        say("Water drained from the tank's side, read the air, correct it."),
        "With water behind the membrane the gauge reads the water.",
        "readings",
        danger="Trapped pressure: drain slowly. Compressed air only up to the tank's rating.",
        after=("isolate.absence",),
        readings=(Reading("precharge", "Air, drained", "pressure", tolerance=0.05),),
        schools=schools if share is not None else {},
        rests_on=tuple(s.expected for s in schools.values() if s.expected is not None),
        safety=False,
        skip="The tank may give little or no water between sleep and wake; the pump then starts often.",
    )


def _ends(line: Line) -> Step:
    return Step(
        "isolate.ends",
        "Termination of the link",
        say("Termination switches: on at the last unit of the link, off at all others."),
        "Two ends, two terminations: the controller's and the last unit's.",
        "units",
        after=("isolate.absence",),
        items={"set": "As it belongs: on at the last of the link, off at the others"},
        units=max(int(line.value("machine.count") or 1), 1),
        rests_on=known(lambda: line.machine.count),
        safety=False,
        skip="Units may drop off the link, now and then, and nobody will know why.",
    )


def _photo() -> Step:
    return Step(
        "isolate.cover",
        "Photograph it, cover on",
        say("A photo of the wiring and labels before the cover goes on. Then the cover."),
        "In a year nobody will open it to look.",
        "photo",
        danger="Put the cover on before power returns: a misplaced cover can short a control board.",
        after=("isolate.wiring", "isolate.interlock"),
        safety=False,
        skip="No picture of the wiring is kept. The cover goes on all the same.",
    )
