import { Refusal, type Schemas } from "../../api/client";

export type Kit = Schemas["KitDoc"];

export interface Row {
  key: number;
  hz: string;
  watts: string;
  noise: string;
  depth: boolean;
  direction: boolean;
}

export interface KitFormState {
  name: string;
  outputs: string;
  numbers: Record<string, string>;
  rows: Row[];
  clamp: boolean;
  coil: boolean;
  /** The crew's own bounds; they are changed on the Rules page and only carried along here. */
  bounds: Kit["bounds"];
}

type Part = "kit" | "clamp" | "coil" | "receiver";

/** Every single figure of a kit: its place in the document, the name refusals use, its label. */
export const FIGURES: { part: Part; key: string; name: string; label: string }[] = [
  { part: "kit", key: "volts_max", name: "volts_max", label: "Volts ceiling, V" },
  { part: "kit", key: "lead_m", name: "lead", label: "Stake lead, m" },
  { part: "kit", key: "battery_wh", name: "battery_wh", label: "Battery, Wh" },
  { part: "kit", key: "idle_w", name: "idle_w", label: "Power at idle, W" },
  { part: "kit", key: "efficiency", name: "efficiency", label: "Efficiency, 0 to 1" },
  { part: "clamp", key: "turns", name: "clamp.turns", label: "Clamp turns (volts to line volts)" },
  { part: "clamp", key: "magnetising_h", name: "clamp.magnetising_h", label: "Clamp inductance, H" },
  { part: "clamp", key: "min_freq_hz", name: "clamp.min_freq_hz", label: "Lowest clamp frequency, Hz" },
  { part: "coil", key: "moment_a_m2", name: "coil.moment_a_m2", label: "Coil moment, A m²" },
  { part: "coil", key: "corner_hz", name: "coil.corner_hz", label: "Full moment up to, Hz" },
  { part: "coil", key: "height_m", name: "coil.height_m", label: "Coil above ground, m" },
  { part: "coil", key: "min_freq_hz", name: "coil.min_freq_hz", label: "Lowest coil frequency, Hz" },
  { part: "receiver", key: "low_m", name: "receiver.low_m", label: "Lower receiver coil above ground, m" },
  { part: "receiver", key: "high_m", name: "receiver.high_m", label: "Upper receiver coil above ground, m" },
];

/** What a clamp or coil starts from when the kit had none. */
const USUAL: Record<string, number> = {
  "clamp.turns": 40,
  "clamp.magnetising_h": 1.48e-3,
  "clamp.min_freq_hz": 4000,
  "coil.moment_a_m2": 10,
  "coil.corner_hz": 36000,
  "coil.height_m": 0.25,
  "coil.min_freq_hz": 4000,
};

const part = (k: Kit, name: Part): Record<string, unknown> | null =>
  (name === "kit" ? k : k[name]) as Record<string, unknown> | null;

const tidy = (v: number) => String(Number(v.toPrecision(6)));

export const toForm = (k: Kit): KitFormState => ({
  name: k.name,
  outputs: k.outputs_a.map((a) => tidy(a * 1e3)).join(" "),
  numbers: Object.fromEntries(
    FIGURES.map((f) => [f.name, String(part(k, f.part)?.[f.key] ?? USUAL[f.name] ?? "")]),
  ),
  rows: k.frequencies.map((f, key) => ({
    key,
    hz: String(f.freq_hz),
    watts: String(f.watts),
    noise: tidy(f.noise_t * 1e12),
    depth: f.reads_depth ?? true,
    direction: f.reads_direction ?? false,
  })),
  clamp: k.clamp !== null,
  coil: k.coil !== null,
  bounds: k.bounds ?? [],
});

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

/** Unit prefixes only (mA, pT); every bound is the server's. */
export function toKit(f: KitFormState): Kit {
  const figures = (wanted: Part) =>
    Object.fromEntries(
      FIGURES.filter((x) => x.part === wanted).map((x) => [
        x.key,
        number(f.numbers[x.name] ?? "", x.name, x.label),
      ]),
    );
  return {
    name: f.name,
    outputs_a: f.outputs
      .split(/\s+/)
      .filter(Boolean)
      .map((t) => number(t, "outputs_a", "Output step") / 1e3),
    frequencies: f.rows.map((r, i) => ({
      freq_hz: number(r.hz, `frequencies.${i}.freq_hz`, "Frequency"),
      watts: number(r.watts, `frequencies.${i}.watts`, "Power"),
      noise_t: number(r.noise, `frequencies.${i}.noise_t`, "Noise") * 1e-12,
      reads_depth: r.depth,
      reads_direction: r.direction,
    })),
    ...figures("kit"),
    clamp: f.clamp ? figures("clamp") : null,
    coil: f.coil ? figures("coil") : null,
    receiver: figures("receiver"),
    bounds: f.bounds ?? [],
  } as Kit;
}
