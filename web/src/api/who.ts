import { useSyncExternalStore } from "react";
import { keepText, kept } from "./kept";

const KEY = "vessel.who";
const listeners = new Set<() => void>();
let here = kept(KEY);

/** Who works on this device and signs what is entered on it; empty until somebody said. */
export const who = () => here;

/** Keep who works on this device from now on. */
export function workingHere(name: string) {
  here = name.trim();
  keepText(KEY, here);
  for (const told of listeners) told();
}

function listen(told: () => void) {
  listeners.add(told);
  return () => listeners.delete(told);
}

/** Who works on this device, on the page as soon as it changes. */
export const useWho = () => useSyncExternalStore(listen, who);
