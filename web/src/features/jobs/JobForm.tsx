import { api, type Schemas, take } from "../../api/client";
import { useCatalogue, useChange, useKits } from "../../api/queries";
import { who } from "../../api/who";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Meanwhile } from "../../ui/Meanwhile";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";

type Body = Schemas["JobForm"];

const EMPTY = {
  name: "",
  dig: "",
  address: "",
  notice: "",
  client: "",
  contact: "",
  due_at: "",
  units: "metric" as Body["units"],
  soil_kind: "loam",
  soil_resistivity: "",
  technician: "",
  kit_id: "",
  seen: null as number | null,
};

const fromJob = (job: Schemas["JobView"]): typeof EMPTY => ({
  name: job.name,
  dig: job.dig,
  address: job.address,
  notice: job.notice,
  client: job.client,
  contact: job.contact,
  due_at: job.due_at ?? "",
  units: job.units,
  soil_kind: job.soil_kind,
  soil_resistivity: job.soil_resistivity_typed,
  technician: job.technician,
  kit_id: String(job.kit_id),
  seen: job.seen,
});

export default function JobForm({ job, onDone }: { job?: Schemas["JobView"]; onDone: (id: number) => void }) {
  const form = useEntryForm({
    start: job ? fromJob(job) : { ...EMPTY, technician: who() },
    draft: job ? `job-${job.id}` : "job-new",
  });
  const catalogue = useCatalogue().data;
  const kits = useKits().data ?? [];
  const save = useChange("job", async (body: Body) => {
    if (!job) return (await take(api.POST("/api/jobs", { body }))).id;
    await take(api.PUT("/api/jobs/{job_id}", { params: { path: { job_id: job.id } }, body }));
    return job.id;
  });
  const changes = useConsequences((body: Body, signal) =>
    take(
      api.POST("/api/jobs/{job_id}/consequences", {
        params: { path: { job_id: job?.id ?? 0 } },
        body,
        signal,
      }),
    ),
  );
  const send = async (typed: typeof EMPTY) => {
    const body = { ...typed, kit_id: typed.kit_id ? Number(typed.kit_id) : null };
    if (job && !(await changes.allowed(body))) return;
    const id = await save.mutateAsync(body);
    form.begin(EMPTY);
    await changes.settle();
    onDone(id);
  };
  const fresh = () =>
    take(api.GET("/api/jobs/{job_id}", { params: { path: { job_id: job?.id ?? 0 } } })).then(fromJob);
  return (
    <EntryForm form={form} send={send} className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
      <div className="sm:col-span-2">
        <TextEntry form={form} name="name" label="Job name" required />
      </div>
      <div className="sm:col-span-2">
        <TextEntry form={form} name="dig" label="What will be dug, and where" multiline />
      </div>
      <TextEntry form={form} name="address" label="Address" />
      <TextEntry form={form} name="notice" label="Notice number" />
      <TextEntry
        form={form}
        name="technician"
        label="Technician"
        required
        hint="Goes on every reading and mark."
      />
      <TextEntry form={form} name="due_at" label="Due" type="datetime-local" />
      <ChoiceEntry
        form={form}
        label="Units"
        name="units"
        options={[
          { id: "metric", label: "Metres" },
          { id: "imperial", label: "Feet and inches" },
        ]}
      />
      <ChoiceEntry
        form={form}
        label="Kit"
        name="kit_id"
        options={kits.map((k) => ({ id: String(k.id), label: k.kit.name }))}
      />
      <ChoiceEntry
        form={form}
        label="Soil"
        name="soil_kind"
        options={(catalogue?.soils ?? []).map((s) => ({
          id: s.id,
          label: `${s.label} (typically ${s.resistivity_ohm_m} ohm m)`,
        }))}
      />
      <TextEntry
        form={form}
        name="soil_resistivity"
        label="Measured resistivity, ohm m"
        quantity="resistivity"
        hint="Leave empty to use the typical value."
      />
      <TextEntry form={form} name="client" label="Client" />
      <TextEntry form={form} name="contact" label="Contact on site" />
      <div className="sm:col-span-2">
        <FormError form={form} />
        <Meanwhile form={form} fresh={fresh} send={send} />
        {changes.shown}
        <Button
          type="submit"
          look="main"
          disabled={save.isPending || changes.checking}
          className="mt-2 w-full sm:w-auto"
        >
          {job ? "Save job" : "Create job"}
        </Button>
      </div>
    </EntryForm>
  );
}
