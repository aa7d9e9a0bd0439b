import { useEffect, useState } from "react";
import { useFormState, useWatch } from "react-hook-form";
import { api, asRefusal, type Job, Refusal, type Schemas, take } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import type { Drafting } from "../../pictures/siteplan/DraftHandles";
import { Button } from "../../ui/Button";
import { EntryForm, FormError } from "../../ui/EntryForm";
import { Meanwhile } from "../../ui/Meanwhile";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";
import { type PanelProps, type Target, tapping } from "./drawing";
import { Bonds, Ground } from "./GroundThings";
import { ImportTracks } from "./ImportTracks";
import { AccessPoints, Structures } from "./PlanThings";
import { draftOf, formOf, type PlanDraft, routed, routeField } from "./planDraft";
import { RouteField, useRoute } from "./RouteField";
import { useSaveSite } from "./save";
import { useDrawn } from "./useDrawn";

export function DrawPanel(p: {
  job: Job;
  site: Schemas["SiteView"];
  onDrawing: (d: Drafting | null) => void;
}) {
  const { job, site } = p;
  const ids = job.lines.map((l) => l.id);
  const start = draftOf(site.typed, ids, site.seen);
  const form = useEntryForm<PlanDraft>({
    start,
    draft: `site-${job.id}`,
    // lines may have come since it was kept
    upgrade: (kept) => ({ ...kept, routes: { ...start.routes, ...(kept.routes as PlanDraft["routes"]) } }),
  });
  const draft = useWatch({ control: form.control }) as PlanDraft;
  const { errors } = useFormState({ control: form.control });
  const [target, setTarget] = useState<Target | null>(null);
  const catalogue = useCatalogue();
  const save = useSaveSite(job.id);
  const toast = useToast();
  const at = target?.path(draft);
  const text = at ? String(form.getValues(at) ?? "") : "";
  const found = useRoute(job.id, text);

  const { onDrawing } = p;
  const drawn = useDrawn({ form, target, text, found, units: job.units, onDone: () => setTarget(null) });
  useEffect(() => onDrawing(drawn), [drawn, onDrawing]);
  useEffect(() => () => onDrawing(null), [onDrawing]);

  const changes = useConsequences((body: Schemas["SiteForm"], signal) =>
    take(
      api.POST("/api/jobs/{job_id}/site/consequences", {
        params: { path: { job_id: job.id } },
        body,
        signal,
      }),
    ),
  );
  const send = async (typed: PlanDraft) => {
    const before = site.typed;
    const named = (e: unknown) => {
      const { field, message, fix, code } = asRefusal(e);
      throw new Refusal(routeField(field, routed(typed, ids)), message, fix, code);
    };
    if (!(await changes.allowed(formOf(typed, ids)).catch(named))) return;
    const saved = await save.mutateAsync(formOf(typed, ids)).catch(named);
    await changes.settle();
    setTarget(null);
    form.begin(draftOf(saved.typed, ids, saved.seen));
    toast("The plan is saved.", () => {
      save
        .mutateAsync({ ...before, seen: saved.seen })
        .then((back) => form.begin(draftOf(back.typed, ids, back.seen)));
    });
  };
  const fresh = () =>
    (
      take(api.GET("/api/jobs/{job_id}/site", { params: { path: { job_id: job.id } } })) as Promise<
        Schemas["SiteView"]
      >
    ).then((now) => draftOf(now.typed, ids, now.seen));
  const apart = (of: PlanDraft) => JSON.stringify({ ...formOf(of, ids), seen: null });
  const changed = apart(draft) !== apart(draftOf(site.typed, ids, site.seen));
  if (!catalogue.data) return null;
  const panel: PanelProps = { job, form, target, setTarget, catalogue: catalogue.data, site };
  return (
    <EntryForm form={form} send={send} className="grid content-start gap-3">
      <section className="card" aria-label="Lines">
        <h2>Lines</h2>
        <p className="mb-2 text-sm text-quiet">
          Tap each line on the plan, or type it: legs, “38 m at 60, then 20 m at 150”, or corners, “0 E, 0 N;
          38 E, 12 N”, {job.units === "metric" ? "metres" : "feet"} east and north of any point you choose.
        </p>
        {job.lines.length ? null : <p>No lines yet. Add them on the job's page.</p>}
        <ul className="grid gap-3">
          {job.lines.map((l) => {
            const target: Target = {
              id: `route-${l.id}`,
              name: l.name,
              one: false,
              closed: false,
              path: () => `routes.${l.id}`,
            };
            return (
              <li key={l.id} data-route={l.name}>
                <RouteField
                  jobId={job.id}
                  form={form}
                  name={`routes.${l.id}`}
                  label={l.name}
                  hint={`Entered as ${l.length_text}, not drawn.`}
                  {...tapping(panel, target)}
                />
              </li>
            );
          })}
        </ul>
        <ImportTracks {...panel} />
      </section>
      <AccessPoints {...panel} />
      <Structures {...panel} />
      <Ground {...panel} />
      <Bonds {...panel} />
      <div className="sticky bottom-0 z-10 -mx-1 grid gap-2 border-t border-edge bg-paper p-2">
        <FormError form={form} />
        <Meanwhile form={form} fresh={fresh} send={send} />
        {changes.shown}
        {Object.keys(errors).length ? (
          <p className="font-semibold text-hold">Nothing was saved, and nothing you typed is lost.</p>
        ) : null}
        <div className="flex gap-2">
          <Button
            type="submit"
            look="main"
            className="grow"
            disabled={save.isPending || changes.checking || !changed}
          >
            {changed ? "Save the plan" : "Saved"}
          </Button>
          <Button disabled={!changed} onClick={() => form.begin(draftOf(site.typed, ids, site.seen))}>
            Undo changes
          </Button>
        </div>
      </div>
    </EntryForm>
  );
}
