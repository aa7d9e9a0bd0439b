import type { Schemas } from "../../api/client";

/** Where a station stands, as its form holds it. */
export type Place = Required<Schemas["PlaceForm"]>;

export const NO_PLACE: Place = {
  by: "tapes",
  first_at: "",
  second_at: "",
  first_tape: "",
  second_tape: "",
  side: "left",
  latitude: null,
  longitude: null,
  accuracy_m: null,
};

/** How a station on record was placed, as its form holds it. */
export function placeOf(place: Schemas["StationPlace"] | null): Place | null {
  if (!place) return null;
  const t = place.typed;
  const number = (text?: string) => (text ? Number(text) : null);
  return {
    ...NO_PLACE,
    ...t,
    by: place.by,
    side: t.side === "right" ? "right" : "left",
    latitude: number(t.latitude),
    longitude: number(t.longitude),
    accuracy_m: number(t.accuracy_m),
  };
}
