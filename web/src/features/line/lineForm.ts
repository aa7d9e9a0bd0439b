import { Refusal, type Schemas } from "../../api/client";
import type { Kept } from "../../ui/draft";

type Construction = Schemas["ConstructionDoc"];
export type NeighbourTyped = Schemas["NeighbourTyped"];
export type PointTyped = Schemas["PointTyped"];

/** The figures of a construction that can be typed over. */
export type TypedFigure = Exclude<keyof Construction, "metal">;

/** No figure typed over the usual ones. */
export const AS_USUAL: Record<TypedFigure, string> = {
  radius_m: "",
  wall_m: "",
  conductivity_s_m: "",
  rel_permeability: "",
  core_conductivity_s_m: "",
  core_rel_permeability: "",
  insulation_m: "",
  insulation_eps_r: "",
  coating_s_m2: "",
  joint_spacing_m: "",
  joint_ohm: "",
  joint_f: "",
};

export const EMPTY = {
  name: "",
  utility: "gas",
  preset: "tracer_wire",
  construction: AS_USUAL,
  length: "",
  depth_min: "",
  depth_max: "",
  bare_metal: true,
  core_only: false,
  live: false,
  in_service: true,
  cased: false,
  near_earth: "",
  near_note: "",
  far_kind: "unknown" as Schemas["LineDetail"]["far_kind"],
  far_earth: "",
  neighbours: [] as NeighbourTyped[],
  points: [] as PointTyped[],
  seen: null as number | null,
};
export type LineFormState = typeof EMPTY;

/** A line on record as its form takes it. */
export function fromLine(l: Schemas["LineDetail"], c: Schemas["Catalogue"]): LineFormState {
  const usual = c.presets.find((x) => x.id === l.preset)?.construction;
  const changed = Object.entries(l.construction ?? {}).filter(
    ([k, v]) => usual && usual[k as keyof Construction] !== v,
  );
  const { id: _, job_id: __, construction: ___, ...rest } = l;
  return {
    ...EMPTY,
    ...rest,
    construction: { ...AS_USUAL, ...Object.fromEntries(changed.map(([k, v]) => [k, String(v)])) },
  };
}

/** A draft of an earlier version: electrical data under another name, neighbours with keys of their own. */
export function fromEarlier({ overrides, neighbours, ...rest }: Kept): Partial<LineFormState> {
  const list = neighbours as (NeighbourTyped & { key?: string })[] | undefined;
  return {
    ...(overrides ? { construction: { ...AS_USUAL, ...overrides } } : {}),
    ...rest,
    ...(list ? { neighbours: list.map(({ key: _, ...n }) => n) } : {}),
  };
}

/** Figures typed over the usual ones; JSON cannot say "not a number", so that is refused here by name. */
export function numbers(texts: Record<string, string>): Record<string, number> {
  const typed = Object.entries(texts).filter(([, v]) => v.trim());
  const bad = typed.find(([, v]) => !Number.isFinite(Number(v)));
  if (bad)
    throw new Refusal(
      `construction.${bad[0]}`,
      `“${bad[1]}” is not a number.`,
      "Type it as 0.0008 or 8e-4.",
      "bad_input",
    );
  return Object.fromEntries(typed.map(([k, v]) => [k, Number(v)]));
}
