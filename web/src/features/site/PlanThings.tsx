import { Plus, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import { Choice, Field, Tick } from "../../ui/Field";
import { useToast } from "../../ui/Toasts";
import { type PanelProps, tapping } from "./drawing";
import { type Keyed, NEW_ACCESS, NEW_STRUCTURE, type PlanDraft } from "./planDraft";
import { RouteField } from "./RouteField";

type Lists = "access" | "structures" | "hard" | "bonds";

/** One kind of thing on the plan: its cards, adding one, removing one with undo. */
export function Things<T extends Lists>(p: {
  panel: PanelProps;
  list: T;
  title: string;
  note: string;
  add: string;
  empty: PlanDraft[T][number] extends Keyed<infer U> ? U : never;
  nameOf: (item: PlanDraft[T][number]) => string;
  card: (
    item: PlanDraft[T][number],
    index: number,
    change: (patch: Partial<PlanDraft[T][number]>) => void,
  ) => ReactNode;
  children?: ReactNode;
}) {
  const { draft, change } = p.panel;
  const toast = useToast();
  const items = draft[p.list] as PlanDraft[T][number][];
  const set = (next: PlanDraft[T][number][]) => change({ [p.list]: next } as Partial<PlanDraft>);
  return (
    <details className="card" open={p.panel.error?.field.startsWith(`${p.list}.`) || undefined}>
      <summary className="flex min-h-11 cursor-pointer items-center justify-between gap-2">
        <h2>{p.title}</h2>
        <span className="text-quiet">{items.length || "none"}</span>
      </summary>
      <p className="mb-2 text-sm text-quiet">{p.note}</p>
      <ul className="grid gap-3">
        {items.map((item, i) => (
          <li key={item.key} className="rounded-md border-2 border-edge p-3">
            {p.card(item, i, (patch) => set(items.map((x) => (x.key === item.key ? { ...x, ...patch } : x))))}
            <Button
              look="quiet"
              className="mt-1 px-0"
              onClick={() => {
                set(items.filter((x) => x.key !== item.key));
                toast(`Removed ${p.nameOf(item) || "it"}.`, () => set(items));
              }}
            >
              <Trash2 aria-hidden className="size-4" /> Remove
            </Button>
          </li>
        ))}
      </ul>
      <Button
        className="mt-2"
        onClick={() =>
          set([
            ...items,
            { ...(p.empty as object), key: crypto.randomUUID() } as unknown as PlanDraft[T][number],
          ])
        }
      >
        <Plus aria-hidden className="size-5" /> {p.add}
      </Button>
      {p.children}
    </details>
  );
}

export function AccessPoints(panel: PanelProps) {
  return (
    <Things
      panel={panel}
      list="access"
      title="Access points"
      note="Meters, risers, pedestals, pillars: every line that passes within a metre can be reached there, and a corner that close is moved onto it."
      add="Add an access point"
      empty={NEW_ACCESS}
      nameOf={(a) => a.name}
      card={(a, i, change) => (
        <>
          <div className="grid gap-x-3 sm:grid-cols-2">
            <Field
              name={`access.${i}.name`}
              label="Name"
              value={a.name}
              onChange={(name) => change({ name })}
              error={panel.error}
            />
            <Choice
              name={`access.${i}.kind`}
              label="Kind"
              value={a.kind ?? "other"}
              options={panel.site.access_kinds}
              onChange={(kind) => change({ kind: kind as Schemas["AccessForm"]["kind"] })}
            />
          </div>
          <RouteField
            jobId={panel.job.id}
            name={`access.${i}.at`}
            label="Place (east, north)"
            value={a.at}
            onChange={(at) => change({ at })}
            error={panel.error}
            {...tapping(panel, {
              id: `access-${a.key}`,
              one: true,
              closed: false,
              get: (d) => d.access.find((x) => x.key === a.key)?.at ?? "",
              put: (d, at) => ({
                access: d.access.map((x) => (x.key === a.key ? { ...x, at } : x)),
              }),
            })}
          />
          <div className="grid sm:grid-cols-2">
            <Tick
              name="bare_metal"
              label="Bare metal in reach"
              checked={a.bare_metal ?? true}
              onChange={(bare_metal) => change({ bare_metal })}
            />
            <Tick
              name="live"
              label={<strong className="text-hold">LIVE</strong>}
              checked={a.live ?? false}
              onChange={(live) => change({ live })}
            />
            <Tick
              name="in_service"
              label="In service"
              checked={a.in_service ?? true}
              onChange={(in_service) => change({ in_service })}
            />
            <Tick
              name="cased"
              label="In metal casing"
              checked={a.cased ?? false}
              onChange={(cased) => change({ cased })}
            />
          </div>
          <Field
            name={`access.${i}.earth`}
            label="Bonded to earth there"
            quantity="ohms"
            hint="Ohms; empty: not bonded"
            value={a.earth ?? ""}
            onChange={(earth) => change({ earth })}
            error={panel.error}
          />
        </>
      )}
    />
  );
}

export function Structures(panel: PanelProps) {
  return (
    <Things
      panel={panel}
      list="structures"
      title="Structures that take signal"
      note="Steel buildings, sheet piles, fences: they take current from any line or stake close by."
      add="Add a structure"
      empty={NEW_STRUCTURE}
      nameOf={(s) => s.name}
      card={(s, i, change) => (
        <>
          <div className="grid gap-x-3 sm:grid-cols-2">
            <Field
              name={`structures.${i}.name`}
              label="Name"
              value={s.name}
              onChange={(name) => change({ name })}
              error={panel.error}
            />
            <Choice
              name={`structures.${i}.preset`}
              label="What it is"
              value={s.preset}
              options={panel.catalogue.structures}
              onChange={(preset) => change({ preset })}
              error={panel.error}
            />
          </div>
          <RouteField
            jobId={panel.job.id}
            name={`structures.${i}.route`}
            label="Along"
            value={s.route}
            onChange={(route) => change({ route })}
            error={panel.error}
            {...tapping(panel, {
              id: `structure-${s.key}`,
              one: false,
              closed: false,
              get: (d) => d.structures.find((x) => x.key === s.key)?.route ?? "",
              put: (d, route) => ({
                structures: d.structures.map((x) => (x.key === s.key ? { ...x, route } : x)),
              }),
            })}
          />
          <div className="mt-2 grid gap-x-3 sm:grid-cols-2">
            <Field
              name={`structures.${i}.depth`}
              label="Middle depth of its steel"
              quantity="depth"
              units={panel.job.units}
              value={s.depth}
              onChange={(depth) => change({ depth })}
              error={panel.error}
            />
            <Field
              name={`structures.${i}.start_earth`}
              label="Earth at its start"
              quantity="ohms"
              hint="Ohms; empty: none"
              value={s.start_earth ?? ""}
              onChange={(start_earth) => change({ start_earth })}
              error={panel.error}
            />
          </div>
        </>
      )}
    />
  );
}
