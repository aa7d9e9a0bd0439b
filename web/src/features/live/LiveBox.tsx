import { Radio, Unplug } from "lucide-react";
import { Button } from "../../ui/Button";
import type { Live } from "./useLive";

/** The field in focus says what is taken: a tap on the button must not move it. */
const keepFocus = (e: { preventDefault: () => void }) => e.preventDefault();

/** What an attached instrument shows now, how its stream stands, and the button that takes it. */
export function LiveBox(p: {
  live: Live;
  shows: string | undefined;
  what: string;
  note?: string;
  onTake: () => void;
  /** Whether what it shows now can be taken; where it shows nothing it cannot. */
  ready?: boolean;
}) {
  const lost = p.live.streams.filter((s) => s.state !== "connected");
  const warnings = p.live.streams.map((s) => s.warning).filter(Boolean);
  const Icon = p.shows === undefined ? Unplug : Radio;
  return (
    <section
      aria-label={`${p.what}, live`}
      className={`mb-2 rounded-md border-2 px-2 py-1 ${p.shows === undefined ? "border-care bg-care-bg text-care" : "border-edge bg-paper"}`}
      data-live={p.shows === undefined ? "none" : "live"}
    >
      <div className="flex items-center gap-x-2">
        <Icon aria-hidden className="size-5 shrink-0" />
        <p className="min-w-0 grow leading-snug">
          <strong>{p.what}:</strong> {p.shows ?? "nothing heard"}
        </p>
        <Button
          className="shrink-0 px-3"
          disabled={p.shows === undefined || p.ready === false}
          onMouseDown={keepFocus}
          onClick={p.onTake}
        >
          Take
        </Button>
      </div>
      {[p.note, ...warnings, ...lost.map((s) => s.text)].filter(Boolean).map((text) => (
        <p key={text} className="text-sm leading-snug font-semibold">
          {text}
        </p>
      ))}
    </section>
  );
}
