"""What is asked to show which line it is, and what the answers mean."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.judge.rivals.chances import Alive
from vessel.core.judge.rivals.identity_finding import Identity
from vessel.core.judge.rivals.next_ask import Ask
from vessel.core.model.identity import Answer, Evidence, EvidenceId
from vessel.core.text.figures import show_length, show_ma, show_station
from vessel.core.text.units import Units
from vessel.words.rival_sentences import in_same_trench, rival_text


@dataclass(frozen=True, kw_only=True)
class EvidenceWords:
    """Words of one kind of evidence.

    `question`: what is asked; `yes`, `no`, `cannot`: the answers for the line, against it, and none. `how`: how to find
    out; `shows`, `contradicts`: what an answer says, as the end of a sentence.
    """

    question: str
    yes: str
    no: str
    cannot: str
    how: str
    shows: str
    contradicts: str


EVIDENCE_WORDS: dict[EvidenceId, EvidenceWords] = {
    "access": EvidenceWords(
        question="What else is connected to the line at the access point?",
        yes="Nothing else",
        no="Something else is",
        cannot="Cannot see",
        how=(
            "Look into the box, pit or cabinet; with a coil, into the one where the line starts. A second cable on "
            "the same bar counts."
        ),
        shows="nothing else is connected at the access point",
        contradicts="something else is connected at the access point",
    ),
    "far_access": EvidenceWords(
        question="What else is connected where the line ends?",
        yes="Nothing else",
        no="Something else is",
        cannot="Cannot see",
        how=(
            "Look into the box or cabinet at the far end. If you hooked up on the way, look into both. What shares a "
            "bar there counts."
        ),
        shows="nothing else is connected at the far end",
        contradicts="something else is connected at the far end",
    ),
    "conductors": EvidenceWords(
        question="Which conductor at the access point carries the most current?",
        yes="This line",
        no="Another one",
        cannot="Cannot read them",
        how=(
            "Read each one with the clamp, or with the receiver just past the box. Enter both currents: the less "
            "the others carry, the surer it is this line."
        ),
        shows="this line carries the most current at the access point",
        contradicts="another conductor carries the most current at the access point",
    ),
    "ends_at": EvidenceWords(
        question="Where does the trace end?",
        yes="At this line's own end",
        no="Somewhere else",
        cannot="Cannot follow it",
        how=(
            "Follow the trace to its end: a riser, valve, meter or cabinet that belongs to this line. Look what else "
            "is connected there."
        ),
        shows="the trace ends where this line ends",
        contradicts="the trace ends somewhere else",
    ),
    "second_frequency": EvidenceWords(
        question="At another frequency, do peak and depth stay?",
        yes="They stay",
        no="They move",
        cannot="Cannot do it",
        how="Change the frequency at both units, a lower one if you can. Read the last stations again.",
        shows="peak and depth stay at a second frequency",
        contradicts="peak or depth moves at a second frequency",
    ),
    "coil_aside": EvidenceWords(
        question="With the coil 1 m aside, does the current fall as it should?",
        yes="It falls",
        no="It stays or rises",
        cannot="Cannot do it",
        how="Move the transmitter 1 m to the side, same output. Read the last station again: this line must fall.",
        shows="the current falls when the coil is moved aside",
        contradicts="the current does not fall when the coil is moved aside",
    ),
    "clamp": EvidenceWords(
        question="With the clamp on this line, is the trace in the same place?",
        yes="Same place",
        no="Elsewhere",
        cannot="Cannot clamp it",
        how="Clamp the line past the bond at the access point, and sweep across two or three stations.",
        shows="the clamp finds the line in the same place",
        contradicts="the clamp finds the line elsewhere",
    ),
    "second_hookup": EvidenceWords(
        question="From the far end, is the trace in the same place?",
        yes="Same place",
        no="Elsewhere",
        cannot="No second access",
        how="Hook up at the far end or another access point of this line, and sweep across your stations.",
        shows="a second hookup finds the line in the same place",
        contradicts="a second hookup finds the line elsewhere",
    ),
    "bond_opened": EvidenceWords(
        question="With the bond open, does the peak stay?",
        yes="It stays",
        no="It moves or fades",
        cannot="No consent, or no bond",
        how="Only the owner's staff open a bond, with consent. Read two or three stations while it is open.",
        shows="the peak stays with the bond open",
        contradicts="the peak moves with the bond open",
    ),
    "kept_open": EvidenceWords(
        question="Can what else is connected stay off while you trace again?",
        yes="It stays open",
        no="",
        cannot="No consent",
        how=(
            "An open bond can carry dangerous voltage: only the owner's staff open it, with consent and the "
            "transmitter OFF. With it open only this line carries signal from here."
        ),
        shows="what else is connected at the access point is kept off",
        contradicts="",
    ),
    "far_kept_open": EvidenceWords(
        question="Can the bond at the far end stay open while you trace again?",
        yes="It stays open",
        no="",
        cannot="No consent",
        how=(
            "An open bond can carry dangerous voltage: only the owner's staff open it, with consent and the "
            "transmitter OFF. With it open nothing brings the signal back beside this line."
        ),
        shows="what else is connected at the far end is kept off",
        contradicts="",
    ),
    "stake_moved": EvidenceWords(
        question="With the stake moved, do current and depth stay?",
        yes="They stay",
        no="One changes",
        cannot="Cannot move it",
        how=(
            "Transmitter OFF. Move the stake to the other side of the line, away from other metal. Same output: read "
            "the last stations again."
        ),
        shows="current and depth stay with the stake moved",
        contradicts="current or depth changes with the stake moved",
    ),
    "beside_located": EvidenceWords(
        question="Is every line near entered where its own hookup found it?",
        yes="All of them, none here",
        no="No",
        cannot="Cannot hook them up",
        how="Hook up each neighbour by itself and locate it. Enter or move it as you found it, then answer.",
        shows="every neighbour was located by its own hookup",
        contradicts="a neighbour is not where it was entered",
    ),
    "exposed": EvidenceWords(
        question="Dug by hand: is it this line?",
        yes="It is this line",
        no="It is not",
        cannot="Not allowed to dig",
        how=(
            "Only where the owner and the local rules allow it. Dig by hand, never by machine. It shows this place and "
            "the trace before it, not beyond. Measure its depth too: that makes the other depths surer."
        ),
        shows="it was exposed by hand",
        contradicts="exposed by hand, it was another line",
    ),
}

_HEADLINE = {
    "not_shown": "Not yet shown which line this is",
    "likely": "Most likely this line",
    "shown": "Shown to be this line",
}


def answer_label(kind: EvidenceId, answer: Answer) -> str:
    """Return the label of an answer."""
    words = EVIDENCE_WORDS[kind]
    return {"for": words.yes, "against": words.no, "cannot": words.cannot}[answer]


_ALONG: dict[EvidenceId, dict[Answer, str]] = {
    "ends_at": {
        "for": "At its own end, nothing else there",
        "against": "At its own end, with others",
        "cannot": "At its own end, cannot see in",
    },
}


def along_labels(kind: EvidenceId) -> dict[Answer, str]:
    """Return the labels of an answer for the line, by what it says of what is answered in the same go."""
    return _ALONG[kind]


def answered_text(e: Evidence, units: Units) -> str:
    """Return what was answered, with its place and what was read for it."""
    where = "" if e.at_m is None else f", at {show_station(e.at_m, units)}"
    read = ""
    if e.own_a is not None and e.other_a is not None:
        read = f": {show_ma(e.own_a)} on it, at most {show_ma(e.other_a)} on another"
    if e.depth_m is not None:
        read = f", {show_length(e.depth_m, units, fine=True)} deep"
    when = ", on the trace before" if e.earlier else ""
    return answer_label(e.kind, e.answer) + where + read + when


def identity_headline(found: Identity) -> str:
    """Return the state of the identity in a few words."""
    if found.contradicted and found.state == "not_shown":
        return "Signs that this is another line"
    return _HEADLINE[found.state]


def identity_text(found: Identity) -> str:
    """Return by what identity is shown, or what speaks against it; what only spoils the trace comes last."""
    if found.against:
        wrong = [EVIDENCE_WORDS[k].contradicts for k in found.against]
        if found.contradicted or not found.by:
            return _sentence(wrong)
        return _sentence([f"{EVIDENCE_WORDS[found.by[0]].shows}, but {_listed(wrong)}"])
    if found.by:
        return _sentence([EVIDENCE_WORDS[k].shows for k in found.by])
    return "A clean field shows that a line is there, not which one."


def _listed(parts: Sequence[str]) -> str:
    return parts[0] if len(parts) == 1 else f"{', '.join(parts[:-1])} and {parts[-1]}"


def _sentence(parts: Sequence[str]) -> str:
    text = _listed(parts)
    return f"{text[:1].upper()}{text[1:]}."


def ask_text(ask: Ask, alive: Sequence[Alive], units: Units) -> str:
    """Return why evidence is asked for: what it would rule out."""
    against = [a for a in alive if a.kind in ask.against][:2]
    if not against and ask.short:
        return "Current is missing that this line cannot have leaked. The answer may show where it goes."
    if not against:
        return "It is the cheapest way to make sure."
    if all(in_same_trench(a.of_m) for a in against):
        against = against[:1]  # of the same trench once is enough
    return f"It would rule out {' and '.join(rival_text(a.kind, a.of_m, units) for a in against)}."


def proving_step(found: Identity) -> str:
    """Return what to do where place or depth is in doubt and no answer would settle it."""
    if found.state == "shown":
        return "Take readings across here: they show what pulls the field, and how deep the line lies."
    return NOTHING_HELPS


def ask_step(ask: Ask, found: Identity) -> str:
    """Return what to do to answer, as a next step."""
    aim = "Make sure of place and depth." if found.state == "shown" else "Show which line this is."
    return f"{aim} {EVIDENCE_WORDS[ask.kind].how}"


TRACE_AGAIN = (
    "Some of the current came back through other metal. Leave the stake where it is now. Trace the line again."
)
NOTHING_HELPS = "Nothing else you can ask for would prove this line. Mark with care, or report it as not located."
