import { useEffect, useState } from "react";
import { api, type Schemas, take } from "../../api/client";

/** What a reading would say, asked a moment after typing stops; null while there is nothing to say. */
export function usePreview(
  setupId: number,
  typed: { volts: string; milliamps: string; freq: string; change: string },
) {
  const [found, setFound] = useState<Schemas["PreviewView"] | null>(null);
  const { volts, milliamps, freq, change } = typed;
  useEffect(() => {
    setFound(null);
    if (!volts.trim() || !milliamps.trim()) return;
    let live = true;
    const timer = setTimeout(() => {
      take(
        api.POST("/api/setups/{setup_id}/readings/preview", {
          params: { path: { setup_id: setupId } },
          body: {
            volts,
            milliamps,
            freq,
            change: change as Schemas["ReadingForm"]["change"],
            note: "",
            technician: "",
            insist: false,
          },
        }),
      ).then(
        (p) => live && setFound(p),
        () => undefined,
      );
    }, 300);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [setupId, volts, milliamps, freq, change]);
  return found;
}
