import { MoveDown, MoveUp, Slash } from "lucide-react";
import { Steps } from "./ReceiverFace";
import type { FrameShown } from "./useFrame";
import type { useWalk } from "./useWalk";

const TURNED: Record<FrameShown["turned"], string> = {
  on: "Along the line, towards its far end",
  back: "Along the line, towards its near end",
  left: "Across the line, front to the left",
  right: "Across the line, front to the right",
  "": "Turn it along or across the line",
};
const POINTS: Record<FrameShown["points"], string> = {
  ahead: "ahead",
  behind: "behind you",
  null: "neither way",
};

/** The frame's own face: which way it points, how strongly, and how it is turned to the line. */
export function FrameFace(p: { face: FrameShown | null; lost: boolean; walk: ReturnType<typeof useWalk> }) {
  const { face } = p;
  const Arrow = face?.points === "ahead" ? MoveUp : face?.points === "behind" ? MoveDown : Slash;
  return (
    <section className="card lg:p-2" aria-label="Frame">
      <h2 className="sr-only">Frame</h2>
      <div className="flex items-center gap-4">
        <span className="grid size-20 shrink-0 place-items-center rounded-md border border-edge bg-paper">
          {face ? <Arrow aria-hidden className="size-14 text-deep" strokeWidth={3} /> : null}
        </span>
        <div className="min-w-0 grow">
          <p className="text-2xl leading-tight font-bold" data-points={face?.points ?? ""}>
            {face ? `Points ${POINTS[face.points]}` : "–"}
          </p>
          <p className="min-h-5 text-sm text-quiet">{face ? TURNED[face.turned] : ""}</p>
          {p.lost ? <p className="font-semibold text-hold">No answer from the yard. Waiting.</p> : null}
        </div>
        <dl className="w-28 shrink-0 text-right leading-tight">
          <dt className="text-sm text-quiet">Level</dt>
          <dd className="text-4xl font-bold tabular-nums" data-frame-level>
            {face?.level ?? "–"}
          </dd>
        </dl>
      </div>
      <div className="mt-2">
        <Steps walk={p.walk} />
      </div>
    </section>
  );
}
