import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, asRefusal, type Hookup, type Job, take } from "../../api/client";
import { useChange, useKits } from "../../api/queries";
import { hertz } from "../../api/units";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Choice } from "../../ui/Field";
import { useEntryForm } from "../../ui/useEntryForm";

type Patch = { rx_freq?: string; stake?: string; stake_away?: string };

/**
 * What can only be known at the hookup: what the stake measures, and the receiver's frequency. That is set by a step of
 * the safe order; here it is only put right.
 */
export function SetupDetails({ hookup: h, job }: { hookup: Hookup; job: Job }) {
  const known = { stake: h.stake_ohm_typed, stake_away: h.stake_away_typed };
  const form = useEntryForm({ start: known });
  const typed = useWatch({ control: form.control });
  const kit = useKits().data?.find((k) => k.id === job.kit_id)?.kit;
  const patch = useChange("setup", (body: Patch) =>
    take(api.PATCH("/api/setups/{setup_id}", { params: { path: { setup_id: h.id } }, body })),
  );
  const [other, setOther] = useState(false);
  const mismatch = h.rx_freq_hz !== null && h.rx_freq_hz !== h.freq_hz;
  return (
    <div className="mt-2 grid gap-x-4 sm:grid-cols-[13rem_minmax(0,1fr)]">
      {mismatch || other ? (
        <Choice
          label="Receiver is set to"
          name="rx_freq"
          value={h.rx_freq_hz === null ? "" : String(h.rx_freq_hz)}
          onChange={(v) => patch.mutate({ rx_freq: v ? `${v}Hz` : "" })}
          options={[
            { id: "", label: "not checked yet" },
            ...(kit?.frequencies ?? []).map((f) => ({ id: String(f.freq_hz), label: hertz(f.freq_hz) })),
          ]}
          hint={
            mismatch ? (
              <strong className="text-hold">
                The transmitter is on {h.freq_text}: this receiver hears something else.
              </strong>
            ) : (
              "Read it off the receiver; both must be the same."
            )
          }
          wrong={
            patch.isError && asRefusal(patch.error).field === "rx_freq"
              ? asRefusal(patch.error).text
              : undefined
          }
        />
      ) : (
        <div data-receiver={h.rx_freq_hz ?? ""}>
          <p>
            Receiver: <strong>{h.rx_freq_text || "not checked yet"}</strong>
            {h.rx_freq_text ? ", as the transmitter" : ": a step of the safe order"}
          </p>
          <Button look="quiet" className="-ml-3" onClick={() => setOther(true)}>
            It shows another frequency
          </Button>
        </div>
      )}
      {h.hookup === "direct" ? (
        <EntryForm
          form={form}
          send={(typed) => patch.mutateAsync(typed)}
          className="grid grid-cols-[1fr_1fr_auto] items-start gap-x-2"
        >
          <div className="min-w-0">
            <TextEntry
              form={form}
              name="stake_away"
              label="Stake distance"
              quantity="distance"
              units={job.units}
            />
          </div>
          <div className="min-w-0">
            <TextEntry form={form} name="stake" label="Stake, ohm" quantity="ohms" />
          </div>
          <Button
            type="submit"
            className="mt-6"
            disabled={typed.stake === known.stake && typed.stake_away === known.stake_away}
          >
            Set
          </Button>
          <FormError form={form} />
          <p className="col-span-full text-sm text-quiet">Stake in the forecast: {h.stake_text}.</p>
        </EntryForm>
      ) : (
        <p className="self-center">{h.position_text}</p>
      )}
    </div>
  );
}
