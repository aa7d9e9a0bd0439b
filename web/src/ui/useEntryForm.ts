import { type BaseSyntheticEvent, type RefObject, useCallback, useEffect, useMemo, useRef } from "react";
import {
  type DefaultValues,
  type FieldValues,
  type Path,
  type UseFormReturn,
  useForm,
} from "react-hook-form";
import { asRefusal } from "../api/client";
import { type Kept, keepDraft, readDraft } from "./draft";

export interface EntryFormState<T extends FieldValues> extends Omit<UseFormReturn<T>, "formState"> {
  /** The form on the page; `EntryForm` sets it. */
  sheet: RefObject<HTMLFormElement | null>;
  /** Return the handler that sends the values; what the server refuses shows at its field. */
  sending: (send: (values: T) => Promise<unknown>) => (e?: BaseSyntheticEvent) => Promise<unknown>;
  /** Show a refusal at the field it names, or below the form if none on the page has that name. */
  refuse: (error: unknown) => void;
  /** Start again from `values` and drop the draft. */
  begin: (values: T) => void;
  /** Put several values in at once, as if typed. */
  put: (patch: Partial<T>) => void;
  /** Move the focus to a field without scrolling. */
  goTo: (name: string) => void;
}

/** Return the longest beginning of a dotted name that a field of `sheet` has; "" if none has it. */
function shownAt(sheet: HTMLFormElement | null, field: string): string {
  const parts = field.split(".");
  for (let n = parts.length; n > 0; n--) {
    const name = parts.slice(0, n).join(".");
    if (sheet?.elements.namedItem(name)) return name;
  }
  return "";
}

/**
 * A form whose entries survive reload, back and a dropped connection until they are saved.
 *
 * `draft` names the place it is kept under (none: not kept). `upgrade` turns a draft kept by an earlier version into
 * what the form holds now.
 */
export function useEntryForm<T extends FieldValues>(p: {
  start: T;
  draft?: string;
  upgrade?: (draft: Kept) => Partial<T>;
}): EntryFormState<T> {
  const { draft } = p;
  const first = useRef<T | null>(null);
  if (first.current === null) {
    const kept = draft === undefined ? null : readDraft(draft);
    first.current = kept ? { ...p.start, ...(p.upgrade?.(kept) ?? (kept as Partial<T>)) } : p.start;
  }
  const form = useForm<T>({ defaultValues: first.current as DefaultValues<T> });
  const sheet = useRef<HTMLFormElement>(null);
  const known = useRef(JSON.stringify(first.current));
  useEffect(() => {
    if (draft === undefined) return;
    return form.subscribe({
      formState: { values: true },
      callback: ({ values }) => {
        // lists announce themselves unchanged when they appear: only a change is kept
        const text = JSON.stringify(values);
        if (text === known.current) return;
        known.current = text;
        keepDraft(draft, text);
      },
    });
  }, [form, draft]);
  const refuse = useCallback(
    (error: unknown) => {
      const { field, code, text } = asRefusal(error);
      const name = shownAt(sheet.current, field) as Path<T>;
      const focus = { shouldFocus: Boolean(name) && code !== "doubtful" };
      form.setError(name || "root.refusal", { type: code, message: text }, focus);
    },
    [form],
  );
  const begin = useCallback(
    (values: T) => {
      known.current = JSON.stringify(values);
      form.reset(values);
      if (draft !== undefined) keepDraft(draft, null);
    },
    [form, draft],
  );
  const put = useCallback(
    (patch: Partial<T>) => {
      for (const [name, value] of Object.entries(patch)) form.setValue(name as Path<T>, value);
    },
    [form],
  );
  const goTo = useCallback((name: string) => {
    const box = sheet.current?.elements.namedItem(name);
    if (box instanceof HTMLElement) box.focus({ preventScroll: true });
  }, []);
  return useMemo(() => {
    const sending = (send: (values: T) => Promise<unknown>) =>
      form.handleSubmit((typed) =>
        send(typed).catch((e) => {
          // it is in the list already: typing it a second time is what must not happen
          if (asRefusal(e).code === "stored_already") begin(form.formState.defaultValues as T);
          refuse(e);
        }),
      );
    const { formState: _, ...methods } = form;
    return { ...methods, sheet, sending, refuse, begin, put, goTo };
  }, [form, refuse, begin, put, goTo]);
}
