import { Check, X } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import type { Job, Schemas } from "../../api/client";
import { useDebrief, useSite } from "../../api/queries";
import { formatter, when } from "../../api/units";
import { HerePin, JudgedMarks, pair, TruthWays } from "../../pictures/siteplan/Yard";
import { VERDICTS } from "../../pictures/Verdict";
import { buttonClass } from "../../ui/Button";
import { StageBench } from "../../ui/StageBench";
import { Wait } from "../../ui/Wait";
import { PlanPicture } from "../site/PlanPicture";

type View = Schemas["DebriefView"];

/** How it went: the ground drawn over the records, every mark against it, the goals, and a replay. */
export function Debrief({ job }: { job: Job }) {
  return (
    <Wait query={useDebrief(job.id)} doing="Laying the ground open">
      {(d) => <Laid job={job} debrief={d} />}
    </Wait>
  );
}

function Laid({ job, debrief: d }: { job: Job; debrief: View }) {
  const site = useSite(job.id).data;
  const [chosen, setChosen] = useState<number | null>(d.marks.find((m) => !m.right)?.number ?? null);
  const [step, setStep] = useState(d.timeline.length);
  const now = d.timeline[step - 1];
  return (
    <StageBench
      stageFirst
      stage={
        <>
          <div className="h-[46vh] min-h-64 lg:h-auto lg:min-h-0 lg:grow">
            {site ? (
              <PlanPicture
                site={site}
                format={formatter(job.units)}
                ground={<TruthWays truth={d.truth} />}
                above={
                  <>
                    <JudgedMarks marks={d.marks} chosen={chosen} onChoose={setChosen} />
                    {now?.at_place ? <HerePin at={pair(now.at_place)} text={now.text} /> : null}
                  </>
                }
              />
            ) : null}
          </div>
          <section className="card lg:p-2" aria-label="What lay in the ground">
            <ul className="flex flex-wrap gap-x-5 gap-y-1">
              {d.truth.map((t) => (
                <li key={t.name} className="flex items-center gap-2">
                  <svg width="34" height="8" aria-hidden>
                    <path
                      d="M1 4h32"
                      stroke={t.hex}
                      strokeWidth={t.target ? 6 : 4}
                      strokeDasharray={t.known ? "" : "9 5"}
                    />
                  </svg>
                  {t.name}
                  {t.known ? "" : " (in no record)"}
                </li>
              ))}
            </ul>
            <label className="mt-2 block">
              <span className="sr-only">Replay</span>
              <input
                type="range"
                min={0}
                max={d.timeline.length}
                value={step}
                className="w-full accent-[var(--deep)]"
                onChange={(e) => setStep(Number(e.target.value))}
              />
            </label>
            <p aria-live="polite" className="min-h-6 text-sm">
              {now ? `${when(now.at)}: ${now.text}` : "The start"}
            </p>
          </section>
        </>
      }
      bench={
        <>
          <section
            className={`card border-2 lg:p-3 ${d.passed ? "border-mark" : "border-care"}`}
            aria-label="How it went"
          >
            <h2 className="leading-tight">{d.passed ? "Passed" : "Not passed yet"}</h2>
            <p className="text-lg leading-snug font-semibold" data-headline>
              {d.headline}
            </p>
            <p className="text-sm text-quiet">
              Score {d.score} of 100, {d.minutes} min, {d.setups} {d.setups === 1 ? "hookup" : "hookups"}
              {d.level ? `. Level ${d.level}, seed ${d.seed}` : ""}
            </p>
            <ul className="mt-2 grid gap-1" aria-label="Goals">
              {d.goals.map((g) => (
                <li key={g.text} className="flex items-start gap-2 leading-snug">
                  {g.met ? (
                    <Check aria-label="Met" className="mt-0.5 size-5 shrink-0 text-mark" />
                  ) : (
                    <X aria-label="Not met" className="mt-0.5 size-5 shrink-0 text-hold" />
                  )}
                  <span>
                    {g.text}
                    {g.reached ? <span className="text-quiet"> ({g.reached})</span> : null}
                  </span>
                </li>
              ))}
            </ul>
          </section>
          {d.marks.length ? (
            <section className="card lg:p-3" aria-label="Marks">
              <h2>Marks</h2>
              <ol>
                {d.marks.map((m) => (
                  <li
                    key={m.number}
                    className="border-t border-edge py-2"
                    data-mark={m.right ? "right" : "wrong"}
                  >
                    <button
                      type="button"
                      className="flex min-h-11 w-full items-center gap-2 text-left"
                      aria-pressed={chosen === m.number}
                      onClick={() => setChosen(m.number)}
                    >
                      <strong className="w-5 shrink-0">{m.number}</strong>
                      <span className="min-w-0 grow leading-snug">
                        {m.text} {m.why ? <strong>{m.why}</strong> : null}
                      </span>
                      <VerdictMark verdict={m.verdict as Schemas["StationView"]["verdict"]} />
                    </button>
                  </li>
                ))}
              </ol>
            </section>
          ) : null}
          <Link className={buttonClass("main")} to="/practice">
            To the practice yard
          </Link>
        </>
      }
    />
  );
}

/** The verdict as its sign alone: its word is said in what went wrong. */
function VerdictMark({ verdict }: { verdict: Schemas["StationView"]["verdict"] }) {
  const { icon: Icon, tone, label } = VERDICTS[verdict];
  return (
    <span role="img" aria-label={label} title={label} className={`shrink-0 rounded-md border p-1 ${tone}`}>
      <Icon aria-hidden className="size-5" strokeWidth={2.5} />
    </span>
  );
}
