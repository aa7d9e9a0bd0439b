import { useCallback, useState } from "react";

const read = <T>(key: string): Partial<T> | null => {
  try {
    const text = localStorage.getItem(key);
    return text ? (JSON.parse(text) as Partial<T>) : null;
  } catch {
    return null;
  }
};

/** Form state that survives reload, back and a dropped connection until it is saved or cleared. */
export function useDraft<T extends object>(name: string, empty: T) {
  const key = `vessel-draft:${name}`;
  const [value, setValue] = useState<T>(() => ({ ...empty, ...read<T>(key) }));
  const change = useCallback(
    (patch: Partial<T>) =>
      setValue((old) => {
        const next = { ...old, ...patch };
        localStorage.setItem(key, JSON.stringify(next));
        return next;
      }),
    [key],
  );
  const clear = useCallback(
    (next: T) => {
      localStorage.removeItem(key);
      setValue(next);
    },
    [key],
  );
  return [value, change, clear] as const;
}
