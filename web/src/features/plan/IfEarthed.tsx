import type { Schemas } from "../../api/client";
import { Button } from "../../ui/Button";

/** What having the far end earthed is worth, and the setup to use then. */
export function IfEarthed(p: {
  ifEarthed: NonNullable<Schemas["PlanView"]["if_earthed"]>;
  onLook: (() => void) | null;
}) {
  return (
    <section
      className="mt-3 rounded-md border-2 border-dashed border-deep bg-sheet p-3"
      aria-label="If the far end is earthed"
    >
      <h2 className="text-base font-bold">If the far end is earthed</h2>
      <p>{p.ifEarthed.text}</p>
      {p.onLook ? (
        <Button className="mt-2" onClick={p.onLook}>
          Look at that setup
        </Button>
      ) : null}
    </section>
  );
}
