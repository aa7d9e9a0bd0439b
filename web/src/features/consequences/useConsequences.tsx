import { type ReactNode, useRef, useState } from "react";
import { Refusal, type Schemas } from "../../api/client";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";

type Found = Schemas["Consequences"];

/**
 * Asks before a save what it would do to verdicts. `allowed` is true if nothing changes or the user wants it so.
 * `shown` goes into the form: how far the check is, and what would change.
 */
export function useConsequences<B>(ask: (body: B, signal: AbortSignal) => Promise<Found>) {
  const [open, setOpen] = useState<{ found: Found; answer: (go: boolean) => void } | null>(null);
  const [checking, setChecking] = useState(false);
  const stop = useRef<AbortController | null>(null);
  const allowed = async (body: B) => {
    stop.current = new AbortController();
    const { signal } = stop.current;
    setChecking(true);
    const found = await ask(body, signal)
      .catch((e) => {
        if (signal.aborted) throw new Refusal("", "Not saved.", "Save it once you are ready.", "stopped");
        throw e;
      })
      .finally(() => setChecking(false));
    if (!found.stations.length) return true;
    return new Promise<boolean>((resolve) => {
      const answer = (go: boolean) => {
        setOpen(null);
        resolve(go);
      };
      setOpen({ found, answer });
    });
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
  return { allowed, checking, shown };
}

function Changes({ found, answer }: { found: Found; answer: (go: boolean) => void }) {
  return (
    <Sheet title="Verdicts would change" note={found.text} open onClose={() => answer(false)}>
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
        <Button look="main" onClick={() => answer(true)}>
          Save the change
        </Button>
        <Button onClick={() => answer(false)}>Go back</Button>
      </div>
    </Sheet>
  );
}
