import { keepText, kept } from "./kept";

const KEY = "vessel.device";

/** What this device is called in the journal: what kind it is, with a mark of its own that it keeps. */
function device(): string {
  const mark = kept(KEY) || Math.random().toString(36).slice(2, 6);
  keepText(KEY, mark);
  const kind = /Mobi|Android|iPhone/.test(navigator.userAgent) ? "phone" : "desk";
  return `${kind} ${mark}`;
}

export const DEVICE = device();
