"""Sentences for findings and verdicts, in the user's units. No wording is ever a permission to dig."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.core.base.errors import BadInput
from vessel.core.judge.rivals.chances import Alive
from vessel.core.judge.rule import Rule
from vessel.core.judge.station.verdict import Finding, Judgement
from vessel.core.text.entry import understand
from vessel.core.text.figures import show_length, show_ohms
from vessel.core.text.units import Units
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.rival_sentences import rival_text


def show_measure(rule: Rule, value: float, units: Units) -> str:
    """Return a measure with its unit: percent, times, depths, or a length in the user's system."""
    if value == float("inf"):
        return "beyond measure"
    if rule.unit == "ratio":
        return f"{100 * value:.2g} %" if value < 0.1 else f"{100 * value:.0f} %"
    if rule.unit == "times":
        return f"{value:.3g} times"
    if rule.unit == "ohm":
        return show_ohms(value)
    if rule.unit == "depths":
        return f"{value:.1f} depths" if value >= 1 else f"{value:.2g} depths"
    return show_length(value, units, fine=True)


def bounds_text(rule: Rule, units: Units) -> str:
    """Return the rule's limits in words: `care above 10 %, hold above 25 %`."""
    bounds = (("care", rule.care), ("hold", rule.hold))
    return ", ".join(f"{word} {rule.sense} {show_measure(rule, at, units)}" for word, at in bounds if at is not None)


_IN_PER_CENT = ("current_low", "current_high")
_BOUND_UNIT = {"ratio": "%", "times": "times", "length": "", "depths": "depths", "ohm": "ohm"}


def bound_typed(rule: Rule, value: float | None) -> str:
    """Return a bound as it is typed: percent, times, depths, or a length with its unit; empty for none."""
    if value is None:
        return ""
    return f"{value:g}m" if rule.unit == "length" else f"{100 * value if rule.unit == 'ratio' else value:g}"


def understand_bound(rule: Rule, text: str, units: Units, *, field: str) -> float | None:
    """Return a typed bound in the rule's own measure, None where nothing is typed; raise `BadInput`."""
    clean = text.strip().lower()
    if not clean:
        return None
    if rule.unit == "length":
        return understand(clean, quantity="offset", units=units, field=field).value
    number = clean.removesuffix(_BOUND_UNIT[rule.unit]).strip()
    try:
        value = float(number)
    except ValueError:
        unit = _BOUND_UNIT[rule.unit]
        raise BadInput(f"“{text.strip()}” is not a number.", field=field, fix=f"Type it in {unit}.") from None
    return value / 100 if rule.unit == "ratio" else value


def explain(finding: Finding, units: Units) -> str:
    """Return one sentence for a finding: the figure, then the limits it is held against."""
    words = CRITERION_WORDS[finding.rule.id]
    if finding.carried_m is not None:
        where = show_length(finding.carried_m, units)
        return f"{words.title}: not checked here. It carries over from {where}: current and depth are quiet between."
    if finding.value is None:
        return words.ask or f"{words.title}: not checked, nothing to compare with."
    if finding.value != finding.value:
        return f"{words.title}: does not apply to this hookup."
    if not finding.value and words.found_none:
        return f"{words.found_none}."
    if "{value}" not in words.found:
        return f"{words.found}."
    found = words.found.format(value=_figure(finding.rule, finding.value, units))
    if finding.weighed:
        return f"{found}. No longer a hold: you most likely follow the right line."
    return f"{found}; {_limit_text(finding.rule, units)}."


def _figure(rule: Rule, value: float, units: Units) -> str:
    """A measure as it is said: the current against the forecast in per cent, all else in the unit of its limits."""
    return f"{100 * value:.0f}\u00a0%" if rule.id in _IN_PER_CENT else show_measure(rule, value, units)


def _limit_text(rule: Rule, units: Units) -> str:
    """What passes: `0.08 m is the most that passes`, `75 % is needed`."""
    limit = rule.hold if rule.care is None else rule.care
    shown = _figure(rule, limit or 0.0, units)
    return f"{shown} is needed" if rule.sense == "below" else f"{shown} is the most that passes"


_EXPLAINS = 0.5  # a rival this likely is what a Hold is put down to


def headline(judgement: Judgement, units: Units, alive: Sequence[Alive] = ()) -> str:
    """Return the sentence under a verdict; `alive`: the rivals left, for a Hold that one of them explains."""
    deciding = judgement.deciding
    if judgement.verdict == "hold" and alive and alive[0].chance >= _EXPLAINS:
        rival = f"Most likely you are reading {rival_text(alive[0].kind, alive[0].of_m, units)}."
        held = next((f for f in deciding if f.rule.id != "aside"), None)
        return rival if held is None else f"{rival} {explain(held, units)}"
    if judgement.verdict == "mark":
        carried = [f.carried_m for f in judgement.findings if f.carried_m is not None]
        where = f" Some checks carry over from {show_length(carried[0], units)}." if carried else ""
        return f"Every check passed.{where} The mark shows where the line was found, not that digging is safe."
    first = explain(deciding[0], units)
    if judgement.verdict == "need_more":  # the next step says what to read
        first = f"Not checked yet: {within(CRITERION_WORDS[deciding[0].rule.id].title)}."
    more = len(deciding) - 1
    return first if not more else f"{first} {more} more {'check' if more == 1 else 'checks'} did not pass."


def within(title: str) -> str:
    """Return a title as it stands within a sentence."""
    return title[0].lower() + title[1:]


def next_step(judgement: Judgement) -> str:
    """Return what to do next."""
    if judgement.verdict == "mark":
        return "Paint the mark, then go on to the next station."
    first = judgement.deciding[0]
    words = CRITERION_WORDS[first.rule.id]
    if judgement.verdict == "need_more":
        return words.ask
    if judgement.verdict == "mark_with_care":
        return words.ask if first.value is None else words.care_step or words.next_step
    return words.next_step
