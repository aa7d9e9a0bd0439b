"""What was read over the ground, as explanations are held against it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from vessel.core.base.arrays import Floats, Mask
from vessel.core.judge.rivals.at_stations import AtStations, Noise
from vessel.core.judge.rivals.explained_across import ReadAcross
from vessel.core.judge.rivals.likelihood import CurrentDoubt, of_directions, of_records, of_stations
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.judge.rivals.worked_out_rivals import Rivals
from vessel.core.model.kit import Receiver


@dataclass(frozen=True, eq=False)
class Read:
    """What explanations are fitted to: s stations, the logarithm of their current against the drive, and doubts.

    `hookup_m`: where along the line it is hooked up [m]; None where no direction can be told from it.
    """

    used: UsedStations
    log_amps: Floats
    doubt: CurrentDoubt
    noise: Noise
    receiver: Receiver
    depth_range_m: tuple[float, float]
    hookup_m: float | None = None

    def part(self, which: Mask) -> Read:
        """Return what was read at some of the stations.

        Args:
            which: Which of them, shape (s,).

        Returns:
            The same, the others left out.
        """
        used, log_amps = self.used.part(which), self.log_amps[which]
        doubt = CurrentDoubt(self.doubt.common[:, which], self.doubt.own[which])
        return replace(self, used=used, log_amps=log_amps, doubt=doubt, noise=self.noise.part(which))


def foretold(rivals: Rivals, there: AtStations, known: Read) -> Floats:
    """Return how well each explanation foretold what was read.

    Args:
        rivals: h explanations, worked out.
        there: What they show at the stations.
        known: What was read there.

    Returns:
        Logarithm of the likelihood, shape (h,).
    """
    found = of_stations(known.used, there, known.log_amps, known.doubt, known.depth_range_m, known.noise)
    if known.hookup_m is not None:
        found = found + of_directions(known.used, there, known.hookup_m)
    found = found + of_records(known.used, there, rivals.sided)
    return found + ReadAcross(rivals, known.used, there, known.receiver).likely()
