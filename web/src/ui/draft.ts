export type Kept = Record<string, unknown>;

const keyOf = (name: string) => `vessel-draft:${name}`;

/** Return the draft kept under `name`; null if there is none that can be read. */
export function readDraft(name: string): Kept | null {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(keyOf(name)) ?? "null");
    return kept && typeof kept === "object" ? (kept as Kept) : null;
  } catch {
    return null;
  }
}

/** Keep `value` in the browser; a full or forbidden store loses it on reload, never what is on the page. */
export function keep(key: string, value: object | string | null) {
  try {
    if (value === null) localStorage.removeItem(key);
    else localStorage.setItem(key, typeof value === "string" ? value : JSON.stringify(value));
  } catch {
    // nothing to do: the form itself still holds what was typed
  }
}

/** Keep what is typed so far under `name`; null drops it. */
export const keepDraft = (name: string, value: object | string | null) => keep(keyOf(name), value);
