import { useFormState, useWatch } from "react-hook-form";
import type { Schemas } from "../../api/client";
import { TextEntry } from "../../ui/EntryForm";
import { Fold } from "../../ui/Fold";
import type { EntryFormState } from "../../ui/useEntryForm";
import type { LineFormState, TypedFigure } from "./lineForm";

type Construction = Schemas["ConstructionDoc"];

const LABELS: [TypedFigure, string][] = [
  ["radius_m", "Outer radius of the metal, m"],
  ["wall_m", "Wall or skin, m"],
  ["conductivity_s_m", "Conductivity, S/m"],
  ["rel_permeability", "Relative permeability"],
  ["core_conductivity_s_m", "Core conductivity, S/m"],
  ["core_rel_permeability", "Core permeability"],
  ["insulation_m", "Insulation or coating, m"],
  ["insulation_eps_r", "Its permittivity"],
  ["coating_s_m2", "Coating conductance, S/m²"],
  ["joint_spacing_m", "Joint every, m"],
  ["joint_ohm", "A joint, ohm"],
  ["joint_f", "A joint, farad"],
];

/** The preset as visible electrical data; what is typed here overrides it. */
export function ElectricalData({
  usual,
  form,
}: {
  usual: Construction;
  form: EntryFormState<LineFormState>;
}) {
  const wrong = Boolean(useFormState({ control: form.control }).errors.construction);
  const typed = useWatch({ control: form.control, name: "construction" });
  const changed = Object.values(typed).filter((v) => v?.trim()).length;
  return (
    <Fold
      needs={wrong}
      className="mb-3 rounded-md border border-edge p-3"
      summary={`Electrical data (typical values${changed ? `, ${changed} changed` : ""})`}
    >
      <div className="mt-2 grid gap-x-4 sm:grid-cols-2">
        {LABELS.map(([key, label]) => (
          <TextEntry
            key={key}
            form={form}
            name={`construction.${key}`}
            label={label}
            hint={`Typical: ${usual[key]}`}
          />
        ))}
      </div>
    </Fold>
  );
}
