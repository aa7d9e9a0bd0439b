import { Choice, Field } from "../../ui/Field";
import { type PanelProps, tapping } from "./drawing";
import { Things } from "./PlanThings";
import { NEW_AREA, NEW_BOND } from "./planDraft";
import { RouteField } from "./RouteField";

export function Ground(panel: PanelProps) {
  const { draft, change } = panel;
  return (
    <Things
      panel={panel}
      list="hard"
      title="Dig area and hard surfaces"
      note="With a dig area only what lies inside it is planned for. No stake goes into a hard surface."
      add="Add a hard surface"
      empty={NEW_AREA}
      nameOf={(a) => a.name}
      card={(a, i, set) => (
        <>
          <Field
            name={`hard.${i}.name`}
            label="Name"
            value={a.name}
            onChange={(name) => set({ name })}
            error={panel.error}
          />
          <RouteField
            jobId={panel.job.id}
            name={`hard.${i}.outline`}
            label="Outline"
            value={a.outline}
            onChange={(outline) => set({ outline })}
            error={panel.error}
            {...tapping(panel, {
              id: `hard-${a.key}`,
              one: false,
              closed: true,
              get: (d) => d.hard.find((x) => x.key === a.key)?.outline ?? "",
              put: (d, outline) => ({
                hard: d.hard.map((x) => (x.key === a.key ? { ...x, outline } : x)),
              }),
            })}
          />
        </>
      )}
    >
      <div className="mt-3 border-t border-edge pt-3">
        <RouteField
          jobId={panel.job.id}
          name="dig"
          label="Dig area, outline"
          value={draft.dig}
          onChange={(dig) => change({ dig })}
          error={panel.error}
          hint="Empty: every line is wanted whole."
          {...tapping(panel, {
            id: "dig",
            one: false,
            closed: true,
            get: (d) => d.dig,
            put: (_, dig) => ({ dig }),
          })}
        />
      </div>
    </Things>
  );
}

export function Bonds(panel: PanelProps) {
  const names = [
    ...panel.job.lines.map((l) => l.name),
    ...panel.draft.structures.map((s) => s.name).filter(Boolean),
  ].map((name) => ({ id: name, label: name }));
  const choices = [{ id: "", label: "Choose" }, ...names];
  return (
    <Things
      panel={panel}
      list="bonds"
      title="Bonds and tees"
      note="Metal joined to metal: the signal goes both ways there."
      add="Add a bond"
      empty={NEW_BOND}
      nameOf={(b) => (b.a ? `the bond of ${b.a}` : "")}
      card={(b, i, change) => (
        <div className="grid gap-x-3 sm:grid-cols-2">
          {(["a", "b"] as const).map((side) => (
            <div key={side}>
              <Choice
                name={`bonds.${i}.${side}`}
                label={side === "a" ? "This" : "with this"}
                value={b[side]}
                options={choices}
                onChange={(name) => change({ [side]: name })}
                error={panel.error}
              />
              <Field
                name={`bonds.${i}.${side}_at`}
                label="at, along it"
                quantity="distance"
                units={panel.job.units}
                value={b[`${side}_at`]}
                onChange={(at) => change({ [`${side}_at`]: at })}
                error={panel.error}
              />
            </div>
          ))}
        </div>
      )}
    />
  );
}
