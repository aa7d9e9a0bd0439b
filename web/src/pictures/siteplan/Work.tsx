import type L from "leaflet";
import { Marker, Polyline } from "react-leaflet";
import type { Schemas } from "../../api/client";
import { all, at, badge, type Corner, escapeText } from "./places";

export function Work(p: {
  work: Schemas["WorkView"];
  chosen: number | null;
  onChoose?: (n: number) => void;
}) {
  const visit = p.work.visits.find((v) => v.number === p.chosen);
  return (
    <>
      {p.work.lines.flatMap((l) =>
        l.missing.map((m) => (
          <Polyline
            key={`${l.line_id}-${m.corners.join()}`}
            positions={all(m.corners)}
            pathOptions={{
              color: "var(--hold)",
              weight: 13,
              opacity: 0.45,
              dashArray: "3 7",
              lineCap: "butt",
              interactive: false,
            }}
          />
        )),
      )}
      {visit?.pieces.map((piece) => (
        <Polyline
          key={piece.corners.join()}
          positions={all(piece.corners)}
          pathOptions={{
            color: "var(--mark)",
            weight: 15,
            opacity: 0.4,
            lineCap: "butt",
            interactive: false,
          }}
        />
      ))}
      {visit?.at && visit.stake_at ? (
        <>
          <Polyline
            positions={all([visit.at, visit.stake_at])}
            pathOptions={{ color: "var(--ink)", weight: 2, dashArray: "4 4", interactive: false }}
          />
          <Marker position={at(visit.stake_at)} icon={STAKE} title="Stake" alt="Stake" interactive={false} />
        </>
      ) : null}
      {p.work.visits.map((v) =>
        v.at ? (
          <Marker
            key={v.number}
            position={at(v.at)}
            icon={badge(
              `${v.number}`,
              v.number === p.chosen ? "plan-step plan-step-on" : "plan-step",
              [30, 30],
            )}
            title={`Step ${v.number}: ${v.line_name}`}
            zIndexOffset={v.number === p.chosen ? 1000 : 500}
            eventHandlers={{
              click: () => p.onChoose?.(v.number),
            }}
          />
        ) : null,
      )}
    </>
  );
}

const STAKE = badge(
  '<svg width="26" height="26"><title>Stake</title><path d="M13 25L5 5h16z" fill="var(--amber)" stroke="#14212a" stroke-width="2.5"/></svg>',
  "",
  [26, 26],
);

export function Spot({ spot, onChoose }: { spot: Schemas["SpotView"]; onChoose?: (at: Corner) => void }) {
  return (
    <Marker
      position={at(spot.at)}
      keyboard={false}
      title={spot.text}
      alt={spot.text}
      eventHandlers={{ click: () => onChoose?.(spot.at) }}
      icon={badge(
        `<svg width="16" height="16"><title>${escapeText(spot.text)}</title>${
          spot.ok
            ? '<circle cx="8" cy="8" r="5" fill="var(--mark-bg)" stroke="var(--mark)" stroke-width="2"/>'
            : '<path d="M3 3l10 10M13 3L3 13" stroke="var(--hold)" stroke-width="2.5"/>'
        }</svg>`,
        "",
        [16, 16],
      )}
    />
  );
}

export function Stake(p: { at: Corner; from: Corner; onMove: (at: Corner) => void }) {
  const moved = (e: L.LeafletEvent) => {
    const to = (e.target as L.Marker).getLatLng();
    p.onMove([to.lng, to.lat]);
  };
  return (
    <>
      <Polyline
        positions={all([p.from, p.at])}
        pathOptions={{ color: "var(--ink)", weight: 2, dashArray: "4 4", interactive: false }}
      />
      <Marker
        position={at(p.at)}
        icon={STAKE}
        draggable
        title="Stake: drag it"
        alt="Stake"
        zIndexOffset={2000}
        eventHandlers={{ drag: moved, dragend: moved }}
      />
    </>
  );
}
