import { useEffect, useMemo, useState } from "react";
import { asRefusal, type Job, type Refusal, type Schemas } from "../../api/client";
import { useCatalogue } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { FormError } from "../../ui/Field";
import { useToast } from "../../ui/Toasts";

import { type Corner, type Drawing, type PanelProps, type Target, tapping } from "./drawing";
import { Bonds, Ground } from "./GroundThings";
import { ImportTracks } from "./ImportTracks";
import { AccessPoints, Structures } from "./PlanThings";
import { draftOf, formOf, type PlanDraft, routed } from "./planDraft";
import { RouteField, useRoute } from "./RouteField";
import { useSaveSite } from "./save";

const FOOT = 0.3048;

export function DrawPanel(p: {
  job: Job;
  site: Schemas["SiteView"];
  onDrawing: (d: Drawing | null) => void;
}) {
  const { job, site } = p;
  const [draft, change, clear] = useDraft<PlanDraft>(
    `site-${job.id}`,
    useMemo(() => draftOf(site.typed), [site.typed]),
  );
  const [error, setError] = useState<Refusal | null>(null);
  const [target, setTarget] = useState<Target | null>(null);
  const catalogue = useCatalogue();
  const save = useSaveSite(job.id);
  const toast = useToast();
  const ids = job.lines.map((l) => l.id);
  const text = target?.get(draft) ?? "";
  const found = useRoute(job.id, text);

  const perMetre = job.units === "metric" ? 1 : FOOT;
  const { onDrawing } = p;
  useEffect(() => {
    if (!target) {
      onDrawing(null);
      return;
    }
    const onTap = ([east, north]: Corner) => {
      const corner = `${Number((east / perMetre).toFixed(2))}, ${Number((north / perMetre).toFixed(2))}`;
      change(
        target.put(
          draft,
          target.one || !text.trim() ? corner : `${text.trim().replace(/;$/, "")}; ${corner}`,
        ),
      );
    };
    onDrawing({ corners: found?.ok ? found.corners : [], closed: target.closed, onTap });
  }, [target, text, found]);
  useEffect(() => () => onDrawing(null), [onDrawing]);

  const onSave = () => {
    const before = site.typed;
    setError(null);
    save
      .mutateAsync(formOf(draft, ids))
      .then((saved) => {
        setTarget(null);
        clear(draftOf(saved.typed));
        toast("The plan is saved.", () => {
          save.mutateAsync(before).then((back) => clear(draftOf(back.typed)));
        });
      })
      .catch((e) => setError(asRefusal(e)));
  };
  const order = routed(draft, ids);
  const changed = JSON.stringify(formOf(draft, ids)) !== JSON.stringify(formOf(draftOf(site.typed), ids));
  if (!catalogue.data) return null;
  const panel: PanelProps = { job, draft, change, error, target, setTarget, catalogue: catalogue.data, site };
  return (
    <form
      className="grid content-start gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        onSave();
      }}
    >
      <section className="card" aria-label="Lines">
        <h2>Lines</h2>
        <p className="mb-2 text-sm text-quiet">
          Type legs, “38 m at 60, then 20 m at 150”, or corners, “0, 0; 38, 12”:{" "}
          {job.units === "metric" ? "metres" : "feet"} east and north of any point you choose. Or tap them.
        </p>
        {job.lines.length ? null : <p>The job has no line yet: add them on the job's page.</p>}
        <ul className="grid gap-3">
          {job.lines.map((l) => {
            const k = order.indexOf(l.id);
            const name = k >= 0 ? `routes.${k}.route` : `route-of-${l.id}`;
            const target: Target = {
              id: `route-${l.id}`,
              one: false,
              closed: false,
              get: (d) => d.routes[String(l.id)] ?? "",
              put: (d, route) => ({ routes: { ...d.routes, [l.id]: route } }),
            };
            return (
              <li key={l.id} data-route={l.name}>
                <RouteField
                  jobId={job.id}
                  name={name}
                  label={l.name}
                  value={draft.routes[String(l.id)] ?? ""}
                  onChange={(route) => change(target.put(draft, route))}
                  error={error}
                  hint={`Told as ${l.length_text}, not drawn.`}
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
        <FormError error={error} fields={fieldsOf(draft, order.length)} />
        {error ? (
          <p className="font-semibold text-hold">Nothing was saved, and nothing you typed is lost.</p>
        ) : null}
        <div className="flex gap-2">
          <Button type="submit" look="main" className="grow" disabled={save.isPending || !changed}>
            {changed ? "Save the plan" : "Saved"}
          </Button>
          <Button disabled={!changed} onClick={() => clear(draftOf(site.typed))}>
            Undo changes
          </Button>
        </div>
      </div>
    </form>
  );
}

/** Fields that show their own refusal. */
function fieldsOf(d: PlanDraft, routes: number): string[] {
  return [
    ...Array.from({ length: routes }, (_, k) => `routes.${k}`),
    ...d.access.map((_, k) => `access.${k}`),
    ...d.structures.map((_, k) => `structures.${k}`),
    ...d.hard.map((_, k) => `hard.${k}`),
    ...d.bonds.map((_, k) => `bonds.${k}`),
    "dig",
  ];
}
