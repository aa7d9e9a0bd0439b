import { type ReactNode, useId } from "react";
import { api, type Schemas, take, type Units } from "../api/client";
import { useAsked } from "../api/useAsked";

type Quantity =
  | "distance"
  | "depth"
  | "offset"
  | "current"
  | "currents"
  | "frequency"
  | "volts"
  | "ohms"
  | "resistivity"
  | "inductance"
  | "bearing"
  | "signal"
  | "profile"
  | "neighbours"
  | "fall";

interface FieldProps {
  name: string;
  label: string;
  value: string;
  onChange: (text: string) => void;
  /** What was refused here. */
  wrong?: string | undefined;
  hint?: ReactNode;
  quantity?: Quantity;
  units?: Units;
  type?: string;
  required?: boolean;
  multiline?: boolean;
  inputRef?: React.Ref<HTMLInputElement & HTMLTextAreaElement>;
  /** "none" where the page has keys of its own, so that the device's keyboard stays away. */
  inputMode?: "text" | "none";
}

/** Asks the server how a text is understood, a moment after typing stops. */
export function useUnderstanding(text: string, quantity: Quantity | undefined, units: Units) {
  const question = quantity && text.trim() ? `${quantity} in ${units}: ${text}` : null;
  return useAsked(
    question,
    () =>
      take(
        api.GET("/api/understand", { params: { query: { text, quantity: quantity as Quantity, units } } }),
      ),
    180,
  );
}

/** Under a field: what was refused, else how it is understood, else the hint. */
export function Note(p: {
  id: string;
  wrong: string | undefined;
  found: Schemas["Understanding"] | null;
  hint: ReactNode;
}) {
  return (
    <p id={p.id} className="mt-1 min-h-5 text-sm leading-5">
      {p.wrong ? (
        <strong role="alert" className="text-hold">
          {p.wrong}
        </strong>
      ) : p.found ? (
        <span className={p.found.ok ? "text-quiet" : "font-semibold text-hold"}>
          {p.found.ok ? `= ${p.found.shown}` : `${p.found.shown} ${p.found.fix}`}
        </span>
      ) : (
        <span className="text-quiet">{p.hint}</span>
      )}
    </p>
  );
}

/** A labelled text field. With a quantity it takes entry as the trade says it and shows how it was understood. */
export function Field(p: FieldProps) {
  const id = useId();
  const found = useUnderstanding(p.value, p.quantity, p.units ?? "metric");
  const common = {
    id,
    name: p.name,
    value: p.value,
    required: p.required,
    "aria-invalid": Boolean(p.wrong),
    "aria-describedby": `${id}-note`,
    className: "field",
    autoComplete: "off",
  };
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-1 block text-sm font-semibold">
        {p.label}
        {p.required ? <span aria-hidden> *</span> : null}
      </label>
      {p.multiline ? (
        <textarea {...common} ref={p.inputRef} rows={2} onChange={(e) => p.onChange(e.target.value)} />
      ) : (
        <input
          {...common}
          ref={p.inputRef}
          type={p.type ?? "text"}
          inputMode={p.inputMode ?? "text"}
          onChange={(e) => p.onChange(e.target.value)}
        />
      )}
      <Note id={`${id}-note`} wrong={p.wrong} found={found} hint={p.hint} />
    </div>
  );
}

export function Choice(p: {
  label: string;
  name: string;
  value: string;
  onChange: (value: string) => void;
  options: { id: string; label: string }[];
  hint?: ReactNode;
  wrong?: string | undefined;
  inputRef?: React.Ref<HTMLSelectElement>;
}) {
  const id = useId();
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-1 block text-sm font-semibold">
        {p.label}
      </label>
      <select
        id={id}
        name={p.name}
        className="field"
        value={p.value}
        aria-invalid={Boolean(p.wrong)}
        ref={p.inputRef}
        onChange={(e) => p.onChange(e.target.value)}
      >
        {p.options.map((o) => (
          <option key={o.id} value={o.id}>
            {o.label}
          </option>
        ))}
      </select>
      <p className="mt-1 min-h-5 text-sm leading-5 text-quiet">
        {p.wrong ? <strong className="text-hold">{p.wrong}</strong> : p.hint}
      </p>
    </div>
  );
}

export function Tick(p: {
  label: ReactNode;
  name: string;
  checked: boolean;
  disabled?: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <label
      className={`flex min-h-11 items-center gap-3 py-1 ${p.disabled ? "cursor-not-allowed text-quiet" : "cursor-pointer"}`}
    >
      <input
        type="checkbox"
        name={p.name}
        className="size-6 shrink-0 accent-deep"
        checked={p.checked}
        disabled={p.disabled}
        onChange={(e) => p.onChange(e.target.checked)}
      />
      <span>{p.label}</span>
    </label>
  );
}
