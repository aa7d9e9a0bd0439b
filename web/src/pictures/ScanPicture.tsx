import { type KeyboardEvent, type MouseEvent, useRef } from "react";
import type { Schemas } from "../api/client";
import { pathOf } from "./siteplan/Background";
import { MoveButtons } from "./siteplan/Frame";
import { byKeys, type PlanView, type Point, useMoves, usePlanView, ViewContext } from "./siteplan/planView";
import { Pin } from "./siteplan/shapes";
import "./siteplan.css";

interface Props {
  picture: Schemas["BackgroundView"];
  /** Points tapped so far [px, right and down]; null where one is not tapped yet. */
  points: (Point | null)[];
  /** Takes the point that is tapped, or the middle of the picture by Enter. */
  onTap: ((at: Point) => void) | null;
}

/** A scanned plan or photo by itself, to tap points in it. A pixel is a metre of the view, down is south. */
export function ScanPicture({ picture, points, onTap }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const moves = useMoves(box, [0, -picture.height_px, picture.width_px, 0]);
  const { view } = moves;
  const take = (place: Point) => {
    const at = view ? within(picture, view, place) : null;
    if (at && onTap) onTap(at);
  };
  const onClick = (e: MouseEvent<HTMLDivElement>) => {
    const { left, top } = e.currentTarget.getBoundingClientRect();
    take([e.clientX - left, e.clientY - top]);
  };
  const onKeyDown = (e: KeyboardEvent<HTMLDivElement>) => {
    if (e.key === "Enter" && e.target === e.currentTarget && view) take([view.size[0] / 2, view.size[1] / 2]);
    else byKeys(moves)(e);
  };
  return (
    <div
      ref={box}
      role="group"
      aria-label={
        onTap ? "Picture: tap the point, or move it under the cross by the arrows and press Enter" : "Picture"
      }
      // biome-ignore lint/a11y/noNoninteractiveTabindex: the arrow keys move the picture
      tabIndex={0}
      className={`plan-map group relative isolate size-full touch-none overflow-hidden rounded-lg border border-edge bg-sheet ${onTap ? "cursor-crosshair" : "cursor-grab"}`}
      onKeyDown={onKeyDown}
      onClick={onClick}
    >
      {view ? (
        <ViewContext value={view}>
          <svg className="absolute inset-0 size-full" aria-hidden>
            <Whole picture={picture} />
          </svg>
          {points.map((at, k) =>
            at ? (
              <Pin key={k === 0 ? "first" : "second"} at={[at[0], -at[1]]} text={`Point ${k + 1}`} size={30}>
                <Target number={k + 1} />
              </Pin>
            ) : null,
          )}
          {onTap ? (
            <svg
              aria-hidden
              className="pointer-events-none absolute inset-0 hidden size-full group-focus-visible:block"
            >
              <path
                d={`M${view.size[0] / 2 - 14} ${view.size[1] / 2}h28m-14-14v28`}
                stroke="var(--ink)"
                strokeWidth={2}
              />
            </svg>
          ) : null}
          <MoveButtons moves={moves} />
        </ViewContext>
      ) : null}
    </div>
  );
}

function Whole({ picture }: { picture: Schemas["BackgroundView"] }) {
  const view = usePlanView();
  const [x, y] = view.toPicture([0, 0]);
  return (
    <image
      href={pathOf(picture)}
      x={x}
      y={y}
      width={picture.width_px * view.scale}
      height={picture.height_px * view.scale}
    />
  );
}

function Target({ number }: { number: number }) {
  return (
    <svg width="30" height="30" aria-hidden overflow="visible">
      <circle cx="15" cy="15" r="11" fill="none" stroke="var(--sheet)" strokeWidth="6" />
      <circle cx="15" cy="15" r="11" fill="none" stroke="var(--ink)" strokeWidth="2.5" />
      <path d="M15 9v12M9 15h12" stroke="var(--ink)" strokeWidth="1.5" />
      <text
        x="32"
        y="8"
        fontSize="16"
        fontWeight="700"
        fill="var(--ink)"
        stroke="var(--sheet)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {number}
      </text>
    </svg>
  );
}

/** The pixel under a place of the view; null outside the picture. */
function within(picture: Schemas["BackgroundView"], view: PlanView, place: Point): Point | null {
  const [x, down] = view.toGround(place);
  const y = -down;
  const inside = x >= 0 && y >= 0 && x <= picture.width_px && y <= picture.height_px;
  return inside ? [Number(x.toFixed(1)), Number(y.toFixed(1))] : null;
}
