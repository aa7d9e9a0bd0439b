import { Plus, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import { useFieldArray, useFormState, useWatch } from "react-hook-form";
import { Button } from "../../ui/Button";
import { ChoiceEntry, TextEntry, TickEntry } from "../../ui/EntryForm";
import { Fold } from "../../ui/Fold";
import { useToast } from "../../ui/Toasts";
import { type PanelProps, tapping } from "./drawing";
import { type Keyed, NEW_ACCESS, NEW_STRUCTURE } from "./planDraft";
import { RouteField } from "./RouteField";

type Lists = "access" | "structures" | "hard" | "bonds";

/** One kind of thing on the plan: its cards, adding one, removing one with undo. */
export function Things(p: {
  panel: PanelProps;
  list: Lists;
  title: string;
  note: string;
  add: string;
  empty: object;
  /** The field that names a thing of this kind. */
  called: string;
  card: (index: number, key: string) => ReactNode;
  children?: ReactNode;
}) {
  const { form } = p.panel;
  const toast = useToast();
  const list = useFieldArray({ control: form.control, name: p.list });
  const items = list.fields as Keyed<Record<string, unknown>>[];
  const wrong = Boolean(useFormState({ control: form.control }).errors[p.list]);
  const remove = (index: number) => {
    const was = form.getValues(`${p.list}.${index}`);
    list.remove(index);
    const name = (was as unknown as Record<string, string>)[p.called];
    toast(`Removed ${name || "it"}.`, () => list.insert(index, was, { shouldFocus: false }));
  };
  const add = () =>
    list.append({ ...p.empty, key: crypto.randomUUID() } as Parameters<typeof list.append>[0], {
      shouldFocus: false,
    });
  return (
    <Fold
      needs={wrong}
      className="card"
      summary={
        <span className="inline-flex w-[calc(100%-1.5rem)] items-center justify-between gap-2">
          <h2 className="inline">{p.title}</h2>
          <span className="font-normal text-quiet">{items.length || "none"}</span>
        </span>
      }
    >
      <p className="mb-2 text-sm text-quiet">{p.note}</p>
      <ul className="grid gap-3">
        {items.map((item, i) => (
          <li key={item.key} className="rounded-md border-2 border-edge p-3">
            {p.card(i, item.key)}
            <Button look="quiet" className="mt-1 px-0" onClick={() => remove(i)}>
              <Trash2 aria-hidden className="size-4" /> Remove
            </Button>
          </li>
        ))}
      </ul>
      <Button className="mt-2" onClick={add}>
        <Plus aria-hidden className="size-5" /> {p.add}
      </Button>
      {p.children}
    </Fold>
  );
}

export function AccessPoints(panel: PanelProps) {
  const kinds = useWatch({ control: panel.form.control, name: "access" });
  return (
    <Things
      panel={panel}
      list="access"
      title="Access points"
      note="Meters, risers, pedestals, pillars: every line that passes within a metre can be reached there, and a corner that close is moved onto it."
      add="Add an access point"
      empty={NEW_ACCESS}
      called="name"
      card={(i, key) => (
        <>
          <div className="grid gap-x-3 sm:grid-cols-2">
            <TextEntry form={panel.form} name={`access.${i}.name`} label="Name" />
            <ChoiceEntry
              form={panel.form}
              name={`access.${i}.kind`}
              label="Kind"
              options={panel.site.access_kinds}
            />
          </div>
          <RouteField
            form={panel.form}
            jobId={panel.job.id}
            name={`access.${i}.at`}
            label="Place (east, north)"
            {...tapping(panel, {
              id: `access-${key}`,
              name: panel.form.getValues(`access.${i}.name`) || "Access point",
              one: true,
              closed: false,
              path: (d) => `access.${d.access.findIndex((x) => x.key === key)}.at`,
            })}
          />
          <div className="grid sm:grid-cols-2">
            <TickEntry form={panel.form} name={`access.${i}.bare_metal`} label="Bare metal in reach" />
            <TickEntry
              form={panel.form}
              name={`access.${i}.live`}
              label={<strong className="text-hold">LIVE</strong>}
            />
            <TickEntry form={panel.form} name={`access.${i}.in_service`} label="In service" />
            <TickEntry form={panel.form} name={`access.${i}.cased`} label="In metal casing" />
          </div>
          <TextEntry
            form={panel.form}
            name={`access.${i}.earth`}
            label="Bonded to earth there"
            quantity="ohms"
            hint="Ohms; empty: not bonded"
          />
          {kinds[i]?.kind === "valve_box" ? (
            <div className="grid gap-x-3 sm:grid-cols-2">
              <TextEntry
                form={panel.form}
                name={`access.${i}.solenoid`}
                label="Solenoid, ohm"
                quantity="ohms"
                hint="In the valve wires that pass here. Usually 30; empty: none."
              />
              <TextEntry
                form={panel.form}
                name={`access.${i}.inductance`}
                label="Its inductance, mH"
                quantity="inductance"
                hint="Usually 20 to 100. Empty: 50 mH."
              />
            </div>
          ) : null}
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
      called="name"
      card={(i, key) => (
        <>
          <div className="grid gap-x-3 sm:grid-cols-2">
            <TextEntry form={panel.form} name={`structures.${i}.name`} label="Name" />
            <ChoiceEntry
              form={panel.form}
              name={`structures.${i}.preset`}
              label="What it is"
              options={panel.catalogue.structures}
            />
          </div>
          <RouteField
            form={panel.form}
            jobId={panel.job.id}
            name={`structures.${i}.route`}
            label="Along"
            {...tapping(panel, {
              id: `structure-${key}`,
              name: panel.form.getValues(`structures.${i}.name`) || "Structure",
              one: false,
              closed: false,
              path: (d) => `structures.${d.structures.findIndex((x) => x.key === key)}.route`,
            })}
          />
          <div className="mt-2 grid gap-x-3 sm:grid-cols-2">
            <TextEntry
              form={panel.form}
              name={`structures.${i}.depth`}
              label="Middle depth of its steel"
              quantity="depth"
              units={panel.job.units}
            />
            <TextEntry
              form={panel.form}
              name={`structures.${i}.start_earth`}
              label="Earth at its start"
              quantity="ohms"
              hint="Ohms; empty: none"
            />
          </div>
        </>
      )}
    />
  );
}
