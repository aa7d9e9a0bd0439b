import type { ReactNode } from "react";
import type { Schemas, Units } from "../../api/client";
import { ChoiceEntry, TextEntry, TickEntry } from "../../ui/EntryForm";
import { Fold } from "../../ui/Fold";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { StationFormState } from "./stationForm";

/** What is read at a station, in the order it is read; `children` stand below what is tapped in. */
export function StationFields(p: {
  fields: Schemas["EntryFieldView"][];
  form: EntryFormState<StationFormState>;
  units: Units;
  tapping: boolean;
  /** What further evidence is called, and what is said above it. */
  more: string;
  moreNote: string;
  /** What follows from another distance. */
  onDistance?: () => void;
  children: ReactNode;
}) {
  const { form } = p;
  const common = { form, units: p.units, inputMode: p.tapping ? ("none" as const) : undefined };
  const of = (wanted: (f: Schemas["EntryFieldView"]) => boolean) => p.fields.filter(wanted).map(one);
  const one = (f: Schemas["EntryFieldView"]): ReactNode => {
    if (f.shape === "tick")
      return (
        <div key={f.id} className="col-span-full mb-2">
          <TickEntry form={form} label={f.label} name={f.id} />
        </div>
      );
    if (f.shape === "choice")
      return <ChoiceEntry key={f.id} form={form} label={f.label} name={f.id} options={f.choices} />;
    return (
      <TextEntry
        key={f.id}
        {...common}
        name={f.id}
        label={f.label}
        quantity={f.quantity ?? undefined}
        required={f.required}
        hint={f.hint}
        multiline={f.shape === "pairs" || f.shape === "beside"}
        then={f.id === "distance" ? p.onDistance : undefined}
      />
    );
  };
  const further = p.fields.filter((f) => f.more);
  return (
    <>
      {of((f) => f.tapped)}
      {p.children}
      {of((f) => !f.tapped && !f.more && f.shape !== "tick")}
      <TextEntry {...common} name="note" label="Note" />
      {of((f) => !f.more && f.shape === "tick")}
      <Fold
        needs={further.some((f) => f.shape !== "choice" && Boolean(form.getValues(f.id)))}
        className="col-span-full mb-1"
        summary={p.more}
      >
        <p className="mb-2 text-sm text-quiet">{p.moreNote}</p>
        <div className="grid gap-x-3">{further.map(one)}</div>
      </Fold>
    </>
  );
}
