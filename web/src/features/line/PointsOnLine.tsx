import { Trash2 } from "lucide-react";
import { useWatch } from "react-hook-form";
import type { Job, Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import { ChoiceEntry, TextEntry, TickEntry } from "../../ui/EntryForm";
import { EntryList } from "../../ui/EntryList";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { LineFormState, PointTyped } from "./lineForm";

const EMPTY: PointTyped = {
  name: "",
  kind: "valve",
  at: "",
  bare_metal: true,
  core_only: false,
  live: false,
  in_service: true,
  cased: false,
  earth: "",
  solenoid: "",
  inductance: "",
};

interface Props {
  job: Job;
  catalogue: Schemas["Catalogue"];
  form: EntryFormState<LineFormState>;
}

/** What stands on the line, entered without a plan: pedestals, columns, valves, anodes, earths. */
export function PointsOnLine(p: Props) {
  return (
    <EntryList
      form={p.form}
      name="points"
      legend="On this line"
      note="Pedestals, columns, valves, anodes: signal is put on there, and goes to earth there. Each counts in the plan and in the forecast."
      add="Add what stands on it"
      most={60}
      fresh={(last) => (last ? { ...last, name: "", at: "" } : EMPTY)}
      card={(i, remove) => <Card {...p} index={i} remove={remove} />}
    />
  );
}

function Card(p: Props & { index: number; remove: () => void }) {
  const { form } = p;
  const at = `points.${p.index}` as const;
  const point = useWatch({ control: form.control, name: at });
  const chosen = useWatch({ control: form.control, name: "preset" });
  const shielded = p.catalogue.presets.find((x) => x.id === chosen)?.shielded;
  const buried = p.catalogue.points.find((k) => k.id === point.kind)?.buried;
  const tick = (name: "bare_metal" | "core_only" | "live" | "in_service" | "cased", label: string) => (
    <TickEntry form={form} name={`${at}.${name}`} label={label} />
  );
  return (
    <div className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
      <ChoiceEntry form={form} name={`${at}.kind`} label="What it is" options={p.catalogue.points} />
      <TextEntry
        form={form}
        name={`${at}.name`}
        units={p.job.units}
        label="Name"
        required
        hint="As the crew calls it: column 3."
      />
      <TextEntry
        form={form}
        name={`${at}.at`}
        units={p.job.units}
        label="Distance along"
        quantity="distance"
        required
        hint="From the near end."
      />
      <TextEntry
        form={form}
        name={`${at}.earth`}
        label="Earth bonded there, ohm"
        quantity="ohms"
        required={buried}
        hint={buried ? "5 to 50 ohm is usual." : "Leave empty if none."}
      />
      {point.kind === "valve_box" ? (
        <>
          <TextEntry
            form={form}
            name={`${at}.solenoid`}
            label="Solenoid in this wire, ohm"
            quantity="ohms"
            hint="Usually 30. Leave empty if you hook up to the common or to all wires tied together."
          />
          <TextEntry
            form={form}
            name={`${at}.inductance`}
            label="Its inductance, mH"
            quantity="inductance"
            hint="Usually 20 to 100. Empty: 50 mH."
          />
        </>
      ) : null}
      {buried ? null : (
        <>
          {tick("bare_metal", "Bare metal can be reached")}
          {point.bare_metal && shielded
            ? tick("core_only", "Only the centre conductor, not the sheath")
            : null}
          {tick("in_service", "Must stay in service")}
          {tick("live", "LIVE: dangerous voltage")}
          {tick("cased", "In metal casing or conduit there")}
        </>
      )}
      <div className="sm:col-span-2">
        <Button look="quiet" onClick={p.remove}>
          <Trash2 aria-hidden className="size-5" /> Remove {point.name ? `“${point.name}”` : "it"}
        </Button>
      </div>
    </div>
  );
}
