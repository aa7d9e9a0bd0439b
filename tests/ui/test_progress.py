"""What a trace is told to be while it is walked, and how far the job is marked."""

import re

from playwright.sync_api import expect

from tests.ui.conftest import view

TRACE = "/jobs/1/lines/1/trace"


def test_lost_guidance_is_ticked_and_named_on_the_ribbon(page, demo_address):
    page.goto(demo_address + TRACE)
    form = page.get_by_role("region", name="Next station")
    form.get_by_label("Distance along").fill("40")
    form.get_by_label("Signal and guidance gone here").check()
    form.get_by_role("button", name="Check this station").click()
    expect(form.get_by_role("alert")).to_contain_text("40 m runs back")  # gone back to where it was lost
    form.get_by_role("button", name="Keep as typed").click()
    happened = page.get_by_role("list", name="What happened along the trace")
    expect(happened).to_contain_text("Bend.")
    expect(happened).to_contain_text("Find the corner from both sides")
    expect(page.locator("svg [data-event='bend']")).to_be_visible()
    card = page.get_by_role("region", name="Station at 40 m")
    expect(card).to_have_attribute("data-verdict", "hold")
    expect(card).to_contain_text("Walk a circle to find the line again")
    expect(form.get_by_label("Signal and guidance gone here")).not_to_be_checked()


def test_a_reading_speaks_while_it_is_typed(page, demo_address):
    page.goto(f"{demo_address}/jobs/1/lines/1/hookup")
    page.get_by_role("button", name="Read at 560 Hz").click()
    page.get_by_role("textbox", name="Volts").fill("8.4")
    page.get_by_role("textbox", name="Milliamps").fill("30")
    preview = page.locator("[data-preview]")
    expect(preview).to_contain_text("As typed, not entered yet")
    expect(page.locator("[data-continuity]")).to_contain_text("No continuity.")
    page.get_by_label("Since the last reading").select_option("far")
    expect(preview).to_be_visible()
    page.get_by_role("button", name="Check the loop").click()
    expect(page.locator("[data-continuity]")).to_contain_text("Continuity proved.")
    expect(preview).to_be_hidden()


def test_the_job_shows_how_far_every_line_is_marked(page, demo_address):
    page.goto(f"{demo_address}/jobs/1/lines/1/mark")
    card = page.get_by_role("region", name="How far it is marked")
    expect(card).to_contain_text("NOT LOCATED 52 m to 140 m")
    page.get_by_role("link", name="Marked", exact=True).click()
    line = page.locator("[data-progress]")
    expect(line).to_contain_text("22 m marked")
    expect(line).to_contain_text("94 m not located")
    expect(line.get_by_role("img", name="From end to end: marked 22 m")).to_be_visible()
    line.get_by_role("link", name="Mark what passed").click()
    page.get_by_role("button", name="Mark at 36 m").click()
    expect(card).to_contain_text("30 m marked")


def test_stations_are_pasted_and_the_columns_are_remembered(page, demo_address):
    page.goto(demo_address + TRACE)
    page.get_by_role("button", name="Paste stations").click()
    box = page.get_by_label("One station a line")
    box.fill("Metres;mA;Deep\n60;15,1;0,8\n70;13,9;0,79\nx;1;1")
    page.get_by_label("Metres holds").select_option("distance")
    page.get_by_label("Deep holds").select_option("depth")
    expect(page.get_by_role("list", name="Lines that cannot be taken")).to_contain_text("Line 4:")
    page.get_by_role("button", name="Add 2 stations, leave 1 here").click()
    expect(box).to_have_value("x;1;1")
    box.fill("Metres;mA;Deep\n80;12,5;0,8")
    page.get_by_role("button", name="Add 1 station", exact=True).click()
    expect(box).to_be_hidden()
    expect(page.get_by_role("button", name="Show station at 80 m")).to_be_visible()


def test_what_was_found_stands_on_the_plan(page, demo_address):
    page.goto(f"{demo_address}/jobs/2/progress")
    plan = page.get_by_role("region", name="On the plan")
    expect(plan.get_by_title("Mark G 0.79 m at 8 m along Gas service to ticket hall")).to_be_visible()
    expect(plan.get_by_title("Station at 99 m along Gas service to ticket hall: Mark")).to_be_visible()
    expect(plan).to_contain_text("Tolerance zone: 0.45 m to either side")
    page.goto(f"{demo_address}/jobs/2/lines/2/sweep")
    expect(page.get_by_title("Centre line at 89 degrees round the hookup of Gas service")).to_be_visible()
    expect(page.get_by_title("Mark G 0.79 m at 8 m along Gas service to ticket hall")).to_have_count(0)


