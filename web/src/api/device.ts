const KEY = "vessel.device";

/** What this device is called in the journal: what kind it is, with a mark of its own that it keeps. */
function device(): string {
  let mark = "";
  try {
    mark = localStorage.getItem(KEY) ?? "";
    if (!mark) {
      mark = Math.random().toString(36).slice(2, 6);
      localStorage.setItem(KEY, mark);
    }
  } catch {
    // storage is shut: the kind alone has to do
  }
  const kind = /Mobi|Android|iPhone/.test(navigator.userAgent) ? "phone" : "desk";
  return `${kind} ${mark}`.trim();
}

export const DEVICE = device();
