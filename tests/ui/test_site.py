"""The site in the interface: drawing it, the order of work, stake advice and what-if."""

import re

import pytest
from PIL import Image
from playwright.sync_api import expect

from tests.ui.conftest import PHONE, settled, view

pytestmark = pytest.mark.ui
SITE = "/jobs/2/site"


def tap(page, x, y):
    plan = page.locator(".plan-map")
    box = plan.bounding_box()
    plan.click(position={"x": x * box["width"], "y": y * box["height"]})


def what_if(page):
    """The what-if, opened: before, it asks for nothing."""
    view(page, "What if")
    return page.get_by_role("region", name="What if", exact=True)


def test_a_site_is_drawn_by_typing_and_tapping_and_a_save_is_undone(page, demo_address):
    page.goto(demo_address + "/jobs/1/site")
    expect(page.get_by_text("Nothing drawn yet")).to_be_visible()
    expect(page.get_by_label("Order of work").locator("[data-visit]").first).to_be_visible()  # from what is told
    page.get_by_role("link", name="Draw the site").first.click()
    service = page.locator("[data-route='Gas service to ticket hall']")
    service.get_by_role("button", name="Type it").click()
    typed = service.get_by_role("textbox")
    typed.fill("0, 0; 140 m at 900")
    expect(service.get_by_text("900 degrees is not a bearing.")).to_be_visible()
    page.get_by_role("button", name="Save the plan").click()
    expect(service.get_by_role("alert")).to_contain_text("is not a bearing")
    expect(page.get_by_text("nothing you typed is lost")).to_be_visible()
    page.reload()
    expect(typed).to_have_value("0, 0; 140 m at 900")
    typed.fill("0, 0; 100 m at 90")
    expect(service.get_by_text("= 1 leg, 100 m")).to_be_visible()
    service.get_by_role("button", name="Tap it on the plan").click()
    tap(page, 0.8, 0.3)
    expect(typed).to_have_value(re.compile(r"^0, 0; 100 m at 90; [\d.]+ [EW], [\d.]+ [NS]$"))
    tap(page, 0.9, 0.2)
    expect(service.get_by_text(re.compile("= 3 legs"))).to_be_visible()
    page.get_by_role("button", name="Undo the last change").click()
    expect(service.get_by_text(re.compile("= 2 legs"))).to_be_visible()
    page.get_by_role("button", name="Save the plan").click()
    page.get_by_role("button", name="Save the change").click()  # at the bends stations read otherwise
    expect(page.get_by_text("The plan is saved.", exact=True)).to_be_visible()
    expect(page.get_by_role("button", name="Saved")).to_be_disabled()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(typed).to_have_value("")


def test_access_points_structures_and_ground_are_entered_and_refused_by_field(page, demo_address):
    page.goto(demo_address + f"{SITE}/draw")
    page.get_by_text("Access points", exact=True).click()
    page.get_by_role("button", name="Add an access point").click()
    card = page.locator("li").filter(has=page.locator("input[name='access.5.name']"))
    card.get_by_role("button", name="Type it").click()
    card.get_by_label("Place (east, north)").fill("70, 0.3")
    page.get_by_role("button", name="Save the plan").click()
    expect(card.get_by_text("Name is empty.")).to_be_visible()
    card.get_by_label("Name").fill("Marker post")
    card.get_by_label("LIVE").check()
    page.get_by_role("button", name="Save the plan").click()
    expect(page.get_by_text("The plan is saved.", exact=True)).to_be_visible()
    page.get_by_role("link", name="Order of work").click()
    page.get_by_text("Assumptions (").click()
    expect(page.get_by_label("Result")).to_contain_text("taken to pass under")


