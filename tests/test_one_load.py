"""What a request may cost: a job is read once, whatever its size."""

from collections import Counter
from functools import wraps

import pytest
from sqlalchemy import event

from tests.conftest import sent
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text
from vessel.formats import adapters, loaded_job

BUILDERS = ("kit_of", "site_plan_of", "line_of", "setup_of")


@pytest.fixture
def whole(client):
    """The demo's larger job with a hookup, readings, a centre line, stations and a mark on its first lines with metal."""
    job = sent(client.post("/api/jobs/import", json={"text": demo_text(DEMO_JOBS[1])}))["id"]
    for line in sent(client.get(f"/api/jobs/{job}"))["lines"][:2]:
        body = {"hookup": "induction", "freq": "35.84k", "output": "60", "rx_freq": "35.84k", "position": "10"}
        made = client.post(f"/api/lines/{line['id']}/setups", json=body)
        if made.status_code != 201:
            continue
        setup = made.json()["id"]
        sent(client.post(f"/api/setups/{setup}/candidates", json={"bearing": "40", "current": "9", "depth": "0.8"}))
        for at in ("6", "9", "13"):
            body = {"distance": at, "currents": "9 9.1 9", "depth": "0.8", "peak_null": "0.02", "insist": True}
            trace = sent(client.post(f"/api/setups/{setup}/stations", json=body))
        mark = {"reason": "Checked by a hand-dug hole beside it."}
        sent(client.post(f"/api/stations/{trace['stations'][0]['id']}/marks", json=mark))
    return job


def views_of(client, job):
    """Every address that reads something of a job."""
    found = [
        f"jobs/{job}/{part}"
        for part in ("record", "standing", "site", "site/found", "site/work", "before", "marking", "beside")
    ]
    lines = sent(client.get(f"/api/jobs/{job}"))["lines"]
    line = next(x for x in lines if x["setup_id"])
    station = sent(client.get(f"/api/setups/{line['setup_id']}/trace"))["stations"][0]["id"]
    parts = ("", "/trace", "/sweep", "/remedies", "/across?at_m=8")
    found += [f"setups/{line['setup_id']}{part}" for part in parts] + [f"stations/{station}", f"jobs/{job}"]
    return found + [f"lines/{line['id']}{part}" for part in ("", "/plan", "/plan/rest", "/marks", "/spots")]


def test_a_request_builds_kit_site_plan_and_line_once(client, whole, monkeypatch):
    built = Counter()
    for name in BUILDERS:
        make = getattr(adapters, name, None) or getattr(loaded_job, name)

        @wraps(make)
        def counted(*args, make=make, name=name, **kwargs):
            # a site plan and a kit are one a job; a line or a hookup is counted by what it is built from
            built[name, id(args[0]) if name in ("line_of", "setup_of") else 0] += 1
            return make(*args, **kwargs)

        monkeypatch.setattr(loaded_job, name, counted)
    views = views_of(client, whole)
    for view in views:  # once for what is remembered between requests
        sent(client.get(f"/api/{view}"))
    most = {}
    for view in views:
        built.clear()
        sent(client.get(f"/api/{view}"))
        most[view] = max(built.values(), default=0)
    assert set(most.values()) <= {0, 1}, most
    assert sum(most.values()) > 10


def test_a_job_is_read_with_one_statement_a_table_however_much_is_in_it(client, whole):
    engine, asked = client.app.state.sessions.kw["bind"], []

    @event.listens_for(engine, "before_cursor_execute")
    def count(_connection, _cursor, statement, *_rest):
        if statement.startswith("SELECT"):
            # the table whose columns come back is the first that is named
            asked.append(statement.split()[1].split(".")[0])

    for view in [v for v in views_of(client, whole) if v.startswith("jobs/")]:
        asked.clear()
        sent(client.get(f"/api/{view}"))
        count_of = Counter(asked)
        # marks hang below stations, below the stops of sonde runs and below walks with the frame
        assert count_of.pop("marks", 0) <= 3, (view, asked)
        assert max(count_of.values()) <= 1, (view, asked)


def test_the_list_of_jobs_takes_one_statement_a_table_and_comes_in_pages(client):
    for k in range(7):
        sent(client.post("/api/jobs", json={"name": f"Job {k}", "technician": "R. Tallow"}))
    engine, asked = client.app.state.sessions.kw["bind"], []
    event.listen(engine, "before_cursor_execute", lambda *a: asked.append(a[2]))
    page = sent(client.get("/api/jobs?limit=4"))
    assert [a for a in asked if a != "BEGIN"] == asked[1:]
    assert len(asked) == 3, "the jobs with their counts, and what is drawn of them"
    assert [j["name"] for j in page["jobs"]] == ["Job 6", "Job 5", "Job 4", "Job 3"]
    assert page["more"]
    older = sent(client.get(f"/api/jobs?limit=4&before={page['jobs'][-1]['id']}"))
    assert [j["name"] for j in older["jobs"]] == ["Job 2", "Job 1", "Job 0"]
    assert not older["more"]
    for words, found in (("job 3", ["Job 3"]), ("JOB tallow", 7), ("100%", []), ("_", [])):
        listed = [j["name"] for j in sent(client.get("/api/jobs", params={"words": words}))["jobs"]]
        assert listed == found or len(listed) == found
    late = {"name": "Late", "technician": "R. Tallow", "due_at": "2020-01-01T08:00", "address": "Quay Road 4"}
    sent(client.post("/api/jobs", json=late))
    (job,) = sent(client.get("/api/jobs?standing=overdue"))["jobs"]
    assert (job["name"], job["overdue"], job["address"]) == ("Late", True, "Quay Road 4")
