import { Footprints } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, type Job, type LineState, type Trace, take } from "../../api/client";
import { useChange, useStation, useTrace } from "../../api/queries";
import { formatter } from "../../api/units";
import { TraceRibbon } from "../../pictures/TraceRibbon";
import { VERDICTS } from "../../pictures/Verdict";
import { Button, buttonClass } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";
import { StageBench } from "../../ui/StageBench";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { Struck } from "../history/Struck";
import { Remedies } from "../hookup/Remedies";
import { useIdentityView } from "../identity/IdentityCard";
import { AcrossCard } from "./AcrossCard";
import { PasteColumns } from "./PasteColumns";
import { StationCard } from "./StationCard";
import { StationForm } from "./StationForm";
import { StationTable } from "./StationTable";
import { Walking } from "./Walking";

export default function TracePage({ job, line }: { job: Job; line: LineState }) {
  const trace = useTrace(line.setup_id);
  if (line.setup_id === null)
    return (
      <div className="card">
        <h2>Nothing on the line yet</h2>
        <p className="mb-3">Choose a setup and hook up first; stations are judged against its forecast.</p>
        <Link className={buttonClass("main")} to={`/jobs/${job.id}/lines/${line.id}/plan`}>
          To the plan
        </Link>
      </div>
    );
  return (
    <Wait query={trace} doing="Checking the stations">
      {(t) => <TraceView key={t.setup_id} trace={t} job={job} />}
    </Wait>
  );
}

function TraceView({ trace, job }: { trace: Trace; job: Job }) {
  const [chosen, setChosen] = useState<number | null>(trace.stations.at(-1)?.id ?? null);
  const [editing, setEditing] = useState<number | null>(null);
  const [view, setView] = useState("stations");
  const [walking, setWalking] = useState(false);
  const go = useNavigate();
  /** Opens a view and brings it into sight: on a phone it lies below. */
  const show = (id: string) => {
    setView(id);
    requestAnimationFrame(() =>
      document.querySelector('[role="tab"][data-state="active"]')?.scrollIntoView({ block: "start" }),
    );
  };
  const station = trace.stations.find((s) => s.id === chosen) ?? trace.stations.at(-1) ?? null;
  const detail = useStation(station?.id ?? null);
  const identity = useIdentityView(trace.setup_id, job);
  const at = trace.stations.findIndex((s) => s.id === station?.id);
  const beside = (by: number) => {
    const other = trace.stations[at + by];
    return other && station ? () => setChosen(other.id) : undefined;
  };
  const edited = editing !== null && detail.data?.id === editing ? detail.data : null;
  if (walking)
    return (
      <Walking
        trace={trace}
        onLeave={() => {
          setWalking(false);
          setChosen(null);
        }}
      />
    );
  return (
    <StageBench
      bench={
        <>
          {/* heard when a verdict changes or another station is looked at */}
          <p aria-live="polite" className="sr-only">
            {station
              ? `${station.distance_text}: ${VERDICTS[station.verdict].label}. ${station.headline}`
              : ""}
          </p>
          <Button className="w-full lg:hidden" onClick={() => setWalking(true)}>
            <Footprints aria-hidden className="size-5" /> Walking mode
          </Button>
          {trace.sweep_text ? (
            <p className="card border-2 border-care font-semibold" data-sweep-warning>
              {trace.sweep_text}{" "}
              <Link className="underline" to={`/jobs/${job.id}/lines/${trace.line_id}/sweep`}>
                To the sweep
              </Link>
            </p>
          ) : null}
          {station ? (
            <Wait query={detail} doing="Reading the station">
              {(s) => (
                <StationCard
                  key={s.id}
                  station={s}
                  job={job}
                  onEdit={() => setEditing(s.id)}
                  onRemoved={() => setChosen(null)}
                  onNext={(where) => {
                    if (where === "correct") setEditing(s.id);
                    else if (where === "hookup" || where === "sweep")
                      go(`/jobs/${job.id}/lines/${trace.line_id}/${where}`);
                    else show(where);
                  }}
                  onBefore={beside(-1)}
                  onAfter={beside(1)}
                />
              )}
            </Wait>
          ) : null}
          <StationForm
            key={edited ? `edit-${edited.id}` : "new"}
            trace={trace}
            job={job}
            station={edited}
            onSaved={(id) => {
              // another correction begun while this one was being saved stays open
              setEditing((now) => (now === id ? null : now));
              setChosen(id);
            }}
            onCancel={() => setEditing(null)}
          />
        </>
      }
      stage={
        <>
          <section className="card lg:p-2" aria-label="Trace ribbon">
            <h2 className="sr-only">Trace ribbon</h2>
            {trace.learned_text ? (
              <p className="text-sm font-semibold" data-learned>
                {trace.learned_text}
              </p>
            ) : null}
            <TraceRibbon
              trace={trace}
              format={formatter(job.units)}
              chosen={station?.id ?? null}
              onChoose={setChosen}
            />
          </section>
          <Views
            label="Of this trace"
            value={view}
            onChange={setView}
            views={[
              {
                id: "stations",
                label: "Stations",
                note: String(trace.stations.length),
                show: <Stations trace={trace} chosen={station?.id ?? null} onChoose={setChosen} />,
              },
              station && station.distance_m <= trace.length_m
                ? {
                    id: "across",
                    label: "Across",
                    show: (
                      <AcrossCard
                        setupId={trace.setup_id}
                        atM={station.distance_m}
                        job={job}
                        station={detail.data?.id === station.id ? detail.data : null}
                      />
                    ),
                  }
                : null,
              identity,
              {
                id: "help",
                label: "What would help",
                show: <Remedies setupId={trace.setup_id} lineId={trace.line_id} job={job} />,
              },
              { id: "forecast", label: "Forecast", show: <Forecast trace={trace} /> },
            ]}
          />
        </>
      }
    />
  );
}

