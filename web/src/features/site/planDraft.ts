import type { Schemas } from "../../api/client";

type Form = Schemas["SiteForm"];
export type Keyed<T> = T & { key: string };

/** The plan while it is edited: routes by line, everything else with a key of its own. */
export interface PlanDraft {
  routes: Record<string, string>;
  access: Keyed<Schemas["AccessForm"]>[];
  structures: Keyed<Schemas["StructureForm"]>[];
  hard: Keyed<Schemas["AreaForm"]>[];
  dig: string;
  bonds: Keyed<Schemas["BondForm"]>[];
  school: Form["school"];
  origin: Form["origin"];
  /** The newest change of the job that the draft began with: what others change later is put together with it. */
  seen: number | null;
}

const keyed = <T>(items: T[] | undefined): Keyed<T>[] =>
  (items ?? []).map((item) => ({ ...item, key: crypto.randomUUID() }));

/** The plan as typed, with a text for every line of the job. */
export const draftOf = (typed: Form, ids: number[], seen: number): PlanDraft => ({
  seen,
  routes: {
    ...Object.fromEntries(ids.map((id) => [String(id), ""])),
    ...Object.fromEntries((typed.routes ?? []).map((r) => [String(r.line_id), r.route])),
  },
  access: keyed(typed.access),
  structures: keyed(typed.structures),
  hard: keyed(typed.hard),
  dig: typed.dig ?? "",
  bonds: keyed(typed.bonds),
  school: typed.school,
  origin: typed.origin,
});

const plain = <T>(items: Keyed<T>[]): T[] => items.map(({ key: _, ...rest }) => rest as T);

/** Lines with a route, in the order in which refusals count them. */
export const routed = (draft: PlanDraft, ids: number[]): number[] =>
  ids.filter((id) => draft.routes[String(id)]?.trim());

/** The name of a route's field from the one refusals use, which counts the lines that have a route. */
export function routeField(field: string, order: number[]): string {
  const [list, count, ...rest] = field.split(".");
  return list === "routes" && rest.length ? `routes.${order[Number(count)]}` : field;
}

export const formOf = (draft: PlanDraft, ids: number[]): Form => ({
  routes: routed(draft, ids).map((id) => ({ line_id: id, route: draft.routes[String(id)] ?? "" })),
  access: plain(draft.access),
  structures: plain(draft.structures),
  hard: plain(draft.hard),
  dig: draft.dig,
  bonds: plain(draft.bonds),
  school: draft.school,
  origin: draft.origin,
  seen: draft.seen,
});

export const NEW_ACCESS: Schemas["AccessForm"] = {
  name: "",
  kind: "pedestal",
  at: "",
  bare_metal: true,
  core_only: false,
  live: false,
  in_service: true,
  cased: false,
  earth: "",
  solenoid: "",
  inductance: "",
};
export const NEW_STRUCTURE: Schemas["StructureForm"] = {
  name: "",
  preset: "steel_building",
  route: "",
  depth: "",
  start_earth: "",
  end_earth: "",
};
export const NEW_AREA: Schemas["AreaForm"] = { name: "", outline: "" };
export const NEW_BOND: Schemas["BondForm"] = { a: "", a_at: "", b: "", b_at: "", ohm: "" };
