"""Lessons walked in the browser, well or as they warn not to; `tests/practice` walks each of them both ways."""

import re

import httpx2
import pytest
from playwright.sync_api import expect

from tests.ui.conftest import PHONE

WHO = "R. Tallow"


def begin(page, address, lesson):
    """Start a lesson from the list; return its job's number."""
    page.goto(f"{address}/practice")
    page.locator(f"[data-lesson='{lesson}'] button").click()
    expect(page.get_by_role("region", name="Task")).to_be_visible()
    return int(page.url.split("/jobs/")[1].split("/")[0])


def hook_up(page, address, job, **setup):
    """Hook up as the Plan and Hook up pages would, and come back to the yard."""
    yard = httpx2.get(f"{address}/api/jobs/{job}/yard").json()
    body = {"hookup": "direct", "output": "60", **setup}
    made = httpx2.post(f"{address}/api/lines/{yard['target_line_id']}/setups", json=body)
    assert made.status_code == 201, made.text
    for kind in ("access", "ends_at"):
        httpx2.post(f"{address}/api/setups/{made.json()['id']}/identity", json={"kind": kind, "answer": "for"})
    page.reload()


def read_and_log(page, *, null=True):
    page.get_by_role("button", name="Read peak").click()
    expect(page.locator("[data-taken]")).to_be_visible()
    page.get_by_role("button", name="Lift, read").click()
    expect(page.locator("[data-taken]")).not_to_contain_text("Liftednot read")
    if null:
        page.get_by_role("button", name="Null here").click()
    page.get_by_role("button", name="Log station").click()
    expect(page.locator("[data-judged]")).to_be_visible()


def end(page):
    page.get_by_role("button", name="End and debrief").click()
    page.get_by_role("button", name="End the exercise").click()
    return page.get_by_role("region", name="How it went")


@pytest.fixture
def yard(page, demo_address):
    page.add_init_script(f"localStorage['vessel.who'] = '{WHO}'")
    return page, demo_address


def test_matching_frequencies_is_walked_well_from_plan_to_debrief(yard):
    page, address = yard
    begin(page, address, "matching-frequencies")
    page.get_by_role("link", name="Plan Gas service").click()
    page.get_by_role("button", name="Hook up this way").first.click()
    page.wait_for_url("**/hookup")
    page.get_by_role("link", name="Yard").click()
    page.get_by_role("button", name="Switch on").click()
    expect(page.locator("[data-transmitter]")).to_contain_text("mA")
    page.get_by_role("button", name="Enter reading").click()
    expect(page.get_by_text("Reading entered.")).to_be_visible()
    sends = page.get_by_label("Transmitter frequency").input_value()
    page.get_by_label("Receiver frequency").select_option(sends)
    page.get_by_role("button", name="Set gain").click()
    for ahead in (10, 20, 20, 20):
        page.get_by_role("button", name="Step ahead").click(click_count=ahead, delay=5)
        read_and_log(page)
        expect(page.locator("[data-judged]")).to_contain_text("Paint here")
        page.get_by_role("button", name="Paint here").click()
        expect(page.get_by_text("Painted ✓")).to_be_visible()
    went = end(page)
    expect(went.locator("[data-headline]")).to_have_text("All 4 marks right.")
    expect(went.get_by_role("heading")).to_have_text("Passed")
    page.get_by_role("slider", name="Replay").fill("2")
    expect(page.get_by_text("Transmitter on")).to_be_visible()
    page.get_by_role("link", name="To the practice yard").click()
    expect(page.locator("[data-lesson='matching-frequencies']").get_by_label("Passed")).to_be_visible()
    page.get_by_role("tab", name="Crew").click()
    expect(page.get_by_role("row", name=WHO)).to_contain_text("1 of")


def test_matching_frequencies_unmatched_hears_nothing_and_is_no_pass(yard):
    page, address = yard
    page.set_viewport_size(PHONE)
    job = begin(page, address, "matching-frequencies")
    hook_up(page, address, job, freq="8.96k")
    page.get_by_role("button", name="Switch on").click()
    expect(page.locator("[data-coach]")).to_contain_text("step of the safe order")
    page.get_by_role("button", name="Step ahead").click(click_count=9)
    expect(page.locator("[data-side]")).to_have_text("noise")
    read_and_log(page, null=False)
    expect(page.locator("[data-coach]")).to_contain_text("another frequency")
    page.get_by_role("button", name="Paint anyway").click()
    page.get_by_label("Why do you mark it anyway?").fill("It must be here, the record says so.")
    page.get_by_role("button", name="Paint anyway").click()
    expect(page.get_by_text("Painted ✓")).to_be_visible()
    expect(end(page).get_by_role("heading")).to_have_text("Not passed yet")


def test_a_broken_wire_is_reported_and_not_marked(yard):
    page, address = yard
    job = begin(page, address, "broken-wire")
    hook_up(page, address, job, freq="560")
    page.get_by_role("button", name="Switch on").click()
    expect(page.locator("[data-transmitter]")).to_contain_text("At its voltage limit.")
    page.get_by_role("button", name="Enter reading").click()
    expect(page.locator("[data-coach]")).to_contain_text("Where would the signal go instead?")
    expect(end(page).get_by_role("heading")).to_have_text("Passed")


