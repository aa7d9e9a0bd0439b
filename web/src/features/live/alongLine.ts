import { api, take } from "../../api/client";
import type { Live } from "./useLive";

/** How far along a line the positioning says one is, as typed; nothing where the plan is not tied to the earth. */
export async function alongLine(line_id: number, live: Live): Promise<{ distance?: string }> {
  if (!live.position) return {};
  const found = await take(
    api.POST("/api/lines/{line_id}/place", {
      params: { path: { line_id } },
      body: { by: "device" as const, ...live.position },
    }),
  ).catch(() => null);
  return found ? { distance: found.distance } : {};
}
