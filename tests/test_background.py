"""A scanned plan or photo under the site plan: taken in, placed by two points, kept, removed; never in the way."""

import base64
import json
import math
from io import BytesIO

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from tests.conftest import sent
from vessel.core.model.background import Pinned, laid

SIZE = (400, 300)
PLACES = st.tuples(st.floats(-200, 200), st.floats(-200, 200))


def scan(kind="PNG", size=SIZE, **how):
    image = Image.new("RGB", size, "white")
    ImageDraw.Draw(image).line((40, 250, 360, 50), fill="black", width=3)
    out = BytesIO()
    image.save(out, kind, **how)
    return out.getvalue()


def post(client, job, data, name="Sheet 3.png"):
    return client.post(
        f"/api/jobs/{job}/backgrounds", json={"name": name, "image": base64.b64encode(data).decode("ascii")}
    )


def placing(first="0 E, 0 N", second="32 E, 0 N", **change):
    return {"first": {"x": 40, "y": 250, "at": first}, "second": {"x": 360, "y": 250, "at": second}, **change}


def under(client, job):
    return sent(client.get(f"/api/jobs/{job}/site"))["background"]


@given(PLACES, PLACES, st.floats(0.02, 0.5), st.floats(-math.pi, math.pi))
def test_two_points_find_any_scale_turn_and_place(zero, middle, scale, turn):
    def on_ground(x, y):
        east, north = scale * x, -scale * y
        return (
            zero[0] + east * math.cos(turn) - north * math.sin(turn),
            zero[1] + east * math.sin(turn) + north * math.cos(turn),
        )

    points = [(20.0, 30.0), (200.0 + middle[0] / 2, 150.0 + middle[1] / 2)]
    found = laid(*(Pinned(p, on_ground(*p)) for p in points), size_px=SIZE)
    assert found.metres_per_px == pytest.approx(scale, rel=1e-6)
    assert math.cos(math.radians(found.turned_deg) - turn) == pytest.approx(1)
    for corner, px in zip(found.corners, ((0, 0), (SIZE[0], 0), (0, SIZE[1])), strict=True):
        assert corner == pytest.approx(on_ground(*px), abs=1e-6)


def test_a_picture_is_placed_replaced_removed_and_put_back(client, job):
    first = sent(post(client, job, scan()))["id"]
    assert under(client, job)["corners"] is None
    placed = sent(client.put(f"/api/backgrounds/{first}", json=placing()))
    assert placed["corners"] == [[-4, 25], [36, 25], [-4, -5]]  # ten pixels a metre, north up
    assert "40 m by 30 m" in placed["text"]
    assert "10 cm" in placed["text"] or "0.10 m" in placed["text"]
    assert [p["at"] for p in under(client, job)["pins"]] == ["0 E, 0 N", "32 E, 0 N"]
    image = client.get("/" + placed["path"])
    assert image.headers["content-type"] == "image/png"
    assert Image.open(BytesIO(image.content)).size == SIZE
    assert sent(client.put(f"/api/backgrounds/{first}/fade", json={"fade": "faint"}))["fade"] == "faint"
    second = sent(post(client, job, scan("JPEG"), "Yard.jpg"))["id"]
    assert under(client, job)["id"] == second
    assert client.post(f"/api/backgrounds/{first}/restore").status_code == 409
    assert client.delete(f"/api/backgrounds/{second}", params={"why": "Wrong sheet"}).status_code == 204
    assert under(client, job) is None
    client.post(f"/api/backgrounds/{first}/restore")
    assert under(client, job)["corners"] == placed["corners"]
    history = sent(client.get(f"/api/jobs/{job}/history", params={"kind": "backgrounds"}))["entries"]
    assert any(e["action"] == "struck" and "Yard.jpg" in e["text"] for e in history)


def test_a_point_may_be_named_by_its_access_point(client, job):
    sent(client.put(f"/api/jobs/{job}/site", json={"access": [{"name": "Pillar P3", "at": "32, 24"}]}))
    key = sent(post(client, job, scan()))["id"]
    turned = sent(client.put(f"/api/backgrounds/{key}", json=placing(second="pillar p3")))
    assert "turned 37° left" in turned["text"]


@pytest.mark.parametrize(
    ("change", "field", "said"),
    [
        ({"second": {"x": 45, "y": 252, "at": "32 E, 0 N"}}, "second", "less than 20 pixels apart"),
        ({"second": {"x": 360, "y": 250, "at": "0.1 E, 0 N"}}, "second.at", "apart on the ground"),
        ({"second": {"x": 500, "y": 250, "at": "32 E, 0 N"}}, "second", "outside the picture"),
        ({"second": {"x": 360, "y": 250, "at": ""}}, "second.at", "empty"),
        ({"first": {"x": 40, "y": 250, "at": "by the gate"}}, "first.at", "by the gate"),
    ],
)
def test_points_that_place_it_nowhere_are_refused_by_name_and_change_nothing(client, job, change, field, said):
    key = sent(post(client, job, scan()))["id"]
    placed = sent(client.put(f"/api/backgrounds/{key}", json=placing()))
    refused = client.put(f"/api/backgrounds/{key}", json={**placing(), **change})
    assert refused.status_code == 422
    assert refused.json()["field"] == field
    assert said in refused.json()["message"]
    assert under(client, job) == placed


def test_what_is_no_picture_is_refused(client, job):
    for data in (b"", b"%PDF-1.7", b"<svg onload='alert(1)'/>", scan()[:200], scan("GIF")):
        refused = post(client, job, data)
        assert refused.status_code == 422, data[:20]
        assert refused.json()["field"] == "image"
    large = Image.new("1", (9000, 9000))
    out = BytesIO()
    large.save(out, "PNG")
    assert "81 million pixels" in post(client, job, out.getvalue()).json()["message"]


def test_a_photo_comes_upright_small_and_without_what_it_carries(client, job):
    exif = Image.Exif()
    exif[0x0112] = 6  # a phone held upright
    exif[0x013B] = "whoever took it"
    key = sent(post(client, job, scan("JPEG", (4000, 3000), exif=exif)))["id"]
    view = under(client, job)
    assert (view["width_px"], view["height_px"]) == (1950, 2600)
    data = client.get(f"/api/backgrounds/{key}/image").content
    assert b"whoever" not in data


def test_the_job_file_carries_it(client, job):
    key = sent(post(client, job, scan()))["id"]
    sent(client.put(f"/api/backgrounds/{key}", json=placing()))
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    old, new = under(client, job), under(client, again)
    assert {k: v for k, v in old.items() if k not in ("id", "path")} == {
        k: v for k, v in new.items() if k not in ("id", "path")
    }
    assert client.get("/" + new["path"]).content == client.get("/" + old["path"]).content
    file = json.loads(text)
    file["job"]["backgrounds"][0]["image"] = base64.b64encode(b"no picture").decode("ascii")
    refused = client.post("/api/jobs/import", json={"text": json.dumps(file)})
    assert refused.status_code == 422
