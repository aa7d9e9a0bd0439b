import { useWatch } from "react-hook-form";
import { asRefusal, type Job, Refusal, type Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { type EntryFormState, useEntryForm } from "../../ui/useEntryForm";

type Passive = Schemas["PassiveView"];
type Source = Schemas["HitForm"]["source"];

const NEW = { source: "mains" as string, place: "", note: "", near: "", away: "", towards: "" };
export const NO_TAPE = { near: "", away: "", towards: "" };
const COMPASS = ["N", "NE", "E", "SE", "S", "SW", "W", "NW"];

export type HitEntry = EntryFormState<typeof NEW>;

/** The form of a hit, which the plan beside it fills in by a tap. */
export const useHitEntry = (job: Job): HitEntry => useEntryForm({ start: NEW, draft: `hit-${job.id}` });

/** Log a hit of the passive sweep: tapped on the plan, taped from a point of it, or in words. */
export function LogHit(p: {
  form: HitEntry;
  job: Job;
  count: number;
  passive: Passive;
  drawn: boolean;
  busy: boolean;
  onAdd: (hit: Schemas["HitForm"]) => Promise<void>;
}) {
  const { form } = p;
  const { sources, points } = p.passive;
  const { place, near } = useWatch({ control: form.control });
  const send = async (typed: typeof NEW) => {
    try {
      const taped = typed.place ? NO_TAPE : {};
      await p.onAdd({ ...typed, ...taped, source: typed.source as Source });
    } catch (e) {
      // a refusal of the hit being added names its number, counted from those on record
      const { field, message, fix, code } = asRefusal(e);
      throw new Refusal(field.replace(`hits.${p.count}.`, ""), message, fix, code);
    }
    form.begin(NEW);
  };
  return (
    <EntryForm form={form} send={send} className="mt-1">
      <h3>Log a hit</h3>
      <div className="grid grid-cols-2 gap-x-3">
        <ChoiceEntry form={form} label="Receiver hears" name="source" options={sources} />
        <TextEntry
          form={form}
          name="place"
          label={p.drawn ? "Place: tap the plan" : "Place, such as 12 E, 3 S"}
        />
        {points.length && !place ? (
          <ChoiceEntry
            form={form}
            label="Or measured from"
            name="near"
            options={[{ id: "", label: "nothing" }, ...points.map((id) => ({ id, label: id }))]}
          />
        ) : null}
        {near && !place ? (
          <>
            <TextEntry form={form} name="away" label="How far" quantity="distance" units={p.job.units} />
            <ChoiceEntry
              form={form}
              label="Which way"
              name="towards"
              options={[{ id: "", label: "choose" }, ...COMPASS.map((id) => ({ id, label: id }))]}
            />
          </>
        ) : null}
        <div className={points.length && (place || near) ? "col-span-2" : ""}>
          <TextEntry form={form} name="note" label="In words" />
        </div>
      </div>
      <FormError form={form} />
      <Button type="submit" className="mt-1 w-full" disabled={p.busy}>
        Log the hit
      </Button>
      <p className="mt-2 text-sm text-quiet">{p.passive.caution}</p>
    </EntryForm>
  );
}
