import { useId } from "react";
import type { Refusal, Schemas } from "../../api/client";
import { UtilityTag } from "../../pictures/UtilityTag";
import { Button } from "../../ui/Button";
import { Choice, Field } from "../../ui/Field";

export interface Look {
  colour: string;
  hex: string;
  letter: string;
  pattern: string;
}

/** One kind of line: its mark as it will look, and what makes it so. */
export function LookRow(p: {
  kind: Schemas["LookView"];
  look: Look;
  patterns: string[];
  error: Refusal | null;
  onChange: (look: Look) => void;
}) {
  const { kind, look } = p;
  const usual = kind.usual;
  const own = (["colour", "hex", "letter", "pattern"] as const).some((k) => look[k] !== usual[k]);
  const at = (field: keyof Look) => `looks.${kind.id}.${field}`;
  const pick = useId();
  const field = (name: keyof Look, label: string) => (
    <Field
      name={at(name)}
      label={label}
      value={look[name]}
      error={p.error}
      hint={own ? `usual: ${usual[name]}` : ""}
      onChange={(v) => p.onChange({ ...look, [name]: v })}
    />
  );
  return (
    <li className="border-t border-edge py-3" data-look={kind.id} data-own={own}>
      <fieldset>
        <legend className="float-left flex w-full flex-wrap items-center gap-3 pb-2 font-bold">
          <UtilityTag utility={{ ...kind.now, ...look }} />
          {kind.label}
          {own ? (
            <Button
              look="quiet"
              className="text-sm"
              aria-label={`Back to usual for ${kind.label}`}
              onClick={() =>
                p.onChange({
                  colour: usual.colour,
                  hex: usual.hex,
                  letter: usual.letter,
                  pattern: usual.pattern,
                })
              }
            >
              Back to usual
            </Button>
          ) : null}
        </legend>
        <div className="clear-both grid grid-cols-2 gap-x-4 sm:grid-cols-4">
          {field("colour", "Colour")}
          <div>
            <label htmlFor={pick} className="mb-1 block text-sm font-semibold">
              Shown as
            </label>
            <input
              id={pick}
              type="color"
              name={at("hex")}
              value={look.hex}
              className="field h-12 cursor-pointer p-1"
              onChange={(e) => p.onChange({ ...look, hex: e.target.value })}
            />
          </div>
          {field("letter", "Letters")}
          <Choice
            name={at("pattern")}
            label="Pattern"
            value={look.pattern}
            error={p.error}
            options={p.patterns.map((id) => ({ id, label: id.replaceAll("-", " ") }))}
            onChange={(pattern) => p.onChange({ ...look, pattern })}
          />
        </div>
      </fieldset>
    </li>
  );
}
