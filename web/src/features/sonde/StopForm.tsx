import { useState } from "react";
import { api, type Schemas, take } from "../../api/client";
import { sondeKey, useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, useDoubtful } from "../../ui/EntryForm";
import { useKeys } from "../../ui/keys";
import { Meanwhile } from "../../ui/Meanwhile";
import { useEntryForm } from "../../ui/useEntryForm";
import { useRemembered } from "../../ui/useRemembered";
import { LiveStop } from "../live/LiveStop";
import { StationFields } from "../trace/StationFields";
import type { StationFormState } from "../trace/stationForm";
import { TapPad } from "../trace/TapPad";

type Sonde = Schemas["SondeView"];
type Stop = Schemas["StopDetail"];

/** A form with nothing read; what stays the same from stop to stop is kept. */
const fresh = (fields: Sonde["fields"], kept: Partial<StationFormState> = {}): StationFormState => ({
  ...Object.fromEntries(fields.map((f) => [f.id, ""])),
  mode: "sonde",
  side: "left",
  note: "",
  ...kept,
});

const formOf = (s: Stop, fields: Sonde["fields"]): StationFormState => ({
  ...fresh(fields),
  ...Object.fromEntries(fields.map((f) => [f.id, s.typed[f.id] ?? ""])),
  note: s.note,
  seen: s.seen,
});

/** One stop, typed in the order it is read: rod, peak, nulls, depth. */
export function StopForm(p: {
  sonde: Sonde;
  run: Schemas["RunView"];
  stop: Stop | null;
  onSaved: (id: number) => void;
  onCancel: () => void;
}) {
  const { sonde: s, run, stop } = p;
  const form = useEntryForm<StationFormState>({
    start: stop ? formOf(stop, s.fields) : fresh(s.fields),
    draft: stop ? `stop-${stop.id}` : `stop-new-${run.id}`,
  });
  const doubtful = useDoubtful(form);
  const [tapping, setTapping] = useRemembered("vessel-tap-pad");
  const [at, setAt] = useState("distance");
  const save = useChange(
    "stop",
    (body: Schemas["StopForm"]) =>
      stop
        ? take(api.PUT("/api/stops/{stop_id}", { params: { path: { stop_id: stop.id } }, body }))
        : take(api.POST("/api/sonde-runs/{run_id}/stops", { params: { path: { run_id: run.id } }, body })),
    { shown: sondeKey(s.line_id) },
  );
  const send = (insist: boolean) => async (typed: StationFormState) => {
    const known = new Set(s.stops.map((x) => x.id));
    const now = await save.mutateAsync({ ...typed, insist } as unknown as Schemas["StopForm"]);
    form.begin(fresh(s.fields, { mode: typed.mode, side: typed.side }));
    p.onSaved(stop?.id ?? now.stops.find((x) => !known.has(x.id))?.id ?? 0);
    if (!stop) form.goTo("distance");
  };
  const goTo = (name: string) => {
    form.goTo(name);
    document.getElementById("next-stop")?.scrollIntoView({ block: "start" });
  };
  useKeys({ n: () => form.goTo("distance") });
  const stored = () =>
    take(api.GET("/api/stops/{stop_id}", { params: { path: { stop_id: stop?.id ?? 0 } } })).then((now) =>
      formOf(now, s.fields),
    );
  const tapped = s.fields.filter((f) => f.tapped);
  return (
    <section
      id="next-stop"
      className="card scroll-mt-2 lg:p-3"
      aria-label={stop ? "Correct a stop" : "Next stop"}
    >
      <div className="mb-1 flex flex-wrap items-center justify-between gap-1">
        <h2>{stop ? `Correct the stop at ${stop.distance_text}` : "Next stop"}</h2>
        <Button
          aria-pressed={tapping}
          className={`px-2 text-sm ${tapping ? "border-2 border-ink" : ""}`}
          onClick={() => {
            setTapping(!tapping);
            if (!tapping) goTo(at);
          }}
        >
          Tap pad
        </Button>
      </div>
      {stop ? null : <p className="mb-2 font-semibold">{s.next_text}</p>}
      {stop ? null : (
        <LiveStop lineId={s.line_id} units={s.units} onTake={form.put} submit={form.sending(send(false))} />
      )}
      <EntryForm
        form={form}
        send={send(false)}
        onFocus={(e) => {
          const box: EventTarget = e.target;
          if (box instanceof HTMLInputElement && tapped.some((f) => f.id === box.name)) setAt(box.name);
        }}
        className="grid grid-cols-2 gap-x-3 sm:grid-cols-4 lg:grid-cols-2"
      >
        <StationFields
          fields={s.fields}
          form={form}
          units={s.units}
          tapping={tapping}
          more="More evidence: lift, ghost peaks, turned, beside the line"
          moreNote="All signals at one gain. Left and right: looking along the line from its near end."
        >
          {tapping ? <TapPad form={form} fields={tapped} at={at} onGoTo={goTo} /> : null}
        </StationFields>
        <div className="col-span-full flex flex-wrap items-center gap-2 bg-sheet lg:sticky lg:-bottom-3 lg:pb-3">
          <div className="w-full">
            <FormError form={form} />
            {stop ? <Meanwhile form={form as never} fresh={stored as never} send={send(false)} /> : null}
          </div>
          <Button type="submit" look="main" disabled={save.isPending} className="w-full text-lg sm:w-auto">
            {stop ? "Save and check again" : "Check this stop"}
          </Button>
          {doubtful ? (
            <Button look="stop" disabled={save.isPending} onClick={form.sending(send(true))}>
              Keep as typed
            </Button>
          ) : null}
          {stop ? (
            <Button
              onClick={() => {
                form.begin(fresh(s.fields));
                p.onCancel();
              }}
            >
              Cancel
            </Button>
          ) : null}
        </div>
      </EntryForm>
    </section>
  );
}
