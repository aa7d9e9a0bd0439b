import { type ReactNode, useEffect, useState } from "react";
import { flushSync } from "react-dom";
import { Button } from "../../ui/Button";

const SHOWN = 20;

/** A list on the record: on the screen its beginning, with the rest a tap away; on paper all of it. */
export function Long<T>(p: { items: T[]; what: string; className?: string; row: (item: T) => ReactNode }) {
  const [all, setAll] = useState(false);
  useEffect(() => {
    const unfold = () => flushSync(() => setAll(true));
    addEventListener("beforeprint", unfold);
    return () => removeEventListener("beforeprint", unfold);
  }, []);
  const more = p.items.length - SHOWN;
  return (
    <>
      <ul className={p.className}>{(all || more <= 0 ? p.items : p.items.slice(0, SHOWN)).map(p.row)}</ul>
      {!all && more > 0 ? (
        <Button className="no-print mt-2" onClick={() => setAll(true)}>
          Show {more} more {p.what}
        </Button>
      ) : null}
    </>
  );
}
