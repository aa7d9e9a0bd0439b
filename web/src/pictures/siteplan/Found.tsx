import { Circle, Marker, Polygon, Polyline } from "react-leaflet";
import type { Schemas } from "../../api/client";
import { all, at, badge, escapeText } from "./places";

type Found = Schemas["FoundView"];
type Point = Schemas["FoundPoint"];

/** Tolerance zones of what is marked, what is not located just as loud, stations and marks; or one line's sweep. */
export function FoundThings({ found, lineId }: { found: Found; lineId?: number }) {
  if (lineId !== undefined) return <Swept line={found.lines.find((l) => l.line_id === lineId)} />;
  return (
    <>
      {found.lines.flatMap((l) =>
        l.stretches.map((s) =>
          s.state === "marked" ? (
            <Polygon
              key={s.text}
              positions={all(s.zone)}
              pathOptions={{
                color: "var(--mark)",
                weight: 2,
                fillColor: "var(--mark)",
                fillOpacity: 0.25,
                interactive: false,
              }}
            />
          ) : (
            <Polyline
              key={s.text}
              positions={all(s.corners)}
              pathOptions={{
                color: s.state === "missing" ? "var(--hold)" : "var(--care)",
                weight: 13,
                opacity: s.state === "missing" ? 0.45 : 0.6,
                dashArray: s.state === "missing" ? "3 7" : "10 4",
                lineCap: "butt",
                interactive: false,
              }}
            />
          ),
        ),
      )}
      {found.lines.flatMap((l) => l.points.filter((p) => p.kind !== "centre_line").map(pointMarker))}
    </>
  );
}

/** Of one line only the circle round its hookup and the centre lines met on it. */
function Swept({ line }: { line?: Found["lines"][number] }) {
  if (!line?.centre) return null;
  return (
    <>
      <Circle
        center={at(line.centre)}
        radius={line.radius_m}
        pathOptions={{
          color: "var(--ink)",
          weight: 2,
          dashArray: "2 6",
          fill: false,
          interactive: false,
        }}
      />
      {line.points.filter((p) => p.kind === "centre_line").map(pointMarker)}
    </>
  );
}

const pointMarker = (p: Point) => (
  <Marker
    key={`${p.kind}-${p.text}`}
    position={at(p.at)}
    title={p.text}
    alt={p.text}
    keyboard={false}
    zIndexOffset={p.kind === "centre_line" ? 600 : 0}
    icon={ICON[p.kind](p)}
  />
);

const TONE: Record<string, string> = {
  mark: "mark",
  target: "mark",
  mark_with_care: "care",
  maybe: "care",
  need_more: "need",
  hold: "hold",
  unknown: "hold",
  beside: "quiet",
};
const tone = (p: Point) => `var(--${TONE[p.state] ?? "quiet"})`;

/** Inside of a station's dot, so that no verdict is told by its colour alone. */
const SIGN: Record<string, string> = {
  mark: "M4 8l3 3 5-6",
  mark_with_care: "M8 4v5M8 11v1.5",
  need_more: "M5 8h6",
  hold: "M5 5l6 6M11 5l-6 6",
};

const svg = (size: number, text: string, inside: string) =>
  `<svg width="${size}" height="${size}" viewBox="0 0 16 16"><title>${escapeText(text)}</title>${inside}</svg>`;

const ICON: Record<Point["kind"], (p: Point) => ReturnType<typeof badge>> = {
  station: (p) =>
    badge(
      svg(
        18,
        p.text,
        `<circle cx="8" cy="8" r="7" fill="${tone(p)}" stroke="var(--sheet)" stroke-width="1.5"/><path d="${SIGN[p.state] ?? ""}" fill="none" stroke="var(--sheet)" stroke-width="2"/>`,
      ),
      "",
      [18, 18],
    ),
  centre_line: (p) =>
    badge(
      svg(
        22,
        p.text,
        `<path d="M8 1l7 7-7 7-7-7z" fill="${tone(p)}" stroke="var(--ink)" stroke-width="1.5"/>${p.state === "target" ? '<circle cx="8" cy="8" r="2.4" fill="var(--sheet)"/>' : ""}`,
      ),
      "",
      [22, 22],
    ),
  mark: (p) => badge(escapeText(p.label.split(" ")[0] ?? ""), "plan-mark", [24, 24]),
};
