import { ArrowRight } from "lucide-react";
import type { Verdict } from "../../api/client";
import { VerdictBadge } from "../../pictures/Verdict";

/** The head of a card: where, the verdict, the sentence that decided it, and what to do next. */
export function VerdictHead(p: {
  at: string;
  verdict: Verdict;
  /** What the verdict is called, where not by its own word. */
  label?: string;
  headline: string;
  nextStep: string;
}) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <p className="text-2xl font-bold">{p.at}</p>
        <VerdictBadge verdict={p.verdict} label={p.label} large />
      </div>
      <p className="mt-2 text-lg leading-snug">{p.headline}</p>
      <p className="mt-1 flex gap-2 text-lg leading-snug font-bold">
        <ArrowRight aria-hidden className="mt-0.5 size-5 shrink-0" />
        {p.nextStep}
      </p>
    </>
  );
}
