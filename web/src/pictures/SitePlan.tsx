import L from "leaflet";
import { Fragment, useEffect, useMemo, useState } from "react";
import { MapContainer, Marker, Polygon, Polyline, useMap, useMapEvents } from "react-leaflet";
import type { Schemas } from "../api/client";
import type { Formatter } from "../app/units";
import { DASHES } from "./shared";
import "./leaflet.css";

type Corner = [number, number];
type Site = Schemas["SiteView"];

export interface SitePlanProps {
  site: Site;
  work?: Schemas["WorkView"] | null;
  chosen?: number | null;
  onChoose?: (number: number) => void;
  /** What is being drawn, not saved yet. */
  draft?: Corner[];
  closed?: boolean;
  onTap?: (at: Corner) => void;
  format: Formatter;
  /** Spots for the stake, if they are shown, and what happens when the stake is dragged. */
  spots?: Schemas["SpotView"][];
  stake?: { at: Corner; from: Corner; onMove: (at: Corner) => void } | null;
  zoomTo?: Corner[];
}

const at = ([east, north]: Corner): L.LatLngTuple => [north, east];
const all = (corners: Corner[]) => corners.map(at);

/** Metres, north up, no tiles: the site as it is drawn, with the order of work on it. */
export default function SitePlan(p: SitePlanProps) {
  const bounds = useMemo(() => boundsOf(p.zoomTo ?? everything(p.site)), [p.site, p.zoomTo]);
  const named: Name[] = [
    ...p.site.lines.map((l) => ({ key: `line-${l.id}`, letter: l.letter, name: l.name, corners: l.corners })),
    ...p.site.structures.map((t) => ({
      key: `thing-${t.name}`,
      letter: "",
      name: t.name,
      corners: t.corners,
    })),
  ];
  const taken = [
    ...(p.work?.visits.flatMap((v) => (v.at ? [v.at] : [])) ?? []),
    ...p.site.access.map((a) => a.at),
  ];
  return (
    <MapContainer
      crs={L.CRS.Simple}
      bounds={bounds}
      minZoom={-4}
      maxZoom={6}
      zoomSnap={0.25}
      attributionControl={false}
      className="plan-map isolate size-full rounded-lg border border-edge"
    >
      <Fit bounds={bounds} />
      <Grid format={p.format} />
      <Things site={p.site} />
      {p.site.lines.map((l) => (
        <DrawnLine key={l.id} line={l} />
      ))}
      <Names names={named} taken={taken} />
      {p.work ? <Work work={p.work} chosen={p.chosen ?? null} onChoose={p.onChoose} /> : null}
      {p.spots?.map((s) => (
        <Spot key={s.at.join()} spot={s} onChoose={p.stake?.onMove} />
      ))}
      {p.stake ? <Stake {...p.stake} /> : null}
      {p.draft?.length ? <Draft corners={p.draft} closed={p.closed ?? false} /> : null}
      <Taps site={p.site} onTap={p.onTap} />
    </MapContainer>
  );
}

function everything(site: Site): Corner[] {
  if (site.dig.length)
    return [
      ...site.dig,
      ...site.access.map((a) => a.at),
      ...site.lines.flatMap((l) => l.corners.slice(0, 1)),
    ];
  const near = [...site.lines.flatMap((l) => l.corners), ...site.access.map((a) => a.at), ...site.dig];
  const rest = [...site.structures, ...site.hard].flatMap((t) => t.corners);
  return near.length ? near : rest;
}

function boundsOf(corners: Corner[]): L.LatLngBounds {
  const found = corners.length ? L.latLngBounds(all(corners)) : L.latLngBounds([0, 0], [40, 60]);
  return found.pad(0.08);
}

function Fit({ bounds }: { bounds: L.LatLngBounds }) {
  const map = useMap();
  const key = bounds.toBBoxString();
  useEffect(() => {
    map.fitBounds(bounds, { animate: false });
  }, [map, key]);
  useEffect(() => {
    const watch = new ResizeObserver(() => map.invalidateSize());
    watch.observe(map.getContainer());
    return () => watch.disconnect();
  }, [map]);
  return null;
}

