"""The safe order in the interface: one step at a time, what protects a person first."""

import re

from playwright.sync_api import expect

from tests.ui.conftest import view


def test_the_guide_leads_step_by_step_and_steps_back(page, demo_address):
    page.goto(f"{demo_address}/jobs/2/lines/2/plan")
    page.get_by_role("button", name="Hook up this way").click()
    expect(page).to_have_url(re.compile("/hookup$"))
    now, done = page.locator("[data-now]"), page.get_by_role("button", name="Done", exact=True)
    expect(now).to_have_attribute("data-now", "off")
    expect(now).to_contain_text("protects you")
    expect(page.get_by_role("img", name="From above: the stake")).to_be_visible()
    page.get_by_text("All 9 steps").click()
    lead = page.get_by_label("Scrape the metal bright")
    expect(lead).to_be_disabled()
    for step in ("off", "dead", "look", "match", "stake", "stake_lead"):
        expect(now).to_have_attribute("data-now", step)
        way = now.get_by_role("button", name="Cannot see") if step == "look" else done
        # kept, not only shown
        with page.expect_response(lambda r, by="POST" if step == "look" else "PATCH": r.request.method == by):
            way.click()
    expect(lead).to_be_enabled()
    page.reload()
    expect(now).to_have_attribute("data-now", "line_lead")
    page.get_by_role("button", name="Undo this step").click()
    expect(now).to_have_attribute("data-now", "stake_lead")
    page.get_by_text("All 9 steps").click()
    page.get_by_label("Transmitter OFF").uncheck()
    expect(now).to_have_attribute("data-now", "off")
    expect(page.get_by_text("1 of 9 done")).to_be_visible()  # what was seen was seen
    for _ in range(2):
        done.click()
    expect(now).to_have_attribute("data-now", "match")
    page.get_by_role("button", name="Undo this step").click()
    expect(now).to_have_attribute("data-now", "look")  # taken back, and answered otherwise
    now.get_by_role("button", name="Something else is").click()
    expect(now).to_have_attribute("data-now", "match")


def test_the_server_holds_the_order_too(page, demo_address):
    refused = page.request.patch(
        f"{demo_address}/api/setups/1", data={"steps_done": ["off", "stake_lead"]}, headers={"Origin": demo_address}
    )
    assert refused.status == 422
    assert refused.json()["field"] == "steps_done"


def test_a_reading_that_cannot_be_is_asked_about_and_what_would_help_is_one_tap_away(page, demo_address):
    page.goto(f"{demo_address}/jobs/1/lines/1/hookup")
    page.get_by_role("textbox", name="Volts").fill("52")
    page.get_by_role("textbox", name="Milliamps").fill("30")
    page.get_by_role("button", name="Check the loop").click()
    expect(page.get_by_role("alert")).to_contain_text("52 V is above the 40 V")
    page.get_by_role("button", name="Keep this reading").click()
    expect(page.get_by_text("Not used: 52 V is above")).to_be_visible()
    expect(page.get_by_role("textbox", name="Volts")).to_have_value("")
    view(page, "What would help")
    help_card = page.get_by_role("region", name="What would help")
    expect(help_card).to_contain_text("Earth the far end")
    help_card.get_by_role("button", name="Hook up this way: Go to 8.96 kHz").click()
    expect(page.get_by_role("region", name="Setup")).to_contain_text("Direct connection, 8.96 kHz, 60 mA")


def test_a_pair_is_looked_for_from_below_the_plan_with_a_guide_of_its_own(page, demo_address):
    page.goto(f"{demo_address}/jobs/2/lines/10/plan")
    view(page, "Rejected")
    page.get_by_role("button", name="Look for it this way").click()
    expect(page).to_have_url(re.compile("/hookup$"))
    expect(page.get_by_role("img", name="one lead on each of the line's two conductors")).to_be_visible()
    page.get_by_text("All 9 steps").click()
    expect(page.get_by_label("Scrape both conductors bright")).to_be_disabled()
