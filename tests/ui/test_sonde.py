"""A drain without metal in the real interface: from the plan by sonde to a mark on record."""

import pytest
from playwright.sync_api import expect

from tests.test_sonde import heard
from tests.ui.conftest import DESK, PHONE

pytestmark = pytest.mark.ui
LABELS = {
    "distance": "Peak at",
    "rod": "Rod out",
    "null_before": "Null before, at",
    "null_after": "Null after, at",
    "depth": "Depth shown",
    "signal": "Signal at the peak",
}


def enter(page, read):
    form = page.locator("#next-stop")
    for field, label in LABELS.items():
        form.get_by_label(label, exact=False).first.fill(read[field])
    form.get_by_role("button", name="Check this stop").click()


def test_a_drain_is_found_by_sonde_and_marked(page, demo_address):
    page.set_viewport_size(DESK)
    page.goto(f"{demo_address}/jobs/2/lines/9/plan")
    page.get_by_role("link", name="Push a sonde through it").click()
    page.get_by_role("tab", name="This run").click()
    signal = page.get_by_label("This run").get_by_label("Signal there")
    expect(signal).to_have_value("640")
    enter(page, {**heard(60.0, 2.1), "rod": "60.4", "signal": "68"})
    card = page.locator("section[data-verdict]").filter(has_text="60 m")
    expect(card).to_have_attribute("data-verdict", "mark")
    expect(card).to_contain_text("The head lies under the peak, 2.1")
    card.get_by_role("button", name="Mark it").click()
    card.get_by_role("button", name="Mark at 60 m").click()
    expect(card).to_contain_text("Marked.")
    page.locator("nav [data-step=mark]").click()
    expect(page.locator("[data-mark]").filter(has_text="at 60 m")).to_contain_text("ROD 60.4 m")
    expect(page.locator("[data-next]")).to_contain_text("Paint next: 27.99 m")
    # a function check read wrong is told before it is saved
    page.locator("nav [data-step=sonde]").click()
    page.get_by_role("tab", name="This run").click()
    signal.fill("6400")
    page.get_by_role("button", name="Save this run").click()
    told = page.get_by_role("dialog")
    expect(told).to_contain_text("60 m")
    told.get_by_role("button", name="Go back").click()
    expect(signal).to_have_value("6400")


def test_a_run_is_started_on_a_phone_step_by_step(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{demo_address}/jobs/2/lines/3/sonde")
    expect(page.get_by_text("lets out 0.06 %")).to_be_visible()
    page.get_by_label("Fall it should have").fill("1:80")
    expect(page.get_by_text("= 1.25 %")).to_be_visible()
    page.get_by_role("button", name="Start the run").click()
    for _ in range(5):
        page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_text("5 of 5 done")).to_be_visible()
    enter(page, {**heard(5.0, 1.2), "null_after": "4.2"})
    asked = page.locator("#next-stop [role=alert]").first
    expect(asked).to_contain_text("The null after is at 4.2 m, but the peak is at 5 m.")
    page.get_by_role("button", name="Keep as typed").click()
    expect(page.locator("section[data-verdict]")).to_have_attribute("data-verdict", "hold")


def test_a_rod_in_the_drain_is_planned_as_a_line_and_keeps_its_sonde_run(page, demo_address):
    page.goto(f"{demo_address}/jobs/2/lines/9/plan")
    page.get_by_role("button", name="A metal rod goes in: trace it as a line").click()
    form = page.get_by_role("dialog", name="Storm drain")
    expect(form.get_by_label("Construction")).to_have_value("rodded_drain")
    form.get_by_role("button", name="Save line").click()
    expect(page.get_by_role("button", name="Hook up this way")).to_be_visible()
    page.get_by_role("link", name="Or push a sonde through it").click()
    expect(page.locator("[data-verdict]").first).to_be_visible()
