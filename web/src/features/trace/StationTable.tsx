import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useRef } from "react";
import type { Trace } from "../../api/client";
import { VerdictBadge } from "../../pictures/Verdict";

/** From so many on the table scrolls by itself and draws only what is seen. */
const MANY = 60;
const ROW_PX = 45;

export function StationTable(p: { trace: Trace; chosen: number | null; onChoose: (id: number) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const { stations } = p.trace;
  const many = stations.length > MANY;
  const rows = useVirtualizer({
    count: many ? stations.length : 0,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const at = stations.findIndex((s) => s.id === p.chosen);
  useEffect(() => {
    if (many && at >= 0) rows.scrollToIndex(at, { align: "auto" });
  }, [many, at]);
  if (!stations.length)
    return (
      <p className="mt-2">No station yet. The first one is best three to five depths away from the hookup.</p>
    );
  const seen = rows.getVirtualItems();
  const shown = many ? seen.map((v) => stations[v.index]) : stations;
  const above = seen[0]?.start ?? 0;
  const below = many ? rows.getTotalSize() - (seen.at(-1)?.end ?? 0) : 0;
  return (
    <section
      ref={box}
      className={`mt-3 overflow-auto ${many ? "h-[60dvh]" : ""}`}
      tabIndex={many ? 0 : undefined}
      aria-label={many ? `${stations.length} stations` : "Stations"}
    >
      <table className="w-full" aria-rowcount={stations.length + 1}>
        <caption className="sr-only">Stations</caption>
        <thead className={many ? "sticky top-0 bg-sheet" : ""}>
          <tr className="border-b-2 border-edge text-left text-sm">
            <th className="py-1 pr-2">At</th>
            <th className="py-1 pr-2">Verdict</th>
            <th className="py-1 pr-2">Current</th>
            <th className="py-1 pr-2">Depth</th>
            <th className="hidden py-1 pr-2 sm:table-cell">Peak–null</th>
            <th className="hidden py-1 pr-2 sm:table-cell">Neighbour</th>
            <th className="hidden py-1 sm:table-cell">Mark</th>
          </tr>
        </thead>
        <tbody>
          {above > 0 ? <tr aria-hidden style={{ height: above }} /> : null}
          {shown.map((s) =>
            s ? <Row key={s.id} station={s} chosen={p.chosen === s.id} onChoose={p.onChoose} /> : null,
          )}
          {below > 0 ? <tr aria-hidden style={{ height: below }} /> : null}
        </tbody>
      </table>
    </section>
  );
}

function Row({
  station: s,
  chosen,
  onChoose,
}: {
  station: Trace["stations"][number];
  chosen: boolean;
  onChoose: (id: number) => void;
}) {
  return (
    <tr data-verdict={s.verdict} className={`border-b border-edge ${chosen ? "bg-soil font-semibold" : ""}`}>
      <td className="pr-2">
        <button
          type="button"
          className="min-h-11 whitespace-nowrap font-bold underline underline-offset-4"
          aria-label={`Show station at ${s.distance_text}`}
          onClick={() => onChoose(s.id)}
        >
          {s.distance_text}
        </button>
      </td>
      <td className="pr-2">
        <VerdictBadge verdict={s.verdict} />
      </td>
      <td className="pr-2 whitespace-nowrap">{s.current_text}</td>
      <td className="pr-2 whitespace-nowrap">{s.depth_text}</td>
      <td className="hidden pr-2 sm:table-cell">{s.peak_null_text}</td>
      <td className="hidden pr-2 sm:table-cell">{s.neighbour_text}</td>
      <td className="hidden sm:table-cell">{s.mark_id === null ? "" : "marked"}</td>
    </tr>
  );
}
