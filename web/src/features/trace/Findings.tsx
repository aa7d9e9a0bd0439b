import { Check, CircleHelp, Minus, OctagonX, TriangleAlert } from "lucide-react";
import type { Schemas } from "../../api/client";

const OUTCOME = {
  pass: { icon: Check, word: "passed", tone: "text-mark" },
  care: { icon: TriangleAlert, word: "care", tone: "text-care" },
  hold: { icon: OctagonX, word: "hold", tone: "text-hold" },
  need: { icon: CircleHelp, word: "missing", tone: "text-need" },
  skip: { icon: Minus, word: "not checked", tone: "text-quiet" },
} as const;

/** Every check of a station or of a sonde's stop, one tap away. */
export function Findings({
  station: s,
}: {
  station: { findings: Schemas["FindingView"][]; technician: string; note: string };
}) {
  const passed = s.findings.filter((f) => f.outcome === "pass").length;
  const skipped = s.findings.filter((f) => f.outcome === "skip").length;
  return (
    <details className="mt-1">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        All checks: {passed} of {s.findings.length - skipped} passed
      </summary>
      {skipped ? <p className="mb-1 text-sm text-quiet">{skipped} had nothing to check here.</p> : null}
      <ul className="grid gap-2">
        {s.findings.map((f) => {
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
      <p className="mt-2 text-sm text-quiet">
        {s.technician}. {s.note}
      </p>
    </details>
  );
}
