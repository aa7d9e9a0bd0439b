"""What somebody finds who is asked for evidence, and the ground where that changed it."""

from dataclasses import replace

import numpy as np

from tests.trouble.grounds import KINDS, TARGET
from tests.trouble.located import by_themselves
from tests.trouble.network import Ground, Net
from tests.trouble.technician import KIT, REACH_M, driven, ears_of, rod_of
from vessel.core.judge.rivals.next_ask import Ask
from vessel.core.model.identity import EVIDENCE, Evidence, bonds_kept_open
from vessel.core.model.opened_bonds import with_bonds_open as with_entered_bonds_open
from vessel.core.signal.layout.placed_hookup import hookup_on

CANNOT, CANNOT_DIG = 0.2, 0.5


def can_be_found(kind, seed, question):
    """Whether an answer can be had on a site: each is one chance of its own, not one for the seed of every kind."""
    rng = np.random.default_rng([seed, 11, KINDS.index(kind), list(EVIDENCE).index(question)])
    return rng.random() >= (CANNOT_DIG if question == "exposed" else CANNOT)


def answer(w, ask, seed):
    """What somebody finds who is asked for evidence: "for", "against" or "cannot"."""
    if not can_be_found(w.truth.kind, seed, ask.kind):
        return "cannot"
    found = dug_at(w, ask.at_m) if ask.kind == "exposed" else FINDS[ask.kind](w)
    return "cannot" if found is None else "for" if found else "against"


def bonded_at_far_end(w):
    """Where the line ends; where it is broken or ends early that is where its box is looked for."""
    return any(near_far_end(w.truth, bond) for bond in w.truth.ground.bonds)


def near_far_end(truth, bond):
    i, at, j, to, _ = bond
    return max(at if i == TARGET else 0.0, to if j == TARGET else 0.0) > truth.line.length_m - 1.5


def at_hookup(bond):
    """Whether a bond sits on the line where it is hooked up."""
    i, at, j, to, _ = bond
    return (i == TARGET and at < 1.5) or (j == TARGET and to < 1.5)


def bonded_at_hookup(w):
    return any(map(at_hookup, w.truth.ground.bonds))


def currents_at_access(w):
    """Each conductor is read a little past the box: the current on the line, and the most on another one [A]."""
    net, amps, _ = driven(w.truth)
    others = [bond[2] if bond[0] == TARGET else bond[0] for bond in w.truth.ground.bonds if at_hookup(bond)]
    most = max((net.current_on(amps, o, 1.0) for o in others), default=0.0)
    return net.current_on(amps, TARGET, 1.0), most


def most_at_access(w):
    own, other = currents_at_access(w)
    return other <= own


def said(w, ask, seed):
    """The answer to an ask as evidence: with the currents read for it, and with what is answered in the same go."""
    found, read = answer(w, ask, seed), ()
    along = EVIDENCE[ask.kind].along
    if along is not None and found == "for":
        too = answer(w, Ask(along, (), 0.0, 0.0), seed)
        return [Evidence(kind, a) for kind, a in ((ask.kind, found), (along, too)) if a != "cannot"]
    if ask.kind == "conductors" and found != "cannot":
        read = tuple(float(f"{amps:.3g}") for amps in currents_at_access(w))
    return [Evidence(ask.kind, found, ask.at_m, *read, depth_m=dug_depth(w, ask, seed) if found == "for" else None)]


def ends_at_its_own(w):
    """Whether the trace ends at the box where the line ends; what shares that box ends there too. None if lost."""
    target, length = w.truth.ground.wire(TARGET), w.truth.line.length_m
    if w.final is None:
        return None
    if target.length_m < length - 1.0:
        return False  # no box of this line there
    ends = [0.0]
    for i, at, j, to, _ in w.truth.ground.bonds:
        there, far = ((j, to), at) if i == TARGET else ((i, at), to)
        if far > target.length_m - 1.0:
            ends.append(float(w.truth.ground.wire(there[0]).at(np.array([there[1]]))[0, 1]))
    return bool(min(abs(w.final[1] - y) for y in ends) < 0.6)


