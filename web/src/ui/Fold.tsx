import { type ReactNode, useEffect, useState } from "react";

/** Something folded away; it opens by itself when something inside `needs` attention, and then stays open. */
export function Fold(p: { summary: ReactNode; needs?: boolean; className?: string; children: ReactNode }) {
  const [open, setOpen] = useState(p.needs ?? false);
  useEffect(() => {
    if (p.needs) setOpen(true);
  }, [p.needs]);
  return (
    <details className={p.className} open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">{p.summary}</summary>
      {p.children}
    </details>
  );
}
