import { useState } from "react";
import type { Schemas, Units } from "../../api/client";
import { useKits, useRules } from "../../api/queries";
import { Choice } from "../../ui/Field";
import { useTitle } from "../../ui/useTitle";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { RuleCard } from "./RuleCard";

export default function RulesPage() {
  useTitle("Rules");
  const [units, setUnits] = useState<Units>("metric");
  const [chosen, setChosen] = useState<string | null>(null);
  const kits = useKits();
  return (
    <div className="mx-auto w-full max-w-7xl p-3 sm:p-5">
      <h1 className="mb-3">Pass limits</h1>
      <p className="mb-2">
        One table judges every station: planned, entered or simulated. Others judge the stops of a sonde run,
        and ground faults. Any hold means Hold. Then missing evidence means Need more, then any care means
        Mark with care. Otherwise it is Mark.
      </p>
      <Wait query={kits} doing="Reading the kits">
        {(list) => {
          const kit = chosen ?? String(list[0]?.id ?? "");
          return (
            <>
              <div className="grid gap-x-4 sm:max-w-xl sm:grid-cols-2">
                <Choice
                  label="Limits of the crew with"
                  name="kit"
                  value={kit}
                  onChange={setChosen}
                  options={[
                    ...list.map((k) => ({ id: String(k.id), label: k.kit.name })),
                    { id: "", label: "Vessel's own limits" },
                  ]}
                />
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
              <Table units={units} kitId={kit ? Number(kit) : null} />
            </>
          );
        }}
      </Wait>
    </div>
  );
}

function Table({ units, kitId }: { units: Units; kitId: number | null }) {
  const rules = useRules(units, kitId);
  return (
    <Wait query={rules} doing="Reading the rules">
      {(r) => (
        <>
          <Views
            label="Pass limits of"
            views={[
              {
                id: "stations",
                label: "Stations",
                show: <Limits rules={r.rules} kitId={kitId} units={units} />,
              },
              {
                id: "sonde",
                label: "Sonde runs",
                show: <Limits rules={r.sonde} kitId={kitId} units={units} />,
              },
              {
                id: "faults",
                label: "Ground faults",
                show: <Limits rules={r.faults} kitId={kitId} units={units} />,
              },
              { id: "rivals", label: "What else it could be", show: <Priors priors={r.priors} /> },
            ]}
          />
          <p className="mt-4 text-sm text-quiet">
            Criteria version {r.criteria_version}. Every mark keeps the limits it was made by.
          </p>
        </>
      )}
    </Wait>
  );
}

function Limits(p: { rules: Schemas["RuleView"][]; kitId: number | null; units: Units }) {
  return (
    <ul className="card gap-x-6 py-1 lg:grid lg:grid-cols-2">
      {p.rules.map((x) => (
        <RuleCard key={`${p.kitId}-${x.id}`} rule={x} kitId={p.kitId} units={p.units} />
      ))}
    </ul>
  );
}

/** How likely each rival is before anything is read: what evidence has to overcome. */
function Priors({ priors }: { priors: Schemas["PriorView"][] }) {
  return (
    <section className="card" aria-label="What else it could be">
      <p className="mb-2">
        How likely Vessel takes each of these to be. Readings and evidence then raise or lower it.
      </p>
      <ul>
        {priors.map((p) => (
          <li
            key={p.kind}
            className="grid gap-x-4 border-t border-edge py-2 md:grid-cols-[14rem_20rem_1fr] md:items-baseline"
          >
            <strong>{p.title}</strong>
            <span className="grid grid-cols-3 gap-x-2 whitespace-nowrap">
              <span>Wire {p.wire_text}</span>
              <span>Cable {p.cable_text}</span>
              <span>Pipe {p.pipe_text}</span>
            </span>
            <span className="text-quiet">{p.why}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
