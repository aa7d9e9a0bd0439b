import { Power } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, asRefusal, type Schemas, take } from "../../api/client";
import { useChange, yardKey } from "../../api/queries";
import { Button, buttonClass } from "../../ui/Button";
import { Fold } from "../../ui/Fold";
import { Refused } from "../../ui/Refused";
import { remarkOn } from "./remarkOn";

type Yard = Schemas["YardView"];
type Act = Schemas["ActForm"]["act"];

/** What an act changes at the hookup, as the transmitter's next reading says it. */
const CHANGE: Record<Act, "stake" | "clip" | "far" | "bond"> = {
  stake_deeper: "stake",
  clean_clip: "clip",
  earth_far: "far",
  open_bonds: "bond",
};

/** The transmitter: on what it is, its switch, what it shows, and what can be done about it. */
export function TransmitterCard(p: { yard: Yard; passive: boolean; onSaid: (text: string) => void }) {
  const { yard, onSaid } = p;
  const [entered, setEntered] = useState("");
  const [change, setChange] = useState<(typeof CHANGE)[Act] | "">("");
  const path = { params: { path: { job_id: yard.job_id } } };
  const shown = yardKey(yard.job_id);
  const turn = useChange(
    "yard",
    ({ on, freq_hz }: { on: boolean; freq_hz: number | null }) =>
      take(
        api.PUT("/api/jobs/{job_id}/yard/transmitter", {
          ...path,
          body: { on, setup_id: yard.hooked?.setup_id ?? 0, freq_hz },
        }),
      ),
    { shown },
  );
  const act = useChange(
    "yard",
    (a: Act) => take(api.POST("/api/jobs/{job_id}/yard/acts", { ...path, body: { act: a } })),
    { shown },
  );
  const look = useChange("yard", () => take(api.POST("/api/jobs/{job_id}/yard/look", path)), { shown });
  const enter = useChange("reading", (body: Schemas["ReadingForm"]) =>
    take(
      api.POST("/api/setups/{setup_id}/readings", {
        params: { path: { setup_id: yard.hooked?.setup_id ?? 0 } },
        body,
      }),
    ),
  );
  const { hooked } = yard;
  const to = (step: string) => `/jobs/${yard.job_id}/lines/${hooked?.line_id ?? yard.target_line_id}/${step}`;
  if (!hooked)
    return (
      <section className="card max-lg:order-1 lg:p-3" aria-label="Transmitter">
        <h2>Nothing is hooked up</h2>
        <p className="mb-2">Look at the plan, choose how to put signal on {yard.target}, and come back.</p>
        <Link className={buttonClass(p.passive ? "plain" : "main")} to={to("plan")}>
          Plan {yard.target}
        </Link>
      </section>
    );
  const error = turn.error ?? act.error ?? look.error ?? enter.error;
  const log = async () => {
    if (yard.volts === null || yard.milliamps === null) return;
    await enter.mutateAsync({
      volts: yard.volts.toPrecision(3),
      milliamps: yard.milliamps.toPrecision(3),
      freq: `${yard.sends_hz ?? hooked.freq_hz}Hz`,
      change,
    });
    setChange("");
    setEntered(yard.shows);
    const said = await remarkOn(yard.job_id, { after: "read" });
    if (said) onSaid(said);
  };
  return (
    <section className="card max-lg:order-1 lg:p-3" aria-label="Transmitter">
      <div className="flex items-start gap-3">
        <div className="min-w-0 grow">
          <h2 className="leading-tight">{hooked.line}</h2>
          <p className="text-sm text-quiet">{hooked.text}</p>
        </div>
        <Button
          look={yard.on ? "stop" : "main"}
          className="shrink-0 px-3 whitespace-nowrap"
          disabled={turn.isPending}
          aria-pressed={yard.on}
          onClick={() => turn.mutate({ on: !yard.on, freq_hz: yard.sends_hz })}
        >
          <Power aria-hidden className="size-5" /> {yard.on ? "Switch off" : "Switch on"}
        </Button>
      </div>
      {yard.on ? (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <select
            aria-label="Transmitter frequency"
            className="field w-auto px-1 text-sm"
            value={yard.sends_hz ?? hooked.freq_hz}
            disabled={turn.isPending}
            onChange={(e) => turn.mutate({ on: true, freq_hz: Number(e.target.value) })}
          >
            {yard.frequencies
              .filter((f) => f.freq_hz > 0)
              .map((f) => (
                <option key={f.freq_hz} value={f.freq_hz}>
                  {f.label}
                </option>
              ))}
          </select>
          <p className="min-w-0 grow basis-24 leading-tight font-bold" data-transmitter>
            {yard.shows}
          </p>
          {yard.volts !== null ? (
            <Button
              className="px-2 text-sm"
              disabled={enter.isPending}
              onClick={() => void log().catch(() => 0)}
            >
              Enter reading
            </Button>
          ) : null}
        </div>
      ) : null}
      {entered && entered === yard.shows ? (
        <p className="text-sm" role="status">
          Reading entered.{" "}
          <Link className="underline" to={to("hookup")}>
            What it means
          </Link>
        </p>
      ) : null}
      {error ? <Refused text={asRefusal(error).text} /> : null}
      <Fold summary="At the hookup" className="mt-1">
        <div className="grid gap-2">
          {yard.looks ? (
            <Button disabled={look.isPending} onClick={() => look.mutate(undefined)}>
              Look what else is connected
            </Button>
          ) : null}
          {yard.acts.map((a) => (
            <Button
              key={a.id}
              disabled={a.done || act.isPending}
              onClick={() =>
                void act.mutateAsync(a.id as Act).then(
                  () => setChange(CHANGE[a.id as Act]),
                  () => undefined,
                )
              }
            >
              {a.label}
              {a.done ? " ✓" : ""}
            </Button>
          ))}
          <Link className={buttonClass("quiet")} to={to("hookup")}>
            Safe order and readings
          </Link>
          <Link className={buttonClass("quiet")} to={to("plan")}>
            Another setup
          </Link>
        </div>
      </Fold>
    </section>
  );
}
