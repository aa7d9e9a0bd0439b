"""The yard's instruments, its random sites, its debrief, and what it keeps to itself."""

import csv
import io
import re
from dataclasses import replace

import numpy as np
import pytest

from tests.conftest import sent
from tests.practice.played import begun
from vessel.api.practice.lessons import lesson_called
from vessel.api.practice.provable import provable
from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.fault_walk import FAULT_STEPS, FaultWalk, FrameReading
from vessel.core.model.kit import SAMPLE_KIT, SONDE_HZ
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.sonde import SondeStop
from vessel.core.practice.coach import on_frame, on_stop
from vessel.core.practice.debrief import Attempt, Painted, debrief
from vessel.core.practice.energised import alone_at, put_on
from vessel.core.practice.expert import asking_what_can_be_proved
from vessel.core.practice.frame_held import Spiked, frame_faces, put_walk
from vessel.core.practice.random_site import LEVELS, random_site
from vessel.core.practice.receiver_held import Held, faces
from vessel.core.practice.sonde_head import head_in
from vessel.core.practice.yard_lesson import WalkStep
from vessel.core.signal.physics.soil_gradient import gradient
from vessel.core.signal.spike_volts import spike_volts
from vessel.formats import lesson_file
from vessel.words.practice_sentences import remark_text, told_random

HZ, GAIN = 8960.0, 30.0


def hooked(lesson, *, at_m=0.0, acts=(), method="direct", freq_hz=HZ):
    told = lesson.laid(lesson.target)
    drawn = Drawn(told.name, told.site_line.construction, told.told_route, *told.depths_told)
    line = Line(drawn.construction, drawn.length_m, *told.depths_told, course=Course(SitePlan((drawn,)), 0))
    return put_on(
        lesson, line, told.name, Setup(method, freq_hz, 0.06, Stake(), position_m=at_m), SAMPLE_KIT, set(acts)
    )


def shown(put, east, north, heading=90.0, *, lesson=None, lifted=False, freq_hz=HZ):
    held = [Held((east, north), heading, freq_hz, GAIN, lifted)] * 9
    found = faces(put, held, SAMPLE_KIT, lesson.plant if lesson else (), np.random.default_rng(3))
    return sorted(found, key=lambda f: f.level)[4]


def test_the_receiver_peaks_over_the_line_points_to_it_and_deepens_by_the_lift():
    put = hooked(lesson_called("matching-frequencies"))
    over, left, right = (shown(put, 18.0, y) for y in (0.0, 0.6, -0.6))
    assert over.level > 1.2 * max(left.level, right.level)
    assert over.side == ""
    assert (left.side, right.side) == ("right", "left")  # on its left the line lies to the right
    assert over.null_level < 0.2 * left.null_level
    assert over.depth_m == pytest.approx(0.8, abs=0.04)
    assert over.current_a == pytest.approx(0.06, rel=0.05)
    assert shown(put, 18.0, 0.0, lifted=True).depth_m == pytest.approx(1.3, abs=0.07)
    assert {shown(put, 18.0, 0.0, turn).direction for turn in (90.0, 270.0)} == {"away"}
    assert shown(put, 18.0, 0.0, 0.0).level < 0.2 * over.level  # turned along the wrong way it hears next to nothing
    assert shown(put, 18.0, 0.0, freq_hz=35840.0).noisy  # on another frequency there is only noise


def test_noise_near_plant_hides_a_low_frequency_and_not_a_high_one():
    lesson = lesson_called("quiet-frequency")
    low, high = (shown(hooked(lesson, freq_hz=hz), 20.0, 0.0, lesson=lesson, freq_hz=hz) for hz in (560.0, 35840.0))
    assert (low.noisy, low.depth_m, high.noisy) == (True, None, False)
    assert high.depth_m == pytest.approx(0.8, abs=0.06)


