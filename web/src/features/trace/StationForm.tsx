import { type FormEvent, useRef, useState } from "react";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { useDraft } from "../../app/draft";
import { useKeys } from "../../app/keys";
import { Button } from "../../ui/Button";
import { Choice, Field, FormError, Tick } from "../../ui/Field";
import type { Job } from "../line/JobPage";
import type { Station, Trace } from "./TracePage";

const FIELDS = {
  distance: "",
  currents: "",
  depth: "",
  lift_height: "",
  depth_lifted: "",
  peak_null: "",
  neighbour: "",
  direction: "",
  profile: "",
  lost: false,
  note: "",
};
type Form = typeof FIELDS;

interface Props {
  trace: Trace;
  job: Job;
  station: Station | null;
  onSaved: (id: number) => void;
  onCancel: () => void;
}

/** One station, typed from the distance to the neighbour without leaving the keyboard. */
export function StationForm(p: Props) {
  const { trace: t, station } = p;
  const metric = t.units === "metric";
  const lift = metric ? "0.5" : "20";
  const fresh = (): Form => ({ ...FIELDS, distance: t.next_distance, lift_height: lift });
  const start = station ? { ...FIELDS, ...station.typed, lost: station.lost, note: station.note } : fresh();
  const [form, change, clear] = useDraft<Form>(
    station ? `station-${station.id}` : `station-new-${t.setup_id}`,
    start,
  );
  const [error, setError] = useState<Refusal | null>(null);
  const first = useRef<HTMLInputElement>(null);
  useKeys({ n: () => first.current?.focus() });
  const save = useChange((body: Form) => {
    const sent = {
      ...body,
      direction: body.direction as Schemas["StationForm"]["direction"],
      technician: p.job.technician,
    };
    return station
      ? take(
          api.PUT("/api/stations/{station_id}", { params: { path: { station_id: station.id } }, body: sent }),
        )
      : take(
          api.POST("/api/setups/{setup_id}/stations", {
            params: { path: { setup_id: t.setup_id } },
            body: sent,
          }),
        );
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    setError(null);
    const known = new Set(t.stations.map((s) => s.id));
    save.mutate(form, {
      onSuccess: (next) => {
        clear({ ...FIELDS, distance: next.next_distance, lift_height: form.lift_height });
        p.onSaved(station?.id ?? next.stations.find((s) => !known.has(s.id))?.id ?? 0);
        if (!station) first.current?.focus({ preventScroll: true });
      },
      onError: (err) => setError(asRefusal(err)),
    });
  };
  const text = (name: Exclude<keyof Form, "lost">) => ({
    name,
    value: form[name],
    units: t.units,
    error,
    onChange: (v: string) => change({ [name]: v }),
  });
  return (
    <section
      id="next-station"
      className="card scroll-mt-2"
      aria-label={station ? "Correct a station" : "Next station"}
    >
      <h2 className="mb-2">{station ? `Correct the station at ${station.distance_text}` : "Next station"}</h2>
      <form onSubmit={submit} noValidate className="grid grid-cols-2 gap-x-3 md:grid-cols-4">
        <Field
          {...text("distance")}
          label="Distance along"
          quantity="distance"
          required
          inputRef={first}
          hint={metric ? "metres" : "feet"}
        />
        <Field {...text("currents")} label="Current ×3, mA" quantity="currents" hint="28.6 28.4 28.7" />
        <Field
          {...text("depth")}
          label="Depth on the ground"
          quantity="depth"
          hint={metric ? "0.74 or 74" : "1'11 or 23"}
        />
        <Field
          {...text("peak_null")}
          label="Peak to null"
          quantity="offset"
          hint={metric ? "0.02 or 2cm" : "1 (inches)"}
        />
        <Field {...text("lift_height")} label="Lifted by" quantity="offset" />
        <Field {...text("depth_lifted")} label="Depth when lifted" quantity="depth" />
        <Field {...text("neighbour")} label="Best neighbour, mA" quantity="current" hint="0 if none found" />
        {t.reads_direction ? (
          <Choice
            label="Current runs"
            name="direction"
            value={form.direction}
            error={error}
            onChange={(v) => change({ direction: v })}
            options={[
              { id: "", label: "not told" },
              { id: "away", label: "away from the hookup" },
              { id: "towards", label: "back towards it" },
            ]}
          />
        ) : null}
        <Field {...text("note")} label="Note" />
        <div className="col-span-full mb-2">
          <Tick
            label="Signal and guidance gone here"
            name="lost"
            checked={form.lost}
            onChange={(lost) => change({ lost })}
          />
        </div>
        <details className="col-span-full mb-1" open={Boolean(form.profile)}>
          <summary className="min-h-11 cursor-pointer py-2 font-semibold">Readings across the line</summary>
          <Field
            {...text("profile")}
            label="Offset and signal of each, at one gain"
            quantity="profile"
            multiline
            hint={
              metric
                ? "L1.0 38; L0.5 62; 0 88; R0.5 60; R1.0 36: five or more, from one side to the other"
                : "L40 38; L20 62; 0 88; R20 60; R40 36 (inches): five or more, from one side to the other"
            }
          />
        </details>
        <div className="col-span-full flex flex-wrap items-center gap-2">
          <div className="w-full">
            <FormError error={error} fields={Object.keys(FIELDS)} />
          </div>
          <Button type="submit" look="main" disabled={save.isPending} className="w-full text-lg sm:w-auto">
            {station ? "Save and judge again" : "Judge this station"}
          </Button>
          {station ? (
            <Button
              onClick={() => {
                clear(fresh());
                p.onCancel();
              }}
            >
              Cancel
            </Button>
          ) : null}
        </div>
      </form>
    </section>
  );
}
