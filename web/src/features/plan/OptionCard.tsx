import { TriangleAlert } from "lucide-react";
import type { ReactNode } from "react";
import type { Refusal, Schemas } from "../../api/client";
import { Button } from "../../ui/Button";
import { BleedOff } from "./BleedOff";

const HOOK_UP: Record<Schemas["OptionView"]["proves"], string> = {
  mark: "Hook up this way",
  care: "Hook up, with care",
  earthed: "Hook up, far end earthed",
  depends: "Hook up to find out",
};

function heading(proves: Schemas["OptionView"]["proves"], best: boolean) {
  if (proves === "earthed" || proves === "depends") return "Not enough by itself";
  if (!best) return "Another setup";
  return proves === "mark" ? "Use this setup" : "The best there is";
}

/** The setup under the thumb: what to do, what it will show, what to watch. */
export function OptionCard(p: {
  option: Schemas["OptionView"];
  best: boolean;
  beside: ReactNode;
  busy: boolean;
  refused: Refusal | null;
  onUse: () => void;
}) {
  const o = p.option;
  return (
    <section className="card border-2 border-ink lg:p-3" aria-label="Chosen setup">
      <p className="text-sm font-semibold text-quiet">{heading(o.proves, p.best)}</p>
      <p className="text-xl leading-tight font-bold">
        {o.place_text},{" "}
        <span className="whitespace-nowrap">
          {o.freq_text}, {o.output_text}
        </span>
      </p>
      {o.proves_text ? <p className="mt-2 font-semibold text-care">{o.proves_text}</p> : null}
      <p className="mt-2 leading-snug">{o.reason}</p>
      {o.against_best ? <p className="font-semibold text-care">{o.against_best}</p> : null}
      <Button
        look={o.proves === "mark" ? "main" : "plain"}
        disabled={p.busy}
        onClick={p.onUse}
        className="mt-3 w-full text-lg"
      >
        {HOOK_UP[o.proves]}
      </Button>
      {p.refused ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {p.refused.text}
        </p>
      ) : null}
      {o.cautions.length ? (
        <ul className="mt-3 grid gap-1">
          {o.cautions.map((c) => (
            <li key={c} className="flex gap-2 leading-snug">
              <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0 text-care" />
              {c}
            </li>
          ))}
        </ul>
      ) : null}
      <div className="mt-3 grid gap-2 sm:max-lg:grid-cols-2">
        {o.forecasts.map((f) => (
          <dl key={f.far_case} className="border-t border-edge pt-2">
            <dt className="font-bold first-letter:uppercase">{f.far_case}</dt>
            <dd className="leading-snug">
              <strong>{f.transmitter_text}</strong> on the transmitter
              <br />
              <strong>{f.marked_text}</strong> markable, {f.end_text} at the end
              <BleedOff takes={f.bleed_off} />
            </dd>
          </dl>
        ))}
      </div>
      {p.beside}
      <details className="mt-2">
        <summary className="min-h-11 cursor-pointer py-2 font-semibold">More about this setup</summary>
        <dl className="grid gap-1">
          {o.facts.map((f) => (
            <div key={f.label}>
              <dt className="inline text-quiet">{f.label}: </dt>
              <dd className="inline font-semibold">{f.text}</dd>
            </div>
          ))}
        </dl>
      </details>
    </section>
  );
}
