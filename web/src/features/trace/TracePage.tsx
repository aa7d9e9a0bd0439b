import { useState } from "react";
import { Link } from "react-router";
import { api, type Job, type LineState, type Trace, take } from "../../api/client";
import { useChange, useStation, useTrace } from "../../api/queries";
import { formatter } from "../../api/units";
import { TraceRibbon } from "../../pictures/TraceRibbon";
import { Button, buttonClass } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";
import { Wait } from "../../ui/Wait";
import { Struck } from "../history/Struck";
import { Remedies } from "../hookup/Remedies";
import { IdentityCard } from "../identity/IdentityCard";
import { AcrossCard } from "./AcrossCard";
import { PasteColumns } from "./PasteColumns";
import { StationCard } from "./StationCard";
import { StationForm } from "./StationForm";
import { StationTable } from "./StationTable";

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
  const [pasting, setPasting] = useState(false);
  const [editing, setEditing] = useState<number | null>(null);
  const station = trace.stations.find((s) => s.id === chosen) ?? trace.stations.at(-1) ?? null;
  const restore = useChange("station", (station_id: number) =>
    take(api.POST("/api/stations/{station_id}/restore", { params: { path: { station_id } } })),
  );
  const detail = useStation(station?.id ?? null);
  const edited = editing !== null && detail.data?.id === editing ? detail.data : null;
  return (
    <div className="grid grid-cols-1 gap-4">
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
            />
          )}
        </Wait>
      ) : null}
      <IdentityCard setupId={trace.setup_id} job={job} />
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
      <Sheet title="Paste stations" open={pasting} onClose={() => setPasting(false)}>
        <PasteColumns setupId={trace.setup_id} onDone={() => setPasting(false)} />
      </Sheet>
      <section className="card" aria-label="Trace ribbon">
        <div className="flex flex-wrap items-center justify-between gap-2">
          <h2>Trace ribbon</h2>
          <Button onClick={() => setPasting(true)} className="text-sm">
            Paste stations
          </Button>
        </div>
        <p className="mb-1 text-sm text-quiet">
          {trace.title}. {trace.band_text}
        </p>
        {trace.learned_text ? (
          <p className="mb-1 font-semibold" data-learned>
            {trace.learned_text}
          </p>
        ) : null}
        <TraceRibbon
          trace={trace}
          format={formatter(job.units)}
          chosen={station?.id ?? null}
          onChoose={setChosen}
        />
        {trace.events.length ? (
          <ul className="mb-2 grid gap-1" aria-label="What happened along the trace">
            {trace.events.map((e) => (
              <li key={`${e.kind}-${e.start_m}`} data-event={e.kind} className="border-t border-edge py-1">
                <strong>{e.label}.</strong> {e.text} <strong>{e.next_step}</strong>
              </li>
            ))}
          </ul>
        ) : null}
        {trace.beside.length ? (
          <ul className="mb-2 text-sm" aria-label="Forecast on neighbours">
            {trace.beside.map((b) => (
              <li key={b.text}>
                <strong>Bleed-off forecast:</strong> {b.text}.
              </li>
            ))}
          </ul>
        ) : null}
        <StationTable trace={trace} chosen={station?.id ?? null} onChoose={setChosen} />
        <Struck entries={trace.struck} onRestore={(id) => restore.mutate(id)} />
      </section>
      <Remedies setupId={trace.setup_id} lineId={trace.line_id} job={job} />
      {station && station.distance_m <= trace.length_m ? (
        <AcrossCard
          setupId={trace.setup_id}
          atM={station.distance_m}
          job={job}
          best={detail.data?.id === station.id ? detail.data.estimate : null}
        />
      ) : null}
    </div>
  );
}
