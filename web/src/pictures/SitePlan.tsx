import L from "leaflet";
import { useEffect, useMemo } from "react";
import { MapContainer, useMap, useMapEvents } from "react-leaflet";
import type { Schemas } from "../api/client";
import type { Formatter } from "../app/units";
import { Draft, DrawnLine, Hits, Things } from "./siteplan/Drawn";
import { FoundThings } from "./siteplan/Found";
import { Fit, Grid } from "./siteplan/Frame";
import { type Name, Names } from "./siteplan/Names";
import { all, at, type Corner } from "./siteplan/places";
import { Spot, Stake, Work } from "./siteplan/Work";
import "./leaflet.css";

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
  /** What was found so far; where a line is named, only the first sweep round its hookup. */
  found?: Schemas["FoundView"] | null;
  foundOf?: number;
}

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
    ...p.site.hits.map((h) => h.at),
    ...(p.found?.lines.flatMap((l) => l.points.map((x) => x.at)) ?? []),
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
      <Hits hits={p.site.hits} />
      {p.found ? <FoundThings found={p.found} lineId={p.foundOf} /> : null}
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
