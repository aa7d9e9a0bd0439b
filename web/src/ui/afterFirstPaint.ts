/** Fetch what is not needed yet, once the page stands: it is there before anybody asks for it. */
export function afterFirstPaint(load: () => void) {
  setTimeout(load, 1_500);
}
