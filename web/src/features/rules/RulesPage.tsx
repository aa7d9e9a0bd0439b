import { useState } from "react";
import type { Units } from "../../api/client";
import { useRules } from "../../api/queries";
import { Choice } from "../../ui/Field";
import { Wait } from "../../ui/Wait";

export function RulesPage() {
  const [units, setUnits] = useState<Units>("metric");
  const rules = useRules(units);
  return (
    <div className="mx-auto w-full max-w-5xl p-4 sm:p-8">
      <div className="flex flex-wrap items-center justify-between gap-4">
        <h1>Rules of the judge</h1>
        <Choice
          label="Units"
          name="units"
          value={units}
          onChange={(v) => setUnits(v as Units)}
          options={[
            { id: "metric", label: "Metres" },
            { id: "imperial", label: "Feet and inches" },
          ]}
        />
      </div>
      <p className="mb-4">
        One table judges planned, entered and simulated stations alike. Any hold means Hold; then missing
        evidence means Need more; then any care means Mark with care; only then Mark.
      </p>
      <Wait query={rules} doing="Reading the rules">
        {(r) => (
          <>
            <ul className="grid gap-3 md:grid-cols-2">
              {r.rules.map((x) => (
                <li key={x.id} className="card">
                  <h2>{x.title}</h2>
                  <p className="text-sm text-quiet first-letter:uppercase">{x.measures}</p>
                  <p className="my-1 font-bold first-letter:uppercase">{x.bounds}</p>
                  <p>{x.why}</p>
                  <p className="mt-1">
                    <strong>Then:</strong> {x.next_step}
                  </p>
                  <p className="mt-1 text-sm text-quiet">When it is missing: {x.when_missing}.</p>
                </li>
              ))}
            </ul>
            <p className="mt-4 text-sm text-quiet">
              Criteria version {r.criteria_version}. The bounds cannot be edited in this version.
            </p>
          </>
        )}
      </Wait>
    </div>
  );
}
