"""Files and pasted columns damaged in every way there is: refused in words, or let in whole and readable again."""

import copy
import json
import time

from sqlalchemy import func, select

from tests.conftest import entered
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text
from vessel.store.table_base import Base

SLOW_S = 5.0
_ODD = (
    None, True, False, 0, -1, 10**30, -(10**18), 1e308, -1e308, 5e-324, 0.1, "", " ", "0", "NaN", "Infinity", "1e400",
    "½", "８", "\u0000", "\ud83d\ude00", "x" * 5000, [], {}, [[]], [None], {"id": 1}, [1, "a"], [[0, 0], [1, 1]],
)  # fmt: skip
_BYTES = '{}[]",:0-.e\\n'
_GEOJSON = {
    "type": "FeatureCollection",
    "features": [
        {
            "type": "Feature",
            "properties": {"name": "Walk"},
            "geometry": {"type": "LineString", "coordinates": [[3.0, 51.0], [3.001, 51.0], [3.002, 51.001]]},
        }
    ],
}
_GPX = (
    '<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>W</name>'
    '<trkseg><trkpt lat="51.0" lon="3.0"/><trkpt lat="51.0" lon="3.001"/></trkseg></trk></gpx>'
)
_COLUMNS = "distance;current;depth\n12;27,5;0,76\n24;26.1;0.8\n36;25.0 25.1 24.9;0.82\n"


def fuzzed(client, job, setup, count, rng):
    """Import `count` damaged texts of every format; return what went wrong, how many were let in, and the longest [s]."""
    documents = [json.loads(demo_text(name)) for name in DEMO_JOBS]
    wrong, let_in, longest = [], 0, 0.0
    for k in range(count):
        kind = ("job", "job", "job", "tracks", "columns")[k % 5]
        if kind == "job":
            path, text = "/api/jobs/import", _damaged(rng, documents[k % len(documents)])
            body = {"text": text}
        elif kind == "tracks":
            text = _damaged(rng, _GEOJSON) if rng.random() < 0.5 else _broken(rng, _GPX)
            path, body = (
                f"/api/jobs/{job}/site/tracks",
                {"text": text, "system": rng.choice(["", "site", "EPSG:25832"])},
            )
        else:
            path, text = f"/api/setups/{setup}/columns", _broken(rng, _COLUMNS)
            body = {"text": text, "store": False}
        before, start = _rows(client) if kind == "job" else None, time.monotonic()
        answer = client.post(path, content=json.dumps(body), headers={"Content-Type": "application/json"})
        spent = time.monotonic() - start
        longest = max(longest, spent)
        if answer.status_code >= 500 or spent > SLOW_S:
            wrong.append(f"{kind} {k}: {answer.status_code} after {spent:.1f} s: {answer.text[:200]} {text[:200]}")
        elif answer.status_code >= 400 and set(answer.json()) != {"code", "field", "message", "fix"}:
            wrong.append(f"{kind} {k}: refused without a sentence: {answer.text[:200]}")
        elif kind == "job":
            if answer.status_code == 201:
                let_in += 1
                wrong += [f"job {k}: {w}" for w in _not_the_same(client, answer.json()["id"])]
            elif _rows(client) != before:
                wrong.append(f"job {k}: refused, and something of it is stored")
    return wrong, let_in, longest


def _not_the_same(client, job):
    """What is wrong with a job that was let in: it goes out and comes back as it is."""
    out = client.get(f"/api/jobs/{job}/export")
    if out.status_code != 200:
        return [f"let in, but its export answers {out.status_code}"]
    back = client.post("/api/jobs/import", json={"text": out.text})
    if back.status_code != 201:
        return [f"let in, but its own export is refused: {back.text[:300]}"]
    again = client.get(f"/api/jobs/{back.json()['id']}/export")
    return [] if entered(again.text) == entered(out.text) else ["comes back another than it went out"]


def _rows(client):
    with client.app.state.sessions() as db:
        return [db.scalar(select(func.count()).select_from(table)) for table in Base.metadata.sorted_tables]


def _damaged(rng, document):
    """A document with one to three things in it changed, or its text broken."""
    if rng.random() < 0.2:
        return _broken(rng, json.dumps(document))
    doc = copy.deepcopy(document)
    for _ in range(rng.choice((1, 1, 2, 3))):
        holder, key = _spot(rng, doc)
        way = rng.random()
        if way < 0.6:
            holder[key] = copy.deepcopy(rng.choice(_ODD))
        elif way < 0.75:
            del holder[key]
        elif isinstance(holder, list):
            holder.insert(rng.randrange(len(holder) + 1), copy.deepcopy(holder[key]))
        else:
            holder[str(rng.choice(("", "more", key + key)))] = copy.deepcopy(holder[key])
    return json.dumps(doc)


def _spot(rng, doc):
    """A place in a document: what holds it and its key."""
    spots = []

    def walk(node):
        children = (
            list(node.items()) if isinstance(node, dict) else list(enumerate(node)) if isinstance(node, list) else []
        )
        for key, child in children:
            spots.append((node, key))
            walk(child)

    walk(doc)
    return rng.choice(spots) if spots else ({"": doc}, "")


def _broken(rng, text):
    """A text cut off, with characters changed, or doubled in part."""
    for _ in range(rng.choice((1, 2, 5))):
        at = rng.randrange(len(text)) if text else 0
        way = rng.random()
        if way < 0.3:
            text = text[:at]
        elif way < 0.8:
            text = text[:at] + rng.choice(_BYTES + "\u0000é") + text[at + 1 :]
        else:
            text = text[:at] + text[at : at + 200] + text[at:]
    return text
