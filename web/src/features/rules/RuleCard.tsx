import { useState } from "react";
import { api, type Schemas, take, type Units } from "../../api/client";
import { useChange } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Fold } from "../../ui/Fold";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";

type Rule = Schemas["RuleView"];

/** One rule with its bounds; a crew may move them with a reason, and what lets more pass is said loudly. */
export function RuleCard({ rule: r, kitId, units }: { rule: Rule; kitId: number | null; units: Units }) {
  const [open, setOpen] = useState(false);
  return (
    <li
      className="border-b border-edge lg:[&_summary]:min-h-10 lg:[&_summary]:py-1.5"
      data-rule={r.id}
      data-edited={r.edited}
    >
      <Fold
        needs={Boolean(r.edited)}
        summary={
          <span className="inline-flex flex-wrap gap-x-3 align-top w-[calc(100%-2rem)] lg:gap-x-2">
            <span className="sm:w-72 lg:w-56">{r.title}</span>
            <span className="font-normal">{r.bounds}</span>
          </span>
        }
      >
        <p className="text-sm text-quiet first-letter:uppercase">{r.measures}</p>
        {r.edited ? (
          <p
            className={`my-2 rounded-md border-2 p-2 ${r.edited === "looser" ? "border-hold bg-hold-bg text-hold" : "border-edge"}`}
          >
            <strong>
              {r.edited === "looser" ? "Looser than Vessel's own" : "Stricter than Vessel's own"}
            </strong>{" "}
            ({r.own_bounds}). {r.reason} {r.by ? `${r.by}, ` : ""}
            {when(r.at)}
          </p>
        ) : null}
        <p>{r.why}</p>
        <p className="mt-1">
          <strong>Then:</strong> {r.next_step}
        </p>
        <p className="mt-1 text-sm text-quiet">If missing: {r.when_missing}.</p>
        {r.fixed ? (
          <p className="mt-1 text-sm text-quiet">These limits are the same for every crew.</p>
        ) : kitId === null ? null : open ? (
          <BoundForm rule={r} kitId={kitId} units={units} onDone={() => setOpen(false)} />
        ) : (
          <Button
            look="quiet"
            className="mt-1 text-sm"
            aria-label={`Change limits of “${r.title}”`}
            onClick={() => setOpen(true)}
          >
            Change limits
          </Button>
        )}
      </Fold>
    </li>
  );
}

function BoundForm(p: { rule: Rule; kitId: number; units: Units; onDone: () => void }) {
  const r = p.rule;
  const start = { care: r.care_typed, hold: r.hold_typed, reason: "", technician: r.by };
  const form = useEntryForm({ start, draft: `bounds-${p.kitId}-${r.id}` });
  const path = { kit_id: p.kitId, rule_id: r.id };
  const save = useChange("rules", (typed: typeof start) =>
    take(
      api.PUT("/api/kits/{kit_id}/bounds/{rule_id}", {
        params: { path },
        body: { ...typed, units: p.units },
      }),
    ),
  );
  const reset = useChange("rules", () =>
    take(api.DELETE("/api/kits/{kit_id}/bounds/{rule_id}", { params: { path, query: { units: p.units } } })),
  );
  const changes = useConsequences((typed: typeof start, signal) =>
    take(
      api.POST("/api/kits/{kit_id}/bounds/{rule_id}/consequences", {
        params: { path },
        body: { ...typed, units: p.units },
        signal,
      }),
    ),
  );
  const send = async (typed: typeof start) => {
    if (await changes.allowed(typed)) await save.mutateAsync(typed).then(changes.settle).then(close);
  };
  const close = () => {
    form.begin(start);
    p.onDone();
  };
  return (
    <EntryForm form={form} send={send} className="mt-2 border-t border-edge pt-2">
      <div className="grid grid-cols-2 gap-x-3">
        {r.care_typed ? (
          <TextEntry form={form} name="care" label={`Care ${r.sense}`} hint={r.unit_text} />
        ) : null}
        {r.hold_typed ? (
          <TextEntry form={form} name="hold" label={`Hold ${r.sense}`} hint={r.unit_text} />
        ) : null}
      </div>
      <TextEntry form={form} name="reason" label="Why" required />
      <TextEntry form={form} name="technician" label="Agreed by" />
      <FormError form={form} />
      {changes.shown}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" disabled={save.isPending || changes.checking}>
          Use these limits
        </Button>
        {r.edited ? (
          <Button
            disabled={reset.isPending}
            onClick={() => reset.mutateAsync(undefined).then(close, form.refuse)}
          >
            Back to Vessel's own
          </Button>
        ) : null}
        <Button look="quiet" onClick={close}>
          Cancel
        </Button>
      </div>
    </EntryForm>
  );
}
