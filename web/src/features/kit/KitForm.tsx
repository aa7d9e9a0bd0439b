import { Plus, X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { api, asRefusal, Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { useDraft } from "../../app/draft";
import { Button } from "../../ui/Button";
import { Field, FormError, Tick } from "../../ui/Field";

type Kit = Schemas["KitDoc"];
interface Row {
  key: number;
  hz: string;
  watts: string;
  noise: string;
  depth: boolean;
  direction: boolean;
}

const number = (text: string, field: string, label: string): number => {
  const v = Number(text);
  if (text.trim() === "" || !Number.isFinite(v))
    throw new Refusal(
      field,
      `${label}: “${text}” is not a number.`,
      "Type it with a decimal point, such as 8960.",
      "bad_input",
    );
  return v;
};

const toForm = (k: Kit) => ({
  name: k.name,
  volts_max: String(k.volts_max),
  battery_wh: String(k.battery_wh),
  outputs: k.outputs_a.map((a) => Number((a * 1e3).toPrecision(6))).join(" "),
  rows: k.frequencies.map(
    (f, key): Row => ({
      key,
      hz: String(f.freq_hz),
      watts: String(f.watts),
      noise: String(Number((f.noise_t * 1e12).toPrecision(6))),
      depth: f.reads_depth ?? true,
      direction: f.reads_direction ?? false,
    }),
  ),
  clamp: k.clamp !== null,
  clamp_turns: String(k.clamp?.turns ?? 40),
  coil: k.coil !== null,
  coil_moment: String(k.coil?.moment_a_m2 ?? 10),
  low_m: String(k.receiver.low_m),
  high_m: String(k.receiver.high_m),
});
type Form = ReturnType<typeof toForm>;

/** Unit prefixes only (mA, pT); every bound is the server's. */
function toKit(f: Form, base: Kit): Kit {
  return {
    ...base,
    name: f.name,
    volts_max: number(f.volts_max, "volts_max", "Volts ceiling"),
    battery_wh: number(f.battery_wh, "battery_wh", "Battery"),
    outputs_a: f.outputs
      .split(/\s+/)
      .filter(Boolean)
      .map((t) => number(t, "outputs_a", "Output step") / 1e3),
    frequencies: f.rows.map((r, i) => ({
      freq_hz: number(r.hz, `frequencies.${i}.freq_hz`, "Frequency"),
      watts: number(r.watts, `frequencies.${i}.watts`, "Power"),
      noise_t: number(r.noise, `frequencies.${i}.noise_t`, "Noise") * 1e-12,
      reads_depth: r.depth,
      reads_direction: r.direction,
    })),
    clamp: f.clamp
      ? {
          ...(base.clamp ?? { magnetising_h: 1.48e-3, min_freq_hz: 4000 }),
          turns: number(f.clamp_turns, "clamp.turns", "Clamp turns"),
        }
      : null,
    coil: f.coil
      ? {
          ...(base.coil ?? { corner_hz: 36000, height_m: 0.25, min_freq_hz: 4000 }),
          moment_a_m2: number(f.coil_moment, "coil.moment_a_m2", "Coil moment"),
        }
      : null,
    receiver: {
      low_m: number(f.low_m, "receiver.low_m", "Lower coil"),
      high_m: number(f.high_m, "receiver.high_m", "Upper coil"),
    },
  };
}

export function KitForm({ kit, kitId, onDone }: { kit: Kit; kitId: number | null; onDone: () => void }) {
  const [form, change, clear] = useDraft<Form>(`kit-${kitId ?? "new"}`, toForm(kit));
  const [error, setError] = useState<Refusal | null>(null);
  const save = useChange(async (body: Kit) => {
    if (kitId === null) await take(api.POST("/api/kits", { body: { kit: body } }));
    else
      await take(api.PUT("/api/kits/{kit_id}", { params: { path: { kit_id: kitId } }, body: { kit: body } }));
  });
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    try {
      await save.mutateAsync(toKit(form, kit));
      clear(form);
      onDone();
    } catch (err) {
      setError(asRefusal(err));
    }
  };
  type Plain =
    | "name"
    | "volts_max"
    | "battery_wh"
    | "clamp_turns"
    | "coil_moment"
    | "low_m"
    | "high_m"
    | "outputs";
  const text = (key: Plain, name: string = key) => ({
    name,
    value: form[key],
    error,
    onChange: (v: string) => change({ [key]: v }),
  });
  const row = (i: number, patch: Partial<Row>) =>
    change({ rows: form.rows.map((r, j) => (j === i ? { ...r, ...patch } : r)) });
  const next = Math.max(0, ...form.rows.map((r) => r.key + 1));
  const blank: Row = { key: next, hz: "", watts: "1", noise: "20", depth: true, direction: false };
  return (
    <form onSubmit={submit} noValidate className="grid gap-x-4 sm:grid-cols-2">
      <Field {...text("name")} label="Name" required />
      <Field {...text("outputs", "outputs_a")} label="Output steps, mA" required hint="5 15 30 60 120" />
      <Field {...text("volts_max")} label="Volts ceiling, V" required />
      <Field {...text("battery_wh")} label="Battery, Wh" required />
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
      <Tick name="clamp" label="Has a clamp" checked={form.clamp} onChange={(clamp) => change({ clamp })} />
      {form.clamp ? (
        <Field {...text("clamp_turns", "clamp.turns")} label="Clamp turns (volts to line volts)" />
      ) : (
        <div />
      )}
      <Tick
        name="coil"
        label="Has an induction coil"
        checked={form.coil}
        onChange={(coil) => change({ coil })}
      />
      {form.coil ? <Field {...text("coil_moment", "coil.moment_a_m2")} label="Coil moment, A m²" /> : <div />}
      <Field {...text("low_m", "receiver.low_m")} label="Lower receiver coil above ground, m" />
      <Field {...text("high_m", "receiver.high_m")} label="Upper receiver coil above ground, m" />
      <div className="sm:col-span-2">
        <FormError
          error={error}
          fields={[
            "name",
            "volts_max",
            "battery_wh",
            "outputs_a",
            "clamp",
            "coil",
            "receiver.low_m",
            "receiver.high_m",
            ...form.rows.flatMap((_, i) => [`frequencies.${i}`]),
          ]}
        />
        <Button type="submit" look="main" disabled={save.isPending}>
          Save kit
        </Button>
      </div>
    </form>
  );
}
