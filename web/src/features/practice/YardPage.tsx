import { Flag } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useParams } from "react-router";
import { api, asRefusal, type Job, type Schemas, take } from "../../api/client";
import { useChange, useFound, useJob, useSite, useYard, yardKey } from "../../api/queries";
import { formatter } from "../../api/units";
import {
  HeldReceiver,
  HitPins,
  OldPaint,
  PaintPins,
  pair,
  TransmitterLead,
  TransmitterPin,
} from "../../pictures/siteplan/Yard";
import { Button } from "../../ui/Button";
import { Tick } from "../../ui/Field";
import { Fold } from "../../ui/Fold";
import { Refused } from "../../ui/Refused";
import { StageBench } from "../../ui/StageBench";
import { useRemembered } from "../../ui/useRemembered";
import { useTitle } from "../../ui/useTitle";
import { Wait } from "../../ui/Wait";
import { PlanPicture } from "../site/PlanPicture";
import { Debrief } from "./Debrief";
import { FrameFace } from "./FrameFace";
import { HitCard, PASSIVE } from "./HitCard";
import { LogCard } from "./LogCard";
import { ReceiverFace } from "./ReceiverFace";
import { RodCard } from "./RodCard";
import { TransmitterCard } from "./TransmitterCard";
import { useFrame } from "./useFrame";
import { type Face, useReceiver } from "./useReceiver";
import { useWalk } from "./useWalk";
import { WalkCard } from "./WalkCard";

/** An exercise: the yard while it runs, the debrief once it has ended. */
export default function YardPage() {
  const jobId = Number(useParams().jobId);
  const [job, yard] = [useJob(jobId), useYard(jobId)];
  useTitle("Yard", job.data?.name ?? "");
  return (
    <section aria-label="Practice yard" className="min-h-0 min-w-0">
      <h1 className="sr-only">Practice yard</h1>
      <Wait query={job} doing="Reading the job">
        {(j) => (
          <Wait query={yard} doing="Reading the yard">
            {(y) => (y.ended ? <Debrief job={j} /> : <Running yard={y} job={j} />)}
          </Wait>
        )}
      </Wait>
    </section>
  );
}

