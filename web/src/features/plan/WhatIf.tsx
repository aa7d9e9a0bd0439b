import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useDebounce } from "use-debounce";
import { api, asRefusal, type Job, type LineState, type Schemas, take } from "../../api/client";
import { useSite } from "../../api/queries";
import { formatter } from "../../api/units";
import { ReachBoard } from "../../pictures/ReachBoard";
import { Button } from "../../ui/Button";
import { Choice, Field, Tick } from "../../ui/Field";

import { PlanPicture } from "../site/PlanPicture";
import { SoilSlide } from "./SoilSlide";

type Option = Schemas["OptionView"];
type Corner = [number, number];
const AROUND_M = 14;

type Asked = { at: Option; stake: Corner | null; soil: string; far: string; dropped: number[] };

/** What if: another place, the stake elsewhere, other soil, another far end, a bond away; the board follows. */
export function WhatIf(p: {
  job: Job;
  line: LineState;
  option: Option;
  elsewhere: Option[];
  plan: Schemas["PlanView"];
  onUse: (o: Option, stakeAt: Corner | null) => void;
}) {
  const { option: o, line } = p;
  const planned: Asked = { at: o, stake: stakeOf(o), soil: "", far: "", dropped: [] };
  const [now, setNow] = useState(planned);
  const change = (part: Partial<Asked>) => setNow({ ...now, ...part });
  const asked = useDebounce(now, 60)[0];
  const body = {
    ...setupOf(o),
    position_m: asked.at.position_m,
    stake_at: asked.stake,
    soil_resistivity: asked.soil,
    far: asked.far as "" | "open" | "earthed",
    without_bonds: asked.dropped,
  };
  const path = { params: { path: { line_id: line.id } } };
  const query = useQuery({
    queryKey: ["line", line.id, "what-if", o.key, body],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      take(api.POST("/api/lines/{line_id}/what-if", { ...path, body })) as Promise<Schemas["WhatIfView"]>,
  });
  // the others do not follow the stake, and may take longer
  const others = useQuery({
    queryKey: ["line", line.id, "what-if", o.key, "board", { ...body, stake_at: stakeOf(asked.at) }],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      take(
        api.POST("/api/lines/{line_id}/what-if/board", {
          ...path,
          body: { ...body, stake_at: stakeOf(asked.at) },
        }),
      ) as Promise<Schemas["BoardView"]>,
  });
  const found = query.data;
  const refused = query.isError ? asRefusal(query.error) : null;
  const moved = now.at !== o || now.stake?.join() !== planned.stake?.join();
  const changed = moved || now.soil || now.far || now.dropped.length > 0;
  return (
    <section aria-label="What if">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2>What if</h2>
        {changed ? (
          <Button look="quiet" onClick={() => setNow(planned)}>
            Back to the plan
          </Button>
        ) : null}
      </div>
      <Unknowns line={line} option={o} />
      <div className="grid gap-x-4 md:grid-cols-2">
        <div>
          <Field
            name="soil_resistivity"
            label="Soil resistivity"
            quantity="resistivity"
            value={now.soil}
            onChange={(soil) => change({ soil })}
            wrong={refused?.field === "soil_resistivity" ? refused.text : undefined}
            hint="Wet clay 20 ohm m, dry sand 800 ohm m. Empty: the job's soil."
          />
          <SoilSlide value={now.soil} assumed={p.plan.soil_ohm_m} onChange={(soil) => change({ soil })} />
        </div>
        <div>
          <Choice
            name="far"
            label="Far end"
            value={now.far}
            onChange={(far) => change({ far })}
            options={[
              { id: "", label: "As entered" },
              { id: "earthed", label: "Earth it" },
              { id: "open", label: "Open" },
            ]}
          />
          {p.elsewhere.length ? (
            <Choice
              name="elsewhere"
              label="Hooked up at"
              value={now.at.key}
              onChange={(key) => {
                const at = [o, ...p.elsewhere].find((e) => e.key === key) ?? o;
                change({ at, stake: stakeOf(at) });
              }}
              options={[o, ...p.elsewhere].map((e) => ({ id: e.key, label: e.place_text }))}
            />
          ) : null}
        </div>
      </div>
      {found?.bonds.map((b) => (
        <Tick
          key={b.index}
          name={`bond-${b.index}`}
          label={`Remove the bond: ${b.text}`}
          checked={now.dropped.includes(b.index)}
          onChange={(on) =>
            change({ dropped: on ? [...now.dropped, b.index] : now.dropped.filter((k) => k !== b.index) })
          }
        />
      ))}
      {now.stake ? (
        <StakePlan
          {...p}
          option={now.at}
          stake={now.stake}
          here={(found?.here as Corner | null) ?? null}
          onStake={(stake) => change({ stake })}
        />
      ) : null}
      {found ? (
        <>
          <p role="status" className="mt-3 text-lg font-semibold" data-change>
            {found.change_text} {others.isPlaceholderData ? null : others.data?.text}
          </p>
          {found.stake_text ? <p className="font-semibold text-hold">{found.stake_text}</p> : null}
          <ReachBoard
            options={[...found.board, ...(others.data?.rows ?? [])].map((row) => ({
              ...row,
              hookup_label: ROLE[row.role] ?? row.hookup_label,
            }))}
            lengthM={p.plan.length_m}
            landmarks={p.plan.landmarks}
            format={formatter(p.job.units)}
            chosen={found.board.find((row) => row.role === "asked")?.key ?? null}
          />
          <p className="mt-2 text-sm text-quiet">
            The framed bar is this setup with your changes. The others are the best other setups under the
            same changes.
          </p>
        </>
      ) : null}
      {refused && refused.field !== "soil_resistivity" ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {refused.text}
        </p>
      ) : null}
      {moved ? (
        <Button
          className="mt-2"
          disabled={Boolean(found?.refused)}
          onClick={() => p.onUse({ ...o, position_m: now.at.position_m }, now.stake)}
        >
          {now.stake ? "Hook up with the stake there" : "Hook up there"}
        </Button>
      ) : null}
    </section>
  );
}

const ROLE: Record<string, string | undefined> = { planned: "As planned", asked: "What if" };

function stakeOf(o: Option): Corner | null {
  return (o.stake_at as Corner | null) ?? null;
}

function setupOf(o: Option) {
  return {
    hookup: o.hookup,
    freq_hz: o.freq_hz,
    output_a: o.output_a,
    position_m: o.position_m,
    planned_position_m: o.position_m,
    planned_stake_at: stakeOf(o),
  };
}

/** What is not known, what each could change, and whether another setup would be the sounder choice. */
function Unknowns({ line, option: o }: { line: LineState; option: Option }) {
  const unknowns = useQuery({
    queryKey: ["line", line.id, "unknowns", o.key],
    queryFn: () =>
      take(
        api.POST("/api/lines/{line_id}/unknowns", {
          params: { path: { line_id: line.id } },
          body: setupOf(o),
        }),
      ),
  });
  if (unknowns.isPending) return <p className="mb-3 text-quiet">Finding what is worth measuring …</p>;
  if (!unknowns.data) return null;
  return (
    <div className="mb-3 rounded-md border border-edge p-3" data-unknowns>
      <p className="font-semibold">{unknowns.data.find_out}</p>
      <ul className="mt-1 list-disc pl-5">
        {unknowns.data.each.map((text) => (
          <li key={text}>{text}</li>
        ))}
        {unknowns.data.sound ? <li>{unknowns.data.sound}</li> : null}
      </ul>
    </div>
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
        Drag the stake, or tap its new place. Rings are good spots. Crosses are not, and say why.
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
