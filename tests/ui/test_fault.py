"""A ground fault in the real interface: narrowed, found, marked; a walk begun on a phone."""

import pytest
from playwright.sync_api import expect

from tests.ui.conftest import DESK, PHONE

pytestmark = pytest.mark.ui


def enter(page, distance, points, level="", across=""):
    form = page.get_by_role("region", name="Next reading")
    form.get_by_label("Distance along").fill(distance)
    form.get_by_label("Level", exact=True).fill(level)
    form.get_by_role("button", name=points).click()
    form.get_by_label("Turned across").select_option(across)
    form.get_by_role("button", name="Add reading").click()


def test_a_fault_is_narrowed_found_and_marked(page, demo_address):
    page.set_viewport_size(DESK)
    page.goto(f"{demo_address}/jobs/2/lines/7/fault")
    page.get_by_label("Faults").get_by_role("button", name="71.35 m").click()
    card = page.locator("[data-said]")
    expect(card).to_contain_text("Narrow it")
    expect(card).to_contain_text("Go back in steps of half a pace")
    enter(page, "70.8", "On, to the far end", "18")
    expect(page.locator("[data-frame]")).to_have_count(61)
    enter(page, "71.4", "Null: neither way", across="null")
    expect(page.locator("[data-frame]")).to_have_count(62)
    enter(page, "71.8", "Back, to the near end", "18")
    page.get_by_label("Faults").get_by_role("button", name="71.").click()
    expect(card).to_contain_text("Fault found")
    card.get_by_role("button", name="Mark it").click()
    card.get_by_role("button", name="Mark at 71.").click()
    expect(card).to_contain_text("Marked.")
    page.locator("nav [data-step=mark]").click()
    expect(page.locator("[data-mark]").filter(has_text="E FAULT 71.")).to_contain_text("Fault found")


def test_a_walk_is_begun_on_a_phone(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{demo_address}/jobs/2/lines/5/plan")
    page.get_by_role("link", name="Find a fault in its insulation").click()
    page.get_by_label("Volts").fill("30")
    page.get_by_role("button", name="Start the walk").click()
    expect(page.get_by_text("Only one of volts and milliamps is entered.")).to_be_visible()
    page.get_by_label("Milliamps").fill("12")
    page.get_by_role("button", name="Start the walk").click()
    expect(page.get_by_text("A LIVE cable kills.").first).to_be_visible()
    for _ in range(6):
        page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text("6 of 6 done")).to_be_visible()
    expect(page.get_by_text("Read the level at the stake first").last).to_be_visible()
    next_one = page.get_by_role("region", name="Next reading")
    next_one.get_by_label("Distance along").fill("10")
    next_one.get_by_role("button", name="Add reading").click()
    expect(next_one).to_contain_text("Tap On, Back or Null.")  # a reading never says which way by itself
    enter(page, "10", "On, to the far end", "4")
    expect(page.locator("[data-frame]")).to_have_count(1)