def test_a_sonde_peaks_over_its_head_between_nulls_and_its_depth_needs_sonde_mode():
    lesson = lesson_called("sonde")
    drain = lesson.site.line(lesson.target)
    head = head_in(drain, 12.0)
    h = -head.at[2] + SAMPLE_KIT.receiver.low_m

    def read(x, heading=90.0, *, sonde=True):
        held = [Held((x, 0.0), heading, SONDE_HZ, GAIN, False, sonde)] * 15
        found = faces(None, held, SAMPLE_KIT, (), np.random.default_rng(5), head=head)
        return sorted(found, key=lambda f: f.level)[7]

    over = read(head.at[0])
    assert over.depth_m == pytest.approx(-head.at[2], rel=0.05)
    for x in (head.at[0] - h / 2**0.5, head.at[0] + h / 2**0.5):
        assert read(x).level < 0.1 * over.level
    ghosts = [read(head.at[0] + side * 1.22 * h).level / over.level for side in (-1, 1)]
    assert np.mean(ghosts) == pytest.approx(0.202, abs=0.03)
    assert read(head.at[0], 0.0).level < 0.1 * over.level  # turned a quarter the signal goes
    # left in line mode and held across the pipe it takes the cube law for that of a line
    assert read(head.at[0], 0.0, sonde=False).depth_m < 0.4 * over.depth_m
    assert head_in(drain, 99.0).at_end


def test_a_frame_points_to_a_fault_as_the_closed_form_says_and_to_every_earth_left_on():
    lesson = lesson_called("frame")
    told = lesson.laid(lesson.target)
    drawn = Drawn(told.name, told.site_line.construction, told.told_route, *told.depths_told)
    line = Line(drawn.construction, drawn.length_m, *told.depths_told, course=Course(SitePlan((drawn,)), 0))
    (fault,) = told.features
    walk = FaultWalk(560.0, stake_along_m=-5.0, stake_away_m=12.0, done=FAULT_STEPS)
    put = put_walk(lesson, line, told.name, walk, SAMPLE_KIT)
    x = fault.at_m + np.array([-1.5, -0.6, 0.6, 1.5])
    way = np.tile([1.0, 0.0], (4, 1))
    volts = spike_volts(put.solved, np.column_stack([x, 0 * x]), way, 0.6)
    before, after = put.solved.current_at(told.name, fault.at_m + np.array([-0.1, 0.1]))
    rho = lesson.site.soil.resistivity_ohm_m
    closed = rho * abs(before - after) / (2 * np.pi) * gradient(x - fault.at_m, 0.7, 0.6)
    assert np.abs(volts) * np.sign(volts.real) == pytest.approx(closed, rel=0.03)

    def points(put, x):
        return frame_faces(put, [Spiked((x, 0.0), 90.0)], 0.6, np.random.default_rng(1))[0].points

    assert [points(put, x) for x in (40.0, 50.0, 66.0)] == ["ahead", "behind", "behind"]
    left_on = put_walk(lesson, line, told.name, replace(walk, done=("dead", "near_off", "bonds_off")), SAMPLE_KIT)
    assert points(left_on, 66.0) == "ahead"  # the earth at the far end draws it on
    assert points(None, 42.0) == "null"


def test_what_is_done_at_the_hookup_changes_the_circuit():
    dry, open_end, twin = (lesson_called(x) for x in ("stake", "open-far-end", "twins"))
    assert hooked(dry, acts=["stake_deeper"]).solved.output.amps > 1.3 * hooked(dry).solved.output.amps
    low = [hooked(open_end, acts=a, freq_hz=560.0).solved.output.amps for a in ([], ["earth_far"])]
    assert low[1] > 20 * low[0]
    carried = [
        abs(hooked(twin, acts=a).solved.current_at("Data cable", np.array([20.0]))[0]) for a in ([], ["open_bonds"])
    ]
    assert carried[1] < 0.3 * carried[0]
    seen = [alone_at(hooked(lesson, acts=a)) for lesson, a in ((dry, []), (twin, []), (twin, ["open_bonds"]))]
    assert seen == [True, False, True]


def test_the_yard_says_that_it_has_no_pair():
    with pytest.raises(BadInput, match="no second conductor"):
        hooked(lesson_called("stake"), method="pair")


def test_nothing_comes_up_where_the_record_is_wrong():
    lesson = random_site("hard", 4)
    with pytest.raises(BadInput, match="No metal of"):
        hooked(
            lesson_file.lesson_of(
                {**lesson_file.data_of(lesson), "lines": _moved(lesson_file.data_of(lesson)["lines"], lesson.target)}
            )
        )


def _moved(lines, name):
    """The same lines with one of them, in the ground, 3 m north of where the record has it."""
    return [
        {**x, "recorded": [[e, n] for e, n, _ in x["route"]], "route": [[e, n + 3, d] for e, n, d in x["route"]]}
        if x["name"] == name
        else x
        for x in lines
    ]


