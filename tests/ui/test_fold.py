"""Every step of a line is one screen at a desk: picture, verdict, main action and first field without scrolling."""

import pytest
from playwright.sync_api import expect

from tests.ui.conftest import DESK

pytestmark = pytest.mark.ui
NEEDED = {
    "plan": ["[data-option]", "section[aria-label='Chosen setup']", "text='Hook up this way'"],
    "hookup": ["svg[aria-label^='From above']", "[data-state]", "input[name=volts]", "text='Check the loop'"],
    "sweep": ["[data-stage] svg, [data-stage] .plan-map", "[data-sweep] [role=status]", "input[name=bearing]"],
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
    "/jobs/2/progress": [".plan-map", "[data-progress]"],
    "/kit": ["main li h2", "text='Edit'"],
    "/rules": ["main select", "[data-rule]"],
}


@pytest.mark.parametrize("view", PAGES)
def test_a_page_of_a_job_needs_no_scrolling_at_a_desk(page, shown_address, view):
    page.set_viewport_size(DESK)
    page.goto(shown_address + view)
    look(page, PAGES[view])


def look(page, needed):
    for each in needed:
        found = page.locator(each).first
        expect(found).to_be_visible()
        assert found.evaluate(WHOLE), each
    assert page.evaluate("document.documentElement.scrollHeight") <= 1.5 * DESK["height"]


@pytest.mark.parametrize("line", ["/jobs/1/lines/1", "/jobs/2/lines/2"], ids=["told", "drawn"])
@pytest.mark.parametrize("step", NEEDED)
def test_a_step_needs_no_scrolling_at_a_desk(page, shown_address, line, step):
    page.set_viewport_size(DESK)
    page.goto(f"{shown_address}{line}/{step}")
    look(page, NEEDED[step])
