import { Plus, X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { api, asRefusal, type Refusal, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Field, FormError, Tick } from "../../ui/Field";
import { FIGURES, type Kit, type KitFormState, type Row, toForm, toKit } from "./kitForm";

export function KitForm({ kit, kitId, onDone }: { kit: Kit; kitId: number | null; onDone: () => void }) {
  const [form, change, clear] = useDraft<KitFormState>(`kit-${kitId ?? "new"}`, toForm(kit));
  const [error, setError] = useState<Refusal | null>(null);
  const save = useChange("kit", async (body: Kit) => {
    if (kitId === null) await take(api.POST("/api/kits", { body: { kit: body } }));
    else
      await take(api.PUT("/api/kits/{kit_id}", { params: { path: { kit_id: kitId } }, body: { kit: body } }));
  });
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    try {
      await save.mutateAsync(toKit(form));
      clear(form);
      onDone();
    } catch (err) {
      setError(asRefusal(err));
    }
  };
  const figures = (part: string) =>
    FIGURES.filter((f) => f.part === part).map((f) => (
      <Field
        key={f.name}
        name={f.name}
        label={f.label}
        value={form.numbers[f.name] ?? ""}
        error={error}
        onChange={(v) => change({ numbers: { ...form.numbers, [f.name]: v } })}
      />
    ));
  const row = (i: number, patch: Partial<Row>) =>
    change({ rows: form.rows.map((r, j) => (j === i ? { ...r, ...patch } : r)) });
  const next = Math.max(0, ...form.rows.map((r) => r.key + 1));
  const blank: Row = { key: next, hz: "", watts: "1", noise: "20", depth: true, direction: false };
  return (
    <form onSubmit={submit} noValidate className="grid gap-x-4 sm:grid-cols-2">
      <Field
        name="name"
        label="Name"
        required
        value={form.name}
        error={error}
        onChange={(name) => change({ name })}
      />
      <Field
        name="outputs_a"
        label="Output steps, mA"
        required
        hint="5 15 30 60 120"
        value={form.outputs}
        error={error}
        onChange={(outputs) => change({ outputs })}
      />
      {figures("kit")}
      <fieldset className="sm:col-span-2">
        <legend className="font-bold">Frequencies</legend>
        {form.rows.map((r, i) => (
          <div
            key={r.key}
            className="mb-1 grid grid-cols-3 items-start gap-x-3 border-t border-edge pt-2 sm:grid-cols-[1fr_1fr_1fr_auto_auto_auto]"
          >
            <Field
              name={`frequencies.${i}.freq_hz`}
              label="Hz"
              value={r.hz}
              error={error}
              onChange={(hz) => row(i, { hz })}
            />
            <Field
              name={`frequencies.${i}.watts`}
              label="Power, W"
              value={r.watts}
              error={error}
              onChange={(watts) => row(i, { watts })}
            />
            <Field
              name={`frequencies.${i}.noise_t`}
              label="Noise, pT"
              value={r.noise}
              error={error}
              onChange={(noise) => row(i, { noise })}
            />
            <div className="sm:mt-6">
              <Tick
                name={`depth-${i}`}
                label="Depth"
                checked={r.depth}
                onChange={(depth) => row(i, { depth })}
              />
            </div>
            <div className="sm:mt-6">
              <Tick
                name={`direction-${i}`}
                label="Direction"
                checked={r.direction}
                onChange={(direction) => row(i, { direction })}
              />
            </div>
            <Button
              className="px-2.5 sm:mt-6"
              aria-label={`Remove ${r.hz || "this"} Hz`}
              onClick={() => change({ rows: form.rows.filter((_, j) => j !== i) })}
            >
              <X aria-hidden />
            </Button>
          </div>
        ))}
        <Button onClick={() => change({ rows: [...form.rows, blank] })} className="mb-3">
          <Plus aria-hidden className="size-5" /> Add a frequency
        </Button>
      </fieldset>
      <div className="sm:col-span-2">
        <Tick name="clamp" label="Has a clamp" checked={form.clamp} onChange={(clamp) => change({ clamp })} />
      </div>
      {form.clamp ? figures("clamp") : null}
      <div className="sm:col-span-2">
        <Tick
          name="coil"
          label="Has an induction coil"
          checked={form.coil}
          onChange={(coil) => change({ coil })}
        />
      </div>
      {form.coil ? figures("coil") : null}
      <p className="font-bold sm:col-span-2">Receiver</p>
      {figures("receiver")}
      <div className="sm:col-span-2">
        <FormError
          error={error}
          fields={[
            "name",
            "outputs_a",
            ...FIGURES.map((f) => f.name),
            ...form.rows.map((_, i) => `frequencies.${i}`),
          ]}
        />
        <Button type="submit" look="main" disabled={save.isPending}>
          Save kit
        </Button>
      </div>
    </form>
  );
}
