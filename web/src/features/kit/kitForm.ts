import { Refusal, type Schemas } from "../../api/client";
import type { Kept } from "../../ui/draft";

export type Kit = Schemas["KitDoc"];

export interface Row {
  freq_hz: string;
  watts: string;
  noise_t: string;
  depth: boolean;
  direction: boolean;
}

type Part = "kit" | "clamp" | "coil" | "receiver";

export interface KitFormState {
  name: string;
  outputs_a: string;
  /** Figures of each part as typed, by their key in the document. */
  kit: Record<string, string>;
  clamp: Record<string, string>;
  coil: Record<string, string>;
  receiver: Record<string, string>;
  frequencies: Row[];
  has_clamp: boolean;
  has_coil: boolean;
  /** The crew's own limits; they are changed on the Rules page and only carried along here. */
  bounds: Kit["bounds"];
}

/** Every single figure of a kit: its place in the document, its label and typical value; `printed`: on the device. */
export const FIGURES: {
  part: Part;
  key: string;
  label: string;
  usual?: number;
  hint?: string;
  printed?: boolean;
}[] = [
  { part: "kit", key: "volts_max", label: "Volts ceiling, V", hint: "on the transmitter", printed: true },
  { part: "kit", key: "lead_m", label: "Stake lead, m", hint: "from transmitter to stake", printed: true },
  { part: "kit", key: "battery_wh", label: "Battery, Wh", hint: "volts times amp hours", printed: true },
  { part: "kit", key: "idle_w", label: "Power at idle, W", usual: 1.5 },
  { part: "kit", key: "efficiency", label: "Efficiency, 0 to 1", usual: 0.6 },
  { part: "clamp", key: "min_freq_hz", label: "Lowest clamp frequency, Hz", usual: 4000, printed: true },
  { part: "clamp", key: "turns", label: "Clamp turns (volts to line volts)", usual: 40 },
  { part: "clamp", key: "magnetising_h", label: "Clamp inductance, H", usual: 1.48e-3 },
  { part: "coil", key: "min_freq_hz", label: "Lowest coil frequency, Hz", usual: 4000, printed: true },
  { part: "coil", key: "moment_a_m2", label: "Coil moment, A m²", usual: 10 },
  { part: "coil", key: "corner_hz", label: "Full moment up to, Hz", usual: 36000 },
  { part: "coil", key: "height_m", label: "Coil above ground, m", usual: 0.25 },
  {
    part: "kit",
    key: "sonde_hz",
    label: "Sonde, Hz",
    usual: 560,
    hint: "on the sonde or camera head",
    printed: true,
  },
  { part: "kit", key: "frame_m", label: "A-frame, between spikes, m", usual: 0.6, printed: true },
  { part: "receiver", key: "low_m", label: "Lower receiver coil above ground, m", usual: 0.05 },
  { part: "receiver", key: "high_m", label: "Upper receiver coil above ground, m", usual: 0.45 },
];

const part = (k: Kit, name: Part): Record<string, unknown> | null =>
  (name === "kit" ? k : k[name]) as Record<string, unknown> | null;

const tidy = (v: number) => String(Number(v.toPrecision(6)));

const texts = (k: Kit, of: Part) =>
  Object.fromEntries(
    FIGURES.filter((f) => f.part === of).map((f) => [f.key, String(part(k, of)?.[f.key] ?? f.usual ?? "")]),
  );

export const toForm = (k: Kit): KitFormState => ({
  name: k.name,
  outputs_a: k.outputs_a.map((a) => tidy(a * 1e3)).join(" "),
  kit: texts(k, "kit"),
  clamp: texts(k, "clamp"),
  coil: texts(k, "coil"),
  receiver: texts(k, "receiver"),
  frequencies: k.frequencies.map((f) => ({
    freq_hz: String(f.freq_hz),
    watts: String(f.watts),
    noise_t: tidy(f.noise_t * 1e12),
    depth: f.reads_depth ?? true,
    direction: f.reads_direction ?? false,
  })),
  has_clamp: k.clamp !== null,
  has_coil: k.coil !== null,
  bounds: k.bounds ?? [],
});

/** A draft of an earlier version: all figures in one list, rows under other names. */
export function fromEarlier(draft: Kept): Partial<KitFormState> {
  if (!("numbers" in draft)) return draft as Partial<KitFormState>;
  const numbers = draft.numbers as Record<string, string>;
  const of = (wanted: Part) =>
    Object.fromEntries(
      FIGURES.filter((f) => f.part === wanted).map(({ key }) => {
        const name = wanted === "kit" ? key.replace("lead_m", "lead") : `${wanted}.${key}`;
        return [key, numbers[name] ?? ""];
      }),
    );
  const rows = draft.rows as {
    hz: string;
    watts: string;
    noise: string;
    depth: boolean;
    direction: boolean;
  }[];
  return {
    name: String(draft.name),
    outputs_a: String(draft.outputs),
    kit: of("kit"),
    clamp: of("clamp"),
    coil: of("coil"),
    receiver: of("receiver"),
    frequencies: rows.map((r) => ({
      freq_hz: r.hz,
      watts: r.watts,
      noise_t: r.noise,
      depth: r.depth,
      direction: r.direction,
    })),
    has_clamp: draft.clamp === true,
    has_coil: draft.coil === true,
    bounds: draft.bounds as Kit["bounds"],
  };
}

const number = (text: string, field: string, label: string): number => {
  const v = Number(text);
  if (text.trim() === "" || !Number.isFinite(v))
    throw new Refusal(
      field,
      `${label}: “${text}” is not a number.`,
      "Type it with a decimal point, such as 8960.",
      "bad_input",
    );
  return v;
};

/** Unit prefixes only (mA, pT); every limit is the server's. */
export function toKit(f: KitFormState): Kit {
  const figures = (wanted: Part) =>
    Object.fromEntries(
      FIGURES.filter((x) => x.part === wanted).map((x) => [
        x.key,
        number(f[wanted][x.key] ?? String(x.usual ?? ""), `${wanted}.${x.key}`, x.label),
      ]),
    );
  return {
    name: f.name,
    outputs_a: f.outputs_a
      .split(/\s+/)
      .filter(Boolean)
      .map((t) => number(t, "outputs_a", "Output step") / 1e3),
    frequencies: f.frequencies.map((r, i) => ({
      freq_hz: number(r.freq_hz, `frequencies.${i}.freq_hz`, "Frequency"),
      watts: number(r.watts, `frequencies.${i}.watts`, "Power"),
      noise_t: number(r.noise_t, `frequencies.${i}.noise_t`, "Noise") * 1e-12,
      reads_depth: r.depth,
      reads_direction: r.direction,
    })),
    ...figures("kit"),
    clamp: f.has_clamp ? figures("clamp") : null,
    coil: f.has_coil ? figures("coil") : null,
    receiver: figures("receiver"),
    bounds: f.bounds ?? [],
  } as Kit;
}
