"""What evidence of identity says: of a bond at the box, of a line dug up by hand, of a stake that was moved."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.bench import SHOWN
from tests.core.traced_cable import SETUP, found, hooked_cable, stations
from vessel.core.base.errors import BadInput
from vessel.core.judge.rivals.mark_doubt import Lies
from vessel.core.model.identity import EVIDENCE, Evidence, after_a_change, alone_here, can_be_given


@pytest.fixture(scope="module")
def hooked():
    return hooked_cable()


def test_what_is_bonded_at_the_box_is_known_by_a_look_or_by_its_current():
    kept, far = EVIDENCE["kept_open"], EVIDENCE["far_kept_open"]
    assert not can_be_given(kept, SETUP.by, [Evidence("access", "cannot")])
    assert can_be_given(kept, SETUP.by, [Evidence("conductors", "against", None, 0.01, 0.02)])
    assert not can_be_given(far, SETUP.by, [Evidence("conductors", "against", None, 0.01, 0.02)])
    assert not alone_here([Evidence("conductors", "for", None, 0.02, 0.01)])
    assert alone_here([Evidence("conductors", "for", None, 0.02, 0.001)])
    carries, quiet = (Evidence("conductors", "for", None, 0.02, other) for other in (0.01, 0.001))
    assert can_be_given(kept, SETUP.by, [carries])
    assert not can_be_given(kept, SETUP.by, [quiet])
    # that nothing is bonded here still holds once the far end was opened; how a bonded one shares does not
    assert after_a_change([quiet, carries]) == (quiet,)


def test_what_the_others_carry_at_the_box_says_more_than_which_carries_most(hooked):
    read = stations(hooked[0])

    def bonded(*currents):
        w = found(hooked, read, [Evidence("conductors", "for", None, *currents)])
        return sum(c for e, c in zip(w.rivals.explanations, w.chance, strict=True) if e.bonded_here)

    most, nothing, nearly_half = bonded(), bonded(0.06, 0.001), bonded(0.031, 0.028)
    assert nothing < 0.7 * most
    assert nearly_half > 3 * most
    wrong = [("access", "for", 0.06, 0.0), ("conductors", "for", 0.02, 0.04), ("conductors", "for", 0.02, None)]
    for kind, answer, own, other in wrong:
        with pytest.raises(BadInput):
            Evidence(kind, answer, None, own, other)


def test_it_is_dug_where_that_can_be_expected_to_prove_most(hooked):
    read = stations(hooked[0])
    against = [Evidence(kind, "against") for kind in ("ends_at", "second_hookup")]
    sure, ended = found(hooked, read, SHOWN), found(hooked, read, against)
    assert sure.place_for("exposed") == 88.0
    # likely past its end somewhere: dug at the furthest it would most likely be another line
    assert 20.0 < ended.place_for("exposed") < 70.0


def test_a_depth_measured_in_a_hole_moves_what_is_pulled_alike_and_leaves_the_rest():
    at, own, common = np.array([5.0, 20.0, 35.0]), 0.03, np.array([0.1, 0.1, 0.0])
    lies = Lies(at, np.full((1, 3), 1.0), np.hypot(own, common)[None], common[None])
    dug = lies.dug(5.0, 1.08)
    # two normals of which one is measured: the mean and variance of the other, by the matrix
    alike = common[0] * common[1] * np.exp(-15.0 / 40.0)
    covariance = np.array([[common[0] ** 2 + own**2 + 0.03**2, alike], [alike, common[1] ** 2 + own**2]])
    moved = covariance[1, 0] / covariance[0, 0] * np.log(1.08)
    left = covariance[1, 1] - covariance[1, 0] ** 2 / covariance[0, 0]
    assert np.log(dug.depth_m[0, 1]) == pytest.approx(moved)
    assert dug.spread[0, 1] == pytest.approx(np.sqrt(left))
    assert dug.depth_m[0, 2] == 1.0
    assert dug.spread[0, 2] == pytest.approx(own)


def test_a_line_dug_up_where_it_was_told_is_surer_everywhere_and_one_that_lies_deeper_is_not_marked(hooked):
    read = stations(hooked[0])
    depth = float(found(hooked, read, SHOWN).placed.depth_m[5])

    def wrong(*depth_m):
        dug = [Evidence("exposed", "for", read[5].distance_m, depth_m=each) for each in depth_m]
        return found(hooked, read, [*SHOWN[:1], *dug])

    only_seen, there, deeper = wrong(None), wrong(depth), wrong(1.25 * depth)
    assert there.wrong_chance.max() < only_seen.wrong_chance.max()
    assert deeper.wrong_chance[[0, -1]].min() > 0.2  # what pulls the depth there may pull it otherwise further on
    assert deeper.placed.depth_m[5] == pytest.approx(1.25 * depth, rel=0.04)
    for kind, answer in (("exposed", "against"), ("access", "for")):
        with pytest.raises(BadInput):
            Evidence(kind, answer, depth_m=0.9)


def test_once_the_stake_was_moved_it_is_hardly_feared_to_spoil_the_trace_again(hooked):
    read = stations(hooked[0])
    found_by = Evidence("stake_moved", "against")
    (moved,) = after_a_change([found_by], stake=True)
    assert moved == replace(found_by, earlier=True)
    assert after_a_change([moved]) == (moved,)
    assert after_a_change([found_by]) == ()  # a bond was opened, and the stake left where it was

    def returns(*given):
        w = found(hooked, read, given)
        return sum(c for e, c in zip(w.rivals.explanations, w.chance, strict=True) if e.kind == "returns")

    assert returns(moved) < 0.3 * returns() < 0.3 * returns(found_by)