def test_tracks_of_a_file_become_the_route_of_a_line(page, demo_address, tmp_path):
    page.goto(demo_address + "/jobs/1/site/draw")
    text = '{"type": "LineString", "coordinates": [[500, 100], [560, 100], [560, 150]]}'
    (tmp_path / "walk.geojson").write_text(text)
    page.locator("input[type=file]").set_input_files(tmp_path / "walk.geojson")
    expect(page.get_by_role("alert")).to_contain_text("the file does not say what they are")
    page.get_by_label("Coordinate system").fill("site")
    page.get_by_role("button", name="Read again").click()
    page.get_by_label("Use it as the route of").select_option(label="Gas service to ticket hall")
    route = page.locator("[data-route='Gas service to ticket hall']")
    route.get_by_role("button", name="Type it").click()
    expect(route.get_by_role("textbox")).to_have_value("500 E, 100 N; 560 E, 100 N; 560 E, 150 N")
    expect(route.get_by_text("= 2 legs, 110 m")).to_be_visible()


def test_the_order_of_work_leads_to_a_hookup(page, demo_address):
    page.goto(demo_address + SITE)
    steps = page.locator("[data-visit]")
    expect(steps.first).to_be_visible()
    expect(page.get_by_label("Result")).to_contain_text("m markable. You walk")
    expect(page.get_by_label("Each line")).to_contain_text("It has no metal")
    page.get_by_title(re.compile("^Step 3: ")).click()
    expect(steps.nth(2).get_by_role("button").first).to_have_attribute("aria-expanded", "true")
    expect(steps.nth(2)).to_contain_text("Transmitter:")
    page.get_by_role("radio", name="High first").click()
    expect(page.get_by_role("radio", name="High first")).to_be_checked()
    steps.first.get_by_role("button").first.click()
    steps.first.get_by_role("button", name="Hook up this way").click()
    expect(page).to_have_url(re.compile("/lines/[0-9]+/hookup$"))


def test_a_what_if_follows_the_stake_the_soil_and_the_far_end(page, demo_address):
    page.goto(demo_address + SITE)
    page.locator("[data-visit='1']").get_by_role("button").first.click()
    page.get_by_role("link", name="See why and try changes").click()
    asked = what_if(page)
    expect(asked.locator("[data-change]")).to_contain_text("as before")
    expect(asked.locator("[data-unknowns]")).to_contain_text("Soil:")
    asked.get_by_label("Soil resistivity").fill("800")
    expect(asked.locator("[data-change]")).to_contain_text("was")
    asked.get_by_label("Soil from wet to dry").press("End")
    expect(asked.get_by_label("Soil resistivity")).to_have_value("3000")
    expect(asked.locator("[data-option^='rival']").first).to_be_visible()
    asked.get_by_label("Soil resistivity").fill("mud")
    expect(asked.get_by_role("alert")).to_contain_text("not a number")
    asked.get_by_role("button", name="Back to the plan").click()
    asked.get_by_label("Far end").select_option(label="Earth it")
    expect(asked.locator("[data-change]")).to_contain_text("was")
    asked.get_by_role("button", name="Back to the plan").click()
    plan = asked.locator(".plan-map")
    box = plan.bounding_box()
    plan.click(position={"x": 0.5 * box["width"], "y": 0.54 * box["height"]})  # over the water main
    expect(asked).to_contain_text("The stake would be over")
    expect(asked.get_by_role("button", name="Hook up with the stake there")).to_be_disabled()


def test_a_line_without_metal_says_what_to_do_instead(page, demo_address):
    page.goto(demo_address + SITE)
    page.get_by_label("Each line").get_by_role("link", name="Storm drain").click()
    expect(page.get_by_role("heading", name="Find this line by sonde")).to_be_visible()
    expect(page.get_by_role("link", name="Push a sonde through it")).to_be_visible()


def test_what_earthing_an_open_end_is_worth_stands_beside_the_setup(page, demo_address):
    page.goto(demo_address + SITE)
    page.get_by_label("Each line").get_by_role("link", name="Bollard lighting").click()
    worth = page.get_by_label("If the far end is earthed", exact=True)
    expect(worth).to_contain_text("this setup would make")
    expect(worth).to_contain_text("owner's consent")
    page.get_by_text("More about this setup").click()
    expect(page.get_by_label("Chosen setup").get_by_text("With the far end earthed:")).to_be_visible()


