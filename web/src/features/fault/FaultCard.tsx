import { ArrowRight } from "lucide-react";
import { useState } from "react";
import { api, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { FAULT_LOOK } from "../../pictures/FrameWalk";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { useEntryForm } from "../../ui/useEntryForm";
import { Findings } from "../trace/Findings";

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
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <p className="text-2xl font-bold">{f.at_text}</p>
        <VerdictBadge verdict={FAULT_LOOK[f.said]} label={f.label} large />
      </div>
      <p className="mt-2 text-lg leading-snug">{f.headline}</p>
      <p className="mt-1 flex gap-2 text-lg leading-snug font-bold">
        <ArrowRight aria-hidden className="mt-0.5 size-5 shrink-0" />
        {f.next_step}
      </p>
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
