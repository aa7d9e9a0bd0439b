import { api, type Hookup, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { useToast } from "../../ui/Toasts";
import { HistoryButton } from "../history/History";
import { StrikeOut } from "../history/StrikeOut";
import { Struck } from "../history/Struck";

export function Readings({ hookup: h, jobId }: { hookup: Hookup; jobId: number }) {
  const toast = useToast();
  const path = (reading_id: number) => ({ params: { path: { reading_id } } });
  const restore = useChange("reading", (id: number) =>
    take(api.POST("/api/readings/{reading_id}/restore", path(id))),
  );
  const strike = useChange("reading", ({ id, why }: { id: number; why: string }) =>
    take(
      api.DELETE("/api/readings/{reading_id}", {
        params: { path: { reading_id: id }, query: { why } },
      }),
    ),
  );
  const startAgain = useChange("reading", ({ id, anew }: { id: number; anew: boolean }) =>
    take(api.PATCH("/api/readings/{reading_id}", { ...path(id), body: { anew } })),
  );
  const starting = (id: number, anew: boolean) =>
    startAgain.mutateAsync({ id, anew }).then(
      () =>
        toast(anew ? "The readings before it no longer count." : "The readings before it count again.", () =>
          startAgain.mutate({ id, anew: !anew }),
        ),
      (e) => toast(e.message),
    );
  const onRestore = (id: number) => restore.mutate(id);
  if (!h.readings.length) return <Struck entries={h.struck} onRestore={onRestore} />;
  const first = h.readings.find((r) => r.counts);
  return (
    <>
      <ul className="mt-3 grid">
        {h.readings.map((r) => (
          <li
            key={r.id}
            data-counts={r.counts}
            className="grid items-start gap-x-4 border-t border-edge py-1 sm:grid-cols-[1fr_auto]"
          >
            <div className="py-1.5">
              <p className="flex flex-wrap items-baseline gap-x-4">
                <strong className={r.counts ? "text-lg" : "text-lg text-quiet line-through"}>
                  {r.volts_text}, {r.amps_text}
                </strong>
                {r.counts ? null : <strong className="text-sm">No longer counts</strong>}
                <span className={r.counts ? "" : "text-quiet"}>
                  {r.ohms_text} at {r.freq_text}
                  {r.change_text ? <strong>, {r.change_text}</strong> : null}
                  {r.beside_text ? <strong>, {r.beside_text}</strong> : null}
                </span>
              </p>
              {r.doubt_text ? <p className="font-bold text-hold">{r.doubt_text}</p> : null}
              <p className="text-sm text-quiet">
                {r.technician}, {when(r.taken_at)}
                {r.note ? ` · ${r.note}` : ""}
              </p>
            </div>
            <div className="flex flex-wrap justify-end">
              {r.counts && r !== first ? (
                <Button
                  look="quiet"
                  className="text-sm"
                  aria-label={`Start again here, at ${r.volts_text}, ${r.amps_text}`}
                  onClick={() => starting(r.id, true)}
                >
                  Start again here
                </Button>
              ) : null}
              {r === first && r.anew ? (
                <Button look="quiet" className="text-sm" onClick={() => starting(r.id, false)}>
                  Count the earlier ones again
                </Button>
              ) : null}
              <HistoryButton
                jobId={jobId}
                kind="transmitter_readings"
                entry={r.id}
                of={`the reading ${r.volts_text}, ${r.amps_text}`}
                className="text-sm"
              />
              <StrikeOut
                what={`the reading ${r.volts_text}, ${r.amps_text}`}
                busy={strike.isPending}
                className="text-sm"
                onStrike={(why) =>
                  strike.mutateAsync({ id: r.id, why }).then(
                    () => toast("Reading struck out.", () => restore.mutate(r.id)),
                    (e) => toast(e.message),
                  )
                }
              />
            </div>
          </li>
        ))}
      </ul>
      <Struck entries={h.struck} onRestore={onRestore} />
    </>
  );
}
