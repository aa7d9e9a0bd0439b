import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, type Job, type Station, type Trace, take } from "../../api/client";
import { Button } from "../../ui/Button";
import { EntryForm, FormError } from "../../ui/EntryForm";
import { useKeys } from "../../ui/keys";
import { Meanwhile } from "../../ui/Meanwhile";
import { useRemembered } from "../../ui/useRemembered";
import { LiveStation } from "../live/LiveStation";
import { PlacePanel } from "./PlacePanel";
import { StationFields } from "./StationFields";
import { formOf } from "./stationForm";
import type { Place } from "./stationPlace";
import { TapPad } from "./TapPad";
import { useStationEntry } from "./useStationEntry";

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
  const { form, fresh, send, doubtful, saving, judging } = useStationEntry(t, station, (id) => {
    p.onSaved(id);
    if (!station) form.goTo("distance");
  });
  const place = useWatch({ control: form.control, name: "place" }) as Place | null;
  const [tapping, setTapping] = useRemembered("vessel-tap-pad");
  const [at, setAt] = useState("currents");
  /** The field in focus with the whole form in sight: the pad stands below it. */
  const goTo = (name: string) => {
    form.goTo(name);
    document.getElementById("next-station")?.scrollIntoView({ block: "start" });
  };
  useKeys({ n: () => form.goTo("distance") });
  const stored = () =>
    take(api.GET("/api/stations/{station_id}", { params: { path: { station_id: station?.id ?? 0 } } })).then(
      (now) => formOf(now, t.fields),
    );
  const tapped = t.fields.filter((f) => f.tapped);
  return (
    <section
      id="next-station"
      className="card scroll-mt-2 lg:p-3"
      aria-label={station ? "Correct a station" : "Next station"}
    >
      <div className="mb-2 flex flex-wrap items-center justify-between gap-1">
        <h2>{station ? `Correct the station at ${station.distance_text}` : "Next station"}</h2>
        <div className="flex flex-wrap gap-1">
          <PlacePanel trace={t} job={p.job} place={place} onPlaced={form.put} />
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
      </div>
      {station ? null : (
        <LiveStation trace={t} job={p.job} form={form} submit={() => void form.sending(send(false))()} />
      )}
      {t.carried_text ? <p className="mb-2 font-semibold">{t.carried_text}</p> : null}
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
          fields={t.fields}
          form={form}
          units={t.units}
          tapping={tapping}
          more="More evidence: gain locked, neighbours one by one, readings across"
          moreNote="Left and right: looking along the line from its near end."
          // another distance is another place
          onDistance={() => form.setValue("place", null)}
        >
          {tapping ? <TapPad form={form} fields={tapped} at={at} onGoTo={goTo} /> : null}
        </StationFields>
        <div className="col-span-full flex flex-wrap items-center gap-2 bg-sheet lg:sticky lg:-bottom-3 lg:pb-3">
          <div className="w-full">
            <FormError form={form} />
            {judging ? <p role="status">{judging}</p> : null}
            {station ? <Meanwhile form={form as never} fresh={stored as never} send={send(false)} /> : null}
          </div>
          <Button type="submit" look="main" disabled={saving} className="w-full text-lg sm:w-auto">
            {station ? "Save and check again" : "Check this station"}
          </Button>
          {doubtful ? (
            <Button look="stop" disabled={saving} onClick={form.sending(send(true))}>
              Keep as typed
            </Button>
          ) : null}
          {station ? (
            <Button
              onClick={() => {
                form.begin(fresh());
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
