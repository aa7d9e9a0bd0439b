import type { Schemas } from "../api/client";
import { AsTable } from "./AsTable";
import { useWidth } from "./shared";

type Hookup = Schemas["HookupView"];
type State = "done" | "now" | "later";

const INK: Record<State, string> = { done: "var(--ink)", now: "var(--hold)", later: "var(--quiet)" };
const HEIGHT = 196;
const MID = 98;

/** The hookup from above, the line running away to the right: what is in place, what is next, what is still to come. */
export function HookupPicture({ hookup: h, done, now }: { hookup: Hookup; done: string[]; now: string }) {
  const [box, width] = useWidth();
  const w = Math.max(width, 280);
  const state = (part: string): State => {
    const own = h.steps.filter((s) => s.part === part);
    if (h.steps.some((s) => s.id === now && s.part === part)) return "now";
    return own.length > 0 && own.every((s) => done.includes(s.id)) ? "done" : "later";
  };
  const Place = { direct: Direct, clamp: Clamp, induction: Coil, pair: Pair }[h.hookup];
  return (
    <div ref={box}>
      <svg width={w} height={HEIGHT} role="img" aria-label={saidOf(h)}>
        <rect width={w} height={HEIGHT} rx={8} fill="var(--paper)" />
        <path d={`M${0.2 * w} ${MID}H${w}`} stroke={INK[state("line")]} strokeWidth={9} />
        <path d={`M${0.2 * w} ${MID}H${w}`} stroke="var(--sheet)" strokeWidth={3} strokeDasharray="14 8" />
        <Text x={w - 8} y={h.hookup === "pair" ? MID - 28 : MID - 12} anchor="end">
          This line
        </Text>
        <Place w={w} hookup={h} state={state} />
      </svg>
      <AsTable
        head={["Step", "State"]}
        rows={h.steps.map((s) => [s.text, done.includes(s.id) ? "done" : s.id === now ? "next" : "to come"])}
      />
    </div>
  );
}

const saidOf = (h: Hookup): string =>
  ({
    direct: `From above: the stake ${h.stake_away_text} off on the ${h.stake_side}, its lead, the line lead, and your walk along the line`,
    clamp:
      "From above: the clamp round the line, an earth on either side of it, and your walk along the line",
    induction: "From above: the transmitter over the line, its axis along it, and your walk away from it",
    pair: "From above: one lead on each of the line's two conductors, joined at their far ends, and your walk along the line",
  })[h.hookup];

interface PlaceProps {
  w: number;
  hookup: Hookup;
  state: (part: string) => State;
}

function Direct({ w, hookup: h, state }: PlaceProps) {
  // the line runs to the right: its left is up
  const up = h.stake_side === "left";
  const [x, tx] = [0.2 * w, 0.2 * w];
  const ty = up ? MID - 34 : MID + 34;
  const sy = up ? 20 : HEIGHT - 20;
  const sx = 0.2 * w;
  const away = up ? MID + 46 : MID - 46;
  return (
    <>
      <Lead d={`M${tx} ${ty}L${sx} ${sy}`} state={state("stake_lead")} />
      <Lead d={`M${tx} ${ty}L${x} ${MID}`} state={state("line_lead")} />
      <Stake x={sx} y={sy} state={state("stake")} />
      <Text x={sx + 16} y={sy + 5}>
        Stake, {h.stake_away_text} off
      </Text>
      <rect
        x={x - 9}
        y={MID - 9}
        width={18}
        height={18}
        fill="var(--sheet)"
        stroke={INK[state("line_lead")]}
        strokeWidth={3}
      />
      <Transmitter x={tx} y={ty} state={state("transmitter")} />
      <Text x={tx + 26} y={ty + 5}>
        Transmitter
      </Text>
      <Walk w={w} y={away} from={0.34 * w} state="later" />
    </>
  );
}

function Clamp({ w, state }: PlaceProps) {
  const x = 0.42 * w;
  return (
    <>
      <Earth x={0.22 * w} />
      <Earth x={0.86 * w} />
      <Lead d={`M${x} ${MID}V${MID + 50}`} state={state("clamp")} />
      <circle
        cx={x}
        cy={MID}
        r={15}
        fill="none"
        stroke={INK[state("clamp")]}
        strokeWidth={state("clamp") === "now" ? 7 : 5}
      />
      <Text x={x} y={MID - 24} anchor="middle">
        Clamp, jaws shut
      </Text>
      <Transmitter x={x} y={MID + 56} state={state("transmitter")} />
      <Text x={x + 26} y={MID + 61}>
        Transmitter
      </Text>
      <Walk w={w} y={MID - 62} from={0.5 * w} state="later" />
    </>
  );
}

