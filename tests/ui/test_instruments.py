"""Attached instruments fill the forms, log on their own button, and may fall away without harm."""

from importlib.resources import files
from pathlib import Path
from shutil import copy

import pytest
from playwright.sync_api import expect

from vessel.cli.instruments import Served, stand_ins_of
from vessel.demo.serving import serving

LINE = "/jobs/1/lines/1"


@pytest.fixture
def attached(tmp_path, demo_database, port):
    """Vessel with the demo jobs and stand-in instruments attached."""
    site = files("vessel.demo").joinpath("ostrel-bay.vessel-site.json").read_text()
    served = Served(stand_ins_of(site, sonde="Storm drain"))
    database = Path(copy(demo_database, tmp_path / "demo.sqlite3"))
    with serving(database, port, instruments=[f"tcp://127.0.0.1:{served.port}"]) as url:
        yield served, url
    served.stop()


def test_fields_are_filled_live_and_the_log_button_logs(page, attached):
    served, address = attached
    page.add_init_script("localStorage['vessel.who'] = 'R. Tallow'")
    page.goto(address + f"{LINE}/hookup")
    live = page.get_by_role("region", name="Transmitter, live")
    expect(live).to_contain_text("mA")
    live.get_by_role("button", name="Take").click()
    expect(page.get_by_role("textbox", name="Milliamps")).not_to_have_value("")
    page.goto(address + f"{LINE}/trace")
    form = page.get_by_role("region", name="Next station")
    live = page.get_by_role("region", name="Receiver, live")
    served.do("step 10")
    expect(live).to_contain_text("deep")
    live.get_by_role("button", name="Take").click()
    live.get_by_role("button", name="Take").click()
    currents = form.get_by_role("textbox", name="Current").first
    expect(currents).not_to_have_value("")
    assert len(currents.input_value().split()) == 2
    stations = page.get_by_role("tab", name="Stations")
    before = stations.inner_text()
    form.get_by_role("textbox", name="Distance").fill("131")
    served.do("log")
    doubt = page.get_by_role("button", name="Keep as typed")
    expect(doubt.or_(stations.filter(has_not_text=before))).to_be_visible()
    served.drop()
    served.do("off")
    expect(live).to_contain_text("Connection lost")
    form.get_by_role("textbox", name="Depth").first.fill("0.8")  # typing goes on
    expect(live).to_have_attribute("data-live", "live")  # and it comes back by itself


def test_sonde_and_frame_fill_their_forms_and_log(page, attached):
    served, address = attached
    page.goto(address + "/jobs/2/lines/9/sonde")
    for command in ("sonde", "rod 20", "gain 20"):
        served.do(command)
    head = served.stand_ins.drain.places([20.0])[0]
    served.do(f"to {head[0]} {head[1]}")
    served.stand_ins.at = (float(head[0]), float(head[1]))
    form = page.get_by_role("region", name="Next stop")
    live = page.get_by_role("region", name="Receiver, live")
    expect(live).to_contain_text("sonde at 560 Hz")
    expect(live).to_contain_text("deep")
    live.get_by_role("button", name="Take").click()
    expect(form.locator("[name=depth]")).not_to_have_value("")
    page.goto(address + "/jobs/2/lines/7/fault")
    served.do("frame")
    form = page.get_by_role("region", name="Next reading")
    live = page.get_by_role("region", name="Frame, live")
    expect(live).to_contain_text("dB")
    form.get_by_role("textbox", name="Distance along").fill("3.5")
    readings = page.get_by_role("tab", name="Readings")
    before = readings.inner_text()
    served.do("log")
    doubt = page.get_by_role("button", name="Keep as typed")
    expect(doubt.or_(readings.filter(has_not_text=before)).first).to_be_visible()
