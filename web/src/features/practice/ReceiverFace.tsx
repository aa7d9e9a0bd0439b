import {
  ArrowDown,
  ArrowLeft,
  ArrowRight,
  ArrowUp,
  RotateCcw,
  RotateCw,
  Volume2,
  VolumeX,
} from "lucide-react";
import { ToggleGroup } from "radix-ui";
import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import type { Face } from "./useReceiver";
import { useTone } from "./useTone";
import type { Pose, useWalk } from "./useWalk";

export interface ReceiverSettings {
  freqHz: number;
  gainDb: number;
  /** In sonde mode: coils turned a quarter, depth by the cube law. */
  sonde: boolean;
}

const SAYS = {
  peak: "Peak: loudest over the line",
  null: "Null: falls away over the line",
  both: "Peak solid, null broken",
};
const GAIN_STEP = 3;
const NICE = 0.7;
const MOST_GAIN = 100;
const [W, H] = [600, 88];

/** The receiver's own face: a trail of what it heard on the way, the level now, and on which side the line lies. */
export function ReceiverFace(p: {
  face: Face | null;
  trail: Face[];
  lost: boolean;
  pose: Pose;
  walk: ReturnType<typeof useWalk>;
  frequencies: Schemas["FrequencyChoice"][];
  hasSonde: boolean;
  settings: ReceiverSettings;
  onSettings: (s: ReceiverSettings) => void;
}) {
  const { face, settings } = p;
  const [listens, setListens] = useState<keyof typeof SAYS>("peak");
  const listening = listens === "null" ? "null" : "peak";
  const [loud, setLoud] = useState(false);
  const level = face ? (listening === "peak" ? face.level : face.null_level) : null;
  useTone(loud, level, listening);
  const gain = (db: number) =>
    p.onSettings({ ...settings, gainDb: Math.min(Math.max(Math.round(db), 0), MOST_GAIN) });
  const shown = level === null ? "–" : level > 1 ? "over" : String(Math.round(100 * level));
  return (
    <section className="card lg:p-2" aria-label="Receiver">
      <h2 className="sr-only">Receiver</h2>
      <div className="flex flex-wrap items-stretch gap-x-3 gap-y-2 sm:flex-nowrap">
        <div className="relative h-16 min-w-0 grow basis-full overflow-hidden rounded-md border border-edge bg-paper sm:h-24 sm:basis-0">
          <Trail trail={p.trail} listening={listening} />
          {listens === "both" ? (
            <div className="absolute inset-0">
              <Trail trail={p.trail} listening="null" />
            </div>
          ) : null}
          <p className="absolute top-1 left-2 text-sm font-semibold text-quiet">
            {settings.sonde ? "Sonde: a peak over the head, a null on each side" : SAYS[listens]}
          </p>
          {p.lost ? (
            <p className="absolute bottom-1 left-2 font-semibold text-hold">
              No answer from the yard. Waiting.
            </p>
          ) : null}
        </div>
        <div className="w-24 grow text-center sm:w-28 sm:grow-0" data-level={shown}>
          <p className="text-5xl leading-none font-bold tabular-nums">{shown}</p>
          <p className="text-sm text-quiet">
            {level !== null && level > 1 ? "turn the gain down" : "of 100"}
            {listens === "both" && face ? (
              <span data-null>, null {face.null_level > 1 ? "over" : Math.round(100 * face.null_level)}</span>
            ) : null}
          </p>
          <p className="flex h-7 items-center justify-center gap-1 font-bold" data-side={face?.side ?? ""}>
            {face?.side === "left" ? <ArrowLeft aria-hidden className="size-5" /> : null}
            {face?.side ? face.side : face?.noisy ? "noise" : face && !settings.sonde ? "over it" : ""}
            {face?.side === "right" ? <ArrowRight aria-hidden className="size-5" /> : null}
          </p>
        </div>
        <dl className="w-28 grow leading-tight sm:grow-0">
          <dt className="text-sm text-quiet">Depth{p.pose.lifted ? ", lifted" : ""}</dt>
          <dd className="text-xl font-bold tabular-nums">{face?.depth_text || "–"}</dd>
          <dt className="text-sm text-quiet">Current</dt>
          <dd className="text-xl font-bold tabular-nums">
            {face?.milliamps ? `${face.milliamps} mA` : "–"}
            {/* keeps its line when empty: the plan above must not jump */}
            <span className="block min-h-5 text-sm leading-5 font-normal">
              {face?.direction ? `runs ${face.direction}` : ""}
            </span>
          </dd>
        </dl>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2">
          <span className="sr-only">Receiver frequency</span>
          <select
            className="field w-auto"
            value={settings.freqHz}
            onChange={(e) => p.onSettings({ ...settings, freqHz: Number(e.target.value) })}
          >
            {p.frequencies.map((f) => (
              <option key={f.freq_hz} value={f.freq_hz}>
                {f.label}
              </option>
            ))}
          </select>
        </label>
        <Choice
          label="Listen for"
          value={listens}
          among={["peak", "null", "both"]}
          onChoose={(v) => setListens(v as keyof typeof SAYS)}
        />
        {p.hasSonde ? (
          <Choice
            label="Receiver mode"
            value={settings.sonde ? "sonde" : "line"}
            among={["line", "sonde"]}
            onChoose={(v) => p.onSettings({ ...settings, sonde: v === "sonde" })}
          />
        ) : null}
        <fieldset className="flex items-center gap-1" aria-label="Gain">
          <Button className="px-3" aria-label="Less gain" onClick={() => gain(settings.gainDb - GAIN_STEP)}>
            −
          </Button>
          <span className="w-16 text-center text-sm tabular-nums">{settings.gainDb} dB</span>
          <Button className="px-3" aria-label="More gain" onClick={() => gain(settings.gainDb + GAIN_STEP)}>
            +
          </Button>
          <Button
            className="px-3 text-sm"
            disabled={!face?.level}
            onClick={() => face && gain(settings.gainDb + 20 * Math.log10(NICE / Math.max(face.level, 1e-9)))}
          >
            Set gain
          </Button>
        </fieldset>
        <button
          type="button"
          role="switch"
          aria-checked={loud}
          className={`inline-flex min-h-11 items-center gap-2 rounded-md border px-3 font-semibold ${loud ? "border-deep bg-deep text-on-deep" : "border-quiet"}`}
          onClick={() => setLoud(!loud)}
        >
          {loud ? <Volume2 aria-hidden className="size-6" /> : <VolumeX aria-hidden className="size-6" />}
          <span className="max-sm:sr-only">Sound</span>
        </button>
        <Steps walk={p.walk} />
      </div>
    </section>
  );
}

