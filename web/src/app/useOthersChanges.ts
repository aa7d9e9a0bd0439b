import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { BASE } from "../api/base";
import { DEVICE } from "../api/device";
import { changedHereAt } from "../api/queries";
import { useToast } from "../ui/Toasts";

/** What this page saved itself is read again by then. */
const OWN_MS = 10_000;

/**
 * While a job is open and in sight, what others change of it is read again as soon as they have saved it. A page out of
 * sight holds no stream: a browser has few connections to one server.
 */
export function useOthersChanges(jobId: number | undefined) {
  const client = useQueryClient();
  const toast = useToast();
  useEffect(() => {
    if (!jobId) return;
    let stream: EventSource | null = null;
    const listen = () => {
      stream = new EventSource(`${BASE}/api/jobs/${jobId}/changes`);
      stream.onmessage = (e) => {
        const { who, device } = JSON.parse(e.data) as { who: string; device: string };
        if (device === DEVICE && Date.now() - changedHereAt() < OWN_MS) return;
        void client.invalidateQueries();
        toast(`${who || "Somebody"} changed this job. It is shown as it is now.`);
      };
    };
    const look = () => {
      if (document.visibilityState === "hidden") {
        stream?.close();
        stream = null;
      } else if (!stream) {
        void client.invalidateQueries();
        listen();
      }
    };
    listen();
    document.addEventListener("visibilitychange", look);
    return () => {
      document.removeEventListener("visibilitychange", look);
      stream?.close();
    };
  }, [jobId, client, toast]);
}
