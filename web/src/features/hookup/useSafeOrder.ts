import { api, type Hookup, take } from "../../api/client";
import { useSteps } from "../../ui/Checklist";

/** The safe order of a hookup, and how its questions are answered. */
export const useSafeOrder = (h: Hookup, answering: Parameters<typeof useSteps>[0]["answering"]) =>
  useSteps({
    answering,
    key: ["setup", h.id],
    steps: h.steps,
    keep: (steps_done) =>
      take(
        api.PATCH("/api/setups/{setup_id}", { params: { path: { setup_id: h.id } }, body: { steps_done } }),
      ),
  });
