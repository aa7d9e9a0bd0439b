import { useFormState, useWatch } from "react-hook-form";
import { api, type Hookup, type Job, type Schemas, take } from "../../api/client";
import { useChange, useKits } from "../../api/queries";
import { hertz } from "../../api/units";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";
import { LiveReading } from "../live/LiveReading";
import { usePreview } from "./usePreview";

const EMPTY = { volts: "", milliamps: "", freq: "", change: "", beside: "", note: "" };

const PROOF: Record<NonNullable<Hookup["continuity"]>["state"], string> = {
  not_read: "Continuity not proved.",
  outdated: "Continuity to be read again.",
  proved: "Continuity proved.",
  not_proved: "No continuity.",
  between: "Continuity in doubt.",
  says_nothing: "Continuity cannot be read here.",
};

/** On a phone: the answer at the top of the screen, with the next reading's fields below it. */
function showAnswer() {
  if (matchMedia("(min-width: 64rem)").matches) return;
  requestAnimationFrame(() =>
    document.querySelector("[aria-label='Transmitter']")?.scrollIntoView({ block: "start" }),
  );
}

export function ReadingForm({ hookup: h, job }: { hookup: Hookup; job: Job }) {
  const form = useEntryForm({ start: EMPTY, draft: `reading-${h.id}` });
  const typed = useWatch({ control: form.control }) as typeof EMPTY;
  const { errors } = useFormState({ control: form.control });
  const doubtful = Object.values(errors).some((e) => e?.type === "doubtful");
  const kit = useKits().data?.find((k) => k.id === job.kit_id)?.kit;
  const add = useChange(
    "reading",
    (body: Schemas["ReadingForm"]) =>
      take(api.POST("/api/setups/{setup_id}/readings", { params: { path: { setup_id: h.id } }, body })),
    { shown: ["setup", h.id] },
  );
  const changes = useConsequences((body: Schemas["ReadingForm"], signal) =>
    take(
      api.POST("/api/setups/{setup_id}/readings/consequences", {
        params: { path: { setup_id: h.id } },
        body,
        signal,
      }),
    ),
  );
  const save = (insist: boolean) => async (read: typeof EMPTY) => {
    const change = read.change as Schemas["ReadingForm"]["change"];
    const beside = read.beside as Schemas["ReadingForm"]["beside"];
    const body = { ...read, change, beside, insist };
    if (!(await changes.allowed(body))) return;
    await add.mutateAsync(body);
    form.begin(EMPTY);
    form.goTo("volts");
    showAnswer();
    await changes.settle();
  };
  const live = usePreview(h.id, typed);
  const proof = h.continuity;
  return (
    <EntryForm
      form={form}
      send={save(false)}
      className="grid grid-cols-2 items-start gap-x-3 sm:grid-cols-[1fr_1fr_1fr_1.4fr] lg:grid-cols-2"
    >
      <div className="col-span-full empty:hidden">
        <LiveReading units={job.units} onTake={form.put} />
      </div>
      {proof ? (
        <div data-continuity={proof.state} className="col-span-full mb-2 flex items-start gap-2">
          <details className="min-w-0 grow" open={!h.readings.length}>
            <summary className="min-h-11 cursor-pointer py-2 font-bold">{PROOF[proof.state]}</summary>
            <p className="leading-snug">{proof.text}</p>
          </details>
          {proof.state !== "says_nothing" &&
          typed.freq !== `${proof.freq_hz}Hz` &&
          proof.freq_hz !== h.freq_hz ? (
            <Button
              className="shrink-0 px-3"
              onClick={() => {
                form.setValue("freq", `${proof.freq_hz}Hz`);
                form.goTo("volts");
              }}
            >
              Read at {proof.freq_text}
            </Button>
          ) : null}
        </div>
      ) : null}
      <TextEntry form={form} name="volts" label="Volts" quantity="volts" required />
      <TextEntry form={form} name="milliamps" label="Milliamps" quantity="current" required />
      <ChoiceEntry
        form={form}
        label="At"
        name="freq"
        options={[
          { id: "", label: h.freq_text },
          ...(kit?.frequencies ?? [])
            .filter((f) => f.freq_hz !== h.freq_hz)
            .map((f) => ({ id: `${f.freq_hz}Hz`, label: hertz(f.freq_hz) })),
        ]}
      />
      <ChoiceEntry
        form={form}
        label="Since the last reading"
        name="change"
        options={[
          { id: "", label: "nothing" },
          { id: "stake", label: "stake deeper" },
          { id: "clip", label: "clip cleaned" },
          { id: "far", label: "far end earthed" },
          { id: "bond", label: "bond opened" },
        ]}
      />
      {h.asks_beside || typed.beside ? (
        <div className="col-span-full max-w-md">
          <ChoiceEntry
            form={form}
            label="Lines beside, read with the receiver"
            name="beside"
            options={[
              { id: "", label: "not read" },
              { id: "quiet", label: "less than a fifth of this line's current" },
              { id: "carries", label: "more than a fifth of this line's current" },
            ]}
          />
        </div>
      ) : null}
      {live ? (
        <div
          role="status"
          data-preview={live.state}
          className="col-span-full mb-3 rounded-md border border-edge p-3"
        >
          <p className="text-sm text-quiet">As typed, not entered yet:</p>
          <p className={`font-semibold ${live.doubt_text ? "text-hold" : ""}`}>{live.headline}</p>
          {live.causes.length ? (
            <p className="text-sm">{live.causes.map((c) => `${c.title}, ${c.share_text}`).join("; ")}.</p>
          ) : null}
        </div>
      ) : null}
      <Button
        type="submit"
        look="main"
        className="col-span-full lg:sticky lg:bottom-0"
        disabled={add.isPending || changes.checking}
      >
        Check the loop
      </Button>
      {doubtful ? (
        <div className="col-span-full mt-2 flex flex-wrap items-center gap-3" data-doubtful>
          <Button look="stop" disabled={add.isPending} onClick={form.sending(save(true))}>
            Keep this reading
          </Button>
          <span className="text-sm text-quiet">It goes on record as read and is not used.</span>
        </div>
      ) : null}
      <div className="col-span-full">
        {changes.shown}
        <FormError form={form} />
      </div>
    </EntryForm>
  );
}
