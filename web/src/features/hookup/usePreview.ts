import { api, type Schemas, take } from "../../api/client";
import { useAsked } from "../../api/useAsked";

/** What a reading would say, asked a moment after typing stops; null while there is nothing to say. */
export function usePreview(
  setupId: number,
  typed: { volts: string; milliamps: string; freq: string; change: string },
) {
  const { volts, milliamps, freq, change } = typed;
  const whole = volts.trim() && milliamps.trim();
  const body = { volts, milliamps, freq, change: change as Schemas["ReadingForm"]["change"] };
  return useAsked(
    whole ? `reading of ${setupId}: ${JSON.stringify(body)}` : null,
    () =>
      take(
        api.POST("/api/setups/{setup_id}/readings/preview", {
          params: { path: { setup_id: setupId } },
          body: { ...body, note: "", technician: "", insist: false },
        }),
      ),
    300,
  );
}