/** Two conductors side by side instead of the one line: out in one, back in the other. */
function Pair({ w, state }: PlaceProps) {
  const [x, end] = [0.2 * w, w - 26];
  const line = INK[state("line")];
  const ways = [
    { y: MID - 13, arrow: "l9 6l-9 6" },
    { y: MID + 13, arrow: "l-9 6l9 6" },
  ];
  return (
    <>
      <rect x={x - 6} y={MID - 9} width={w} height={18} fill="var(--paper)" />
      {ways.map(({ y, arrow }) => (
        <g key={y}>
          <path d={`M${x} ${y}H${end}`} stroke={line} strokeWidth={5} />
          <path d={`M${0.58 * w} ${y - 6}${arrow}`} stroke={line} strokeWidth={3} fill="none" />
        </g>
      ))}
      <path d={`M${end} ${MID - 13}v26`} stroke={line} strokeWidth={5} />
      <Lead d={`M${x - 50} ${MID - 8}L${x} ${MID - 13}`} state={state("line_lead")} />
      <Lead d={`M${x - 50} ${MID + 8}L${x} ${MID + 13}`} state={state("line_lead")} />
      <Transmitter x={x - 54} y={MID} state={state("transmitter")} />
      <Text x={8} y={MID - 28}>
        Transmitter, no stake
      </Text>
      <Text x={end} y={MID + 36} anchor="end">
        Joined at the far end
      </Text>
      <Walk w={w} y={MID + 68} from={0.34 * w} state="later" />
    </>
  );
}

function Coil({ w, state }: PlaceProps) {
  const x = 0.3 * w;
  const box = state("transmitter") === "now" ? "now" : state("coil");
  return (
    <>
      <rect
        x={x - 30}
        y={MID - 15}
        width={60}
        height={30}
        rx={5}
        fill="var(--sheet)"
        stroke={INK[box]}
        strokeWidth={box === "now" ? 5 : 3}
      />
      <path d={`M${x - 22} ${MID}h44m-7 -6l7 6l-7 6`} stroke={INK[box]} strokeWidth={3} fill="none" />
      <Text x={12} y={MID - 28}>
        Transmitter, its axis along the line
      </Text>
      <Walk w={w} y={MID + 46} from={0.45 * w} state={state("walk")} />
    </>
  );
}

function Lead({ d, state }: { d: string; state: State }) {
  return (
    <path
      d={d}
      fill="none"
      stroke={INK[state]}
      strokeWidth={state === "now" ? 6 : 3.5}
      strokeDasharray={state === "later" ? "5 6" : undefined}
    />
  );
}

function Stake({ x, y, state }: { x: number; y: number; state: State }) {
  return (
    <path
      d={`M${x} ${y + 12}l-10 -22h20z`}
      fill={state === "later" ? "var(--sheet)" : "var(--amber)"}
      stroke={INK[state]}
      strokeWidth={state === "now" ? 4 : 2.5}
    />
  );
}

function Transmitter({ x, y, state }: { x: number; y: number; state: State }) {
  return (
    <>
      <rect
        x={x - 20}
        y={y - 13}
        width={40}
        height={26}
        rx={4}
        fill="#123b4a"
        stroke={state === "now" ? INK.now : "none"}
        strokeWidth={4}
      />
      <path d={`M${x - 9} ${y}q4.5 -9 9 0t9 0`} stroke="#f4c64e" strokeWidth={2.5} fill="none" />
    </>
  );
}

function Earth({ x }: { x: number }) {
  return (
    <>
      <path d={`M${x} ${MID}v32m-12 0h24m-19 6h14m-9 6h4`} stroke="var(--ink)" strokeWidth={3} fill="none" />
      <Text x={x} y={MID + 60} anchor="middle">
        Earth
      </Text>
    </>
  );
}

function Walk(p: { w: number; y: number; from: number; state: State }) {
  return (
    <>
      <path
        d={`M${p.from} ${p.y}H${p.w - 24}m-9 -7l9 7l-9 7`}
        stroke={INK[p.state]}
        strokeWidth={p.state === "now" ? 4 : 2}
        strokeDasharray="2 7"
        strokeLinecap="round"
        fill="none"
      />
      <Text x={p.from} y={p.y - 9}>
        Your walk
      </Text>
    </>
  );
}

function Text(p: { x: number; y: number; anchor?: "start" | "middle" | "end"; children: React.ReactNode }) {
  return (
    <text
      x={p.x}
      y={p.y}
      fontSize={13}
      fontWeight={600}
      textAnchor={p.anchor ?? "start"}
      fill="var(--ink)"
      stroke="var(--paper)"
      strokeWidth={4}
      paintOrder="stroke"
    >
      {p.children}
    </text>
  );
}
