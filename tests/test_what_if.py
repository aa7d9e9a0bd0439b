"""What-ifs of a line that is only told, and what one live access point means for a whole line."""

from tests.conftest import sent
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text
from vessel.formats import job_file
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.plan_doc import AccessDoc


def test_a_told_line_has_what_ifs_too_but_no_spots(client, line):
    body = {"hookup": "direct", "freq_hz": 8960, "output_a": 0.03, "far": "earthed"}
    assert sent(client.post(f"/api/lines/{line}/what-if", json=body))["stake_at"] is None
    assert sent(client.get(f"/api/lines/{line}/spots"))["spots"] == []
    coil = {"hookup": "induction", "freq_hz": 35840, "output_a": 0.06, "planned_position_m": 8, "position_m": 30}
    moved = sent(client.post(f"/api/lines/{line}/what-if", json=coil))
    assert "30 m along" in moved["title"]
    assert "was" in moved["change_text"]
    placed = client.post(f"/api/lines/{line}/what-if", json={**body, "stake_at": [1, 5]})
    assert "not on the site plan" in placed.json()["message"]


def test_a_power_cable_live_at_one_place_is_live_all_along_and_its_neighbours_are_not():
    file = job_file.load(demo_text(DEMO_JOBS[1]))
    cable, gas = (next(x for x in file.job.lines if x.utility == kind) for kind in ("power", "gas"))
    for line in (cable, gas):
        line.near.live = False
        start, end = line.route[0], line.route[-1]
        here, there = AccessDoc(name="Here", at=start, kind="pillar"), AccessDoc(name="There", at=end, kind="pillar")
        there.live = True
        file.job.site.access = [here, there]
        found = LoadedJob(file.job).line(line).line
        everywhere = {a.name: a.point.live for a in found.accesses}
        assert everywhere["There"]
        assert found.near.live == (line is cable)
