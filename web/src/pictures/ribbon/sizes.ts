import type { ScaleLinear } from "d3-scale";

export type Scale = ScaleLinear<number, number>;

export const LEFT = 58;
export const GROUND = 52;
export const DEPTH = 92;
/** Between the depths and the currents: their captions, and what happened along the trace. */
export const HAPPENED = GROUND + DEPTH + 18;
export const CURRENT_TOP = HAPPENED + 34;
export const CURRENT = 104;
export const BOTTOM = CURRENT_TOP + CURRENT;
