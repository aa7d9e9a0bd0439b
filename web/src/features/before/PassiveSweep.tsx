import { CircleQuestionMark } from "lucide-react";
import { useState } from "react";
import { useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { api, asRefusal, type Job, Refusal, type Schemas, take } from "../../api/client";
import { useChange, useSite } from "../../api/queries";
import { formatter, placeText } from "../../api/units";
import { Button } from "../../ui/Button";
import { Fold } from "../../ui/Fold";
import { fetched } from "../../ui/fetched";
import { Refused } from "../../ui/Refused";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toasts";
import { useConsequences } from "../consequences/useConsequences";
import { PlanPicture } from "../site/PlanPicture";
import { NextWalk, Spacing, useGrid, Ways } from "./GridWalk";
import { type HitEntry, LogHit, NO_TAPE, useHitEntry } from "./LogHit";

type Passive = Schemas["PassiveView"];
type Form = Schemas["PassiveForm"];
type Hit = Passive["hits"][number];

const LineForm = fetched(() => import("../line/LineForm"));

const formOf = (p: Passive): Form => ({
  spacing: p.spacing,
  hits: p.hits.map((h) => ({ source: h.source, place: h.place, note: h.note, ...NO_TAPE })),
});

/** The receiver alone: the grid walked strip by strip both ways, and what it met, placed on the plan. */
export function PassiveSweep({ job, passive: p }: { job: Job; passive: Passive }) {
  const toast = useToast();
  const save = useChange(
    "passive",
    (body: Form) =>
      take(api.PUT("/api/jobs/{job_id}/before/passive", { params: { path: { job_id: job.id } }, body })),
    { scope: `before-${job.id}` },
  );
  // what was asked for last shows at once, and the next change starts from it
  const asked = save.isPending ? save.variables : formOf(p);
  const changes = useConsequences((body: Form, signal) =>
    take(
      api.POST("/api/jobs/{job_id}/before/passive/consequences", {
        params: { path: { job_id: job.id } },
        body,
        signal,
      }),
    ),
  );
  const send = async (patch: Partial<Form>, said?: string) => {
    const before = asked;
    if (patch.hits && !(await changes.allowed({ ...before, ...patch })))
      throw new Refusal("", "Not saved.", "Save it once you are ready.", "stopped");
    await save.mutateAsync({ ...before, ...patch });
    await changes.settle();
    if (said) toast(said, () => save.mutate(before));
  };
  const refused = save.isError ? asRefusal(save.error) : null;
  const ofForms = refused?.field === "spacing" || refused?.field.startsWith("hits.");
  const hits = asked.hits ?? [];
  const entry = useHitEntry(job);
  const grid = useGrid(job);
  const site = useSite(job.id);
  const drawn =
    site.data && site.data.lines.length + site.data.access.length + site.data.dig.length > 0
      ? site.data
      : null;
  const bench = "card lg:col-start-2";
  const walks = (
    <>
      <Ways grid={p.grid} use={grid} />
      <Spacing
        key={`${p.spacing} ${p.grid.usual_spacing}`}
        job={job}
        value={p.spacing}
        usual={p.grid.usual_spacing}
        onSet={(spacing) => send({ spacing })}
      />
    </>
  );
  return (
    <section
      aria-label="Passive sweep"
      className={`grid grid-cols-1 gap-3 ${drawn ? "lg:h-full lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[auto_minmax(0,1fr)]" : "max-w-xl"}`}
    >
      <div className={drawn ? bench : "card"}>
        <h2 className="sr-only">Passive sweep</h2>
        <p className="text-lg font-semibold">{p.headline}</p>
        <p className="text-sm text-quiet">{p.advice}</p>
        <NextWalk grid={p.grid} use={grid} />
      </div>
      {drawn ? (
        <div className="h-72 lg:col-start-1 lg:row-span-2 lg:row-start-1 lg:h-auto lg:min-h-80">
          <OnPlan site={drawn} job={job} passive={p} entry={entry} />
        </div>
      ) : null}
      <div className={drawn ? `${bench} min-h-0 lg:overflow-y-auto` : "card"}>
        {p.grid.lacks ? walks : null}
        {changes.shown}
        {refused && !ofForms ? <Refused text={refused.text} /> : null}
        <LogHit
          form={entry}
          job={job}
          count={hits.length}
          passive={p}
          drawn={drawn !== null}
          busy={save.isPending || changes.checking}
          onAdd={(hit) => send({ hits: [...hits, hit] })}
        />
        <HitList
          job={job}
          hits={p.hits}
          // a tap has no field of its own: what it was refused for shows above the list
          onRemove={(i) =>
            void send({ hits: hits.filter((_, k) => k !== i) }, "Hit removed.").catch(() => undefined)
          }
        />
        {p.grid.lacks ? null : <Fold summary="Strips walked, and their distance">{walks}</Fold>}
      </div>
    </section>
  );
}

/** The plan with the strips; a tap gives the place of the hit that is being logged. */
function OnPlan(p: { site: Schemas["SiteView"]; job: Job; passive: Passive; entry: HitEntry }) {
  const { place } = useWatch({ control: p.entry.control });
  const [tapped, setTapped] = useState<{ at: [number, number]; text: string } | null>(null);
  return (
    <PlanPicture
      site={p.site}
      format={formatter(p.job.units)}
      zoomTo={p.site.dig.length ? p.site.dig : undefined}
      strips={p.passive.grid.ways.flatMap((w) => w.strips)}
      draft={tapped && tapped.text === place ? [tapped.at] : []}
      onTap={(at) => {
        const text = placeText(at, p.job.units);
        setTapped({ at, text });
        p.entry.setValue("place", text);
      }}
    />
  );
}

function HitList(p: { job: Job; hits: Hit[]; onRemove: (index: number) => void }) {
  const go = useNavigate();
  const [made, setMade] = useState<Hit["line"] | null>(null);
  if (!p.hits.length) return null;
  return (
    <>
      <ul className="mt-2">
        {p.hits.map((h, i) => (
          <li
            key={`${h.place}-${h.source}-${h.note}`}
            className="flex items-start gap-2 border-t border-edge py-2"
            data-explained={h.explained}
          >
            <CircleQuestionMark
              aria-hidden
              className={`mt-0.5 size-5 shrink-0 ${h.explained ? "text-quiet" : "text-hold"}`}
            />
            <div className="min-w-0 grow">
              <p className={h.explained ? "" : "font-semibold"}>{h.text}</p>
              <p className="text-sm text-quiet">
                {h.place ? `At ${h.place}` : "No place on the plan"}
                {h.note ? ` · ${h.note}` : ""}
              </p>
              {h.explained || !h.place ? null : (
                <Button
                  className="mt-1 text-sm"
                  aria-label={`Make a line of it: ${h.note || h.place}`}
                  onClick={() => setMade(h.line)}
                >
                  Make a line of it
                </Button>
              )}
            </div>
            <Button
              look="quiet"
              className="text-sm"
              aria-label={`Remove the hit ${h.note || h.place}`}
              onClick={() => p.onRemove(i)}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <Sheet title="New line" open={made !== null} onClose={() => setMade(null)}>
        {made ? (
          <LineForm job={p.job} given={made} onDone={(id) => go(`/jobs/${p.job.id}/lines/${id}/plan`)} />
        ) : null}
      </Sheet>
    </>
  );
}
