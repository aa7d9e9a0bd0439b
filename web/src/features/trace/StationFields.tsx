import type { ReactNode, Ref } from "react";
import type { Refusal, Units } from "../../api/client";
import { Choice, Field, Tick } from "../../ui/Field";
import type { Place } from "./stationPlace";
import type { TapField } from "./TapPad";

export const FIELDS = {
  distance: "",
  currents: "",
  depth: "",
  lift_height: "",
  depth_lifted: "",
  peak_null: "",
  neighbour: "",
  direction: "",
  profile: "",
  signal: "",
  neighbours: "",
  lost: false,
  note: "",
  place: null as Place | null,
};
export type Form = typeof FIELDS;

export type TextField = Exclude<keyof Form, "lost" | "place">;

export const LABELS: Record<TapField, string> = {
  distance: "Distance along",
  currents: "Current ×3, mA",
  depth: "Depth on the ground",
  peak_null: "Peak to null",
  lift_height: "Lifted by",
  depth_lifted: "Depth when lifted",
  neighbour: "Best neighbour, mA",
};

interface FieldState {
  name: string;
  value: string;
  units: Units;
  error: Refusal | null;
  inputMode?: "none";
  onChange: (text: string) => void;
}

/** What is read at a station, in the order it is read; `children` stand below what is tapped in. */
export function StationFields(p: {
  text: (name: TextField) => FieldState;
  form: Form;
  change: (patch: Partial<Form>) => void;
  error: Refusal | null;
  metric: boolean;
  first: Ref<HTMLInputElement>;
  readsDirection: boolean;
  children: ReactNode;
}) {
  return (
    <>
      <Field
        {...p.text("distance")}
        label={LABELS.distance}
        quantity="distance"
        required
        inputRef={p.first}
        hint={p.metric ? "metres" : "feet"}
      />
      <Field {...p.text("currents")} label={LABELS.currents} quantity="currents" hint="28.6 28.4 28.7" />
      <Field
        {...p.text("depth")}
        label={LABELS.depth}
        quantity="depth"
        hint={p.metric ? "0.74 or 74" : "1'11 or 23"}
      />
      <Field
        {...p.text("peak_null")}
        label={LABELS.peak_null}
        quantity="offset"
        hint={p.metric ? "0.02 or 2cm" : "1 (inches)"}
      />
      <Field {...p.text("lift_height")} label={LABELS.lift_height} quantity="offset" />
      <Field {...p.text("depth_lifted")} label={LABELS.depth_lifted} quantity="depth" />
      <Field {...p.text("neighbour")} label={LABELS.neighbour} quantity="current" hint="0 if none found" />
      {p.children}
      {p.readsDirection ? (
        <Choice
          label="Current runs"
          name="direction"
          value={p.form.direction}
          error={p.error}
          onChange={(v) => p.change({ direction: v })}
          options={[
            { id: "", label: "not told" },
            { id: "away", label: "away from the hookup" },
            { id: "towards", label: "back towards it" },
          ]}
        />
      ) : null}
      <Field {...p.text("note")} label="Note" />
      <div className="col-span-full mb-2">
        <Tick
          label="Signal and guidance gone here"
          name="lost"
          checked={p.form.lost}
          onChange={(lost) => p.change({ lost })}
        />
      </div>
      <details
        className="col-span-full mb-1"
        open={Boolean(p.form.profile || p.form.signal || p.form.neighbours)}
      >
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">
          More evidence: gain locked, neighbours one by one, readings across
        </summary>
        <p className="mb-2 text-sm text-quiet">Left and right: looking along the line from its near end.</p>
        <div className="grid gap-x-3 sm:grid-cols-[1fr_2fr]">
          <Field
            {...p.text("signal")}
            label="Signal here, gain locked"
            quantity="signal"
            hint="as at the stations before"
          />
          <Field
            {...p.text("neighbours")}
            label="Neighbours: way aside, mA, signal at the same gain"
            quantity="neighbours"
            multiline
            hint={p.metric ? "L1.2 9.5 62; R2.0 4.1" : "L48 9.5 62; R80 4.1 (inches)"}
          />
        </div>
        <Field
          {...p.text("profile")}
          label="Readings across the line: offset and signal of each, at one gain"
          quantity="profile"
          multiline
          hint={
            p.metric
              ? "L1.0 38; L0.5 62; 0 88; R0.5 60; R1.0 36: five or more, from one side to the other"
              : "L40 38; L20 62; 0 88; R20 60; R40 36 (inches): five or more, from one side to the other"
          }
        />
      </details>
    </>
  );
}
