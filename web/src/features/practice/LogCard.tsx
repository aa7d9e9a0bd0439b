import { useState } from "react";
import { Link } from "react-router";
import { api, asRefusal, type Job, type Schemas, type Station, take } from "../../api/client";
import { judgedTrace, traceKey, useChange, useStation } from "../../api/queries";
import { offsetText } from "../../api/units";
import type { Corner } from "../../pictures/siteplan/planView";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button, buttonClass } from "../../ui/Button";
import { Refused } from "../../ui/Refused";
import { remarkOn } from "./remarkOn";
import type { Face } from "./useReceiver";
import type { useWalk } from "./useWalk";

type Hooked = Schemas["HookedUp"];

interface Taken {
  at: Corner;
  face: Face;
  currents: string[];
  depth: string;
  lifted: Face | null;
  nullOff: number | null;
}

const READINGS = 3;
const LIFT_M = 0.5;
const GOOD_M = 0.05;

/** What is read at one place, and what the judge says of it: read, null, lift, log, paint. */
export function LogCard(p: {
  job: Job;
  hooked: Hooked;
  walk: ReturnType<typeof useWalk>;
  read: () => Promise<Face | undefined>;
  freqHz: number;
  onSaid: (text: string) => void;
}) {
  const [taken, setTaken] = useState<Taken | null>(null);
  const [busy, setBusy] = useState("");
  const [refused, setRefused] = useState("");
  const [stationId, setStationId] = useState<number | null>(null);
  const [doubted, setDoubted] = useState(false);
  const { setup_id } = p.hooked;
  const path = { params: { path: { setup_id } } };
  const log = useChange(
    "station",
    (body: Schemas["PlacedStationForm"]) =>
      judgedTrace(take(api.POST("/api/setups/{setup_id}/stations", { ...path, body }))),
    { shown: traceKey(setup_id) },
  );
  const match = useChange("setup", (rx_freq: string) =>
    take(api.PATCH("/api/setups/{setup_id}", { ...path, body: { rx_freq } })),
  );
  const doing = async (what: string, run: () => Promise<void>) => {
    setBusy(what);
    setRefused("");
    try {
      await run();
    } catch (e) {
      const r = asRefusal(e);
      setRefused(r.text);
      setDoubted(r.code === "doubtful");
    } finally {
      setBusy("");
    }
  };
  const readHere = () =>
    doing("read", async () => {
      const faces: Face[] = [];
      for (let k = 0; k < READINGS; k += 1) {
        const face = await p.read();
        if (face) faces.push(face);
      }
      const [face] = faces;
      if (!face) return;
      setStationId(null);
      setDoubted(false);
      setTaken({
        at: p.walk.pose.at,
        face,
        currents: faces.map((f) => f.milliamps).filter(Boolean),
        depth: face.depth,
        lifted: null,
        nullOff: null,
      });
    });
  const liftHere = () =>
    doing("lift", async () => {
      p.walk.setLifted(true);
      await new Promise((done) => setTimeout(done, 150));
      const face = await p.read();
      p.walk.setLifted(false);
      if (taken) setTaken({ ...taken, lifted: face ?? null });
    });
  const nullHere = () =>
    taken &&
    setTaken({
      ...taken,
      nullOff: Math.hypot(p.walk.pose.at[0] - taken.at[0], p.walk.pose.at[1] - taken.at[1]),
    });
  const send = (insist: boolean) =>
    doing("log", async () => {
      if (!taken) return;
      if (p.hooked.receiver_hz !== p.freqHz) await match.mutateAsync(`${p.freqHz}Hz`);
      const place = {
        by: "device" as const,
        latitude: taken.face.latitude,
        longitude: taken.face.longitude,
        accuracy_m: GOOD_M,
      };
      const { distance } = await take(api.POST("/api/setups/{setup_id}/place", { ...path, body: place }));
      const trace = await log.mutateAsync({
        distance,
        currents: taken.currents.join(" "),
        depth: taken.depth,
        lift_height: taken.lifted?.depth ? `${LIFT_M}m` : "",
        depth_lifted: taken.lifted?.depth ?? "",
        peak_null: taken.nullOff === null ? "" : `${taken.nullOff.toFixed(2)}m`,
        direction: taken.face.direction,
        lost: taken.face.noisy && !taken.currents.length,
        place,
        insist,
      });
      const newest = Math.max(...trace.stations.map((s) => s.id));
      setStationId(newest);
      setTaken(null);
      setDoubted(false);
      await remarkOn(p.job.id, { after: "log", station_id: newest, freq_hz: p.freqHz }).then(p.onSaid);
    });
  return (
    <section className="card lg:p-3" aria-label="Readings here">
      <h2>Readings here</h2>
      <ol className="my-2 grid grid-cols-3 gap-2">
        <li>
          <Button
            look={taken ? "plain" : "main"}
            className="w-full px-2"
            disabled={busy !== ""}
            onClick={readHere}
          >
            {taken ? "Read again" : "Read peak"}
          </Button>
        </li>
        <li>
          <Button className="w-full px-2" disabled={!taken || busy !== ""} onClick={liftHere}>
            Lift, read
          </Button>
        </li>
        <li>
          <Button className="w-full px-2" disabled={!taken || busy !== ""} onClick={nullHere}>
            Null here
          </Button>
        </li>
      </ol>
      {taken ? <TakenList taken={taken} units={p.job.units} /> : <Hint station={stationId} />}
      {refused ? <Refused text={refused} /> : null}
      {taken ? (
        <div className="mt-2 flex gap-2">
          <Button look="main" className="grow" disabled={busy !== ""} onClick={() => send(false)}>
            Log station
          </Button>
          {doubted ? (
            <Button look="stop" disabled={busy !== ""} onClick={() => send(true)}>
              Keep as read
            </Button>
          ) : null}
        </div>
      ) : null}
      {stationId !== null && !taken ? (
        <Judged job={p.job} hooked={p.hooked} stationId={stationId} onSaid={p.onSaid} />
      ) : null}
    </section>
  );
}

