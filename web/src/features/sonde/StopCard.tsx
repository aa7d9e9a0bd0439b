import { useEffect, useRef, useState } from "react";
import { api, asRefusal, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { Refused } from "../../ui/Refused";
import { useToast } from "../../ui/Toasts";
import { HistoryButton } from "../history/History";
import { StrikeOut } from "../history/StrikeOut";
import { MarkForm, ofStop } from "../marks/MarkForm";
import { Findings } from "../trace/Findings";
import { VerdictHead } from "../trace/VerdictHead";

/** The verdict first, then where the head lies, then what to do; every check is one tap away. */
export function StopCard(p: {
  stop: Schemas["StopDetail"];
  job: Job;
  onEdit: () => void;
  onRemoved: () => void;
}) {
  const s = p.stop;
  const [marking, setMarking] = useState(false);
  const [refused, setRefused] = useState<Refusal | null>(null);
  const card = useRef<HTMLElement>(null);
  // a new verdict must be seen
  useEffect(() => {
    card.current?.scrollIntoView({ block: "nearest" });
  }, [s.verdict, s.headline]);
  const toast = useToast();
  const path = { params: { path: { stop_id: s.id } } };
  const restore = useChange("stop", () => take(api.POST("/api/stops/{stop_id}/restore", path)));
  const strike = useChange("stop", (why: string) =>
    take(api.DELETE("/api/stops/{stop_id}", { params: { path: { stop_id: s.id }, query: { why } } })),
  );
  const onStrike = (why: string) =>
    strike.mutateAsync(why).then(
      () => {
        p.onRemoved();
        toast(`Stop at ${s.distance_text} struck out.`, () => restore.mutate(undefined));
      },
      (e) => setRefused(asRefusal(e)),
    );
  return (
    <section
      ref={card}
      className="card scroll-mt-2 border-2 border-ink lg:p-3"
      aria-label={`Stop at ${s.distance_text}`}
      data-verdict={s.verdict}
    >
      <VerdictHead at={s.distance_text} verdict={s.verdict} headline={s.headline} nextStep={s.next_step} />
      {s.proved && s.head_text ? <p className="mt-2">{s.head_text}</p> : null}
      {refused ? <Refused text={refused.text} /> : null}
      {marking ? (
        <MarkForm station={ofStop(s)} job={p.job} onDone={() => setMarking(false)} />
      ) : s.mark_id === null ? (
        <div className="mt-3 flex flex-wrap gap-x-1 gap-y-2">
          {s.proved ? (
            <Button look="main" onClick={() => setMarking(true)}>
              Mark it
            </Button>
          ) : null}
          <Button onClick={p.onEdit} className="px-3">
            Correct
          </Button>
          <StrikeOut what={`the stop at ${s.distance_text}`} busy={strike.isPending} onStrike={onStrike} />
          <History stop={s} job={p.job} />
          {s.proved ? null : (
            <Button look="stop" className="ml-auto px-2.5" onClick={() => setMarking(true)}>
              Mark anyway
            </Button>
          )}
        </div>
      ) : (
        <div className="mt-3 flex flex-wrap gap-2">
          <p className="self-center font-semibold">Marked. The mark keeps these readings and this verdict.</p>
          <History stop={s} job={p.job} />
        </div>
      )}
      <Findings findings={s.findings} by={`${s.technician}. ${s.note}`} />
    </section>
  );
}

function History({ stop: s, job }: { stop: Schemas["StopDetail"]; job: Job }) {
  return (
    <HistoryButton
      jobId={job.id}
      kind="sonde_stops"
      entry={s.id}
      of={`the stop at ${s.distance_text}`}
      className="px-2"
      bare
    />
  );
}
