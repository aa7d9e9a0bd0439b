import { Power } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, asRefusal, type Schemas, take } from "../../api/client";
import { faultKey, useChange, yardKey } from "../../api/queries";
import { Button, buttonClass } from "../../ui/Button";
import { Refused } from "../../ui/Refused";
import { remarkOn } from "./remarkOn";
import type { FrameShown } from "./useFrame";

type Yard = Schemas["YardView"];

const SAID: Record<string, string> = {
  on: "on",
  back: "back",
  null: "neither way",
  left: "left",
  right: "right",
};

/** The walk with the frame: its transmitter, and what was read at one place, along the line and turned across. */
export function WalkCard(p: {
  yard: Yard;
  read: () => Promise<FrameShown | undefined>;
  onSaid: (text: string) => void;
}) {
  const { yard } = p;
  const lineId = yard.target_line_id ?? 0;
  const [taken, setTaken] = useState<FrameShown | null>(null);
  const [across, setAcross] = useState<FrameShown["across"]>("");
  const [logged, setLogged] = useState("");
  const path = { params: { path: { job_id: yard.job_id } } };
  const turn = useChange(
    "yard",
    (on: boolean) =>
      take(
        api.PUT("/api/jobs/{job_id}/yard/transmitter", {
          ...path,
          body: { on, walk_id: yard.walk?.walk_id ?? null },
        }),
      ),
    { shown: yardKey(yard.job_id) },
  );
  const log = useChange(
    "frame",
    (body: Schemas["FrameForm"]) =>
      take(
        api.POST("/api/fault-walks/{walk_id}/readings", {
          params: { path: { walk_id: yard.walk?.walk_id ?? 0 } },
          body,
        }),
      ),
    { shown: faultKey(lineId) },
  );
  const page = `/jobs/${yard.job_id}/lines/${lineId}/fault`;
  if (!yard.walk)
    return (
      <section className="card max-lg:order-1 lg:p-3" aria-label="Walk with the frame">
        <h2>No walk is started</h2>
        <p className="mb-2">Make the cable ready on its Fault page, start the walk there, and come back.</p>
        <Link className={buttonClass("main")} to={page}>
          Get {yard.target} ready
        </Link>
      </section>
    );
  const read = async () => {
    const face = await p.read();
    if (!face) return;
    setLogged("");
    if (face.across) setAcross(face.across);
    else if (face.arrow) setTaken(face);
  };
  const send = async () => {
    if (!taken?.arrow) return;
    await log.mutateAsync({
      distance: taken.along,
      arrow: taken.arrow,
      level: taken.level,
      across,
      insist: true,
    });
    setLogged(`Logged at ${taken.along}.`);
    p.onSaid(await remarkOn(yard.job_id, { after: "frame", walk_id: yard.walk?.walk_id ?? 0 }));
    setTaken(null);
    setAcross("");
  };
  const error = turn.error ?? log.error;
  return (
    <section className="card max-lg:order-1 lg:p-3" aria-label="Walk with the frame">
      <div className="flex items-start gap-3">
        <div className="min-w-0 grow">
          <h2 className="leading-tight">{yard.target}</h2>
          <p className="text-sm text-quiet">{yard.walk.text}</p>
          {yard.on ? (
            <p className="font-bold" data-transmitter>
              {yard.shows}
            </p>
          ) : null}
        </div>
        <Button
          look={yard.on ? "stop" : "main"}
          className="shrink-0 px-3 whitespace-nowrap"
          disabled={turn.isPending}
          aria-pressed={yard.on}
          onClick={() =>
            void turn.mutateAsync(!yard.on).then(
              (y) => p.onSaid(y.remark),
              () => undefined,
            )
          }
        >
          <Power aria-hidden className="size-5" /> {yard.on ? "Switch off" : "Switch on"}
        </Button>
      </div>
      {yard.on ? (
        <>
          <div className="my-2 grid grid-cols-2 gap-2">
            <Button look={taken ? "plain" : "main"} onClick={() => void read().catch(() => undefined)}>
              Read frame
            </Button>
            <Button
              look={taken ? "main" : "plain"}
              disabled={!taken || log.isPending}
              onClick={() => void send().catch(() => undefined)}
            >
              Log reading
            </Button>
          </div>
          {taken || across ? (
            <dl className="grid grid-cols-[auto_1fr] gap-x-3 text-sm">
              <dt className="text-quiet">Along the line</dt>
              <dd className="font-semibold">
                {taken ? `${SAID[taken.arrow]}, level ${taken.level}` : "not read"}
              </dd>
              <dt className="text-quiet">Turned across</dt>
              <dd className="font-semibold">{across ? SAID[across] : "not read"}</dd>
            </dl>
          ) : (
            <p className="text-sm text-quiet" role="status">
              {logged || "Set it along the line and read. Near the flip, turn it across and read again."}
            </p>
          )}
        </>
      ) : null}
      {error ? <Refused text={asRefusal(error).text} /> : null}
      <Link className={buttonClass("quiet")} to={page}>
        Loop, faults and marks
      </Link>
    </section>
  );
}
