import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { api, asRefusal, type Schemas, take } from "../../api/client";
import { useSite } from "../../api/queries";
import { formatter } from "../../app/units";
import { ReachBoard } from "../../pictures/ReachBoard";
import { Button } from "../../ui/Button";
import { Choice, Field, Tick } from "../../ui/Field";
import type { Job, LineState } from "../line/JobPage";
import { PlanPicture } from "../site/PlanPicture";

type Option = Schemas["OptionView"];
type Corner = [number, number];
const AROUND_M = 14;

/** A value that follows another one at most every so often: dragging asks many questions a second. */
function useLately<T>(value: T, everyMs: number): T {
  const [late, setLate] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setLate(value), everyMs);
    return () => clearTimeout(timer);
  }, [value, everyMs]);
  return late;
}

/** What if: the stake elsewhere, other soil, another far end, a bond away; the forecast follows while dragging. */
export function WhatIf(p: {
  job: Job;
  line: LineState;
  option: Option;
  lengthM: number;
  onUse: (stakeAt: Corner | null) => void;
}) {
  const { option: o, line } = p;
  const planned = (o.stake_at as Corner | null) ?? null;
  const [stake, setStake] = useState<Corner | null>(planned);
  const [soil, setSoil] = useState("");
  const [far, setFar] = useState("");
  const [dropped, setDropped] = useState<number[]>([]);
  const asked = useLately(
    useMemo(() => ({ stake, soil, far, dropped }), [stake, soil, far, dropped]),
    60,
  );
  const setup = {
    hookup: o.hookup,
    freq_hz: o.freq_hz,
    output_a: o.output_a,
    position_m: o.position_m,
    planned_stake_at: planned,
  };
  const query = useQuery({
    queryKey: ["line", line.id, "what-if", o.key, asked],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      take(
        api.POST("/api/lines/{line_id}/what-if", {
          params: { path: { line_id: line.id } },
          body: {
            ...setup,
            stake_at: asked.stake,
            soil_resistivity: asked.soil,
            far: asked.far as "" | "open" | "earthed",
            without_bonds: asked.dropped,
          },
        }),
      ) as Promise<Schemas["WhatIfView"]>,
  });
  const unknowns = useQuery({
    queryKey: ["line", line.id, "unknowns", o.key],
    queryFn: () =>
      take(
        api.POST("/api/lines/{line_id}/unknowns", {
          params: { path: { line_id: line.id } },
          body: {
            ...setup,
          },
        }),
      ),
  });
  const found = query.data;
  const refused = query.isError ? asRefusal(query.error) : null;
  const changed = stake?.join() !== planned?.join() || soil || far || dropped.length > 0;
  return (
    <section className="card" aria-label="What if">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2>What if</h2>
        {changed ? (
          <Button
            look="quiet"
            onClick={() => {
              setStake(planned);
              setSoil("");
              setFar("");
              setDropped([]);
            }}
          >
            As planned again
          </Button>
        ) : null}
      </div>
      {unknowns.data ? (
        <div className="mb-3 rounded-md border border-edge p-3" data-unknowns>
          <p className="font-semibold">{unknowns.data.find_out}</p>
          <ul className="mt-1 list-disc pl-5">
            {unknowns.data.each.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </div>
      ) : null}
      <div className="grid gap-x-4 md:grid-cols-2">
        <Field
          name="soil_resistivity"
          label="Soil resistivity"
          quantity="resistivity"
          value={soil}
          onChange={setSoil}
          error={refused}
          hint="Ohm metres: 20 wet clay, 800 dry sand. Empty: as the job has it"
        />
        <Choice
          name="far"
          label="Far end"
          value={far}
          onChange={setFar}
          options={[
            { id: "", label: "As told" },
            { id: "earthed", label: "Have it earthed" },
            { id: "open", label: "Open" },
          ]}
        />
      </div>
      {found?.bonds.map((b) => (
        <Tick
          key={b.index}
          name={`bond-${b.index}`}
          label={`Without the bond of ${b.text}`}
          checked={dropped.includes(b.index)}
          onChange={(on) => setDropped(on ? [...dropped, b.index] : dropped.filter((k) => k !== b.index))}
        />
      ))}
      {planned ? (
        <StakePlan {...p} stake={stake} here={(found?.here as Corner | null) ?? null} onStake={setStake} />
      ) : null}
      {found ? (
        <>
          <p role="status" className="mt-3 text-lg font-semibold" data-change>
            {found.change_text}
          </p>
          {found.stake_text ? <p className="font-semibold text-hold">{found.stake_text}</p> : null}
          <ReachBoard
            options={[
              { ...o, key: "planned", hookup_label: "As planned", forecasts: found.planned },
              { ...o, key: "asked", hookup_label: "What if", forecasts: found.asked },
            ]}
            lengthM={p.lengthM}
            format={formatter(p.job.units)}
            chosen={null}
          />
        </>
      ) : null}
      {refused && refused.field !== "soil_resistivity" ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {refused.message} {refused.fix}
        </p>
      ) : null}
      {planned && stake?.join() !== planned.join() ? (
        <Button className="mt-2" disabled={Boolean(found?.stake_text)} onClick={() => p.onUse(stake)}>
          Hook up with the stake there
        </Button>
      ) : null}
    </section>
  );
}

function StakePlan(p: {
  job: Job;
  line: LineState;
  option: Option;
  stake: Corner | null;
  here: Corner | null;
  onStake: (at: Corner) => void;
}) {
  const site = useSite(p.job.id);
  const spots = useQuery({
    queryKey: ["line", p.line.id, "spots", p.option.position_m],
    queryFn: () =>
      take(
        api.GET("/api/lines/{line_id}/spots", {
          params: { path: { line_id: p.line.id }, query: { at_m: p.option.position_m } },
        }),
      ) as Promise<Schemas["SpotsView"]>,
  });
  const here = spots.data?.here;
  const zoomTo = useMemo<Corner[] | undefined>(
    () =>
      here && [
        [here[0] - AROUND_M, here[1] - AROUND_M],
        [here[0] + AROUND_M, here[1] + AROUND_M],
      ],
    [here],
  );
  if (!site.data || !spots.data || !here) return null;
  return (
    <div className="mt-1">
      <p className="font-semibold">{spots.data.advice}</p>
      <p className="mb-2 text-sm text-quiet">
        Drag the stake, or tap where it should stand. Rings will do; crosses will not, and say why.
      </p>
      <div className="h-80">
        <PlanPicture
          site={site.data}
          format={formatter(p.job.units)}
          spots={spots.data.spots}
          stake={p.stake ? { at: p.stake, from: here, onMove: p.onStake } : null}
          onTap={p.onStake}
          zoomTo={zoomTo}
        />
      </div>
    </div>
  );
}
