import type L from "leaflet";
import { useEffect, useState } from "react";
import { Polyline, useMap, useMapEvents } from "react-leaflet";
import type { Formatter } from "../../app/units";

/** Shows all of `bounds`, also after the box has changed its size. */
export function Fit({ bounds }: { bounds: L.LatLngBounds }) {
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
export function Grid({ format }: { format: Formatter }) {
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
