import { type ReactNode, useRef } from "react";
import { type Corner, usePlanView } from "./planView";

const STEP_PX = 4;
const ARROWS: Record<string, Corner> = {
  ArrowLeft: [-STEP_PX, 0],
  ArrowRight: [STEP_PX, 0],
  ArrowUp: [0, -STEP_PX],
  ArrowDown: [0, STEP_PX],
};

/** Something on the plan that is moved by dragging; with `keyed` by the arrow keys as well, and Enter sets it down. */
export function Dragged(p: {
  at: Corner;
  label: string;
  size: number;
  above: number;
  keyed?: boolean;
  onMove: (at: Corner) => void;
  onDown?: () => void;
  children: ReactNode;
}) {
  const view = usePlanView();
  const held = useRef<{ x: number; y: number; from: Corner } | null>(null);
  const [x, y] = view.toPicture(p.at);
  const moved = (right: number, down: number, from: Corner): Corner => [
    from[0] + right / view.scale,
    from[1] - down / view.scale,
  ];
  return (
    <button
      type="button"
      title={p.label}
      aria-label={p.label}
      data-own-keys={p.keyed || undefined}
      className="absolute flex cursor-grab touch-none items-center justify-center"
      style={{
        left: x - p.size / 2,
        top: y - p.size / 2,
        width: p.size,
        height: p.size,
        zIndex: p.above,
      }}
      onClick={(e) => e.stopPropagation()}
      onMouseDown={(e) => e.stopPropagation()}
      onTouchStart={(e) => e.stopPropagation()}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, y: e.clientY, from: p.at };
      }}
      onPointerMove={(e) => {
        const from = held.current;
        if (from) p.onMove(moved(e.clientX - from.x, e.clientY - from.y, from.from));
      }}
      onPointerUp={() => {
        if (held.current) p.onDown?.();
        held.current = null;
      }}
      onKeyDown={(e) => {
        const step = p.keyed ? ARROWS[e.key] : undefined;
        if (p.keyed && e.key === "Enter") p.onDown?.();
        if (!step) return;
        e.preventDefault();
        e.stopPropagation();
        p.onMove(moved(step[0], step[1], p.at));
      }}
    >
      {p.children}
    </button>
  );
}
