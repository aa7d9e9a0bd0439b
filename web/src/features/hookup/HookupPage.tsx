import { Link } from "react-router";
import { api, asRefusal, type Hookup, type Job, type LineState, type Schemas, take } from "../../api/client";
import { useChange, useHookup } from "../../api/queries";
import { HookupPicture } from "../../pictures/HookupPicture";
import { VoltsLoop } from "../../pictures/VoltsLoop";
import { Button, buttonClass } from "../../ui/Button";
import { Checklist } from "../../ui/Checklist";
import { StageBench } from "../../ui/StageBench";
import { useToast } from "../../ui/Toasts";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { useConsequences } from "../consequences/useConsequences";
import { useIdentityView } from "../identity/IdentityCard";
import { useAnswering } from "../identity/useAnswering";
import { ReadingForm } from "./ReadingForm";
import { Readings } from "./Readings";
import { Remedies } from "./Remedies";
import { SetupDetails } from "./SetupDetails";
import { useSafeOrder } from "./useSafeOrder";

export default function HookupPage({ job, line }: { job: Job; line: LineState }) {
  const hookup = useHookup(line.setup_id);
  if (line.setup_id === null)
    return (
      <div className="card">
        <h2>No setup chosen</h2>
        <p className="mb-3">Choose one on the plan. Its safe order appears here.</p>
        <Link className={buttonClass("main")} to={`/jobs/${job.id}/lines/${line.id}/plan`}>
          To the plan
        </Link>
      </div>
    );
  return (
    <Wait query={hookup} doing="Reading the hookup">
      {(h) => <HookupView key={h.id} hookup={h} job={job} line={line} />}
    </Wait>
  );
}

function HookupView({ hookup: h, job, line }: { hookup: Hookup; job: Job; line: LineState }) {
  const answering = useAnswering(h.id);
  const order = useSafeOrder(h, answering);
  const identity = useIdentityView(h.id, job);
  const reads = h.hookup !== "induction";
  return (
    <StageBench
      bench={
        <>
          <BeforeFirst job={job} />
          <section aria-label="Setup">
            <p className="text-lg leading-tight font-bold">{h.title}</p>
          </section>
          <Checklist
            order={order}
            finished="Every step is done. Disconnect in the reverse order, transmitter off first."
          />
          {answering.changes}
          <section
            className={`card lg:p-3 ${order.step && !h.readings.length ? "max-lg:hidden" : ""}`}
            aria-label="Transmitter"
          >
            <h2 className="mb-1">Transmitter reading</h2>
            {h.readings.length || !reads ? (
              <>
                <Diagnosis hookup={h} />
                <Link
                  className={`${buttonClass("main")} mt-1 mb-3 w-full`}
                  to={`/jobs/${job.id}/lines/${line.id}/sweep`}
                >
                  Go on to the first sweep
                </Link>
              </>
            ) : null}
            {reads ? <ReadingForm hookup={h} job={job} /> : null}
            {h.readings.length || !reads ? null : <Diagnosis hookup={h} />}
          </section>
        </>
      }
      stage={
        <>
          <section className="card lg:p-2" aria-label="As hooked up">
            <HookupPicture hookup={h} done={order.done} now={order.step?.id ?? ""} />
            <SetupDetails hookup={h} job={job} />
          </section>
          <Views
            label="Of this hookup"
            views={[
              {
                id: "readings",
                label: "Readings",
                note: String(h.readings.length),
                show: (
                  <section aria-label="Readings">
                    <Forecasts hookup={h} />
                    <Readings hookup={h} jobId={job.id} />
                  </section>
                ),
              },
              h.hookup === "direct" ? { id: "volts", label: "Volts", show: <Volts hookup={h} /> } : null,
              identity,
              h.state === "not_read"
                ? null
                : {
                    id: "help",
                    label: "What would help",
                    show: <Remedies setupId={h.id} lineId={line.id} job={job} />,
                  },
            ]}
          />
        </>
      }
    />
  );
}

function Forecasts({ hookup: h }: { hookup: Hookup }) {
  return (
    <ul className="grid gap-2 sm:grid-cols-2" aria-label="Forecast of the transmitter">
      {h.forecasts.map((f) => (
        <li key={f.title} className="rounded-md border border-edge p-2 text-sm">
          Forecast, {f.title}
          <strong className="block text-lg">{f.text}</strong>
          {f.limit_text ? <span className="block text-quiet">{f.limit_text}</span> : null}
        </li>
      ))}
    </ul>
  );
}

