import { useState } from "react";
import { api, type Job, type LineState, type Schemas, take } from "../../api/client";
import { useChange, useSonde, useStop } from "../../api/queries";
import { formatter } from "../../api/units";
import { ExpectedOverHead } from "../../pictures/ExpectedOverHead";
import { OverHead } from "../../pictures/OverHead";
import { SondeRun } from "../../pictures/SondeRun";
import { VERDICTS, VerdictBadge } from "../../pictures/Verdict";
import { Checklist, useSteps } from "../../ui/Checklist";
import { StageBench } from "../../ui/StageBench";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { HistoryButton } from "../history/History";
import { Struck } from "../history/Struck";
import { RunForm } from "./RunForm";
import { StopCard } from "./StopCard";
import { StopForm } from "./StopForm";

type Sonde = Schemas["SondeView"];
type Run = Schemas["RunView"];

export default function SondePage({ job, line }: { job: Job; line: LineState }) {
  const sonde = useSonde(line.id);
  return (
    <Wait query={sonde} doing="Reading the sonde run">
      {(s) =>
        s.run ? (
          <Running key={s.run.id} sonde={s} run={s.run} job={job} />
        ) : (
          <Start sonde={s} job={job} line={line} />
        )
      }
    </Wait>
  );
}

/** Before the first run: what to set, and what to expect over the head. */
function Start({ sonde, job, line }: { sonde: Sonde; job: Job; line: LineState }) {
  return (
    <StageBench
      bench={
        <section className="card lg:p-3" aria-label="Start a sonde run">
          <h2>Start a sonde run</h2>
          <p className="mb-3">
            Push a sonde through the pipe and find it from above, stop by stop.
            {line.hollow ? "" : " This line is no open pipe: check that a head can go through it at all."}
          </p>
          <RunForm sonde={sonde} job={job} run={null} />
        </section>
      }
      stage={<ExpectedOverHead sonde={sonde} job={job} />}
    />
  );
}

function Running({ sonde, run, job }: { sonde: Sonde; run: Run; job: Job }) {
  const [chosen, setChosen] = useState<number | null>(sonde.stops.at(-1)?.id ?? null);
  const [editing, setEditing] = useState<number | null>(null);
  const stop = sonde.stops.find((s) => s.id === chosen) ?? sonde.stops.at(-1) ?? null;
  const detail = useStop(stop?.id ?? null);
  const restore = useChange("stop", (stop_id: number) =>
    take(api.POST("/api/stops/{stop_id}/restore", { params: { path: { stop_id } } })),
  );
  const edited = editing !== null && detail.data?.id === editing ? detail.data : null;
  const order = useSteps({
    key: ["line", sonde.line_id, "sonde"],
    steps: run.steps,
    keep: (steps_done) =>
      take(
        api.PATCH("/api/sonde-runs/{run_id}", {
          params: { path: { run_id: run.id } },
          body: { steps_done },
        }),
      ),
  });
  const ready = order.step === undefined;
  const checklist = (
    <Checklist
      order={order}
      finished="Every step is done. Pull the rod back slowly when you are through, and clean head and rod."
    />
  );
  const format = formatter(job.units);
  return (
    <StageBench
      bench={
        <>
          <p aria-live="polite" className="sr-only">
            {stop ? `${stop.distance_text}: ${VERDICTS[stop.verdict].label}. ${stop.headline}` : ""}
          </p>
          {ready ? null : checklist}
          {stop ? (
            <Wait query={detail} doing="Reading the stop">
              {(s) => (
                <StopCard
                  key={s.id}
                  stop={s}
                  job={job}
                  onEdit={() => setEditing(s.id)}
                  onRemoved={() => setChosen(null)}
                />
              )}
            </Wait>
          ) : null}
          <StopForm
            key={edited ? `edit-${edited.id}` : "new"}
            sonde={sonde}
            run={run}
            stop={edited}
            onSaved={(id) => {
              setEditing((now) => (now === id ? null : now));
              setChosen(id);
            }}
            onCancel={() => setEditing(null)}
          />
          {ready ? checklist : null}
        </>
      }
      stage={
        <>
          <section className="card lg:p-2" aria-label="Sonde run">
            <h2 className="sr-only">{run.title}</h2>
            {[sonde.fall_text, ...sonde.agreement].filter(Boolean).map((text) => (
              <p key={text} className="text-sm font-semibold">
                {text}
              </p>
            ))}
            <SondeRun
              sonde={sonde}
              startM={run.start_m}
              way={run.way}
              format={format}
              chosen={stop?.id ?? null}
              onChoose={setChosen}
            />
          </section>
          <Views
            label="Of this run"
            views={[
              {
                id: "over",
                label: "Over the head",
                show:
                  detail.data?.over && detail.data.id === stop?.id ? (
                    <section aria-label="Over the head">
                      <OverHead over={detail.data.over} text={detail.data.head_text} format={format} />
                      <p className="text-sm text-quiet">
                        Curve: the signal a head there makes. Lines: where you read peak and nulls.
                      </p>
                    </section>
                  ) : (
                    <ExpectedOverHead sonde={sonde} job={job} />
                  ),
              },
              {
                id: "stops",
                label: "Stops",
                note: String(sonde.stops.length),
                show: (
                  <>
                    <Corners sonde={sonde} />
                    <StopTable sonde={sonde} chosen={stop?.id ?? null} onChoose={setChosen} />
                    <Struck entries={sonde.struck} onRestore={(id) => restore.mutate(id)} />
                  </>
                ),
              },
              {
                id: "run",
                label: "This run",
                show: (
                  <section aria-label="This run" className="max-w-xl">
                    <p className="mb-2 font-semibold">{run.title}</p>
                    <p className="mb-3">{sonde.forecast_text}</p>
                    {sonde.shield_text ? (
                      <p className="mb-3 font-bold text-hold">{sonde.shield_text}</p>
                    ) : null}
                    <RunForm key={run.id} sonde={sonde} job={job} run={run} />
                    <HistoryButton jobId={job.id} kind="sonde_runs" entry={run.id} of="the sonde run" />
                  </section>
                ),
              },
            ]}
          />
        </>
      }
    />
  );
}

