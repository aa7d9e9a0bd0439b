import { useState } from "react";
import { api, type Job, type LineState, type Schemas, take } from "../../api/client";
import { useFault } from "../../api/queries";
import { formatter } from "../../api/units";
import { FAULT_LOOK, FrameWalk } from "../../pictures/FrameWalk";
import { VerdictBadge } from "../../pictures/Verdict";
import { Checklist, useSteps } from "../../ui/Checklist";
import { StageBench } from "../../ui/StageBench";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { HistoryButton } from "../history/History";
import { FaultCard } from "./FaultCard";
import { FrameForm } from "./FrameForm";
import { FrameReadings } from "./FrameReadings";
import { WalkForm } from "./WalkForm";

type View = Schemas["FaultView"];
type Shown = Schemas["FaultRecord"];

export default function FaultPage({ job, line }: { job: Job; line: LineState }) {
  const fault = useFault(line.id);
  return (
    <Wait query={fault} doing="Fitting the faults">
      {(f) =>
        f.shown ? (
          <Walking key={f.shown.walk.id} view={f} shown={f.shown} job={job} />
        ) : (
          <Start view={f} job={job} />
        )
      }
    </Wait>
  );
}

/** Before the first walk: what to set, and what a fault looks like to the frame. */
function Start({ view, job }: { view: View; job: Job }) {
  return (
    <StageBench
      bench={
        view.refused ? (
          <section className="card border-2 border-edge" role="status">
            <h2>No ground fault to find here</h2>
            <p>{view.refused}</p>
          </section>
        ) : (
          <section className="card lg:p-3" aria-label="Start a walk with the frame">
            <h2>Find a ground fault</h2>
            <p className="mb-3">Put signal on the isolated cable and walk it with a two-spike frame.</p>
            <WalkForm view={view} job={job} walk={null} />
          </section>
        )
      }
      stage={<Expected view={view} job={job} />}
    />
  );
}

function Expected({ view, job }: { view: View; job: Job }) {
  const half = view.expected.at_m.at(-1) ?? 1;
  return (
    <section className="card lg:p-3" aria-label="What a fault looks like">
      <h2>What a fault looks like</h2>
      <p className="mb-2">
        Before it the frame points on, after it back. The level is greatest just before and just after, and
        falls to nothing right over it.
      </p>
      <FrameWalk
        readings={[]}
        faults={[]}
        fitted={view.expected}
        from={-half}
        to={half}
        text="Level over one fault: on before it, back after it"
        format={formatter(job.units)}
        chosen={null}
        onChoose={() => undefined}
      />
      {view.forecast_text ? <p className="mt-1">{view.forecast_text}</p> : null}
      <p className="mt-1 text-sm text-quiet">
        An earth that was left on looks the same. Lift every one before you walk.
      </p>
    </section>
  );
}

function Walking({ view, shown, job }: { view: View; shown: Shown; job: Job }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const [editing, setEditing] = useState<number | null>(null);
  const { walk, readings, faults } = shown;
  const order = useSteps({
    key: ["line", view.line_id, "fault"],
    steps: walk.steps,
    keep: (steps_done) =>
      take(
        api.PATCH("/api/fault-walks/{walk_id}", {
          params: { path: { walk_id: walk.id } },
          body: { steps_done },
        }),
      ),
  });
  const checklist = (
    <Checklist
      order={order}
      finished="Every step is done. When you are through: transmitter off, and put every earth and bond back."
    />
  );
  const ready = order.step === undefined;
  const fault = faults.find((f) => f.at_m === chosen) ?? faults.at(-1) ?? null;
  const edited = readings.find((r) => r.id === editing) ?? null;
  const places = readings.map((r) => r.distance_m);
  return (
    <StageBench
      bench={
        <>
          <p aria-live="polite" className="sr-only">
            {fault ? `${fault.label}: ${fault.text}` : shown.next_text}
          </p>
          {ready ? null : checklist}
          {fault ? <FaultCard key={fault.at_text} fault={fault} walkId={walk.id} /> : null}
          <FrameForm
            key={edited ? `edit-${edited.id}` : "new"}
            view={view}
            shown={shown}
            reading={edited}
            onDone={() => setEditing(null)}
          />
          {ready ? checklist : null}
        </>
      }
      stage={
        <>
          <section className="card lg:p-2" aria-label="Walk with the frame">
            <h2 className="sr-only">{walk.title}</h2>
            <FrameWalk
              readings={readings}
              faults={faults}
              fitted={shown.fitted}
              from={0}
              to={Math.max(...places, readings.length ? 0 : view.length_m) + 1}
              text="Level and direction of the frame along the cable"
              format={formatter(job.units)}
              chosen={fault?.at_m ?? null}
              onChoose={setChosen}
            />
          </section>
          <Views
            label="Of this walk"
            views={[
              {
                id: "faults",
                label: "Faults",
                note: String(faults.length),
                show: <Faults faults={faults} onChoose={setChosen} />,
              },
              {
                id: "readings",
                label: "Readings",
                note: String(readings.length),
                show: <FrameReadings jobId={job.id} shown={shown} onEdit={setEditing} />,
              },
              {
                id: "walk",
                label: "This walk",
                show: (
                  <section aria-label="This walk" className="max-w-xl">
                    <p className="mb-2 font-semibold">
                      {walk.title}
                      {walk.ohms_text ? `, loop ${walk.ohms_text}` : ""}
                    </p>
                    <WalkForm key={walk.id} view={view} job={job} walk={walk} />
                    <HistoryButton
                      jobId={job.id}
                      kind="fault_walks"
                      entry={walk.id}
                      of="the walk with the frame"
                    />
                  </section>
                ),
              },
              { id: "expect", label: "What to expect", show: <Expected view={view} job={job} /> },
            ]}
          />
        </>
      }
    />
  );
}

function Faults({ faults, onChoose }: { faults: Shown["faults"]; onChoose: (at_m: number) => void }) {
  if (!faults.length) return <p>No fault shown yet.</p>;
  return (
    <ul className="grid gap-1" aria-label="Faults">
      {faults.map((f) => (
        <li key={f.at_m} className="flex flex-wrap items-center gap-3 border-t border-edge py-1">
          <button
            type="button"
            className="min-h-11 font-bold underline underline-offset-4"
            onClick={() => onChoose(f.at_m)}
          >
            {f.at_text}
          </button>
          <VerdictBadge verdict={FAULT_LOOK[f.said]} label={f.label} />
          <span>{f.text}</span>
        </li>
      ))}
    </ul>
  );
}
