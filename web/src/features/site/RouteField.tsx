import { Keyboard, PenLine } from "lucide-react";
import { useEffect, useId, useRef, useState } from "react";
import { type Path, useController } from "react-hook-form";
import { api, type Schemas, take } from "../../api/client";
import { useAsked } from "../../api/useAsked";
import { Button } from "../../ui/Button";
import { Note } from "../../ui/Field";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { PlanDraft } from "./planDraft";

export type Understood = Schemas["RouteUnderstood"];

/** Asks the server how a route's text is understood, a moment after it changed. */
export function useRoute(job_id: number, text: string) {
  const ask = () =>
    take(
      api.POST("/api/jobs/{job_id}/site/understand", { params: { path: { job_id } }, body: { text } }),
    ) as Promise<Understood>;
  return useAsked(text.trim() ? `route on ${job_id}: ${text}` : null, ask, 120);
}

/** A route or outline: tapped on the plan, or typed as legs or corners. */
export function RouteField(p: {
  jobId: number;
  form: EntryFormState<PlanDraft>;
  name: Path<PlanDraft>;
  label: string;
  drawing: boolean;
  onDraw: (on: boolean) => void;
  hint?: string;
}) {
  const id = useId();
  const { field, fieldState } = useController({ name: p.name, control: p.form.control });
  const value = String(field.value ?? "");
  const wrong = fieldState.error?.message;
  const found = useRoute(p.jobId, value);
  const [typing, setTyping] = useState(false);
  const text = useRef<HTMLTextAreaElement | null>(null);
  // what is wrong is shown to be put right, and stays while it is
  const amiss = Boolean(wrong) || found?.ok === false;
  useEffect(() => {
    if (amiss) setTyping(true);
  }, [amiss]);
  return (
    <div className="min-w-0">
      <label htmlFor={typing ? id : undefined} className="mb-1 block text-sm font-semibold">
        {p.label}
      </label>
      {typing ? (
        <textarea
          id={id}
          name={p.name}
          rows={2}
          className="field text-base"
          value={value}
          ref={(node) => {
            field.ref(node);
            text.current = node;
          }}
          aria-invalid={Boolean(wrong)}
          aria-describedby={`${id}-note`}
          onChange={field.onChange}
        />
      ) : null}
      <Note id={`${id}-note`} wrong={wrong} found={found} hint={value.trim() ? "" : p.hint} />
      <div className="mt-1 flex flex-wrap gap-2">
        <Button
          look={p.drawing ? "main" : "plain"}
          aria-pressed={p.drawing}
          className="px-3 text-sm"
          onClick={() => p.onDraw(!p.drawing)}
        >
          <PenLine aria-hidden className="size-4" /> {p.drawing ? "Done tapping" : "Tap it on the plan"}
        </Button>
        <Button
          className="px-3 text-sm"
          aria-expanded={typing}
          onClick={() => {
            setTyping(!typing);
            if (!typing) setTimeout(() => text.current?.focus());
          }}
        >
          <Keyboard aria-hidden className="size-4" /> Type it
        </Button>
      </div>
    </div>
  );
}
