import { ArrowRight, type Check, ChevronLeft, ChevronRight } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { api, asRefusal, type Job, type Refusal, type Station, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button, buttonClass } from "../../ui/Button";
import { useToast } from "../../ui/Toasts";

import { HistoryButton } from "../history/History";
import { StrikeOut } from "../history/StrikeOut";
import { MarkForm, ofStation } from "../marks/MarkForm";
import { Findings } from "./Findings";

/** What leads to the place of the next step. */
const GO: Record<Station["next_at"], string> = {
  "": "",
  identity: "Show which line it is",
  correct: "Add the reading here",
  help: "See what would help",
  hookup: "Go to the hookup",
  sweep: "Go to the sweep",
};

/** The verdict first, then the sentence that decided it, then what to do; every check is one tap away. */
export function StationCard(p: {
  station: Station;
  job: Job;
  onEdit: () => void;
  onRemoved: () => void;
  /** Leads to where the next step is taken. */
  onNext: (where: Station["next_at"]) => void;
  /** Shows the station before or after it along the line; undefined at the ends. */
  onBefore?: () => void;
  onAfter?: () => void;
}) {
  const s = p.station;
  const passed = s.proved;
  const [marking, setMarking] = useState(false);
  const [refused, setRefused] = useState<Refusal | null>(null);
  const card = useRef<HTMLElement>(null);
  // a new verdict must be seen, even when something else was answered further down, or when the entry form below it holds the focus
  useEffect(() => {
    card.current?.scrollIntoView({ block: "nearest" });
  }, [s.verdict, s.headline]);
  const toast = useToast();
  const path = { params: { path: { station_id: s.id } } };
  const restore = useChange("station", () => take(api.POST("/api/stations/{station_id}/restore", path)));
  const strike = useChange("station", (why: string) =>
    take(
      api.DELETE("/api/stations/{station_id}", {
        params: { path: { station_id: s.id }, query: { why } },
      }),
    ),
  );
  const onStrike = (why: string) =>
    strike.mutateAsync(why).then(
      () => {
        p.onRemoved();
        toast(`Station at ${s.distance_text} struck out.`, () => restore.mutate(undefined));
      },
      (e) => setRefused(asRefusal(e)),
    );
  const history = (
    <HistoryButton
      jobId={p.job.id}
      kind="stations"
      entry={s.id}
      of={`the station at ${s.distance_text}`}
      className="px-2"
      bare
    />
  );
  return (
    <section
      ref={card}
      className="card scroll-mt-2 border-2 border-ink lg:p-3"
      aria-label={`Station at ${s.distance_text}`}
      data-verdict={s.verdict}
    >
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <p className="flex items-center text-2xl font-bold">
          <Step label="Station before" onGo={p.onBefore} icon={ChevronLeft} />
          {s.distance_text}
          <Step label="Station after" onGo={p.onAfter} icon={ChevronRight} />
        </p>
        <VerdictBadge verdict={s.verdict} large />
        <p className="ml-auto lg:ml-0 lg:w-full">
          {s.current_text}, {s.depth_text} deep
        </p>
      </div>
      {s.coil_text ? <p className="text-quiet first-letter:uppercase">{s.coil_text}</p> : null}
      <p className="mt-2 text-lg leading-snug">{s.headline}</p>
      <p className="mt-1 flex gap-2 text-lg leading-snug font-bold">
        <ArrowRight aria-hidden className="mt-0.5 size-5 shrink-0" />
        {s.next_step}
      </p>
      {s.mark_id === null && GO[s.next_at] ? (
        <Button className="mt-2 w-full border-2 border-ink" onClick={() => p.onNext(s.next_at)}>
          {GO[s.next_at]}
        </Button>
      ) : null}
      {s.estimate_text ? <p className="mt-2">{s.estimate_text}</p> : null}
      {s.place ? (
        <p className={`mt-2 ${s.place.astray ? "font-bold text-hold" : "text-quiet"}`}>{s.place.text}</p>
      ) : null}
      {refused ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {refused.text}
        </p>
      ) : null}
      {marking ? (
        <MarkForm station={ofStation(s)} job={p.job} onDone={() => setMarking(false)} />
      ) : (
        <div className="mt-3 flex flex-wrap gap-x-1 gap-y-2">
          {s.mark_id === null ? (
            <>
              {passed ? (
                <Button look="main" onClick={() => setMarking(true)}>
                  Mark it
                </Button>
              ) : null}
              <Button onClick={p.onEdit} className="px-3">
                Correct
              </Button>
              <StrikeOut
                what={`the station at ${s.distance_text}`}
                busy={strike.isPending}
                onStrike={onStrike}
              />
              {history}
              {passed ? null : (
                <Button look="stop" className="ml-auto px-2.5" onClick={() => setMarking(true)}>
                  Mark anyway
                </Button>
              )}
            </>
          ) : (
            <>
              <p className="self-center font-semibold">
                Marked. The mark keeps these readings and this verdict.
              </p>
              {history}
            </>
          )}
        </div>
      )}
      <a
        href={`${window.location.pathname}#next-station`}
        className={`${buttonClass("plain")} mt-3 w-full lg:hidden`}
      >
        Next station
      </a>
      <Findings findings={s.findings} by={`${s.technician}. ${s.note}`} />
    </section>
  );
}

function Step({ label, onGo, icon: Icon }: { label: string; onGo?: () => void; icon: typeof Check }) {
  if (!onGo) return null;
  return (
    <button
      type="button"
      aria-label={label}
      className="flex min-h-11 min-w-8 items-center justify-center max-lg:min-w-11"
      onClick={onGo}
    >
      <Icon aria-hidden className="size-6" />
    </button>
  );
}
