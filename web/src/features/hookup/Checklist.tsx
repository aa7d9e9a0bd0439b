import { ShieldCheck } from "lucide-react";
import { api, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Tick } from "../../ui/Field";
import type { Hookup } from "./HookupPage";

/** The safe order: numbered, ticked one by one; steps that protect a person stand out. */
export function Checklist({ hookup: h }: { hookup: Hookup }) {
  const tick = useChange((steps_done: string[]) =>
    take(api.PATCH("/api/setups/{setup_id}", { params: { path: { setup_id: h.id } }, body: { steps_done } })),
  );
  const done = h.steps.filter((s) => s.done).map((s) => s.id);
  const all = done.length === h.steps.length;
  return (
    <details className="card" open={all ? undefined : true}>
      <summary className="min-h-8 cursor-pointer text-lg font-bold">
        Safe order{" "}
        <span className="font-normal text-quiet">
          {done.length} of {h.steps.length} done
        </span>
      </summary>
      <ol className="mt-2">
        {h.steps.map((s, i) => (
          <li key={s.id} className={`border-t border-edge ${s.protects ? "font-semibold" : ""}`}>
            <Tick
              name={s.id}
              checked={s.done}
              onChange={(on) => tick.mutate(on ? [...done, s.id] : done.filter((d) => d !== s.id))}
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
