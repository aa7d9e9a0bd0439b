import { Plus, X } from "lucide-react";
import { useFieldArray, useFormState, useWatch } from "react-hook-form";
import { api, asRefusal, Refusal, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry, TickEntry } from "../../ui/EntryForm";
import { Fold } from "../../ui/Fold";
import { type EntryFormState, useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";
import { FIGURES, fromEarlier, type Kit, type KitFormState, type Row, toForm, toKit } from "./kitForm";

const BLANK: Row = { freq_hz: "", watts: "1", noise_t: "20", depth: true, direction: false };

/** The transmitter's own figures are refused by their bare name; on the form they are a part like the others. */
function ofPart(e: unknown): Refusal {
  const r = asRefusal(e);
  const own = FIGURES.find((f) => f.part === "kit" && f.key === r.field);
  return own ? new Refusal(`kit.${own.key}`, r.message, r.fix, r.code) : r;
}

export function KitForm({
  kit,
  kitId,
  from = "",
  onDone,
}: {
  kit: Kit;
  kitId: number | null;
  /** The size it was begun from: each keeps a draft of its own. */
  from?: string;
  onDone: () => void;
}) {
  const form = useEntryForm({
    start: toForm(kit),
    draft: `kit-${kitId ?? `new${from}`}`,
    upgrade: fromEarlier,
  });
  const clamp = useWatch({ control: form.control, name: "has_clamp" });
  const coil = useWatch({ control: form.control, name: "has_coil" });
  const save = useChange("kit", async (body: Kit) => {
    if (kitId === null) await take(api.POST("/api/kits", { body: { kit: body } }));
    else
      await take(api.PUT("/api/kits/{kit_id}", { params: { path: { kit_id: kitId } }, body: { kit: body } }));
  });
  const changes = useConsequences((body: Kit, signal) =>
    take(
      api.POST("/api/kits/{kit_id}/consequences", {
        params: { path: { kit_id: kitId ?? 0 } },
        body: { kit: body },
        signal,
      }),
    ),
  );
  const send = async (typed: KitFormState) => {
    const named = (e: unknown) => {
      throw ofPart(e);
    };
    if (kitId !== null && !(await changes.allowed(toKit(typed)).catch(named))) return;
    await save.mutateAsync(toKit(typed)).catch(named);
    await changes.settle();
    form.begin(typed);
    onDone();
  };
  const { errors } = useFormState({ control: form.control });
  const rows = useWatch({ control: form.control, name: "frequencies" });
  const parts = ["kit", ...(clamp ? ["clamp"] : []), ...(coil ? ["coil"] : []), "receiver"];
  const figures = (printed: boolean, ...of: string[]) =>
    FIGURES.filter((f) => of.includes(f.part) && Boolean(f.printed) === printed).map((f) => (
      <TextEntry
        key={`${f.part}.${f.key}`}
        form={form}
        name={`${f.part}.${f.key}`}
        label={f.label}
        hint={f.hint ?? `typical: ${f.usual}`}
      />
    ));
  const hidden =
    FIGURES.some((f) => !f.printed && errors[f.part]?.[f.key]) ||
    rows.some((_, i) => errors.frequencies?.[i]?.noise_t);
  return (
    <EntryForm form={form} send={send} className="grid gap-x-4 sm:grid-cols-2">
      <p className="mb-2 text-quiet sm:col-span-2">
        As printed on the devices. What is not printed keeps typical values.
      </p>
      <TextEntry form={form} name="name" label="Name" required />
      <TextEntry form={form} name="outputs_a" label="Output steps, mA" required hint="5 15 30 60 120" />
      {figures(true, "kit")}
      <Frequencies form={form} />
      <div className="sm:col-span-2">
        <TickEntry form={form} name="has_clamp" label="Has a clamp" />
      </div>
      {clamp ? figures(true, "clamp") : null}
      <div className="sm:col-span-2">
        <TickEntry form={form} name="has_coil" label="Has an induction coil" />
      </div>
      {coil ? figures(true, "coil") : null}
      <Fold needs={hidden} className="sm:col-span-2" summary="Not printed: noise, clamp, coil, receiver">
        <div className="grid gap-x-4 sm:grid-cols-2">
          {rows.map((row, i) => (
            <TextEntry
              key={i}
              form={form}
              name={`frequencies.${i}.noise_t`}
              label={`Noise at ${row.freq_hz || "?"} Hz, pT`}
              hint="typical: 100 at 560 Hz, 20 at 9 kHz, 2 at 36 kHz"
            />
          ))}
          {figures(false, ...parts)}
        </div>
      </Fold>
      <div className="sm:col-span-2">
        <FormError form={form} />
        {changes.shown}
        <Button type="submit" look="main" disabled={save.isPending || changes.checking}>
          Save kit
        </Button>
      </div>
    </EntryForm>
  );
}

function Frequencies({ form }: { form: EntryFormState<KitFormState> }) {
  const { fields, append, remove } = useFieldArray({ control: form.control, name: "frequencies" });
  return (
    <fieldset className="sm:col-span-2">
      <legend className="font-bold">Frequencies</legend>
      {fields.map((row, i) => (
        <div
          key={row.id}
          className="mb-1 grid grid-cols-2 items-start gap-x-3 border-t border-edge pt-2 sm:grid-cols-[1fr_1fr_auto_auto_auto]"
        >
          <TextEntry form={form} name={`frequencies.${i}.freq_hz`} label="Hz" />
          <TextEntry form={form} name={`frequencies.${i}.watts`} label="Power, W" />
          <div className="sm:mt-6">
            <TickEntry form={form} name={`frequencies.${i}.depth`} label="reads depth" />
          </div>
          <div className="sm:mt-6">
            <TickEntry form={form} name={`frequencies.${i}.direction`} label="reads direction" />
          </div>
          <Button
            className="px-2.5 sm:mt-6"
            aria-label={`Remove ${row.freq_hz || "this"} Hz`}
            onClick={() => remove(i)}
          >
            <X aria-hidden />
          </Button>
        </div>
      ))}
      <Button onClick={() => append(BLANK)} className="mb-3">
        <Plus aria-hidden className="size-5" /> Add a frequency
      </Button>
    </fieldset>
  );
}
