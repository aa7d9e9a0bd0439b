import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, type Job, type Schemas, take } from "../../api/client";
import { useCatalogue, useChange, useLine } from "../../api/queries";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry, TickEntry } from "../../ui/EntryForm";
import { Meanwhile } from "../../ui/Meanwhile";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import { Wait } from "../../ui/Wait";
import { useConsequences } from "../consequences/useConsequences";
import { AskWhy } from "../history/StrikeOut";
import { ElectricalData } from "./ElectricalData";
import { AS_USUAL, EMPTY, fromEarlier, fromLine, type LineFormState, numbers } from "./lineForm";
import { Neighbours } from "./Neighbours";
import { PointsOnLine } from "./PointsOnLine";

interface Props {
  job: Job;
  lineId?: number;
  /** What is filled in already: of a new line, or instead of what the line has. */
  given?: Partial<LineFormState>;
  onDone: (id: number) => void;
  onRemoved?: () => void;
}

export default function LineForm(p: Props) {
  const line = useLine(p.lineId ?? 0, p.lineId !== undefined);
  const catalogue = useCatalogue();
  return (
    <Wait query={catalogue} doing="Reading the constructions">
      {(c) =>
        p.lineId === undefined ? (
          <Form
            {...p}
            catalogue={c}
            start={{ ...EMPTY, ...p.given }}
            draft={`line-new-${p.job.id}${p.given?.near_note ?? ""}`}
          />
        ) : (
          <Wait query={line} doing="Reading the line">
            {(l) => (
              <Form
                {...p}
                catalogue={c}
                start={{ ...fromLine(l, c), ...p.given }}
                draft={`line-${l.id}${p.given?.preset ?? ""}`}
              />
            )}
          </Wait>
        )
      }
    </Wait>
  );
}

