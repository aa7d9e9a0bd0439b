"""What keeps a crew's work safe in the interface: clear refusals, nothing lost, undo, keyboard, accessibility."""

import pytest
from playwright.sync_api import expect

from tests.ui.conftest import about_line, edit_line, view

pytestmark = pytest.mark.ui
LINE = "/jobs/1/lines/1"


def test_a_refused_station_names_the_field_and_keeps_everything_typed(page, demo_address):
    page.goto(demo_address + f"{LINE}/trace")
    page.get_by_label("Distance along").fill("60")
    page.get_by_label("Current ×3, mA").fill("63,0")
    page.get_by_label("Depth on the ground").fill("0.8")
    expect(page.get_by_text("Write the decimal point: 63.0.")).to_be_visible()
    page.get_by_role("button", name="Check this station").click()
    expect(page.get_by_role("alert").filter(has_text="has a comma")).to_be_visible()
    expect(page.get_by_label("Current ×3, mA")).to_have_attribute("aria-invalid", "true")
    page.reload()
    expect(page.get_by_label("Current ×3, mA")).to_have_value("63,0")
    expect(page.get_by_label("Depth on the ground")).to_have_value("0.8")
    page.get_by_label("Current ×3, mA").fill("17.9 18.0 18.1")
    page.get_by_label("Distance along").fill("52")
    page.get_by_role("button", name="Check this station").click()
    expect(page.get_by_role("alert").filter(has_text="There is a station at 52 m already")).to_be_visible()


def test_a_dropped_connection_loses_nothing_and_says_so(page, demo_address):
    page.goto(demo_address + f"{LINE}/hookup")
    page.locator("input[name=volts]").fill("7.7")
    page.locator("input[name=milliamps]").fill("30")
    page.route("**/api/setups/*/readings", lambda route: route.abort())
    page.get_by_role("button", name="Check the loop").click()
    expect(page.get_by_role("alert")).to_contain_text("Nothing you typed is lost")
    page.unroute("**/api/setups/*/readings")
    page.get_by_role("button", name="Check the loop").click()
    readings = page.get_by_label("Readings", exact=True)
    expect(readings).to_contain_text("7.7 V, 30 mA")
    # stored, but the answer is lost on the way: sent again it is not stored twice
    page.locator("input[name=volts]").fill("7.5")
    page.locator("input[name=milliamps]").fill("30")
    page.route("**/api/setups/*/readings", lambda route: (route.fetch(), route.abort()))
    page.get_by_role("button", name="Check the loop").click()
    expect(page.get_by_role("alert")).to_contain_text("Nothing you typed is lost")
    page.unroute("**/api/setups/*/readings")
    page.get_by_role("button", name="Check the loop").click()
    expect(page.get_by_role("alert")).to_contain_text("stored already")
    expect(readings.get_by_role("listitem").filter(has_text="7.5 V, 30 mA")).to_have_count(1)
    expect(page.locator("input[name=volts]")).to_have_value("")


def test_a_station_is_corrected_in_place_and_a_removal_is_undone(page, demo_address):
    page.goto(demo_address + f"{LINE}/trace")
    held = page.get_by_label("Station at 52 m", exact=True)
    held.get_by_role("button", name="Correct").click()
    field = page.get_by_label("Peak to null")
    expect(field).to_have_value("0.24")
    field.fill("0.35")
    page.get_by_role("button", name="Save and check again").click()
    expect(held).to_contain_text("0.24 m further apart")  # 0.35 m, less what the cable beside it explains
    held.get_by_role("button", name="Strike out the station").click()
    held.get_by_role("button", name="Misread").click()
    expect(held).to_have_count(0)
    struck = page.get_by_label("Struck out", exact=True)
    expect(struck).to_contain_text("52 m: 14.2 mA")
    expect(struck).to_contain_text("Misread. R. Tallow")
    page.get_by_role("button", name="Undo").click()
    expect(struck).to_have_count(0)
    page.get_by_role("button", name="Show station at 52 m").click()
    held.get_by_role("button", name="History of the station").click()
    history = page.get_by_role("dialog").get_by_role("listitem")
    for action in ("Restored", "Struck out", "Changed"):
        expect(history.filter(has_text=f"{action}: station at 52 m")).to_be_visible()
    expect(history.filter(has_text="Changed:").first).to_contain_text("Peak to null: 0.24 m → 0.35 m")


