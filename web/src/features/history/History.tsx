import { useQuery } from "@tanstack/react-query";
import { History as Clock } from "lucide-react";
import { useState } from "react";
import { api, type Kept, type Schemas, take } from "../../api/client";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { Sheet } from "../../ui/Sheet";
import { Wait } from "../../ui/Wait";

type Of = { jobId: number; kind?: Kept; entry?: number };

/** What was done to an entry, or on a whole job, one tap away. */
export function HistoryButton(p: Of & { of: string; label?: string; className?: string; bare?: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" className={p.className} onClick={() => setOpen(true)}>
        <Clock aria-hidden className={p.bare ? "size-4 lg:size-5" : "size-4"} />
        {p.label ?? (
          <span>
            <span className={p.bare ? "lg:sr-only" : ""}>History</span>
            <span className="sr-only"> of {p.of}</span>
          </span>
        )}
      </Button>
      {open ? (
        <Sheet title={`History of ${p.of}`} open onClose={() => setOpen(false)}>
          <Changes jobId={p.jobId} kind={p.kind} entry={p.entry} />
        </Sheet>
      ) : null}
    </>
  );
}

function Changes({ jobId, kind, entry }: Of) {
  const [limit, setLimit] = useState(100);
  const query = useQuery({
    queryKey: ["job", jobId, "history", { kind, entry, limit }],
    staleTime: 0,
    queryFn: () =>
      take(
        api.GET("/api/jobs/{job_id}/history", {
          params: { path: { job_id: jobId }, query: { kind, entry, limit } },
        }),
      ),
  });
  return (
    <Wait query={query} doing="Reading the journal">
      {(h) =>
        h.entries.length ? (
          <>
            <ChangeList entries={h.entries} />
            {h.more && limit < 500 ? (
              <Button className="mt-3" onClick={() => setLimit(500)}>
                Show older changes
              </Button>
            ) : null}
          </>
        ) : (
          <p>Nothing on record from before the journal was kept.</p>
        )
      }
    </Wait>
  );
}

/** Changes with who, when, the values before and after, and why. */
export function ChangeList({ entries }: { entries: Schemas["HistoryEntry"][] }) {
  return (
    <ol className="grid">
      {entries.map((e) => (
        <li key={e.id} className="border-t border-edge py-2" data-action={e.action}>
          <p>
            <strong>{e.text}</strong>{" "}
            <span className="text-sm text-quiet">
              {[e.who, when(e.at), e.device].filter(Boolean).join(", ")}
            </span>
          </p>
          {e.why ? <p>{e.why}</p> : null}
          {e.changes.length ? (
            <ul className="text-sm">
              {e.changes.map((c) => (
                <li key={c.label} className="break-words">
                  {c.label}: <del className="text-quiet">{c.was}</del> → <strong>{c.now}</strong>
                </li>
              ))}
            </ul>
          ) : null}
        </li>
      ))}
    </ol>
  );
}
