import { useFormState, useWatch } from "react-hook-form";
import { api, type Before, type Job, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import type { Kept } from "../../ui/draft";
import { EntryForm, FormError } from "../../ui/EntryForm";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";

const TONE = {
  quiet: "text-mark",
  restless: "text-care",
  noisy: "text-hold",
  unknown: "text-quiet",
} as const;
const WORD = { quiet: "Quiet", restless: "Restless", noisy: "Noisy", unknown: "" } as const;

interface Rows {
  rows: { here: string; quiet: string }[];
}

/** Ambient level at every frequency of the kit, transmitter off; plan and verdicts use it. */
export function NoiseCheck({ job, before }: { job: Job; before: Before }) {
  const rows = before.noise;
  const known: Rows = { rows: rows.map(({ here, quiet }) => ({ here, quiet })) };
  /** A draft of an earlier version kept each figure under its frequency. */
  const fromFlat = (draft: Kept): Rows => {
    if ("rows" in draft) return draft as unknown as Rows;
    const old = (name: string, otherwise: string) => String(draft[name] ?? otherwise);
    return {
      rows: rows.map((r) => ({
        here: old(`here-${r.freq_hz}`, r.here),
        quiet: old(`quiet-${r.freq_hz}`, r.quiet),
      })),
    };
  };
  const form = useEntryForm({
    start: known,
    draft: `noise-${job.id}-${job.kit_id}`,
    upgrade: fromFlat,
  });
  const typed = useWatch({ control: form.control });
  const { errors } = useFormState({ control: form.control });
  const toast = useToast();
  const params = { path: { job_id: job.id } };
  const bodyOf = (values: Rows) => ({
    rows: rows.map((r, i) => ({ freq_hz: r.freq_hz, here: "", quiet: "", ...values.rows[i] })),
  });
  const save = useChange(
    "noise",
    (values: Rows) => take(api.PUT("/api/jobs/{job_id}/before/noise", { params, body: bodyOf(values) })),
    { scope: `before-${job.id}` },
  );
  const changes = useConsequences((values: Rows, signal) =>
    take(api.POST("/api/jobs/{job_id}/before/noise/consequences", { params, body: bodyOf(values), signal })),
  );
  const send = async (values: Rows) => {
    if (!(await changes.allowed(values))) return;
    await save.mutateAsync(values);
    await changes.settle();
    form.begin(values);
    toast("Noise saved. The plan follows.", () => save.mutateAsync(known).then(() => form.begin(known)));
  };
  const changed = JSON.stringify(typed) !== JSON.stringify(known);
  const field = (name: "here" | "quiet", index: number, label: string) => (
    <input
      className="field"
      inputMode="decimal"
      aria-label={label}
      aria-invalid={Boolean(errors.rows?.[index]?.[name])}
      {...form.register(`rows.${index}.${name}`)}
    />
  );
  return (
    <section className="card" aria-label="Noise check">
      <h2>Noise check</h2>
      <p className="text-sm text-quiet">
        Transmitter off. Read the receiver's display at each frequency here, and once in a quiet place at the
        same gain: a figure, or decibels as 62dB.
      </p>
      <p className="mt-1 font-semibold">{before.noise_text}</p>
      <EntryForm form={form} send={send} className="mt-2">
        <div className="grid grid-cols-[6.25rem_1fr_1fr] gap-x-2 text-sm font-semibold" aria-hidden>
          <span />
          <span>Here</span>
          <span>Quiet place</span>
        </div>
        <ul>
          {rows.map((r, i) => (
            <li
              key={r.freq_hz}
              className="grid grid-cols-[6.25rem_1fr_1fr] items-center gap-x-2 border-t border-edge py-2 first:border-0"
              data-noise={r.noisiness}
            >
              <strong>{r.freq_text}</strong>
              {field("here", i, `${r.freq_text}, here`)}
              {field("quiet", i, `${r.freq_text}, in a quiet place`)}
              <p className="col-span-2 col-start-2 mt-1 text-sm">
                {errors.rows?.[i] ? (
                  <strong role="alert" className="text-hold">
                    {errors.rows[i].here?.message ?? errors.rows[i].quiet?.message}
                  </strong>
                ) : (
                  <>
                    {WORD[r.noisiness] ? (
                      <strong className={TONE[r.noisiness]}>{WORD[r.noisiness]}: </strong>
                    ) : null}
                    <span className="text-quiet">{r.text}.</span>
                  </>
                )}
              </p>
            </li>
          ))}
        </ul>
        <FormError form={form} />
        {changes.shown}
        <Button
          type="submit"
          look="main"
          className="mt-2 w-full sm:w-auto"
          disabled={!changed || save.isPending}
        >
          Save the noise
        </Button>
      </EntryForm>
    </section>
  );
}
