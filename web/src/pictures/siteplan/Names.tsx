import { type Corner, type Point, usePlanView } from "./planView";

export interface Name {
  key: string;
  letter: string;
  name: string;
  corners: Corner[];
}

interface Box {
  middle: Point;
  width: number;
  height: number;
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
const HEIGHT = 20;

const meet = (a: Box, b: Box) =>
  Math.abs(a.middle[0] - b.middle[0]) < (a.width + b.width) / 2 &&
  Math.abs(a.middle[1] - b.middle[1]) < (a.height + b.height) / 2;

// a name cut off at the edge of the picture says nothing
const inside = ({ middle: [x, y], width, height }: Box, [right, bottom]: Point) =>
  x >= width / 2 && x <= right - width / 2 && y >= height / 2 && y <= bottom - height / 2;

/** Names where there is room for them; the letter alone where there is none. */
export function Names({ names, taken }: { names: Name[]; taken: Corner[] }) {
  const view = usePlanView();
  const boxes: Box[] = taken.map((c) => ({ middle: view.toPicture(c), width: 30, height: 30 }));
  return names.map((n) => {
    const full = n.name.length * 7.4 + (n.letter ? 30 : 8);
    for (const width of n.letter ? [full, 24] : [full])
      for (const share of SHARES) {
        const box = { middle: view.toPicture(along(n.corners, share)), width, height: HEIGHT };
        if (!inside(box, view.size) || boxes.some((other) => meet(box, other))) continue;
        boxes.push(box);
        const [x, y] = box.middle;
        return (
          <p
            key={n.key}
            className="plan-label"
            style={{ left: x - width / 2, top: y - HEIGHT / 2, width, height: HEIGHT }}
          >
            {n.letter ? <b>{n.letter}</b> : null} {width > 24 ? n.name : ""}
          </p>
        );
      }
    return null;
  });
}
