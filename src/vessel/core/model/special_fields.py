"""What is entered at a stop of a sonde run and at a place of a walk with the frame: tables as in `entry_fields`."""

from __future__ import annotations

from vessel.core.model.entry_fields import EntryField

STOP_FIELDS: list[EntryField] = [
    EntryField(
        id="distance",
        column="distance_m",
        name="Distance",
        quantity="distance",
        high=2e4,
        unit="m",
        required=True,
        tapped=True,
    ),
    EntryField(id="rod", column="rod_m", name="Rod out", quantity="distance", high=500.0, unit="m", tapped=True),
    EntryField(
        id="null_before",
        column="null_before_m",
        name="Null before the peak",
        quantity="distance",
        high=2e4,
        unit="m",
        tapped=True,
    ),
    EntryField(
        id="null_after",
        column="null_after_m",
        name="Null after the peak",
        quantity="distance",
        high=2e4,
        unit="m",
        tapped=True,
    ),
    EntryField(
        id="depth", column="depth_m", name="Depth", quantity="depth", low=0.01, high=15.0, unit="m", tapped=True
    ),
    EntryField(
        id="mode",
        column="mode",
        name="Receiver's mode",
        shape="choice",
        choices=(("", ""), ("sonde", "sonde"), ("line", "line")),
    ),
    EntryField(id="signal", column="signal", name="Signal", quantity="signal", low=1e-6, tapped=True),
    EntryField(
        id="lift_height",
        column="lift_height_m",
        name="Lift height",
        quantity="offset",
        low=0.05,
        high=2.5,
        unit="m",
        more=True,
    ),
    EntryField(
        id="depth_lifted",
        column="depth_lifted_m",
        name="Depth lifted",
        quantity="depth",
        low=0.01,
        high=20.0,
        unit="m",
        more=True,
    ),
    EntryField(id="ghost_before", column="ghost_before", name="Ghost peak before", quantity="signal", more=True),
    EntryField(id="ghost_after", column="ghost_after", name="Ghost peak after", quantity="signal", more=True),
    EntryField(id="signal_turned", column="signal_turned", name="Signal turned", quantity="signal", more=True),
    EntryField(id="off", column="off_m", name="Beside the line", quantity="offset", high=30.0, unit="m", more=True),
    EntryField(
        id="side",
        column="side",
        name="Which side",
        shape="choice",
        choices=(("left", "left"), ("right", "right")),
        more=True,
    ),
]
"""What is read at a stop of a sonde run; all came with job file 1.6."""

FRAME_FIELDS: list[EntryField] = [
    EntryField(
        id="distance",
        column="distance_m",
        name="Distance",
        quantity="distance",
        high=2e4,
        unit="m",
        required=True,
        tapped=True,
    ),
    EntryField(
        id="arrow",
        column="arrow",
        name="Frame points",
        shape="choice",
        choices=(("on", "on"), ("back", "back"), ("null", "null")),
    ),
    EntryField(id="level", column="level", name="Level", quantity="signal", tapped=True),
    EntryField(
        id="across",
        column="across",
        name="Turned across",
        shape="choice",
        choices=(("", ""), ("null", "null"), ("left", "left"), ("right", "right")),
    ),
]
"""What is read at a place of a walk with the frame; all came with job file 1.7."""
