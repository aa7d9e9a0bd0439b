"""The rest of the interface: forms, empty states, imports, withdrawals, hookups that need no stake."""

import json
import re

import pytest
from playwright.sync_api import Page, expect

from tests.ui.conftest import about_line, edit_line, go_on, view
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text

pytestmark = pytest.mark.ui
LINE = "/jobs/1/lines/1"


def add_line(page: Page, address: str, **fields: str) -> None:
    page.goto(address + f"{LINE}/plan")
    page.get_by_role("button", name="Add a line").click()
    dialog = page.get_by_role("dialog")
    for label, text in {
        "Name": "Pump cable",
        "Approximate length": "90",
        "Minimum depth": "0.6",
        "Maximum depth": "1.0",
    }.items():
        dialog.get_by_label(label).fill(text)
    for label, text in fields.items():
        dialog.get_by_label(label).fill(text)


def test_a_half_typed_line_survives_reload_and_a_refusal(page, demo_address):
    add_line(page, demo_address, **{"Minimum depth": "-0.5"})
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Add line").click()
    expect(dialog.get_by_role("alert")).to_contain_text("below zero")
    page.reload()
    page.get_by_role("button", name="Add a line").click()
    expect(dialog.get_by_label("Name")).to_have_value("Pump cable")
    expect(dialog.get_by_label("Minimum depth")).to_have_value("-0.5")
    dialog.get_by_label("Minimum depth").fill("7")
    expect(dialog.get_by_text("could be 7 m or 7 cm")).to_be_visible()
    dialog.get_by_label("Minimum depth").fill("0.7")
    dialog.get_by_role("button", name="Add line").click()
    expect(about_line(page)).to_contain_text("90 m")


def test_a_live_line_is_clamped_never_connected(page, demo_address):
    add_line(page, demo_address)
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Carries").select_option("power")
    dialog.get_by_label("Construction").select_option("armoured_cable")
    dialog.get_by_label("LIVE: dangerous voltage").check()
    dialog.get_by_label("Earth bonded there, ohm").fill("20")
    dialog.get_by_label("Far end", exact=True).select_option("earthed")
    dialog.get_by_role("button", name="Add line").click()
    chosen = page.get_by_label("Chosen setup")
    expect(chosen).to_contain_text("Clamp")
    expect(chosen).to_contain_text("earthed on both sides of the clamp")
    view(page, "Rejected")
    expect(page.get_by_text("LIVE: do not connect").first).to_be_visible()
    page.get_by_role("button", name="Hook up this way").click()
    expect(page.locator("[data-now]")).to_contain_text("LIVE line: touch nothing bare")
    expect(page.get_by_label("Where the volts go")).to_have_count(0)


def test_induction_says_that_the_transmitter_cannot_tell(page, demo_address):
    page.goto(demo_address + f"{LINE}/plan")
    page.get_by_label("Reach board").get_by_role("button", name="Induction").first.click()
    expect(page.get_by_label("Chosen setup")).to_contain_text("Not enough by itself")
    expect(page.get_by_role("button", name="Hook up this way")).to_have_count(0)
    page.get_by_role("button", name="Hook up to find out").click()
    expect(page.get_by_text("With induction the transmitter cannot show")).to_be_visible()
    expect(page.locator("input[name=volts]")).to_have_count(0)
    page.get_by_role("link", name="Go on to the first sweep").click()
    page.get_by_role("link", name="Trace").click()
    expect(page.get_by_text("No station yet")).to_be_visible()
    page.goto(demo_address + "/jobs/1/record")
    expect(page.get_by_text("7.9 V, 30 mA")).to_be_visible()
    expect(page.get_by_role("heading", name="Induction")).to_be_visible()


def test_a_line_without_a_hookup_leads_back_to_the_plan(page, demo_address):
    add_line(page, demo_address)
    page.get_by_role("dialog").get_by_role("button", name="Add line").click()
    expect(about_line(page)).to_contain_text("90 m")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_label("Chosen setup")).to_be_visible()
    page.keyboard.press("2")
    expect(page.get_by_text("No setup chosen")).to_be_visible()
    page.keyboard.press("3")
    expect(page.get_by_text("Nothing on the line yet")).to_be_visible()
    page.keyboard.press("4")
    expect(page.get_by_text("stations are judged against its forecast")).to_be_visible()
    page.keyboard.press("5")
    expect(page.get_by_text("No mark yet")).to_be_visible()
    page.goto(demo_address + "/jobs/1/record")
    expect(page.get_by_text("No hookup: not located.")).to_be_visible()


