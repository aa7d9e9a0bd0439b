"""Lines as views: state, cover, form."""

from __future__ import annotations

from typing import Any, cast

from vessel.api.line_answers import coverage_of
from vessel.api.lines.views import CoverLength, CoverStretch, CoverView, LineDetail, LineState, NeighbourTyped
from vessel.api.literals import StepName
from vessel.api.marking.present import utility_view
from vessel.api.retyped_text import length_typed
from vessel.core.judge.trace.coverage import COVER_STATES
from vessel.core.model.construction import preset
from vessel.core.model.line import ACCESS_TICKS
from vessel.core.text.entry import Quantity
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units
from vessel.formats.job_file import NearDoc
from vessel.formats.loaded_job import LoadedJob, LoadedLine
from vessel.store.tables import LineRow
from vessel.words.access_sentences import access_text
from vessel.words.labels import NEXT_LABEL
from vessel.words.mark_sentences import depths_text
from vessel.words.work_sentences import setup_text


def _steps(line: LoadedLine) -> list[StepName]:
    """The way of a line: a signal on its metal, a sonde through it, or both."""
    if not line.has_metal:
        return ["plan", "sonde", "mark"]
    by_metal: list[StepName] = ["plan", "hookup", "sweep", "trace"]
    return [*by_metal, *(["sonde"] if line.runs else []), *(["fault"] if line.walks else []), "mark"]  # type: ignore[list-item]


def _step(line: LoadedLine, *, marked: int, stations: int) -> StepName:
    setup, run = line.in_use, line.run_in_use
    if run is not None and (setup is None or run.row.created_at >= setup.row.created_at):
        return "mark" if any(s.mark for s in run.stops) else "sonde"
    if setup is None:
        return "plan"
    if not setup.readings and not setup.setup.by.through_air and not stations:
        return "hookup"
    if not stations and not setup.candidates:
        return "sweep"
    return "mark" if marked else "trace"


def near_text(line: LineRow) -> str:
    """Return the access point in words."""
    return access_text(**NearDoc.model_validate(line.near).model_dump())


def neighbour_text(n: dict[str, Any], units: Units) -> str:
    """Return what runs beside a line in words: `Water main, 1.2 m right, from 10 m to 80 m`."""
    side = "left" if n["offset_m"] > 0 else "right"
    start, end = (None if n[k] is None else show_length(n[k], units) for k in ("start_m", "end_m"))
    where = f"from {start or 'before the start'} to {end or 'past the end'}" if start or end else "all along"
    bonded = "" if n["bond_m"] is None else f", bonded at {show_length(n['bond_m'], units)}"
    return f"{n['name']}, {show_length(abs(n['offset_m']), units)} {side}, {where}{bonded}"


def neighbour_typed(n: dict[str, Any], units: Units) -> dict[str, Any]:
    """Return a stored neighbour as it was typed, for the form."""
    typed = n["typed"]
    lengths: dict[str, tuple[float | None, Quantity]] = {
        "offset": (abs(n["offset_m"]), "distance"),
        "start": (n["start_m"], "distance"),
        "end": (n["end_m"], "distance"),
        "depth": (n["depth_m"], "depth"),
        "bond": (n["bond_m"], "distance"),
    }
    return {
        "name": n["name"],
        "preset": n["preset"],
        "side": "left" if n["offset_m"] > 0 else "right",
        **{
            k: "" if value is None else length_typed(typed.get(k), value, quantity=q, units=units)
            for k, (value, q) in lengths.items()
        },
        "start_earth": typed.get("start_earth", ""),
        "end_earth": typed.get("end_earth", ""),
    }


def beside_choices(job: LoadedJob) -> list[NeighbourTyped]:
    """Return the lines of a job as each would be entered beside another: its make-up, depth and earths."""
    found = []
    for line in (x.row for x in job.lines):
        depth = 0.5 * (line.depth_min_m + line.depth_max_m)
        near = line.near["earth_ohm"]
        far = None if line.far_kind == "open" else line.far_earth_ohm
        found.append(
            NeighbourTyped(
                name=line.name,
                preset=line.preset,
                of_line=line.id,
                side="left",
                offset="",
                start="",
                end="",
                bond="",
                depth=f"{depth:.3g}m",
                start_earth="" if near is None else f"{near:g}",
                end_earth="" if far is None else f"{far:g}",
            )
        )
    return found


