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
    <section className="card border-2 border-ink" aria-label="Chosen setup">
      <div className="flex flex-wrap items-start justify-between gap-3">
        <div className="min-w-0 grow basis-64">
          <p className="text-sm font-semibold text-quiet">{heading(o.proves, p.best)}</p>
          <p className="text-2xl leading-tight font-bold">
            {o.place_text},{" "}
            <span className="whitespace-nowrap">
              {o.freq_text}, {o.output_text}
            </span>
          </p>
        </div>
        <Button
          look={o.proves === "mark" ? "main" : "plain"}
          disabled={p.busy}
          onClick={p.onUse}
          className="w-full text-lg sm:w-auto"
        >
          {HOOK_UP[o.proves]}
        </Button>
      </div>
      {o.proves_text ? <p className="mt-2 text-lg font-semibold text-care">{o.proves_text}</p> : null}
      <p className="mt-2 text-lg leading-snug">{o.reason}</p>
      {o.against_best ? <p className="font-semibold text-care">{o.against_best}</p> : null}
      {p.refused ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {p.refused.text}
        </p>
      ) : null}
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        {o.forecasts.map((f) => (
          <dl key={f.far_case} className="rounded-md border border-edge p-3">
            <dt className="font-bold first-letter:uppercase">{f.far_case}</dt>
            <dd>
              Transmitter: <strong>{f.transmitter_text}</strong>
              <br />
              Markable <strong>{f.marked_text}</strong>, {f.end_text} at the end
              <BleedOff takes={f.bleed_off} />
            </dd>
          </dl>
        ))}
        {p.beside ? <div className={o.forecasts.length % 2 ? "" : "sm:col-span-2"}>{p.beside}</div> : null}
      </div>
      <dl className="mt-3 grid gap-x-4 gap-y-1 sm:grid-cols-2">
        {o.facts.map((f) => (
          <div key={f.label}>
            <dt className="inline text-quiet">{f.label}: </dt>
            <dd className="inline font-semibold">{f.text}</dd>
          </div>
        ))}
      </dl>
      {o.cautions.length ? (
        <ul className="mt-3 grid gap-1">
          {o.cautions.map((c) => (
            <li key={c} className="flex gap-2">
              <TriangleAlert aria-hidden className="mt-0.5 size-5 shrink-0 text-care" />
              {c}
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}
