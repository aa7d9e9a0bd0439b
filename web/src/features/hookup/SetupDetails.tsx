import { useState } from "react";
import { api, asRefusal, type Hookup, type Job, type Refusal, take } from "../../api/client";
import { useChange, useKits } from "../../api/queries";
import { hertz } from "../../api/units";
import { Button } from "../../ui/Button";
import { Choice, Field } from "../../ui/Field";

type Patch = { rx_freq?: string; stake?: string; stake_away?: string };

/** What can only be known at the hookup: the receiver's frequency and what the stake measures. */
export function SetupDetails({ hookup: h, job }: { hookup: Hookup; job: Job }) {
  const [stake, setStake] = useState(h.stake_ohm_typed);
  const [away, setAway] = useState(h.stake_away_typed);
  const [error, setError] = useState<Refusal | null>(null);
  const kit = useKits().data?.find((k) => k.id === job.kit_id)?.kit;
  const patch = useChange("setup", (body: Patch) =>
    take(api.PATCH("/api/setups/{setup_id}", { params: { path: { setup_id: h.id } }, body })),
  );
  const send = (body: Patch) =>
    patch.mutate(body, { onSuccess: () => setError(null), onError: (e) => setError(asRefusal(e)) });
  const mismatch = h.rx_freq_hz !== null && h.rx_freq_hz !== h.freq_hz;
  return (
    <div className="mt-3 grid gap-x-4 sm:grid-cols-2">
      <Choice
        label="Receiver is set to"
        name="rx_freq"
        value={h.rx_freq_hz === null ? "" : String(h.rx_freq_hz)}
        onChange={(v) => send({ rx_freq: v ? `${v}Hz` : "" })}
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
        error={error}
      />
      {h.hookup === "direct" ? (
        <form
          className="flex flex-wrap items-start gap-2"
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            send({ stake, stake_away: away });
          }}
        >
          <div className="grow basis-28">
            <Field
              name="stake_away"
              label="Stake off the line"
              value={away}
              onChange={setAway}
              quantity="distance"
              units={job.units}
              error={error}
            />
          </div>
          <div className="grow basis-28">
            <Field
              name="stake"
              label="It measures, ohm"
              value={stake}
              onChange={setStake}
              quantity="ohms"
              error={error}
            />
          </div>
          <Button
            type="submit"
            className="mt-6"
            disabled={stake === h.stake_ohm_typed && away === h.stake_away_typed}
          >
            Set
          </Button>
          <p className="w-full text-sm text-quiet">Stake in the forecast: {h.stake_text}.</p>
        </form>
      ) : (
        <p className="self-center">{h.position_text}</p>
      )}
    </div>
  );
}