def point_text(p: dict[str, Any], units: Units) -> str:
    """Return what stands on a line in words: `Lamp column 2 at 31 m, earthed 12 ohm`."""
    earthed = "" if p["earth_ohm"] is None else f", earthed {p['earth_ohm']:g} ohm"
    coil = "" if p.get("solenoid_ohm") is None else f", signal goes on through its solenoid, {p['solenoid_ohm']:g} ohm"
    live = ", LIVE" if p["live"] else ""
    return f"{p['name']} at {show_length(p['at_m'], units)}{earthed}{coil}{live}"


def _point_typed(p: dict[str, Any], units: Units) -> dict[str, Any]:
    return {
        **{k: p.get(k, False) for k in ("name", "kind", *ACCESS_TICKS)},
        "at": length_typed(p["typed"].get("at"), p["at_m"], quantity="distance", units=units),
        **{k: p["typed"].get(k, "") for k in ("earth", "solenoid", "inductance")},
    }


def _beside_text(line: LineRow, units: Units) -> str:
    told = [neighbour_text(n, units) for n in line.neighbours]
    if line.route:
        told = ["what the site plan has", *told]
    return "; ".join(told) or "nothing entered"


def line_state(loaded: LoadedLine) -> LineState:
    """Return a line with where it stands; counts are over every hookup."""
    line, setup, units = loaded.row, loaded.in_use, loaded.job.units
    stations = [s for x in loaded.setups for s in x.stations]
    stops = [s for x in loaded.runs for s in x.stops]
    marks = sum(s.mark is not None for s in stations) + sum(s.mark is not None for s in stops)
    step = _step(loaded, marked=marks, stations=len(stations))
    low, high = (show_length(d, units, fine=True) for d in (line.depth_min_m, line.depth_max_m))
    far = {"open": "open", "unknown": "unknown", "earthed": f"earthed, {line.far_earth_ohm:g} ohm"}[line.far_kind]
    return LineState(
        id=line.id,
        name=line.name,
        utility=utility_view(line.utility, loaded.job.marking),
        preset=line.preset,
        preset_label=preset(line.preset).label,
        length_m=line.length_m,
        length_text=show_length(line.length_m, units),
        depth_text=f"{low} to {high}",
        far_text=far,
        beside_text=_beside_text(line, units),
        points_text="; ".join(point_text(p, units) for p in line.points),
        near_text=near_text(line) + (f" · {line.near_note}" if line.near_note else ""),
        step=step,
        setup_id=setup.row.id if setup else None,
        setup_text=setup_text(setup.setup, setup.job.units) if setup else None,
        stations=len(stations) + len(stops),
        steps=_steps(loaded),
        hollow=preset(line.preset).hollow,
        marks=marks,
        cover=cover_view(loaded),
        next_text=NEXT_LABEL[step],
    )


def cover_view(line: LoadedLine) -> CoverView:
    """Return how much of a line is marked, doubtful and not located."""
    found, units = coverage_of(line), line.job.units
    lengths = {"marked": found.marked_m, "doubtful": found.doubtful_m, "missing": found.missing_m}
    return CoverView(
        length_m=line.row.length_m,
        wanted_text=show_length(found.wanted_m, units),
        lengths=[CoverLength(state=state, text=show_length(lengths[state], units)) for state in COVER_STATES],
        stretches=[
            CoverStretch(
                start_m=s.start_m,
                end_m=s.end_m,
                state=s.state,
                text=f"{show_length(s.start_m, units)} to {show_length(s.end_m, units)}",
                depth_text=depths_text(s.depths_m, units),
            )
            for s in found.stretches
        ],
    )


def line_detail(line: LineRow, seen: int) -> LineDetail:
    """Return a line as it was typed, for its form; `seen`: the newest change of its job."""
    typed, units = line.typed, cast(Units, line.job.units)
    return LineDetail.model_validate(
        {
            "id": line.id,
            "job_id": line.job_id,
            "name": line.name,
            "utility": line.utility,
            "preset": line.preset,
            "construction": line.construction,
            "length": length_typed(typed.get("length"), line.length_m, quantity="distance", units=units),
            "depth_min": length_typed(typed.get("depth_min"), line.depth_min_m, quantity="depth", units=units),
            "depth_max": length_typed(typed.get("depth_max"), line.depth_max_m, quantity="depth", units=units),
            **{k: line.near.get(k, False) for k in ACCESS_TICKS},
            "near_earth": typed.get("near_earth", ""),
            "near_note": line.near_note,
            "far_kind": line.far_kind,
            "far_earth": typed.get("far_earth", ""),
            "neighbours": [neighbour_typed(n, units) for n in line.neighbours],
            "points": [_point_typed(p, units) for p in line.points],
            "seen": seen,
        }
    )
