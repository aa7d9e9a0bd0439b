import type { Units } from "../api/client";

/** Formats SI figures for pictures in the user's system. Conversion of units only: nothing is judged here. */
export interface Formatter {
  distance: (m: number) => string;
  distanceUnit: string;
  fromUnit: (shown: number) => number;
  toUnit: (m: number) => number;
  depth: (m: number) => string;
}

const FOOT = 0.3048;

export const formatter = (units: Units): Formatter =>
  units === "metric"
    ? {
        distance: (m) => `${Number(m.toFixed(1))} m`,
        distanceUnit: "m",
        fromUnit: (v) => v,
        toUnit: (m) => m,
        depth: (m) => `${m.toFixed(1)} m`,
      }
    : {
        distance: (m) => `${Number((m / FOOT).toFixed(0))} ft`,
        distanceUnit: "ft",
        fromUnit: (v) => v * FOOT,
        toUnit: (m) => m / FOOT,
        depth: (m) => `${(m / FOOT).toFixed(1)} ft`,
      };

export const milliamps = (a: number): string => `${Number((a * 1e3).toPrecision(2))} mA`;

/** A short offset: centimetres matter. */
export const offsetText = (m: number, units: Units): string =>
  units === "metric" ? `${m.toFixed(2)} m` : `${((m / FOOT) * 12).toFixed(0)} in`;

export const hertz = (hz: number): string => (hz < 1000 ? `${hz} Hz` : `${hz / 1000} kHz`);

export const when = (iso: string): string => {
  const d = new Date(iso);
  return Number.isNaN(d.getTime())
    ? iso
    : d.toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });
};

/** A place as it is typed: `12.5 E, 3 S`, in the user's unit. */
export function placeText([east, north]: [number, number], units: Units): string {
  const way = (m: number, ahead: string, back: string) => {
    const figure = Number(formatter(units).toUnit(m).toFixed(2));
    return `${Math.abs(figure)} ${figure < 0 ? back : ahead}`;
  };
  return `${way(east, "E", "W")}, ${way(north, "N", "S")}`;
}
