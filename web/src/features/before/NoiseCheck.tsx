import { type FormEvent, useState } from "react";
import { api, asRefusal, type Before, type Job, type Refusal, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { FormError } from "../../ui/Field";
import { useToast } from "../../ui/Toasts";

const TONE = {
  quiet: "text-mark",
  restless: "text-care",
  noisy: "text-hold",
  unknown: "text-quiet",
} as const;
const WORD = { quiet: "Quiet", restless: "Restless", noisy: "Noisy", unknown: "" } as const;

type Rows = Record<string, string>;

/** Ambient level at every frequency of the kit, transmitter off; plan and verdicts use it. */
export function NoiseCheck({ job, before }: { job: Job; before: Before }) {
  const rows = before.noise;
  const empty: Rows = Object.fromEntries(
    rows.flatMap((r) => [
      [`here-${r.freq_hz}`, r.here],
      [`quiet-${r.freq_hz}`, r.quiet],
    ]),
  );
  const [form, change, clear] = useDraft<Rows>(`noise-${job.id}-${job.kit_id}`, empty);
  const [error, setError] = useState<Refusal | null>(null);
  const toast = useToast();
  const save = useChange(
    "noise",
    (values: Rows) =>
      take(
        api.PUT("/api/jobs/{job_id}/before/noise", {
          params: { path: { job_id: job.id } },
          body: {
            rows: rows.map((r) => ({
              freq_hz: r.freq_hz,
              here: values[`here-${r.freq_hz}`] ?? "",
              quiet: values[`quiet-${r.freq_hz}`] ?? "",
            })),
          },
        }),
      ),
    { scope: `before-${job.id}` },
  );
  const submit = (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    save.mutateAsync(form).then(
      () => {
        clear(form);
        toast("Noise saved. The plan follows.", () => {
          save.mutateAsync(empty).then(() => clear(empty));
        });
      },
      (err) => setError(asRefusal(err)),
    );
  };
  const changed = JSON.stringify(form) !== JSON.stringify(empty);
  const field = (name: "here" | "quiet", index: number, freq: number, label: string) => {
    const wrong = error?.field === `rows.${index}.${name}`;
    return (
      <input
        className="field"
        inputMode="decimal"
        aria-label={label}
        name={`${name}-${freq}`}
        aria-invalid={wrong}
        value={form[`${name}-${freq}`] ?? ""}
        onChange={(e) => change({ [`${name}-${freq}`]: e.target.value })}
      />
    );
  };
  return (
    <section className="card" aria-label="Noise check">
      <h2>Noise check</h2>
      <p className="text-sm text-quiet">
        Transmitter off. Read the receiver's display at each frequency here, and once in a quiet place at the
        same gain: a figure, or decibels as 62dB.
      </p>
      <p className="mt-1 font-semibold">{before.noise_text}</p>
      <form onSubmit={submit} noValidate className="mt-2">
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
              {field("here", i, r.freq_hz, `${r.freq_text}, here`)}
              {field("quiet", i, r.freq_hz, `${r.freq_text}, in a quiet place`)}
              <p className="col-span-2 col-start-2 mt-1 text-sm">
                {error?.field.startsWith(`rows.${i}.`) ? (
                  <strong role="alert" className="text-hold">
                    {error.message} {error.fix}
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
        <FormError error={error} fields={["rows"]} />
        <Button
          type="submit"
          look="main"
          className="mt-2 w-full sm:w-auto"
          disabled={!changed || save.isPending}
        >
          Save the noise
        </Button>
      </form>
    </section>
  );
}