function Volts({ hookup: h }: { hookup: Hookup }) {
  const main = h.explained ?? h.forecasts[0];
  if (!main) return null;
  return (
    <section aria-label="Where the volts go">
      <h2 className="sr-only">Where the volts go</h2>
      <p className="mb-1 text-sm text-quiet">
        The shares add up to the volts shown. A share below zero is normal: inductance and capacitance pull
        against each other.
      </p>
      <VoltsLoop loop={main} compare={h.explained ? h.forecasts : h.forecasts.slice(1)} />
    </section>
  );
}

/** The sheet comes before the hookup: while it is not answered it is named here. */
function BeforeFirst({ job }: { job: Job }) {
  if (job.before_state === "answered") return null;
  const stop = job.before_state === "stop";
  return (
    <Link
      to={`/jobs/${job.id}/before`}
      className={`flex min-h-11 items-center gap-2 rounded-md border-2 p-3 font-semibold underline underline-offset-4 ${stop ? "border-hold bg-hold-bg text-hold" : "border-need bg-need-bg text-need"}`}
    >
      {stop
        ? "Stop: one safety question is answered “No”."
        : `Before anything is switched on: ${job.before_text} answered.`}
    </Link>
  );
}

const TONE: Record<Hookup["state"], string> = {
  not_read: "border-need bg-need-bg text-need",
  as_forecast: "border-mark bg-mark-bg text-mark",
  different: "border-care bg-care-bg text-care",
  unexplained: "border-hold bg-hold-bg text-hold",
  cannot_tell: "border-need bg-need-bg text-need",
};
const WORD: Record<Hookup["state"], string> = {
  not_read: "Not read",
  as_forecast: "As forecast",
  different: "Look again",
  unexplained: "Not explained",
  cannot_tell: "Cannot tell",
};

function Diagnosis({ hookup: h }: { hookup: Hookup }) {
  return (
    <div className="mt-2" data-state={h.state}>
      <div role="status" className={`rounded-md border-2 p-3 ${TONE[h.state]}`}>
        <p className="leading-snug font-bold">
          {WORD[h.state]}: {h.headline}
        </p>
        <p className="leading-snug">{h.advice}</p>
        {h.asks_far ? <FarEnd lineId={h.line_id} /> : null}
      </div>
      {h.hypotheses.length ? (
        <details className="mt-1">
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">
            What could explain it ({h.hypotheses.length})
          </summary>
          <ol className="grid gap-2">
            {h.hypotheses.map((x) => (
              <li key={x.title} className="grid grid-cols-[4rem_1fr] gap-3 border-t border-edge pt-2">
                <strong className="text-lg">{x.share_text}</strong>
                <span>
                  <strong>{x.title}.</strong> {x.sentence} <span className="text-quiet">{x.remedy}</span>
                </span>
              </li>
            ))}
          </ol>
        </details>
      ) : null}
    </div>
  );
}

/** What was seen at the far end, where only a look tells: one tap. */
function FarEnd({ lineId }: { lineId: number }) {
  const toast = useToast();
  const enter = useChange("line", (far_kind: Schemas["LinePatch"]["far_kind"]) =>
    take(api.PATCH("/api/lines/{line_id}", { params: { path: { line_id: lineId } }, body: { far_kind } })),
  );
  const changes = useConsequences(
    (far_kind: Schemas["LinePatch"]["far_kind"], signal) =>
      take(
        api.POST("/api/lines/{line_id}/far-end/consequences", {
          params: { path: { line_id: lineId } },
          body: { far_kind },
          signal,
        }),
      ),
    { onlyWorse: true },
  );
  const say = async (kind: "earthed" | "open", said: string) => {
    try {
      if (!(await changes.allowed(kind))) return;
      await enter.mutateAsync(kind);
      await changes.settle();
      toast(`${said} ${changes.said.current}`.trim(), () => enter.mutate("unknown"));
    } catch (e) {
      toast(asRefusal(e).text);
    }
  };
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      {changes.shown}
      <Button
        disabled={enter.isPending || changes.checking}
        onClick={() => say("earthed", "Entered: far end earthed.")}
      >
        It is earthed
      </Button>
      <Button
        disabled={enter.isPending || changes.checking}
        onClick={() => say("open", "Entered: far end open.")}
      >
        It is open
      </Button>
    </div>
  );
}