def test_random_sites_are_the_same_for_the_same_seed_and_sound_for_many():
    assert random_site("hard", 11) == random_site("hard", 11) != random_site("hard", 12)
    for level in LEVELS:
        for seed in range(170):
            lesson = random_site(level, seed)
            assert lesson_file.load(lesson_file.dump(lesson)) == lesson
            told = lesson_file.job_of(lesson, technician="R. Tallow", now="2026-11-20T08:00:00Z").job
            assert {x.name for x in told.lines} == {x.name for x in lesson.lines if x.known}
            assert lesson.target in {x.name for x in told.lines}


def test_a_good_walk_proves_an_easy_random_site(client):
    player = begun(client, level="easy", seed=3)
    line = next(name for name in player.lines if name == "Gas main")
    hook = WalkStep("hook_up", "direct", line, HZ)
    proof = [WalkStep("read", freq_hz=hz) for hz in (560.0, HZ)] + [WalkStep("evidence", what="access")]
    # clear of the bend at 36 m and of the end at 60 m, where no depth is right
    walk = [WalkStep("trace", at_m=a, to_m=b, step_m=c) for a, b, c in ((4.0, 32.5, 9.5), (40.5, 55.5, 7.5))]
    ended = player.play([hook, WalkStep("on"), *proof, *walk, WalkStep("mark", "proved")]).end()
    assert (ended["passed"], ended["score"]) == (True, 100), [m["text"] for m in ended["marks"]]
    assert not any(m["strike"] for m in ended["marks"])


def test_transmitter_and_stake_set_down_elsewhere_are_another_hookup_and_off(client):
    player = begun(client, lesson="stake")
    yard = sent(client.get(f"/api/jobs/{player.job}/yard"))
    move = f"/api/jobs/{player.job}/yard/moves"
    assert client.post(move, json={"what": "stake", "east": 0, "north": 9}).status_code == 409  # nothing is hooked up
    player.play([WalkStep("hook_up", "direct", yard["target"], HZ), WalkStep("on")])
    east, north = sent(client.get(f"/api/jobs/{player.job}/yard"))["hooked"]["stake_at"]
    moved = sent(client.post(move, json={"what": "stake", "east": east - 2, "north": north}))
    assert moved["hooked"]["stake_at"] == pytest.approx([east - 2, north], abs=0.01)
    assert moved["on"] is False
    assert "with the transmitter on" in moved["remark"]
    assert moved["hooked"]["steps_open"]  # the safe order begins again
    refused = client.post(move, json={"what": "transmitter", "east": 15.0, "north": 0.0})
    assert refused.status_code == 422
    assert "no access point" in refused.json()["message"]
    player.play([WalkStep("hook_up", "induction", yard["target"], 35840.0, at_m=6.0)])
    along = sent(client.post(move, json={"what": "transmitter", "east": 12.0, "north": 0.4}))
    assert along["hooked"]["at"] == pytest.approx([12.0, 0.0], abs=0.6)


def test_a_random_site_says_what_of_it_cannot_be_proved():
    easy, hard_to_prove = random_site("easy", 3), random_site("middle", 11)
    assert provable(easy) == 1.0
    told = told_random(asking_what_can_be_proved(easy, 1.0), 1.0)
    assert [g.kind for g in told.goals] == ["no_wrong_mark", "marked"]
    assert "cannot be proved" not in told.task
    share = provable(hard_to_prove)
    assert share < 0.8
    told = told_random(asking_what_can_be_proved(hard_to_prove, share), share)
    assert [g.kind for g in told.goals] == ["no_wrong_mark"]
    assert "Not all of it can be proved from here" in told.task


def test_the_debrief_says_what_a_mark_would_have_done():
    lesson = lesson_called("jumped")
    usual = {"at": (10.0, 0.1), "depth_m": 1.1, "verdict": "mark", "method": "direct", "freq_hz": HZ}

    def mark(**changed):
        return Painted(1, "Gas service", **{**usual, **changed})

    tried = [mark(), mark(at=(40.0, 1.4)), mark(depth_m=1.4), mark(depth_m=0.8), mark(depth_m=None)]
    found = debrief(lesson, Attempt(tuple(tried), 1, (), 0, frozenset()), tolerance_m=0.45)
    assert [m.right for m in found.marks] == [True, False, False, False, True]
    # too shallow a depth is wrong, and nobody digs into the line for it
    assert [m.strike for m in found.marks] == [False, True, True, False, False]
    assert (found.marks[1].beside, found.passed) == ("Lighting cable", False)


