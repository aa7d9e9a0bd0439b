import { useNavigate, useParams } from "react-router";
import { api, asRefusal, type Job, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";

type Changed = Schemas["AgainForm"]["changed"];

/** Starts the line's trace again on ground that was changed for it, and goes to its hookup. */
function useAgain(setupId: number, job: Job) {
  const go = useNavigate();
  const toast = useToast();
  const again = useChange("setup", (body: Schemas["AgainForm"]) =>
    take(api.POST("/api/setups/{setup_id}/again", { params: { path: { setup_id: setupId } }, body })),
  );
  const { lineId } = useParams();
  const begin = async (changed: Changed, consent: string) => {
    const { id } = await again.mutateAsync({ changed, consent, technician: "" });
    toast(
      id === setupId
        ? "Go through the safe order again."
        : "A new hookup. What was read before stays on record.",
    );
    go(`/jobs/${job.id}/lines/${lineId}/hookup`);
  };
  return { begin, busy: again.isPending };
}

type KeptOff = { changed: Changed; label: string };

const KEPT_OFF: Record<"here" | "far", [KeptOff, ...KeptOff[]]> = {
  here: [
    { changed: "both_bonds", label: "Trace again, off at both ends" },
    { changed: "bond", label: "Trace again, off here only" },
  ],
  far: [{ changed: "far_bond", label: "Trace again, bond open" }],
};

/** Who agreed that bonds stay open, and the trace begun again with them open at one end or at both. */
export function BondKeptOpen(p: {
  setupId: number;
  job: Job;
  end: "here" | "far";
  busy: boolean;
  onNo: () => void;
  no: string;
}) {
  const start = { consent: "", changed: KEPT_OFF[p.end][0].changed };
  const form = useEntryForm({ start, draft: `kept-open-${p.end}-${p.setupId}` });
  const { begin, busy } = useAgain(p.setupId, p.job);
  return (
    <EntryForm
      form={form}
      send={({ consent, changed }) => begin(changed, consent)}
      className="mt-2 grid gap-2"
    >
      <TextEntry form={form} name="consent" label="Who agreed" hint="For the owner, by name" />
      <FormError form={form} />
      <div className="flex flex-wrap gap-2">
        {KEPT_OFF[p.end].map(({ changed, label }, k) => (
          <Button
            key={changed}
            type="submit"
            look={k === 0 ? "main" : undefined}
            disabled={busy}
            onClick={() => form.put({ changed })}
          >
            {label}
          </Button>
        ))}
        <Button disabled={p.busy || busy} onClick={p.onNo}>
          {p.no}
        </Button>
      </div>
    </EntryForm>
  );
}

/** The current comes home through other metal: the trace begun again with the stake where it is now. */
export function StakeMoved(p: { setupId: number; job: Job; why: string }) {
  const toast = useToast();
  const { begin, busy } = useAgain(p.setupId, p.job);
  return (
    <div className="mt-3 grid justify-items-start gap-2 rounded-md border-2 border-ink p-3">
      <p className="text-lg font-bold">{p.why}</p>
      <Button
        look="main"
        disabled={busy}
        onClick={() => begin("stake", "").catch((e) => toast(asRefusal(e).text))}
      >
        Trace again
      </Button>
    </div>
  );
}
