"""The tables of fields: one entry and a migration are all that a new field takes."""

import subprocess
import sys

NEW_FIELD = r"""
import sys
from pathlib import Path

from sqlalchemy import text
from starlette.testclient import TestClient

from vessel.core.model.entry_fields import STATION_FIELDS, EntryField

# the one entry ...
STATION_FIELDS.append(
    EntryField(
        id="cover", column="cover_m", name="Cover of the surface", quantity="depth", high=2.0, unit="m",
        headers=("surface",), since=1,
    )
)
from vessel.api.app import create_app
from vessel.api.jobs.demo_jobs import demo_text
from vessel.formats import job_file
from vessel.store.database import open_engine
from vessel.store.tables import StationRow

database = Path(sys.argv[1])
# ... and its migration
with open_engine(database).begin() as connection:
    connection.execute(text("ALTER TABLE stations ADD COLUMN cover_m FLOAT"))

with TestClient(create_app(database), base_url="http://127.0.0.1:8420") as client:
    job = client.post("/api/jobs/import", json={"text": demo_text()}).json()["id"]
    setup = client.get(f"/api/jobs/{job}").json()["lines"][0]["setup_id"]
    url = f"/api/setups/{setup}"

    # the form is asked for it, labelled by the trade's term
    form = client.get(f"{url}/trace").json()["fields"]
    assert [f["label"] for f in form if f["id"] == "cover"] == ["Cover of the surface"], form
    assert "cover" in client.get("/openapi.json").text

    # typed text is understood, refused by name out of range, kept, and given back as typed
    entry = {"distance": "61", "currents": "18 18 18", "depth": "0.8", "cover": "12cm", "insist": True}
    refused = client.post(f"{url}/stations", json={**entry, "cover": "9m"}).json()
    assert refused["field"] == "cover" and "Cover" in refused["message"], refused
    trace = client.post(f"{url}/stations", json=entry).json()
    station = next(s for s in trace["stations"] if s["distance_m"] == 61.0)["id"]
    assert client.get(f"/api/stations/{station}").json()["typed"]["cover"] == "12cm"

    # a pasted column of that name is taken for it
    pasted = client.post(f"{url}/columns", json={"text": "station;surface\n63;0.2", "store": True}).json()
    assert [c["field"] for c in pasted["columns"]] == ["distance", "cover"], pasted

    # it goes with the mark's snapshot and with the job file, there and back
    client.post(f"/api/stations/{station}/marks", json={"reason": "Checked by a hand-dug hole."})
    exported = client.get(f"/api/jobs/{job}/export").text
    assert '"cover_m": 0.12' in exported
    assert exported.count('"cover_m": 0.12') == 2, "in the station and in the snapshot of its mark"
    assert '"version": "1.15"' in exported, "an older Vessel refuses it by its version"
    doc = job_file.load(exported)
    assert {s.cover_m for line in doc.job.lines for x in line.setups for s in x.stations} >= {0.12, 0.2, None}
    assert client.post("/api/jobs/import", json={"text": exported}).status_code == 201
    assert job_file.load(demo_text()).job.lines, "files without it still open"
print("every place has it")
"""


def test_a_new_station_field_is_one_entry_and_a_migration(tmp_path):
    command = [sys.executable, "-c", NEW_FIELD, str(tmp_path / "vessel.sqlite3")]
    run = subprocess.run(command, capture_output=True, text=True)
    assert run.stdout == "every place has it\n", run.stderr[-2000:]
