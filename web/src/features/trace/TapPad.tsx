import { Delete } from "lucide-react";
import type { PointerEvent } from "react";
import { Button } from "../../ui/Button";

const ROWS = ["789", "456", "123"];

/** Keys for one gloved thumb: digits, a reading again, the next field. What is typed goes into the field in focus. */
export function TapPad(p: {
  /** Where typing goes, in the order a station is read. */
  order: string[];
  at: string;
  label: string;
  value: string;
  onChange: (text: string) => void;
  onGoTo: (field: string) => void;
}) {
  const k = p.order.indexOf(p.at);
  const next = p.order[k + 1];
  const before = p.order[k - 1];
  const last = p.value.trim().split(/\s+/).at(-1) ?? "";
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
  const add = (text: string) => () => p.onChange(p.value + text);
  return (
    <div
      role="group"
      aria-label="Tap pad"
      className="sticky bottom-[4.25rem] z-10 col-span-full mb-3 rounded-lg border-2 border-ink bg-sheet p-2 lg:static"
    >
      <p className="mb-1 flex min-h-8 items-baseline justify-between gap-3">
        <span className="font-semibold">{p.label}</span>
        <output className="truncate text-xl font-bold tabular-nums">{p.value || "–"}</output>
      </p>
      <div className="grid grid-cols-4 gap-2">
        {ROWS.map((row, i) => [
          ...[...row].map((d) => key(d, `Tap ${d}`, add(d))),
          i === 0 ? (
            <Button
              key="back"
              aria-label="Take the last one back"
              disabled={!p.value}
              onPointerDown={stay}
              onClick={() => p.onChange(p.value.slice(0, -1))}
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
            {key(
              "another",
              "Another reading",
              () => p.onChange(`${p.value.trim()} `),
              "col-span-2 text-base",
              !last,
            )}
            {key(
              last ? `${last} again` : "again",
              last ? `${last} again` : "again: nothing read yet",
              () => p.onChange(`${p.value.trim()} ${last} `.trimStart()),
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
            Judge
          </Button>
        )}
      </div>
    </div>
  );
}
