import { useId } from "react";
import type { Schemas } from "../api/client";

type Cover = Schemas["CoverView"];
type State = Cover["lengths"][number]["state"];

const LOOK: Record<State, { word: string; ink: string }> = {
  marked: { word: "marked", ink: "text-mark" },
  doubtful: { word: "doubtful", ink: "text-care" },
  missing: { word: "not located", ink: "text-hold" },
};

/** The line from end to end: solid where it is marked, striped where doubtful, empty and crossed where not located. */
export function CoverStrip({ cover, tall = false }: { cover: Cover; tall?: boolean }) {
  const high = tall ? 22 : 10;
  const id = useId();
  const fill: Record<State, string> = {
    marked: "var(--mark)",
    doubtful: `url(#${id}-doubtful)`,
    missing: `url(#${id}-missing)`,
  };
  const words = cover.lengths.map((l) => `${LOOK[l.state].word} ${l.text}`).join(", ");
  return (
    <svg
      width="100%"
      height={high}
      viewBox={`0 0 1000 ${high}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={`From end to end: ${words}`}
      className="block"
    >
      <defs>
        <pattern id={`${id}-doubtful`} width="14" height="14" patternUnits="userSpaceOnUse">
          <rect width="14" height="14" fill="var(--care-bg)" />
          <path d="M0 14 L14 0" stroke="var(--care)" strokeWidth="5" />
        </pattern>
        <pattern id={`${id}-missing`} width="26" height={high} patternUnits="userSpaceOnUse">
          <rect width="26" height={high} fill="var(--hold-bg)" />
          <path
            d={`M9 ${high * 0.2} L17 ${high * 0.8} M17 ${high * 0.2} L9 ${high * 0.8}`}
            stroke="var(--hold)"
            strokeWidth="2"
          />
        </pattern>
      </defs>
      {cover.stretches.map((s) => (
        <rect
          key={s.start_m}
          data-cover={s.state}
          x={(1000 * s.start_m) / cover.length_m}
          width={(1000 * (s.end_m - s.start_m)) / cover.length_m}
          y={0}
          height={high}
          fill={fill[s.state]}
        >
          <title>{`${LOOK[s.state].word}, ${s.text}`}</title>
        </rect>
      ))}
      <rect
        x={0.5}
        y={0.5}
        width={999}
        height={high - 1}
        fill="none"
        stroke="var(--quiet)"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}

/** How much of what is wanted is marked, doubtful and not located, the last as prominent as the first. */
export function CoverLengths({ cover }: { cover: Cover }) {
  return (
    <ul className="flex flex-wrap gap-x-5 gap-y-1" aria-label={`Of ${cover.wanted_text} to be located`}>
      {cover.lengths.map((l) => (
        <li key={l.state} className={LOOK[l.state].ink}>
          <strong className="text-lg">{l.text}</strong> {LOOK[l.state].word}
        </li>
      ))}
    </ul>
  );
}

/** Strip, lengths, and in words which stretches are not located. */
export function CoverCard({ cover }: { cover: Cover }) {
  const stretches = cover.stretches.filter((s) => s.state !== "marked" || s.depth_text);
  return (
    <div data-cover-card>
      <p className="mb-1 text-sm text-quiet">Of {cover.wanted_text} to be located:</p>
      <CoverLengths cover={cover} />
      <div className="my-2">
        <CoverStrip cover={cover} tall />
      </div>
      {stretches.length ? (
        <ul className="grid gap-x-4 sm:grid-cols-2">
          {stretches.map((s) => (
            <li key={s.start_m}>
              <strong className={LOOK[s.state].ink}>
                {{ missing: "NOT LOCATED", doubtful: "Doubtful", marked: "Marked" }[s.state]}
              </strong>{" "}
              {s.text}
              {s.depth_text ? `, ${s.depth_text}` : ""}
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