def test_keys_lead_through_the_line(page, demo_address):
    page.goto(demo_address + f"{LINE}/plan")
    expect(page.get_by_label("Chosen setup")).to_be_visible()
    page.keyboard.press("4")
    expect(page).to_have_url(demo_address + f"{LINE}/trace")
    expect(page.get_by_label("Distance along")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_label("Distance along")).to_be_focused()
    page.keyboard.press("Shift+Tab")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keyboard")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_the_users_own_kit_replans_the_line(page, demo_address):
    page.goto(demo_address + "/kit")
    page.get_by_role("button", name="Copy").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill("Yard kit")
    dialog.get_by_label("Volts ceiling, V").fill("0")
    dialog.get_by_role("button", name="Save kit").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Enter a value from 1 to 1000 V")
    dialog.get_by_label("Volts ceiling, V").fill("12")
    dialog.get_by_label("Stake lead, m").fill("5")
    dialog.get_by_label("Lowest clamp frequency, Hz").fill("1000")
    dialog.get_by_label("Has a clamp").uncheck()
    dialog.get_by_role("button", name="Save kit").click()
    expect(page.get_by_role("heading", name="Yard kit")).to_be_visible()
    page.goto(demo_address + f"{LINE}/plan")
    page.get_by_role("button", name="Job", exact=True).click()
    page.get_by_label("Kit").select_option(label="Yard kit")
    page.get_by_role("button", name="Save job").click()
    view(page, "Rejected")
    expect(page.get_by_text("This kit has no clamp.").first).to_be_visible()
    page.get_by_role("button", name="Hook up this way").click()
    expect(page.get_by_label("Stake distance")).to_have_value("5")


def test_a_preset_is_visible_data_that_can_be_overridden(page, demo_address):
    page.goto(demo_address + f"{LINE}/plan")
    edit_line(page)
    dialog = page.get_by_role("dialog")
    dialog.get_by_text("Electrical data").click()
    expect(dialog.get_by_text("Typical: 0.0008")).to_be_visible()
    dialog.get_by_label("Insulation or coating, m").fill("thick")
    dialog.get_by_role("button", name="Save line").click()
    expect(dialog.get_by_role("alert")).to_contain_text("“thick” is not a number")
    dialog.get_by_label("Insulation or coating, m").fill("0.004")
    dialog.get_by_role("button", name="Save line").click()
    # what it would do to verdicts is asked about first, and going back loses nothing
    expect(page.get_by_label("Stations that would change")).to_contain_text("marked")
    page.get_by_role("button", name="Go back").click()
    expect(dialog.get_by_label("Insulation or coating, m")).to_have_value("0.004")
    dialog.get_by_role("button", name="Save line").click()
    page.get_by_role("button", name="Save, withdraw").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    edit_line(page)
    expect(page.get_by_text("typical values, 1 changed")).to_be_visible()
    page.goto(demo_address + f"{LINE}/mark")
    expect(page.get_by_text("Judged again after a change").first).to_be_visible()


def test_what_another_changed_meanwhile_is_told_and_both_are_put_together(page, demo_address, context):
    page.goto(demo_address + f"{LINE}/plan")
    edit_line(page)
    mine = page.get_by_role("dialog")
    expect(mine.get_by_label("Where it is")).not_to_have_value("")
    other = context.new_page()
    other.goto(demo_address + f"{LINE}/plan")
    edit_line(other)
    other.get_by_role("dialog").get_by_label("Where it is").fill("Riser behind the boiler house")
    other.get_by_role("button", name="Save line").click()
    expect(other.get_by_role("dialog")).to_have_count(0)
    mine.get_by_label("Name").first.fill("Gas service, old")
    page.get_by_role("button", name="Save line").click()
    expect(mine.get_by_role("alert")).to_contain_text("changed this at")
    expect(mine.get_by_role("alert")).to_contain_text("Riser behind the boiler house")
    page.get_by_role("button", name="Put mine into theirs").click()
    expect(mine.get_by_label("Where it is")).to_have_value("Riser behind the boiler house")
    expect(mine.get_by_label("Name").first).to_have_value("Gas service, old")
    page.get_by_role("button", name="Save line").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(about_line(page)).to_contain_text("Riser behind the boiler house")
