import { CircleQuestionMark } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { api, asRefusal, type Job, Refusal, type Schemas, take } from "../../api/client";
import { useChange, useSite } from "../../api/queries";
import { formatter, placeText } from "../../api/units";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Tick } from "../../ui/Field";
import { Refused } from "../../ui/Refused";
import { Sheet } from "../../ui/Sheet";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";
import { PlanPicture } from "../site/PlanPicture";

type Passive = Schemas["PassiveView"];
type Form = Schemas["PassiveForm"];
type Source = Schemas["HitForm"]["source"];

const LineForm = lazy(() => import("../line/LineForm"));

const NEW = { source: "mains" as string, place: "", note: "", near: "", away: "", towards: "" };
const NO_TAPE = { near: "", away: "", towards: "" };
const COMPASS = ["N", "NE", "E", "SE", "S", "SW", "W", "NW"];

const formOf = (p: Passive): Form => ({
  first: p.first,
  second: p.second,
  spacing: p.spacing,
  hits: p.hits.map((h) => ({ source: h.source, place: h.place, note: h.note, ...NO_TAPE })),
});

/** The receiver alone: the grid walked twice, and what it met, placed on the plan as "something here". */
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
  // a tap has no field of its own: what it was refused for shows above the list
  const tap = (patch: Partial<Form>, said?: string) => send(patch, said).catch(() => undefined);
  const refused = save.isError ? asRefusal(save.error) : null;
  const ofForms = refused?.field === "spacing" || refused?.field.startsWith("hits.");
  const hits = asked.hits ?? [];
  const go = useNavigate();
  const [made, setMade] = useState<Passive["hits"][number]["line"] | null>(null);
  return (
    <section className="card" aria-label="Passive sweep">
      <h2>Passive sweep</h2>
      <p className="mt-1 font-semibold">{p.headline}</p>
      <p className="text-sm text-quiet">{p.advice}</p>
      <div className="mt-2 grid gap-x-4 sm:grid-cols-2">
        <Tick
          name="first"
          label="Grid walked one way"
          checked={asked.first ?? false}
          onChange={(first) => tap({ first })}
        />
        <Tick
          name="second"
          label="Walked again, receiver turned 90°"
          checked={asked.second ?? false}
          onChange={(second) => tap({ second })}
        />
      </div>
      <Spacing key={p.spacing} job={job} value={p.spacing} onSet={(spacing) => send({ spacing })} />
      {changes.shown}
      {refused && !ofForms ? <Refused text={refused.text} /> : null}
      {p.hits.length ? (
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
                onClick={() => tap({ hits: hits.filter((_, k) => k !== i) }, "Hit removed.")}
              >
                Remove
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      <NewHit
        job={job}
        count={hits.length}
        sources={p.sources}
        points={p.points}
        busy={save.isPending || changes.checking}
        onAdd={(hit) => send({ hits: [...hits, hit] })}
      />
      <Sheet title="New line" open={made !== null} onClose={() => setMade(null)}>
        {made ? (
          <Suspense>
            <LineForm job={job} given={made} onDone={(id) => go(`/jobs/${job.id}/lines/${id}/plan`)} />
          </Suspense>
        ) : null}
      </Sheet>
    </section>
  );
}

function Spacing(p: { job: Job; value: string; onSet: (text: string) => Promise<void> }) {
  const form = useEntryForm({ start: { spacing: p.value } });
  const { spacing } = useWatch({ control: form.control });
  return (
    <EntryForm
      form={form}
      send={(typed) => p.onSet(typed.spacing)}
      className="flex max-w-xs items-start gap-2"
    >
      <div className="grow">
        <TextEntry form={form} name="spacing" label="Between walks" quantity="distance" units={p.job.units} />
        <FormError form={form} />
      </div>
      <Button type="submit" className="mt-6" disabled={spacing === p.value}>
        Set
      </Button>
    </EntryForm>
  );
}

function NewHit(p: {
  job: Job;
  count: number;
  sources: Passive["sources"];
  points: string[];
  busy: boolean;
  onAdd: (hit: Schemas["HitForm"]) => Promise<void>;
}) {
  const form = useEntryForm({ start: NEW, draft: `hit-${p.job.id}` });
  const { place, near } = useWatch({ control: form.control });
  const [tapped, setTapped] = useState<[number, number] | null>(null);
  const site = useSite(p.job.id);
  const drawn = site.data && site.data.lines.length + site.data.access.length > 0 ? site.data : null;
  const format = formatter(p.job.units);
  const send = async (typed: typeof NEW) => {
    try {
      const taped = typed.place ? NO_TAPE : {};
      await p.onAdd({ ...typed, ...taped, source: typed.source as Source });
    } catch (e) {
      // a refusal of the hit being added names its number, counted from those on record
      const { field, message, fix, code } = asRefusal(e);
      throw new Refusal(field.replace(`hits.${p.count}.`, ""), message, fix, code);
    }
    form.begin(NEW);
  };
  const show = (at: [number, number]) => {
    setTapped(at);
    form.setValue("place", placeText(at, p.job.units));
  };
  return (
    <EntryForm form={form} send={send} className="mt-3 border-t border-edge pt-3">
      <h3>Log a hit</h3>
      {drawn ? (
        <div className="my-2 h-64">
          <PlanPicture site={drawn} format={format} onTap={show} draft={tapped && place ? [tapped] : []} />
        </div>
      ) : null}
      <div className="grid grid-cols-1 gap-x-3 sm:grid-cols-2">
        <ChoiceEntry form={form} label="What the receiver hears" name="source" options={p.sources} />
        <TextEntry
          form={form}
          name="place"
          label={drawn ? "Place: tap the plan, or type 12 E, 3 S" : "Place, such as 12 E, 3 S"}
          then={() => setTapped(null)}
        />
        {p.points.length && !place ? (
          <div className="grid grid-cols-2 gap-x-3 sm:col-span-2 sm:grid-cols-3">
            <div className="col-span-2 sm:col-span-1">
              <ChoiceEntry
                form={form}
                label="Or measured from"
                name="near"
                options={[{ id: "", label: "nothing" }, ...p.points.map((id) => ({ id, label: id }))]}
              />
            </div>
            {near ? (
              <>
                <TextEntry form={form} name="away" label="How far" quantity="distance" units={p.job.units} />
                <ChoiceEntry
                  form={form}
                  label="Which way"
                  name="towards"
                  options={[{ id: "", label: "choose" }, ...COMPASS.map((id) => ({ id, label: id }))]}
                />
              </>
            ) : null}
          </div>
        ) : null}
      </div>
      <TextEntry form={form} name="note" label="In words" />
      <FormError form={form} />
      <Button type="submit" className="mt-1 w-full sm:w-auto" disabled={p.busy}>
        Log the hit
      </Button>
    </EntryForm>
  );
}
