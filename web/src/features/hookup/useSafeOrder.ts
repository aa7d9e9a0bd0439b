import { api, type Hookup, take } from "../../api/client";
import { useSteps } from "../../ui/Checklist";

/** The safe order of a hookup. */
export const useSafeOrder = (h: Hookup) =>
  useSteps({
    key: ["setup", h.id],
    steps: h.steps,
    keep: (steps_done) =>
      take(
        api.PATCH("/api/setups/{setup_id}", { params: { path: { setup_id: h.id } }, body: { steps_done } }),
      ),
  });
