import { ShieldCheck } from "lucide-react";
import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, type Schemas, take } from "../../api/client";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Tick } from "../../ui/Field";
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
  keep: (read: Read) => Promise<unknown>;
}) {
  const form = useEntryForm<Typed>({ start: BLANK, draft: `bond-${p.setupId}` });
  const [read, setRead] = useState<Read | null>(null);
  const typed = useWatch({ control: form.control, name: "done" });
  const done = typed ? typed.split(" ") : [];
  const { steps } = p.guide;
  const guard = steps.findIndex((s) => s.protects && !done.includes(s.id));
  const tick = (id: string, on: boolean) => {
    const at = steps.findIndex((s) => s.id === id);
    // without a step that protects, nothing after it stands
    const gone = on ? [] : steps.slice(at, steps[at]?.protects ? undefined : at + 1).map((s) => s.id);
    const next = [...done, ...(on ? [id] : [])].filter((d) => !gone.includes(d));
    form.put({ done: next.join(" ") });
  };
  const send = async ({ done: steps_done, own, ...rest }: Typed) => {
    setRead(null);
    const body = { ...rest, own: own === "own", steps_done: steps_done.split(" ").filter(Boolean) };
    const path = { params: { path: { setup_id: p.setupId } } };
    setRead(await take(api.POST("/api/setups/{setup_id}/identity/bond", { ...path, body })));
  };
  const keep = async (found: Read) => {
    await p.keep(found);
    setRead(null);
    form.begin({ ...BLANK, consent: form.getValues("consent") });
  };
  return (
    <EntryForm form={form} send={send} className="mt-2 grid gap-x-3 sm:grid-cols-2">
      <ol className="col-span-full mb-2" aria-label="One bond, step by step">
        {steps.map((s, i) => (
          <li key={s.id} className={`border-t border-edge ${s.protects ? "font-semibold" : ""}`}>
            <Tick
              name={s.id}
              checked={done.includes(s.id)}
              disabled={guard >= 0 && i > guard}
              onChange={(on) => tick(s.id, on)}
              label={
                <>
                  {s.protects ? (
                    <ShieldCheck
                      role="img"
                      aria-label="Protects you:"
                      className="mr-1 inline size-4 text-hold"
                    />
                  ) : null}
                  {s.text}
                </>
              }
            />
          </li>
        ))}
      </ol>
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
        {read ? (
          <div role="status" className="grid justify-items-start gap-2" data-bond={read.answer}>
            <p className="font-semibold">{read.text}</p>
            <Button look="main" disabled={p.busy} onClick={() => void keep(read)}>
              Save as evidence
            </Button>
          </div>
        ) : null}
      </div>
    </EntryForm>
  );
}
