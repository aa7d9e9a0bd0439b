import L from "leaflet";
import { useState } from "react";
import { Marker, useMap, useMapEvents } from "react-leaflet";
import { at, badge, type Corner, escapeText } from "./places";

export interface Name {
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

const SHARES = [0.5, 0.35, 0.65, 0.2, 0.8, 0.93, 0.07, 0.42, 0.58, 0.27, 0.73, 0.14, 0.02];

/** Names where there is room for them; the letter alone where there is none. */
export function Names({ names, taken }: { names: Name[]; taken: Corner[] }) {
  const map = useMap();
  const [, redraw] = useState(0);
  const again = () => redraw((n) => n + 1);
  useMapEvents({ moveend: again, resize: again });
  // a name cut off at the edge of the picture says nothing
  const size = map.getSize();
  const view = L.bounds([0, 0], [size.x, size.y]);
  const boxes = taken.map((c) => boxAt(map.latLngToLayerPoint(at(c)), 30, 30));
  const placed = names.map((n) => {
    const widths = [n.name.length * 7.4 + (n.letter ? 30 : 8), 24];
    for (const width of n.letter ? widths : widths.slice(0, 1))
      for (const share of SHARES) {
        const place = along(n.corners, share);
        const box = boxAt(map.latLngToLayerPoint(at(place)), width, 20);
        const seen = boxAt(map.latLngToContainerPoint(at(place)), width, 20);
        if (view.contains(seen) && boxes.every((other) => !other.intersects(box))) {
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
