import type { ComponentProps, ReactNode } from "react";
import { type FieldValues, type Path, useController, useFormState } from "react-hook-form";
import { Choice, Field, Tick } from "./Field";
import { Refused } from "./Refused";
import { useUnsaved } from "./unsaved";
import type { EntryFormState } from "./useEntryForm";

/** A form on the page: `send` gets its values, and what it throws shows at the field concerned. */
export function EntryForm<T extends FieldValues>({
  form,
  send,
  ...rest
}: {
  form: EntryFormState<T>;
  send: (values: T) => Promise<unknown>;
} & Omit<ComponentProps<"form">, "onSubmit" | "ref" | "noValidate">) {
  const { isDirty } = useFormState({ control: form.control });
  useUnsaved(isDirty);
  return <form {...rest} ref={form.sheet} noValidate onSubmit={form.sending(send)} />;
}

interface Entered<T extends FieldValues> {
  form: EntryFormState<T>;
  name: Path<T>;
  /** What follows from a change, after it is in the form. */
  then?: (value: string) => void;
}

/** State of one field of a form: what `Field` and `Choice` take. */
function useEntered<T extends FieldValues>({ form, name, then }: Entered<T>) {
  const { field, fieldState } = useController({ name, control: form.control });
  return {
    name,
    value: String(field.value ?? ""),
    wrong: fieldState.error?.message,
    inputRef: field.ref,
    onChange: (value: string) => {
      field.onChange(value);
      then?.(value);
    },
  };
}

type Own = "name" | "value" | "wrong" | "inputRef" | "onChange";

export function TextEntry<T extends FieldValues>({
  form,
  name,
  then,
  ...rest
}: Entered<T> & Omit<ComponentProps<typeof Field>, Own>) {
  return <Field {...rest} {...useEntered({ form, name, then })} />;
}

export function ChoiceEntry<T extends FieldValues>({
  form,
  name,
  then,
  ...rest
}: Entered<T> & Omit<ComponentProps<typeof Choice>, Own>) {
  return <Choice {...rest} {...useEntered({ form, name, then })} />;
}

export function TickEntry<T extends FieldValues>(p: {
  form: EntryFormState<T>;
  name: Path<T>;
  label: ReactNode;
}) {
  const { field } = useController({ name: p.name, control: p.form.control });
  return <Tick label={p.label} name={p.name} checked={Boolean(field.value)} onChange={field.onChange} />;
}

/** What was refused, where no field of the form carries it. */
export function FormError<T extends FieldValues>({ form }: { form: EntryFormState<T> }) {
  const { errors } = useFormState({ control: form.control });
  const text = errors.root?.refusal?.message;
  return text ? <Refused text={text} /> : null;
}

/** Whether the server asks if what was typed is meant: it can be kept as it is. */
export function useDoubtful<T extends FieldValues>(form: EntryFormState<T>) {
  const { errors } = useFormState({ control: form.control });
  return [...Object.values(errors), errors.root?.refusal].some((e) => e?.type === "doubtful");
}
