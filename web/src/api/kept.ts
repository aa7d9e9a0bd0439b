/** What this browser keeps for the device; "" where there is nothing, or storage is shut. */
export function kept(key: string): string {
  try {
    return localStorage.getItem(key) ?? "";
  } catch {
    return "";
  }
}

/** Keep a text; where storage is shut it holds until the page is left. */
export function keepText(key: string, text: string) {
  try {
    localStorage.setItem(key, text);
  } catch {
    // nothing to do: who asked has it
  }
}
