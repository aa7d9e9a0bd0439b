import { useEffect, useRef } from "react";

const typing = (e: KeyboardEvent): boolean =>
  e.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName);

/** Runs what stands under a key, unless somebody is typing in a field. */
export function useKeys(keys: Record<string, () => void>) {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      const run = latest.current[e.key];
      if (!run || typing(e) || e.ctrlKey || e.metaKey || e.altKey) return;
      e.preventDefault();
      run();
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, []);
}
