import { type FormEvent, useState } from "react";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useCatalogue, useChange, useKits } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { Choice, Field, FormError } from "../../ui/Field";

type Form = Schemas["JobForm"];

const EMPTY = {
  name: "",
  dig: "",
  due_at: "",
  units: "metric" as Form["units"],
  soil_kind: "loam",
  soil_resistivity: "",
  technician: "",
  kit_id: null as number | null,
};

const fromJob = (job: Schemas["JobView"]): typeof EMPTY => ({
  name: job.name,
  dig: job.dig,
  due_at: job.due_at ?? "",
  units: job.units,
  soil_kind: job.soil_kind,
  soil_resistivity: job.soil_resistivity_typed,
  technician: job.technician,
  kit_id: job.kit_id,
});

export default function JobForm({ job, onDone }: { job?: Schemas["JobView"]; onDone: (id: number) => void }) {
  const start = job ? fromJob(job) : EMPTY;
  const [form, change, clear] = useDraft(job ? `job-${job.id}` : "job-new", start);
  const [error, setError] = useState<Refusal | null>(null);
  const catalogue = useCatalogue().data;
  const kits = useKits().data ?? [];
  const save = useChange("job", async (body: Form) => {
    if (!job) return (await take(api.POST("/api/jobs", { body }))).id;
    await take(api.PUT("/api/jobs/{job_id}", { params: { path: { job_id: job.id } }, body }));
    return job.id;
  });
  const submit = async (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    try {
      const id = await save.mutateAsync(form);
      clear(EMPTY);
      onDone(id);
    } catch (err) {
      setError(asRefusal(err));
    }
  };
  const text = (name: keyof typeof EMPTY) => ({
    name,
    value: String(form[name] ?? ""),
    error,
    onChange: (v: string) => change({ [name]: v }),
  });
  return (
    <form onSubmit={submit} noValidate className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
      <div className="sm:col-span-2">
        <Field {...text("name")} label="Job name" required />
      </div>
      <div className="sm:col-span-2">
        <Field {...text("dig")} label="What will be dug, and where" multiline />
      </div>
      <Field {...text("technician")} label="Technician" required hint="Stands on every reading and mark." />
      <Field {...text("due_at")} label="Due" type="datetime-local" />
      <Choice
        label="Units"
        name="units"
        value={form.units ?? "metric"}
        error={error}
        onChange={(v) => change({ units: v as Form["units"] })}
        options={[
          { id: "metric", label: "Metres" },
          { id: "imperial", label: "Feet and inches" },
        ]}
      />
      <Choice
        label="Kit"
        name="kit_id"
        value={String(form.kit_id ?? kits[0]?.id ?? "")}
        error={error}
        onChange={(v) => change({ kit_id: Number(v) })}
        options={kits.map((k) => ({ id: String(k.id), label: k.kit.name }))}
      />
      <Choice
        label="Soil"
        name="soil_kind"
        value={form.soil_kind ?? "loam"}
        error={error}
        onChange={(v) => change({ soil_kind: v })}
        options={(catalogue?.soils ?? []).map((s) => ({
          id: s.id,
          label: `${s.label} (typically ${s.resistivity_ohm_m} ohm m)`,
        }))}
      />
      <Field
        {...text("soil_resistivity")}
        label="Measured resistivity, ohm m"
        quantity="resistivity"
        hint="Leave empty to use the typical value."
      />
      <div className="sm:col-span-2">
        <FormError error={error} fields={Object.keys(EMPTY)} />
        <Button type="submit" look="main" disabled={save.isPending} className="mt-2 w-full sm:w-auto">
          {job ? "Save job" : "Create job"}
        </Button>
      </div>
    </form>
  );
}
