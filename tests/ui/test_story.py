"""The whole story in the real interface: one line from plan to mark, and all of it there after a restart."""

import json

import pytest
from playwright.sync_api import Page, expect

from tests.ui.conftest import DESK, settled, view
from vessel.demo.serving import serving

pytestmark = pytest.mark.ui
LINE = "Gas service to ticket hall"


def fill(page: Page, values: dict[str, str]) -> None:
    for label, text in values.items():
        page.get_by_label(label, exact=False).first.fill(text)


def create_job(page: Page) -> None:
    expect(page.get_by_text("No jobs yet")).to_be_visible()
    page.get_by_role("button", name="New job").click()
    expect(page.get_by_label("Job name")).to_be_focused()  # not Close: a key would shut it
    fill(page, {"Job name": "Ostrel Bay ferry terminal", "Technician": "R. Tallow"})
    fill(page, {"Measured resistivity": "120"})
    page.get_by_label("Soil", exact=True).select_option("moist_sand")
    page.get_by_role("button", name="Create job").click()
    expect(page.get_by_role("heading", name="No line yet")).to_be_visible()


def add_line(page: Page) -> None:
    page.get_by_role("button", name="Add a line").last.click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name").fill(LINE)
    dialog.get_by_label("Approximate length").fill("140")
    dialog.get_by_label("Minimum depth").fill("60")
    expect(dialog.get_by_text("= 0.60 m")).to_be_visible()
    dialog.get_by_label("Maximum depth").fill("1.0")
    dialog.get_by_role("button", name="Add line").click()


def plan_and_choose(page: Page) -> None:
    chosen = page.get_by_label("Chosen setup")
    expect(chosen).to_contain_text("Direct connection at the near end, 35.84 kHz, 30 mA")
    expect(chosen).to_contain_text("far end open or earthed")
    settled(page)  # what comes in above would move it from under the click
    view(page, "Rejected")
    expect(page.get_by_text("Clamp needs at least 4 kHz with this kit.").first).to_be_visible()
    view(page, "Reach board")
    board = page.get_by_label("Reach board")
    board.get_by_role("button", name="8.96 kHz").first.click()
    expect(chosen).to_contain_text("8.96 kHz")
    board.get_by_role("button", name="35.84 kHz").first.click()
    page.get_by_role("button", name="Hook up this way").click()


def hook_up(page: Page) -> None:
    for _ in range(2):
        page.get_by_role("button", name="Done", exact=True).click()
    # what is at one's feet is answered before a lead goes on
    page.locator("[data-now=look]").get_by_role("button", name="Nothing else").click()
    for _ in range(6):
        page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text("Not read: ")).to_be_visible()
    expect(page.get_by_text("9 of 9 done")).to_be_visible()
    expect(page.get_by_text("Receiver: 35.84 kHz")).to_be_visible()  # a step of the safe order said so
    page.get_by_role("button", name="It shows another frequency").click()
    page.get_by_label("Receiver is set to").select_option(label="8.96 kHz")
    expect(page.get_by_text("this receiver hears something else")).to_be_visible()
    page.get_by_label("Receiver is set to").select_option(label="35.84 kHz")
    read(page, "7.9", "30")
    expect(page.get_by_text("readings do not prove it")).to_be_visible()
    expect(page.get_by_text("read volts and milliamps at 560 Hz")).to_be_visible()
    page.get_by_label("At", exact=True).select_option(label="560 Hz")
    read(page, "40", "4.3")
    expect(page.get_by_text("As forecast: far end not earthed")).to_be_visible()
    view(page, "Volts")
    expect(page.get_by_label("Where the volts go")).to_contain_text("Ground stake")
    page.get_by_role("link", name="Go on to the first sweep").click()
    page.get_by_role("link", name="Trace").click()


def read(page: Page, volts: str, milliamps: str) -> None:
    page.locator("input[name=volts]").fill(volts)
    page.locator("input[name=milliamps]").fill(milliamps)
    page.locator("input[name=milliamps]").press("Enter")
    expect(page.locator("input[name=milliamps]")).to_have_value("")


def station(page: Page, *values: str) -> None:
    """Type one station the way the crew does: field after field with Tab, then Enter."""
    page.get_by_label("Distance along").focus()
    for text in values:
        page.keyboard.press("ControlOrMeta+a")
        page.keyboard.type(text)
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")


