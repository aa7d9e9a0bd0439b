import { api, type Schemas, take } from "../../api/client";
import { useAsked } from "../../api/useAsked";

/** What a reading would say, asked a moment after typing stops; null while there is nothing to say. */
export function usePreview(
  setupId: number,
  typed: { volts: string; milliamps: string; freq: string; change: string; beside: string },
) {
  const { volts, milliamps, freq } = typed;
  const whole = volts.trim() && milliamps.trim();
  const change = typed.change as Schemas["ReadingForm"]["change"];
  const beside = typed.beside as Schemas["ReadingForm"]["beside"];
  const body = { volts, milliamps, freq, change, beside };
  return useAsked(
    whole ? `reading of ${setupId}: ${JSON.stringify(body)}` : null,
    () =>
      take(
        api.POST("/api/setups/{setup_id}/readings/preview", {
          params: { path: { setup_id: setupId } },
          body: { ...body, note: "", insist: false },
        }),
      ),
    300,
  );
}
