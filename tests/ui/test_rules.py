"""The judge's table on its page: a crew's own bounds, with a reason, and said when they let more pass."""

from playwright.sync_api import expect

from vessel.core.judge.station.criteria import CRITERIA_VERSION


def test_bounds_are_moved_with_a_reason_and_moved_back(page, demo_address):
    page.goto(f"{demo_address}/rules")
    lift = page.locator("[data-rule=lift]")
    lift.get_by_text("Lift test").click()
    page.get_by_role("button", name="Change limits of “Lift test”").click()
    lift.get_by_label("Care above").fill("40")
    lift.get_by_role("button", name="Use these limits").click()
    expect(lift.get_by_role("alert")).to_contain_text("reason")
    page.reload()
    lift.get_by_text("Lift test").click()
    page.get_by_role("button", name="Change limits of “Lift test”").click()
    expect(lift.get_by_label("Care above")).to_have_value("40")  # nothing typed is lost
    lift.get_by_label("Why").fill("Uneven ground on the apron.")
    lift.get_by_role("button", name="Use these limits").click()
    expect(lift).to_contain_text("care above 40 %, hold above 75 %")
    expect(lift).to_contain_text("Looser than Vessel's own (care above 30 %, hold above 75 %). Uneven ground")
    expect(page.get_by_text(f"Criteria version {CRITERIA_VERSION}, edited.")).to_be_visible()
    page.get_by_label("Limits of the crew with").select_option(label="Vessel's own limits")
    expect(lift).to_contain_text("care above 30 %, hold above 75 %")
    expect(page.get_by_role("button", name="Change limits of “Lift test”")).to_have_count(0)
    page.get_by_label("Limits of the crew with").select_option(index=0)
    page.get_by_role("button", name="Change limits of “Lift test”").click()
    lift.get_by_role("button", name="Back to Vessel's own").click()
    expect(lift).to_have_attribute("data-edited", "")
