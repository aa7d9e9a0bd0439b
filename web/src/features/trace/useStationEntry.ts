import { useState } from "react";
import { api, type Schemas, type Station, type Trace, take } from "../../api/client";
import { judgedTrace, traceKey, useChange } from "../../api/queries";
import { useDoubtful } from "../../ui/EntryForm";
import { useEntryForm } from "../../ui/useEntryForm";
import { emptyForm, formOf, fromNested, type StationFormState } from "./stationForm";

/** The entry of a new station or the correction of one: its form, and how it is checked and kept. */
export function useStationEntry(t: Trace, station: Station | null, onSaved: (id: number) => void) {
  const lift = t.units === "metric" ? "0.5" : "20";
  const fresh = (distance = t.next_distance, lift_height = lift): StationFormState => ({
    ...emptyForm(t.fields),
    distance,
    lift_height,
  });
  const form = useEntryForm<StationFormState>({
    start: station ? formOf(station, t.fields) : fresh(),
    draft: station ? `station-${station.id}` : `station-new-${t.setup_id}`,
    upgrade: fromNested,
  });
  const doubtful = useDoubtful(form);
  /** How many stations are judged now, the entry being stored already. */
  const [judging, setJudging] = useState(0);
  const save = useChange(
    "station",
    (body: Schemas["PlacedStationForm"]) =>
      judgedTrace(
        station
          ? take(
              api.PUT("/api/stations/{station_id}", { params: { path: { station_id: station.id } }, body }),
            )
          : take(
              api.POST("/api/setups/{setup_id}/stations", {
                params: { path: { setup_id: t.setup_id } },
                body,
              }),
            ),
        setJudging,
      ).finally(() => setJudging(0)),
    { shown: traceKey(t.setup_id) },
  );
  const send = (insist: boolean) => async (typed: StationFormState) => {
    const known = new Set(t.stations.map((s) => s.id));
    const read = { ...typed, insist };
    const next = await save.mutateAsync(read as unknown as Schemas["PlacedStationForm"]);
    form.begin(fresh(next.next_distance, String(typed.lift_height)));
    onSaved(station?.id ?? next.stations.find((s) => !known.has(s.id))?.id ?? 0);
  };
  return {
    form,
    fresh,
    send,
    doubtful,
    saving: save.isPending,
    judging: judging ? `Stored. Checking ${judging} stations …` : "",
  };
}
