import { useState } from "react";
import { api, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { FAULT_LOOK } from "../../pictures/FrameWalk";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { useEntryForm } from "../../ui/useEntryForm";
import { Findings } from "../trace/Findings";
import { VerdictHead } from "../trace/VerdictHead";

type Fault = Schemas["FaultFound"];

/** One fault: the verdict first, then what decided it, then what to do; every check is one tap away. */
export function FaultCard({ fault: f, walkId }: { fault: Fault; walkId: number }) {
  const [marking, setMarking] = useState(false);
  const found = f.said === "found";
  return (
    <section
      className="card scroll-mt-2 border-2 border-ink lg:p-3"
      aria-label={`Fault at ${f.at_text}`}
      data-said={f.said}
    >
      <VerdictHead
        at={f.at_text}
        verdict={FAULT_LOOK[f.said]}
        label={f.label}
        headline={f.headline}
        nextStep={f.next_step}
      />
      {f.mark_id !== null ? (
        <p className="mt-3 font-semibold">Marked. The mark keeps these readings and this verdict.</p>
      ) : marking ? (
        <MarkFault fault={f} walkId={walkId} onDone={() => setMarking(false)} />
      ) : (
        <Button look={found ? "main" : "stop"} className="mt-3" onClick={() => setMarking(true)}>
          {found ? "Mark it" : "Mark anyway"}
        </Button>
      )}
      <Findings findings={f.findings} />
    </section>
  );
}

function MarkFault(p: { fault: Fault; walkId: number; onDone: () => void }) {
  const found = p.fault.said === "found";
  const form = useEntryForm({ start: { reason: "" }, draft: `mark-fault-${p.walkId}` });
  const mark = useChange("mark", (reason: string) =>
    take(
      api.POST("/api/fault-walks/{walk_id}/marks", {
        params: { path: { walk_id: p.walkId } },
        body: { at_m: p.fault.at_m, reason },
      }),
    ),
  );
  const send = async ({ reason }: { reason: string }) => {
    await mark.mutateAsync(reason);
    form.begin({ reason: "" });
    p.onDone();
  };
  return (
    <EntryForm form={form} send={send} className="mt-3 rounded-md border-2 border-edge p-3">
      <p className="mb-2 text-xl font-bold">{p.fault.mark_label}</p>
      <TextEntry
        form={form}
        name="reason"
        label={found ? "Note with the mark (optional)" : "Reason for marking anyway"}
        required={!found}
        multiline
      />
      <FormError form={form} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look={found ? "main" : "stop"} disabled={mark.isPending}>
          {found ? `Mark at ${p.fault.at_text}` : "Mark as not proved"}
        </Button>
        <Button onClick={p.onDone}>Cancel</Button>
      </div>
    </EntryForm>
  );
}
