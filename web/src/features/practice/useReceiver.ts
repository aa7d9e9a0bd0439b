import { useEffect, useRef, useState } from "react";
import { api, type Schemas, take } from "../../api/client";
import type { Pose } from "./useWalk";

export type Face = Schemas["FaceView"];

const EVERY_MS = 50;
const KEPT = 240;
const AGAIN_MS = 1000;

/** The receiver's readings as it is held, some twenty a second, and the last of them for the trail. */
export function useReceiver(
  jobId: number,
  pose: Pose,
  settings: { freqHz: number; gainDb: number; sonde: boolean },
  running: boolean,
) {
  const [shown, setShown] = useState<{ face: Face; trail: Face[] } | null>(null);
  const [lost, setLost] = useState(false);
  const latest = useRef({ pose, settings });
  latest.current = { pose, settings };
  // no two readings have the same noise, not even after a reload
  const tick = useRef(Date.now() % 1_000_000_000);
  const ask = async (): Promise<Face | undefined> => {
    const { pose: p, settings: set } = latest.current;
    tick.current += 1;
    const held = [{ east: p.at[0], north: p.at[1], heading: p.headingDeg, lifted: p.lifted }];
    const body = {
      freq_hz: set.freqHz,
      gain_db: set.gainDb,
      sonde: set.sonde,
      tick: tick.current,
      held,
    };
    const [face] = await take(
      api.POST("/api/jobs/{job_id}/yard/receiver", { params: { path: { job_id: jobId } }, body }),
    );
    return face;
  };
  const asking = useRef(ask);
  asking.current = ask;
  useEffect(() => {
    if (!running) return;
    let gone = false;
    let timer = 0;
    const loop = async () => {
      const began = performance.now();
      let wait = EVERY_MS;
      try {
        const face = await asking.current();
        if (gone) return;
        if (face) setShown((was) => ({ face, trail: [...(was?.trail ?? []), face].slice(-KEPT) }));
        setLost(false);
      } catch {
        if (gone) return;
        setLost(true);
        wait = AGAIN_MS;
      }
      timer = window.setTimeout(loop, Math.max(wait - (performance.now() - began), 0));
    };
    void loop();
    return () => {
      gone = true;
      window.clearTimeout(timer);
    };
  }, [running]);
  return { face: shown?.face ?? null, trail: shown?.trail ?? [], lost, read: ask };
}
