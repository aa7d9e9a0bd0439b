import type { Schemas, Station } from "../../api/client";
import type { Kept } from "../../ui/draft";
import { type Place, placeOf } from "./stationPlace";

/** What is typed at a station, by the field's id: texts, ticks, the note and how it was placed. */
export type StationFormState = Record<string, string | boolean | number | Place | null>;

type EntryField = Schemas["EntryFieldView"];

/** A form with nothing in it. */
export const emptyForm = (fields: EntryField[]): StationFormState => ({
  ...Object.fromEntries(fields.map((f) => [f.id, f.shape === "tick" ? false : ""])),
  note: "",
  place: null,
});

/** A station on record as its form takes it. */
export function formOf(s: Station, fields: EntryField[]): StationFormState {
  const texts = fields.filter((f) => f.shape !== "tick").map((f) => [f.id, s.typed[f.id] ?? ""]);
  return {
    ...emptyForm(fields),
    ...Object.fromEntries(texts),
    lost: s.lost,
    note: s.note,
    place: placeOf(s.place),
    seen: s.seen,
  };
}

/** A draft of an earlier version, which kept texts and ticks apart. */
export function fromNested({ texts, ticks, ...rest }: Kept): Partial<StationFormState> {
  return { ...(texts as StationFormState), ...(ticks as StationFormState), ...(rest as StationFormState) };
}
