import type { Job, Schemas } from "../../api/client";
import { usePlanRest } from "../../api/queries";
import { Button } from "../../ui/Button";
import { Wait } from "../../ui/Wait";
import { useStart } from "./useStart";

/** Rejected setups and why, fetched when they are asked for. */
export function Rejected({ lineId, job }: { lineId: number; job: Job }) {
  const rest = usePlanRest(lineId, true);
  return (
    <section aria-label="Rejected setups and why">
      <Wait query={rest} doing="Reading the rejected setups">
        {(data) => (
          <>
            {data.pair ? <OnPair pair={data.pair} lineId={lineId} job={job} /> : null}
            <Rows options={data.rejected} />
          </>
        )}
      </Wait>
    </section>
  );
}

/** Both leads on two of its conductors: to look for the line, never to mark it. */
function OnPair(p: { pair: Schemas["PairView"]; lineId: number; job: Job }) {
  const { onStart, busy, refused } = useStart(p.lineId, p.job);
  return (
    <section className="card mb-3 border-l-4 border-hold" aria-label={p.pair.title}>
      <p className="text-sm font-semibold text-quiet">Only to look for it</p>
      <p className="font-bold">{p.pair.title}</p>
      <p className="mt-1 leading-snug">{p.pair.text}</p>
      <Button disabled={busy} onClick={() => onStart(p.pair, null)} className="mt-2">
        Look for it this way
      </Button>
      {refused ? (
        <p role="alert" className="mt-2 font-semibold">
          {refused.text}
        </p>
      ) : null}
    </section>
  );
}

/** Same hookup, frequency and reason in one row. */
function Rows({ options }: { options: Schemas["OptionView"][] }) {
  const rows = new Map<string, { title: string; outputs: string[]; why: string }>();
  for (const o of options) {
    const title = `${o.place_text}, ${o.freq_text}`;
    const row = rows.get(`${title}|${o.rejected}`) ?? { title, outputs: [], why: o.rejected ?? "" };
    row.outputs.push(o.output_text);
    rows.set(`${title}|${o.rejected}`, row);
  }
  return (
    <ul className="grid gap-2">
      {[...rows.entries()].map(([key, r]) => (
        <li key={key} className="border-t border-edge pt-2">
          <strong>{r.title}</strong>{" "}
          <span className="text-sm text-quiet">
            {r.outputs.length > 2 ? `${r.outputs[0]} to ${r.outputs.at(-1)}` : r.outputs.join(", ")}
          </span>
          <br />
          {r.why}
        </li>
      ))}
    </ul>
  );
}