function Hint({ station }: { station: number | null }) {
  if (station !== null) return null;
  return (
    <p className="text-sm text-quiet">
      Step across the line until the peak is highest, face along it, and read. Then lift, and walk to where
      the null is.
    </p>
  );
}

function TakenList({ taken, units }: { taken: Taken; units: Job["units"] }) {
  const rows = [
    ["Current", taken.currents.length ? `${taken.currents.join(", ")} mA` : "none shown"],
    ["Depth", taken.face.depth_text || "none shown"],
    ["Lifted", taken.lifted ? taken.lifted.depth_text || "none shown" : "not read"],
    ["Peak to null", taken.nullOff === null ? "not read" : offsetText(taken.nullOff, units)],
  ];
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-4 leading-snug" data-taken>
      {rows.map(([what, value]) => (
        <div key={what} className="contents">
          <dt className="text-quiet">{what}</dt>
          <dd className="font-semibold tabular-nums">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The judge's word on the station just logged, and the paint. */
function Judged(p: { job: Job; hooked: Hooked; stationId: number; onSaid: (text: string) => void }) {
  const station = useStation(p.stationId).data;
  if (!station) return <p>Checking the station</p>;
  return (
    <div className="mt-2" data-judged={station.verdict}>
      <p className="flex items-center gap-2">
        <VerdictBadge verdict={station.verdict} /> <strong>{station.distance_text}</strong>
      </p>
      <p className="mt-1 leading-snug">{station.headline}</p>
      <p className="leading-snug font-semibold">{station.next_step}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <Paint job={p.job} station={station} onSaid={p.onSaid} />
        <Link className={buttonClass("quiet")} to={`/jobs/${p.job.id}/lines/${p.hooked.line_id}/trace`}>
          To the trace
        </Link>
      </div>
    </div>
  );
}

function Paint({ job, station, onSaid }: { job: Job; station: Station; onSaid: (text: string) => void }) {
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const mark = useChange("mark", (why: string) =>
    take(
      api.POST("/api/stations/{station_id}/marks", {
        params: { path: { station_id: station.id } },
        body: { reason: why },
      }),
    ),
  );
  const proved = station.verdict === "mark" || station.verdict === "mark_with_care";
  const paint = () =>
    mark.mutateAsync(reason).then(
      () => remarkOn(job.id, { after: "mark", station_id: station.id }).then(onSaid),
      () => setAsking(true),
    );
  if (station.mark_id !== null) return <p className="min-h-11 font-bold text-mark">Painted ✓</p>;
  return (
    <>
      <Button
        look={proved ? "main" : "plain"}
        disabled={mark.isPending}
        onClick={() => (proved || asking ? paint() : setAsking(true))}
      >
        {proved ? "Paint here" : "Paint anyway"}
      </Button>
      {asking ? (
        <label className="block w-full">
          <span className="font-semibold">Why do you mark it anyway?</span>
          <input className="field" value={reason} onChange={(e) => setReason(e.target.value)} />
          {mark.error ? <Refused text={asRefusal(mark.error).text} /> : null}
        </label>
      ) : null}
    </>
  );
}
