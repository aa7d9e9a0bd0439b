"""Every step of a line is one screen at a desk: picture, verdict, main action and first field without scrolling."""

import pytest
from playwright.sync_api import expect

from tests.ui.conftest import DESK, go_on
from tests.ui.views_looked_at import INDOORS, OUTDOORS

pytestmark = pytest.mark.ui
NEEDED = {
    "plan": ["[data-option]", "section[aria-label='Chosen setup']", "text='Hook up this way'"],
    "hookup": ["svg[aria-label^='From above']", "[data-state]", "input[name=volts]", "text='Check the loop'"],
    "sweep": ["[data-stage] svg, [data-stage] .plan-map", "[data-sweep] [role=status]", "[name=bearing]"],
    "trace": [
        "svg[aria-label^='Trace ribbon']",
        "section[data-verdict]",
        "input[name=distance]",
        "button[type=submit]",
    ],
    "mark": ["section[aria-label='How far it is marked']", "section[aria-label='Stations to mark']", "[data-mark]"],
}
WHOLE = """e => { const r = e.getBoundingClientRect();
  return r.top >= 0 && r.left >= 0 && r.right <= innerWidth && Math.min(r.bottom, r.top + 60) <= innerHeight }"""


PAGES = {
    "/": ["text='New job'", "input[type=search]", "main li a"],
    "/jobs/2/before": ["[data-state]", "[data-check] [role=radio]"],
    "/jobs/2/site": [".plan-map", "[data-visit]"],
    "/jobs/2/site/draw": [".plan-map", "[data-route]", "form [type=submit]"],
    "/jobs/2/site/background": [".plan-map", "text='Choose a picture'"],
    "/jobs/2/progress": [".plan-map", "[data-progress]"],
    "/jobs/2/lines/9/sonde": ["[data-stop]", "section[data-verdict]", "input[name=distance]", "button[type=submit]"],
    "/jobs/2/lines/7/fault": ["[data-fault]", "[data-said]", "input[name=distance]", "button[type=submit]"],
    "/kit": ["main li h2", "text='Edit'"],
    "/rules": ["main select", "[data-rule]"],
}


STEPS = {f"{line}/{step}": step for line in ("/jobs/1/lines/1", "/jobs/2/lines/2") for step in NEEDED}


def needed_in(view):
    """What a page of a job or a step of a line has to show at once, none for a page that may be long."""
    return PAGES.get(view) or NEEDED.get(STEPS.get(view))


def look(page, view):
    """Look for it at a desk."""
    needed = needed_in(view)
    if needed is None:
        return
    for each in needed:
        found = page.locator(each).first
        expect(found).to_be_visible()
        assert found.evaluate(WHOLE), each
    assert page.evaluate("document.documentElement.scrollHeight") <= 1.5 * DESK["height"]


@pytest.mark.parametrize("view", [v for v in (*PAGES, *STEPS) if v not in OUTDOORS + INDOORS])
def test_a_view_needs_no_scrolling_at_a_desk(shown, view):
    """Those that no other test looks at (`test_every_view`)."""
    go_on(shown, view)
    look(shown, view)


def test_an_empty_job_needs_no_scrolling_either(page, address):
    """Its first line is one button away on every page, and nothing is taller than a screen and a half."""
    page.set_viewport_size(DESK)
    page.goto(address)
    assert page.get_by_role("button", name="New job").evaluate(WHOLE)
    body = {"name": "Apron", "technician": "R. Tallow", "soil_kind": "loam"}
    job = page.request.post(f"{address}/api/jobs", data=body).json()["id"]
    for part in ("", "/before", "/site", "/site/draw", "/progress", "/marking", "/record"):
        go_on(page, f"/jobs/{job}{part}")
        assert page.evaluate("document.documentElement.scrollHeight") <= 1.5 * DESK["height"], part
        assert page.evaluate("document.documentElement.scrollWidth") <= DESK["width"], part
        if part != "/record":  # a printed page stands alone
            assert page.get_by_role("button", name="Add a line").last.evaluate(WHOLE), part
