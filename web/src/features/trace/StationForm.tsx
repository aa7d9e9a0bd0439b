import { type FormEvent, useRef, useState } from "react";
import {
  api,
  asRefusal,
  type Job,
  type Refusal,
  type Schemas,
  type Station,
  type Trace,
  take,
} from "../../api/client";
import { traceKey, useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { useDraft } from "../../ui/draft";
import { FormError } from "../../ui/Field";
import { useKeys } from "../../ui/keys";

import { PlacePanel } from "./PlacePanel";
import { emptyForm, type Form, StationFields } from "./StationFields";
import { placeOf } from "./stationPlace";
import { TapPad } from "./TapPad";

import { useTapping } from "./useTapping";

interface Props {
  trace: Trace;
  job: Job;
  station: Station | null;
  onSaved: (id: number) => void;
  onCancel: () => void;
}

/** A station on record as its form takes it. */
function formOf(s: Station, t: Trace): Form {
  const empty = emptyForm(t.fields);
  const texts = Object.fromEntries(Object.keys(empty.texts).map((id) => [id, s.typed[id] ?? ""]));
  return { texts, ticks: { ...empty.ticks, lost: s.lost }, note: s.note, place: placeOf(s.place) };
}

/** A draft of an earlier version, which kept every field beside the others, as it is kept now. */
function fromFlat(draft: Record<string, unknown>): Partial<Form> {
  if ("texts" in draft) return draft;
  const { lost, note, place, ...texts } = draft;
  return {
    texts: texts as Record<string, string>,
    ticks: { lost: lost === true },
    note: typeof note === "string" ? note : "",
    place: (place ?? null) as Form["place"],
  };
}

/** One station, typed from the distance to the neighbour without leaving the keyboard. */
export function StationForm(p: Props) {
  const { trace: t, station } = p;
  const metric = t.units === "metric";
  const lift = metric ? "0.5" : "20";
  const fresh = (distance = t.next_distance, lifted = lift): Form => {
    const empty = emptyForm(t.fields);
    return { ...empty, texts: { ...empty.texts, distance, lift_height: lifted } };
  };
  const start = station ? formOf(station, t) : fresh();
  const [form, change, clear] = useDraft<Form>(
    station ? `station-${station.id}` : `station-new-${t.setup_id}`,
    start,
    fromFlat,
  );
  const [error, setError] = useState<Refusal | null>(null);
  const first = useRef<HTMLInputElement>(null);
  const sheet = useRef<HTMLFormElement>(null);
  const [tapping, setTapping] = useTapping();
  const [at, setAt] = useState("currents");
  /** The field in focus with the whole form in sight: the pad stands below it. */
  const goTo = (name: string) => {
    const box = sheet.current?.elements.namedItem(name);
    if (box instanceof HTMLInputElement) box.focus({ preventScroll: true });
    document.getElementById("next-station")?.scrollIntoView({ block: "start" });
  };
  useKeys({ n: () => first.current?.focus() });
  const save = useChange(
    "station",
    ({ texts, ticks, note, place, insist }: Form & { insist: boolean }) => {
      const read = { ...texts, ...ticks, note, place, insist, technician: p.job.technician };
      const sent = read as unknown as Schemas["PlacedStationForm"];
      return station
        ? take(
            api.PUT("/api/stations/{station_id}", {
              params: { path: { station_id: station.id } },
              body: sent,
            }),
          )
        : take(
            api.POST("/api/setups/{setup_id}/stations", {
              params: { path: { setup_id: t.setup_id } },
              body: sent,
            }),
          );
    },
    { shown: traceKey(t.setup_id) },
  );
  const send = (insist: boolean) => {
    setError(null);
    const known = new Set(t.stations.map((s) => s.id));
    save.mutate(
      { ...form, insist },
      {
        onSuccess: (next) => {
          clear(fresh(next.next_distance, form.texts.lift_height));
          p.onSaved(station?.id ?? next.stations.find((s) => !known.has(s.id))?.id ?? 0);
          if (!station) first.current?.focus({ preventScroll: true });
        },
        onError: (err) => setError(asRefusal(err)),
      },
    );
  };
  const submit = (e: FormEvent) => {
    e.preventDefault();
    send(false);
  };
  const label = (name: string) => t.fields.find((f) => f.id === name)?.label ?? name;
  const tapped = t.fields.filter((f) => f.tapped).map((f) => f.id);
  const text = (name: string) => ({
    name,
    value: name === "note" ? form.note : (form.texts[name] ?? ""),
    units: t.units,
    error,
    inputMode: tapping ? ("none" as const) : undefined,
    // another distance is another place
    onChange: (v: string) =>
      change(
        name === "note"
          ? { note: v }
          : { texts: { ...form.texts, [name]: v }, ...(name === "distance" ? { place: null } : {}) },
      ),
  });
  return (
    <section
      id="next-station"
      className="card scroll-mt-2"
      aria-label={station ? "Correct a station" : "Next station"}
    >
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2>{station ? `Correct the station at ${station.distance_text}` : "Next station"}</h2>
        <div className="flex flex-wrap gap-2">
          <PlacePanel
            trace={t}
            job={p.job}
            place={form.place}
            onPlaced={({ distance, place }) => change({ texts: { ...form.texts, distance }, place })}
          />
          <Button
            aria-pressed={tapping}
            className={`text-sm ${tapping ? "border-2 border-ink" : ""}`}
            onClick={() => {
              setTapping(!tapping);
              if (!tapping) goTo(at);
            }}
          >
            Tap pad
          </Button>
        </div>
      </div>
      <form
        ref={sheet}
        onSubmit={submit}
        onFocus={(e) => {
          const box: EventTarget = e.target;
          if (box instanceof HTMLInputElement && tapped.includes(box.name)) setAt(box.name);
        }}
        noValidate
        className="grid grid-cols-2 gap-x-3 md:grid-cols-4"
      >
        <StationFields fields={t.fields} text={text} form={form} change={change} error={error} first={first}>
          {tapping ? (
            <TapPad
              order={tapped}
              at={at}
              label={label(at)}
              value={text(at).value}
              onChange={text(at).onChange}
              onGoTo={goTo}
            />
          ) : null}
        </StationFields>
        <div className="col-span-full flex flex-wrap items-center gap-2">
          <div className="w-full">
            <FormError error={error} fields={[...t.fields.map((f) => f.id), "note", "place"]} />
          </div>
          <Button type="submit" look="main" disabled={save.isPending} className="w-full text-lg sm:w-auto">
            {station ? "Save and check again" : "Check this station"}
          </Button>
          {error?.code === "doubtful" ? (
            <Button look="stop" disabled={save.isPending} onClick={() => send(true)}>
              Keep as typed
            </Button>
          ) : null}
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