def trace(page: Page) -> None:
    expect(page.get_by_text("No station yet")).to_be_visible()
    station(page, "12", "27.5 27.6 27.3", "0.76", "1cm", "0.5", "1.26", "0", "kerb")
    card = page.get_by_label("Station at 12 m", exact=True)
    expect(card).to_have_attribute("data-verdict", "mark_with_care")
    expect(card).to_be_in_viewport()
    view(page, "Which line")
    identity = page.get_by_label("Which line is it")
    expect(identity.get_by_text("Evidence (1)")).to_be_visible()  # the look of the safe order
    # one tap more: where the trace ends, and that nothing else is connected there
    identity.locator("[data-ask]").get_by_role("button").first.click()
    expect(identity.get_by_text("Evidence (3)")).to_be_visible()
    expect(card).to_have_attribute("data-verdict", "mark")
    expect(page.get_by_label("Distance along")).to_have_value("24")
    station(page, "52", "13.1 15.8 14.2", "1.06", "24cm", "0.5", "1.49", "11.5", "restless")
    card = page.get_by_label("Station at 52 m", exact=True)
    expect(card).to_have_attribute("data-verdict", "hold")
    expect(card).to_contain_text("further apart than anything entered explains")
    expect(card).to_contain_text("Do not mark here")
    station(page, "60", "18.1 18.2 18.3", "0.8")
    expect(page.get_by_label("Station at 60 m", exact=True)).to_have_attribute("data-verdict", "need_more")
    expect(page.get_by_role("group", name="Trace ribbon: stations")).to_be_visible()


def mark(page: Page) -> None:
    page.get_by_role("navigation", name="Steps of this line").get_by_role("link", name="Mark").click()
    todo = page.get_by_label("Stations to mark")
    todo.get_by_role("button", name="Mark at 12 m").click()
    marks = page.get_by_label("Marks", exact=True)
    expect(marks).to_contain_text("G 0.79 m")
    todo.get_by_role("listitem").filter(has_text="52 m").get_by_role("button", name="Mark anyway").click()
    todo.get_by_role("button", name="Mark as not proved").click()
    expect(todo.get_by_role("alert")).to_contain_text("needs a written reason")
    todo.get_by_label("Reason for marking anyway").fill("Seen in the open trial pit beside it.")
    todo.get_by_role("button", name="Mark as not proved").click()
    expect(marks).to_contain_text("Marked anyway: Seen in the open trial pit")
    expect(marks).to_contain_text("G 1.06 m NOT PROVED")


def record(page: Page) -> None:
    page.get_by_role("link", name="Record").click()
    expect(page.get_by_role("heading", name="Ostrel Bay ferry terminal")).to_be_visible()
    for text in ("They are not permission to dig", "7.9 V, 30 mA", "9 of 9 steps done", "R. Tallow", "NOT PROVED"):
        expect(page.get_by_role("main").get_by_text(text).first).to_be_visible()


@pytest.mark.long
def test_one_line_from_plan_to_mark_and_after_a_restart(page, tmp_path):
    database = tmp_path / "vessel.sqlite3"
    with serving(database) as address:
        page.goto(address)
        create_job(page)
        add_line(page)
        plan_and_choose(page)
        hook_up(page)
        trace(page)
        assert page.evaluate("document.documentElement.scrollWidth") <= DESK["width"]
        mark(page)
        record(page)
    with serving(database) as address:
        page.goto(address)
        page.get_by_role("link", name="Ostrel Bay ferry terminal").click()
        expect(page.get_by_text("3 stations, 2 marked, 2 not proved")).to_be_visible()
        expect(page.get_by_label("Marks", exact=True)).to_contain_text("Seen in the open trial pit")
        page.goto(address)
        page.get_by_role("button", name="More for Ostrel Bay").click()
        with page.expect_download() as download:
            page.get_by_role("menuitem", name="Export").click()
        path = download.value.path()
        assert json.loads(path.read_text(encoding="utf-8"))["format"] == "vessel-job"
        page.get_by_label("Job file").set_input_files(path)
        expect(page.get_by_role("heading", name="Ostrel Bay ferry terminal")).to_be_visible()
        expect(page.get_by_text("3 stations, 2 marked, 2 not proved")).to_be_visible()
