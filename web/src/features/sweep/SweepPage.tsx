import { Check, CircleHelp, OctagonX, TriangleAlert } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Job, type LineState, type Schemas, take } from "../../api/client";
import { useChange, useSweep } from "../../api/queries";
import { when } from "../../api/units";
import { SweepStrip } from "../../pictures/SweepStrip";
import { Button, buttonClass } from "../../ui/Button";
import { StageBench } from "../../ui/StageBench";
import { useToast } from "../../ui/Toasts";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { StrikeOut } from "../history/StrikeOut";
import { Struck } from "../history/Struck";
import { FoundPlan } from "../site/FoundPlan";
import { CandidateForm } from "./CandidateForm";

type Sweep = Schemas["SweepView"];

const STATE: Record<Sweep["state"], { word: string; tone: string; icon: typeof Check }> = {
  not_swept: { word: "Not swept", tone: "border-need bg-need-bg text-need", icon: CircleHelp },
  sure: { word: "On the right line", tone: "border-mark bg-mark-bg text-mark", icon: Check },
  doubt: { word: "Not proved", tone: "border-care bg-care-bg text-care", icon: TriangleAlert },
  not_met: { word: "Not on this line", tone: "border-hold bg-hold-bg text-hold", icon: OctagonX },
};

export default function SweepPage({ job, line }: { job: Job; line: LineState }) {
  const sweep = useSweep(line.setup_id);
  if (line.setup_id === null)
    return (
      <div className="card">
        <h2>Nothing on the line yet</h2>
        <p className="mb-3">Choose a setup and hook up first; the sweep is walked round the hookup.</p>
        <Link className={buttonClass("main")} to={`/jobs/${job.id}/lines/${line.id}/plan`}>
          To the plan
        </Link>
      </div>
    );
  return (
    <Wait query={sweep} doing="Computing the lines to expect round the hookup">
      {(s) => <SweepView key={s.setup_id} sweep={s} job={job} line={line} />}
    </Wait>
  );
}

function SweepView({ sweep: s, job, line }: { sweep: Sweep; job: Job; line: LineState }) {
  const [editing, setEditing] = useState<number | null>(null);
  const edited = s.candidates.find((c) => c.id === editing) ?? null;
  const rolledOut = (
    <section className="card lg:p-2" aria-label="Circle rolled out">
      <SweepStrip sweep={s} chosen={editing} />
    </section>
  );
  return (
    <StageBench
      bench={
        <>
          <VerdictCard sweep={s} to={`/jobs/${job.id}/lines/${line.id}/trace`} />
          <CandidateForm
            key={edited ? `edit-${edited.id}` : "new"}
            sweep={s}
            job={job}
            editing={edited}
            onDone={() => setEditing((now) => (now === edited?.id ? null : now))}
          />
        </>
      }
      stage={
        <>
          {s.from_north ? <FoundPlan job={job} lineId={line.id} /> : rolledOut}
          <Views
            label="Of this sweep"
            views={[
              {
                id: "circle",
                label: "Round the hookup",
                note: String(s.candidates.length),
                show: (
                  <section aria-label="Round the hookup">
                    <Met sweep={s} onEdit={setEditing} />
                    <Expected sweep={s} />
                  </section>
                ),
              },
              s.from_north ? { id: "rolled", label: "Rolled out", show: rolledOut } : null,
            ]}
          />
        </>
      }
    />
  );
}

function Expected({ sweep: s }: { sweep: Sweep }) {
  return (
    <>
      <h2 className="mt-3">Lines to expect ({s.expected.length})</h2>
      <ul className="grid gap-1">
        {s.expected.map((e) => (
          <li key={`${e.name}-${e.bearing_deg}`} className="border-t border-edge py-1">
            <strong>{e.ours ? "This line" : e.name}</strong>: {e.text}
          </li>
        ))}
      </ul>
      {s.told_beside ? null : (
        <p className="mt-2 text-sm text-quiet">
          No neighbours entered, so any other centre line counts as unknown. Edit this line to enter them.
        </p>
      )}
    </>
  );
}