function Form(p: Props & { catalogue: Schemas["Catalogue"]; start: LineFormState; draft: string }) {
  const form = useEntryForm({ start: p.start, draft: p.draft, upgrade: fromEarlier });
  const chosen = useWatch({ control: form.control, name: "preset" });
  const bare = useWatch({ control: form.control, name: "bare_metal" });
  const toast = useToast();
  const units = p.job.units;
  const path = { params: { path: { line_id: p.lineId ?? 0 } } };
  const save = useChange("line", async (body: Schemas["LineForm"]) => {
    if (p.lineId === undefined)
      return (
        await take(api.POST("/api/jobs/{job_id}/lines", { params: { path: { job_id: p.job.id } }, body }))
      ).id;
    await take(api.PUT("/api/lines/{line_id}", { ...path, body }));
    return p.lineId;
  });
  const restore = useChange("line", () => take(api.POST("/api/lines/{line_id}/restore", path)));
  const remove = useChange("line", (why: string) =>
    take(api.DELETE("/api/lines/{line_id}", { params: { ...path.params, query: { why } } })),
  );
  const [asking, setAsking] = useState(false);
  const changes = useConsequences((body: Schemas["LineForm"], signal) =>
    take(api.POST("/api/lines/{line_id}/consequences", { ...path, body, signal })),
  );
  const send = async ({ construction, ...typed }: LineFormState) => {
    const body = { ...typed, overrides: numbers(construction) };
    if (p.lineId !== undefined && !(await changes.allowed(body))) return;
    const id = await save.mutateAsync(body);
    form.begin(EMPTY);
    await changes.settle();
    p.onDone(id);
  };
  const fresh = () => take(api.GET("/api/lines/{line_id}", path)).then((now) => fromLine(now, p.catalogue));
  const tick = (name: "bare_metal" | "core_only" | "live" | "in_service" | "cased", label: string) => (
    <TickEntry form={form} name={name} label={label} />
  );
  const onRemove = (why: string) =>
    remove.mutateAsync(why).then(() => {
      p.onRemoved?.();
      toast(`Removed “${form.getValues("name")}”.`, () => restore.mutate(undefined));
    }, form.refuse);
  const preset = p.catalogue.presets.find((x) => x.id === chosen);
  return (
    <>
      <EntryForm form={form} send={send} className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
        <TextEntry
          form={form}
          name="name"
          units={units}
          label="Name"
          required
          hint="As the crew will call it."
        />
        <ChoiceEntry
          form={form}
          label="Carries"
          name="utility"
          options={p.job.utilities.map((u) => ({
            id: u.id,
            label: `${u.label} (${u.colour.toLowerCase()}, ${u.letter})`,
          }))}
        />
        <div className="sm:col-span-2">
          <ChoiceEntry
            form={form}
            label="Construction"
            name="preset"
            then={() => form.put({ construction: AS_USUAL })}
            options={p.catalogue.presets.map((x) => ({ id: x.id, label: x.label }))}
            hint={preset?.note}
          />
          {preset?.construction ? <ElectricalData usual={preset.construction} form={form} /> : null}
        </div>
        <TextEntry
          form={form}
          name="length"
          units={units}
          label="Approximate length"
          quantity="distance"
          required
          hint={units === "metric" ? "140" : "460 or 460ft"}
        />
        <div />
        <TextEntry
          form={form}
          name="depth_min"
          units={units}
          label="Minimum depth"
          quantity="depth"
          required
          hint={units === "metric" ? "0.6 or 60" : "1'11 or 23in"}
        />
        <TextEntry
          form={form}
          name="depth_max"
          units={units}
          label="Maximum depth"
          quantity="depth"
          required
          hint={units === "metric" ? "1.0 or 100" : "3'3 or 39in"}
        />
        <fieldset className="sm:col-span-2">
          <legend className="mt-1 font-bold">Near end: the access point</legend>
          <div className="grid sm:grid-cols-2">
            {tick("bare_metal", "Bare metal can be reached")}
            {bare && preset?.shielded ? tick("core_only", "Only the centre conductor, not the sheath") : null}
            {tick("in_service", "Must stay in service")}
            {tick("live", "LIVE: dangerous voltage")}
            {tick("cased", "In metal casing or conduit there")}
          </div>
        </fieldset>
        <TextEntry form={form} name="near_note" units={units} label="Where it is" />
        <TextEntry
          form={form}
          name="near_earth"
          units={units}
          label="Earth bonded there, ohm"
          quantity="ohms"
          hint="Leave empty if none."
        />
        <ChoiceEntry
          form={form}
          label="Far end"
          name="far_kind"
          options={[
            { id: "unknown", label: "Unknown: plan for both" },
            { id: "open", label: "Open (not earthed)" },
            { id: "earthed", label: "Earthed" },
          ]}
        />
        <TextEntry
          form={form}
          name="far_earth"
          units={units}
          label="Far-end earth, ohm"
          quantity="ohms"
          hint="Typically 30 ohm."
        />
        <PointsOnLine job={p.job} catalogue={p.catalogue} form={form} />
        <Neighbours job={p.job} lineId={p.lineId} catalogue={p.catalogue} form={form} />
        <div className="flex flex-wrap gap-3 sm:col-span-2">
          <div className="w-full">
            <FormError form={form} />
            <Meanwhile form={form} fresh={fresh} send={send} />
            {changes.shown}
          </div>
          <Button type="submit" look="main" disabled={save.isPending || changes.checking}>
            {p.lineId === undefined ? "Add line" : "Save line"}
          </Button>
          {p.lineId === undefined ? null : (
            <Button look="quiet" onClick={() => setAsking(true)}>
              Remove this line
            </Button>
          )}
        </div>
      </EntryForm>
      {asking ? (
        <div className="mt-3">
          <AskWhy
            what="this line"
            verb="Remove"
            says="Why? It can be restored, and what was read on it stays."
            reasons={["Not there", "Entered twice", "Outside the dig"]}
            busy={remove.isPending}
            onGive={onRemove}
            onKeep={() => setAsking(false)}
          />
        </div>
      ) : null}
    </>
  );
}
