/** Fetch what is not needed yet, once the page stands: it is there before anybody asks for it. */
export function afterFirstPaint(load: () => Promise<unknown>) {
  setTimeout(() => void load().catch(() => undefined), 1_500);
}
