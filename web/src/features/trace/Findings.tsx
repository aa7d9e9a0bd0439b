import { Check, CircleHelp, Minus, OctagonX, TriangleAlert } from "lucide-react";
import type { Schemas } from "../../api/client";

const OUTCOME = {
  pass: { icon: Check, word: "passed", tone: "text-mark" },
  care: { icon: TriangleAlert, word: "care", tone: "text-care" },
  hold: { icon: OctagonX, word: "hold", tone: "text-hold" },
  need: { icon: CircleHelp, word: "missing", tone: "text-need" },
  skip: { icon: Minus, word: "not checked", tone: "text-quiet" },
} as const;

/** Every check of a station, of a sonde's stop or of a fault, one tap away; `by`: who took it, and a note. */
export function Findings({ findings, by }: { findings: Schemas["FindingView"][]; by?: string }) {
  const passed = findings.filter((f) => f.outcome === "pass").length;
  const skipped = findings.filter((f) => f.outcome === "skip").length;
  return (
    <details className="mt-1">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        All checks: {passed} of {findings.length - skipped} passed
      </summary>
      {skipped ? <p className="mb-1 text-sm text-quiet">{skipped} had nothing to check here.</p> : null}
      <ul className="grid gap-2">
        {findings.map((f) => {
          const o = OUTCOME[f.outcome];
          const Icon = o.icon;
          return (
            <li
              key={f.rule_id}
              data-outcome={f.outcome}
              className="grid grid-cols-[7.5rem_1fr] gap-2 border-t border-edge pt-2"
            >
              <span className={`flex items-start gap-1.5 font-bold ${o.tone}`}>
                <Icon aria-hidden className="mt-0.5 size-5 shrink-0" /> {o.word}
              </span>
              <span>
                {f.sentence} <span className="text-quiet">{f.outcome === "pass" ? "" : f.why}</span>
              </span>
            </li>
          );
        })}
      </ul>
      {by ? <p className="mt-2 text-sm text-quiet">{by}</p> : null}
    </details>
  );
}
