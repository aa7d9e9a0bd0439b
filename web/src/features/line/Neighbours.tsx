import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import type { Job, Refusal, Schemas } from "../../api/client";
import { useBeside } from "../../api/queries";
import { Button } from "../../ui/Button";
import { Choice, Field } from "../../ui/Field";

export type Neighbour = Schemas["NeighbourTyped"] & { key: string };

const EMPTY: Omit<Neighbour, "key"> = {
  name: "",
  preset: "jointed_iron_main",
  side: "left",
  offset: "",
  start: "",
  end: "",
  depth: "",
  start_earth: "",
  end_earth: "",
  bond: "",
};

/** What runs beside the line, told without any plan: "the water main, 1.2 m off, for 80 m". */
export function Neighbours(p: {
  job: Job;
  lineId: number | undefined;
  catalogue: Schemas["Catalogue"];
  value: Neighbour[];
  onChange: (next: Neighbour[]) => void;
  error: Refusal | null;
}) {
  const beside = useBeside(p.job.id);
  const [gone, setGone] = useState<Neighbour | null>(null);
  const others = (beside.data ?? []).filter((o) => o.of_line !== p.lineId);
  const change = (key: string, patch: Partial<Neighbour>) =>
    p.onChange(p.value.map((n) => (n.key === key ? { ...n, ...patch } : n)));
  const remove = (n: Neighbour) => {
    p.onChange(p.value.filter((other) => other.key !== n.key));
    setGone(n);
  };
  const undo = (n: Neighbour) => {
    p.onChange([...p.value, n]);
    setGone(null);
  };
  return (
    <fieldset className="sm:col-span-2">
      <legend className="mt-1 font-bold">Beside this line</legend>
      <p className="mb-2 text-sm text-quiet">
        Lines, fences and walls within a few metres take some of the signal. What is entered here is in the
        plan and in the forecast. Anything not entered is not warned about.
      </p>
      {p.error?.field === "neighbours" ? (
        <p role="alert" className="mb-2 font-semibold text-hold">
          {p.error.message} {p.error.fix}
        </p>
      ) : null}
      <ul className="grid gap-3">
        {p.value.map((n, i) => (
          <li key={n.key} className="rounded-md border-2 border-edge p-3" data-neighbour={i}>
            <Card
              {...p}
              index={i}
              neighbour={n}
              others={others}
              change={(patch) => change(n.key, patch)}
              remove={() => remove(n)}
            />
          </li>
        ))}
      </ul>
      {gone ? (
        <p role="status" className="mt-2 flex flex-wrap items-center gap-3">
          Removed {gone.name ? `“${gone.name}”` : "it"}.<Button onClick={() => undo(gone)}>Undo</Button>
        </p>
      ) : null}
      <Button
        className="mt-2 mb-3"
        disabled={p.value.length >= 12}
        onClick={() => p.onChange([...p.value, { ...EMPTY, key: crypto.randomUUID() }])}
      >
        <Plus aria-hidden className="size-5" /> Add what runs beside it
      </Button>
    </fieldset>
  );
}

function Card(p: {
  job: Job;
  catalogue: Schemas["Catalogue"];
  index: number;
  neighbour: Neighbour;
  others: Schemas["NeighbourTyped"][];
  change: (patch: Partial<Neighbour>) => void;
  remove: () => void;
  error: Refusal | null;
}) {
  const n = p.neighbour;
  const units = p.job.units;
  const metric = units === "metric";
  const text = (name: Exclude<keyof Neighbour, "key" | "of_line" | "side">) => ({
    name: `neighbours.${p.index}.${name}`,
    units,
    value: n[name] ?? "",
    error: p.error,
    onChange: (v: string) => p.change({ [name]: v }),
  });
  const made = [...p.catalogue.presets, ...p.catalogue.structures];
  const choose = (id: string) => {
    const other = p.others.find((o) => `line-${o.of_line}` === id);
    if (!other) return p.change({ preset: id, of_line: null });
    const { name, preset, of_line, depth, start_earth, end_earth } = other;
    p.change({ name, preset, of_line, depth, start_earth, end_earth });
  };
  return (
    <div className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
      <Choice
        label="What it is"
        name={`neighbours.${p.index}.preset`}
        value={n.of_line ? `line-${n.of_line}` : n.preset}
        onChange={choose}
        options={[
          ...p.others.map((o) => ({ id: `line-${o.of_line}`, label: `This job: ${o.name}` })),
          ...made.map((x) => ({ id: x.id, label: x.label })),
        ]}
        hint={made.find((x) => x.id === n.preset)?.note}
        error={p.error}
      />
      <Field {...text("name")} label="Name" required hint="As the crew calls it: water main." />
      <Choice
        label="On which side"
        name={`neighbours.${p.index}.side`}
        value={n.side ?? "left"}
        onChange={(v) => p.change({ side: v as Neighbour["side"] })}
        options={[
          { id: "left", label: "Left" },
          { id: "right", label: "Right" },
        ]}
        hint="Seen from the access point, along the line."
        error={p.error}
      />
      <Field
        {...text("offset")}
        label="How far off"
        quantity="distance"
        required
        hint={metric ? "1.2 or 120cm" : "4 or 4ft"}
      />
      <Field
        {...text("start")}
        label="Beside it from"
        quantity="distance"
        hint="Empty: before the access point."
      />
      <Field {...text("end")} label="to" quantity="distance" hint="Empty: on past the far end." />
      <Field
        {...text("depth")}
        label="Its depth"
        quantity="depth"
        required
        hint={metric ? "1.2 or 120" : "3'11 or 47in"}
      />
      <Field
        {...text("bond")}
        label="Bonded to this line at"
        quantity="distance"
        hint="Empty if their metal does not touch."
      />
      <Field {...text("start_earth")} label="Earth at its start, ohm" quantity="ohms" hint="Empty if none." />
      <Field {...text("end_earth")} label="Earth at its end, ohm" quantity="ohms" hint="Empty if none." />
      <div className="sm:col-span-2">
        <Button look="quiet" onClick={p.remove}>
          <Trash2 aria-hidden className="size-5" /> Remove {n.name ? `“${n.name}”` : "it"}
        </Button>
      </div>
    </div>
  );
}
