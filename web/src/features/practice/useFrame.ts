import { useEffect, useRef, useState } from "react";
import { api, type Schemas, take } from "../../api/client";
import type { Pose } from "./useWalk";

export type FrameShown = Schemas["FrameFaceView"];

const EVERY_MS = 150;
const AGAIN_MS = 1000;

/** What the frame shows where it is set, a few times a second while it is carried. */
export function useFrame(jobId: number, pose: Pose, running: boolean) {
  const [face, setFace] = useState<FrameShown | null>(null);
  const [lost, setLost] = useState(false);
  const at = useRef(pose);
  at.current = pose;
  const tick = useRef(Date.now() % 1_000_000_000);
  const read = async (): Promise<FrameShown | undefined> => {
    tick.current += 1;
    const { at: where, headingDeg: heading } = at.current;
    const spiked = [{ east: where[0], north: where[1], heading }];
    const [shown] = await take(
      api.POST("/api/jobs/{job_id}/yard/frame", {
        params: { path: { job_id: jobId } },
        body: { tick: tick.current, spiked },
      }),
    );
    return shown;
  };
  const asking = useRef(read);
  asking.current = read;
  useEffect(() => {
    if (!running) return;
    let gone = false;
    let timer = 0;
    const loop = async () => {
      let wait = EVERY_MS;
      try {
        const shown = await asking.current();
        if (gone) return;
        setFace(shown ?? null);
        setLost(false);
      } catch {
        if (gone) return;
        setLost(true);
        wait = AGAIN_MS;
      }
      timer = window.setTimeout(loop, wait);
    };
    void loop();
    return () => {
      gone = true;
      window.clearTimeout(timer);
    };
  }, [running]);
  return { face, lost, read };
}
