import type { Schemas } from "../../api/client";
import { when } from "../../api/units";
import { Button } from "../../ui/Button";

/** What counts no more: struck through, with who, when and why. */
export function Struck(p: { entries: Schemas["StruckView"][]; onRestore?: (id: number) => void }) {
  if (!p.entries.length) return null;
  return (
    <section aria-label="Struck out" className="mt-2">
      <h3 className="text-sm font-bold">Struck out</h3>
      <ul>
        {p.entries.map((e) => (
          <li
            key={e.id}
            className="flex flex-wrap items-center gap-x-3 border-t border-edge py-1 text-sm"
            data-struck={e.id}
          >
            <span className="min-w-0 grow basis-56">
              <del className="text-quiet">{e.text}</del>
              <br />
              {e.why ? <strong>{e.why}. </strong> : null}
              <span className="text-quiet">
                {e.by ? `${e.by}, ` : ""}
                {when(e.at)}
              </span>
            </span>
            {p.onRestore ? (
              <Button
                look="quiet"
                className="text-sm"
                aria-label={`Restore ${e.text}`}
                onClick={() => p.onRestore?.(e.id)}
              >
                Restore
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
