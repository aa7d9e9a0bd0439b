"""The demo jobs, as the open job files that anybody can import."""

from __future__ import annotations

from importlib.resources import files

DEMO_JOBS = ("ostrel-bay.vessel.json", "ostrel-bay-berth-2.vessel.json")
"""One job with a line at work, entered without a plan; one with a whole site drawn."""


def demo_text(name: str = DEMO_JOBS[0]) -> str:
    """Return the text of a demo job file."""
    return files("vessel.demo").joinpath(name).read_text(encoding="utf-8")
