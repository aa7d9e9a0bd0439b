import type { Schemas } from "../../api/client";
import { DASHES } from "../shared";
import type { Corner } from "./planView";
import { Area, Pin, Way } from "./shapes";

export function DrawnLine({ line }: { line: Schemas["DrawnLineView"] }) {
  return (
    <>
      <Way corners={line.corners} stroke="#1f2a30" strokeWidth={7} opacity={0.85} />
      <Way
        corners={line.corners}
        stroke={line.hex}
        strokeWidth={4}
        strokeDasharray={DASHES[line.pattern] ?? ""}
      />
    </>
  );
}

const TURN = Array.from({ length: 48 }, (_, k) => (2 * Math.PI * k) / 48);
export const ring = ([x, y]: Corner, radius: number): Corner[] =>
  TURN.map((a) => [x + radius * Math.cos(a), y + radius * Math.sin(a)]);

/** Hard surfaces, the dig area, structures, and how far plant hums. */
export function Ground({ site }: { site: Schemas["SiteView"] }) {
  return (
    <>
      {site.hard.map((t) => (
        <Area
          key={t.name}
          corners={t.corners}
          stroke="var(--quiet)"
          strokeWidth={1}
          fill="var(--quiet)"
          fillOpacity={0.22}
        />
      ))}
      {site.dig.length ? (
        <Area
          corners={site.dig}
          stroke="var(--ink)"
          strokeWidth={2}
          strokeDasharray="8 6"
          fill="var(--amber)"
          fillOpacity={0.14}
        />
      ) : null}
      {site.access.map((a) =>
        a.hums_m === null ? null : (
          <Area
            key={a.name}
            corners={ring(a.at, a.hums_m)}
            stroke="var(--care)"
            strokeWidth={2}
            strokeDasharray="1 6"
            strokeLinecap="round"
            fill="var(--care)"
            fillOpacity={0.07}
          />
        ),
      )}
      {site.structures.map((t) => (
        <Way key={t.name} corners={t.corners} stroke="var(--quiet)" strokeWidth={9} strokeDasharray="2 5" />
      ))}
    </>
  );
}

/** Access points: a square, red with a bolt where it is live. */
export function AccessPoints({ access }: { access: Schemas["SiteView"]["access"] }) {
  return access.map((a) => (
    <Pin key={a.name} at={a.at} text={`${a.name}: ${a.text}`} size={22}>
      <svg width="22" height="22" aria-hidden>
        <rect
          x="3"
          y="3"
          width="16"
          height="16"
          fill={a.live ? "var(--hold-bg)" : "var(--sheet)"}
          stroke={a.live ? "var(--hold)" : "var(--ink)"}
          strokeWidth="3"
        />
        {a.live ? <path d="M12 4L7 12h4l-1 6 5-8h-4z" fill="var(--hold)" /> : null}
      </svg>
    </Pin>
  ));
}

/** Hits of the passive sweep: something is here, whether or not a drawn line explains it. */
export function Hits({ hits }: { hits: Schemas["PlacedHitView"][] }) {
  return hits.map((h) => (
    <Pin key={`${h.at.join()}-${h.text}`} at={h.at} text={h.text} size={24}>
      <svg width="24" height="24" aria-hidden>
        <circle
          cx="12"
          cy="12"
          r="9"
          fill={h.explained ? "var(--sheet)" : "var(--care-bg)"}
          stroke="var(--ink)"
          strokeWidth="2"
          strokeDasharray={h.explained ? "3 2" : "none"}
        />
        <text x="12" y="17" textAnchor="middle" fontSize="14" fontWeight="700" fill="var(--ink)">
          ?
        </text>
      </svg>
    </Pin>
  ));
}

const DRAFT = { stroke: "var(--hold)", strokeWidth: 4, strokeDasharray: "6 5" };

/** What is being drawn and not saved yet. */
export function DraftWay({ corners, closed }: { corners: Corner[]; closed: boolean }) {
  return closed && corners.length > 2 ? (
    <Area corners={corners} {...DRAFT} fill="var(--hold)" fillOpacity={0.2} />
  ) : (
    <Way corners={corners} {...DRAFT} />
  );
}

export function DraftCorners({ corners }: { corners: Corner[] }) {
  return corners.map((c) => (
    <Pin key={c.join()} at={c} text="Corner" size={14} className="pointer-events-none">
      <svg width="14" height="14" aria-hidden>
        <circle cx="7" cy="7" r="5" fill="var(--sheet)" stroke="var(--hold)" strokeWidth="3" />
      </svg>
    </Pin>
  ));
}