def remove_job(page, name):
    page.get_by_role("button", name=f"More for {name}").click()
    page.get_by_role("menuitem", name="Remove from the list").click()
    why = page.get_by_role("form", name=f"Why remove the job {name}")
    why.get_by_role("button", name="Only a try").click()


def test_removing_a_line_and_a_job_can_be_undone(page, demo_address):
    page.goto(demo_address + f"{LINE}/plan")
    edit_line(page)
    page.get_by_role("button", name="Remove this line").click()
    page.get_by_role("button", name="Not there").click()
    expect(page.get_by_role("heading", name="No line yet")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="About this line")).to_be_visible()
    page.goto(demo_address)
    remove_job(page, "Ostrel Bay")
    expect(page.get_by_role("link", name="Ostrel Bay ferry terminal")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name="Ostrel Bay ferry terminal")).to_be_visible()
    remove_job(page, "Ostrel Bay")
    remove_job(page, "Apron rebuild")
    expect(page.get_by_text("No jobs yet")).to_be_visible()


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (lambda text: text[: len(text) // 2], "ends early at line"),
        (lambda text: re.sub('"version": [^,]+', '"version": 9', text, count=1), "version 9"),
    ],
    ids=["cut in half", "newer"],
)
def test_a_bad_file_is_refused_in_words(page, address, tmp_path, spoil, says):
    file = tmp_path / "job.json"
    file.write_text(spoil(demo_text()), encoding="utf-8")
    page.goto(address)
    page.get_by_label("Job file").set_input_files(file)
    expect(page.get_by_role("alert")).to_contain_text(says)
    expect(page.get_by_text("No jobs yet")).to_be_visible()


def test_jobs_are_found_by_what_is_known_of_them_and_demo_jobs_come_fresh(page, demo_address):
    page.goto(demo_address)
    rows = page.get_by_role("main").get_by_role("listitem")
    expect(rows).to_have_count(2)
    search = page.get_by_label("Search jobs")
    search.fill("quay hydrant")  # an address, and a line's name
    expect(rows).to_have_count(1)
    expect(rows).to_contain_text("OB-2611-021")
    page.get_by_role("radio", name="No mark").click()
    expect(page.get_by_text("No job fits.")).to_be_visible()
    page.get_by_role("radio", name="All").click()
    search.fill("")
    page.get_by_role("button", name="More for jobs").click()
    page.get_by_role("menuitem", name="Add fresh demo jobs").click()
    expect(rows).to_have_count(4)


def test_a_withdrawn_mark_stays_with_its_reason(page, demo_address):
    page.goto(demo_address + f"{LINE}/mark")
    page.get_by_role("button", name="Withdraw the mark at 28 m").click()
    page.get_by_role("button", name="Withdraw mark, keep on record").click()
    expect(page.get_by_role("alert")).to_contain_text("The reason is empty")
    page.get_by_label("Why is it withdrawn?").fill("Painted on the wrong kerb.")
    page.get_by_role("button", name="Withdraw mark, keep on record").click()
    expect(page.get_by_text("Withdrawn by R. Tallow")).to_contain_text("Painted on the wrong kerb.")
    expect(page.get_by_label("Stations to mark")).to_contain_text("28 m")


def test_feet_and_inches_from_the_field_to_the_picture(page, demo_address):
    page.goto(demo_address + f"{LINE}/trace")
    page.get_by_role("button", name="Job", exact=True).click()
    page.get_by_label("Units", exact=True).select_option("imperial")
    page.get_by_role("button", name="Save job").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    expect(page.get_by_label("Station at 170.6 ft", exact=True)).to_contain_text("3'5.7\" deep")
    page.get_by_label("Depth on the ground").fill("1'11")
    expect(page.get_by_text("= 1'11\"")).to_be_visible()
    ribbon = page.get_by_role("group", name="Trace ribbon: stations")
    expect(ribbon).to_contain_text("0 ft")
    page.get_by_label("Station at 170.6 ft", exact=True).get_by_role("button", name="Correct").click()
    expect(page.get_by_label("Distance along")).to_have_value("52m")


def test_slow_work_shows_progress_and_a_failure_offers_another_try(page, demo_address):
    waiting = []
    page.route("**/api/lines/1/plan", lambda route: route.abort() if waiting else waiting.append(route))
    page.goto(demo_address + f"{LINE}/plan", wait_until="commit")
    expect(page.get_by_role("status")).to_contain_text("Simulating a trace for every setup")
    waiting[0].abort()
    expect(page.get_by_role("alert")).to_contain_text("server does not answer")
    page.unroute("**/api/lines/1/plan")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_label("Chosen setup")).to_be_visible()


