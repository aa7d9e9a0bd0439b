import { useWatch } from "react-hook-form";
import { ChoiceEntry, TextEntry } from "../../ui/EntryForm";
import { type PanelProps, tapping } from "./drawing";
import { Things } from "./PlanThings";
import { NEW_AREA, NEW_BOND } from "./planDraft";
import { RouteField } from "./RouteField";

export function Ground(panel: PanelProps) {
  return (
    <Things
      panel={panel}
      list="hard"
      title="Dig area and hard surfaces"
      note="With a dig area, Vessel plans only what is inside it. It puts no stake in a hard surface."
      add="Add a hard surface"
      empty={NEW_AREA}
      called="name"
      card={(i, key) => (
        <>
          <TextEntry form={panel.form} name={`hard.${i}.name`} label="Name" />
          <RouteField
            form={panel.form}
            jobId={panel.job.id}
            name={`hard.${i}.outline`}
            label="Outline"
            {...tapping(panel, {
              id: `hard-${key}`,
              name: panel.form.getValues(`hard.${i}.name`) || "Hard surface",
              one: false,
              closed: true,
              path: (d) => `hard.${d.hard.findIndex((x) => x.key === key)}.outline`,
            })}
          />
        </>
      )}
    >
      <div className="mt-3 border-t border-edge pt-3">
        <RouteField
          form={panel.form}
          jobId={panel.job.id}
          name="dig"
          label="Outline of the dig area"
          hint="Empty: locate every line from end to end."
          {...tapping(panel, {
            id: "dig",
            name: "Dig area",
            one: false,
            closed: true,
            path: () => "dig",
          })}
        />
      </div>
    </Things>
  );
}

export function Bonds(panel: PanelProps) {
  const structures = useWatch({ control: panel.form.control, name: "structures" });
  const names = [...panel.job.lines.map((l) => l.name), ...structures.map((s) => s.name).filter(Boolean)].map(
    (name) => ({ id: name, label: name }),
  );
  const choices = [{ id: "", label: "Choose" }, ...names];
  return (
    <Things
      panel={panel}
      list="bonds"
      title="Bonds and tees"
      note="Metal joined to metal: the signal goes both ways there."
      add="Add a bond"
      empty={NEW_BOND}
      called="a"
      card={(i) => (
        <div className="grid gap-x-3 sm:grid-cols-2">
          {(["a", "b"] as const).map((side) => (
            <div key={side}>
              <ChoiceEntry
                form={panel.form}
                name={`bonds.${i}.${side}`}
                label={side === "a" ? "This" : "with this"}
                options={choices}
              />
              <TextEntry
                form={panel.form}
                name={`bonds.${i}.${side}_at`}
                label="at, along it"
                quantity="distance"
                units={panel.job.units}
              />
            </div>
          ))}
        </div>
      )}
    />
  );
}