function Choice(p: { label: string; value: string; among: string[]; onChoose: (v: string) => void }) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={p.label}
      value={p.value}
      onValueChange={(v) => v && p.onChoose(v)}
      className="flex overflow-hidden rounded-md border border-quiet"
    >
      {p.among.map((m) => (
        <ToggleGroup.Item
          key={m}
          value={m}
          className="min-h-11 px-3 font-semibold capitalize data-[state=on]:bg-deep data-[state=on]:text-on-deep"
        >
          {m}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** Steps and turns for a thumb; the arrow keys do the same. */
export function Steps({ walk }: { walk: ReturnType<typeof useWalk> }) {
  const button = "px-3";
  return (
    <fieldset className="flex flex-wrap items-center gap-1" aria-label="Steps">
      <Button className={button} aria-label="Turn left" onClick={() => walk.turn(-15)}>
        <RotateCcw aria-hidden className="size-5" />
      </Button>
      <Button className={button} aria-label="Step to the left" onClick={() => walk.step(0, -0.05)}>
        <ArrowLeft aria-hidden className="size-5" />
      </Button>
      <Button className={button} aria-label="Step ahead" onClick={() => walk.step(0.5, 0)}>
        <ArrowUp aria-hidden className="size-5" />
      </Button>
      <Button className={button} aria-label="Step back" onClick={() => walk.step(-0.5, 0)}>
        <ArrowDown aria-hidden className="size-5" />
      </Button>
      <Button className={button} aria-label="Step to the right" onClick={() => walk.step(0, 0.05)}>
        <ArrowRight aria-hidden className="size-5" />
      </Button>
      <Button className={button} aria-label="Turn right" onClick={() => walk.turn(15)}>
        <RotateCw aria-hidden className="size-5" />
      </Button>
    </fieldset>
  );
}

/** What was heard on the way here, the newest at the right. */
function Trail({ trail, listening }: { trail: Face[]; listening: "peak" | "null" }) {
  const of = (f: Face) => Math.min(listening === "peak" ? f.level : f.null_level, 1);
  const points = trail.map((f, k) => {
    const x = W - 8 - (trail.length - 1 - k) * ((W - 12) / 239);
    return [x, H - 6 - (H - 30) * of(f)] as const;
  });
  const last = points.at(-1);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      preserveAspectRatio="none"
      className="size-full"
      role="img"
      aria-label="What the receiver heard on the way"
    >
      <path d={`M0 ${H - 6}H${W}`} stroke="var(--edge)" strokeWidth="1" />
      {points.length > 1 ? (
        <polyline
          points={points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(" ")}
          fill="none"
          stroke={listening === "peak" ? "var(--deep)" : "var(--need)"}
          strokeWidth="3"
          strokeDasharray={listening === "peak" ? "" : "6 4"}
          vectorEffect="non-scaling-stroke"
        />
      ) : null}
      {last ? (
        <ellipse cx={last[0]} cy={last[1]} rx="5" ry="5" fill="var(--amber)" stroke="var(--deep)" />
      ) : null}
    </svg>
  );
}
