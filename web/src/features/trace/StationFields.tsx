import type { ReactNode, Ref } from "react";
import type { Refusal, Schemas, Units } from "../../api/client";
import { Choice, Field, Tick } from "../../ui/Field";
import type { Place } from "./stationPlace";

export type EntryField = Schemas["EntryFieldView"];

/** What is typed at a station, by the field's id; ticks and how it was placed beside the texts. */
export interface Form {
  texts: Record<string, string>;
  ticks: Record<string, boolean>;
  note: string;
  place: Place | null;
}

/** A form with nothing in it. */
export const emptyForm = (fields: EntryField[]): Form => ({
  texts: Object.fromEntries(fields.filter((f) => f.shape !== "tick").map((f) => [f.id, ""])),
  ticks: Object.fromEntries(fields.filter((f) => f.shape === "tick").map((f) => [f.id, false])),
  note: "",
  place: null,
});

interface FieldState {
  name: string;
  value: string;
  units: Units;
  error: Refusal | null;
  inputMode?: "none";
  onChange: (text: string) => void;
}

/** What is read at a station, in the order it is read; `children` stand below what is tapped in. */
export function StationFields(p: {
  fields: EntryField[];
  text: (name: string) => FieldState;
  form: Form;
  change: (patch: Partial<Form>) => void;
  error: Refusal | null;
  first: Ref<HTMLInputElement>;
  children: ReactNode;
}) {
  const of = (wanted: (f: EntryField) => boolean) => p.fields.filter(wanted).map((f) => one(f));
  const one = (f: EntryField): ReactNode => {
    const { onChange, ...text } = p.text(f.id);
    if (f.shape === "tick")
      return (
        <div key={f.id} className="col-span-full mb-2">
          <Tick
            label={f.label}
            name={f.id}
            checked={p.form.ticks[f.id] ?? false}
            onChange={(on) => p.change({ ticks: { ...p.form.ticks, [f.id]: on } })}
          />
        </div>
      );
    if (f.shape === "choice")
      return (
        <Choice
          key={f.id}
          label={f.label}
          name={f.id}
          value={text.value}
          error={p.error}
          onChange={onChange}
          options={f.choices}
        />
      );
    return (
      <Field
        key={f.id}
        {...text}
        onChange={onChange}
        label={f.label}
        quantity={f.quantity ?? undefined}
        required={f.required}
        inputRef={f.required ? p.first : undefined}
        hint={f.hint}
        multiline={f.shape === "pairs" || f.shape === "beside"}
      />
    );
  };
  const further = p.fields.filter((f) => f.more);
  return (
    <>
      {of((f) => f.tapped)}
      {p.children}
      {of((f) => !f.tapped && !f.more && f.shape !== "tick")}
      <Field {...p.text("note")} label="Note" />
      {of((f) => !f.more && f.shape === "tick")}
      <details className="col-span-full mb-1" open={further.some((f) => Boolean(p.form.texts[f.id]))}>
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">
          More evidence: gain locked, neighbours one by one, readings across
        </summary>
        <p className="mb-2 text-sm text-quiet">Left and right: looking along the line from its near end.</p>
        <div className="grid gap-x-3">{further.map(one)}</div>
      </details>
    </>
  );
}
