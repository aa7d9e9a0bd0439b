import { useCallback, useState } from "react";

type Kept = Record<string, unknown>;

function read(key: string): Kept | null {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(key) ?? "null");
    return kept && typeof kept === "object" ? (kept as Kept) : null;
  } catch {
    return null;
  }
}

/** Keep a draft; a full or forbidden store loses the draft on reload, never what is on the page. */
export function keep(key: string, value: object | string | null) {
  try {
    if (value === null) localStorage.removeItem(key);
    else localStorage.setItem(key, typeof value === "string" ? value : JSON.stringify(value));
  } catch {
    // nothing to do: the form itself still holds what was typed
  }
}

/**
 * Form state that survives reload, back and a dropped connection until it is saved or cleared.
 * `upgrade` turns a draft kept by an earlier version into what the form holds now.
 */
export function useDraft<T extends object>(
  name: string,
  empty: T,
  upgrade: (draft: Kept) => Partial<T> = (draft) => draft as Partial<T>,
) {
  const key = `vessel-draft:${name}`;
  const [value, setValue] = useState<T>(() => {
    const kept = read(key);
    return kept ? { ...empty, ...upgrade(kept) } : empty;
  });
  const change = useCallback(
    (patch: Partial<T>) =>
      setValue((old) => {
        const next = { ...old, ...patch };
        keep(key, next);
        return next;
      }),
    [key],
  );
  const clear = useCallback(
    (next: T) => {
      keep(key, null);
      setValue(next);
    },
    [key],
  );
  return [value, change, clear] as const;
}
