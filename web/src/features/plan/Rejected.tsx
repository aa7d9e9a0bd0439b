import type { Schemas } from "../../api/client";
import { usePlanRest } from "../../api/queries";
import { Wait } from "../../ui/Wait";

/** Rejected setups and why, fetched when they are asked for. */
export function Rejected({ lineId }: { lineId: number }) {
  const rest = usePlanRest(lineId, true);
  return (
    <section aria-label="Rejected setups and why">
      <Wait query={rest} doing="Reading the rejected setups">
        {(data) => (
          <>
            {data.pair_text ? <p className="mb-2 border-l-4 border-hold pl-2">{data.pair_text}</p> : null}
            <Rows options={data.rejected} />
          </>
        )}
      </Wait>
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