def test_what_does_not_exist_is_said(page, demo_address):
    page.goto(demo_address + "/jobs/77")
    expect(page.get_by_role("alert")).to_contain_text("There is no such job")
    page.goto(demo_address + "/nowhere")
    expect(page.get_by_text("There is no such page.")).to_be_visible()


def test_the_rules_screen_shows_the_judges_own_table(page, demo_address):
    page.goto(demo_address + "/rules")
    rule = page.locator("[data-rule=peak_null]")
    expect(rule).to_contain_text("care above 0.08 m, hold above 0.20 m")
    page.get_by_label("Units", exact=True).select_option("imperial")
    expect(rule).to_contain_text("hold above 0'7.9\"")
    expect(page.get_by_text("Every mark keeps the limits it was made by.")).to_be_visible()


def test_a_measured_stake_moves_the_forecast(page, demo_address):
    page.goto(demo_address + f"{LINE}/hookup")
    expect(page.get_by_text("about 219 ohm from the soil")).to_be_visible()
    page.get_by_label("Stake, ohm").fill("400")
    page.get_by_role("button", name="Set").click()
    expect(page.get_by_text("about 400 ohm measured")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Stake, ohm")).to_have_value("400")
    exported = page.request.get(demo_address + "/api/jobs/1/export").text()
    assert json.loads(exported)["job"]["lines"][0]["setups"][0]["stake_ohm"] == 400.0


def test_back_shuts_a_dialog_and_what_is_not_saved_is_asked_about(page, demo_address):
    page.goto(f"{demo_address}/jobs/1")
    here = page.url
    page.get_by_role("button", name="Add a line").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_label("Name").first).to_be_focused()
    page.go_back()
    expect(sheet).to_have_count(0)  # nothing was typed
    assert page.url == here
    page.get_by_role("button", name="Add a line").click()
    sheet.get_by_label("Name").first.fill("Fire main")
    page.go_back()
    expect(sheet.get_by_role("alert")).to_contain_text("Unsaved changes")
    sheet.get_by_role("button", name="Cancel").click()
    expect(sheet.get_by_label("Name").first).to_have_value("Fire main")
    page.keyboard.press("Escape")
    sheet.get_by_role("button", name="Close without saving").click()
    expect(sheet).to_have_count(0)
    assert page.url == here
    page.get_by_role("link", name="Record").click()  # and the way on is as it was
    page.go_back()
    expect(page).to_have_url(here)


SCRIPT = '"><img src=x onerror="window.hit=1"><script>window.hit=1</script>{{7*7}}'
FREE = ("name", "dig", "address", "notice", "client", "contact", "technician", "note", "near_note", "reason", "label")


def poisoned(node):
    """A job in which every free text is a script."""
    if isinstance(node, dict):
        return {k: SCRIPT + str(v)[:60] if k in FREE and isinstance(v, str) else poisoned(v) for k, v in node.items()}
    return [poisoned(each) for each in node] if isinstance(node, list) else node


def test_text_that_is_a_script_is_shown_as_text_everywhere(page, demo_address):
    traced, site = (json.loads(demo_text(demo)) for demo in DEMO_JOBS)
    others = {"Storm": ("sonde",), "Bollard": ("fault",)}  # a sonde run and a walk with the frame
    job = site["job"]
    job["lines"] = traced["job"]["lines"] + [x for x in job["lines"] if x["name"].split()[0] in others]
    text = json.dumps(poisoned(site))
    made = page.request.post(f"{demo_address}/api/jobs/import", data={"text": text}).json()["id"]
    lines = page.request.get(f"{demo_address}/api/jobs/{made}").json()["lines"]
    of_job = ("", "/before", "/site", "/site/draw", "/site/background", "/progress", "/record")
    named = {"Gas": ("plan", "hookup", "sweep", "trace", "mark"), **others}
    steps = [
        f"/lines/{line['id']}/{step}"
        for name, of_line in named.items()
        for line in lines
        if name in line["name"]
        for step in of_line
    ]
    assert len(steps) == sum(len(of_line) for of_line in named.values())
    page.goto(demo_address)
    for part in (*of_job, *steps):
        go_on(page, f"/jobs/{made}{part}")
        assert page.evaluate("window.hit") is None, part
    page.goto(demo_address)
    expect(page.get_by_text("<script>window.hit=1</script>").first).to_be_visible()
    assert page.evaluate("window.hit") is None
