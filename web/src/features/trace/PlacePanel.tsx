import { useState } from "react";
import { api, asRefusal, type Job, type Refusal, type Trace, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { Choice, Field, FormError } from "../../ui/Field";
import { Sheet } from "../../ui/Sheet";

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
        className={`text-sm ${p.place ? "border-2 border-ink" : ""}`}
        onClick={() => setOpen(true)}
      >
        {p.place ? HOW.find((h) => h.id === p.place?.by)?.short : "Place by tapes or device"}
      </Button>
      <Sheet
        title="Where the station stands"
        note="The distance along the line follows from it."
        open={open}
        onClose={() => setOpen(false)}
      >
        {p.trace.points.length ? (
          <PlaceForm {...p} onDone={() => setOpen(false)} />
        ) : (
          <p>
            {p.trace.drawn
              ? "The plan has no point a tape could be held at: add access points or structures to it."
              : "This line is not drawn on the site plan. Draw it there, or give the distance along it."}
          </p>
        )}
      </Sheet>
    </>
  );
}

function PlaceForm(p: Parameters<typeof PlacePanel>[0] & { onDone: () => void }) {
  const [form, setForm] = useState<Place>(p.place ?? NO_PLACE);
  const [error, setError] = useState<Refusal | null>(null);
  const change = (patch: Partial<Place>) => setForm((old) => ({ ...old, ...patch }));
  const [busy, setBusy] = useState(false);
  const path = { params: { path: { setup_id: p.trace.setup_id } } };
  const tie = useChange("site", (body: { point: string; latitude: number; longitude: number }) =>
    take(api.POST("/api/jobs/{job_id}/site/tie", { params: { path: { job_id: p.job.id } }, body })),
  );
  const refused = (e: unknown) => setError(asRefusal(e));
  const run = async (body: Place) => {
    setError(null);
    setBusy(true);
    try {
      const found = await take(api.POST("/api/setups/{setup_id}/place", { ...path, body }));
      p.onPlaced({ distance: found.distance, place: body });
      p.onDone();
    } catch (e) {
      refused(e);
      setBusy(false);
    }
  };
  const here = () => positionNow().then((at) => run({ ...form, ...at }), refused);
  const tieHere = () =>
    positionNow()
      .then((at) => tie.mutateAsync({ point: form.first_at, latitude: at.latitude, longitude: at.longitude }))
      .then(() => setError(null), refused);
  const points = [{ id: "", label: "choose" }, ...p.trace.points.map((id) => ({ id, label: id }))];
  const pick = (name: "first_at" | "second_at" | "point", label: string) => (
    <Choice
      label={label}
      name={name}
      value={name === "second_at" ? form.second_at : form.first_at}
      error={error}
      onChange={(v) => change(name === "second_at" ? { second_at: v } : { first_at: v })}
      options={points}
    />
  );
  const tape = (name: "first_tape" | "second_tape", label: string) => (
    <Field
      name={name}
      label={label}
      quantity="distance"
      units={p.trace.units}
      value={form[name]}
      error={error}
      required
      onChange={(v) => change({ [name]: v })}
    />
  );
  const device = form.by === "device";
  const tapes = form.by === "tapes";
  return (
    <div className="grid gap-x-3 sm:grid-cols-2">
      <div className="col-span-full">
        <Choice
          label="Placed by"
          name="by"
          value={form.by}
          error={error}
          onChange={(v) => change({ by: HOW.find((h) => h.id === v)?.id ?? "tapes" })}
          options={HOW}
        />
      </div>
      {device ? (
        <div className="col-span-full">
          <p className="mb-3">
            A device in the open is good to a few metres: enough to find the place again, not to measure a
            mark from. The range is kept with the station.
          </p>
          <details open={!p.trace.tied} className="mb-3 rounded-md border border-edge px-3 pb-3">
            <summary className="min-h-11 cursor-pointer py-2 font-semibold">
              {p.trace.tied
                ? "The plan is tied to the earth: tie it again"
                : "The plan does not say yet where on earth it lies: stand at a point of it"}
            </summary>
            {pick("point", "I stand at")}
            <Button disabled={!form.first_at || tie.isPending} onClick={tieHere}>
              Tie the plan to this place
            </Button>
          </details>
        </div>
      ) : (
        <>
          {pick("first_at", tapes ? "First tape held at" : "Measured from")}
          {tape("first_tape", tapes ? "First tape" : "Along, from there")}
          {pick("second_at", tapes ? "Second tape held at" : "Towards")}
          {tape("second_tape", tapes ? "Second tape" : "Square off that way")}
          <div className="col-span-full">
            <Choice
              label="Seen when walking from the first point to the second, it lies"
              name="side"
              value={form.side ?? "left"}
              error={error}
              onChange={(v) => change({ side: v === "right" ? "right" : "left" })}
              options={[
                { id: "left", label: "to the left" },
                { id: "right", label: "to the right" },
              ]}
            />
          </div>
        </>
      )}
      <div className="col-span-full grid gap-3">
        <FormError
          error={error}
          fields={["by", "first_at", "second_at", "first_tape", "second_tape", "side", "point"]}
        />
        <div className="flex flex-wrap gap-2">
          <Button
            look="main"
            disabled={busy || (device && !p.trace.tied)}
            onClick={() => (device ? here() : run(form))}
          >
            {device ? "Take the position now" : "Place the station here"}
          </Button>
          {p.place ? (
            <Button
              onClick={() => {
                p.onPlaced({ distance: "", place: null });
                p.onDone();
              }}
            >
              By its distance after all
            </Button>
          ) : null}
        </div>
      </div>
    </div>
  );
}
