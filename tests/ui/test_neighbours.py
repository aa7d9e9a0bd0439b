"""Telling what runs beside a line, and what it changes on the way."""

from playwright.sync_api import expect

from tests.ui.conftest import about_line, edit_line, view

LINE = "/jobs/1/lines/1"


def test_what_runs_beside_is_told_seen_on_the_plan_and_taken_back(page, demo_address):
    page.goto(demo_address + f"{LINE}/plan")
    chosen = page.get_by_label("Chosen setup")
    expect(chosen.locator("[data-bleed-off='Water main']").first).to_contain_text("of the line's own")
    edit_line(page)
    form = page.get_by_role("dialog")
    for name in ("Water main", "Old bollard cable"):
        form.get_by_role("button", name=f"Remove “{name}”").click()
    form.get_by_role("button", name="Add what runs beside it").click()
    card = form.locator("[data-entry='neighbours.0']")
    card.get_by_label("What it is").select_option(label="Steel fence")
    card.get_by_label("Name").fill("Kerb fence")
    card.get_by_label("On which side").select_option(label="Right")
    card.get_by_label("Its depth").fill("0.1")
    form.get_by_role("button", name="Save line").click()
    expect(card.get_by_text("How far off is empty")).to_be_visible()
    card.get_by_label("How far off").fill("60cm")
    late = []
    page.route("**/api/lines/*/plan", lambda route: late.append((route, route.fetch())), times=1)
    page.reload()
    edit_line(page)
    expect(card.get_by_label("How far off")).to_have_value("60cm")  # nothing typed is lost
    while not late:
        page.wait_for_timeout(50)
    form.get_by_role("button", name="Save line").click()
    # without the main that took its share, stations on record read otherwise
    changes = page.get_by_label("Stations that would change").get_by_role("listitem")
    expect(changes.first).to_be_visible()
    page.get_by_role("button", name="Save the change").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    late[0][0].fulfill(response=late[0][1])  # the plan of the line as it was, arriving last
    expect(about_line(page)).to_contain_text("Kerb fence, 0.6 m right, all along")
    page.keyboard.press("Escape")
    expect(chosen.locator("[data-bleed-off='Kerb fence']").first).to_be_visible()
    page.get_by_role("link", name="Trace").first.click()
    view(page, "Forecast")
    expect(page.get_by_label("Forecast on neighbours")).to_contain_text("Kerb fence, 0.6 m to the right")
    view(page, "Across")
    across = page.get_by_label("Across the line", exact=True)
    expect(across.get_by_role("heading")).to_have_text("Across the line at 52 m")
    expect(across.locator("[data-below='Kerb fence']")).to_be_visible()
    page.locator("svg [data-station]").nth(2).click()
    expect(across.get_by_role("heading")).to_have_text("Across the line at 20 m")


def test_a_removed_neighbour_comes_back_by_undo_and_a_phone_shows_the_form_whole(page, demo_address):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(demo_address + f"{LINE}/plan")
    edit_line(page)
    form = page.get_by_role("dialog")
    form.get_by_role("button", name="Remove “Water main”").click()
    expect(form.locator("[data-entry^=neighbours]")).to_have_count(1)
    page.get_by_role("button", name="Undo").click()
    expect(form.locator("[data-entry^=neighbours]")).to_have_count(2)
    wide = page.evaluate("document.documentElement.scrollWidth")
    assert wide <= 390
