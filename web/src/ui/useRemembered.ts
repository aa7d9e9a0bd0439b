import { useState } from "react";
import { keep } from "./draft";

/** A switch remembered on this device under a key. */
export function useRemembered(key: string) {
  const [on, setOn] = useState(() => localStorage.getItem(key) === "on");
  const change = (next: boolean) => {
    keep(key, next ? "on" : "off");
    setOn(next);
  };
  return [on, change] as const;
}
