"""What is entered at a station, at the transmitter, for a centre line and at a sonde's stop: one table each.

The tables drive forms, columns of pasted readings, database columns, documents of the job file, snapshots kept with
marks, and the texts given back to forms. Adding a field is one entry here and a migration; a rule that uses it reads
it from the record of the same column.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from vessel.core.base.errors import require_range
from vessel.core.text.entry import Quantity

Shape = Literal["number", "numbers", "pairs", "beside", "choice", "tick"]
"""A number, several, pairs of offset and signal, triples of offset, current and signal, one of a list, a tick."""


@dataclass(frozen=True, kw_only=True)
class EntryField:
    """One thing that is read and entered.

    Attributes:
        id: Name in forms and messages.
        column: Name of its SI value in records, documents, the database and snapshots.
        name: The trade's term, for messages and labels.
        shape: What it holds.
        quantity: How typed text is understood; None for a choice or a tick.
        low, high: Range of each number [unit].
        unit: SI unit of the value.
        choices: For a choice, what is sent and what is kept for it; the first is "not read".
        required: Whether an entry needs it.
        headers: Words that name its column in pasted readings; none: it is not pasted.
        tapped: Whether the tap pad leads to it.
        more: Whether it is further evidence, folded away in the form.
        since: Minor version of the job file it came with; files before that do without it.
        early: Whether it came before versions were counted: some files of version 1.0 do without it.
    """

    id: str
    column: str
    name: str
    shape: Shape = "number"
    quantity: Quantity | None = None
    low: float = 0.0
    high: float = 1e9
    unit: str = ""
    choices: tuple[tuple[str, Any], ...] = ()
    required: bool = False
    headers: tuple[str, ...] = ()
    tapped: bool = False
    more: bool = False
    since: int = 0
    early: bool = False

    @property
    def nothing(self) -> Any:
        """The value where it was not read."""
        if self.shape == "number":
            return None
        if self.shape == "choice":
            return self.choices[0][1]
        return False if self.shape == "tick" else []

    def check(self, record: Any) -> None:
        """Check this field of a record.

        Args:
            record: What holds the value, under the field's own name.

        Raises:
            OutOfRange: If a number is out of range; names the field.
        """
        self.check_value(getattr(record, self.column))

    def check_value(self, value: Any) -> None:
        """Check one value of this field.

        Args:
            value: A number, a list of them, or None.

        Raises:
            OutOfRange: If a number is out of range; names the field.
        """
        if self.shape == "number" and value is not None:
            self._check(value)
        elif self.shape == "numbers":
            for each in value:
                self._check(each)

    def _check(self, value: float) -> None:
        require_range(value, low=self.low, high=self.high, field=self.id, name=self.name, unit=self.unit)


STATION_FIELDS: list[EntryField] = [
    EntryField(
        id="distance",
        column="distance_m",
        name="Distance",
        quantity="distance",
        high=2e4,
        unit="m",
        required=True,
        headers=("distance", "station", "chainage", "along", "dist"),
        tapped=True,
    ),
    EntryField(
        id="currents",
        column="currents_a",
        name="Current",
        shape="numbers",
        quantity="currents",
        high=10.0,
        unit="A",
        headers=("current", "ma"),
        tapped=True,
    ),
    EntryField(
        id="depth",
        column="depth_m",
        name="Depth",
        quantity="depth",
        low=0.01,
        high=15.0,
        unit="m",
        headers=("depth", "cover"),
        tapped=True,
    ),
    EntryField(
        id="peak_null",
        column="peak_null_m",
        name="Peak-to-null distance",
        quantity="offset",
        high=10.0,
        unit="m",
        headers=("null",),
        tapped=True,
    ),
    EntryField(
        id="lift_height",
        column="lift_height_m",
        name="Lift height",
        quantity="offset",
        low=0.05,
        high=2.5,
        unit="m",
        headers=("lift",),
        tapped=True,
    ),
    EntryField(
        id="depth_lifted",
        column="depth_lifted_m",
        name="Depth lifted",
        quantity="depth",
        low=0.01,
        high=20.0,
        unit="m",
        headers=("depth lifted", "lifted depth", "depth when lifted"),
        tapped=True,
    ),
    EntryField(
        id="neighbour",
        column="neighbour_a",
        name="Current on a neighbour",
        quantity="current",
        high=10.0,
        unit="A",
        headers=("neighbour", "neighbor", "beside"),
        tapped=True,
    ),
    EntryField(
        id="direction",
        column="direction",
        name="Current direction",
        shape="choice",
        choices=(("", ""), ("away", "away"), ("towards", "towards")),
        early=True,
    ),
    EntryField(id="lost", column="lost", name="Signal and guidance gone", shape="tick", early=True),
    EntryField(
        id="signal",
        column="signal",
        name="Signal",
        quantity="signal",
        low=1e-6,
        headers=("signal", "gain"),
        more=True,
        early=True,
    ),
    EntryField(
        id="neighbours",
        column="neighbours",
        name="Neighbours",
        shape="beside",
        quantity="neighbours",
        more=True,
        early=True,
    ),
    EntryField(
        id="profile",
        column="profile",
        name="Readings across the line",
        shape="pairs",
        quantity="profile",
        more=True,
        early=True,
    ),
]

READING_FIELDS: list[EntryField] = [
    EntryField(
        id="volts", column="volts", name="Volts", quantity="volts", low=0.01, high=2000, unit="V", required=True
    ),
    EntryField(
        id="milliamps", column="amps", name="Current", quantity="current", low=1e-5, high=10, unit="A", required=True
    ),
    EntryField(
        id="freq",
        column="freq_hz",
        name="Frequency",
        quantity="frequency",
        low=100,
        high=500e3,
        unit="Hz",
        required=True,
    ),
    EntryField(
        id="change",
        column="change",
        name="Changed just before",
        shape="choice",
        choices=(("", ""), ("stake", "stake"), ("clip", "clip"), ("far", "far"), ("bond", "bond")),
        early=True,
    ),
    EntryField(
        id="beside",
        column="beside",
        name="Lines beside",
        shape="choice",
        choices=(("", ""), ("quiet", "quiet"), ("carries", "carries")),
        since=2,
    ),
    EntryField(id="anew", column="anew", name="Start again from this reading", shape="tick", since=2),
]

CANDIDATE_FIELDS: list[EntryField] = [
    EntryField(
        id="bearing",
        column="bearing_deg",
        name="Bearing",
        quantity="bearing",
        low=-360.0,
        high=360.0,
        unit="degrees",
        required=True,
    ),
    EntryField(id="current", column="current_a", name="Current", quantity="current", high=10.0, unit="A"),
    EntryField(id="depth", column="depth_m", name="Depth", quantity="depth", high=15.0, unit="m"),
    EntryField(id="signal", column="signal", name="Signal", quantity="signal"),
    EntryField(id="signal_lifted", column="signal_lifted", name="Signal lifted", quantity="signal"),
    EntryField(id="lift_height", column="lift_m", name="Lift height", quantity="offset", high=2.5, unit="m"),
    EntryField(
        id="direction",
        column="direction",
        name="Current direction",
        shape="choice",
        choices=(("", 0), ("away", 1), ("towards", -1)),
    ),
]
