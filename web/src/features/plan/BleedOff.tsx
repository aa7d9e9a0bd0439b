import type { Schemas } from "../../api/client";

const FILL: Record<Schemas["BleedOffView"]["outcome"], string> = {
  pass: "var(--deep)",
  care: "var(--care)",
  hold: "var(--hold)",
  need: "var(--need)",
  skip: "var(--need)",
};

const FEW = 2;
const QUIET = 0.01;

/** What each neighbour takes of the signal: its greatest current against the line's own there. */
export function BleedOff({ takes }: { takes: Schemas["BleedOffView"][] }) {
  if (takes.length === 0) return null;
  const loudest = [...takes].sort((a, b) => b.share - a.share);
  const shown = loudest.filter((b, i) => i < FEW || b.share >= QUIET);
  const rest = loudest.length - shown.length;
  return (
    <div className="mt-1">
      <p className="text-sm font-semibold text-quiet">Bleed-off, where it is most</p>
      <ul className="grid gap-1 text-sm">
        {shown.map((b) => (
          <li key={b.name} data-bleed-off={b.name}>
            <strong>{b.name}</strong>: {b.text}
            <svg width="100%" height="6" aria-hidden className="block">
              <title>{b.text}</title>
              <rect width="100%" height="6" rx="2" fill="var(--edge)" opacity={0.5} />
              <rect width={`${100 * Math.min(b.share, 1)}%`} height="6" rx="2" fill={FILL[b.outcome]} />
            </svg>
          </li>
        ))}
      </ul>
      {rest ? (
        <p className="mt-1 text-sm text-quiet">
          {rest} {rest === 1 ? "other takes" : "others take"} under 1 %.
        </p>
      ) : null}
    </div>
  );
}
