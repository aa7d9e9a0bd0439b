import { useState } from "react";
import type { Schemas } from "../../api/client";
import { Dragged } from "./Dragged";
import type { Corner } from "./planView";
import { Pin, Way } from "./shapes";
import { DraggedStake, Lead, StakeFace } from "./Work";

/** Where a transmitter stands, and its stake if it has one (east, north [m]). */
export interface Standing {
  at: number[];
  stake_at: number[] | null;
}

/** The receiver as it is held: the notch shows which way it faces; it is dragged, or walks where the plan is tapped. */
export function HeldReceiver(p: {
  at: Corner;
  headingDeg: number;
  lifted: boolean;
  onMove: (at: Corner) => void;
}) {
  return (
    <Dragged
      at={p.at}
      label="Receiver: drag it, or walk with the arrow keys"
      size={48}
      above={3000}
      onMove={p.onMove}
    >
      <svg width="48" height="48" aria-hidden>
        <g transform={`rotate(${p.headingDeg} 24 24)`}>
          <path
            d="M24 3l6 9h-12z"
            fill="var(--deep)"
            stroke="var(--sheet)"
            strokeWidth="1.5"
            strokeLinejoin="round"
          />
          <path d="M8 24h32" stroke="var(--deep)" strokeWidth="3" strokeLinecap="round" />
        </g>
        <circle
          cx="24"
          cy="24"
          r={p.lifted ? 11 : 8}
          fill={p.lifted ? "var(--need-bg)" : "var(--amber)"}
          stroke="var(--deep)"
          strokeWidth="3"
        />
      </svg>
    </Dragged>
  );
}

/** The transmitter and its stake where they stand, its lead between them. */
export function TransmitterLead({ hooked }: { hooked: Standing }) {
  return hooked.stake_at ? <Lead from={pair(hooked.at)} to={pair(hooked.stake_at)} /> : null;
}

/** The transmitter and its stake; with `onPut` they are dragged, or moved by the arrow keys and set down by Enter. */
export function TransmitterPin(p: {
  hooked: Standing;
  on: boolean;
  onPut?: (what: "transmitter" | "stake", at: Corner) => Promise<unknown>;
}) {
  const stake = p.hooked.stake_at ? pair(p.hooked.stake_at) : null;
  const [moving, setMoving] = useState<{ what: "transmitter" | "stake"; at: Corner } | null>(null);
  const at = pair(p.hooked.at);
  if (!p.onPut)
    return (
      <>
        {stake ? (
          <Pin at={stake} text="Stake" size={26} className="pointer-events-none">
            <StakeFace />
          </Pin>
        ) : null}
        <Pin
          at={at}
          text={`Transmitter, ${p.on ? "on" : "off"}`}
          size={34}
          above={2}
          className="pointer-events-none"
        >
          <TransmitterFace on={p.on} />
        </Pin>
      </>
    );
  const moved = (what: "transmitter" | "stake", from: Corner) => ({
    at: moving?.what === what ? moving.at : from,
    onMove: (to: Corner) => setMoving({ what, at: to }),
    onDown: () => {
      // set down or refused: where the server says it stands, it is
      if (moving?.what === what) void p.onPut?.(what, moving.at).finally(() => setMoving(null));
    },
  });
  return (
    <>
      {stake ? <DraggedStake {...moved("stake", stake)} /> : null}
      <Dragged
        {...moved("transmitter", at)}
        label={`Transmitter, ${p.on ? "on" : "off"}: drag it, or move it with the arrow keys and press Enter`}
        size={44}
        above={2001}
        keyed
      >
        <TransmitterFace on={p.on} />
      </Dragged>
    </>
  );
}

function TransmitterFace({ on }: { on: boolean }) {
  return (
    <svg width="34" height="34" aria-hidden>
      <rect
        x="3"
        y="7"
        width="28"
        height="20"
        rx="4"
        fill={on ? "var(--mark)" : "var(--sheet)"}
        stroke={on ? "var(--sheet)" : "var(--ink)"}
        strokeWidth="2.5"
      />
      <path
        d="M8 17h4l3-6 4 12 3-6h4"
        fill="none"
        stroke={on ? "var(--sheet)" : "var(--quiet)"}
        strokeWidth="2.2"
      />
    </svg>
  );
}

