import { ToggleGroup } from "radix-ui";
import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, asRefusal, type Job, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { useEntryForm } from "../../ui/useEntryForm";

type Check = Schemas["CheckView"];
type Answer = Check["answer"];

const ANSWERS = [
  { id: "yes", label: "Yes", on: "border-mark bg-mark-bg text-mark" },
  { id: "no", label: "No", on: "border-hold bg-hold-bg text-hold" },
  { id: "not_needed", label: "Not needed", on: "border-need bg-need-bg text-need" },
] as const;

export function Checks({ job, group }: { job: Job; group: Schemas["CheckGroupView"] }) {
  return (
    <section className="card" aria-label={group.title}>
      <ul>
        {group.checks.map((c) => (
          <Row key={c.id} job={job} check={c} />
        ))}
      </ul>
    </section>
  );
}

/** One check. An answer shows at once; answers of one job are sent in turn, so that quick taps keep each other. */
function Row({ job, check: c }: { job: Job; check: Check }) {
  const form = useEntryForm({ start: { note: c.note } });
  const { note = "" } = useWatch({ control: form.control });
  const [why, setWhy] = useState(false);
  const send = useChange(
    "checks",
    (body: { answer: Answer; note: string }) =>
      take(
        api.PUT("/api/jobs/{job_id}/before/checks/{check_id}", {
          params: { path: { job_id: job.id, check_id: c.id } },
          body: { ...body, technician: job.technician },
        }),
      ),
    { scope: `before-${job.id}` },
  );
  const shown = send.isPending ? send.variables.answer : c.answer;
  const error = send.isError ? asRefusal(send.error) : null;
  const choose = (answer: Answer) => {
    const next = answer === shown ? "" : answer;
    // what is not needed is only sent with its reason
    setWhy(next === "not_needed" && !note.trim());
    if (next !== "not_needed" || note.trim()) send.mutate({ answer: next, note }, { onError: form.refuse });
  };
  const explain = async (typed: { note: string }) => {
    await send.mutateAsync({ answer: why ? "not_needed" : shown, note: typed.note });
    setWhy(false);
  };
  const open = why || shown === "not_needed" || shown === "no";
  return (
    <li
      className="border-t border-edge py-3 first:border-0 xl:grid xl:grid-cols-[minmax(0,1fr)_22rem] xl:gap-x-6 xl:py-2"
      data-check={c.id}
    >
      <div>
        <p className="font-semibold">{c.text}</p>
        <p className="text-sm text-quiet">{c.why}</p>
      </div>
      <ToggleGroup.Root
        type="single"
        aria-label={c.text}
        value={shown}
        // a tap on the answer given takes it back
        onValueChange={(next) => choose((next || shown) as Answer)}
        className="mt-2 grid max-w-md grid-cols-[1fr_1fr_1.4fr] gap-2 xl:mt-0 xl:self-start"
      >
        {ANSWERS.map((a) => (
          <ToggleGroup.Item
            key={a.id}
            value={a.id}
            className={`min-h-11 rounded-md border-2 px-2 font-semibold ${shown === a.id || (why && a.id === "not_needed") ? a.on : "border-edge bg-sheet"}`}
          >
            {a.label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      {shown === "no" && !why ? (
        <p className="mt-2 font-semibold text-hold xl:col-span-2">{c.otherwise}</p>
      ) : null}
      {open ? (
        <EntryForm form={form} send={explain} className="mt-2 flex items-start gap-2 xl:col-span-2">
          <div className="grow">
            <TextEntry
              form={form}
              name="note"
              label={shown === "no" && !why ? "Note" : "Why it is not needed"}
            />
            <FormError form={form} />
          </div>
          <Button
            type="submit"
            className="mt-6"
            disabled={send.isPending || (note === c.note && !why && !error)}
          >
            Save
          </Button>
        </EntryForm>
      ) : error ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {error.text}
        </p>
      ) : null}
      {c.answer && !open ? (
        <p className="mt-1 text-sm text-quiet xl:col-span-2 xl:mt-0">
          {c.by}, {when(c.answered_at)}
          {c.note ? ` · ${c.note}` : ""}
        </p>
      ) : null}
    </li>
  );
}