function Corners({ sonde }: { sonde: Sonde }) {
  if (!sonde.corners.length) return null;
  return (
    <ul className="mb-2 grid gap-1" aria-label="Corners">
      {sonde.corners.map((text) => (
        <li key={text} data-corner className="border-l-4 border-care pl-2 leading-snug">
          {text} <strong>{sonde.corner_step}</strong>
        </li>
      ))}
    </ul>
  );
}

function StopTable(p: { sonde: Sonde; chosen: number | null; onChoose: (id: number) => void }) {
  if (!p.sonde.stops.length)
    return (
      <p>No stop yet. Push until you pick the head up, find its main peak, then one null on each side.</p>
    );
  return (
    <table className="w-full">
      <caption className="sr-only">Stops</caption>
      <thead>
        <tr className="border-b-2 border-edge text-left text-sm">
          <th className="py-1 pr-2">Peak at</th>
          <th className="py-1 pr-2">Verdict</th>
          <th className="py-1 pr-2">Head</th>
          <th className="py-1 pr-2">Rod</th>
          <th className="hidden py-1 sm:table-cell">Mark</th>
        </tr>
      </thead>
      <tbody>
        {p.sonde.stops.map((s) => (
          <tr
            key={s.id}
            data-verdict={s.verdict}
            className={`border-b border-edge ${p.chosen === s.id ? "bg-soil font-semibold" : ""}`}
          >
            <td className="pr-2">
              <button
                type="button"
                className="min-h-11 font-bold whitespace-nowrap underline underline-offset-4"
                aria-label={`Show the stop at ${s.distance_text}`}
                onClick={() => p.onChoose(s.id)}
              >
                {s.distance_text}
              </button>
            </td>
            <td className="pr-2">
              <VerdictBadge verdict={s.verdict} />
            </td>
            <td className="pr-2 whitespace-nowrap">{s.depth_text}</td>
            <td className="pr-2 whitespace-nowrap">{s.rod_text}</td>
            <td className="hidden sm:table-cell">{s.mark_id === null ? "" : "marked"}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
