import type { Refusal, Schemas } from "../../api/client";
import { Field } from "../../ui/Field";

type Construction = Schemas["ConstructionDoc"];

const LABELS: [keyof Construction, string][] = [
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
export function ElectricalData(p: {
  usual: Construction;
  overrides: Record<string, string>;
  onChange: (overrides: Record<string, string>) => void;
  error: Refusal | null;
}) {
  const wrong = p.error?.field.startsWith("construction.") ?? false;
  const changed = Object.values(p.overrides).filter((v) => v.trim() !== "").length;
  return (
    <details className="mb-3 rounded-md border border-edge p-3" open={wrong || undefined}>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        Electrical data (typical values{changed ? `, ${changed} changed` : ""})
      </summary>
      <div className="mt-2 grid gap-x-4 sm:grid-cols-2">
        {LABELS.map(([key, label]) => (
          <Field
            key={key}
            name={`construction.${key}`}
            label={label}
            value={p.overrides[key] ?? ""}
            hint={`Typical: ${p.usual[key]}`}
            error={p.error}
            onChange={(v) => p.onChange({ ...p.overrides, [key]: v })}
          />
        ))}
      </div>
    </details>
  );
}
