import type { Schemas } from "../../api/client";
import { Button } from "../../ui/Button";

/** Two people carry the transmitter along: shown where that proves more than any setup that stands still. */
export function MovingCard(p: {
  moving: NonNullable<Schemas["PlanView"]["moving"]>;
  busy: boolean;
  onUse: () => void;
}) {
  return (
    <section className="card border-2 border-ink" aria-label="Moving induction">
      <p className="text-sm font-semibold text-quiet">Reaches further</p>
      <p className="text-xl leading-tight font-bold">{p.moving.title}</p>
      <p className="mt-2 leading-snug">{p.moving.text}</p>
      <Button disabled={p.busy} onClick={p.onUse} className="mt-3 w-full">
        Use moving induction
      </Button>
    </section>
  );
}
