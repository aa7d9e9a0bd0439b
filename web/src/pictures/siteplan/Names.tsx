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
/** How far beside its line a name may stand [px], the nearest first, and to which side. */
const GAPS = [6, 16, 30, 46];
const SIDES: Point[] = [
  [0, -1],
  [0, 1],
  [1, -1],
  [-1, -1],
  [1, 1],
  [-1, 1],
  [1, 0],
  [-1, 0],
];
const HEIGHT = 20;
const LETTER = 24;

const meet = (a: Box, b: Box) =>
  Math.abs(a.middle[0] - b.middle[0]) < (a.width + b.width) / 2 &&
  Math.abs(a.middle[1] - b.middle[1]) < (a.height + b.height) / 2;

// a name cut off at the edge of the picture says nothing
const inside = ({ middle: [x, y], width, height }: Box, [right, bottom]: Point) =>
  x >= width / 2 && x <= right - width / 2 && y >= height / 2 && y <= bottom - height / 2;

type Leg = [Point, Point];

/** Whether a leg passes through a box: clipped to it, something of it is left (Liang and Barsky). */
function passes([[x, y], [x2, y2]]: Leg, { middle, width, height }: Box) {
  const [dx, dy] = [x2 - x, y2 - y];
  let [from, to] = [0, 1];
  for (const [step, room] of [
    [-dx, x - (middle[0] - width / 2)],
    [dx, middle[0] + width / 2 - x],
    [-dy, y - (middle[1] - height / 2)],
    [dy, middle[1] + height / 2 - y],
  ] as Point[]) {
    if (step === 0 && room < 0) return false;
    if (step < 0) from = Math.max(from, room / step);
    if (step > 0) to = Math.min(to, room / step);
  }
  return from <= to;
}

/** Where the name goes: beside its line, clear of every line and of what is taken; null where there is no room. */
function placed(anchors: Point[], width: number, boxes: Box[], legs: Leg[], size: Point) {
  for (const gap of GAPS)
    for (const anchor of anchors)
      for (const [dx, dy] of SIDES) {
        const middle: Point = [anchor[0] + dx * (gap + width / 2), anchor[1] + dy * (gap + HEIGHT / 2)];
        const box = { middle, width, height: HEIGHT };
        if (!inside(box, size) || boxes.some((other) => meet(box, other))) continue;
        if (!legs.some((leg) => passes(leg, box))) return { box, anchor };
      }
  return null;
}

/** What stands in the corners of the picture: the zoom buttons, north and the width of the grid. */
const furniture = ([right]: Point): Box[] => [
  { middle: [31, 75], width: 62, height: 150 },
  { middle: [right - 70, 22], width: 140, height: 44 },
];

/** Names beside their lines, with a leader where they stand off; the letter alone where there is no room for more. */
export function Names({ names, taken }: { names: Name[]; taken: Corner[] }) {
  const view = usePlanView();
  const boxes: Box[] = [
    ...furniture(view.size),
    ...taken.map((c) => ({ middle: view.toPicture(c), width: 30, height: 30 })),
  ];
  const legs = names.flatMap((n) => {
    const points = n.corners.map((c) => view.toPicture(c));
    return points.slice(1).map((b, i): Leg => [points[i] ?? b, b]);
  });
  const found = names.flatMap((n) => {
    const full = n.name.length * 7.4 + (n.letter ? 30 : 8);
    const anchors = SHARES.map((share) => view.toPicture(along(n.corners, share))).filter((middle) =>
      inside({ middle, width: 0, height: 0 }, view.size),
    );
    for (const width of n.letter ? [full, LETTER] : [full]) {
      const at = placed(anchors, width, boxes, legs, view.size);
      if (!at) continue;
      boxes.push(at.box);
      return [{ ...n, ...at }];
    }
    return [];
  });
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        {found.map(({ key, box, anchor }) => (
          <path
            key={key}
            d={`M${anchor.join()}L${toward(box, anchor).join()}`}
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
        ))}
      </svg>
      {found.map(({ key, letter, name, box: { middle, width } }) => (
        <p
          key={key}
          className="plan-label"
          style={{ left: middle[0] - width / 2, top: middle[1] - HEIGHT / 2, width, height: HEIGHT }}
        >
          {letter ? <b>{letter}</b> : null} {width > LETTER ? name : ""}
        </p>
      ))}
    </>
  );
}

/** The place of a box nearest to a point. */
const toward = ({ middle, width, height }: Box, [x, y]: Point): Point => [
  Math.min(Math.max(x, middle[0] - width / 2), middle[0] + width / 2),
  Math.min(Math.max(y, middle[1] - height / 2), middle[1] + height / 2),
];
