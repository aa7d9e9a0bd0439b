"""Made for wet gloves and glare: touch targets, contrast, themes, print."""

import re

import pytest
from playwright.sync_api import expect

from tests.ui.conftest import PHONE, settled

pytestmark = pytest.mark.ui
LINE = "/jobs/1/lines/1"


def test_the_display_is_remembered(page, shown_address):
    page.goto(shown_address)
    page.get_by_role("button", name="Display: Light").click()
    page.get_by_role("button", name="Display: Dark").click()
    expect(page.locator("html")).to_have_attribute("data-theme", "sun")
    page.reload()
    expect(page.locator("html")).to_have_attribute("data-theme", "sun")


def test_the_record_prints_without_the_screens_furniture(page, shown_address):
    page.goto(f"{shown_address}/jobs/1/record")
    expect(page.get_by_role("button", name="Print")).to_be_visible()
    page.emulate_media(media="print")
    expect(page.get_by_role("button", name="Print")).to_be_hidden()
    expect(page.locator("header")).to_be_hidden()
    expect(page.get_by_text("G 0.74 m")).to_be_visible()
    assert len(page.pdf(format="A4")) > 20_000


def test_on_a_phone_the_next_station_is_one_tap_from_the_verdict(page, shown_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{shown_address}{LINE}/trace")
    page.get_by_role("link", name="Next station").click()
    expect(page.get_by_label("Distance along")).to_be_in_viewport()
    expect(page.get_by_label("Distance along")).to_have_value("60")


def test_two_see_each_others_work_signed_by_who_said_to_work_there(page, demo_address, context):
    page.goto(f"{demo_address}{LINE}/mark")
    other = context.new_page()
    other.goto(f"{demo_address}{LINE}/mark")
    page.evaluate("localStorage['vessel.who'] = ''")
    page.reload()
    asked = page.get_by_label("Who is working here?")
    asked.get_by_label("Another name").fill("M. Irsa")
    asked.get_by_role("button", name="That is me").click()
    expect(asked).to_have_count(0)
    expect(page.get_by_role("button", name="Working here: M. Irsa")).to_be_visible()
    page.get_by_role("button", name="Mark at 36 m").click()
    expect(page.get_by_label("Marks", exact=True)).to_contain_text("G 0.80 m")
    expect(other.get_by_label("Marks", exact=True)).to_contain_text("G 0.80 m")
    expect(page.get_by_label("Marks", exact=True)).to_contain_text("M. Irsa")
    expect(other.get_by_text("M. Irsa changed this job.").first).to_be_visible()
    expect(page.get_by_text("changed this job.")).to_have_count(0)


def test_a_station_is_tapped_in_with_one_thumb(browser, demo_address):
    page = browser.new_page(viewport=PHONE, has_touch=True)
    page.set_default_timeout(90_000)
    page.goto(f"{demo_address}/jobs/1/lines/1/trace")
    settled(page)  # what still came in would move the button from under the thumb
    page.get_by_role("button", name="Tap pad").tap()
    pad = page.get_by_role("group", name="Tap pad")
    for key in ("Tap 1", "Tap 3", "Tap the decimal point", "Tap 9", "Take the last one back", "Tap 8"):
        pad.get_by_role("button", name=key).tap()
    pad.get_by_role("button", name="Repeat 13.8").tap()
    pad.get_by_role("button", name="Repeat 13.8").tap()
    expect(page.get_by_label("Current ×3, mA")).to_have_value("13.8 13.8 13.8 ")
    # the device's own keyboard stays away
    expect(page.get_by_label("Current ×3, mA")).to_have_attribute("inputmode", "none")
    pad.get_by_role("button", name="Next field").tap()
    expect(page.get_by_label("Depth on the ground")).to_be_focused()
    for key in ("Tap 0", "Tap the decimal point", "Tap 8"):
        pad.get_by_role("button", name=key).tap()
    for _ in range(4):
        pad.get_by_role("button", name="Next field").tap()
    pad.get_by_role("button", name="Tap 0").tap()
    pad.get_by_role("button", name="Check", exact=True).tap()
    card = page.get_by_role("region", name="Station at 60 m")
    expect(card).to_contain_text("13.8 mA")
    expect(card).to_contain_text("0.80 m deep")
    page.reload()
    expect(pad).to_be_visible()  # remembered on this device
    page.close()


def test_walking_mode_shows_the_verdict_large_and_never_as_that_of_the_next_place(browser, demo_address):
    page = browser.new_page(viewport=PHONE, has_touch=True)
    page.set_default_timeout(90_000)
    page.add_init_script("window.buzzed = []; navigator.vibrate = (p) => window.buzzed.push(p)")
    page.goto(f"{demo_address}/jobs/1/lines/1/trace")
    settled(page)
    page.get_by_role("button", name="Walking mode").tap()
    walking = page.get_by_role("dialog", name="Walking mode")
    walking.get_by_role("switch", name="Vibration").tap()
    verdict = walking.locator("section[data-verdict]")
    expect(verdict).to_have_attribute("data-verdict", "hold")
    expect(walking).to_contain_text("Next station: 60 m")
    assert verdict.bounding_box()["height"] > 0.3 * PHONE["height"]
    for key in ("Tap 1", "Tap 8"):
        walking.get_by_role("button", name=key, exact=True).tap()
    expect(verdict).to_have_count(0)
    expect(walking).to_contain_text("60 m: not judged yet")
    # nothing of it needs scrolling, and a station without its depth is kept and asked for more
    assert page.evaluate("document.documentElement.scrollHeight") <= PHONE["height"]
    for _ in range(5):
        walking.get_by_role("button", name="Next field").tap()
    walking.get_by_role("button", name="Check", exact=True).tap()
    expect(verdict).to_have_attribute("data-verdict", "need_more")
    expect(verdict).to_contain_text("60 m")
    assert page.evaluate("window.buzzed.length") == 1
    walking.get_by_role("button", name="Leave walking mode").tap()
    expect(page.get_by_role("region", name="Station at 60 m")).to_be_visible()
    page.close()


def test_a_station_is_placed_by_tapes_and_its_mark_painted_beside_the_line(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{demo_address}/jobs/2/lines/2/trace")
    page.get_by_role("button", name="Place by tapes or device").click()
    page.get_by_label("First tape held at").select_option("Pillar P3")
    page.get_by_label("First tape *").fill("1")
    page.get_by_label("Second tape held at").select_option("Telephone pedestal")
    page.get_by_label("Second tape *").fill("2")
    page.get_by_role("button", name="Place the station here").click()
    expect(page.get_by_role("dialog")).to_contain_text("The tapes do not meet")
    page.get_by_label("First tape *").fill("9.4")
    page.get_by_label("Second tape *").fill("7.6")
    page.get_by_role("button", name="Place the station here").click()
    along = page.get_by_label("Distance along")
    expect(along).not_to_have_value("113")
    expect(page.get_by_role("button", name="Placed by tapes")).to_be_visible()
    for label, text in (
        ("Current ×3, mA", "26 26 26"),
        ("Depth on the ground", "0.78"),
        ("Peak to null", "0.02"),
        ("Depth when lifted", "1.28"),
        ("Best neighbour, mA", "0"),
    ):
        page.get_by_label(label).fill(text)
    page.get_by_role("button", name="Check this station").click()
    # it runs back behind the last station: that is asked about first
    expect(page.get_by_role("alert")).to_contain_text("runs back")
    page.get_by_role("button", name="Keep as typed").click()
    card = page.locator("section[data-verdict]").first
    expect(card).to_contain_text("9.40 m from Pillar P3, 7.60 m from Telephone pedestal")
    card.get_by_role("button", name=re.compile("Mark")).click()
    card.get_by_text("The ground over it cannot be painted").click()
    card.get_by_label("Paint is off the line by").fill("1.5")
    card.get_by_label("Looking from the near end, the paint is").select_option("right of the line")
    reason = card.get_by_role("textbox", name=re.compile("Reason|Note"))
    reason.fill("Poured concrete over it: no paint holds there.")
    card.get_by_role("button", name=re.compile("Mark at|Mark as not proved")).click()
    expect(card).to_contain_text("The mark keeps these readings")
    page.goto(f"{demo_address}/jobs/2/lines/2/mark")
    expect(page.get_by_label("Marks", exact=True)).to_contain_text("Painted 1.50 m right of the line")
    expect(page.get_by_label("Marks", exact=True)).to_contain_text(re.compile(r"LINE 1.50 m TO NW?"))
