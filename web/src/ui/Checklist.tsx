import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ArrowLeft, Check, ShieldCheck } from "lucide-react";
import { useEffect, useState } from "react";
import { asRefusal, type Schemas } from "../api/client";
import { changingHere } from "../api/queries";
import { Button } from "./Button";
import { Tick } from "./Field";

type Kind = Schemas["StepQuestion"]["kind"];
type Answer = Schemas["StepAnswer"];

interface Step {
  id: string;
  text: string;
  /** It protects a person: nothing after it comes before it. */
  protects: boolean;
  done: boolean;
  /** It is answered instead of ticked. */
  asks?: Schemas["StepQuestion"] | null;
}

/** How steps that ask something are answered, and an answer is taken back. */
interface Answering {
  say: (kind: Kind, answer: Answer) => unknown;
  takeBack: (id: number, why: string) => unknown;
  busy: boolean;
}

type Listed = Pick<Step, "id" | "text" | "protects" | "asks">;

/** What is done once a step is ticked or taken back: without one that protects, nothing after it stands. */
export function ticked(steps: Listed[], done: string[], id: string, on: boolean): string[] {
  if (on) return [...done, id];
  const order = steps.map((s) => s.id);
  return steps.find((s) => s.id === id)?.protects
    ? done.filter((d) => order.indexOf(d) < order.indexOf(id))
    : done.filter((d) => d !== id);
}

/** The first step not done that protects a person: none after it may be ticked; -1 where there is none. */
export const guardOf = (steps: Listed[], done: string[]) =>
  steps.findIndex((s) => s.protects && !done.includes(s.id));

/** Every step with its tick, those behind a step that protects greyed out until it is done. */
export function StepList(p: {
  label: string;
  steps: Listed[];
  done: string[];
  tick: (id: string, on: boolean) => void;
  answering?: Answering;
}) {
  const guard = guardOf(p.steps, p.done);
  return (
    <ol aria-label={p.label}>
      {p.steps.map((s, i) => (
        <li key={s.id} className={`border-t border-edge ${s.protects ? "font-semibold" : ""}`}>
          {s.asks ? (
            <div className="py-2 pl-9">
              <p className="mb-2">
                {i + 1}. {s.text}
              </p>
              <StepAnswers asks={s.asks} blocked={guard >= 0 && i > guard} answering={p.answering} />
            </div>
          ) : (
            <Tick
              name={s.id}
              checked={p.done.includes(s.id)}
              disabled={guard >= 0 && i > guard}
              onChange={(on) => p.tick(s.id, on)}
              label={`${i + 1}. ${s.text}`}
            />
          )}
        </li>
      ))}
    </ol>
  );
}

/** The answers of a step that asks something. */
function StepAnswers(p: { asks: NonNullable<Step["asks"]>; blocked?: boolean; answering?: Answering }) {
  const { asks, answering } = p;
  return (
    <div className="grid grow basis-full grid-cols-3 gap-2">
      {asks.answers.map((a) => (
        <Button
          key={a.answer}
          className={`min-h-14 leading-tight ${asks.given === a.answer ? "border-2 border-ink" : ""}`}
          aria-pressed={asks.given === a.answer}
          disabled={p.blocked || !answering || answering.busy}
          onClick={() => answering?.say(asks.kind, a)}
        >
          {a.label}
        </Button>
      ))}
    </div>
  );
}

/**
 * Steps in their order and what is done of them. A step that protects a person must be done before anything after it.
 * A tick shows at once and is sent in turn, so that quick taps never overtake each other.
 */
