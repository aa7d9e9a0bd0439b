import { type FormEvent, useState } from "react";
import { api, asRefusal, type Job, type Refusal, type Schemas, take } from "../../api/client";
import { useCatalogue, useChange, useLine } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Choice, Field, FormError, Tick } from "../../ui/Field";
import { useToast } from "../../ui/Toasts";
import { Wait } from "../../ui/Wait";
import { ElectricalData } from "./ElectricalData";

import { type Neighbour, Neighbours } from "./Neighbours";

type Construction = Schemas["ConstructionDoc"];
type Body = Schemas["LineForm"];

const EMPTY = {
  name: "",
  utility: "gas",
  preset: "tracer_wire",
  overrides: {} as Record<string, string>,
  length: "",
  depth_min: "",
  depth_max: "",
  bare_metal: true,
  live: false,
  in_service: true,
  cased: false,
  near_earth: "",
  near_note: "",
  far_kind: "unknown" as Schemas["LineDetail"]["far_kind"],
  far_earth: "",
  neighbours: [] as Neighbour[],
};
export type LineFormState = typeof EMPTY;

interface Props {
  job: Job;
  lineId?: number;
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
          <Form {...p} catalogue={c} start={EMPTY} draft={`line-new-${p.job.id}`} />
        ) : (
          <Wait query={line} doing="Reading the line">
            {(l) => <Form {...p} catalogue={c} start={fromLine(l, c)} draft={`line-${l.id}`} />}
          </Wait>
        )
      }
    </Wait>
  );
}

function fromLine(l: Schemas["LineDetail"], c: Schemas["Catalogue"]): LineFormState {
  const usual = c.presets.find((x) => x.id === l.preset)?.construction;
  const changed = Object.entries(l.construction ?? {}).filter(
    ([k, v]) => usual && usual[k as keyof Construction] !== v,
  );
  const { id: _, job_id: __, construction: ___, ...rest } = l;
  const neighbours = rest.neighbours.map((n) => ({ ...n, key: crypto.randomUUID() }));
  return {
    ...EMPTY,
    ...rest,
    neighbours,
    overrides: Object.fromEntries(changed.map(([k, v]) => [k, String(v)])),
  };
}

const numbers = (texts: Record<string, string>): Record<string, number> =>
  Object.fromEntries(
    Object.entries(texts)
      .filter(([, v]) => v.trim() !== "")
      .map(([k, v]) => [k, Number(v)]),
  );

