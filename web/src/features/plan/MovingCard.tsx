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
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-0 grow basis-64">
          <p className="text-sm font-semibold text-quiet">Reaches further</p>
          <p className="text-xl leading-tight font-bold">{p.moving.title}</p>
        </div>
        <Button disabled={p.busy} onClick={p.onUse} className="w-full sm:w-auto">
          Use moving induction
        </Button>
      </div>
      <p className="mt-2">{p.moving.text}</p>
    </section>
  );
}