export function useSteps(h: {
  /** Names whose steps they are, and what is read again once they are kept. */
  key: readonly (string | number)[];
  steps: Step[];
  keep: (steps_done: string[]) => Promise<unknown>;
  answering?: Answering;
}) {
  const client = useQueryClient();
  const [ticks, setTicks] = useState(() => h.steps.filter((s) => s.done && !s.asks).map((s) => s.id));
  const send = useMutation({
    scope: { id: `steps-${h.key.join("-")}` },
    onMutate: changingHere,
    mutationFn: h.keep,
    onSuccess: async () => {
      await client.cancelQueries({ queryKey: h.key });
      await client.invalidateQueries({ queryKey: h.key });
    },
  });
  const put = (next: string[]) => {
    setTicks(next);
    send.mutate(next);
  };
  const tick = (id: string, on: boolean) => put(ticked(h.steps, ticks, id, on));
  const done = h.steps.filter((s) => (s.asks ? s.asks.given : ticks.includes(s.id))).map((s) => s.id);
  const at = h.steps.findIndex((s) => !done.includes(s.id));
  const last = h.steps.at(at < 0 ? -1 : at - 1);
  const back = () => {
    if (!last) return;
    if (typeof last.asks?.evidence_id !== "number") tick(last.id, false);
    else h.answering?.takeBack(last.asks.evidence_id, "Undone in the safe order");
  };
  const refused = send.isError ? asRefusal(send.error) : null;
  const { answering } = h;
  return {
    steps: h.steps,
    done,
    at,
    step: h.steps[at],
    back: at === 0 ? null : back,
    tick,
    refused,
    answering,
  };
}

/** The safe order, one step at a time; every step is one tap away. `finished`: what is said once all are done. */
export function Checklist({ order, finished }: { order: ReturnType<typeof useSteps>; finished: string }) {
  const { steps, done, at, step, back, tick, refused, answering } = order;
  const [open, setOpen] = useState(step !== undefined);
  const all = step === undefined;
  // once it is done it makes room for the reading
  useEffect(() => {
    if (all) setOpen(false);
  }, [all]);
  return (
    <details
      className="card py-1 lg:px-3"
      open={open}
      onToggle={(e) => e.target === e.currentTarget && setOpen(e.currentTarget.open)}
    >
      <summary className="min-h-11 cursor-pointer py-2 text-lg font-bold">
        Safe order{" "}
        <span className="font-normal text-quiet">
          {done.length} of {steps.length} done
        </span>
      </summary>
      {refused ? (
        <p role="alert" className="mb-2 font-semibold text-hold">
          {refused.message} The ticks are not saved yet: tick again.
        </p>
      ) : null}
      <div data-now={step?.id ?? "all"} aria-live="polite">
        {step ? (
          <>
            <p className="text-sm font-semibold text-quiet">
              Step {at + 1} of {steps.length}
              {step.protects ? (
                <span className="ml-2 inline-flex items-center gap-1 align-middle text-hold">
                  <ShieldCheck aria-hidden className="size-4" /> protects you
                </span>
              ) : null}
            </p>
            <p className="my-2 text-xl leading-snug font-bold">{step.text}</p>
          </>
        ) : (
          <p className="my-2 text-lg leading-snug font-bold">{finished}</p>
        )}
        <div
          className={`mt-3 flex flex-wrap gap-2 ${step ? "max-lg:fixed max-lg:inset-x-0 max-lg:bottom-15 max-lg:z-20 max-lg:border-t-2 max-lg:border-edge max-lg:bg-sheet max-lg:p-2" : ""}`}
        >
          {step?.asks ? (
            <StepAnswers asks={step.asks} answering={answering} />
          ) : step ? (
            <Button look="main" className="min-h-14 grow text-lg" onClick={() => tick(step.id, true)}>
              <Check aria-hidden /> Done
            </Button>
          ) : null}
          {back ? (
            <Button
              className={`min-h-14 ${step?.asks ? "grow" : ""}`}
              disabled={answering?.busy}
              onClick={back}
            >
              <ArrowLeft aria-hidden className="size-5" /> Undo this step
            </Button>
          ) : null}
        </div>
      </div>
      <details className="mt-2">
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">All {steps.length} steps</summary>
        <StepList label="All steps" steps={steps} done={done} tick={tick} answering={answering} />
      </details>
    </details>
  );
}