def test_no_answer_about_a_running_exercise_holds_the_ground(client):
    player = begun(client, level="hard", seed=5)
    lesson = random_site("hard", 5)
    line = player.lines[lesson.target]["id"]
    player.play([WalkStep("hook_up", "direct", lesson.target, HZ), WalkStep("on"), WalkStep("read")])
    player.play([WalkStep("trace", at_m=4.0, to_m=12.0, step_m=8.0)])
    station = sent(client.get(f"/api/setups/{player.setup}/trace"))["stations"][0]["id"]
    known = {"job_id": player.job, "line_id": line, "setup_id": player.setup, "station_id": station, "kit_id": 1}
    seen = [*player.bodies]
    for path, methods in client.app.openapi()["paths"].items():
        needs = {p["name"] for p in methods.get("get", {}).get("parameters", []) if p.get("required")}
        # the two event streams never end
        if "get" in methods and needs <= known.keys() and not path.endswith(("/changes", "/live")):
            seen.append(client.get(path.format(**known)).text)
    hidden = [x for x in lesson.lines if not x.known]
    routes = [f"{c[0]}, {c[1]}" for x in hidden for c in x.route] + [f"{c[0]},{c[1]}" for x in hidden for c in x.route]
    assert hidden
    assert len(seen) > 40
    for text in [*(x.name for x in hidden), *routes, '"ground"', '"recorded"']:
        assert not any(text in body for body in seen), text
    assert client.get(f"/api/jobs/{player.job}/yard/debrief").status_code == 409


def test_an_exercise_ends_once_and_counts_for_who_did_it(client):
    player = begun(client, lesson="matching-frequencies", technician="=R. Tallow")
    assert not any(j["id"] == player.job for j in sent(client.get("/api/jobs"))["jobs"])
    assert player.end()["passed"] is False
    assert client.post(f"/api/jobs/{player.job}/yard/finish").status_code == 409
    held = {"freq_hz": HZ, "held": [{"east": 0, "north": 0, "heading": 0}]}
    assert client.post(f"/api/jobs/{player.job}/yard/receiver", json=held).status_code == 409
    (row,) = sent(client.get("/api/practice/crew"))["rows"]
    assert (row["technician"], row["exercises"], row["lessons_passed"]) == ("=R. Tallow", 1, 0)
    table = list(csv.reader(io.StringIO(client.get("/api/practice/crew.csv").text)))
    assert table[1][0] == "'=R. Tallow"
    listed = sent(client.get("/api/practice?technician=%3DR.+Tallow"))
    assert [x["tries"] for x in listed["lessons"] if x["id"] == "matching-frequencies"] == [1]


def test_what_is_wrong_with_a_lesson_file_is_named(client):
    text = lesson_file.dump(lesson_called("stake"))
    bent = {
        "target": text.replace('"target": "Gas service"', '"target": "Oil line"'),
        "preset": text.replace("tracer_wire", "spider_silk"),
        "lines.0": text.replace('"far_told"', '"far_tolled"'),
        "version": text.replace('"version": 1', '"version": 2'),
    }
    for name, broken in bent.items():
        refused = client.post("/api/practice", json={"file": broken})
        assert refused.status_code == 422
        assert name in refused.json()["field"] + refused.json()["message"], refused.text
    assert sent(client.post("/api/practice", json={"file": text}), 201)["id"]
    assert client.post("/api/practice", json={}).status_code == 422


@pytest.mark.parametrize(
    ("before", "newest", "kind"),
    [
        (None, ("on", 1.0), None),
        (("on", 1.0), ("on", 1.6), "level_rises"),
        (("on", 1.0), ("on", 1.1), None),
        (("back", 2.0), ("back", 1.0), "level_falls"),
        (("on", 4.0), ("back", 4.0), "frame_turned"),
        (("on", 4.0), ("null", None), "frame_null"),
    ],
)
def test_the_coach_says_what_a_frame_reading_means_and_never_where_the_fault_is(before, newest, kind):
    first, last = (None if r is None else FrameReading(10.0, *r) for r in (before, newest))
    said = on_frame(last, first)
    assert (said and said.kind) == kind
    assert not re.search(r"\d+ m\b", remark_text(said, "metric"))


def test_the_coach_asks_for_the_nulls_of_a_stop_and_names_line_mode():
    bare = SondeStop(12.0, 12.0, depth_m=1.4, mode="sonde")
    assert on_stop(bare, "need_more").kind == "no_nulls"
    assert on_stop(replace(bare, mode="line"), "hold").kind == "line_mode"
    assert on_stop(replace(bare, null_before_m=11.0, null_after_m=13.0), "mark").kind == "well_read"
