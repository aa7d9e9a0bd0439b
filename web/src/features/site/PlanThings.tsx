import { Plus, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import { Choice, Field, Tick } from "../../ui/Field";
import { useToast } from "../../ui/Toasts";
import { type PanelProps, tapping } from "./DrawPanel";
import { type Keyed, NEW_ACCESS, NEW_AREA, NEW_BOND, NEW_STRUCTURE, type PlanDraft } from "./plan";
import { RouteField } from "./RouteField";

type Lists = "access" | "structures" | "hard" | "bonds";

/** One kind of thing on the plan: its cards, adding one, removing one with undo. */
function Things<T extends Lists>(p: {
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

export function Ground(panel: PanelProps) {
  const { draft, change } = panel;
  return (
    <Things
      panel={panel}
      list="hard"
      title="Dig area and hard surfaces"
      note="With a dig area only what lies inside it is planned for. No stake goes into a hard surface."
      add="Add a hard surface"
      empty={NEW_AREA}
      nameOf={(a) => a.name}
      card={(a, i, set) => (
        <>
          <Field
            name={`hard.${i}.name`}
            label="Name"
            value={a.name}
            onChange={(name) => set({ name })}
            error={panel.error}
          />
          <RouteField
            jobId={panel.job.id}
            name={`hard.${i}.outline`}
            label="Outline"
            value={a.outline}
            onChange={(outline) => set({ outline })}
            error={panel.error}
            {...tapping(panel, {
              id: `hard-${a.key}`,
              one: false,
              closed: true,
              get: (d) => d.hard.find((x) => x.key === a.key)?.outline ?? "",
              put: (d, outline) => ({
                hard: d.hard.map((x) => (x.key === a.key ? { ...x, outline } : x)),
              }),
            })}
          />
        </>
      )}
    >
      <div className="mt-3 border-t border-edge pt-3">
        <RouteField
          jobId={panel.job.id}
          name="dig"
          label="Dig area, outline"
          value={draft.dig}
          onChange={(dig) => change({ dig })}
          error={panel.error}
          hint="Empty: every line is wanted whole."
          {...tapping(panel, {
            id: "dig",
            one: false,
            closed: true,
            get: (d) => d.dig,
            put: (_, dig) => ({ dig }),
          })}
        />
      </div>
    </Things>
  );
}

export function Bonds(panel: PanelProps) {
  const names = [
    ...panel.job.lines.map((l) => l.name),
    ...panel.draft.structures.map((s) => s.name).filter(Boolean),
  ].map((name) => ({ id: name, label: name }));
  const choices = [{ id: "", label: "Choose" }, ...names];
  return (
    <Things
      panel={panel}
      list="bonds"
      title="Bonds and tees"
      note="Metal joined to metal: the signal goes both ways there."
      add="Add a bond"
      empty={NEW_BOND}
      nameOf={(b) => (b.a ? `the bond of ${b.a}` : "")}
      card={(b, i, change) => (
        <div className="grid gap-x-3 sm:grid-cols-2">
          {(["a", "b"] as const).map((side) => (
            <div key={side}>
              <Choice
                name={`bonds.${i}.${side}`}
                label={side === "a" ? "This" : "with this"}
                value={b[side]}
                options={choices}
                onChange={(name) => change({ [side]: name })}
                error={panel.error}
              />
              <Field
                name={`bonds.${i}.${side}_at`}
                label="at, along it"
                quantity="distance"
                units={panel.job.units}
                value={b[`${side}_at`]}
                onChange={(at) => change({ [`${side}_at`]: at })}
                error={panel.error}
              />
            </div>
          ))}
        </div>
      )}
    />
  );
}
