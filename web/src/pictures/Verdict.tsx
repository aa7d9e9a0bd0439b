import { Check, CircleHelp, OctagonX, TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import type { Verdict } from "../api/client";

export const VERDICTS: Record<
  Verdict,
  { label: string; icon: typeof Check; tone: string; pattern: string; token: string }
> = {
  mark: {
    label: "Mark",
    icon: Check,
    tone: "bg-mark-bg text-mark border-mark",
    pattern: "solid",
    token: "mark",
  },
  mark_with_care: {
    label: "Mark with care",
    icon: TriangleAlert,
    tone: "bg-care-bg text-care border-care",
    pattern: "stripe",
    token: "care",
  },
  hold: {
    label: "Hold",
    icon: OctagonX,
    tone: "bg-hold-bg text-hold border-hold",
    pattern: "cross",
    token: "hold",
  },
  need_more: {
    label: "Need more",
    icon: CircleHelp,
    tone: "bg-need-bg text-need border-need",
    pattern: "dots",
    token: "need",
  },
};

const BACK: Record<string, string> = {
  solid: "none",
  stripe:
    "repeating-linear-gradient(135deg, color-mix(in srgb, currentColor 16%, transparent) 0 3px, transparent 3px 10px)",
  cross:
    "repeating-linear-gradient(45deg, color-mix(in srgb, currentColor 14%, transparent) 0 2px, transparent 2px 9px), repeating-linear-gradient(135deg, color-mix(in srgb, currentColor 14%, transparent) 0 2px, transparent 2px 9px)",
  dots: "radial-gradient(color-mix(in srgb, currentColor 22%, transparent) 1.5px, transparent 1.6px)",
};

/** Word, icon, colour and pattern together; the pattern sits in the strip, never behind the word. */
export function VerdictBadge({
  verdict,
  large = false,
  label,
}: {
  verdict: Verdict;
  large?: boolean;
  /** What it is called instead, such as the verdict on a fault. */
  label?: string;
}) {
  const v = VERDICTS[verdict];
  const Icon = v.icon;
  return (
    <span
      data-verdict={verdict}
      className={`inline-flex items-stretch overflow-hidden rounded-md border font-bold whitespace-nowrap ${v.tone} ${large ? "text-xl" : "text-sm"}`}
    >
      <span
        aria-hidden
        className={large ? "w-5" : "w-3"}
        style={{
          backgroundImage: BACK[v.pattern],
          backgroundSize: v.pattern === "dots" ? "7px 7px" : undefined,
        }}
      />
      <span className={`inline-flex items-center gap-1.5 ${large ? "px-3 py-2" : "px-2 py-0.5"}`}>
        <Icon aria-hidden className={large ? "size-6" : "size-4"} strokeWidth={2.5} />
        {label ?? v.label}
      </span>
    </span>
  );
}

/** A verdict that fills what room there is: read at arm's length in rain and glare, its pattern along the edge. */
export function VerdictPanel(p: { verdict: Verdict; at: string; children: ReactNode }) {
  const v = VERDICTS[p.verdict];
  const Icon = v.icon;
  return (
    <section
      role="status"
      data-verdict={p.verdict}
      aria-label={`Station at ${p.at}`}
      className={`flex min-h-60 grow items-stretch border-y-4 ${v.tone}`}
    >
      <span
        aria-hidden
        className="w-10 shrink-0"
        style={{
          backgroundImage: BACK[v.pattern],
          backgroundSize: v.pattern === "dots" ? "9px 9px" : undefined,
        }}
      />
      <div className="grid min-w-0 grow content-center gap-2 p-3">
        <p className="text-2xl font-bold">{p.at}</p>
        <p className="flex items-center gap-3 text-5xl leading-none font-bold">
          <Icon aria-hidden className="size-14 shrink-0" strokeWidth={2.5} /> {v.label}
        </p>
        {p.children}
      </div>
    </section>
  );
}