def agrees(w, net, amps, within=0.3, depth_too=False):
    """Whether another way of driving the line puts the peaks where they were marked."""
    ears = ears_of(net, amps, np.random.default_rng(3))
    for k in range(0, len(w.marks), max(1, len(w.marks) // 5)):
        way = w.marks[min(k + 1, len(w.marks) - 1)] - w.marks[max(k - 1, 0)]
        heading = way / np.linalg.norm(way) if len(w.marks) > 1 else np.array([1.0, 0.0])
        found = ears.peaks(w.marks[k], heading, REACH_M)[0]
        if not found:
            continue
        if abs(found[0][0]) > within:
            return False
        if depth_too:
            d = ears.display(w.marks[k] + found[0][0] * np.array([-heading[1], heading[0]]), heading)[0]
            if np.isfinite(d) and abs(d / w.stations[k].depth_m - 1) > 0.06:
                return False
    return True


def from_far_end(w):
    """Hooked up at the far end and followed back: the second trace must run over the first. None if it is lost."""
    target, t = w.truth.ground.wire(TARGET), w.truth
    if target.length_m < t.line.length_m - 1.0:
        return None  # the far end is not where it is looked for
    net = Net(t.ground, t.setup.freq_hz)
    ears = ears_of(net, net.direct(TARGET, target.length_m)[0] * 0.06, np.random.default_rng(3))
    heading = -target.heading(target.length_m - 0.5)[0]
    place, track = target.path[-1, :2] + 3.0 * heading, []
    while place[0] > w.marks[0, 0] - 1.0 and len(track) < 60:
        found = ears.peaks(place, heading, 2.0 if not track else REACH_M)[0]
        if not found or found[0][1] < 8 * ears.noise:
            break
        mark = place + found[0][0] * np.array([-heading[1], heading[0]])
        if track:
            way = mark - track[-1]
            heading = 0.3 * heading + 0.7 * way / np.linalg.norm(way)
            heading /= np.linalg.norm(heading)
        track.append(mark)
        place = mark + 3.0 * heading
    lost = place[0] > w.marks[0, 0] - 1.0
    if len(track) < 3:
        return None
    track = np.array(track)[::-1]
    inside = (w.marks[:, 0] > track[0, 0]) & (w.marks[:, 0] < track[-1, 0])
    if inside.sum() < 2:
        return None if lost else False
    there = np.interp(w.marks[inside, 0], track[:, 0], track[:, 1])
    return bool((np.abs(there - w.marks[inside, 1]) < 0.35).mean() > 0.85)


def at_second_frequency(w):
    freq = 4480.0 if w.truth.setup.freq_hz > 5000 else 8960.0
    if w.truth.setup.method == "induction":
        freq = 71680.0
    net, amps, _ = driven(w.truth, freq)
    return agrees(w, net, amps, 0.12, depth_too=True)


def by_clamp(w):
    net, _, _ = driven(w.truth)
    emf = np.zeros(len(net.a), dtype=complex)
    k = next(i for i, x in enumerate(w.truth.ground.wires) if x.name == TARGET)
    emf[np.flatnonzero(net.wire_of == k)[0]] = 1.0
    return agrees(w, net, net.by_emf(emf))


def coil_moved(w):
    """The coil a metre aside: the current here must fall as it would from the line the mark is over."""
    if w.truth.setup.method != "induction":
        return True
    read = [s.current_a for s in w.stations]
    x, y = w.truth.coil
    net, amps, _ = driven(w.truth, coil=(x, y + 1.0))
    ears = ears_of(net, amps, np.random.default_rng(5))
    now = ears.display(w.marks[0], np.array([1.0, 0.0]), noisy=False)[1]
    h = KIT.coil.height_m + w.stations[0].depth_m
    # EMF of a coil beside a long line goes with h / (h2 + y2); the crew believes the coil stands over the line
    return bool(abs(np.log(now / read[0] * (h**2 + 1.0) / h**2)) < 0.25)


def bond_opened(w):
    if not bonded_at_hookup(w):
        return True
    t = w.truth
    net = Net(with_bonds_open(t).ground, t.setup.freq_hz, rod=rod_of(t))
    return agrees(w, net, net.direct(TARGET, 0.0)[0] * 0.03)


def stake_moved(w):
    """The stake on the other side of the line, and away from what carried the current home: depth and current stay."""
    t = w.truth
    if not t.setup.by.connects:
        return None
    net, amps, _ = driven(with_stake_moved(t))
    ears = ears_of(net, amps, np.random.default_rng(7))
    for k in {0, len(w.marks) // 2, len(w.marks) - 1}:
        way = np.array([1.0, 0.0]) if len(w.marks) < 2 else w.marks[max(k, 1)] - w.marks[max(k, 1) - 1]
        depth, now, _ = ears.display(w.marks[k], way / np.linalg.norm(way), noisy=False)
        then = w.stations[k]
        if abs(np.log(now / np.median(then.current_a))) > 0.15 or abs(np.log(depth / then.depth_m)) > 0.08:
            return False
    return True


def with_stake_moved(truth):
    """The same ground with the stake on the other side, beside no line that carries the current home."""
    x, y = hookup_on(truth.line, truth.setup).stake_at
    return replace(truth, returns=(), setup=replace(truth.setup, stake_at=(x, -y)))


def with_bonds_open(truth, opened=frozenset(("here",))):
    """The same ground with what is bonded at ends of the line taken off."""
    g = truth.ground

    def end_of(bond):
        return "here" if at_hookup(bond) else "far" if near_far_end(truth, bond) else ""

    off = [b for b in g.bonds if end_of(b) in opened]
    names = {(b[2] if b[0] == TARGET else b[0], end_of(b)) for b in off}
    line = with_entered_bonds_open(truth.line, truth.setup, opened)
    kept = [b for b in g.bonds if b not in off]
    return replace(truth, ground=Ground(g.wires, g.rho, kept), line=line, taken_off=truth.taken_off | names)


def changed_by(truth, given):
    """The ground as answers leave it where the line has to be walked again; None where nothing was changed."""
    opened = bonds_kept_open(given)
    if opened:
        return with_bonds_open(truth, opened)
    e = given[0]
    if e.kind == "stake_moved" and e.answer == "against":
        return with_stake_moved(truth)
    return None


def beside_located(w):
    """Everything near is hooked up for itself and drawn where it was found: is that all, and none at the marks?"""
    near, apart = by_themselves(w)
    return len(near) == len(apart) and all((x.nearest(w.marks)[1] < 0.4).mean() <= 0.3 for x in near)


def dug_depth(w, ask, seed):
    """How deep the line lies in the hole, measured to a centimetre or so [m]."""
    if ask.kind != "exposed":
        return None
    k = int(np.abs(np.array([s.distance_m for s in w.stations]) - ask.at_m).argmin())
    return float(w.depth_m[k] + np.random.default_rng([seed, 17]).normal(0, 0.01))


def dug_at(w, at_m):
    """Whether the line is under the mark nearest to where it is dug."""
    return bool(w.off_m[int(np.abs(np.array([s.distance_m for s in w.stations]) - at_m).argmin())] < 0.3)


FINDS = {
    "access": lambda w: not bonded_at_hookup(w),
    "far_access": lambda w: not bonded_at_far_end(w),
    "conductors": most_at_access,
    "ends_at": ends_at_its_own,
    "second_frequency": at_second_frequency,
    "coil_aside": coil_moved,
    "clamp": by_clamp,
    "second_hookup": from_far_end,
    "bond_opened": bond_opened,
    "kept_open": lambda w: True,
    "far_kept_open": lambda w: True,
    "stake_moved": stake_moved,
    "beside_located": beside_located,
}
