import { useState } from "react";
import { Link } from "react-router";
import type { Job, LineState, Schemas } from "../../api/client";
import { usePlan, usePlanRest, useSonde } from "../../api/queries";
import { formatter } from "../../api/units";
import { ExpectedOverHead } from "../../pictures/ExpectedOverHead";
import { ReachBoard } from "../../pictures/ReachBoard";
import { Button, buttonClass } from "../../ui/Button";
import { StageBench } from "../../ui/StageBench";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { IfEarthed } from "./IfEarthed";
import { MovingCard } from "./MovingCard";
import { OptionCard } from "./OptionCard";
import { Rejected } from "./Rejected";
import { RodAsLine } from "./RodAsLine";
import { useStart } from "./useStart";
import { WhatIf } from "./WhatIf";

type Plan = Schemas["PlanView"];

export default function PlanPage({ job, line }: { job: Job; line: LineState }) {
  const plan = usePlan(line.id);
  return (
    <Wait query={plan} doing="Simulating a trace for every setup">
      {(data) => <PlanView key={line.id} plan={data} job={job} line={line} />}
    </Wait>
  );
}

function PlanView({ plan, job, line }: { plan: Plan; job: Job; line: LineState }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const rest = usePlanRest(line.id, all);
  const every = rest.data?.options ?? plan.options;
  const shown = all ? every : plan.options.filter((o) => o.best_of_kind);
  const option = every.find((o) => o.key === chosen) ?? plan.options[0];
  const earthed = plan.options.find((o) => o.key === plan.if_earthed?.key);
  const ifEarthed = plan.if_earthed ? (
    <IfEarthed
      ifEarthed={plan.if_earthed}
      onLook={earthed && earthed.key !== option?.key ? () => setChosen(earthed.key) : null}
    />
  ) : null;
  const { onStart, busy, refused } = useStart(line.id, job);
  const best = option?.key === plan.options[0]?.key;
  return (
    <StageBench
      bench={
        <>
          {option ? (
            <OptionCard
              option={option}
              best={best}
              beside={best ? ifEarthed : null}
              busy={busy}
              refused={refused}
              onUse={() => onStart(option, option.stake_at)}
            />
          ) : (
            <>
              <NothingWorks why={plan.no_signal} then={plan.nothing_text} />
              {plan.no_signal ? <ToSonde job={job} line={line} main /> : null}
              {plan.no_signal && line.hollow ? <RodAsLine job={job} line={line} /> : null}
              {ifEarthed}
            </>
          )}
          {option && line.hollow ? <ToSonde job={job} line={line} /> : null}
          {plan.no_signal ? null : (
            <Link
              to={`/jobs/${job.id}/lines/${line.id}/fault`}
              className="inline-flex min-h-11 items-center underline"
            >
              Find a fault in its insulation
            </Link>
          )}
          {plan.moving ? (
            <MovingCard
              moving={plan.moving}
              busy={busy}
              onUse={() => plan.moving && onStart(plan.moving, null)}
            />
          ) : null}
        </>
      }
      stage={
        plan.no_signal ? (
          <SondeAhead job={job} line={line} />
        ) : (
          <Views
            label="Of this plan"
            views={[
              plan.options.length
                ? {
                    id: "board",
                    label: "Reach board",
                    show: (
                      <section aria-label="Reach board">
                        <div className="flex flex-wrap items-start justify-between gap-x-4">
                          <p className="min-w-0 grow basis-72 text-sm text-quiet">
                            Each bar is a simulated trace, judged by the same rules as real stations: at the
                            greatest depth, with {plan.noise_margin} times the kit's noise.{" "}
                            {plan.options[0]?.forecasts[0]?.bleed_off.length ? (
                              <>It knows only the lines entered here.</>
                            ) : (
                              <strong>
                                No neighbours entered, so no bleed-off forecast. Edit this line.
                              </strong>
                            )}
                          </p>
                          <Button
                            look="quiet"
                            className="px-0"
                            onClick={() => setAll(!all)}
                            aria-expanded={all}
                          >
                            {all ? "Best output of each only" : `All ${plan.ranked_count} setups`}
                          </Button>
                        </div>
                        <ReachBoard
                          options={shown}
                          lengthM={plan.length_m}
                          landmarks={plan.landmarks}
                          format={formatter(job.units)}
                          chosen={option?.key ?? null}
                          onChoose={setChosen}
                        />
                      </section>
                    ),
                  }
                : null,
              option
                ? {
                    id: "what-if",
                    label: "What if",
                    show: (
                      <WhatIf
                        key={option.key}
                        job={job}
                        line={line}
                        option={option}
                        elsewhere={elsewhere(plan.options, option)}
                        plan={plan}
                        onUse={onStart}
                      />
                    ),
                  }
                : null,
              plan.rejected_count
                ? {
                    id: "rejected",
                    label: "Rejected",
                    note: String(plan.rejected_count),
                    show: <Rejected lineId={line.id} job={job} />,
                  }
                : null,
            ]}
          />
        )
      }
    />
  );
}

/** What a sonde would show in a pipe that carries no signal. */
function SondeAhead({ job, line }: { job: Job; line: LineState }) {
  const sonde = useSonde(line.id);
  return (
    <Wait query={sonde} doing="Working out what a sonde would show">
      {(s) => <ExpectedOverHead sonde={s} job={job} />}
    </Wait>
  );
}

/** The same hookup at other places along the line: the best option of each. */
function elsewhere(options: Schemas["OptionView"][], chosen: Schemas["OptionView"]) {
  const seen = new Set([chosen.position_m]);
  return options.filter((o) => {
    const more = o.hookup === chosen.hookup && !seen.has(o.position_m);
    seen.add(o.hookup === chosen.hookup ? o.position_m : Number.NaN);
    return more;
  });
}

/** Leads to the sonde, for a pipe that one can be pushed through. */
function ToSonde({ job, line, main = false }: { job: Job; line: LineState; main?: boolean }) {
  return (
    <Link
      to={`/jobs/${job.id}/lines/${line.id}/sonde`}
      className={
        main ? `${buttonClass("main")} w-full text-lg` : "inline-flex min-h-11 items-center underline"
      }
    >
      {main ? "Push a sonde through it" : "Or push a sonde through it"}
    </Link>
  );
}

function NothingWorks({ why, then }: { why: string | null; then: string }) {
  if (why)
    return (
      <div className="card border-2 border-edge" role="status">
        <h2>Find this line by sonde</h2>
        <p>{why}</p>
      </div>
    );
  return (
    <div className="card border-2 border-hold" role="status">
      <h2>No setup would prove this line</h2>
      <p>{then}</p>
    </div>
  );
}
