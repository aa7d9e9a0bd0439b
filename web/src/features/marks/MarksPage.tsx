import { useState } from "react";
import { Link } from "react-router";
import { api, type Job, type LineState, type Schemas, take } from "../../api/client";
import { useChange, useMarks, useSonde, useStanding, useTrace } from "../../api/queries";
import { when } from "../../api/units";
import { CoverCard } from "../../pictures/CoverStrip";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { StageBench } from "../../ui/StageBench";
import { useEntryForm } from "../../ui/useEntryForm";
import { Wait } from "../../ui/Wait";

import { ofStation, ofStop } from "./MarkForm";
import { ToMark } from "./ToMark";

type Mark = Schemas["MarkView"];

export default function MarksPage({ job, line }: { job: Job; line: LineState }) {
  const marks = useMarks(line.id);
  const trace = useTrace(line.setup_id);
  const bySonde = line.steps.includes("sonde");
  const sonde = useSonde(line.id, bySonde);
  const standing = useStanding(job.id);
  return (
    <StageBench
      bench={
        <>
          <ToMark
            job={job}
            stations={[
              ...(trace.data?.stations ?? []).map(ofStation),
              ...(sonde.data?.stops ?? []).map(ofStop),
            ]}
            more={bySonde ? "Take more stops with the sonde." : "Take more stations on the trace."}
          />
          <Wait query={standing} doing="Judging the trace">
            {({ lines }) => (
              <MarksDue
                due={lines.find((l) => l.id === line.id)?.due ?? []}
                sonde={!line.steps.includes("trace")}
                to={`/jobs/${job.id}/lines/${line.id}/${line.steps.includes("trace") ? "trace" : "sonde"}`}
              />
            )}
          </Wait>
        </>
      }
      stage={
        <>
          <section className="card lg:p-3" aria-label="How far it is marked">
            <h2>How far it is marked</h2>
            <CoverCard cover={line.cover} />
          </section>
          <section aria-label="Marks">
            <h2 className="mb-2">Marks on the ground</h2>
            <Wait query={marks} doing="Reading the marks">
              {(list) =>
                list.length === 0 ? (
                  <p>No mark yet. Marks come from what passed.</p>
                ) : (
                  <ul className="grid gap-2">
                    {list.map((m) => (
                      <MarkItem key={m.id} mark={m} job={job} />
                    ))}
                  </ul>
                )
              }
            </Wait>
            <p className="mt-3 text-sm text-quiet">
              Marks no more than {job.mark_every_text} apart connect into a located stretch. Everything else
              is not located. Tell the excavator: it protects them too.
            </p>
            <Link className="inline-flex min-h-11 items-center underline" to={`/jobs/${job.id}/marking`}>
              Colours and tolerance zone by the local rule
            </Link>
          </section>
        </>
      }
    />
  );
}

/** Marks every few metres, and at every bend, tee, end and depth change: what is still lacking. */
function MarksDue({ due, to, sonde }: { due: string[]; to: string; sonde: boolean }) {
  return (
    <section className="card lg:p-3" aria-label="Marks still due">
      <h2>Marks still due{due.length ? ` (${due.length})` : ""}</h2>
      {due.length ? (
        <>
          <ul className="my-2 grid gap-1">
            {due.map((text) => (
              <li key={text} className="border-l-4 border-hold pl-3">
                {text}
              </li>
            ))}
          </ul>
          <Link className="inline-flex min-h-11 items-center font-semibold underline" to={to}>
            {sonde ? "Take a stop there" : "Take a station there"}
          </Link>
        </>
      ) : (
        <p>None. Marks are close enough, and every place that needs one has it.</p>
      )}
    </section>
  );
}

export function MarkItem({ mark: m, job }: { mark: Mark; job?: Job }) {
  const withdrawn = m.withdrawn_at !== null;
  const evidence = (
    <>
      <p className="mt-1 text-sm">
        {m.setup_text}. {m.readings_text}.
      </p>
      <p className="text-sm text-quiet">
        {m.technician}, {when(m.marked_at)}, criteria version {m.criteria_version}
      </p>
    </>
  );
  return (
    <li
      className="rounded-md border border-edge bg-sheet px-3 py-2"
      data-mark={m.id}
      data-withdrawn={withdrawn}
    >
      <div className="flex flex-wrap items-center gap-3">
        <span
          className={`rounded-sm border-2 border-[#1f2a30] px-3 py-1 text-xl font-bold text-[#1f2a30] ${withdrawn ? "line-through" : ""}`}
          style={{ background: `color-mix(in srgb, ${m.hex} 55%, white)` }}
        >
          {m.label}
        </span>
        <strong className="text-lg">at {m.distance_text}</strong>
        <span className="text-sm text-quiet">{m.colour}</span>
        <VerdictBadge verdict={m.verdict} label={m.verdict_label} />
        {job && !withdrawn ? <Withdraw mark={m} /> : null}
      </div>
      {m.painted_text ? <p className="mt-2 font-semibold">{m.painted_text}</p> : null}
      {m.reason ? (
        <p className={`mt-2 ${m.proved ? "" : "font-bold text-hold"}`}>
          {m.proved ? "Note: " : "Marked anyway: "}
          {m.reason}
        </p>
      ) : null}
      {job ? (
        <details>
          <summary className="min-h-11 cursor-pointer py-2.5 text-sm text-quiet">
            Readings; {m.technician}, {when(m.marked_at)}
          </summary>
          {evidence}
        </details>
      ) : (
        evidence
      )}
      {withdrawn ? (
        <p className="mt-1 font-semibold text-hold">
          Withdrawn by {m.withdrawn_by}, {when(m.withdrawn_at ?? "")}: {m.withdrawn_reason}
        </p>
      ) : null}
    </li>
  );
}

function Withdraw({ mark }: { mark: Mark }) {
  const [open, setOpen] = useState(false);
  const form = useEntryForm({ start: { reason: "" } });
  const run = useChange("mark", (reason: string) =>
    take(
      api.POST("/api/marks/{mark_id}/withdraw", {
        params: { path: { mark_id: mark.id } },
        body: { reason },
      }),
    ),
  );
  if (!open)
    return (
      <Button
        look="quiet"
        className="ml-auto text-sm"
        onClick={() => setOpen(true)}
        aria-label={`Withdraw the mark at ${mark.distance_text}`}
      >
        Withdraw
      </Button>
    );
  return (
    <EntryForm form={form} send={({ reason }) => run.mutateAsync(reason)} className="w-full">
      <TextEntry form={form} name="reason" label="Why is it withdrawn?" required />
      <FormError form={form} />
      <div className="flex gap-2">
        <Button type="submit" look="stop">
          Withdraw mark, keep on record
        </Button>
        <Button onClick={() => setOpen(false)}>Cancel</Button>
      </div>
    </EntryForm>
  );
}
