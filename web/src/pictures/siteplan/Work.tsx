import { useRef } from "react";
import type { Schemas } from "../../api/client";
import { type Corner, usePlanView } from "./planView";
import { Pin, Way } from "./shapes";

type WorkView = Schemas["WorkView"];

/** What nothing proves, and what the chosen step of the order of work proves. */
export function WorkStretches({ work, chosen }: { work: WorkView; chosen: number | null }) {
  const visit = work.visits.find((v) => v.number === chosen);
  return (
    <>
      {work.lines.flatMap((l) =>
        l.missing.map((m) => (
          <Way
            key={`${l.line_id}-${m.corners.join()}`}
            corners={m.corners}
            stroke="var(--hold)"
            strokeWidth={13}
            opacity={0.45}
            strokeDasharray="3 7"
          />
        )),
      )}
      {visit?.pieces.map((piece) => (
        <Way
          key={piece.corners.join()}
          corners={piece.corners}
          stroke="var(--mark)"
          strokeWidth={15}
          opacity={0.4}
        />
      ))}
      {visit?.at && visit.stake_at ? <Lead from={visit.at} to={visit.stake_at} /> : null}
    </>
  );
}

/** The numbered steps of the order of work, and the stake of the chosen one. */
export function WorkSteps(p: { work: WorkView; chosen: number | null; onChoose?: (n: number) => void }) {
  const stake = p.work.visits.find((v) => v.number === p.chosen)?.stake_at;
  return (
    <>
      {stake ? (
        <Pin at={stake} text="Stake" size={26} className="pointer-events-none">
          <StakeFace />
        </Pin>
      ) : null}
      {p.work.visits.map((v) =>
        v.at ? (
          <Pin
            key={v.number}
            at={v.at}
            text={`Step ${v.number}: ${v.line_name}`}
            size={30}
            above={v.number === p.chosen ? 1000 : 500}
            className={v.number === p.chosen ? "plan-step plan-step-on" : "plan-step"}
            onChoose={() => p.onChoose?.(v.number)}
          >
            {v.number}
          </Pin>
        ) : null,
      )}
    </>
  );
}

export const Lead = ({ from, to }: { from: Corner; to: Corner }) => (
  <Way corners={[from, to]} stroke="var(--ink)" strokeWidth={2} strokeDasharray="4 4" />
);

const StakeFace = () => (
  <svg width="26" height="26" aria-hidden>
    <path d="M13 25L5 5h16z" fill="var(--amber)" stroke="#14212a" strokeWidth="2.5" />
  </svg>
);

/** A spot for the stake: a ring where it may stand, a cross where it may not. */
export function Spot({ spot, onChoose }: { spot: Schemas["SpotView"]; onChoose?: (at: Corner) => void }) {
  return (
    <Pin at={spot.at} text={spot.text} size={16} onChoose={() => onChoose?.(spot.at)}>
      <svg width="16" height="16" aria-hidden>
        {spot.ok ? (
          <circle cx="8" cy="8" r="5" fill="var(--mark-bg)" stroke="var(--mark)" strokeWidth="2" />
        ) : (
          <path d="M3 3l10 10M13 3L3 13" stroke="var(--hold)" strokeWidth="2.5" />
        )}
      </svg>
    </Pin>
  );
}

/** The stake, moved by dragging or with the arrow keys. */
export function DraggedStake({ at, onMove }: { at: Corner; onMove: (at: Corner) => void }) {
  const view = usePlanView();
  const held = useRef<{ x: number; y: number; from: Corner } | null>(null);
  const [x, y] = view.toPicture(at);
  const moved = (right: number, down: number, from: Corner): Corner => [
    from[0] + right / view.scale,
    from[1] - down / view.scale,
  ];
  const ARROWS: Record<string, Corner> = {
    ArrowLeft: [-4, 0],
    ArrowRight: [4, 0],
    ArrowUp: [0, -4],
    ArrowDown: [0, 4],
  };
  return (
    <button
      type="button"
      title="Stake: drag it"
      aria-label="Stake: drag it, or move it with the arrow keys"
      className="absolute flex cursor-grab touch-none items-center justify-center"
      style={{ left: x - 22, top: y - 22, width: 44, height: 44, zIndex: 2000 }}
      onClick={(e) => e.stopPropagation()}
      onMouseDown={(e) => e.stopPropagation()}
      onTouchStart={(e) => e.stopPropagation()}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, y: e.clientY, from: at };
      }}
      onPointerMove={(e) => {
        if (held.current)
          onMove(moved(e.clientX - held.current.x, e.clientY - held.current.y, held.current.from));
      }}
      onPointerUp={() => {
        held.current = null;
      }}
      onKeyDown={(e) => {
        const step = ARROWS[e.key];
        if (!step) return;
        e.preventDefault();
        e.stopPropagation();
        onMove(moved(step[0], step[1], at));
      }}
    >
      <StakeFace />
    </button>
  );
}
