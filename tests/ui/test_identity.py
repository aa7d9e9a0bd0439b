"""Which line it is, in the interface: one question, one tap, and a way back."""

from playwright.sync_api import expect

from tests.ui.conftest import PHONE, view

TRACE = "/jobs/1/lines/1/trace"


def test_a_tap_answers_what_is_asked_and_undo_takes_it_back(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{demo_address}{TRACE}")
    view(page, "Which line")
    card = page.get_by_label("Which line is it")
    expect(card).to_have_attribute("data-identity", "shown", timeout=60_000)
    card.get_by_text("Evidence (2)").click()
    for left in ("1", "0"):
        card.get_by_role("button", name="Strike out the answer").first.click()
        card.get_by_role("button", name="Misread").click()
        expect(card.get_by_text(f"Evidence ({left})")).to_be_visible()
    expect(card).to_have_attribute("data-identity", "not_shown")
    asked = card.locator("[data-ask]")
    expect(asked).to_contain_text("It would rule out")
    kind = asked.get_attribute("data-ask")
    asked.get_by_role("button").first.click()
    expect(card.get_by_text("Evidence (1)")).to_be_visible()
    expect(card.locator(f"[data-ask='{kind}']")).to_have_count(0)
    page.locator("li", has_text="Saved:").get_by_role("button", name="Undo").click()
    expect(card.get_by_text("Evidence (0)")).to_be_visible()
