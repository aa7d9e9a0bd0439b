import { select } from "d3-selection";
import { type D3ZoomEvent, type ZoomBehavior, zoom, zoomIdentity } from "d3-zoom";
import {
  createContext,
  type KeyboardEvent,
  type RefObject,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";

/** East and north in metres. */
export type Corner = [number, number];
/** Right and down in pixels of the picture. */
export type Point = [number, number];
/** West, south, east, north in metres. */
export type Extent = [number, number, number, number];

/** How the ground lies in the picture: pixels per metre, where the site's zero is, and the picture's size. */
export class PlanView {
  constructor(
    readonly scale: number,
    readonly zero: Point,
    readonly size: Point,
  ) {}

  toPicture = ([east, north]: Corner): Point => [
    this.zero[0] + this.scale * east,
    this.zero[1] - this.scale * north,
  ];

  toGround = ([x, y]: Point): Corner => [(x - this.zero[0]) / this.scale, (this.zero[1] - y) / this.scale];

  /** The corners as the `points` of a polygon or polyline. */
  path = (corners: Corner[]): string =>
    corners
      .map((c) =>
        this.toPicture(c)
          .map((v) => v.toFixed(1))
          .join(),
      )
      .join(" ");
}

export const ViewContext = createContext(new PlanView(1, [0, 0], [1, 1]));
export const usePlanView = () => useContext(ViewContext);

const EMPTY: Extent = [0, 0, 60, 40];
const MARGIN = 0.08;
/** Pixels per metre: a kilometre in 60 pixels, a hand's breadth in 10. */
const SCALES: [number, number] = [0.06, 100];

/** The extent of all corners; a usual site's where there are none. */
export function extentOf(corners: Corner[]): Extent {
  if (!corners.length) return EMPTY;
  const [east, north] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
  return [Math.min(...east), Math.min(...north), Math.max(...east), Math.max(...north)];
}

function fitted([west, south, east, north]: Extent, [width, height]: Point): PlanView {
  const across = Math.max(east - west, 2) * (1 + 2 * MARGIN);
  const up = Math.max(north - south, 2) * (1 + 2 * MARGIN);
  const scale = Math.min(Math.max(Math.min(width / across, height / up), SCALES[0]), SCALES[1]);
  const [middleEast, middleNorth] = [(west + east) / 2, (south + north) / 2];
  return new PlanView(
    scale,
    [width / 2 - scale * middleEast, height / 2 + scale * middleNorth],
    [width, height],
  );
}

export interface Moves {
  view: PlanView | null;
  zoomBy: (factor: number) => void;
  panBy: (right: number, down: number) => void;
  fit: () => void;
}

/** Whether a gesture moves the picture: not one that begins on something that is dragged by itself. */
function pans(e: MouseEvent | TouchEvent | WheelEvent): boolean {
  if (e.type === "wheel") return true;
  const first = !("button" in e) || e.button === 0;
  return first && !e.ctrlKey && !(e.target instanceof Element && e.target.closest("button"));
}

/** Pan and zoom of the box at `box` by drag, wheel, pinch, buttons and keys; shows all of `extent` at first. */
export function useMoves(box: RefObject<HTMLDivElement | null>, extent: Extent): Moves {
  const [size, setSize] = useState<Point | null>(null);
  const [view, setView] = useState<PlanView | null>(null);
  const behaviour = useRef<ZoomBehavior<HTMLDivElement, unknown> | null>(null);
  const wanted = extent.map((v) => v.toFixed(2)).join();
  const fitTo = useMemo(() => wanted.split(",").map(Number) as Extent, [wanted]);

  useEffect(() => {
    const node = box.current;
    if (!node) return;
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry?.contentRect ?? { width: 0, height: 0 };
      if (width > 0 && height > 0) setSize([width, height]);
    });
    watch.observe(node);
    const moves = zoom<HTMLDivElement, unknown>().scaleExtent(SCALES).clickDistance(4).filter(pans);
    behaviour.current = moves;
    // two quick taps are two corners, not a zoom
    select(node).call(moves).on("dblclick.zoom", null);
    return () => {
      watch.disconnect();
      select(node).on(".zoom", null);
    };
  }, [box]);

  const show = useCallback(
    (next: PlanView) => {
      const node = box.current;
      if (node)
        behaviour.current?.transform(select(node), zoomIdentity.translate(...next.zero).scale(next.scale));
    },
    [box],
  );

  useEffect(() => {
    if (!size) return;
    behaviour.current
      ?.extent([[0, 0], size])
      .on("zoom", ({ transform }: D3ZoomEvent<HTMLDivElement, unknown>) =>
        setView(new PlanView(transform.k, [transform.x, transform.y], size)),
      );
    show(fitted(fitTo, size));
  }, [size, fitTo, show]);

  const onNode = (work: (node: HTMLDivElement, moves: ZoomBehavior<HTMLDivElement, unknown>) => void) => {
    if (box.current && behaviour.current) work(box.current, behaviour.current);
  };
  return {
    view,
    zoomBy: (factor) => onNode((node, moves) => moves.scaleBy(select(node), factor)),
    panBy: (right, down) =>
      onNode((node, moves) =>
        moves.translateBy(select(node), -right / (view?.scale ?? 1), -down / (view?.scale ?? 1)),
      ),
    fit: () => size && show(fitted(fitTo, size)),
  };
}

const PAN_PX = 60;

/** Return what moves the picture by the keys: arrows, plus, minus, and zero for all of it. */
export function byKeys(moves: Moves): (e: KeyboardEvent) => void {
  const acts: Record<string, () => void> = {
    "+": () => moves.zoomBy(2),
    "-": () => moves.zoomBy(0.5),
    "0": moves.fit,
    ArrowLeft: () => moves.panBy(-PAN_PX, 0),
    ArrowRight: () => moves.panBy(PAN_PX, 0),
    ArrowUp: () => moves.panBy(0, -PAN_PX),
    ArrowDown: () => moves.panBy(0, PAN_PX),
  };
  return (e) => {
    const act = acts[e.key];
    if (!act) return;
    e.preventDefault();
    act();
  };
}