def test_what_is_still_to_be_marked_is_listed_beside_the_marks(page, demo_address):
    page.goto(f"{demo_address}/jobs/2/lines/2/mark")
    due = page.get_by_role("region", name="Marks still due")
    expect(due).to_contain_text("88 m to 115.2 m without a mark")
    page.get_by_role("button", name="Mark at 99 m").click()
    expect(due).to_contain_text("88 m to 99 m without a mark")
    due.get_by_role("link", name="Take a station there").click()
    expect(page.get_by_role("region", name="Next station")).to_be_visible()


def test_a_long_trace_is_drawn_as_stretches_and_scrolls(page, demo_address):
    page.goto(demo_address + TRACE)
    page.get_by_role("button", name="Paste stations").click()
    rows = "\n".join(f"{60 + 0.2 * k:.1f}\t{15 - 0.02 * k:.2f}\t0.8" for k in range(300))
    page.get_by_label("One station a line").fill(f"Distance\tCurrent\tDepth\n{rows}")
    page.get_by_role("button", name="Add 300 stations").click()
    expect(page.locator("[data-crowd='307']")).to_be_visible()
    table = page.get_by_role("region", name="307 stations")
    assert table.locator("tbody tr[data-verdict]").count() < 60  # only what is seen is drawn
    page.locator("[data-crowd]").click(position={"x": 300, "y": 150})
    expect(page.locator("section[data-verdict]")).to_have_attribute("aria-label", re.compile(r"Station at \d+"))
    expect(table.locator("tr.bg-soil")).to_be_visible()
    # the record shows the beginning on the screen, and all of it on paper
    page.goto(demo_address + "/jobs/1/record")
    rest = page.get_by_role("button", name="Show 287 more stations")
    expect(rest).to_be_visible()
    page.evaluate("dispatchEvent(new Event('beforeprint'))")
    expect(rest).to_have_count(0)


def test_readings_across_the_line_are_typed_and_drawn_with_what_explains_them(page, demo_address):
    page.goto(demo_address + TRACE)
    form = page.get_by_role("region", name="Next station")
    form.get_by_label("Distance along").fill("58")
    form.get_by_text("More evidence").click()
    across = form.get_by_label("Readings across the line: offset and signal of each, at one gain")
    across.fill("L0.5 62; 0 88")
    expect(form).to_contain_text("2 readings from 0.50 m left to 0.00 m")
    form.get_by_role("button", name="Check this station").click()
    expect(form.get_by_role("alert").first).to_contain_text("cannot fix its place")
    across.fill("L1.6 17.6; L0.8 44.3; L0.4 71; 0 88; R0.4 70.7; R0.8 44.2; R1.6 17.5")
    form.get_by_role("button", name="Check this station").click()
    view(page, "Across")
    shown = page.locator("[data-profile]")
    expect(shown).to_contain_text("One line explains them")
    expect(shown.locator("svg circle")).to_have_count(8)  # seven readings and the line below


def test_the_local_rule_is_kept_seen_in_the_list_and_taken_back(page, demo_address):
    page.goto(f"{demo_address}/jobs/1/marking")
    gas = page.locator("[data-look=gas]")
    gas.get_by_label("Letters").fill("W")
    page.get_by_role("button", name="Save this rule").click()
    expect(page.get_by_role("alert").first).to_contain_text("would both be marked “W”")
    gas.get_by_label("Letters").fill("GN")
    gas.get_by_label("Pattern").select_option("dot")
    page.reload()
    expect(gas.get_by_label("Letters")).to_have_value("GN")  # nothing typed is lost
    page.get_by_role("button", name="Save this rule").click()
    expect(gas).to_have_attribute("data-own", "true")
    expect(page.get_by_text(re.compile("Last changed"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(gas).to_have_attribute("data-own", "false")
    gas.get_by_label("Colour").fill("Ochre")
    gas.get_by_role("button", name="Back to usual for Gas").click()
    expect(gas.get_by_label("Colour")).to_have_value("Yellow")
