import { useEffect, useRef, useState } from "react";
import type { Corner } from "../../pictures/siteplan/planView";

export interface Pose {
  at: Corner;
  headingDeg: number;
  lifted: boolean;
}

const WALK_M_S = 1.4;
const STEP_M_S = 0.8;
const ASIDE_M_S = 0.35;
const FINE = 0.25;
const TURN_DEG_S = 70;
const ARRIVED_M = 0.02;

/** Steps ahead and to the right, and turns, by key. */
const KEYS: Record<string, [number, number, number]> = {
  ArrowUp: [STEP_M_S, 0, 0],
  ArrowDown: [-STEP_M_S, 0, 0],
  ArrowLeft: [0, -ASIDE_M_S, 0],
  ArrowRight: [0, ASIDE_M_S, 0],
  q: [0, 0, -TURN_DEG_S],
  e: [0, 0, TURN_DEG_S],
};

const typing = (e: KeyboardEvent) =>
  e.target instanceof HTMLElement &&
  (/^(INPUT|TEXTAREA|SELECT)$/.test(e.target.tagName) || e.target.dataset.ownKeys !== undefined);

/** Somebody with a receiver: walks by keys at human pace, walks to where the plan is tapped, or is dragged. */
export function useWalk(start: Corner, lift: () => void) {
  const [pose, setPose] = useState<Pose>({ at: start, headingDeg: 90, lifted: false });
  const pressed = useRef(new Map<string, boolean>());
  const target = useRef<Corner | null>(null);
  const running = useRef(0);
  const lifting = useRef(lift);
  lifting.current = lift;

  const run = useRef(() => undefined as undefined);
  run.current = () => {
    if (running.current) return;
    let before = performance.now();
    const step = (now: number) => {
      const dt = Math.min((now - before) / 1000, 0.1);
      before = now;
      setPose((p) => moved(p, pressed.current, target, dt));
      running.current = pressed.current.size || target.current ? requestAnimationFrame(step) : 0;
    };
    running.current = requestAnimationFrame(step);
  };

  useEffect(() => {
    const keys = pressed.current;
    const down = (e: KeyboardEvent) => {
      if (typing(e) || e.ctrlKey || e.metaKey || e.altKey) return;
      if (e.key === "l") lifting.current();
      const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
      if (!KEYS[key]) return;
      // the plan would pan
      e.preventDefault();
      e.stopPropagation();
      target.current = null;
      keys.set(key, e.shiftKey);
      run.current();
    };
    const up = (e: KeyboardEvent) => keys.delete(e.key.length === 1 ? e.key.toLowerCase() : e.key);
    const stop = () => keys.clear();
    window.addEventListener("keydown", down, true);
    window.addEventListener("keyup", up, true);
    window.addEventListener("blur", stop);
    return () => {
      window.removeEventListener("keydown", down, true);
      window.removeEventListener("keyup", up, true);
      window.removeEventListener("blur", stop);
      cancelAnimationFrame(running.current);
      running.current = 0;
      keys.clear();
    };
  }, []);

  return {
    pose,
    /** Walk there. */
    walkTo: (at: Corner) => {
      target.current = at;
      run.current();
    },
    carry: (at: Corner) => {
      target.current = null;
      setPose((p) => ({ ...p, at }));
    },
    /** Step this far ahead and to the right at once. */
    step: (ahead: number, right: number) => setPose((p) => ({ ...p, at: stepped(p, ahead, right) })),
    turn: (by: number) => setPose((p) => ({ ...p, headingDeg: (p.headingDeg + by + 360) % 360 })),
    setLifted: (lifted: boolean) => setPose((p) => ({ ...p, lifted })),
  };
}

function stepped(p: Pose, ahead: number, right: number): Corner {
  const turn = (p.headingDeg * Math.PI) / 180;
  const [east, north] = [Math.sin(turn), Math.cos(turn)];
  return [p.at[0] + ahead * east + right * north, p.at[1] + ahead * north - right * east];
}

function moved(p: Pose, keys: Map<string, boolean>, target: { current: Corner | null }, dt: number): Pose {
  if (target.current) {
    const [dx, dy] = [target.current[0] - p.at[0], target.current[1] - p.at[1]];
    const away = Math.hypot(dx, dy);
    const by = Math.min(WALK_M_S * dt, away);
    const at: Corner = away > 0 ? [p.at[0] + (dx / away) * by, p.at[1] + (dy / away) * by] : p.at;
    if (away - by < ARRIVED_M) target.current = null;
    return { ...p, at };
  }
  let [ahead, right, turn] = [0, 0, 0];
  for (const [key, fine] of keys) {
    const [a, r, t] = KEYS[key] ?? [0, 0, 0];
    const share = fine ? FINE : 1;
    ahead += a * share * dt;
    right += r * share * dt;
    turn += t * share * dt;
  }
  const next = { ...p, headingDeg: (p.headingDeg + turn + 360) % 360 };
  return { ...next, at: stepped(next, ahead, right) };
}
