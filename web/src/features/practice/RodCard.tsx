import { useState } from "react";
import { Link } from "react-router";
import { api, asRefusal, type Job, type Schemas, take } from "../../api/client";
import { sondeKey, useChange, yardKey } from "../../api/queries";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button, buttonClass } from "../../ui/Button";
import { Refused } from "../../ui/Refused";
import { remarkOn } from "./remarkOn";
import type { Face } from "./useReceiver";
import type { useWalk } from "./useWalk";

type Stop = Schemas["SondeView"]["stops"][number];

interface Read {
  along: string;
  depth: string;
  signal: string;
  lifted: string;
  before: string;
  after: string;
}

const NOTHING: Read = { along: "", depth: "", signal: "", lifted: "", before: "", after: "" };
const LIFT_M = 0.5;
const PER_LEVEL = 1000;
/** How far a push goes, in the job's unit, and the unit [m]. */
const PUSHES = {
  metric: { by: [-3, -1, 1, 3], unit: "m", m: 1 },
  imperial: { by: [-10, -3, 3, 10], unit: "ft", m: 0.3048 },
};

/** The rod, and one stop of the run: peak, a null on each side, depth on the ground and lifted. */
export function RodCard(p: {
  job: Job;
  yard: Schemas["YardView"];
  rod: Schemas["RodView"];
  walk: ReturnType<typeof useWalk>;
  read: () => Promise<Face | undefined>;
  sonde: boolean;
  onSaid: (text: string) => void;
}) {
  const { yard, rod } = p;
  const lineId = yard.target_line_id ?? 0;
  const [got, setGot] = useState<Read>(NOTHING);
  const [busy, setBusy] = useState(false);
  const [stop, setStop] = useState<Stop | null>(null);
  const push = useChange(
    "yard",
    (rod_m: number) =>
      take(
        api.PUT("/api/jobs/{job_id}/yard/rod", {
          params: { path: { job_id: yard.job_id } },
          body: { rod_m },
        }),
      ),
    { shown: yardKey(yard.job_id) },
  );
  const log = useChange(
    "stop",
    (body: Schemas["StopForm"]) =>
      take(
        api.POST("/api/sonde-runs/{run_id}/stops", {
          params: { path: { run_id: rod.run_id ?? 0 } },
          body,
        }),
      ),
    { shown: sondeKey(lineId) },
  );
  const pushes = PUSHES[p.job.units];
  const page = `/jobs/${yard.job_id}/lines/${lineId}/sonde`;
  if (rod.run_id === null)
    return (
      <section className="card max-lg:order-1 lg:p-3" aria-label="Sonde run">
        <h2>No sonde run is started</h2>
        <p className="mb-2">
          Start the run on the Sonde page, tick the steps before the rod goes in, and come back.
        </p>
        <Link className={buttonClass("main")} to={page}>
          Start a sonde run
        </Link>
      </section>
    );
  const taking = async (of: (face: Face) => Partial<Read>) => {
    setBusy(true);
    try {
      const face = await p.read();
      if (face) setGot((was) => ({ ...was, ...of(face) }));
    } catch {
      // the face says that nothing answers
    } finally {
      setBusy(false);
    }
  };
  const peak = () => {
    setStop(null);
    return taking((f) => ({
      along: f.along,
      depth: f.depth,
      signal: (PER_LEVEL * f.level).toPrecision(3),
      lifted: "",
    }));
  };
  const lift = async () => {
    p.walk.setLifted(true);
    await new Promise((done) => setTimeout(done, 150));
    await taking((f) => ({ lifted: f.depth }));
    p.walk.setLifted(false);
  };
  const send = async () => {
    const shown = await log.mutateAsync({
      distance: got.along,
      rod: rod.rod,
      null_before: got.before,
      null_after: got.after,
      depth: got.depth,
      mode: p.sonde ? "sonde" : "line",
      signal: got.signal,
      lift_height: got.lifted ? `${LIFT_M}m` : "",
      depth_lifted: got.lifted,
      insist: true,
    });
    const newest = Math.max(...shown.stops.map((s) => s.id));
    setStop(shown.stops.find((s) => s.id === newest) ?? null);
    setGot(NOTHING);
    p.onSaid(await remarkOn(yard.job_id, { after: "stop", stop_id: newest }));
  };
  const rows = [
    ["Peak at", got.along],
    ["Depth", got.depth],
    ["Depth lifted", got.lifted],
    ["Null before", got.before],
    ["Null after", got.after],
  ] as const;
  const error = push.error ?? log.error;
  return (
    <section className="card max-lg:order-1 lg:p-3" aria-label="Sonde run">
      <div className="flex items-baseline justify-between gap-2">
        <h2>Rod out</h2>
        <p className="text-xl font-bold tabular-nums" data-rod>
          {rod.rod}
        </p>
      </div>
      <div className="my-2 grid grid-cols-4 gap-2">
        {pushes.by.map((by) => (
          <Button
            key={by}
            className="px-1"
            disabled={push.isPending || (by < 0 && rod.rod_m <= 0) || (by > 0 && rod.stuck)}
            onClick={() => push.mutate(Math.max(rod.rod_m + by * pushes.m, 0))}
          >
            {by > 0 ? "+" : "−"}
            {Math.abs(by)} {pushes.unit}
          </Button>
        ))}
      </div>
      {rod.stuck ? <p className="text-sm font-semibold">The rod goes no further.</p> : null}
      <div className="grid grid-cols-2 gap-2">
        <Button look={got.along ? "plain" : "main"} disabled={busy} onClick={() => void peak()}>
          Peak here
        </Button>
        <Button disabled={busy || !got.along} onClick={() => void lift()}>
          Lift, read
        </Button>
        <Button disabled={busy || !got.along} onClick={() => void taking((f) => ({ before: f.along }))}>
          Null before
        </Button>
        <Button disabled={busy || !got.along} onClick={() => void taking((f) => ({ after: f.along }))}>
          Null after
        </Button>
      </div>
      {got.along ? (
        <>
          <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 text-sm">
            {rows.map(([name, value]) => (
              <div key={name} className="contents">
                <dt className="text-quiet">{name}</dt>
                <dd className="font-semibold tabular-nums">
                  {value ? `${value} ${pushes.unit}` : "not read"}
                </dd>
              </div>
            ))}
          </dl>
          <Button
            look={got.depth && got.before && got.after ? "main" : "plain"}
            className="mt-2 w-full"
            disabled={busy || log.isPending}
            onClick={() => void send().catch(() => undefined)}
          >
            Log stop
          </Button>
        </>
      ) : stop ? (
        <Judged stop={stop} page={page} />
      ) : (
        <p className="mt-2 text-sm text-quiet">
          Push the rod, face along the pipe, walk to the loudest place between two nulls.
        </p>
      )}
      {error ? <Refused text={asRefusal(error).text} /> : null}
    </section>
  );
}

/** The stop just logged, with its verdict and the paint. */
function Judged({ stop, page }: { stop: Stop; page: string }) {
  const mark = useChange("mark", () =>
    take(
      api.POST("/api/stops/{stop_id}/marks", {
        params: { path: { stop_id: stop.id } },
        body: { reason: "" },
      }),
    ),
  );
  const proved = stop.verdict === "mark" || stop.verdict === "mark_with_care";
  return (
    <div className="mt-2" role="status">
      <p className="flex items-center gap-2">
        <VerdictBadge verdict={stop.verdict} />
        <span className="text-sm">{stop.headline}</span>
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {mark.data ? (
          <p className="min-h-11 font-bold text-mark">Painted ✓</p>
        ) : proved ? (
          <Button look="main" disabled={mark.isPending} onClick={() => mark.mutate(undefined)}>
            Paint here
          </Button>
        ) : null}
        <Link className={buttonClass("quiet")} to={page}>
          To the run
        </Link>
      </div>
      {mark.error ? <Refused text={asRefusal(mark.error).text} /> : null}
    </div>
  );
}
