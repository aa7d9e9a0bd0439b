import { Footprints, TriangleAlert } from "lucide-react";
import { ToggleGroup } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, asRefusal, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";

import { useSaveSite } from "./save";

type Work = Schemas["WorkView"];
type Visit = Schemas["VisitView"];

export function WorkPanel(p: {
  job: Job;
  site: Schemas["SiteView"];
  work: Work;
  chosen: number | null;
  onChoose: (n: number | null) => void;
}) {
  return (
    <div className="grid content-start gap-3">
      <section className="card" aria-label="Result">
        <p className="text-lg font-semibold">{p.work.total_text}</p>
        <School {...p} />
        {p.site.notices.length ? (
          <details className="mt-2">
            <summary className="min-h-11 cursor-pointer py-2 font-semibold">
              Assumptions ({p.site.notices.length})
            </summary>
            <ul className="list-disc pl-5">
              {p.site.notices.map((n) => (
                <li key={n}>{n}</li>
              ))}
            </ul>
          </details>
        ) : null}
      </section>
      <section aria-label="Order of work">
        <ol className="grid gap-2">
          {p.work.visits.map((v) => (
            <Step
              key={v.number}
              job={p.job}
              visit={v}
              open={p.chosen === v.number}
              onToggle={() => p.onChoose(p.chosen === v.number ? null : v.number)}
            />
          ))}
        </ol>
        {p.work.visits.length ? null : (
          <p className="card font-semibold">No setup proves anything on any line of this job.</p>
        )}
      </section>
      <Lines {...p} />
    </div>
  );
}

function School({ job, site, work }: { job: Job; site: Schemas["SiteView"]; work: Work }) {
  const save = useSaveSite(job.id);
  const chosen = site.schools.find((s) => s.id === work.school);
  return (
    <fieldset className="mt-3" disabled={save.isPending}>
      <legend className="text-sm font-semibold">Frequency approach</legend>
      <ToggleGroup.Root
        type="single"
        aria-label="Frequency approach"
        value={work.school}
        onValueChange={(school) =>
          school && save.mutate({ ...site.typed, school: school as Schemas["SiteForm"]["school"] })
        }
        className="mt-1 grid grid-cols-3 gap-1"
      >
        {site.schools.map((s) => (
          <ToggleGroup.Item key={s.id} value={s.id} asChild>
            <Button
              look={s.id === work.school ? "main" : "plain"}
              className="px-2 text-sm leading-tight"
              disabled={save.isPending}
            >
              {s.label}
            </Button>
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <p className="mt-1 text-sm text-quiet">{chosen?.note}</p>
    </fieldset>
  );
}

function Step(p: { job: Job; visit: Visit; open: boolean; onToggle: () => void }) {
  const v = p.visit;
  const ref = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (p.open) ref.current?.scrollIntoView({ block: "nearest", behavior: "smooth" });
  }, [p.open]);
  return (
    <li
      ref={ref}
      data-visit={v.number}
      className={`rounded-lg border-2 bg-sheet ${p.open ? "border-ink" : "border-edge"}`}
    >
      <button
        type="button"
        aria-expanded={p.open}
        onClick={p.onToggle}
        className="flex w-full items-start gap-3 p-3 text-left"
      >
        <span className="flex size-8 shrink-0 items-center justify-center rounded-full bg-ink font-bold text-sheet">
          {v.number}
        </span>
        <span className="min-w-0 grow">
          <span className="flex flex-wrap items-baseline justify-between gap-x-3">
            <strong className="text-lg leading-tight">{v.line_name}</strong>
            {v.walk_text ? (
              <span className="inline-flex items-center gap-1 text-sm text-quiet">
                <Footprints aria-hidden className="size-4" /> {v.walk_text}
              </span>
            ) : null}
          </span>
          <span className="block leading-snug">{v.place_text}</span>
          <span className="block leading-snug font-semibold">{v.setup_text}</span>
          <span className="block text-sm leading-snug">Covers {v.proves_text}</span>
        </span>
      </button>
      {p.open ? <Details job={p.job} visit={v} /> : null}
    </li>
  );
}

function Details({ job, visit: v }: { job: Job; visit: Visit }) {
  const [refused, setRefused] = useState<Refusal | null>(null);
  const go = useNavigate();
  const use = useChange("setup", () =>
    take(
      api.POST("/api/lines/{line_id}/setups", {
        params: { path: { line_id: v.line_id } },
        body: {
          hookup: v.hookup,
          freq: `${v.freq_hz}Hz`,
          output: `${v.output_a}A`,
          position: `${v.position_m}m`,
          stake_at: v.stake_at ? `${v.stake_at[0]}m, ${v.stake_at[1]}m` : "",
          technician: job.technician,
        },
      }),
    ),
  );
  const onUse = () =>
    use
      .mutateAsync(undefined)
      .then(() => go(`/jobs/${job.id}/lines/${v.line_id}/hookup`))
      .catch((e) => setRefused(asRefusal(e)));
  return (
    <div className="border-t border-edge p-3">
      <p>{v.reason}</p>
      <p className="mt-1">
        Transmitter: <strong>{v.transmitter_text}</strong>
      </p>
      <ul className="mt-2 grid gap-1">
        {[...v.rule_out, ...v.cautions].map((c) => (
          <li key={c} className="flex gap-2">
            <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0 text-care" />
            {c}
          </li>
        ))}
      </ul>
      {refused ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {refused.text}
        </p>
      ) : null}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button look="main" disabled={use.isPending} onClick={onUse} className="grow">
          Hook up this way
        </Button>
        <Link
          to={`/jobs/${job.id}/lines/${v.line_id}/plan`}
          className="inline-flex min-h-11 items-center rounded-md border border-quiet px-4 font-semibold"
        >
          See why and try changes
        </Link>
      </div>
    </div>
  );
}

function Lines({ job, work }: { job: Job; work: Work }) {
  return (
    <section className="card" aria-label="Each line">
      <h2 className="mb-2">Each line</h2>
      <ul className="grid gap-3">
        {work.lines.map((l) => (
          <li key={l.line_id} className="border-t border-edge pt-2 first:border-0 first:pt-0">
            <Link
              to={`/jobs/${job.id}/lines/${l.line_id}/plan`}
              className="flex min-h-11 flex-wrap items-center justify-between gap-x-3 sm:min-h-0"
            >
              <strong className="underline underline-offset-2">{l.name}</strong>
              <span>
                {l.proved_text}
                {l.none_proves_it ? <strong className="ml-2 text-hold">No setup proves it</strong> : null}
              </span>
            </Link>
            {l.remaining ? <p className="mt-1 text-sm font-semibold text-hold">{l.remaining}</p> : null}
            {l.schools.length ? (
              <details>
                <summary className="flex min-h-11 cursor-pointer items-center text-sm sm:min-h-8">
                  Compare approaches
                </summary>
                <dl className="grid gap-1 text-sm">
                  {l.schools.map((s) => (
                    <div key={s.id}>
                      <dt className="inline font-semibold">{s.label}: </dt>
                      <dd className={`inline ${s.will_do ? "" : "text-hold"}`}>{s.text}</dd>
                    </div>
                  ))}
                </dl>
              </details>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
