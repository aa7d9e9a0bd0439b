"""Which line it is, in the interface: one question, one tap, and a way back."""

from playwright.sync_api import expect

from tests.ui.conftest import PHONE, view

TRACE = "/jobs/1/lines/1/trace"


def test_a_tap_answers_what_is_asked_and_undo_takes_it_back(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{demo_address}{TRACE}")
    view(page, "Which line")
    card = page.get_by_label("Which line is it")
    expect(card).to_have_attribute("data-identity", "shown")
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
    # two answers in one tap are taken back together
    ends = card.get_by_role("button", name="At its own end, nothing else there").first
    ends.click()
    expect(card.get_by_text("Evidence (2)")).to_be_visible()
    page.locator("li", has_text="Saved: At its own end").get_by_role("button", name="Undo").click()
    expect(card.get_by_text("Evidence (0)")).to_be_visible()


def test_what_each_conductor_carries_is_entered_with_the_answer(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{demo_address}{TRACE}")
    view(page, "Which line")
    card = page.get_by_label("Which line is it")
    card.get_by_text("Evidence (2)").click()
    own, other = card.get_by_label("On this line, mA"), card.get_by_label("Most on another, mA")
    own.fill("21")
    other.fill("25")
    card.get_by_role("button", name="This line", exact=True).click()
    expect(card.get_by_text("Answer and currents disagree.")).to_be_visible()
    expect(own).to_have_value("21")  # nothing typed is lost
    other.fill("2")
    card.get_by_role("button", name="This line", exact=True).click()
    expect(card.get_by_label("Evidence given")).to_contain_text("21 mA on it, at most 2 mA on another")


def test_a_bond_is_opened_in_its_order_and_what_that_shows_is_kept(page, demo_address):
    page.goto(f"{demo_address}{TRACE}")
    view(page, "Which line")
    card = page.get_by_label("Which line is it")
    card.get_by_text("Evidence (2)").click()
    card.get_by_text("Open one bond at a time, step by step").click()
    steps = card.get_by_label("One bond, step by step").get_by_role("checkbox")
    expect(steps.nth(1)).to_be_disabled()  # nothing comes before the owner's consent
    for k in range(steps.count()):
        steps.nth(k).check()
    steps.nth(2).uncheck()  # the transmitter is on again: what came after does not stand
    expect(steps.nth(5)).not_to_be_checked()
    check = card.get_by_role("button", name="Check this bond")
    check.click()
    expect(card.get_by_role("alert")).to_contain_text("Transmitter OFF")
    for k in range(steps.count()):
        steps.nth(k).check()
    for field, text in (("Bond that was opened", "Bond at the riser"), ("Who agreed", "M. Quill")):
        card.get_by_label(field).fill(text)
    card.get_by_label("Current, bond closed").fill("12")
    card.get_by_label("Current, bond open").fill("11.6")
    check.click()
    expect(card.locator("[data-bond='for']")).to_contain_text("does not come through that bond")
    card.get_by_role("button", name="Save as evidence").click()
    expect(card.get_by_text("Evidence (3)")).to_be_visible()
    expect(card.get_by_label("Evidence given")).to_contain_text("consent of M. Quill")


def test_a_bond_that_may_stay_open_begins_the_trace_anew(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(f"{demo_address}{TRACE}")
    view(page, "Which line")
    card = page.get_by_label("Which line is it")
    card.get_by_text("Evidence (2)").click()
    look = card.get_by_role("listitem").filter(has_text="Look into the box, pit or cabinet")
    look.get_by_role("button", name="Something else is").click()
    page.get_by_role("button", name="Save the change").click()
    asked = card.locator("[data-ask]")
    asked.get_by_role("button", name="Cannot read them").click()
    again = asked.get_by_role("button", name="Trace again, off at both ends")
    again.click()
    expect(asked).to_contain_text("Who agreed is empty.")
    asked.get_by_label("Who agreed").fill("M. Quill")
    again.click()
    expect(page).to_have_url(f"{demo_address}/jobs/1/lines/1/hookup")
    page.get_by_text("All 11 steps").click()
    expect(page.get_by_text("4. An open bond can carry dangerous voltage.")).to_be_visible()
    expect(page.get_by_text("5. An open bond at the far end")).to_be_visible()
    view(page, "Which line")
    expect(card).to_contain_text("What else is connected at the access point is kept off")
    expect(card.get_by_text("Evidence (3)")).to_be_visible()
