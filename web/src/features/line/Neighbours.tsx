import { Trash2 } from "lucide-react";
import { useWatch } from "react-hook-form";
import type { Job, Schemas } from "../../api/client";
import { useBeside } from "../../api/queries";
import { Button } from "../../ui/Button";
import { ChoiceEntry, TextEntry } from "../../ui/EntryForm";
import { EntryList } from "../../ui/EntryList";
import { Choice } from "../../ui/Field";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { LineFormState, NeighbourTyped } from "./lineForm";

const EMPTY: NeighbourTyped = {
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

/** What runs beside the line, entered without a plan: "the water main, 1.2 m off, for 80 m". */
export function Neighbours(p: {
  job: Job;
  lineId: number | undefined;
  catalogue: Schemas["Catalogue"];
  form: EntryFormState<LineFormState>;
}) {
  const beside = useBeside(p.job.id);
  const others = (beside.data ?? []).filter((o) => o.of_line !== p.lineId);
  return (
    <EntryList
      form={p.form}
      name="neighbours"
      legend="Beside this line"
      note="Lines, fences and walls within a few metres take some of the signal. What is entered here is in the plan and in the forecast. Anything not entered is not warned about."
      add="Add what runs beside it"
      most={12}
      fresh={() => EMPTY}
      card={(i, remove) => <Card {...p} index={i} others={others} remove={remove} />}
    />
  );
}

function Card(p: {
  job: Job;
  catalogue: Schemas["Catalogue"];
  index: number;
  form: EntryFormState<LineFormState>;
  others: NeighbourTyped[];
  remove: () => void;
}) {
  const { form } = p;
  const at = `neighbours.${p.index}` as const;
  const n = useWatch({ control: form.control, name: at });
  const units = p.job.units;
  const metric = units === "metric";
  const made = [...p.catalogue.presets, ...p.catalogue.structures];
  const choose = (id: string) => {
    const other = p.others.find((o) => `line-${o.of_line}` === id);
    if (!other) return form.setValue(at, { ...n, preset: id, of_line: null });
    const { name, preset, of_line, depth, start_earth, end_earth } = other;
    form.setValue(at, { ...n, name, preset, of_line, depth, start_earth, end_earth });
  };
  return (
    <div className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
      <Choice
        label="What it is"
        name={`${at}.preset`}
        value={n.of_line ? `line-${n.of_line}` : n.preset}
        onChange={choose}
        options={[
          ...p.others.map((o) => ({ id: `line-${o.of_line}`, label: `This job: ${o.name}` })),
          ...made.map((x) => ({ id: x.id, label: x.label })),
        ]}
        hint={made.find((x) => x.id === n.preset)?.note}
      />
      <TextEntry
        form={form}
        name={`${at}.name`}
        units={units}
        label="Name"
        required
        hint="As the crew calls it: water main."
      />
      <ChoiceEntry
        form={form}
        label="On which side"
        name={`${at}.side`}
        options={[
          { id: "left", label: "Left" },
          { id: "right", label: "Right" },
        ]}
        hint="Seen from the access point, along the line."
      />
      <TextEntry
        form={form}
        name={`${at}.offset`}
        units={units}
        label="How far off"
        quantity="distance"
        required
        hint={metric ? "1.2 or 120cm" : "4 or 4ft"}
      />
      <TextEntry
        form={form}
        name={`${at}.start`}
        units={units}
        label="Beside it from"
        quantity="distance"
        hint="Empty: before the access point."
      />
      <TextEntry
        form={form}
        name={`${at}.end`}
        units={units}
        label="to"
        quantity="distance"
        hint="Empty: on past the far end."
      />
      <TextEntry
        form={form}
        name={`${at}.depth`}
        units={units}
        label="Its depth"
        quantity="depth"
        required
        hint={metric ? "1.2 or 120" : "3'11 or 47in"}
      />
      <TextEntry
        form={form}
        name={`${at}.bond`}
        units={units}
        label="Bonded to this line at"
        quantity="distance"
        hint="Empty if their metal does not touch."
      />
      <TextEntry
        form={form}
        name={`${at}.start_earth`}
        units={units}
        label="Earth at its start, ohm"
        quantity="ohms"
        hint="Empty if none."
      />
      <TextEntry
        form={form}
        name={`${at}.end_earth`}
        units={units}
        label="Earth at its end, ohm"
        quantity="ohms"
        hint="Empty if none."
      />
      <div className="sm:col-span-2">
        <Button look="quiet" onClick={p.remove}>
          <Trash2 aria-hidden className="size-5" /> Remove {n.name ? `“${n.name}”` : "it"}
        </Button>
      </div>
    </div>
  );
}
