import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, type Schemas, take } from "../../api/client";
import { Button } from "../../ui/Button";
import { StepList, ticked } from "../../ui/Checklist";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { useEntryForm } from "../../ui/useEntryForm";

type Typed = { name: string; own: string; consent: string; before: string; after: string; done: string };
type Read = Schemas["BondReadView"];

const BLANK: Typed = { name: "", own: "other", consent: "", before: "", after: "", done: "" };
const WHOSE = [
  { id: "other", label: "another line's" },
  { id: "own", label: "this line's own" },
];

/** One bond opened after the other, step by step; what the current says then is kept as evidence. */
export function BondGuide(p: {
  setupId: number;
  guide: Schemas["BondGuideView"];
  busy: boolean;
  /** Stores it; `onKept` is called once it is stored, and not where the user thinks better of it. */
  keep: (read: Read, onKept: () => void) => Promise<unknown>;
}) {
  const form = useEntryForm<Typed>({ start: BLANK, draft: `bond-${p.setupId}` });
  const [read, setRead] = useState<{ of: string; found: Read } | null>(null);
  const typed = useWatch({ control: form.control }) as Typed;
  const done = typed.done ? typed.done.split(" ") : [];
  const tick = (id: string, on: boolean) => form.put({ done: ticked(p.guide.steps, done, id, on).join(" ") });
  const send = async (sent: Typed) => {
    const { done: steps_done, own, ...rest } = sent;
    const body = { ...rest, own: own === "own", steps_done: steps_done.split(" ").filter(Boolean) };
    const path = { params: { path: { setup_id: p.setupId } } };
    const found = await take(api.POST("/api/setups/{setup_id}/identity/bond", { ...path, body }));
    setRead({ of: JSON.stringify(sent), found });
  };
  // what was checked is no longer what is typed: it has to be checked again
  const found = read && read.of === JSON.stringify(typed) ? read.found : null;
  const begin = () => form.begin({ ...BLANK, consent: typed.consent });
  return (
    <EntryForm form={form} send={send} className="mt-2 grid gap-x-3 sm:grid-cols-2">
      <div className="col-span-full mb-2">
        <StepList label="One bond, step by step" steps={p.guide.steps} done={done} tick={tick} />
      </div>
      <TextEntry
        form={form}
        name="name"
        label="Bond that was opened"
        hint={`Bonded here: ${p.guide.names.join(", ")}`}
      />
      <ChoiceEntry form={form} name="own" label="It is" options={WHOSE} />
      <TextEntry form={form} name="before" label="Current, bond closed" quantity="current" hint="mA" />
      <TextEntry
        form={form}
        name="after"
        label="Current, bond open"
        quantity="current"
        hint="mA, same station"
      />
      <TextEntry form={form} name="consent" label="Who agreed" hint="For the owner, by name" />
      <div className="col-span-full grid justify-items-start gap-2">
        <FormError form={form} />
        <Button type="submit">Check this bond</Button>
        {found ? (
          <div role="status" className="grid justify-items-start gap-2" data-bond={found.answer}>
            <p className="font-semibold">{found.text}</p>
            <Button look="main" disabled={p.busy} onClick={() => void p.keep(found, begin)}>
              Save as evidence
            </Button>
          </div>
        ) : null}
      </div>
    </EntryForm>
  );
}
