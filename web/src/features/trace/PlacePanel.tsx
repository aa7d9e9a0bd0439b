import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, type Job, type Trace, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { ChoiceEntry, EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Sheet } from "../../ui/Sheet";
import { useEntryForm } from "../../ui/useEntryForm";

import { positionNow } from "./position";
import { NO_PLACE, type Place } from "./stationPlace";

const HOW: { id: Place["by"]; label: string; short: string }[] = [
  { id: "tapes", label: "two tapes, from two points", short: "Placed by tapes" },
  {
    id: "baseline",
    label: "along from one point to another, then square off",
    short: "Placed off a baseline",
  },
  { id: "device", label: "this device's own position", short: "Placed by the device" },
];

/** Where a station stands when its distance along the line cannot be walked: by tapes, or as the device tells. */
export function PlacePanel(p: {
  trace: Trace;
  job: Job;
  place: Place | null;
  onPlaced: (patch: { distance: string; place: Place | null }) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        aria-pressed={p.place !== null}
        className={`px-2 text-sm whitespace-nowrap ${p.place ? "border-2 border-ink" : ""}`}
        onClick={() => setOpen(true)}
      >
        {p.place ? HOW.find((h) => h.id === p.place?.by)?.short : "Place by tapes or device"}
      </Button>
      <Sheet
        title="Where the station is"
        note="Vessel works out the distance along the line."
        open={open}
        onClose={() => setOpen(false)}
      >
        {p.trace.points.length ? (
          <PlaceForm {...p} onDone={() => setOpen(false)} />
        ) : (
          <p>
            {p.trace.drawn
              ? "No point to measure from. Add access points or structures to the plan."
              : "This line is not drawn on the site plan. Draw it there, or give the distance along it."}
          </p>
        )}
      </Sheet>
    </>
  );
}

function PlaceForm(p: Parameters<typeof PlacePanel>[0] & { onDone: () => void }) {
  const form = useEntryForm({ start: p.place ?? NO_PLACE });
  const [by = "tapes", corner] = useWatch({ control: form.control, name: ["by", "first_at"] });
  const path = { params: { path: { setup_id: p.trace.setup_id } } };
  const tie = useChange("site", (body: { point: string; latitude: number; longitude: number }) =>
    take(api.POST("/api/jobs/{job_id}/site/tie", { params: { path: { job_id: p.job.id } }, body })),
  );
  const device = by === "device";
  const tapes = by === "tapes";
  const send = async (typed: Place) => {
    const body = device ? { ...typed, ...(await positionNow()) } : typed;
    const found = await take(api.POST("/api/setups/{setup_id}/place", { ...path, body }));
    p.onPlaced({ distance: found.distance, place: body });
    p.onDone();
  };
  const tieHere = async ({ first_at: point }: Place) => {
    const { latitude, longitude } = await positionNow();
    await tie.mutateAsync({ point, latitude, longitude });
  };
  const points = [{ id: "", label: "choose" }, ...p.trace.points.map((id) => ({ id, label: id }))];
  const pick = (name: "first_at" | "second_at", label: string) => (
    <ChoiceEntry form={form} label={label} name={name} options={points} />
  );
  const tape = (name: "first_tape" | "second_tape", label: string) => (
    <TextEntry form={form} name={name} label={label} quantity="distance" units={p.trace.units} required />
  );
  return (
    <EntryForm form={form} send={send} className="grid gap-x-3 sm:grid-cols-2">
      <div className="col-span-full">
        <ChoiceEntry form={form} label="Placed by" name="by" options={HOW} />
      </div>
      {device ? (
        <div className="col-span-full">
          <p className="mb-3">
            In the open a device is good to a few metres: enough to find the place again, not to place a mark.
            Its range stays with the station.
          </p>
          <details open={!p.trace.tied} className="mb-3 rounded-md border border-edge px-3 pb-3">
            <summary className="min-h-11 cursor-pointer py-2 font-semibold">
              {p.trace.tied
                ? "The plan has a position: set it again"
                : "The plan has no position yet: stand at one of its points"}
            </summary>
            {pick("first_at", "I stand at")}
            <Button disabled={!corner || tie.isPending} onClick={form.sending(tieHere)}>
              Set the plan's position here
            </Button>
          </details>
        </div>
      ) : (
        <>
          {pick("first_at", tapes ? "First tape held at" : "Measured from")}
          {tape("first_tape", tapes ? "First tape" : "Distance along")}
          {pick("second_at", tapes ? "Second tape held at" : "Towards")}
          {tape("second_tape", tapes ? "Second tape" : "Distance square off")}
          <div className="col-span-full">
            <ChoiceEntry
              form={form}
              label="Walking from the first point to the second, it is"
              name="side"
              options={[
                { id: "left", label: "to the left" },
                { id: "right", label: "to the right" },
              ]}
            />
          </div>
        </>
      )}
      <div className="col-span-full grid gap-3">
        <FormError form={form} />
        <div className="flex flex-wrap gap-2">
          <Button type="submit" look="main" disabled={tie.isPending || (device && !p.trace.tied)}>
            {device ? "Take the position now" : "Place the station here"}
          </Button>
          {p.place ? (
            <Button
              onClick={() => {
                p.onPlaced({ distance: "", place: null });
                p.onDone();
              }}
            >
              Use the distance instead
            </Button>
          ) : null}
        </div>
      </div>
    </EntryForm>
  );
}