def test_on_a_phone_the_plan_stays_in_sight_while_it_is_tapped(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(demo_address + f"{SITE}/draw")
    drain = page.locator("[data-route='Storm drain']")
    drain.get_by_role("button", name="Tap it on the plan").click()
    drain.get_by_role("button", name="Type it").click()
    plan = page.locator(".plan-map")
    drain.get_by_role("textbox").scroll_into_view_if_needed()
    expect(plan).to_be_in_viewport(ratio=0.9)
    before = drain.get_by_role("textbox").input_value()
    tap(page, 0.5, 0.5)
    expect(drain.get_by_role("textbox")).not_to_have_value(before)
    page.get_by_role("button", name="Undo changes").click()
    expect(drain.get_by_role("textbox")).to_have_value(before)


def test_corners_are_dragged_added_deleted_and_undone_on_the_plan(page, demo_address):
    page.set_viewport_size(PHONE)
    page.goto(demo_address + f"{SITE}/draw")
    drain = page.locator("[data-route='Storm drain']")
    drain.get_by_role("button", name="Tap it on the plan").click()
    tools = page.get_by_role("toolbar", name="Drawing Storm drain")
    expect(tools).to_contain_text("110 m")  # its whole length, and beside each leg its own
    corners = page.get_by_role("button", name=re.compile("^Corner [0-9]: drag it"))
    expect(corners).to_have_count(2)
    box = corners.nth(0).bounding_box()
    x, y = box["x"] + 22, box["y"] + 22
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 10, y + 30, steps=3)
    page.mouse.up()
    expect(tools).not_to_contain_text("110 m")
    page.get_by_role("button", name="Another corner in leg 1").click()
    expect(corners).to_have_count(3)
    expect(drain).to_contain_text("2 legs")
    corners.nth(1).focus()
    page.keyboard.press("Delete")
    expect(corners).to_have_count(2)
    undo = tools.get_by_role("button", name="Undo the last change")
    for _ in range(3):
        undo.click()
    expect(tools).to_contain_text("110 m")
    expect(undo).to_be_disabled()
    corners.nth(1).focus()
    page.keyboard.press("ArrowRight")
    expect(undo).to_be_enabled()
    tools.get_by_role("button", name="Done").click()
    expect(tools).to_have_count(0)
    expect(page.get_by_role("button", name="Save the plan")).to_be_enabled()


def test_the_stake_is_dragged_and_the_forecast_follows(page, demo_address):
    page.goto(demo_address + "/jobs/2/lines/2/plan")
    asked = what_if(page)
    expect(asked.locator("[data-change]")).to_contain_text("as before")
    expect(asked).to_contain_text("Best: ")
    stake = asked.get_by_title("Stake: drag it")
    settled(page)  # what is above it may still be loading
    stake.hover()
    box = stake.bounding_box()
    page.mouse.down()
    page.mouse.move(box["x"] + 40, box["y"] + 20, steps=6)
    page.mouse.up()
    use = asked.get_by_role("button", name="Hook up with the stake there")
    expect(use).to_be_enabled()
    use.click()
    expect(page).to_have_url(re.compile("/hookup$"))
    expect(page.get_by_label("As hooked up")).to_contain_text("where the site plan has it")


def test_a_bond_is_thought_away(page, demo_address):
    page.goto(demo_address + "/jobs/2/lines/4/plan")
    asked = what_if(page)
    bond = asked.get_by_label("Remove the bond: Water main (80 m) – Hydrant branch")
    bond.check()
    expect(asked.locator("[data-change]")).to_contain_text("was")
    bond.uncheck()
    expect(asked.locator("[data-change]")).not_to_contain_text("was")


