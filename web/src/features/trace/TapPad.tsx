import { Delete } from "lucide-react";
import type { PointerEvent } from "react";
import { useController } from "react-hook-form";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { StationFormState } from "./stationForm";

const ROWS = ["789", "456", "123"];

/** Keys for one gloved thumb: digits, a reading again, the next field. What is typed goes into the field in focus. */
export function TapPad(p: {
  form: EntryFormState<StationFormState>;
  /** Fields it types into, in the order a station is read. */
  fields: Schemas["EntryFieldView"][];
  at: string;
  onGoTo: (field: string) => void;
  /** It stays where it stands, as nothing scrolls under it. */
  still?: boolean;
}) {
  const { field } = useController({ name: p.at, control: p.form.control });
  const value = String(field.value ?? "");
  const put = field.onChange;
  const k = p.fields.findIndex((f) => f.id === p.at);
  const next = p.fields[k + 1]?.id;
  const before = p.fields[k - 1]?.id;
  const last = value.trim().split(/\s+/).at(-1) ?? "";
  const several = p.at === "currents";
  // the field keeps the focus, or the screen would jump with every key
  const stay = (e: PointerEvent) => e.preventDefault();
  const key = (text: string, says: string, run: () => void, more = "", off = false) => (
    <Button
      key={says}
      aria-label={says}
      disabled={off}
      onPointerDown={stay}
      onClick={run}
      className={`min-h-14 px-1 text-xl ${more}`}
    >
      {text}
    </Button>
  );
  const add = (text: string) => () => put(value + text);
  return (
    <div
      role="group"
      aria-label="Tap pad"
      className={`${p.still ? "" : "sticky bottom-[4.25rem] z-10 lg:static"} col-span-full mb-3 rounded-lg border-2 border-ink bg-sheet p-2`}
    >
      <p className="mb-1 flex min-h-8 items-baseline justify-between gap-3">
        <span className="font-semibold">{p.fields[k]?.label ?? p.at}</span>
        <output className="truncate text-xl font-bold tabular-nums">{value || "–"}</output>
      </p>
      <div className="grid grid-cols-4 gap-2">
        {ROWS.map((row, i) => [
          ...[...row].map((d) => key(d, `Tap ${d}`, add(d))),
          i === 0 ? (
            <Button
              key="back"
              aria-label="Take the last one back"
              disabled={!value}
              onPointerDown={stay}
              onClick={() => put(value.slice(0, -1))}
              className="min-h-14"
            >
              <Delete aria-hidden className="size-6" />
            </Button>
          ) : i === 1 ? (
            key(".", "Tap the decimal point", add("."))
          ) : (
            key("0", "Tap 0", add("0"))
          ),
        ])}
        {several ? (
          <>
            {key("another", "Add reading", () => put(`${value.trim()} `), "col-span-2 text-base", !last)}
            {key(
              last ? `Repeat ${last}` : "Repeat last",
              last ? `Repeat ${last}` : "Repeat last: nothing read yet",
              () => put(`${value.trim()} ${last} `.trimStart()),
              "col-span-2 text-base",
              !last,
            )}
          </>
        ) : null}
        {key("Back", "Back one field", () => before && p.onGoTo(before), "col-span-2 text-base", !before)}
        {next ? (
          key("Next", "Next field", () => p.onGoTo(next), "col-span-2 text-base border-2 border-ink")
        ) : (
          <Button type="submit" look="main" className="col-span-2 min-h-14">
            Check
          </Button>
        )}
      </div>
    </div>
  );
}