function Form(p: Props & { catalogue: Schemas["Catalogue"]; start: LineFormState; draft: string }) {
  const [form, change, clear] = useDraft(p.draft, p.start);
  const [error, setError] = useState<Refusal | null>(null);
  const toast = useToast();
  const units = p.job.units;
  const path = { params: { path: { line_id: p.lineId ?? 0 } } };
  const save = useChange("line", async (body: Body) => {
    if (p.lineId === undefined)
      return (
        await take(api.POST("/api/jobs/{job_id}/lines", { params: { path: { job_id: p.job.id } }, body }))
      ).id;
    await take(api.PUT("/api/lines/{line_id}", { ...path, body }));
    return p.lineId;
  });
  const restore = useChange("line", () => take(api.POST("/api/lines/{line_id}/restore", path)));
  const remove = useChange("line", () => take(api.DELETE("/api/lines/{line_id}", path)));
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    const bad = Object.entries(form.overrides).find(
      ([, v]) => v.trim() !== "" && !Number.isFinite(Number(v)),
    );
    try {
      // JSON has no way to say "not a number", so the server never sees one: refuse it here by name
      if (bad)
        throw {
          field: `construction.${bad[0]}`,
          message: `“${bad[1]}” is not a number.`,
          fix: "Type it as 0.0008 or 8e-4.",
        };
      const id = await save.mutateAsync({
        ...form,
        overrides: numbers(form.overrides),
        neighbours: form.neighbours.map(({ key: _, ...n }) => n),
      });
      clear(EMPTY);
      p.onDone(id);
    } catch (err) {
      setError(err instanceof Error ? asRefusal(err) : (err as Refusal));
    }
  };
  const text = (name: keyof LineFormState) => ({
    name,
    units,
    value: String(form[name] ?? ""),
    error,
    onChange: (v: string) => change({ [name]: v }),
  });
  const tick = (name: "bare_metal" | "live" | "in_service" | "cased", label: string) => (
    <Tick name={name} label={label} checked={form[name]} onChange={(on) => change({ [name]: on })} />
  );
  const onRemove = () =>
    remove.mutateAsync(undefined).then(
      () => {
        p.onRemoved?.();
        toast(`Removed “${form.name}”.`, () => restore.mutate(undefined));
      },
      (e) => setError(asRefusal(e)),
    );
  const preset = p.catalogue.presets.find((x) => x.id === form.preset);
  return (
    <form onSubmit={submit} noValidate className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
      <Field {...text("name")} label="Name" required hint="As the crew will call it." />
      <Choice
        label="Carries"
        name="utility"
        value={form.utility}
        onChange={(v) => change({ utility: v })}
        options={p.job.utilities.map((u) => ({
          id: u.id,
          label: `${u.label} (${u.colour.toLowerCase()}, ${u.letter})`,
        }))}
        error={error}
      />
      <div className="sm:col-span-2">
        <Choice
          label="Construction"
          name="preset"
          value={form.preset}
          onChange={(v) => change({ preset: v, overrides: {} })}
          options={p.catalogue.presets.map((x) => ({ id: x.id, label: x.label }))}
          hint={preset?.note}
          error={error}
        />
        {preset?.construction ? (
          <ElectricalData
            usual={preset.construction}
            overrides={form.overrides}
            onChange={(overrides) => change({ overrides })}
            error={error}
          />
        ) : null}
      </div>
      <Field
        {...text("length")}
        label="Approximate length"
        quantity="distance"
        required
        hint={units === "metric" ? "140" : "460 or 460ft"}
      />
      <div />
      <Field
        {...text("depth_min")}
        label="Minimum depth"
        quantity="depth"
        required
        hint={units === "metric" ? "0.6 or 60" : "1'11 or 23in"}
      />
      <Field
        {...text("depth_max")}
        label="Maximum depth"
        quantity="depth"
        required
        hint={units === "metric" ? "1.0 or 100" : "3'3 or 39in"}
      />
      <fieldset className="sm:col-span-2">
        <legend className="mt-1 font-bold">Near end: the access point</legend>
        <div className="grid sm:grid-cols-2">
          {tick("bare_metal", "Bare metal can be reached")}
          {tick("in_service", "Must stay in service")}
          {tick("live", "LIVE: dangerous voltage")}
          {tick("cased", "In metal casing or conduit there")}
        </div>
      </fieldset>
      <Field {...text("near_note")} label="Where it is" />
      <Field
        {...text("near_earth")}
        label="Earth bonded there, ohm"
        quantity="ohms"
        hint="Leave empty if none."
      />
      <Choice
        label="Far end"
        name="far_kind"
        value={form.far_kind}
        onChange={(v) => change({ far_kind: v as LineFormState["far_kind"] })}
        options={[
          { id: "unknown", label: "Unknown: plan for both" },
          { id: "open", label: "Open (not earthed)" },
          { id: "earthed", label: "Earthed" },
        ]}
        error={error}
      />
      <Field {...text("far_earth")} label="Far-end earth, ohm" quantity="ohms" hint="Typically 30 ohm." />
      <Neighbours
        job={p.job}
        lineId={p.lineId}
        catalogue={p.catalogue}
        value={form.neighbours}
        onChange={(neighbours) => change({ neighbours })}
        error={error}
      />
      <div className="flex flex-wrap gap-3 sm:col-span-2">
        <div className="w-full">
          <FormError error={error} fields={[...Object.keys(EMPTY), "construction"]} />
        </div>
        <Button type="submit" look="main" disabled={save.isPending}>
          {p.lineId === undefined ? "Add line" : "Save line"}
        </Button>
        {p.lineId === undefined ? null : (
          <Button look="quiet" onClick={onRemove}>
            Remove this line
          </Button>
        )}
      </div>
    </form>
  );
}
