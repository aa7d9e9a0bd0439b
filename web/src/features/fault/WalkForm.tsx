import { api, type Job, type Schemas, take } from "../../api/client";
import { faultKey, useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Meanwhile } from "../../ui/Meanwhile";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";
import { useConsequences } from "../consequences/useConsequences";

type View = Schemas["FaultView"];
type Walk = Schemas["WalkView"];
type Typed = {
  freq: string;
  start: string;
  volts: string;
  milliamps: string;
  frame: string;
  stake_back: string;
  stake_away: string;
  reference: string;
  seen: number | null;
};

const typedOf = (walk: Walk | null | undefined, usual: string, seen: number | null): Typed => ({
  freq: walk?.freq ?? usual,
  start: walk?.start ?? "",
  volts: walk?.volts ?? "",
  milliamps: walk?.milliamps ?? "",
  frame: walk?.frame ?? "",
  stake_back: walk?.stake_back ?? "",
  stake_away: walk?.stake_away ?? "",
  reference: walk?.reference ?? "",
  seen,
});

/** What is set for a walk: frequency, loop, frame and stake, and the level at the stake. */
export function WalkForm({ view, job, walk }: { view: View; job: Job; walk: Walk | null }) {
  const line = { params: { path: { line_id: view.line_id } } };
  const form = useEntryForm<Typed>({
    start: typedOf(walk, view.usual, walk ? view.seen : null),
    draft: walk ? `fault-walk-${walk.id}` : `fault-new-${view.line_id}`,
  });
  const toast = useToast();
  const ask = useConsequences<Schemas["WalkForm"]>(
    (body, signal) =>
      take(
        api.POST("/api/fault-walks/{walk_id}/consequences", {
          signal,
          params: { path: { walk_id: walk?.id ?? 0 } },
          body,
        }),
      ),
    { onlyWorse: true },
  );
  const start = useChange("line", (body: Schemas["WalkForm"]) =>
    take(api.POST("/api/lines/{line_id}/fault-walks", { ...line, body })),
  );
  const change = useChange(
    "frame",
    (body: Schemas["WalkForm"]) =>
      take(api.PUT("/api/fault-walks/{walk_id}", { params: { path: { walk_id: walk?.id ?? 0 } }, body })),
    { shown: faultKey(view.line_id) },
  );
  const send = async (typed: Typed) => {
    if (!walk) {
      await start.mutateAsync(typed);
      form.begin(typedOf(null, view.usual, null));
      return;
    }
    if (!(await ask.allowed(typed))) return;
    const now = await change.mutateAsync(typed);
    form.begin(typedOf(now.shown?.walk, now.usual, now.seen));
    toast(ask.said.current || "Walk saved.");
    await ask.settle();
  };
  const stored = () =>
    take(api.GET("/api/lines/{line_id}/fault", line)).then((now) =>
      typedOf(now.shown?.walk, now.usual, now.seen),
    );
  const length = { form, quantity: "distance" as const, units: job.units };
  return (
    <EntryForm form={form} send={send} className="grid grid-cols-2 gap-x-3 gap-y-2">
      <TextEntry
        form={form}
        name="freq"
        label="Frequency"
        quantity="frequency"
        required
        hint="the kit's lowest"
      />
      <TextEntry {...length} name="start" label="Connected at" hint="empty: the near end" />
      <TextEntry form={form} name="volts" label="Volts" quantity="volts" hint="at the transmitter" />
      <TextEntry
        form={form}
        name="milliamps"
        label="Milliamps"
        quantity="current"
        hint="at the transmitter"
      />
      <TextEntry {...length} name="stake_away" label="Stake, off the line" hint="square off it" />
      <TextEntry {...length} name="stake_back" label="Stake, beyond near end" hint="along the line" />
      <TextEntry
        {...length}
        quantity="offset"
        name="frame"
        label="Between the spikes"
        hint={`your kit's frame: ${view.usual_frame}`}
      />
      <TextEntry
        form={form}
        name="reference"
        label="Level at the stake"
        quantity="signal"
        hint="frame pointing at it, close by"
      />
      <div className="col-span-full grid gap-2">
        {ask.shown}
        <FormError form={form} />
        {walk ? <Meanwhile form={form} fresh={stored} send={send} /> : null}
        <Button
          type="submit"
          look="main"
          className={walk ? "justify-self-start" : "w-full text-lg"}
          disabled={start.isPending || change.isPending || ask.checking}
        >
          {walk ? "Save this walk" : "Start the walk"}
        </Button>
      </div>
    </EntryForm>
  );
}
