import { useState } from "react";
import { useNavigate } from "react-router";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";

/** A setup as the server proposes it: what is needed to hook up like that. */
export interface Proposed {
  hookup: Schemas["OptionView"]["hookup"];
  freq_hz: number;
  output_a: number;
  position_m: number;
  /** Moving induction: how far behind the receiver the coil is carried. */
  apart_m?: number | null;
}

/** Starts a hookup as proposed and goes there; what was refused stays to be shown. */
export function useStart(lineId: number, job: { id: number }) {
  const [refused, setRefused] = useState<Refusal | null>(null);
  const go = useNavigate();
  const start = useChange("setup", ({ s, stakeAt }: { s: Proposed; stakeAt: number[] | null }) =>
    take(
      api.POST("/api/lines/{line_id}/setups", {
        params: { path: { line_id: lineId } },
        body: {
          hookup: s.hookup,
          freq: `${s.freq_hz}Hz`,
          output: `${s.output_a}A`,
          position: `${s.position_m}m`,
          apart: s.apart_m ? `${s.apart_m}m` : "",
          stake_at: stakeAt ? `${stakeAt[0]}m, ${stakeAt[1]}m` : "",
        },
      }),
    ),
  );
  const onStart = (s: Proposed, stakeAt: number[] | null) =>
    start
      .mutateAsync({ s, stakeAt })
      .then(() => go(`/jobs/${job.id}/lines/${lineId}/hookup`))
      .catch((e) => setRefused(asRefusal(e)));
  return { onStart, busy: start.isPending, refused };
}
