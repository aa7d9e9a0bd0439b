import { ArrowLeft, ArrowRight, Diamond } from "lucide-react";
import { useWatch } from "react-hook-form";
import { api, Refusal, type Schemas, take } from "../../api/client";
import { faultKey, useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry, useDoubtful } from "../../ui/EntryForm";
import { useKeys } from "../../ui/keys";
import { useEntryForm } from "../../ui/useEntryForm";
import { LiveFrame } from "../live/LiveFrame";

type Typed = { distance: string; arrow: string; level: string; across: string; note: string };
type Reading = Schemas["FrameReadingView"];

const ARROWS = [
  { id: "on", label: "On", icon: ArrowRight, says: "On, to the far end" },
  { id: "back", label: "Back", icon: ArrowLeft, says: "Back, to the near end" },
  { id: "null", label: "Null", icon: Diamond, says: "Null: neither way" },
] as const;

const EMPTY: Typed = { distance: "", arrow: "", level: "", across: "", note: "" };

const typedOf = (r: Reading): Typed => ({
  distance: r.typed.distance ?? "",
  arrow: r.arrow,
  level: r.typed.level ?? "",
  across: r.across,
  note: r.note,
});

/** One place of the walk: where, which way the frame points, how strong. */
export function FrameForm(p: {
  view: Schemas["FaultView"];
  shown: Schemas["FaultRecord"];
  reading: Reading | null;
  onDone: () => void;
}) {
  const { reading, view } = p;
  const walk_id = p.shown.walk.id;
  const form = useEntryForm<Typed>({
    start: reading ? typedOf(reading) : EMPTY,
    draft: reading ? `frame-${reading.id}` : `frame-new-${walk_id}`,
  });
  const doubtful = useDoubtful(form);
  const arrow = useWatch({ control: form.control, name: "arrow" });
  const save = useChange(
    "frame",
    (body: Schemas["FrameForm"]) =>
      reading
        ? take(
            api.PUT("/api/frame-readings/{reading_id}", {
              params: { path: { reading_id: reading.id } },
              body,
            }),
          )
        : take(api.POST("/api/fault-walks/{walk_id}/readings", { params: { path: { walk_id } }, body })),
    { shown: faultKey(view.line_id) },
  );
  const send = (insist: boolean) => async (typed: Typed) => {
    if (!typed.arrow)
      throw new Refusal(
        "arrow",
        "Which way the frame points is not entered.",
        "Tap On, Back or Null.",
        "missing",
      );
    await save.mutateAsync({ ...typed, insist } as Schemas["FrameForm"]);
    form.begin(EMPTY);
    p.onDone();
    if (!reading) form.goTo("distance");
  };
  useKeys({ n: () => form.goTo("distance") });
  const across = view.fields.find((f) => f.id === "across")?.choices ?? [];
  return (
    <section className="card scroll-mt-2 lg:p-3" aria-label={reading ? "Correct a reading" : "Next reading"}>
      <h2>{reading ? `Correct the reading at ${reading.distance_text}` : "Next reading"}</h2>
      {reading ? null : <p className="mb-2 font-semibold">{p.shown.next_text}</p>}
      {reading ? null : (
        <LiveFrame
          lineId={view.line_id}
          units={view.units}
          onTake={form.put}
          submit={form.sending(send(false))}
        />
      )}
      <EntryForm form={form} send={send(false)} className="grid grid-cols-2 gap-x-3">
        <TextEntry
          form={form}
          name="distance"
          label="Distance along"
          quantity="distance"
          units={view.units}
          required
        />
        <TextEntry form={form} name="level" label="Level" quantity="signal" hint="as shown, or like 52dB" />
        <fieldset className="col-span-full mb-3">
          <legend className="mb-1 text-sm font-semibold">The frame points</legend>
          <div className="grid grid-cols-3 gap-2">
            {ARROWS.map((a) => {
              const Icon = a.icon;
              return (
                <Button
                  key={a.id}
                  aria-pressed={arrow === a.id}
                  aria-label={a.says}
                  className={`min-h-14 text-lg ${arrow === a.id ? "border-2 border-ink bg-soil font-bold" : ""}`}
                  onClick={() => form.setValue("arrow", a.id, { shouldDirty: true })}
                >
                  <Icon aria-hidden className="size-6" /> {a.label}
                </Button>
              );
            })}
          </div>
        </fieldset>
        <ChoiceEntry form={form} name="across" label="Turned across" options={across} />
        <TextEntry form={form} name="note" label="Note" />
        <div className="col-span-full flex flex-wrap gap-2 bg-sheet lg:sticky lg:-bottom-3 lg:pb-3">
          <div className="w-full">
            <FormError form={form} />
          </div>
          <Button type="submit" look="main" disabled={save.isPending} className="w-full text-lg sm:w-auto">
            {reading ? "Save reading" : "Add reading"}
          </Button>
          {doubtful ? (
            <Button look="stop" disabled={save.isPending} onClick={form.sending(send(true))}>
              Keep as typed
            </Button>
          ) : null}
          {reading ? <Button onClick={p.onDone}>Cancel</Button> : null}
        </div>
      </EntryForm>
    </section>
  );
}
