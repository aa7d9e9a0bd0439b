import { useSyncExternalStore } from "react";

const KEY = "vessel.who";
const listeners = new Set<() => void>();
let here = kept();

function kept(): string {
  try {
    return localStorage.getItem(KEY) ?? "";
  } catch {
    return ""; // storage is shut: it is asked for again on the next page
  }
}

/** Who works on this device and signs what is entered on it; empty until somebody said. */
export const who = () => here;

/** Keep who works on this device from now on. */
export function workingHere(name: string) {
  here = name.trim();
  try {
    localStorage.setItem(KEY, here);
  } catch {
    // it holds until the page is left
  }
  for (const told of listeners) told();
}

function listen(told: () => void) {
  listeners.add(told);
  return () => listeners.delete(told);
}

/** Who works on this device, on the page as soon as it changes. */
export const useWho = () => useSyncExternalStore(listen, who);
