"""What the core says: safe orders, sentences, and words it must never use."""

import ast
import re
from pathlib import Path
from string import Formatter

import pytest

import vessel.core
from tests.core.test_judge import CONTEXT, GOOD, MAKE
from vessel.core.base.errors import BadInput
from vessel.core.diagnose.hypotheses import FAMILIES
from vessel.core.hookup.safe_order import CHECKLISTS, blocked, checklist, require_order
from vessel.core.judge.station.criteria import RULES
from vessel.core.judge.station.verdict import judge
from vessel.core.model.construction import PRESETS, STRUCTURES, WITHOUT_METAL
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.setup import Setup
from vessel.core.text.figures import show_ma
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.diagnosis_sentences import CAUSE_REMEDY, CAUSE_TITLE
from vessel.words.finding_sentences import bounds_text, explain, headline, next_step
from vessel.words.labels import PART_LABEL, VERDICT_LABEL
from vessel.words.preset_notes import PRESET_NOTE
from vessel.words.refusals import REFUSALS

PERMISSION = ("safe to dig", "you may dig", "can dig", "clear to dig", "go ahead")


def said(judgement, units):
    return " ".join(
        [headline(judgement, units), next_step(judgement), *(explain(f, units) for f in judgement.findings)]
    )


@pytest.mark.parametrize("units", ["metric", "imperial"])
@pytest.mark.parametrize("rule", RULES, ids=lambda r: r.id)
def test_every_finding_speaks_plainly_at_every_outcome(rule, units):
    for share in (0.2, 0.99, 1.01, 2.5):
        if rule.id == "lift" and share * rule.hold > 1.5:
            continue
        text = said(judge(*MAKE[rule.id](share * (rule.hold or rule.care))), units)
        assert "nan" not in text.lower().split()
        assert "inf" not in text.lower().split()
        assert not any(p in text.lower().replace("not that digging is safe", "") for p in PERMISSION)
    words = CRITERION_WORDS[rule.id]
    assert words.why.endswith(".")
    assert words.next_step.endswith(".")
    assert bounds_text(rule, units)


def test_required_evidence_can_always_be_asked_for():
    for rule in RULES:
        assert bool(CRITERION_WORDS[rule.id].ask) == (rule.missing in ("need", "care")), rule.id


def test_a_verdict_names_the_gravest_check_and_counts_the_rest():
    from dataclasses import replace

    j = judge(replace(GOOD, peak_null_m=0.3, currents_a=(0.01, 0.03, 0.05)), CONTEXT)
    assert j.verdict == "hold"
    assert headline(j, "metric").endswith("1 more check did not pass.")
    assert VERDICT_LABEL[j.verdict] == "Hold"


def test_the_safe_order_of_a_direct_connection():
    order = [s.id for s in CHECKLISTS["direct"]]
    assert order[0] == "off"
    assert order.index("stake_lead") < order.index("line_lead") < order.index("on") < order.index("read")
    assert {s.id for s in CHECKLISTS["direct"] if s.protects} >= {"off", "dead", "stake_lead"}


def test_no_look_is_asked_for_a_bond_that_is_entered():
    lone = Line(PRESETS["tracer_wire"].construction, 60.0, 0.6, 1.2)
    bonded = Line(
        lone.construction,
        60.0,
        0.6,
        1.2,
        neighbours=(Neighbour("twin", lone.construction, 0.5, 0.0, 60.0, 0.9, None, 20.0, bond_m=0.0),),
    )
    for line, asked in ((lone, True), (bonded, False)):
        order = [s.id for s in checklist(line, Setup("direct", 8960.0, 0.03))]
        assert ("look" in order) == asked


@pytest.mark.parametrize("method", ["direct", "clamp", "induction"])
def test_nothing_is_ticked_before_the_step_that_protects(method):
    steps = CHECKLISTS[method]
    order = [s.id for s in steps]
    for k in range(len(order) + 1):
        require_order(steps, order[:k])
    for k, step in enumerate(steps):
        ahead = [s.id for s in steps if s is not step]
        if step.protects and k + 1 < len(steps):
            with pytest.raises(BadInput, match="before one that protects"):
                require_order(steps, ahead)
            assert set(blocked(steps, ahead)) == set(order[k + 1 :])
        else:
            require_order(steps, ahead)


