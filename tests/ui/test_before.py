"""Before anything is switched on, in the interface."""

import re

from playwright.sync_api import expect

from tests.ui.conftest import view


def test_the_sheet_is_answered_noise_read_and_a_hit_put_on_the_plan(page, demo_address):
    page.goto(f"{demo_address}/jobs/2/lines/2/plan")
    page.get_by_role("link", name="Before 7 of 11").click()
    sheet, state = page.get_by_label("Function check"), page.locator("[role='status'][data-state]")
    expect(state).to_have_attribute("data-state", "open")
    sheet.get_by_role("radiogroup", name="Batteries of both units are good").get_by_role("radio", name="Yes").click()
    leads = sheet.locator("[data-check='leads']")
    leads.get_by_role("radio", name="No", exact=True).click()
    expect(leads).to_contain_text("Never use a lead with bare places")
    expect(state).to_have_attribute("data-state", "stop")
    leads.get_by_role("radio", name="Not needed").click()
    leads.get_by_label("Why it is not needed").fill("New set today")
    leads.get_by_role("button", name="Save").click()
    expect(state).to_contain_text("2 of 11 are not answered")

    view(page, "Noise")
    noise = page.get_by_label("Noise check")
    noise.get_by_label("560 Hz, here").fill("plenty")
    noise.get_by_role("button", name="Save the noise").click()
    expect(noise.get_by_role("alert")).to_contain_text("is not a number")
    noise.get_by_label("560 Hz, here").fill("80")
    noise.get_by_label("560 Hz, in a quiet place").fill("8")
    noise.get_by_role("button", name="Save the noise").click()
    expect(noise.locator("[data-noise='noisy']")).to_contain_text("10.0 times the quiet level")

    view(page, "Passive sweep")
    passive = page.get_by_role("region", name="Passive sweep")
    # the tick shows what was asked a moment after the click
    passive.get_by_label("Walked again, receiver turned 90°").click()
    expect(passive.get_by_label("Walked again, receiver turned 90°")).to_be_checked()
    expect(passive).to_contain_text("Walked both ways, 1 hit")
    passive.locator(".plan-map").click(position={"x": 60, "y": 180})
    place = passive.get_by_label("Place: tap the plan")
    expect(place).to_have_value(re.compile(r"^[\d.]+ [EW], [\d.]+ [NS]$"))
    passive.get_by_role("button", name="Log the hit").click()
    expect(passive.locator("[data-explained]")).to_have_count(3)
    expect(place).to_have_value("")
    passive.get_by_role("button", name="Remove the hit Faint, about north to south").click()
    expect(passive.locator("[data-explained]")).to_have_count(2)
    page.locator("li", has_text="Hit removed.").get_by_role("button", name="Undo").click()
    expect(passive.locator("[data-explained]")).to_have_count(3)
    page.reload()
    expect(page.locator("[data-check='leads']").get_by_label("Why it is not needed")).to_have_value("New set today")
    view(page, "Noise")
    expect(page.locator("[data-noise='noisy']")).to_have_count(1)
    view(page, "Passive sweep")
    page.get_by_role("button", name=re.compile("Make a line of it")).first.click()
    dialog = page.get_by_role("dialog", name="New line")
    expect(dialog.get_by_label("Where it is")).to_have_value(re.compile("^Passive hit at "))
    dialog.get_by_label("Approximate length").fill("30")
    dialog.get_by_label("Minimum depth").fill("0.5")
    dialog.get_by_label("Maximum depth").fill("1.2")
    dialog.get_by_role("button", name="Add line").click()
    expect(page).to_have_url(re.compile(r"/lines/\d+/plan$"))
