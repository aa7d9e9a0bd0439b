import { ArrowRight, TriangleAlert } from "lucide-react";
import type { Job, Schemas } from "../../api/client";
import { useRemedies } from "../../api/queries";
import { Button } from "../../ui/Button";
import { Wait } from "../../ui/Wait";

import { useStart } from "../plan/useStart";

type Remedy = Schemas["RemedyView"];

/** What is done to the hookup as it stands; everything else is a setup of its own, with its own safe order. */
const AT_HAND: Remedy["kind"][] = ["stake", "clip", "far", "unbond"];

/** What would help from here, each remedy tried in the model: the best first, with what it would gain. */
export function Remedies({ setupId, lineId, job }: { setupId: number; lineId: number; job: Job }) {
  const remedies = useRemedies(setupId);
  const { onStart, busy, refused } = useStart(lineId, job);
  return (
    <section aria-label="What would help">
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>What would help</h2>
        <p aria-live="polite" className="text-sm text-quiet">
          {remedies.isRefetching ? "Updating …." : ""}
        </p>
      </div>
      <Wait query={remedies} doing="Trying every remedy on this line">
        {(r) => (
          <>
            {r.ahead_text ? (
              <p className="mb-2 text-lg leading-snug font-semibold" data-ahead>
                {r.ahead_text}
              </p>
            ) : null}
            <p className="mb-2 text-lg leading-snug">{r.headline}</p>
            {refused ? (
              <p role="alert" className="mb-2 font-semibold text-hold">
                {refused.text}
              </p>
            ) : null}
            <ol className="grid gap-2">
              {r.helping.slice(0, SHOWN).map((x, k) => (
                <One key={x.title} remedy={x} first={k === 0} busy={busy} onStart={onStart} />
              ))}
            </ol>
            {r.helping.length > SHOWN ? (
              <details className="mt-2">
                <summary className="min-h-11 cursor-pointer py-2 font-semibold">
                  {r.helping.length - SHOWN} more that would gain less
                </summary>
                <ol className="grid gap-2">
                  {r.helping.slice(SHOWN).map((x) => (
                    <One key={x.title} remedy={x} first={false} busy={busy} onStart={onStart} />
                  ))}
                </ol>
              </details>
            ) : null}
            {r.useless.length ? (
              <details className="mt-2">
                <summary className="min-h-11 cursor-pointer py-2 font-semibold">
                  No gain ({r.useless.length})
                </summary>
                <ul className="grid gap-1">
                  {r.useless.map((text) => (
                    <li key={text} className="border-t border-edge py-1">
                      {text}
                    </li>
                  ))}
                </ul>
              </details>
            ) : null}
          </>
        )}
      </Wait>
    </section>
  );
}

/** More than these at once is too long a list for the rain. */
const SHOWN = 3;

function One(p: {
  remedy: Remedy;
  first: boolean;
  busy: boolean;
  onStart: (s: Remedy, stakeAt: number[] | null) => void;
}) {
  const r = p.remedy;
  return (
    <li
      data-remedy={r.kind}
      className={`rounded-md border p-3 ${p.first ? "border-2 border-ink" : "border-edge"}`}
    >
      <p className="flex gap-2 text-lg leading-snug font-bold">
        <ArrowRight aria-hidden className="mt-0.5 size-5 shrink-0" />
        {r.title}
      </p>
      <p>{r.gain_text}</p>
      {r.expect_text ? <p className="text-quiet">{r.expect_text}</p> : null}
      {r.caution ? (
        <p className="mt-1 flex gap-2">
          <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0 text-care" />
          {r.caution}
        </p>
      ) : null}
      {AT_HAND.includes(r.kind) && !r.also ? null : (
        <Button
          className="mt-2 w-full sm:w-auto"
          disabled={p.busy}
          aria-label={`Hook up this way: ${r.title}`}
          onClick={() => p.onStart(r, r.stake_at)}
        >
          Hook up this way
        </Button>
      )}
    </li>
  );
}
