import { type FormEvent, useState } from "react";
import { api, asRefusal, type Hookup, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useChange, useKits } from "../../api/queries";
import { hertz } from "../../api/units";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Choice, Field, FormError } from "../../ui/Field";

import { usePreview } from "./usePreview";

const EMPTY = { volts: "", milliamps: "", freq: "", change: "", note: "" };

const PROOF: Record<NonNullable<Hookup["continuity"]>["state"], string> = {
  not_read: "Continuity not proved.",
  proved: "Continuity proved.",
  not_proved: "No continuity.",
  between: "Continuity in doubt.",
  says_nothing: "Continuity cannot be read here.",
};

export function ReadingForm({ hookup: h, job }: { hookup: Hookup; job: Job }) {
  const [form, change, clear] = useDraft(`reading-${h.id}`, EMPTY);
  const [error, setError] = useState<Refusal | null>(null);
  const kit = useKits().data?.find((k) => k.id === job.kit_id)?.kit;
  const add = useChange("reading", (insist: boolean) =>
    take(
      api.POST("/api/setups/{setup_id}/readings", {
        params: { path: { setup_id: h.id } },
        body: {
          ...form,
          change: form.change as Schemas["ReadingForm"]["change"],
          technician: job.technician,
          insist,
        },
      }),
    ),
  );
  const save = (insist: boolean) => {
    setError(null);
    add.mutate(insist, { onSuccess: () => clear(EMPTY), onError: (err) => setError(asRefusal(err)) });
  };
  const live = usePreview(h.id, form);
  const proof = h.continuity;
  const submit = (e: FormEvent) => {
    e.preventDefault();
    save(false);
  };
  const text = (name: keyof typeof EMPTY) => ({
    name,
    value: form[name],
    error,
    onChange: (v: string) => change({ [name]: v }),
  });
  return (
    <form
      onSubmit={submit}
      noValidate
      className="grid grid-cols-2 items-start gap-x-3 sm:grid-cols-[1fr_1fr_1fr_1.4fr]"
    >
      {proof ? (
        <div
          data-continuity={proof.state}
          className="col-span-full mb-3 flex flex-wrap items-center gap-3 rounded-md border border-edge p-3"
        >
          <p className="min-w-0 grow basis-64">
            <strong>{PROOF[proof.state]}</strong> {proof.text}
          </p>
          {proof.state !== "says_nothing" &&
          form.freq !== `${proof.freq_hz}Hz` &&
          proof.freq_hz !== h.freq_hz ? (
            <Button onClick={() => change({ freq: `${proof.freq_hz}Hz` })}>Read at {proof.freq_text}</Button>
          ) : null}
        </div>
      ) : null}
      <Field {...text("volts")} label="Volts" quantity="volts" required />
      <Field {...text("milliamps")} label="Milliamps" quantity="current" required />
      <Choice
        label="At"
        name="freq"
        value={form.freq}
        error={error}
        onChange={(v) => change({ freq: v })}
        options={[
          { id: "", label: h.freq_text },
          ...(kit?.frequencies ?? [])
            .filter((f) => f.freq_hz !== h.freq_hz)
            .map((f) => ({ id: `${f.freq_hz}Hz`, label: hertz(f.freq_hz) })),
        ]}
      />
      <Choice
        label="Since the last reading"
        name="change"
        value={form.change}
        error={error}
        onChange={(v) => change({ change: v })}
        options={[
          { id: "", label: "nothing" },
          { id: "stake", label: "stake deeper" },
          { id: "clip", label: "clip cleaned" },
          { id: "far", label: "far end earthed" },
        ]}
      />
      {live ? (
        <div
          role="status"
          data-preview={live.state}
          className="col-span-full mb-3 rounded-md border border-edge p-3"
        >
          <p className="text-sm text-quiet">As typed, not entered yet:</p>
          <p className={`font-semibold ${live.doubt_text ? "text-hold" : ""}`}>{live.headline}</p>
          {live.causes.length ? (
            <p className="text-sm">{live.causes.map((c) => `${c.title}, ${c.share_text}`).join("; ")}.</p>
          ) : null}
        </div>
      ) : null}
      <Button
        type="submit"
        look="main"
        className="col-span-full sm:justify-self-start"
        disabled={add.isPending}
      >
        Check the loop
      </Button>
      {error?.code === "doubtful" ? (
        <div className="col-span-full mt-2 flex flex-wrap items-center gap-3" data-doubtful>
          <Button look="stop" disabled={add.isPending} onClick={() => save(true)}>
            Keep it anyway
          </Button>
          <span className="text-sm text-quiet">It goes on record as read and is not used.</span>
        </div>
      ) : null}
      <div className="col-span-full">
        <FormError error={error} fields={Object.keys(EMPTY)} />
      </div>
    </form>
  );
}
