import { type ReactNode, useRef, useState } from "react";
import { api, Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";

type Found = Schemas["Consequences"];
type Unproved = Schemas["Unproved"];
/** What the user wants: go back, save, or save and withdraw the marks that the change leaves unproved. */
type Choice = "back" | "save" | "withdraw";

const unprovedIn = (found: Found) => found.stations.flatMap((s) => (s.unproved ? [s.unproved] : []));

/**
 * Asks before a save what it would do to verdicts. `allowed` is true if nothing changes or the user wants it so; after
 * the save, and once the form is cleared, `settle` withdraws the marks that were to be withdrawn with it. `shown` goes
 * into the form: how far the check is, and what would change. With `onlyWorse`, what only makes verdicts better is not
 * asked about; `said` then tells it, for after the save.
 */
export function useConsequences<B>(
  ask: (body: B, signal: AbortSignal) => Promise<Found>,
  { onlyWorse = false } = {},
) {
  const said = useRef("");
  const [open, setOpen] = useState<{ found: Found; answer: (choice: Choice) => void } | null>(null);
  const leaving = useRef<Unproved[]>([]);
  const withdraw = useChange("mark", ({ mark_id, reason }: Unproved) =>
    take(api.POST("/api/marks/{mark_id}/withdraw", { params: { path: { mark_id } }, body: { reason } })),
  );
  const [checking, setChecking] = useState(false);
  const stop = useRef<AbortController | null>(null);
  const allowed = async (body: B) => {
    leaving.current = [];
    said.current = "";
    stop.current = new AbortController();
    const { signal } = stop.current;
    setChecking(true);
    const found = await ask(body, signal)
      .catch((e) => {
        if (signal.aborted) throw new Refusal("", "Not saved.", "Save it once you are ready.", "stopped");
        throw e;
      })
      .finally(() => setChecking(false));
    said.current = found.said;
    if (!found.stations.some((s) => s.worse || !onlyWorse)) return true;
    return new Promise<boolean>((resolve) => {
      const answer = (choice: Choice) => {
        setOpen(null);
        leaving.current = choice === "withdraw" ? unprovedIn(found) : [];
        resolve(choice !== "back");
      };
      setOpen({ found, answer });
    });
  };
  const settle = async () => {
    for (const mark of leaving.current.splice(0)) await withdraw.mutateAsync(mark);
  };
  const shown: ReactNode = (
    <>
      {checking ? (
        <p role="status" className="flex flex-wrap items-center gap-3" aria-busy>
          Checking what this changes …<Button onClick={() => stop.current?.abort()}>Stop</Button>
        </p>
      ) : null}
      {open ? <Changes {...open} /> : null}
    </>
  );
  return { allowed, settle, checking, shown, said };
}

function Changes({ found, answer }: { found: Found; answer: (choice: Choice) => void }) {
  const unproved = unprovedIn(found).length;
  const marks = unproved === 1 ? "the mark" : `the ${unproved} marks`;
  return (
    <Sheet title="Verdicts would change" note={found.text} open onClose={() => answer("back")}>
      {found.marks_text ? <p className="mb-3 font-semibold">{found.marks_text}</p> : null}
      <ul className="grid max-h-[50dvh] gap-2 overflow-y-auto" aria-label="Stations that would change">
        {found.stations.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-2 border-t border-edge pt-2">
            <span className="min-w-0 grow">
              <strong>{s.distance_text}</strong> <span className="text-quiet">{s.line}</span>
              {s.marked ? <strong> · marked</strong> : null}
            </span>
            <span className="flex items-center gap-2">
              <VerdictBadge verdict={s.was} />
              <span aria-hidden>→</span>
              <span className="sr-only">becomes</span>
              <VerdictBadge verdict={s.now} />
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap gap-3">
        {unproved ? (
          <Button look="main" onClick={() => answer("withdraw")}>
            Save, withdraw {marks}
          </Button>
        ) : null}
        <Button look={unproved ? "plain" : "main"} onClick={() => answer("save")}>
          {unproved ? `Save, let ${marks} stand` : "Save the change"}
        </Button>
        <Button onClick={() => answer("back")}>Go back</Button>
      </div>
    </Sheet>
  );
}
