import type { Schemas } from "../../api/client";
import { Dragged } from "./Dragged";
import type { Corner } from "./planView";
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

export const StakeFace = () => (
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
export function DraggedStake(p: { at: Corner; onMove: (at: Corner) => void; onDown?: () => void }) {
  return (
    <Dragged {...p} label="Stake: drag it, or move it with the arrow keys" size={44} above={2000} keyed>
      <StakeFace />
    </Dragged>
  );
}
