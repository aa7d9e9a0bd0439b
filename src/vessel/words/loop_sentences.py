"""The loop at the transmitter: what its readings say, and what to do next."""

from __future__ import annotations

from vessel.core.hookup.loop_verdict import LoopVerdict
from vessel.words.diagnosis_sentences import advice, cause_remedy, cause_title


def loop_headline(verdict: LoopVerdict) -> str:
    """Return what the transmitter's readings say of the loop."""
    d = verdict.diagnosis
    if d is None:
        if verdict.state == "not_read":
            return "The hookup is not proved."
        if verdict.by.through_air:
            return "With induction the transmitter cannot show whether signal is on the line."
        if verdict.by.between:
            return "The current goes out in one conductor and back in the other. It does not show where the line runs."
        return "The clamp's own current hides what the line takes."
    if verdict.state == "unexplained":
        return (
            f"These readings do not fit this line: {100 * d.gap:.0f} % off. Check the reading, the line and the "
            f"frequency."
        )
    lead = d.hypotheses[0]
    title = cause_title(lead)
    likely = title[0].lower() + title[1:]
    if verdict.state == "as_forecast" and lead.mended:
        return f"{title}. The loop is good."
    if verdict.state == "as_forecast":
        more = "" if d.told_apart else " A little more resistance at the stake or the clip would read the same."
        return f"{likely}. Volts and milliamps fit.{more}"
    if not d.told_apart:
        doubt = f"Most likely: {likely}. The readings do not prove it."
        return doubt if lead.sound else f"Not as forecast. Perhaps: {likely}."
    return f"Likely cause: {likely}."


def loop_advice(verdict: LoopVerdict) -> str:
    """Return what to do next about the loop."""
    d = verdict.diagnosis
    if d is None:
        if verdict.state == "not_read":
            return "Enter the volts and milliamps that the transmitter shows."
        if verdict.by.through_air:
            return "Prove it with the receiver: lift it straight up, the signal must fall smoothly."
        if verdict.by.between:
            return "Look for the cable with the receiver close to it. To mark it, hook up another way."
        return "Prove the current with the receiver a few metres along the line."
    if verdict.state == "unexplained":
        again = " If an earlier reading was wrong, start again at a later one." if d.readings > 1 else ""
        return f"Switch off, go over stake, clip and leads, and read again.{again}"
    return cause_remedy(d.hypotheses[0]) if d.sound or d.told_apart else advice(d)
