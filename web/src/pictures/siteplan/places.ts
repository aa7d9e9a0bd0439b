import L from "leaflet";

/** East and north in metres. */
export type Corner = [number, number];

/** A place as Leaflet's plain coordinates take it: north first. */
export const at = ([east, north]: Corner): L.LatLngTuple => [north, east];
export const all = (corners: Corner[]) => corners.map(at);

export const badge = (html: string, className: string, size: [number, number]) =>
  L.divIcon({ html, className, iconSize: size, iconAnchor: [size[0] / 2, size[1] / 2] });

export function escapeText(text: string): string {
  const box = document.createElement("span");
  box.textContent = text;
  return box.innerHTML;
}