function Running({ yard, job }: { yard: Schemas["YardView"]; job: Job }) {
  const site = useSite(job.id).data;
  const found = useFound(job.id).data;
  const [said, setSaid] = useState<string | null>(null);
  const [settings, setSettings] = useState({ freqHz: yard.receiver_hz, gainDb: 40, sonde: false });
  const walk = useWalk(pair(yard.start), () => walk.setLifted(!walk.pose.lifted));
  const framed = yard.tool === "frame";
  const receiver = useReceiver(job.id, walk.pose, settings, !framed);
  const frame = useFrame(job.id, walk.pose, framed);
  const hooked = standing(yard, receiver.face);
  // the stake lies beside the line: it is in sight from the start, and what is moved later moves no picture
  const began = useRef(hooked?.stake_at ?? null);
  began.current ??= hooked?.stake_at ?? null;
  const put = useChange(
    "setup",
    ({ what, at }: { what: "transmitter" | "stake"; at: [number, number] }) =>
      take(
        api.POST("/api/jobs/{job_id}/yard/moves", {
          params: { path: { job_id: job.id } },
          body: { what, east: at[0], north: at[1] },
        }),
      ).then((now) => {
        setSaid(now.remark);
        return now;
      }),
    { shown: yardKey(job.id) },
  );
  const paint = (found?.lines ?? []).flatMap((l) =>
    l.points
      .filter((x) => x.kind === "mark")
      .map((x) => ({ key: `${l.line_id} ${x.at.join()}`, at: pair(x.at), text: x.text })),
  );
  const [quiet, setQuiet] = useRemembered("vessel-coach-off");
  const words = quiet ? "" : (said ?? yard.remark);
  return (
    <StageBench
      stageFirst
      stage={
        <>
          <div className="h-[34vh] min-h-56 lg:h-auto lg:min-h-0 lg:grow">
            {site ? (
              <PlanPicture
                site={site}
                format={formatter(job.units)}
                onTap={walk.walkTo}
                zoomTo={toSee(site, began.current)}
                ground={
                  <>
                    <OldPaint paint={yard.old_paint} />
                    {hooked ? <TransmitterLead hooked={hooked} /> : null}
                  </>
                }
                above={
                  <>
                    <PaintPins marks={paint} />
                    <HitPins hits={yard.hits.map(pair)} />
                    {hooked ? (
                      <TransmitterPin
                        hooked={hooked}
                        on={yard.on}
                        onPut={
                          yard.walk
                            ? undefined
                            : (what, at) => put.mutateAsync({ what, at }).catch(() => null)
                        }
                      />
                    ) : null}
                    <HeldReceiver
                      at={walk.pose.at}
                      headingDeg={walk.pose.headingDeg}
                      lifted={walk.pose.lifted}
                      onMove={walk.carry}
                    />
                  </>
                }
              />
            ) : null}
          </div>
          {framed ? (
            <FrameFace face={frame.face} lost={frame.lost} walk={walk} />
          ) : (
            <ReceiverFace
              face={receiver.face}
              trail={receiver.trail}
              lost={receiver.lost}
              pose={walk.pose}
              walk={walk}
              frequencies={yard.frequencies}
              hasSonde={yard.rod !== null}
              settings={settings}
              onSettings={setSettings}
            />
          )}
        </>
      }
      bench={
        <>
          <section className="card max-lg:order-1 lg:p-3" aria-label="Task">
            <h2 className="leading-tight">{yard.name}</h2>
            <p className="leading-snug">{yard.task}</p>
            {yard.old_paint.map((x) => (
              <p key={x.text} className="text-sm text-quiet">
                {x.text}. It is worn: prove it before you trust it.
              </p>
            ))}
            <Link className="inline-flex min-h-11 items-center underline lg:hidden" to={`/jobs/${job.id}`}>
              The job and its lines
            </Link>
            {words ? (
              <p
                className="mt-2 border-l-4 border-need bg-need-bg px-2 py-1 leading-snug font-semibold text-need"
                aria-live="polite"
                data-coach
              >
                {words}
              </p>
            ) : null}
            {put.error ? <Refused text={asRefusal(put.error).text} /> : null}
            <Fold summary="What passes, and the coach" className="mt-1">
              <ul className="list-disc pl-5">
                {yard.goals.map((g) => (
                  <li key={g}>{g}</li>
                ))}
              </ul>
              <Tick name="coach" label="The coach speaks" checked={!quiet} onChange={(on) => setQuiet(!on)} />
            </Fold>
          </section>
          {framed ? (
            <WalkCard yard={yard} read={frame.read} onSaid={setSaid} />
          ) : yard.rod ? (
            <RodCard
              job={job}
              yard={yard}
              rod={yard.rod}
              walk={walk}
              read={receiver.read}
              sonde={settings.sonde}
              onSaid={setSaid}
            />
          ) : (
            <>
              <TransmitterCard yard={yard} passive={settings.freqHz === PASSIVE} onSaid={setSaid} />
              {settings.freqHz === PASSIVE ? (
                <HitCard job={job} at={walk.pose.at} />
              ) : yard.hooked ? (
                <LogCard
                  key={yard.hooked.setup_id}
                  job={job}
                  hooked={yard.hooked}
                  walk={walk}
                  read={receiver.read}
                  freqHz={settings.freqHz}
                  onSaid={setSaid}
                />
              ) : null}
            </>
          )}
          <Finish job={job} />
        </>
      }
    />
  );
}

/** What the yard shows at first: what is drawn, and the stake. */
function toSee(site: Schemas["SiteView"], stake: number[] | null): [number, number][] {
  const drawn = [...site.lines, ...site.structures].flatMap((x) => x.corners);
  return [...drawn, ...site.access.map((a) => a.at), ...(stake ? [pair(stake)] : [])];
}

/** Where transmitter and stake stand now: a coil that is carried along follows the receiver. */
function standing(yard: Schemas["YardView"], face: Face | null) {
  if (yard.walk) return { at: yard.walk.at, stake_at: yard.walk.stake_at };
  if (!yard.hooked) return null;
  return { at: face?.coil ?? yard.hooked.at, stake_at: yard.hooked.stake_at };
}

/** Ends the exercise, asked once more: the ground is laid open then. */
function Finish({ job }: { job: Job }) {
  const [sure, setSure] = useState(false);
  const finish = useChange("yard", () =>
    take(api.POST("/api/jobs/{job_id}/yard/finish", { params: { path: { job_id: job.id } } })),
  );
  if (!sure)
    return (
      <Button className="max-lg:order-1" onClick={() => setSure(true)}>
        <Flag aria-hidden className="size-5" /> End and debrief
      </Button>
    );
  return (
    <section className="card max-lg:order-1" aria-label="End the exercise">
      <p className="mb-2 font-semibold">
        End it here? The ground is laid open and nothing more can be marked.
      </p>
      <div className="flex gap-2">
        <Button look="main" disabled={finish.isPending} onClick={() => finish.mutate(undefined)}>
          End the exercise
        </Button>
        <Button onClick={() => setSure(false)}>Go on</Button>
      </div>
      {finish.error ? <Refused text={asRefusal(finish.error).text} /> : null}
    </section>
  );
}
