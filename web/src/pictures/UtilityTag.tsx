import type { Schemas } from "../api/client";
import { DASHES } from "./shared";

/** Marking colour with its pattern and letter: never colour alone. */
export function UtilityTag({ utility }: { utility: Schemas["UtilityView"] }) {
  return (
    <svg
      width="44"
      height="26"
      viewBox="0 0 44 26"
      className="shrink-0"
      role="img"
      aria-label={`${utility.label}, ${utility.colour}`}
    >
      <rect x="0.5" y="0.5" width="43" height="25" rx="4" fill="#1f2a30" />
      <line
        x1="2"
        x2="42"
        y1="21"
        y2="21"
        stroke={utility.hex}
        strokeWidth="4"
        strokeDasharray={DASHES[utility.pattern]}
      />
      <text x="22" y="15" textAnchor="middle" fontSize="14" fontWeight="700" fill="#fff">
        {utility.letter}
      </text>
    </svg>
  );
}
