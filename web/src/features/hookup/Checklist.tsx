import { useMutation, useQueryClient } from "@tanstack/react-query";
import { ShieldCheck } from "lucide-react";
import { useState } from "react";
import { api, asRefusal, take } from "../../api/client";
import { Tick } from "../../ui/Field";
import type { Hookup } from "./HookupPage";

/**
 * The safe order: numbered, ticked one by one; steps that protect a person stand out. A tick shows at once and is
 * sent in turn, so that quick taps never overtake each other.
 */
export function Checklist({ hookup: h }: { hookup: Hookup }) {
  const client = useQueryClient();
  const [done, setDone] = useState(() => h.steps.filter((s) => s.done).map((s) => s.id));
  const send = useMutation({
    scope: { id: `steps-${h.id}` },
    mutationFn: (steps_done: string[]) =>
      take(
        api.PATCH("/api/setups/{setup_id}", { params: { path: { setup_id: h.id } }, body: { steps_done } }),
      ),
    onSuccess: async () => {
      await client.cancelQueries({ queryKey: ["setup", h.id] });
      await client.invalidateQueries({ queryKey: ["setup", h.id] });
    },
  });
  const tick = (id: string, on: boolean) => {
    const next = on ? [...done, id] : done.filter((d) => d !== id);
    setDone(next);
    send.mutate(next);
  };
  const [startedOpen] = useState(done.length < h.steps.length);
  return (
    <details className="card" open={startedOpen}>
      <summary className="min-h-11 cursor-pointer py-2 text-lg font-bold">
        Safe order{" "}
        <span className="font-normal text-quiet">
          {done.length} of {h.steps.length} done
        </span>
      </summary>
      {send.isError ? (
        <p role="alert" className="font-semibold text-hold">
          {asRefusal(send.error).message} The ticks are not saved yet: tick again.
        </p>
      ) : null}
      <ol className="mt-2">
        {h.steps.map((s, i) => (
          <li key={s.id} className={`border-t border-edge ${s.protects ? "font-semibold" : ""}`}>
            <Tick
              name={s.id}
              checked={done.includes(s.id)}
              onChange={(on) => tick(s.id, on)}
              label={
                <>
                  {i + 1}. {s.text}
                  {s.protects ? (
                    <span className="ml-2 inline-flex items-center gap-1 align-middle text-sm text-hold">
                      <ShieldCheck aria-hidden className="size-4" /> protects you
                    </span>
                  ) : null}
                </>
              }
            />
          </li>
        ))}
      </ol>
    </details>
  );
}
