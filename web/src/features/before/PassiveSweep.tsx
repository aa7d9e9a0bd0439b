import { CircleQuestionMark } from "lucide-react";
import { type FormEvent, useState } from "react";
import { api, asRefusal, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useChange, useSite } from "../../api/queries";
import { formatter } from "../../api/units";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Choice, Field, FormError, Tick } from "../../ui/Field";
import { useToast } from "../../ui/Toasts";

import { PlanPicture } from "../site/PlanPicture";

type Passive = Schemas["PassiveView"];
type Form = Schemas["PassiveForm"];
type Source = Schemas["HitForm"]["source"];

const NEW = { source: "mains" as string, place: "", note: "" };

const formOf = (p: Passive): Form => ({
  first: p.first,
  second: p.second,
  spacing: p.spacing,
  hits: p.hits.map((h) => ({ source: h.source, place: h.place, note: h.note })),
});

/** The receiver alone: the grid walked twice, and what it met, placed on the plan as "something here". */
export function PassiveSweep({ job, passive: p }: { job: Job; passive: Passive }) {
  const toast = useToast();
  const [error, setError] = useState<Refusal | null>(null);
  const save = useChange(
    "passive",
    (body: Form) =>
      take(api.PUT("/api/jobs/{job_id}/before/passive", { params: { path: { job_id: job.id } }, body })),
    { scope: `before-${job.id}` },
  );
  // what was asked for last shows at once, and the next change starts from it
  const asked = save.isPending ? save.variables : formOf(p);
  const send = (patch: Partial<Form>, said?: string) => {
    const before = asked;
    setError(null);
    return save.mutateAsync({ ...before, ...patch }).then(
      () => {
        if (said) toast(said, () => save.mutate(before));
        return true;
      },
      (e) => {
        setError(asRefusal(e));
        return false;
      },
    );
  };
  const hits = asked.hits ?? [];
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
          onChange={(first) => send({ first })}
        />
        <Tick
          name="second"
          label="Walked again, receiver turned 90°"
          checked={asked.second ?? false}
          onChange={(second) => send({ second })}
        />
      </div>
      <Spacing
        key={p.spacing}
        job={job}
        value={p.spacing}
        error={error}
        onSet={(spacing) => send({ spacing })}
      />
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
              </div>
              <Button
                look="quiet"
                className="text-sm"
                aria-label={`Remove the hit ${h.note || h.place}`}
                onClick={() => send({ hits: hits.filter((_, k) => k !== i) }, "Hit removed.")}
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
        error={error}
        busy={save.isPending}
        onAdd={(hit) => send({ hits: [...hits, hit] })}
      />
    </section>
  );
}

function Spacing(p: { job: Job; value: string; error: Refusal | null; onSet: (text: string) => void }) {
  const [text, setText] = useState(p.value);
  return (
    <form
      className="flex max-w-xs items-start gap-2"
      noValidate
      onSubmit={(e) => {
        e.preventDefault();
        p.onSet(text);
      }}
    >
      <div className="grow">
        <Field
          name="spacing"
          label="Between walks"
          value={text}
          onChange={setText}
          quantity="distance"
          units={p.job.units}
          error={p.error}
        />
      </div>
      <Button type="submit" className="mt-6" disabled={text === p.value}>
        Set
      </Button>
    </form>
  );
}

function NewHit(p: {
  job: Job;
  count: number;
  sources: Passive["sources"];
  error: Refusal | null;
  busy: boolean;
  onAdd: (hit: Schemas["HitForm"]) => Promise<boolean>;
}) {
  const [form, change, clear] = useDraft(`hit-${p.job.id}`, NEW);
  const [tapped, setTapped] = useState<[number, number] | null>(null);
  const site = useSite(p.job.id);
  const drawn = site.data && site.data.lines.length + site.data.access.length > 0 ? site.data : null;
  const format = formatter(p.job.units);
  const shown = (m: number) => Number(format.toUnit(m).toFixed(2));
  // a refusal of the hit being added names its number, counted from those on record
  const prefix = `hits.${p.count}.`;
  const error = p.error?.field.startsWith(prefix)
    ? { ...p.error, field: p.error.field.slice(prefix.length) }
    : p.error;
  const submit = (e: FormEvent) => {
    e.preventDefault();
    p.onAdd({ ...form, source: form.source as Source }).then((ok) => ok && clear(NEW));
  };
  const show = ([east, north]: [number, number]) => {
    setTapped([east, north]);
    change({ place: `${shown(east)}, ${shown(north)}` });
  };
  return (
    <form onSubmit={submit} noValidate className="mt-3 border-t border-edge pt-3">
      <h3>Log a hit</h3>
      {drawn ? (
        <div className="my-2 h-64">
          <PlanPicture
            site={drawn}
            format={format}
            onTap={show}
            draft={tapped && form.place ? [tapped] : []}
          />
        </div>
      ) : null}
      <div className="grid grid-cols-1 gap-x-3 sm:grid-cols-2">
        <Choice
          label="What the receiver hears"
          name="source"
          value={form.source}
          options={p.sources}
          onChange={(source) => change({ source })}
          error={error}
        />
        <Field
          name="place"
          label={drawn ? "Place: tap the plan, or east, north" : "Place: east, north"}
          value={form.place}
          onChange={(place) => {
            setTapped(null);
            change({ place });
          }}
          error={error}
        />
      </div>
      <Field
        name="note"
        label="In words"
        value={form.note}
        onChange={(note) => change({ note })}
        error={error}
      />
      <FormError error={error} fields={["source", "place", "note", "spacing"]} />
      <Button type="submit" className="mt-1 w-full sm:w-auto" disabled={p.busy}>
        Log the hit
      </Button>
    </form>
  );
}
