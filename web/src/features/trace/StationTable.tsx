import { VerdictBadge } from "../../ui/Verdict";
import type { Trace } from "./TracePage";

export function StationTable(p: { trace: Trace; chosen: number | null; onChoose: (id: number) => void }) {
  if (!p.trace.stations.length)
    return (
      <p className="mt-2">No station yet. The first one is best three to five depths away from the hookup.</p>
    );
  return (
    <div className="mt-3 overflow-x-auto">
      <table className="w-full">
        <caption className="sr-only">Stations</caption>
        <thead>
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
          {p.trace.stations.map((s) => (
            <tr
              key={s.id}
              data-verdict={s.verdict}
              className={`border-b border-edge ${p.chosen === s.id ? "bg-soil font-semibold" : ""}`}
            >
              <td className="pr-2">
                <button
                  type="button"
                  className="min-h-11 whitespace-nowrap font-bold underline underline-offset-4"
                  aria-label={`Show station at ${s.distance_text}`}
                  onClick={() => p.onChoose(s.id)}
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
          ))}
        </tbody>
      </table>
    </div>
  );
}