/** Paint that an earlier job left on the ground, worn. */
export function OldPaint({ paint }: { paint: Schemas["OldPaintView"][] }) {
  return paint.map((x) => (
    <Way
      key={`${x.text} ${x.route.join()}`}
      corners={x.route.map(pair)}
      stroke={x.hex}
      strokeWidth={5}
      strokeDasharray="14 11"
      opacity={0.55}
    >
      <title>{x.text}</title>
    </Way>
  ));
}

/** Paint on the ground, station by station. */
export function PaintPins({ marks }: { marks: { key: string; at: Corner; text: string }[] }) {
  return marks.map((m) => (
    <Pin key={m.key} at={m.at} text={m.text} size={18} above={1} className="pointer-events-none">
      <svg width="18" height="18" aria-hidden>
        <path d="M3 15L15 3M3 3l12 12" stroke="var(--mark)" strokeWidth="4" strokeLinecap="round" />
      </svg>
    </Pin>
  ));
}

/** Where the passive sweep heard something. */
export function HitPins({ hits }: { hits: Corner[] }) {
  return hits.map((at, k) => (
    <Pin
      key={`hit ${at.join()}`}
      at={at}
      text={`Passive hit ${k + 1}`}
      size={20}
      above={1}
      className="pointer-events-none"
    >
      <svg width="20" height="20" aria-hidden>
        <circle cx="10" cy="10" r="7" fill="var(--care-bg)" stroke="var(--care)" strokeWidth="3" />
      </svg>
    </Pin>
  ));
}

/** What lay in the ground, drawn over what was on record. */
export function TruthWays({ truth }: { truth: Schemas["TruthView"][] }) {
  return truth.map((t) => (
    <g key={t.name}>
      <Way corners={t.route.map(pair)} stroke="var(--sheet)" strokeWidth={t.target ? 11 : 8} opacity={0.85} />
      <Way
        corners={t.route.map(pair)}
        stroke={t.hex}
        strokeWidth={t.target ? 6 : 4}
        strokeDasharray={t.known ? "" : "9 5"}
      />
    </g>
  ));
}

/** The marks as the debrief has them: a tick where right, a cross where it would have been a strike. */
export function JudgedMarks(p: {
  marks: Schemas["MarkedView"][];
  chosen: number | null;
  onChoose: (n: number) => void;
}) {
  return p.marks.map((m) => (
    <Pin
      key={m.number}
      at={pair(m.at)}
      text={`Mark ${m.number}: ${m.right ? "right" : m.strike ? "would have been a strike" : "wrong"}`}
      size={m.number === p.chosen ? 34 : 26}
      above={m.number === p.chosen ? 20 : 10}
      onChoose={() => p.onChoose(m.number)}
    >
      <svg viewBox="0 0 26 26" className="size-full" aria-hidden>
        <circle
          cx="13"
          cy="13"
          r="11"
          fill={m.right ? "var(--mark-bg)" : m.strike ? "var(--hold-bg)" : "var(--care-bg)"}
          stroke={m.right ? "var(--mark)" : m.strike ? "var(--hold)" : "var(--care)"}
          strokeWidth="2.5"
        />
        <path
          d={m.right ? "M8 13l4 4 7-8" : m.strike ? "M8 8l10 10M18 8L8 18" : "M13 6v9M13 18v2"}
          fill="none"
          stroke={m.right ? "var(--mark)" : m.strike ? "var(--hold)" : "var(--care)"}
          strokeWidth="3"
          strokeLinecap="round"
        />
      </svg>
    </Pin>
  ));
}

/** A place on the timeline. */
export function HerePin({ at, text }: { at: Corner; text: string }) {
  return (
    <Pin at={at} text={text} size={40} above={30} className="pointer-events-none">
      <svg width="40" height="40" aria-hidden>
        <circle
          cx="20"
          cy="20"
          r="16"
          fill="none"
          stroke="var(--ink)"
          strokeWidth="3"
          strokeDasharray="5 4"
        />
      </svg>
    </Pin>
  );
}

export const pair = (at: number[]): Corner => [at[0] ?? 0, at[1] ?? 0];
