import { Maximize2, Minus, Plus } from "lucide-react";
import type { Formatter } from "../../api/units";
import type { Moves } from "./planView";
import { usePlanView } from "./planView";

/** Lines of the grid are at least this far apart. */
const GRID_PX = 70;

/** The step of the metre grid in the user's units. */
export function gridStep(scale: number, format: Formatter): number {
  const rough = format.toUnit(GRID_PX / scale);
  const ten = 10 ** Math.floor(Math.log10(rough));
  return [1, 2, 5, 10].map((k) => k * ten).find((k) => k >= rough) ?? 10 * ten;
}

export function Grid({ format }: { format: Formatter }) {
  const view = usePlanView();
  const metres = format.fromUnit(gridStep(view.scale, format));
  const [width, height] = view.size;
  const [west, north] = view.toGround([0, 0]);
  const [east, south] = view.toGround([width, height]);
  const steps = (from: number, to: number) => {
    const first = Math.ceil(from / metres);
    return Array.from(
      { length: Math.max(0, Math.ceil(to / metres) - first) },
      (_, i) => (first + i) * metres,
    );
  };
  return (
    <g stroke="var(--edge)" strokeWidth={1} opacity={0.7}>
      {steps(west, east).map((e) => {
        const x = view.toPicture([e, 0])[0];
        return <line key={e} x1={x} x2={x} y1={0} y2={height} />;
      })}
      {steps(south, north).map((n) => {
        const y = view.toPicture([0, n])[1];
        return <line key={n} y1={y} y2={y} x1={0} x2={width} />;
      })}
    </g>
  );
}

/** The buttons that move the picture. */
export function MoveButtons({ moves }: { moves: Moves }) {
  const buttons = [
    { label: "Zoom in", icon: Plus, act: () => moves.zoomBy(2) },
    { label: "Zoom out", icon: Minus, act: () => moves.zoomBy(0.5) },
    { label: "Show all", icon: Maximize2, act: moves.fit },
  ];
  return (
    <div className="no-print absolute top-2 left-2 z-[3000] flex flex-col overflow-hidden rounded-md border border-quiet bg-sheet">
      {buttons.map(({ label, icon: Icon, act }) => (
        <button
          key={label}
          type="button"
          aria-label={label}
          className="flex size-11 items-center justify-center border-b border-edge last:border-0 hover:bg-paper"
          onClick={(e) => {
            e.stopPropagation();
            act();
          }}
        >
          <Icon aria-hidden className="size-5" />
        </button>
      ))}
    </div>
  );
}

/** Which way is north, how wide the grid is, and the buttons that move the picture. */
export function Controls({ moves, format }: { moves: Moves; format: Formatter }) {
  const view = usePlanView();
  return (
    <>
      <MoveButtons moves={moves} />
      <p
        aria-hidden
        className="pointer-events-none absolute top-2 right-2 z-[3000] rounded bg-sheet/90 px-2 py-1 text-sm font-semibold"
      >
        ↑ N · grid {gridStep(view.scale, format)} {format.distanceUnit}
      </p>
    </>
  );
}
