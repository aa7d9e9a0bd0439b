import type { ScaleLinear } from "d3-scale";

export type Scale = ScaleLinear<number, number>;

export const LEFT = 58;
export const GROUND = 58;
export const DEPTH = 110;
/** Between the depths and the currents: their captions, and what happened along the trace. */
export const HAPPENED = GROUND + DEPTH + 26;
export const CURRENT_TOP = HAPPENED + 42;
export const CURRENT = 120;
export const BOTTOM = CURRENT_TOP + CURRENT;
