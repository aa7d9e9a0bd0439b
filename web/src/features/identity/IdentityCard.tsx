import { Check, CircleHelp, OctagonX } from "lucide-react";
import { useState } from "react";
import type { Job, Schemas } from "../../api/client";
import { useIdentity } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { Field } from "../../ui/Field";
import { Fold } from "../../ui/Fold";
import type { View } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { StrikeOut } from "../history/StrikeOut";
import { Struck } from "../history/Struck";
import { BondGuide } from "./BondGuide";
import { BondKeptOpen, StakeMoved } from "./TraceAgain";
import { NOTHING_TYPED, type Typed, useAnswering, type Wrong } from "./useAnswering";

type Identity = Schemas["IdentityView"];
type Question = Schemas["QuestionView"];

const LOOK: Record<Identity["state"], { tone: string; icon: typeof Check }> = {
  shown: { tone: "text-mark", icon: Check },
  likely: { tone: "text-care", icon: CircleHelp },
  not_shown: { tone: "text-need", icon: CircleHelp },
};

const STANDING: Record<Identity["state"], string> = {
  shown: "shown",
  likely: "likely",
  not_shown: "not shown",
};

/** The view of a stage on which line this is, with how that stands beside its name. */
export function useIdentityView(setupId: number, job: Job): View {
  const state = useIdentity(setupId).data?.state;
  return {
    id: "identity",
    label: "Which line",
    note: state ? STANDING[state] : "",
    tone: state === "shown" ? "text-mark" : "font-semibold text-care",
    show: <IdentityCard setupId={setupId} job={job} />,
  };
}

/** Whether it is shown which line this is, and the one question that decides it. */
function IdentityCard({ setupId, job }: { setupId: number; job: Job }) {
  return (
    <Wait query={useIdentity(setupId)} doing="Weighing what else it could be">
      {(identity) => <Shown identity={identity} job={job} />}
    </Wait>
  );
}

function Shown({ identity: x, job }: { identity: Identity; job: Job }) {
  const { say, keep, strike, takeBack, restore, busy, changes } = useAnswering(x.setup_id);
  const consent = (question: Question, end: "here" | "far") => {
    const no = question.answers.find((a) => a.answer === "cannot");
    return no ? (
      <BondKeptOpen
        setupId={x.setup_id}
        job={job}
        end={end}
        busy={busy}
        no={no.label}
        onNo={() => void say(question.kind, no, NOTHING_TYPED)}
      />
    ) : null;
  };
  const answers = (question: Question) => (
    <>
      {question.opens ? (
        consent(question, question.opens)
      ) : (
        <Answers question={question} job={job} busy={busy} say={say} />
      )}
      {question.kind === "bond_opened" && x.bond ? (
        <Fold summary="Open one bond at a time, step by step">
          <BondGuide
            setupId={x.setup_id}
            guide={x.bond}
            busy={busy}
            keep={({ answer, note }, onKept) =>
              keep({ kind: "bond_opened", answer, note, ...NOTHING_TYPED }, note, onKept)
            }
          />
        </Fold>
      ) : null}
    </>
  );
  const look = LOOK[x.state];
  const Icon = x.contradicted ? OctagonX : look.icon;
  return (
    <section aria-label="Which line is it" data-identity={x.state}>
      <h2 className={`flex items-center gap-2 ${x.contradicted ? "text-hold" : look.tone}`}>
        <Icon aria-hidden className="size-6 shrink-0" />
        {x.headline}
      </h2>
      <p>{x.reason}</p>
      {changes}
      {x.stake_spoils ? (
        <StakeMoved setupId={x.setup_id} job={job} why={x.why} />
      ) : x.ask ? (
        <div className="mt-3 rounded-md border-2 border-ink p-3" data-ask={x.ask.kind}>
          <p className="text-lg font-bold">{x.ask.question}</p>
          <p>{x.ask.how}</p>
          {answers(x.ask)}
          <p className="mt-2 text-sm text-quiet">{x.why}</p>
        </div>
      ) : x.why ? (
        <p className="mt-2 font-semibold">{x.why}</p>
      ) : null}
      <Fold className="mt-2" summary={`Evidence (${x.given.length})`}>
        <ul className="grid gap-1" aria-label="Evidence given">
          {x.given.map((e) => (
            <li key={e.id} className="flex flex-wrap items-baseline gap-x-3 border-t border-edge py-1">
              <span>
                {e.question} <strong>{e.answer_text}</strong>
                {e.note ? <span className="block text-sm">{e.note}</span> : null}
              </span>
              <span className="text-sm text-quiet">
                {e.technician}, {when(e.taken_at)}
              </span>
              <StrikeOut
                what={`the answer: ${e.question}`}
                busy={strike.isPending}
                className="ml-auto"
                onStrike={(why) => takeBack(e.id, why)}
              />
            </li>
          ))}
        </ul>
        <Struck entries={x.struck} onRestore={(id) => restore.mutate(id)} />
        <h3 className="mt-2">Add evidence</h3>
        <ul className="grid gap-2">
          {x.rest.map((q) => (
            <li key={q.kind} className="border-t border-edge py-2">
              <p className="font-semibold">{q.question}</p>
              <p className="text-sm text-quiet">{q.how}</p>
              {answers(q)}
            </li>
          ))}
        </ul>
      </Fold>
      {x.rivals.length ? (
        <Fold summary={`What else it could be (${x.rivals.length})`}>
          <p className="text-sm text-quiet">Each with the chance that it makes a mark here wrong.</p>
          <ul className="grid gap-1">
            {x.rivals.map((r) => (
              <li key={r.kind} className="flex gap-3 border-t border-edge py-1">
                <strong className="w-20 shrink-0">{r.chance_text}</strong>
                <span>{r.text}</span>
              </li>
            ))}
          </ul>
        </Fold>
      ) : null}
    </section>
  );
}

function Answers(p: {
  question: Question;
  job: Job;
  busy: boolean;
  say: (kind: Question["kind"], answer: Schemas["AnswerView"], typed: Typed) => Promise<Wrong | undefined>;
}) {
  const [typed, setTyped] = useState({ ...NOTHING_TYPED, distance: p.question.distance ?? "" });
  const [wrong, setWrong] = useState<Wrong | undefined>();
  const field = (name: keyof Typed, quantity: "distance" | "current" | "depth", label: string) => (
    <Field
      name={name}
      label={label}
      quantity={quantity}
      units={p.job.units}
      value={typed[name]}
      wrong={wrong?.field === name ? wrong.text : undefined}
      onChange={(text) => setTyped({ ...typed, [name]: text })}
    />
  );
  return (
    <div className="mt-2 grid grid-cols-1 gap-2 sm:grid-cols-3">
      {p.question.distance === null ? null : (
        <div className="sm:col-span-3">{field("distance", "distance", "Where, along the line")}</div>
      )}
      {p.question.currents ? (
        <div className="grid grid-cols-2 gap-2 sm:col-span-3">
          {field("own", "current", "On this line, mA")}
          {field("other", "current", "Most on another, mA")}
        </div>
      ) : null}
      {p.question.depth ? (
        <div className="sm:col-span-3">{field("depth", "depth", "Depth to its middle, if measured")}</div>
      ) : null}
      {p.question.answers.map((a) => (
        <Button
          key={a.label}
          disabled={p.busy}
          aria-pressed={p.question.given === a.answer}
          className={p.question.given === a.answer ? "border-2 border-ink" : ""}
          onClick={async () => setWrong(await p.say(p.question.kind, a, typed))}
        >
          {a.label}
        </Button>
      ))}
    </div>
  );
}