function Stations(p: { trace: Trace; chosen: number | null; onChoose: (id: number) => void }) {
  const { trace } = p;
  const [pasting, setPasting] = useState(false);
  const restore = useChange("station", (station_id: number) =>
    take(api.POST("/api/stations/{station_id}/restore", { params: { path: { station_id } } })),
  );
  return (
    <>
      {trace.events.length || trace.end_text ? (
        <ul className="mb-2 grid gap-1" aria-label="What happened along the trace">
          {trace.end_text ? (
            <li data-event="taper" className="border-l-4 border-need pl-2 leading-snug">
              {trace.end_text} <strong>{trace.end_step}</strong>
            </li>
          ) : null}
          {trace.events.map((e) => (
            <li
              key={`${e.kind}-${e.start_m}`}
              data-event={e.kind}
              className="border-l-4 border-care pl-2 leading-snug"
            >
              <strong>{e.label}.</strong> {e.text} <strong>{e.next_step}</strong>
            </li>
          ))}
        </ul>
      ) : null}
      <StationTable trace={trace} chosen={p.chosen} onChoose={p.onChoose} />
      <Struck entries={trace.struck} onRestore={(id) => restore.mutate(id)} />
      <Button onClick={() => setPasting(true)} className="mt-2 text-sm">
        Paste stations
      </Button>
      <Sheet title="Paste stations" open={pasting} onClose={() => setPasting(false)}>
        <PasteColumns setupId={trace.setup_id} onDone={() => setPasting(false)} />
      </Sheet>
    </>
  );
}

/** What the stations are held against: the setup, its forecast, and what neighbours take of it. */
function Forecast({ trace }: { trace: Trace }) {
  return (
    <>
      <p className="font-semibold">{trace.title}</p>
      <p>{trace.band_text}</p>
      {trace.beside.length ? (
        <ul className="mt-2" aria-label="Forecast on neighbours">
          {trace.beside.map((b) => (
            <li key={b.text}>
              <strong>Bleed-off:</strong> {b.text}.
            </li>
          ))}
        </ul>
      ) : null}
    </>
  );
}
