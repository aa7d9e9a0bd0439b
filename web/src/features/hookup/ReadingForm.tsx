import { type FormEvent, useState } from "react";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useChange, useKits } from "../../api/queries";
import { useDraft } from "../../app/draft";
import { hertz } from "../../app/units";
import { Button } from "../../ui/Button";
import { Choice, Field, FormError } from "../../ui/Field";
import type { Job } from "../line/JobPage";
import type { Hookup } from "./HookupPage";

const EMPTY = { volts: "", milliamps: "", freq: "", change: "", note: "" };

export function ReadingForm({ hookup: h, job }: { hookup: Hookup; job: Job }) {
  const [form, change, clear] = useDraft(`reading-${h.id}`, EMPTY);
  const [error, setError] = useState<Refusal | null>(null);
  const kit = useKits().data?.find((k) => k.id === job.kit_id)?.kit;
  const add = useChange((insist: boolean) =>
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
      <Button
        type="submit"
        look="main"
        className="col-span-full sm:justify-self-start"
        disabled={add.isPending}
      >
        Judge the loop
      </Button>
      {error?.code === "doubtful" ? (
        <div className="col-span-full mt-2 flex flex-wrap items-center gap-3" data-doubtful>
          <Button look="stop" disabled={add.isPending} onClick={() => save(true)}>
            Keep it all the same
          </Button>
          <span className="text-sm text-quiet">It goes on record as read and is not reckoned with.</span>
        </div>
      ) : null}
      <div className="col-span-full">
        <FormError error={error} fields={Object.keys(EMPTY)} />
      </div>
    </form>
  );
}
