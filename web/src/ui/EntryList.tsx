import { Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { type ArrayPath, type FieldArray, type FieldValues, type Path, useFieldArray } from "react-hook-form";
import { Button } from "./Button";
import type { EntryFormState } from "./useEntryForm";

/** A list within a form: its cards, adding one, taking one out with undo beside it. */
export function EntryList<T extends FieldValues>(p: {
  form: EntryFormState<T>;
  name: ArrayPath<T>;
  legend: string;
  note: string;
  add: string;
  most: number;
  /** What a new one starts with, given the last there is. */
  fresh: (last: FieldArray<T> | undefined) => FieldArray<T>;
  card: (index: number, remove: () => void) => ReactNode;
}) {
  const { fields, append, insert, remove } = useFieldArray({ control: p.form.control, name: p.name });
  const [gone, setGone] = useState<{ at: number; was: FieldArray<T> } | null>(null);
  const value = (at: number) => p.form.getValues(`${p.name}.${at}` as Path<T>) as FieldArray<T>;
  const takeOut = (at: number) => {
    setGone({ at, was: value(at) });
    remove(at);
  };
  const undo = () => {
    if (gone) insert(gone.at, gone.was);
    setGone(null);
  };
  const called = gone ? (gone.was as { name?: string }).name : "";
  return (
    <fieldset className="sm:col-span-2">
      <legend className="mt-1 font-bold">{p.legend}</legend>
      <p className="mb-2 text-sm text-quiet">{p.note}</p>
      <ul className="grid gap-3">
        {fields.map((n, i) => (
          <li key={n.id} className="rounded-md border-2 border-edge p-3" data-entry={`${p.name}.${i}`}>
            {p.card(i, () => takeOut(i))}
          </li>
        ))}
      </ul>
      {gone ? (
        <p role="status" className="mt-2 flex flex-wrap items-center gap-3">
          Removed {called ? `“${called}”` : "it"}.<Button onClick={undo}>Undo</Button>
        </p>
      ) : null}
      <Button
        className="mt-2 mb-3"
        disabled={fields.length >= p.most}
        onClick={() =>
          append(p.fresh(fields.length ? value(fields.length - 1) : undefined), { shouldFocus: false })
        }
      >
        <Plus aria-hidden className="size-5" /> {p.add}
      </Button>
    </fieldset>
  );
}
