import { useState } from "react";
import { keep } from "../../ui/draft";

const KEY = "vessel-tap-pad";

/** Whether stations are tapped in with the pad; remembered on this device. */
export function useTapping() {
  const [on, setOn] = useState(() => localStorage.getItem(KEY) === "on");
  const change = (next: boolean) => {
    keep(KEY, next ? "on" : "off");
    setOn(next);
  };
  return [on, change] as const;
}