/** A metre grid with its step, and which way north is. */
function Grid({ format }: { format: Formatter }) {
  const map = useMap();
  const [, redraw] = useState(0);
  useMapEvents({ moveend: () => redraw((n) => n + 1), zoomend: () => redraw((n) => n + 1) });
  const box = map.getBounds();
  const step = niceStep(format.toUnit(70 / 2 ** map.getZoom()));
  const metres = format.fromUnit(step);
  const lines: L.LatLngTuple[][] = [];
  for (let x = Math.ceil(box.getWest() / metres) * metres; x < box.getEast(); x += metres)
    lines.push([
      [box.getSouth(), x],
      [box.getNorth(), x],
    ]);
  for (let y = Math.ceil(box.getSouth() / metres) * metres; y < box.getNorth(); y += metres)
    lines.push([
      [y, box.getWest()],
      [y, box.getEast()],
    ]);
  return (
    <>
      <Polyline
        positions={lines}
        pathOptions={{ color: "var(--edge)", weight: 1, opacity: 0.7, interactive: false }}
      />
      <div className="leaflet-top leaflet-right" aria-hidden>
        <p className="m-2 rounded bg-sheet/90 px-2 py-1 text-sm font-semibold">
          ↑ N · grid {step} {format.distanceUnit}
        </p>
      </div>
    </>
  );
}

function niceStep(rough: number): number {
  const ten = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((k) => k * ten).find((k) => k >= rough) ?? 10 * ten;
}

const badge = (html: string, className: string, size: [number, number]) =>
  L.divIcon({ html, className, iconSize: size, iconAnchor: [size[0] / 2, size[1] / 2] });

function escapeText(text: string): string {
  const box = document.createElement("span");
  box.textContent = text;
  return box.innerHTML;
}

interface Name {
  key: string;
  letter: string;
  name: string;
  corners: Corner[];
}

/** The place at a share of the way along. */
function along(corners: Corner[], share: number): Corner {
  const legs = corners.slice(1).map((b, i) => {
    const a = corners[i] ?? b;
    return { a, b, length: Math.hypot(b[0] - a[0], b[1] - a[1]) };
  });
  let left = share * legs.reduce((sum, l) => sum + l.length, 0);
  for (const { a, b, length } of legs) {
    if (left <= length) {
      const k = length ? left / length : 0;
      return [a[0] + k * (b[0] - a[0]), a[1] + k * (b[1] - a[1])];
    }
    left -= length;
  }
  return corners[corners.length - 1] ?? [0, 0];
}

const SHARES = [0.5, 0.35, 0.65, 0.2, 0.8, 0.93, 0.07];

/** Names where there is room for them; the letter alone where there is none. */
function Names({ names, taken }: { names: Name[]; taken: Corner[] }) {
  const map = useMap();
  const [, redraw] = useState(0);
  useMapEvents({ zoomend: () => redraw((n) => n + 1), resize: () => redraw((n) => n + 1) });
  const boxes = taken.map((c) => boxAt(map.latLngToLayerPoint(at(c)), 30, 30));
  const placed = names.map((n) => {
    const widths = [n.name.length * 7.4 + (n.letter ? 30 : 8), 24];
    for (const width of n.letter ? widths : widths.slice(0, 1))
      for (const share of SHARES) {
        const place = along(n.corners, share);
        const box = boxAt(map.latLngToLayerPoint(at(place)), width, 20);
        if (boxes.every((other) => !other.intersects(box))) {
          boxes.push(box);
          return { ...n, place, width, full: width > 24 };
        }
      }
    return null;
  });
  return placed.map((n) =>
    n ? (
      <Marker
        key={n.key}
        position={at(n.place)}
        interactive={false}
        keyboard={false}
        icon={badge(
          `${n.letter ? `<b>${escapeText(n.letter)}</b> ` : ""}${n.full ? escapeText(n.name) : ""}`,
          "plan-label",
          [n.width, 20],
        )}
      />
    ) : null,
  );
}

const boxAt = (p: L.Point, width: number, height: number) =>
  L.bounds([p.x - width / 2, p.y - height / 2], [p.x + width / 2, p.y + height / 2]);

