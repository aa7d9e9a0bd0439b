"""Take the pictures of docs/screenshots from the demo job, in a server and browser of their own."""

from __future__ import annotations

import tempfile
from base64 import b64encode
from io import BytesIO
from pathlib import Path

import httpx2
from PIL import Image, ImageDraw
from playwright.sync_api import Page, sync_playwright

from tests.ui.conftest import settled
from vessel.demo.seed import seed
from vessel.demo.serving import serving

OUT = Path(__file__).parents[1] / "docs" / "screenshots"
LINE = "/jobs/1/lines/1"
DRAWN = "/jobs/2/lines/2"
DESK = {
    "jobs": "/",
    "before": "/jobs/2/before",
    "plan": f"{LINE}/plan",
    "hookup": f"{LINE}/hookup",
    "sweep": f"{LINE}/sweep",
    "trace": f"{LINE}/trace",
    "mark": f"{DRAWN}/mark",
    "progress": "/jobs/2/progress",
    "record": "/jobs/1/record",
    "kit": "/kit",
    "rules": "/rules",
    "site": "/jobs/2/site",
    "draw": "/jobs/2/site/draw",
    "sonde": "/jobs/2/lines/9/sonde",
    "fault": "/jobs/2/lines/7/fault",
}
PHONE = {
    "plan-phone": f"{LINE}/plan",
    "walk-phone": f"{LINE}/trace",
    "mark-phone": f"{DRAWN}/mark",
}

SHOWN = {
    "before": ["[role='tab']:has-text('Passive')"],
    "site": ["[data-visit='1'] button"],
    "sonde": ["[data-stop] >> nth=3"],
    "fault": ["[data-fault] >> nth=1"],
    "walk": ["text='Walking mode'"],
}
"""What is opened before the picture is taken."""


def main() -> None:
    """Write one PNG a view."""
    OUT.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as p:
        database = Path(folder) / "demo.sqlite3"
        seed(database)
        with serving(database) as address:
            _scanned(address)
            browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=["--no-sandbox"])
            for views, size in ((DESK, (1280, 800)), (PHONE, (390, 844))):
                page = browser.new_page(viewport={"width": size[0], "height": size[1]})
                page.add_init_script("localStorage['vessel.who'] = 'R. Tallow'")
                for name, path in views.items():
                    page.goto(address + path)
                    page.wait_for_load_state("networkidle")
                    settled(page)  # on a slow machine a page may still be waiting for its answer
                    for selector in SHOWN.get(name.removesuffix("-phone"), ()):
                        page.locator(selector).first.click(timeout=60_000)
                    settled(page)
                    page.wait_for_timeout(800)
                    page.screenshot(path=str(OUT / f"{name}.png"))
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.add_init_script("localStorage['vessel.who'] = 'R. Tallow'")
            _in_the_yard(page, address)
            page.screenshot(path=str(OUT / "yard.png"))
            browser.close()


def _scanned(address: str) -> None:
    """Put a scanned sheet of our own under the site plan: 12 pixels a metre, north up."""
    sheet = Image.new("L", (1560, 1080), 246)
    pen = ImageDraw.Draw(sheet)

    def at(east: float, north: float) -> tuple[float, float]:
        return 180 + 12 * east, 840 - 12 * north

    for k in range(-10, 111, 10):
        pen.line([at(k, -15), at(k, 65)], fill=226)
    for k in range(-10, 61, 10):
        pen.line([at(-12, k), at(112, k)], fill=226)
    pen.line([at(-12, 61), at(112, 61)], fill=60, width=6)
    pen.rectangle([at(-8, 22), at(26, 2)], outline=90, width=4)
    pen.line([at(-12, -6), at(70, -6), at(112, 10)], fill=120, width=3)
    pen.text(at(-4, 16), "TICKET HALL", fill=80, font_size=34)
    pen.text(at(78, 57), "QUAY", fill=80, font_size=30)
    pen.text(at(70, -10), "SHEET 3  1:500", fill=80, font_size=28)
    out = BytesIO()
    sheet.save(out, "PNG")
    image = {"name": "Apron, sheet 3.png", "image": b64encode(out.getvalue()).decode("ascii")}
    key = httpx2.post(f"{address}/api/jobs/2/backgrounds", json=image).json()["id"]
    points = [{"x": at(e, n)[0], "y": at(e, n)[1], "at": f"{e} E, {n} N"} for e, n in ((0, 0), (100, 0))]
    httpx2.put(f"{address}/api/backgrounds/{key}", json={"first": points[0], "second": points[1], "fade": "half"})


def _in_the_yard(page: Page, address: str) -> None:
    """Begin a lesson, hook up, walk some way along and read."""
    begun = {"lesson": "wrong-loud-line", "technician": "R. Tallow", "seed": 1}
    job = httpx2.post(f"{address}/api/practice", json=begun).json()["id"]
    line = httpx2.get(f"{address}/api/jobs/{job}/yard").json()["target_line_id"]
    body = {"hookup": "direct", "freq": "8.96k", "output": "60", "rx_freq": "8.96k"}
    httpx2.post(f"{address}/api/lines/{line}/setups", json=body)
    page.goto(f"{address}/jobs/{job}/yard")
    page.get_by_role("button", name="Switch on").click()
    page.get_by_label("Receiver frequency").select_option(label="8.96 kHz")
    page.get_by_role("button", name="Step ahead").click(click_count=20, delay=20)
    page.get_by_role("button", name="Set gain").click()
    for way in ("left", "right", "left"):
        page.get_by_role("button", name=f"Step to the {way}").click(click_count=15 if way == "left" else 30, delay=60)
    page.get_by_role("button", name="Read peak").click()
    page.get_by_role("button", name="Lift, read").click()
    page.wait_for_timeout(1500)


if __name__ == "__main__":
    main()
