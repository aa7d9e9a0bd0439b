"""The views that are looked at one by one: used outdoors, and indoors."""

LINE = "/jobs/1/lines/1"
OUTDOORS = [
    *(f"{LINE}/{step}" for step in ("plan", "hookup", "sweep", "trace", "mark")),
    *(
        "/jobs/2/before",
        "/jobs/2/site",
        "/jobs/2/site/draw",
        "/jobs/1/progress",
        "/jobs/2/lines/9/sonde",
        "/jobs/2/lines/7/fault",
    ),
]
INDOORS = [
    "/",
    "/practice",
    "/jobs/1/record",
    "/kit",
    "/rules",
    "/jobs/1/marking",
    "/jobs/2/lines/2/plan",
    "/jobs/2/site/background",
]