def test_a_line_that_was_followed_after_a_jump_is_a_strike_in_the_debrief(yard):
    page, address = yard
    job = begin(page, address, "jumped")
    hook_up(page, address, job, freq="8.96k")
    page.get_by_role("button", name="Switch on").click()
    page.get_by_role("button", name="Enter reading").click()
    page.get_by_label("Receiver frequency").select_option(label="8.96 kHz")
    page.get_by_role("button", name="Step ahead").click(click_count=86, delay=5)
    page.get_by_role("button", name="Step to the left").click(click_count=28, delay=5)
    read_and_log(page)
    proved = page.locator("[data-judged]").get_attribute("data-judged").startswith("mark")
    page.get_by_role("button", name="Paint here" if proved else "Paint anyway").click()
    if not proved:
        page.get_by_label("Why do you mark it anyway?").fill("It is loud and clear here.")
        page.get_by_role("button", name="Paint anyway").click()
    expect(page.get_by_text("Painted ✓")).to_be_visible()
    went = end(page)
    expect(went.get_by_role("heading")).to_have_text("Not passed yet")
    expect(went.locator("[data-headline]")).to_contain_text("strike")
    expect(page.locator("[data-mark='wrong']")).to_contain_text("Lighting cable")


def test_a_sonde_is_pushed_read_and_its_stop_judged_and_a_frame_points_to_the_fault(yard):
    page, address = yard
    job = begin(page, address, "sonde")
    line = httpx2.get(f"{address}/api/jobs/{job}/yard").json()["target_line_id"]
    page.get_by_role("link", name="Start a sonde run").click()
    expect(page).to_have_url(f"{address}/jobs/{job}/lines/{line}/sonde")
    assert httpx2.post(f"{address}/api/lines/{line}/sonde-runs", json={"freq": "560"}).status_code == 201
    page.goto(f"{address}/jobs/{job}/yard")
    for _ in range(2):
        page.get_by_role("button", name="+3 m").click()
    expect(page.locator("[data-rod]")).to_have_text("6 m")
    page.get_by_label("Receiver mode").get_by_text("sonde").click()
    for _ in range(12):
        page.get_by_role("button", name="Step ahead").click()
    expect(page.locator("[data-level]")).to_have_attribute("data-level", re.compile(r"^\d{2,}$|over"))
    page.get_by_role("button", name="Peak here").click()
    expect(page.get_by_role("region", name="Sonde run")).to_contain_text("Peak at6.0")
    page.get_by_role("button", name="Log stop").click()
    expect(page.get_by_role("region", name="Sonde run").get_by_role("status")).to_contain_text("To the run")
    job = begin(page, address, "frame")
    line = httpx2.get(f"{address}/api/jobs/{job}/yard").json()["target_line_id"]
    assert httpx2.post(f"{address}/api/lines/{line}/fault-walks", json={"freq": "560"}).status_code == 201
    page.goto(f"{address}/jobs/{job}/yard")
    page.get_by_role("button", name="Switch on").click()
    expect(page.locator("[data-coach]")).to_contain_text("An earth may still be on")
    page.get_by_role("button", name="Step ahead").click()
    expect(page.locator("[data-points]")).to_have_attribute("data-points", "ahead")
    page.get_by_role("button", name="Read frame").click()
    page.get_by_role("button", name="Log reading").click()
    expect(page.get_by_role("region", name="Walk with the frame")).to_contain_text("Logged at 0.5")


def test_a_stake_is_dragged_and_the_transmitter_moved_by_keys(yard):
    page, address = yard
    job = begin(page, address, "stake")
    hook_up(page, address, job, freq="8.96k")
    page.get_by_role("button", name="Switch on").click()
    expect(page.get_by_role("button", name="Switch off")).to_be_visible()
    stake = page.get_by_role("button", name="Stake: drag it")
    box, route = stake.bounding_box(), page.locator(".plan-map svg polyline").first.get_attribute("points")
    page.mouse.move(box["x"] + 22, box["y"] + 22)
    page.mouse.down()
    page.mouse.move(box["x"] + 22, box["y"] + 42, steps=3)
    page.mouse.up()
    expect(page.locator("[data-coach]")).to_contain_text("with the transmitter on")
    expect(page.get_by_role("button", name="Switch on")).to_be_visible()
    assert page.locator(".plan-map svg polyline").first.get_attribute("points") == route  # the plan stays where it is
    page.get_by_role("button", name="Transmitter, off").focus()
    for _ in range(20):
        page.keyboard.press("ArrowRight")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="There is no access point")).to_be_visible()


def test_a_random_site_shows_its_paving_and_can_be_heard_by_peak_and_null_together(yard):
    page, address = yard
    page.goto(f"{address}/practice")
    page.get_by_role("tab", name="Random sites").click()
    page.get_by_label("Seed").fill("3")
    page.get_by_role("button", name="Start a random site").click()
    expect(page.get_by_role("region", name="Task")).to_contain_text("Random site 3")
    expect(page.locator(".plan-map svg polygon")).to_have_count(2)  # the footway and the building
    page.get_by_role("radio", name="both").click()
    expect(page.locator("[data-null]")).to_contain_text("null")
