import { api, type Job, type Schemas, take } from "../../api/client";
import { sondeKey, useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Meanwhile } from "../../ui/Meanwhile";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";

type Run = Schemas["RunView"];
type Typed = {
  freq: string;
  start: string;
  way: string;
  check_at: string;
  check_signal: string;
  fall: string;
  seen: number | null;
};

const WAYS = [
  { id: "on", label: "on, away from the near end" },
  { id: "back", label: "back, towards the near end" },
];

const typedOf = (run: Run | null, usual: string, seen: number | null): Typed => ({
  freq: run?.freq ?? usual,
  start: run?.start ?? "",
  way: run?.way ?? "on",
  check_at: run?.check_at ?? "",
  check_signal: run?.check_signal ?? "",
  fall: run?.fall ?? "",
  seen,
});

/** What is set for a run: the sonde, where it goes in and which way; function check and fall where they are known. */
export function RunForm({ sonde: s, job, run }: { sonde: Schemas["SondeView"]; job: Job; run: Run | null }) {
  const form = useEntryForm<Typed>({
    start: typedOf(run, s.usual, run ? s.seen : null),
    draft: run ? `sonde-run-${run.id}` : `sonde-new-${s.line_id}`,
  });
  const toast = useToast();
  const ask = useConsequences<Schemas["RunForm"]>(
    (body, signal) =>
      take(
        api.POST("/api/sonde-runs/{run_id}/consequences", {
          signal,
          params: { path: { run_id: run?.id ?? 0 } },
          body,
        }),
      ),
    { onlyWorse: true },
  );
  const start = useChange("line", (body: Schemas["RunForm"]) =>
    take(api.POST("/api/lines/{line_id}/sonde-runs", { params: { path: { line_id: s.line_id } }, body })),
  );
  const change = useChange(
    "stop",
    (body: Schemas["RunForm"]) =>
      take(api.PUT("/api/sonde-runs/{run_id}", { params: { path: { run_id: run?.id ?? 0 } }, body })),
    { shown: sondeKey(s.line_id) },
  );
  const send = async (typed: Typed) => {
    const body: Schemas["RunForm"] = { ...typed, way: typed.way === "back" ? "back" : "on" };
    if (!run) {
      await start.mutateAsync(body);
      form.begin(typedOf(null, s.usual, null));
      return;
    }
    if (!(await ask.allowed(body))) return;
    const now = await change.mutateAsync(body);
    form.begin(typedOf(now.run, now.usual, now.seen));
    toast(ask.said.current || "Run saved.");
    await ask.settle();
  };
  const stored = () =>
    take(api.GET("/api/lines/{line_id}/sonde", { params: { path: { line_id: s.line_id } } })).then((now) =>
      typedOf(now.run, now.usual, now.seen),
    );
  const length = { form, quantity: "distance" as const, units: job.units };
  return (
    <EntryForm form={form} send={send} className="grid grid-cols-2 gap-x-3 gap-y-2">
      <TextEntry form={form} name="freq" label="Sonde's frequency" quantity="frequency" required />
      <TextEntry {...length} name="start" label="Put in at" hint="empty: the near end" />
      <div className="col-span-full">
        <ChoiceEntry form={form} name="way" label="Pushed" options={WAYS} />
      </div>
      <TextEntry {...length} name="check_at" label="Function check, at" hint="in the open" />
      <TextEntry
        form={form}
        name="check_signal"
        label="Signal there"
        quantity="signal"
        hint="at the gain you keep"
      />
      <TextEntry
        form={form}
        name="fall"
        label="Fall it should have"
        quantity="fall"
        hint="1.25 for 1.25 %, or 1:80"
      />
      <div className="col-span-full grid gap-2">
        {ask.shown}
        <FormError form={form} />
        {run ? <Meanwhile form={form} fresh={stored} send={send} /> : null}
        <Button
          type="submit"
          look="main"
          className={run ? "justify-self-start" : "w-full text-lg"}
          disabled={start.isPending || change.isPending || ask.checking}
        >
          {run ? "Save this run" : "Start the run"}
        </Button>
      </div>
    </EntryForm>
  );
}
