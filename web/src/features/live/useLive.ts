import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { BASE } from "../../api/base";
import { api, type Schemas, take, type Units } from "../../api/client";

export type Live = Schemas["InstrumentsView"];

/** What the attached instruments show, as it comes; null where none is attached. No stream is held without any. */
export function useLive(units: Units, onLog?: (live: Live) => void): Live | null {
  const attached = useQuery({
    queryKey: ["instruments", units],
    queryFn: () => take(api.GET("/api/instruments", { params: { query: { units } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const any = (attached.data?.streams.length ?? 0) > 0;
  const [live, setLive] = useState<Live | null>(null);
  const log = useRef(onLog);
  log.current = onLog;
  useEffect(() => {
    if (!any) return;
    let logs: number | null = null;
    const stream = new EventSource(`${BASE}/api/instruments/live?units=${units}`);
    stream.onmessage = (e) => {
      const next = JSON.parse(e.data) as Live;
      setLive(next);
      // what was pressed before this page listened is not meant for it
      if (logs !== null && next.logs > logs) log.current?.(next);
      logs = next.logs;
    };
    return () => stream.close();
  }, [any, units]);
  return any ? (live ?? attached.data ?? null) : null;
}
