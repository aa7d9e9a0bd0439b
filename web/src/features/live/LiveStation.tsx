import { useWatch } from "react-hook-form";
import { api, asRefusal, type Job, type Trace, take } from "../../api/client";
import type { EntryFormState } from "../../ui/useEntryForm";
import { LiveBox } from "./LiveBox";
import { type Live, useLive } from "./useLive";

interface Held {
  [name: string]: unknown;
  currents?: unknown;
  depth?: unknown;
  lift_height?: unknown;
}

/** The attached receiver beside a station's form: takes what it shows, and logs the station on its own button. */
export function LiveStation<T extends Held>(p: {
  trace: Trace;
  job: Job;
  form: EntryFormState<T>;
  submit: () => void;
}) {
  const typed = useWatch({ control: p.form.control as never }) as Held;
  const fill = async (live: Live) => {
    const r = live.receiver;
    if (!r) return;
    const focus = document.activeElement instanceof HTMLInputElement ? document.activeElement.name : "";
    const patch: Record<string, unknown> = {};
    if (focus === "depth_lifted") patch.depth_lifted = r.depth;
    else {
      patch.currents = `${String(typed.currents ?? "")} ${r.milliamps}`.trim();
      if (r.depth) patch.depth = r.depth;
      if (r.direction) patch.direction = r.direction;
      Object.assign(patch, await placed(p.trace, live).catch((e) => p.form.refuse(asRefusal(e))));
    }
    p.form.put(patch as Partial<T>);
  };
  const live = useLive(p.job.units, (now) => {
    void fill(now).then(p.submit);
  });
  if (!live) return null;
  return (
    <LiveBox
      live={live}
      what="Receiver"
      shows={live.receiver?.text}
      note={live.receiver?.other_frequency}
      onTake={() => void fill(live)}
    />
  );
}

/** Where the positioning says that the station is, along the line; nothing where the plan is not tied to the earth. */
async function placed(trace: Trace, live: Live) {
  if (!live.position || !trace.tied || !trace.drawn) return {};
  const place = { by: "device" as const, ...live.position };
  const path = { params: { path: { setup_id: trace.setup_id } } };
  const found = await take(api.POST("/api/setups/{setup_id}/place", { ...path, body: place }));
  return { distance: found.distance, place };
}