function VerdictCard({ sweep: s, to }: { sweep: Sweep; to: string }) {
  const state = STATE[s.state];
  const Icon = state.icon;
  return (
    <section className="card lg:p-3" aria-label="First sweep" data-sweep={s.state}>
      <div role="status" className={`rounded-md border-2 p-3 ${state.tone}`}>
        <p className="flex items-center gap-2 text-xl leading-tight font-bold">
          <Icon aria-hidden className="size-6 shrink-0" />
          {state.word}
        </p>
        <p className="mt-1 font-semibold">{s.headline}</p>
        <p>{s.reason}</p>
      </div>
      {s.concerns.length ? (
        <ul className="mt-3 grid gap-2">
          {s.concerns.map((c) => (
            <li key={c.text} className="border-l-4 border-care pl-3">
              <strong>{c.text}</strong> {c.do}
            </li>
          ))}
        </ul>
      ) : null}
      <p className={`mt-3 ${s.state === "not_swept" ? "text-lg font-semibold" : "text-quiet"}`}>
        {s.circle_text}
      </p>
      {s.candidates.length ? (
        <Link className={`${buttonClass(s.state === "sure" ? "main" : "plain")} mt-3 w-full`} to={to}>
          {s.state === "sure" ? "Go on to the trace" : "Trace anyway"}
        </Link>
      ) : null}
    </section>
  );
}

const ROLE: Record<Schemas["CandidateView"]["role"], string> = {
  target: "Target",
  maybe: "Perhaps",
  beside: "Another line",
  unknown: "Unknown",
};

function Met({ sweep: s, onEdit }: { sweep: Sweep; onEdit: (id: number) => void }) {
  const toast = useToast();
  const path = (candidate_id: number) => ({ params: { path: { candidate_id } } });
  const restore = useChange("candidate", (id: number) =>
    take(api.POST("/api/candidates/{candidate_id}/restore", path(id))),
  );
  const strike = useChange("candidate", ({ id, why }: { id: number; why: string }) =>
    take(
      api.DELETE("/api/candidates/{candidate_id}", {
        params: { path: { candidate_id: id }, query: { why } },
      }),
    ),
  );
  const struck = <Struck entries={s.struck} onRestore={(id) => restore.mutate(id)} />;
  if (!s.candidates.length)
    return (
      <>
        <p className="mt-2 text-quiet">No centre line logged yet.</p>
        {struck}
      </>
    );
  return (
    <>
      <ul className="mt-2 grid gap-1" aria-label="Centre lines logged">
        {s.candidates.map((c) => (
          <li
            key={c.id}
            data-role={c.role}
            className="flex flex-wrap items-baseline gap-x-3 border-t border-edge py-2"
          >
            <strong className="text-lg first-letter:uppercase">{c.title}</strong>
            <span className="font-semibold">{c.readings_text}</span>
            <span className="basis-full">
              <strong>{ROLE[c.role]}.</strong> {c.role_text}
            </span>
            <span className="text-sm text-quiet">
              {c.technician}, {when(c.taken_at)}
              {c.note && s.from_north ? ` · ${c.note}` : ""}
            </span>
            <span className="ml-auto flex gap-2">
              <Button
                look="quiet"
                onClick={() => onEdit(c.id)}
                aria-label={`Correct the centre line ${c.title}`}
              >
                Correct
              </Button>
              <StrikeOut
                what={`the centre line ${c.title}`}
                busy={strike.isPending}
                onStrike={(why) =>
                  strike.mutateAsync({ id: c.id, why }).then(
                    () => toast("Centre line struck out.", () => restore.mutate(c.id)),
                    (e) => toast(e.message),
                  )
                }
              />
            </span>
          </li>
        ))}
      </ul>
      {struck}
    </>
  );
}
