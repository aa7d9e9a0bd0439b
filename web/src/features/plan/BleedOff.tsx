import type { Schemas } from "../../api/client";

const FILL: Record<Schemas["BleedOffView"]["outcome"], string> = {
  pass: "var(--deep)",
  care: "var(--care)",
  hold: "var(--hold)",
  need: "var(--need)",
  skip: "var(--need)",
};

/** What each neighbour takes of the signal: its greatest current against the line's own there. */
export function BleedOff({ takes }: { takes: Schemas["BleedOffView"][] }) {
  if (takes.length === 0) return null;
  return (
    <div className="mt-2 border-t border-edge pt-2">
      <p className="text-sm font-semibold text-quiet">Bleed-off, where it is most</p>
      <ul className="grid gap-1.5">
        {takes.map((b) => (
          <li key={b.name} data-bleed-off={b.name}>
            <strong>{b.name}</strong>: {b.text}
            <svg width="100%" height="8" aria-hidden className="block">
              <title>{b.text}</title>
              <rect width="100%" height="8" rx="2" fill="var(--edge)" opacity={0.5} />
              <rect width={`${100 * Math.min(b.share, 1)}%`} height="8" rx="2" fill={FILL[b.outcome]} />
            </svg>
          </li>
        ))}
      </ul>
    </div>
  );
}