function DrawnLine({ line }: { line: Schemas["DrawnLineView"] }) {
  const positions = all(line.corners);
  return (
    <>
      <Polyline
        positions={positions}
        pathOptions={{ color: "#1f2a30", weight: 7, opacity: 0.85, interactive: false }}
      />
      <Polyline
        positions={positions}
        pathOptions={{
          color: line.hex,
          weight: 4,
          dashArray: DASHES[line.pattern] ?? "",
          interactive: false,
        }}
      />
    </>
  );
}

function Things({ site }: { site: Site }) {
  return (
    <>
      {site.hard.map((t) => (
        <Polygon
          key={t.name}
          positions={all(t.corners)}
          pathOptions={{
            color: "var(--quiet)",
            weight: 1,
            fillColor: "var(--quiet)",
            fillOpacity: 0.22,
            interactive: false,
          }}
        />
      ))}
      {site.dig.length ? (
        <Polygon
          positions={all(site.dig)}
          pathOptions={{
            color: "var(--ink)",
            weight: 2,
            dashArray: "8 6",
            fillColor: "var(--amber)",
            fillOpacity: 0.14,
            interactive: false,
          }}
        />
      ) : null}
      {site.structures.map((t) => (
        <Fragment key={t.name}>
          <Polyline
            positions={all(t.corners)}
            pathOptions={{
              color: "var(--quiet)",
              weight: 9,
              dashArray: "2 5",
              lineCap: "butt",
              interactive: false,
            }}
          />
        </Fragment>
      ))}
      {site.access.map((a) => (
        <Marker
          key={a.name}
          position={at(a.at)}
          title={`${a.name}: ${a.text}`}
          alt={a.name}
          keyboard={false}
          icon={badge(
            `<svg width="22" height="22"><title>${escapeText(a.name)}</title><rect x="3" y="3" width="16" height="16" fill="${a.live ? "var(--hold-bg)" : "var(--sheet)"}" stroke="${a.live ? "var(--hold)" : "var(--ink)"}" stroke-width="3"/>${a.live ? '<path d="M12 4L7 12h4l-1 6 5-8h-4z" fill="var(--hold)"/>' : ""}</svg>`,
            "",
            [22, 22],
          )}
        />
      ))}
    </>
  );
}

function Work(p: { work: Schemas["WorkView"]; chosen: number | null; onChoose?: (n: number) => void }) {
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

function Spot({ spot, onChoose }: { spot: Schemas["SpotView"]; onChoose?: (at: Corner) => void }) {
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

function Stake(p: { at: Corner; from: Corner; onMove: (at: Corner) => void }) {
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

function Draft({ corners, closed }: { corners: Corner[]; closed: boolean }) {
  const options: L.PathOptions = { color: "var(--hold)", weight: 4, dashArray: "6 5", interactive: false };
  return (
    <>
      {closed && corners.length > 2 ? (
        <Polygon positions={all(corners)} pathOptions={options} />
      ) : (
        <Polyline positions={all(corners)} pathOptions={options} />
      )}
      {corners.map((c) => (
        <Marker
          key={c.join()}
          position={at(c)}
          interactive={false}
          keyboard={false}
          icon={badge(
            '<svg width="14" height="14"><title>Corner</title><circle cx="7" cy="7" r="5" fill="var(--sheet)" stroke="var(--hold)" stroke-width="3"/></svg>',
            "",
            [14, 14],
          )}
        />
      ))}
    </>
  );
}

const SNAP_PX = 14;

/** Taps while something is drawn; close to an access point they land on it. */
function Taps({ site, onTap }: { site: Site; onTap?: (at: Corner) => void }) {
  const map = useMap();
  useEffect(() => {
    map.getContainer().style.cursor = onTap ? "crosshair" : "";
  }, [map, onTap]);
  useMapEvents({
    click: (e) => {
      if (!onTap) return;
      const near = site.access
        .map((a) => ({ a, off: map.latLngToContainerPoint(at(a.at)).distanceTo(e.containerPoint) }))
        .sort((x, y) => x.off - y.off)[0];
      onTap(
        near && near.off < SNAP_PX
          ? near.a.at
          : [Number(e.latlng.lng.toFixed(2)), Number(e.latlng.lat.toFixed(2))],
      );
    },
  });
  return null;
}
