import { type FormEvent, useId, useState } from "react";
import { Button } from "../../ui/Button";

const REASONS = ["Misread", "Wrong place", "Another line", "Entered twice"];

/** Strikes an entry out for a reason, one tap for the usual ones; the entry stays on record. */
export function StrikeOut(p: {
  what: string;
  busy: boolean;
  className?: string;
  onStrike: (why: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [own, setOwn] = useState("");
  const id = useId();
  const strike = (why: string) => {
    setOpen(false);
    p.onStrike(why);
  };
  const send = (e: FormEvent) => {
    e.preventDefault();
    e.stopPropagation();
    if (own.trim()) strike(own.trim());
  };
  if (!open)
    return (
      <Button
        look="quiet"
        className={`px-2.5 ${p.className ?? ""}`}
        disabled={p.busy}
        aria-label={`Strike out ${p.what}`}
        onClick={() => setOpen(true)}
      >
        Strike out
      </Button>
    );
  return (
    <form
      onSubmit={send}
      className="w-full rounded-md border-2 border-ink p-3"
      aria-label={`Why strike out ${p.what}`}
    >
      <p className="mb-2 font-semibold">Why? It stays on record, struck through.</p>
      <div className="flex flex-wrap gap-2">
        {REASONS.map((why) => (
          <Button key={why} onClick={() => strike(why)}>
            {why}
          </Button>
        ))}
      </div>
      <label htmlFor={id} className="mt-3 block text-sm font-semibold">
        Another reason
      </label>
      <div className="flex flex-wrap gap-2">
        <input
          id={id}
          value={own}
          maxLength={500}
          onChange={(e) => setOwn(e.target.value)}
          className="min-h-11 min-w-0 grow basis-40 rounded-md border border-ink bg-sheet px-3"
        />
        <Button type="submit" disabled={!own.trim()}>
          Strike out
        </Button>
        <Button look="quiet" onClick={() => setOpen(false)}>
          Keep it
        </Button>
      </div>
    </form>
  );
}
