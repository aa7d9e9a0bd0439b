import { Check, Trash2, Undo2 } from "lucide-react";
import { type ButtonHTMLAttributes, type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import type { Formatter } from "../../api/units";
import { type Corner, usePlanView } from "./planView";

/** What is being drawn, and what a thumb or the keys can do to it. */
export interface Drafting {
  /** The name of the thing that is drawn. */
  name: string;
  corners: Corner[];
  closed: boolean;
  /** Whether it is a single place. */
  one: boolean;
  onTap: (at: Corner) => void;
  /** Shown while a corner is dragged; `settled` once it is let go. */
  onCorners: (corners: Corner[], settled: boolean) => void;
  onUndo: (() => void) | null;
  onDone: () => void;
}

type Snap = (at: Corner, apartFrom: number) => Corner;

const ROOM_PX = 54;
const STEP_PX = 4;
const ARROWS: Record<string, Corner> = {
  ArrowLeft: [-STEP_PX, 0],
  ArrowRight: [STEP_PX, 0],
  ArrowUp: [0, STEP_PX],
  ArrowDown: [0, -STEP_PX],
};

const between = (a: Corner, b: Corner): Corner => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
const apart = (a: Corner, b: Corner) => Math.hypot(a[0] - b[0], a[1] - b[1]);
const tidy = ([east, north]: Corner): Corner => [Number(east.toFixed(2)), Number(north.toFixed(2))];

/** Legs of what is drawn, closed where it is an outline. */
function legsOf({ corners, closed }: Drafting): [Corner, Corner][] {
  const ends = closed && corners.length > 2 ? [...corners, corners[0] as Corner] : corners;
  return ends.slice(1).map((c, i) => [ends[i] as Corner, c]);
}

/** How long each leg is, beside it. */
export function LegLengths({ draft, format }: { draft: Drafting; format: Formatter }) {
  const view = usePlanView();
  return legsOf(draft).map(([a, b], i) => {
    const [x, y] = view.toPicture(between(a, b));
    const [[ax, ay], [bx, by]] = [view.toPicture(a), view.toPicture(b)];
    const long = Math.hypot(bx - ax, by - ay);
    if (long < ROOM_PX) return null;
    // square to the leg, on its upper side
    const side = bx < ax ? -1 : 1;
    return (
      <text
        key={i}
        x={x + (side * 18 * (by - ay)) / long}
        y={y - (side * 18 * (bx - ax)) / long + 5}
        textAnchor="middle"
        fontSize={14}
        fontWeight={700}
        fill="var(--ink)"
        stroke="var(--sheet)"
        strokeWidth={4}
        paintOrder="stroke"
      >
        {format.distance(apart(a, b))}
      </text>
    );
  });
}

/** Corners to drag, to move with the arrow keys and to delete; a leg's middle makes another corner. */
export function DraftHandles({ draft, snap, format }: { draft: Drafting; snap: Snap; format: Formatter }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const at = chosen !== null && chosen < draft.corners.length ? chosen : null;
  const put = (k: number, to: Corner, settled: boolean) =>
    draft.onCorners(
      draft.corners.map((c, i) => (i === k ? tidy(snap(to, k)) : c)),
      settled,
    );
  const remove = (k: number) => {
    setChosen(null);
    draft.onCorners(
      draft.corners.filter((_, i) => i !== k),
      true,
    );
  };
  const insert = (k: number, to: Corner) => {
    setChosen(k);
    draft.onCorners([...draft.corners.slice(0, k), tidy(to), ...draft.corners.slice(k)], true);
  };
  const whole = legsOf(draft).reduce((sum, [a, b]) => sum + apart(a, b), 0);
  return (
    <>
      {draft.one
        ? null
        : legsOf(draft).map(([a, b], i) => (
            <Middle key={i} a={a} b={b} number={i + 1} onInsert={(to) => insert(i + 1, to)} />
          ))}
      {draft.corners.map((c, k) => (
        <Handle
          key={k}
          at={c}
          number={k + 1}
          chosen={k === at}
          onChoose={() => setChosen(k)}
          onPut={(to, settled) => put(k, to, settled)}
          onRemove={draft.one ? undefined : () => remove(k)}
        />
      ))}
      <div
        role="toolbar"
        aria-label={`Drawing ${draft.name}`}
        className="absolute inset-x-2 bottom-2 z-[3500] flex flex-wrap items-center gap-2 rounded-md border border-quiet bg-sheet p-2"
        onClick={(e) => e.stopPropagation()}
        onKeyDown={(e) => e.stopPropagation()}
        onMouseDown={(e) => e.stopPropagation()}
        onTouchStart={(e) => e.stopPropagation()}
      >
        <p className="min-w-0 grow basis-28 text-sm leading-tight">
          <strong className="block truncate">{draft.name}</strong>
          {whole ? format.distance(whole) : draft.one ? "Tap its place" : "Tap its corners"}
        </p>
        {at !== null && !draft.one ? (
          <Tool aria-label={`Delete corner ${at + 1}`} onClick={() => remove(at)}>
            <Trash2 aria-hidden className="size-4" /> <span className="max-sm:hidden">Corner</span> {at + 1}
          </Tool>
        ) : null}
        <Tool
          disabled={!draft.onUndo}
          aria-label="Undo the last change of what is drawn"
          onClick={() => draft.onUndo?.()}
        >
          <Undo2 aria-hidden className="size-4" /> <span className="max-sm:hidden">Undo</span>
        </Tool>
        <Tool main onClick={draft.onDone}>
          <Check aria-hidden className="size-4" /> Done
        </Tool>
      </div>
    </>
  );
}

function Tool({ main, ...rest }: { main?: boolean } & ButtonHTMLAttributes<HTMLButtonElement>) {
  const look = main ? "border-deep bg-deep text-on-deep" : "border-quiet bg-sheet";
  return (
    <button
      type="button"
      className={`inline-flex min-h-11 items-center gap-2 rounded-md border px-3 text-sm font-semibold disabled:opacity-50 ${look}`}
      {...rest}
    />
  );
}

function Handle(p: {
  at: Corner;
  number: number;
  chosen: boolean;
  onChoose: () => void;
  onPut: (to: Corner, settled: boolean) => void;
  onRemove?: () => void;
}) {
  const view = usePlanView();
  const held = useRef<{ x: number; y: number; from: Corner; last: Corner | null } | null>(null);
  const [x, y] = view.toPicture(p.at);
  const onPointerMove = (e: PointerEvent) => {
    const { current: h } = held;
    if (!h) return;
    const [right, down] = [e.clientX - h.x, e.clientY - h.y];
    if (!h.last && Math.hypot(right, down) < STEP_PX) return;
    h.last = [h.from[0] + right / view.scale, h.from[1] - down / view.scale];
    p.onPut(h.last, false);
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const step = ARROWS[e.key];
    if (step) p.onPut([p.at[0] + step[0] / view.scale, p.at[1] + step[1] / view.scale], true);
    else if (e.key === "Delete" && p.onRemove) p.onRemove();
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <button
      type="button"
      title={`Corner ${p.number}: drag it`}
      aria-label={`Corner ${p.number}: drag it, move it with the arrow keys, or press Delete`}
      aria-pressed={p.chosen}
      className="absolute flex cursor-grab touch-none items-center justify-center rounded-full"
      style={{ left: x - 22, top: y - 22, width: 44, height: 44, zIndex: p.chosen ? 2100 : 2000 }}
      onClick={(e) => {
        e.stopPropagation();
        p.onChoose();
      }}
      onMouseDown={(e) => e.stopPropagation()}
      onTouchStart={(e) => e.stopPropagation()}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        held.current = { x: e.clientX, y: e.clientY, from: p.at, last: null };
      }}
      onPointerMove={onPointerMove}
      onPointerUp={() => {
        if (held.current?.last) p.onPut(held.current.last, true);
        held.current = null;
      }}
      onKeyDown={onKeyDown}
    >
      <svg width="26" height="26" aria-hidden>
        <circle
          cx="13"
          cy="13"
          r={p.chosen ? 11 : 8}
          fill={p.chosen ? "var(--hold)" : "var(--sheet)"}
          stroke="var(--hold)"
          strokeWidth="3.5"
        />
      </svg>
    </button>
  );
}

/** The middle of a leg that is long enough in the picture. */
function Middle(p: { a: Corner; b: Corner; number: number; onInsert: (at: Corner) => void }) {
  const view = usePlanView();
  const [[ax, ay], [bx, by]] = [view.toPicture(p.a), view.toPicture(p.b)];
  if (Math.hypot(bx - ax, by - ay) < 2 * ROOM_PX) return null;
  const [x, y] = [(ax + bx) / 2, (ay + by) / 2];
  return (
    <button
      type="button"
      title="Another corner here"
      aria-label={`Another corner in leg ${p.number}`}
      className="absolute flex items-center justify-center"
      style={{ left: x - 22, top: y - 22, width: 44, height: 44, zIndex: 1900 }}
      onClick={(e) => {
        e.stopPropagation();
        p.onInsert(between(p.a, p.b));
      }}
    >
      <svg width="18" height="18" aria-hidden>
        <circle cx="9" cy="9" r="7" fill="var(--sheet)" stroke="var(--hold)" strokeWidth="2" />
        <path d="M9 5v8M5 9h8" stroke="var(--hold)" strokeWidth="2" />
      </svg>
    </button>
  );
}
