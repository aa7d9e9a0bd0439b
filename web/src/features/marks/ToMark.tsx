import { Paintbrush } from "lucide-react";
import { useState } from "react";
import { api, asRefusal, type Job, take } from "../../api/client";
import { useChange, useStation } from "../../api/queries";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button } from "../../ui/Button";
import { Refused } from "../../ui/Refused";
import { useToast } from "../../ui/Toasts";
import { type Markable, MarkForm, markAt } from "./MarkForm";

/** Stations shown at once: a trace may have thousands. */
const AT_ONCE = 40;

/** What to paint: the next station that passed is one tap; those not proved stand apart and ask for a reason. */
export function ToMark({ job, stations, more }: { job: Job; stations: Markable[]; more: string }) {
  const open = stations.filter((s) => s.mark_id === null);
  const passed = open.filter((s) => s.proved);
  const held = open.filter((s) => !s.proved);
  const careful = passed.filter((s) => s.verdict !== "mark").length;
  const { painted, busy, refused } = usePainting();
  const [next, ...rest] = passed;
  return (
    <section className="card lg:p-3" aria-label="Stations to mark">
      {refused ? <Refused text={refused} /> : null}
      {next ? (
        <Next
          key={`${next.at}-${next.id}`}
          station={next}
          job={job}
          busy={busy}
          onPainted={() => painted([next])}
        />
      ) : (
        <>
          <h2>Nothing to paint</h2>
          <p>{open.length ? "Nothing without a mark has passed." : more}</p>
        </>
      )}
      {rest.length ? (
        <>
          <Button className="w-full" disabled={busy} onClick={() => painted(passed)}>
            All {passed.length} that passed are painted{careful ? ` (${careful} with care)` : ""}
          </Button>
          <h3 className="mt-3">Then</h3>
          <Rows stations={rest} job={job} busy={busy} onPainted={(s) => painted([s])} />
        </>
      ) : null}
      {held.length ? (
        <>
          <h3 className="mt-3">Not proved: do not mark</h3>
          <Rows stations={held} job={job} busy={busy} />
        </>
      ) : null}
    </section>
  );
}

/** Keeps marks as they are painted, one after the other; the last ones can be taken back. */
function usePainting() {
  const toast = useToast();
  const [refused, setRefused] = useState("");
  const mark = useChange("mark", (m: Markable) => markAt(m, { reason: "", offset: "", side: "left" }));
  const back = useChange("mark", (ids: number[]) =>
    Promise.all(
      ids.map((mark_id) =>
        take(
          api.POST("/api/marks/{mark_id}/withdraw", {
            params: { path: { mark_id } },
            body: { reason: "Undone at once: not painted." },
          }),
        ),
      ),
    ),
  );
  const painted = async (stations: Markable[]) => {
    const made: number[] = [];
    setRefused("");
    try {
      for (const s of stations) made.push((await mark.mutateAsync(s)).id);
    } catch (e) {
      setRefused(asRefusal(e).text);
    }
    if (made.length)
      toast(
        made.length === 1 ? `Marked at ${stations[0]?.distance_text}.` : `${made.length} marks are kept.`,
        () => back.mutate(made),
      );
  };
  return { painted, busy: mark.isPending, refused };
}

/** The next station to paint, with what to write there. */
function Next(p: { station: Markable; job: Job; busy: boolean; onPainted: () => void }) {
  const detail = useStation(p.station.at === "station" ? p.station.id : null).data;
  const label = p.station.mark_label ?? detail?.mark_label;
  const [noting, setNoting] = useState(false);
  const s = p.station;
  return (
    <div data-next={s.id}>
      <div className="flex flex-wrap items-center gap-3">
        <h2>Paint next: {s.distance_text}</h2>
        <VerdictBadge verdict={s.verdict} />
      </div>
      {label ? (
        <p className="my-2 flex items-center gap-2 text-2xl font-bold">
          <Paintbrush aria-hidden className="size-6 shrink-0" /> {label}
        </p>
      ) : null}
      {s.verdict === "mark" ? null : <p className="mb-2 text-sm">{s.headline}</p>}
      {noting ? (
        <MarkForm station={s} job={p.job} onDone={() => setNoting(false)} />
      ) : (
        <>
          <Button look="main" className="min-h-14 w-full text-lg" disabled={p.busy} onClick={p.onPainted}>
            Mark at {s.distance_text}
          </Button>
          <Button look="quiet" className="-ml-4 text-sm" onClick={() => setNoting(true)}>
            With a note, or painted beside the line
          </Button>
        </>
      )}
    </div>
  );
}

function Rows(p: { stations: Markable[]; job: Job; busy: boolean; onPainted?: (s: Markable) => void }) {
  const [most, setMost] = useState(AT_ONCE);
  const left = p.stations.length - most;
  return (
    <>
      <ul>
        {p.stations.slice(0, most).map((s) => (
          <Row key={`${s.at}-${s.id}`} station={s} job={p.job} busy={p.busy} onPainted={p.onPainted} />
        ))}
      </ul>
      {left > 0 ? (
        <Button className="mt-2" onClick={() => setMost(most + AT_ONCE)}>
          Show more: {left} left
        </Button>
      ) : null}
    </>
  );
}

function Row(p: { station: Markable; job: Job; busy: boolean; onPainted?: (s: Markable) => void }) {
  const { station: s, onPainted } = p;
  const [marking, setMarking] = useState(false);
  return (
    <li className="border-t border-edge py-2" data-verdict={s.verdict}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <strong className="text-xl">{s.distance_text}</strong>
        <VerdictBadge verdict={s.verdict} />
        {marking ? null : (
          <Button
            look={onPainted ? "plain" : "stop"}
            className="ml-auto"
            disabled={p.busy}
            onClick={() => (onPainted ? onPainted(s) : setMarking(true))}
          >
            {onPainted ? `Mark at ${s.distance_text}` : "Mark anyway"}
          </Button>
        )}
        {s.verdict === "mark" ? null : <span className="w-full text-sm leading-snug">{s.headline}</span>}
      </div>
      {marking ? <MarkForm station={s} job={p.job} onDone={() => setMarking(false)} /> : null}
    </li>
  );
}
