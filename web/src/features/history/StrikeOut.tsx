import { type FormEvent, useId, useState } from "react";
import { Button } from "../../ui/Button";

const REASONS = ["Misread", "Wrong place", "Another line", "Entered twice"];

/** Asks why something is struck out or removed: one tap for the usual reasons, or one's own words. */
export function AskWhy(p: {
  what: string;
  verb: string;
  says: string;
  reasons: string[];
  busy: boolean;
  onGive: (why: string) => void;
  onKeep: () => void;
}) {
  const [own, setOwn] = useState("");
  const id = useId();
  const send = (e: FormEvent) => {
    e.preventDefault();
    e.stopPropagation();
    if (own.trim()) p.onGive(own.trim());
  };
  return (
    <form
      onSubmit={send}
      className="w-full rounded-md border-2 border-ink p-3"
      aria-label={`Why ${p.verb.toLowerCase()} ${p.what}`}
    >
      <p className="mb-2 font-semibold">{p.says}</p>
      <div className="flex flex-wrap gap-2">
        {p.reasons.map((why) => (
          <Button key={why} disabled={p.busy} onClick={() => p.onGive(why)}>
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
        <Button type="submit" disabled={p.busy || !own.trim()}>
          {p.verb}
        </Button>
        <Button look="quiet" disabled={p.busy} onClick={p.onKeep}>
          Keep it
        </Button>
      </div>
    </form>
  );
}

/** Strikes an entry out for a reason; the entry stays on record. */
export function StrikeOut(p: {
  what: string;
  busy: boolean;
  className?: string;
  onStrike: (why: string) => void;
}) {
  const [open, setOpen] = useState(false);
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
    <AskWhy
      what={p.what}
      verb="Strike out"
      says="Why? It stays on record, struck through."
      reasons={REASONS}
      busy={p.busy}
      onGive={(why) => {
        setOpen(false);
        p.onStrike(why);
      }}
      onKeep={() => setOpen(false)}
    />
  );
}
