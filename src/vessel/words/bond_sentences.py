"""Opening one bond at a time in words."""

from __future__ import annotations

from vessel.core.hookup.bond_opening import BondOpened
from vessel.core.text.figures import show_ma

BOND_STEP_TEXT: dict[str, str] = {
    "bond_consent": (
        "An open bond can carry dangerous voltage. Only the owner's staff open it, with the owner's consent, once they "
        "have proved that nothing depends on it."
    ),
    "bond_before": "Choose a station past the bond. Read the current there and leave the receiver on the peak.",
    "bond_off": "Transmitter OFF.",
    "bond_open": "The owner's staff open ONE bond. Every other bond stays closed.",
    "bond_on": "Transmitter on, at the same output.",
    "bond_after": "Read the current again, at the same station.",
    "bond_close": "Transmitter OFF. The owner's staff close the bond again, before the next one is opened.",
}


def bond_read_text(opened: BondOpened) -> str:
    """Return what the current with a bond open says of the line, and what to do."""
    change = f"{show_ma(opened.before_a)} before, {show_ma(opened.after_a)} with the bond open."
    if opened.says == "cannot":
        return f"{change} That tells nothing either way. Open another bond."
    gone = opened.share < 0.5
    if opened.own:
        if gone:
            return f"{change} The current went with this line's bond: it is on this line."
        return f"{change} This line's bond is open and the current stays: you are over another line. Trace it again."
    if gone:
        return f"{change} The current went with the other line's bond: you are over that line. Trace it again."
    return f"{change} The current does not come through that bond."


def bond_note(name: str, opened: BondOpened, consent: str) -> str:
    """Return a bond that was opened as it is kept on record."""
    whose = "this line's bond" if opened.own else "another line's bond"
    read = f"{show_ma(opened.before_a)} before, {show_ma(opened.after_a)} open"
    return f"{name}, {whose}: {read}. Opened with consent of {consent}."


def kept_open_note(consent: str) -> str:
    """Return a bond that stays open for a trace as it is kept on record."""
    return f"Kept open for this trace with consent of {consent}."
