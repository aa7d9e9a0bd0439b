import { useId } from "react";
import { useWatch } from "react-hook-form";
import type { Schemas } from "../../api/client";
import { UtilityTag } from "../../pictures/UtilityTag";
import { Button } from "../../ui/Button";
import { ChoiceEntry, TextEntry } from "../../ui/EntryForm";
import type { EntryFormState } from "../../ui/useEntryForm";

export interface Look {
  colour: string;
  hex: string;
  letter: string;
  pattern: string;
}

export interface MarkingFormState {
  looks: Record<string, Look>;
  tolerance: string;
  source: string;
  technician: string;
}

/** One kind of line: its mark as it will look, and what makes it so. */
export function LookRow(p: {
  kind: Schemas["LookView"];
  patterns: string[];
  form: EntryFormState<MarkingFormState>;
}) {
  const { kind, form } = p;
  const at = `looks.${kind.id}` as const;
  const look = useWatch({ control: form.control, name: at });
  const usual = kind.usual;
  const own = (["colour", "hex", "letter", "pattern"] as const).some((k) => look[k] !== usual[k]);
  const pick = useId();
  const field = (name: keyof Look, label: string) => (
    <TextEntry form={form} name={`${at}.${name}`} label={label} hint={own ? `usual: ${usual[name]}` : ""} />
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
                form.setValue(at, {
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
              className="field h-12 cursor-pointer p-1"
              {...form.register(`${at}.hex`)}
            />
          </div>
          {field("letter", "Letters")}
          <ChoiceEntry
            form={form}
            name={`${at}.pattern`}
            label="Pattern"
            options={p.patterns.map((id) => ({ id, label: id.replaceAll("-", " ") }))}
          />
        </div>
      </fieldset>
    </li>
  );
}
