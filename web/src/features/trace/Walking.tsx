import { Vibrate, VibrateOff, Volume2, VolumeX, X } from "lucide-react";
import { type ReactNode, useEffect, useState } from "react";
import { useWatch } from "react-hook-form";
import type { Station, Trace } from "../../api/client";
import { useStation } from "../../api/queries";
import { VerdictPanel } from "../../pictures/Verdict";
import { Button } from "../../ui/Button";
import { EntryForm, FormError } from "../../ui/EntryForm";
import { useUnderstanding } from "../../ui/Field";
import { useRemembered } from "../../ui/useRemembered";
import { buzz, sound, useAwake } from "./signals";
import type { StationFormState } from "./stationForm";
import { TapPad } from "./TapPad";
import { useStationEntry } from "./useStationEntry";

/** Walking mode: the verdict to be read at arm's length, the next field under the thumb, and nothing else. */
export function Walking({ trace, onLeave }: { trace: Trace; onLeave: () => void }) {
  const [shown, setShown] = useState<number | null>(trace.stations.at(-1)?.id ?? null);
  const [saved, setSaved] = useState<number | null>(null);
  const [loud, setLoud] = useRemembered("vessel-walk-sound");
  const [buzzing, setBuzzing] = useRemembered("vessel-walk-buzz");
  const station = useStation(shown).data;
  useAwake();
  const verdict = station && station.id === saved ? station.verdict : null;
  useEffect(() => {
    if (!verdict) return;
    if (loud) sound(verdict);
    if (buzzing) buzz(verdict);
    setSaved(null);
  }, [verdict, loud, buzzing]);
  return (
    <div
      role="dialog"
      aria-modal="true"
      aria-label="Walking mode"
      className="fixed inset-0 z-40 flex flex-col overflow-y-auto bg-paper"
    >
      <div className="flex items-center gap-1 px-2">
        <strong className="mr-auto min-w-0 truncate">{trace.title}</strong>
        <Switch label="Sound" on={loud} onChange={setLoud} icons={[Volume2, VolumeX]} />
        <Switch label="Vibration" on={buzzing} onChange={setBuzzing} icons={[Vibrate, VibrateOff]} />
        <Button aria-label="Leave walking mode" className="px-2.5" onClick={onLeave}>
          <X aria-hidden />
        </Button>
      </div>
      <Entry
        trace={trace}
        last={<Verdict station={station} none={!trace.stations.length} />}
        onSaved={(id) => {
          setShown(id);
          setSaved(id);
        }}
      />
    </div>
  );
}

/** Filled in before anything is read. */
const KNOWN_BEFORE = ["distance", "lift_height"];

function Verdict({ station: s, none }: { station: Station | undefined; none: boolean }) {
  if (!s)
    return (
      <p className="grid grow place-items-center p-4 text-center text-xl font-bold">
        {none ? "No station yet. Enter the first one." : ""}
      </p>
    );
  return (
    <VerdictPanel verdict={s.verdict} at={s.distance_text}>
      <p className="line-clamp-3 text-lg leading-snug">{s.headline}</p>
      <p className="line-clamp-3 text-lg leading-snug font-bold">{s.next_step}</p>
    </VerdictPanel>
  );
}

/** The next station, key by key. Once begun, the last verdict gives way to it: it is not the verdict of this place. */
function Entry({
  trace: t,
  last,
  onSaved,
}: {
  trace: Trace;
  last: ReactNode;
  onSaved: (id: number) => void;
}) {
  const [at, setAt] = useState("currents");
  const { form, send, doubtful, saving, judging } = useStationEntry(t, null, (id) => {
    setAt("currents");
    onSaved(id);
  });
  const tapped = t.fields.filter((f) => f.tapped);
  const typed = useWatch({ control: form.control }) as StationFormState;
  const read = tapped.filter((f) => !KNOWN_BEFORE.includes(f.id) && typed[f.id]);
  const distance = String(typed.distance ?? "");
  const understood = useUnderstanding(distance, "distance", t.units);
  const here = understood?.ok ? understood.shown : distance || "no distance yet";
  return (
    <>
      {read.length ? (
        <section
          aria-label="Being entered"
          className="grid min-h-60 grow content-center gap-1 border-y-4 border-quiet p-3"
        >
          <p className="text-2xl font-bold">{here}: not judged yet</p>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 text-lg">
            {read.map((f) => (
              <div key={f.id} className="contents">
                <dt className="text-quiet">{f.label}</dt>
                <dd className="font-bold">{String(typed[f.id])}</dd>
              </div>
            ))}
          </dl>
        </section>
      ) : (
        last
      )}
      <EntryForm form={form} send={send(false)} className="px-2" aria-busy={saving}>
        <p className="py-1 text-lg font-bold">Next station: {here}</p>
        <FormError form={form} />
        {judging ? <p role="status">{judging}</p> : null}
        {doubtful ? (
          <Button look="stop" className="mb-2 w-full" disabled={saving} onClick={form.sending(send(true))}>
            Keep as typed
          </Button>
        ) : null}
        <TapPad still form={form} fields={tapped} at={at} onGoTo={setAt} />
      </EntryForm>
    </>
  );
}

function Switch(p: {
  label: string;
  on: boolean;
  onChange: (on: boolean) => void;
  icons: readonly [typeof X, typeof X];
}) {
  const Icon = p.icons[p.on ? 0 : 1];
  return (
    <button
      type="button"
      role="switch"
      aria-checked={p.on}
      aria-label={p.label}
      className="flex min-h-11 min-w-11 items-center justify-center"
      onClick={() => p.onChange(!p.on)}
    >
      <Icon aria-hidden className="size-6" />
    </button>
  );
}
