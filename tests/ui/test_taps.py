"""A gas service on a phone from nothing to the record, counted: taps, keystrokes, and no scrolling to find a control."""

import pytest
from playwright.sync_api import expect

from tests.ui.conftest import PHONE, settled

pytestmark = pytest.mark.ui
MOST_TAPS, MOST_KEYS = 60, 160
IN_SIGHT = """e => { const r = e.getBoundingClientRect();
  const at = document.elementFromPoint(r.left + r.width / 2, r.top + r.height / 2);
  return r.top >= 0 && r.bottom <= innerHeight && (e === at || e.contains(at) || e.labels?.[0]?.contains(at)) }"""


class Hand:
    """One thumb: what it taps has to be in sight, and every tap and key counts."""

    def __init__(self, page):
        self.page, self.taps, self.keys = page, 0, 0

    def tap(self, control):
        settled(self.page)
        expect(control).to_be_visible()
        for _ in range(40):  # what an answer brings in may still move it; nobody scrolls
            if control.evaluate(IN_SIGHT):
                break
            self.page.wait_for_timeout(50)
        else:
            pytest.fail(f"not in sight: {control}")
        control.click()
        self.taps += 1

    def choose(self, control, label):
        """Open a list and tap what is wanted."""
        self.tap(control)
        control.select_option(label)
        self.page.keyboard.press("Escape")
        self.taps += 1

    def button(self, name):
        self.tap(self.page.get_by_role("button", name=name, exact=True).first)

    def type(self, *texts):
        """Text by text into the field in focus and those after it; the last one is sent with Enter."""
        for k, text in enumerate(texts):
            self.page.keyboard.type(text)
            self.page.keyboard.press("Enter" if k == len(texts) - 1 else "Tab")
            self.keys += len(text) + 1


def test_a_gas_service_takes_few_taps_and_keys_and_no_scrolling(page, address):
    page.set_viewport_size(PHONE)
    page.goto(address)
    hand, field = Hand(page), page.get_by_label
    hand.button("New job")
    hand.tap(field("Job name"))
    hand.type("Gas")
    expect(page.get_by_role("heading", name="No line yet")).to_be_visible()
    hand.tap(page.get_by_role("button", name="Add a line").last)
    hand.tap(field("Name"))
    page.keyboard.type("Gas")
    hand.keys += 3
    hand.tap(field("Approximate length"))
    hand.type("140", "60", "100")
    hand.button("Hook up this way")
    for _ in range(2):
        hand.button("Done")
    hand.tap(page.locator("[data-now=look]").get_by_role("button", name="Nothing else"))
    for _ in range(6):
        hand.button("Done")
    volts = page.locator("input[name=volts]")
    hand.tap(volts)
    readings = page.get_by_role("tab", name="Readings")
    hand.type("7.9", "30")
    expect(readings).to_contain_text("1")
    hand.button("Read at 560 Hz")
    hand.type("40", "4.3")
    expect(readings).to_contain_text("2")
    expect(volts).to_be_focused()
    hand.type("7.8", "30")
    expect(readings).to_contain_text("3")
    hand.tap(page.get_by_role("link", name="Go on to the first sweep"))
    for way, readings_there in (("where this line should run", ("27", "78")), ("back and to the left", ("2",))):
        hand.choose(field("Which way"), way)
        hand.tap(field("Current, mA"))
        hand.type(*readings_there)
    hand.tap(page.get_by_role("link", name="Trace anyway").or_(page.get_by_role("link", name="Go on to the trace")))
    along = field("Distance along")
    hand.tap(along)
    # lift, null and neighbour carry along quiet stretches: some stations take them
    whole = ("78", "0", "", "128", "0")  # null at the peak; the height of the lift is there already
    hand.type("8", "28 28 28", *whole)
    expect(page.get_by_label("Station at 8 m", exact=True)).to_be_visible()
    # the look in the safe order has shown which line it is: no question on the way
    for at, amps in ((16, "26"), (24, "25"), (32, "23"), (40, "22"), (48, "20")):
        expect(along).to_have_value(str(at))  # as far again as the last two were apart
        expect(along).to_be_focused()
        page.keyboard.press("Tab")
        hand.keys += 1
        hand.type(" ".join([amps] * 3), *(whole if at in (24, 40) else whole[:1]))
        expect(page.get_by_label(f"Station at {at} m", exact=True)).to_be_visible()
    hand.tap(page.get_by_role("navigation", name="Steps of this line").get_by_role("link", name="Mark"))
    hand.tap(page.get_by_role("button", name="that passed are painted"))
    expect(page.get_by_text("6 marks are kept").first).to_be_visible()
    hand.button("Job and all lines (1)")
    hand.tap(page.get_by_role("link", name="Record"))
    expect(page.locator("[data-result]")).to_contain_text("Marked")
    assert hand.taps <= MOST_TAPS
    assert hand.keys <= MOST_KEYS