def test_the_order_of_work_is_walked_by_keyboard_alone(page, demo_address):
    page.goto(demo_address + SITE)
    first = page.locator("[data-visit='1']").get_by_role("button").first
    expect(first).to_be_visible()
    first.focus()
    page.keyboard.press("Enter")
    expect(first).to_have_attribute("aria-expanded", "true")
    page.keyboard.press("Tab")
    expect(page.get_by_role("button", name="Hook up this way")).to_be_focused()
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile("/lines/[0-9]+/plan$"))
    expect(page.get_by_label("Chosen setup")).to_contain_text("Direct connection at the near end")


def test_why_not_is_said_of_every_other_option(page, demo_address):
    page.goto(demo_address + "/jobs/2/lines/2/plan")
    chosen = page.get_by_label("Chosen setup")
    expect(chosen).to_contain_text("Battery:")
    expect(chosen).not_to_contain_text("the best setup")
    page.locator("[data-option]").nth(1).click()
    expect(chosen).to_contain_text("the best setup")
    expect(chosen).to_contain_text("Current at the far end:")
    view(page, "Rejected")
    expect(page.get_by_text("Clamp needs at least 4 kHz with this kit.").first).to_be_visible()


def test_a_line_nothing_was_done_on_is_not_located_on_the_record(page, demo_address):
    page.goto(demo_address + "/jobs/2/record")
    expect(page.get_by_role("region", name="Hydrant branch")).to_contain_text("No hookup: not located.")
    drain = page.get_by_role("region", name="Storm drain")
    expect(drain).to_contain_text("No metal: plastic, clay or concrete")
    expect(drain).to_contain_text("The pipe falls 10 ± 4 mm per metre")
    assert page.get_by_text("None: not located.").count() == 7


def test_a_dropped_connection_while_saving_the_plan_loses_nothing(page, demo_address):
    page.goto(demo_address + f"{SITE}/draw")
    branch = page.locator("[data-route='Hydrant branch']")
    branch.get_by_role("button", name="Type it").click()
    route = branch.get_by_role("textbox")
    route.fill("40, -1.4; 40, -18")
    page.route("**/api/jobs/2/site", lambda r: r.abort() if r.request.method == "PUT" else r.continue_())
    page.get_by_role("button", name="Save the plan").click()
    expect(page.get_by_role("alert").filter(has_text="does not answer")).to_be_visible()
    page.unroute("**/api/jobs/2/site")
    page.get_by_role("button", name="Save the plan").click()
    expect(page.get_by_text("The plan is saved.", exact=True)).to_be_visible()
    expect(route).to_have_value("40, -1.4; 40, -18")


def test_a_scan_is_put_under_the_plan_by_two_points(page, demo_address, tmp_path):
    scan = tmp_path / "Sheet 3.png"
    Image.new("L", (800, 600), 200).save(scan)
    page.goto(demo_address + f"{SITE}/background")
    page.locator("input[type=file]").set_input_files(scan)
    expect(page.get_by_text("Tap point 1 in the picture.")).to_be_visible()
    tap(page, 0.3, 0.7)
    expect(page.get_by_text("Tap point 2 in the picture")).to_be_visible()
    page.locator(".plan-map").focus()
    page.keyboard.press("Enter")  # by keys: what lies under the cross
    tap(page, 0.4, 0.4)  # now the plan is there
    page.reload()
    expect(page.get_by_text("Type where point 2 is")).to_be_visible()  # nothing that was tapped is lost
    second = page.get_by_label("Point 2 is at")
    second.fill("nowhere")
    page.get_by_role("button", name="Place the picture").click()
    expect(page.get_by_text("“nowhere”")).to_be_visible()
    second.fill("40 E, 20 N")
    page.get_by_role("button", name="Place the picture").click()
    expect(page.get_by_text("One pixel is")).to_be_visible()
    expect(page.locator(".plan-map image")).to_have_count(1)
    page.get_by_role("radio", name="Full").click()
    expect(page.locator(".plan-map image")).to_have_attribute("opacity", "1")
    page.get_by_role("button", name="Remove the picture").click()
    expect(page.get_by_text("Choose a picture")).to_be_visible()
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(page.get_by_text("One pixel is")).to_be_visible()