@pytest.mark.parametrize("method", ["direct", "clamp", "induction"])
def test_every_hookup_starts_with_the_transmitter_off_and_a_live_line_first_of_all(method):
    line = Line(PRESETS["tracer_wire"].construction, 50.0, 0.6, 1.0, AccessPoint(live=True))
    steps = checklist(line, Setup(method, 8960.0, 0.03))
    assert steps[0].id == "live"
    assert steps[0].protects
    assert steps[1].id == "off"
    assert [s.id for s in CHECKLISTS[method]].index("match") > 0


def test_induction_has_no_stake_but_an_air_test():
    order = {s.id for s in CHECKLISTS["induction"]}
    assert "air" in order
    assert not order & {"stake_lead", "line_lead"}


@pytest.mark.parametrize(
    ("amps", "text"),
    [(0.03, "30 mA"), (0.0286, "28.6 mA"), (0.00412, "4.12 mA"), (3.5e-4, "0.35 mA"), (1e-6, "under 0.01 mA")],
)
def test_currents_keep_their_unit_and_three_figures(amps, text):
    assert show_ma(amps) == text


def test_every_explanation_has_a_remedy_and_every_part_a_name():
    assert set(CAUSE_TITLE) == set(CAUSE_REMEDY) == set(FAMILIES)
    assert all(remedy.endswith(".") for remedy in CAUSE_REMEDY.values())
    assert len(set(PART_LABEL.values())) == len(PART_LABEL) == 7


ROOT = Path(vessel.core.__file__).parent
RAISED = {"BadInput", "Doubtful", "NotFound", "Conflict", "OutOfRange"}
PLACES = Formatter()


def refused_in_core():
    """Return every id that core refuses with, and the names of the facts it gives."""
    found = []
    for path in sorted(ROOT.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") in RAISED:
                what = node.args[0]
                ids = [what.body, what.orelse] if isinstance(what, ast.IfExp) else [what]
                # a refusal passed on under another field brings its own words
                passed_on = any(isinstance(i, ast.Attribute) for i in ids)
                found += [] if passed_on else [(i.value, {k.arg for k in node.keywords}) for i in ids]
    return found


def test_every_refusal_of_core_has_its_words_and_every_figure_they_need():
    found = refused_in_core()
    assert {i for i, _ in found} == set(REFUSALS)
    for what, facts in found:
        needed = {name for text in REFUSALS[what] for _, name, _, _ in PLACES.parse(text) if name}
        assert needed <= facts | {"part", "as_entered"}, what


def test_a_refusal_speaks_in_the_users_units():
    e = BadInput("lead_too_short", kit="Yard kit", lead_m=5.0, away_m=8.0)
    assert str(e).startswith("The stake lead of Yard kit is 5 m long and does not reach 8 m.")
    e.units = "imperial"
    assert "16.4 ft long and does not reach 26.2 ft" in str(e)


def test_core_has_no_sentences():
    spoken = []
    for path in sorted(ROOT.rglob("*.py")):
        tree = ast.parse(path.read_text(encoding="utf-8"))
        docs = {id(n.value) for n in ast.walk(tree) if isinstance(n, ast.Expr)}
        for n in ast.walk(tree):
            said = isinstance(n, ast.Constant) and isinstance(n.value, str) and id(n) not in docs
            if said and re.search(r"[a-z]{2,} [a-z]{2,}.* [a-z]{2,}.*[.:]( |$)", n.value):
                spoken.append(f"{path.name}: {n.value}")
    assert spoken == []


def test_every_preset_says_what_it_stands_for():
    assert set(PRESET_NOTE) == {*PRESETS, *STRUCTURES, *WITHOUT_METAL}
