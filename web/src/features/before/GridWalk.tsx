import { useState } from "react";
import { useWatch } from "react-hook-form";
import { api, asRefusal, type Job, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button } from "../../ui/Button";
import { EntryForm, FormError, TextEntry } from "../../ui/EntryForm";
import { Tick } from "../../ui/Field";
import { Fold } from "../../ui/Fold";
import { Refused } from "../../ui/Refused";
import { useEntryForm } from "../../ui/useEntryForm";

type Grid = Schemas["GridView"];
type Way = Schemas["WayView"];

/** What is said of the grid: one strip, or a whole way, is walked or not. */
type Walk = { of: "strip" | "way"; id: string; walked: boolean };

export function useGrid(job: Job) {
  const [last, setLast] = useState("");
  const walk = useChange(
    "grid",
    ({ of, id, walked }: Walk) => {
      const body = { walked };
      return of === "way"
        ? take(
            api.PUT("/api/jobs/{job_id}/before/passive/ways/{way}", {
              params: { path: { job_id: job.id, way: id as Way["id"] } },
              body,
            }),
          )
        : take(
            api.PUT("/api/jobs/{job_id}/before/passive/strips/{strip_id}", {
              params: { path: { job_id: job.id, strip_id: id } },
              body,
            }),
          );
    },
    { scope: `before-${job.id}`, shown: ["job", job.id, "before"] },
  );
  const say = (what: Walk) => {
    setLast(what.of === "strip" && what.walked ? what.id : "");
    walk.mutate(what);
  };
  return {
    say,
    last,
    asked: walk.isPending ? walk.variables : null,
    error: walk.isError ? walk.error : null,
  };
}

/** The strip to walk next, and one button for when it is walked. */
export function NextWalk({ grid, use }: { grid: Grid; use: ReturnType<typeof useGrid> }) {
  const { next_id: id } = grid;
  if (!id) return grid.lacks ? <p className="mt-2 text-sm">{grid.lacks}</p> : null;
  return (
    <div className="mt-2">
      <p>
        <strong>Next: {id}</strong> {grid.next_text}
      </p>
      <p className="text-sm text-quiet">{grid.next_how}</p>
      <div className="mt-2 flex gap-2">
        <Button
          look="main"
          className="grow"
          disabled={use.asked !== null}
          onClick={() => use.say({ of: "strip", id, walked: true })}
        >
          {id} walked
        </Button>
        {use.last && !use.asked ? (
          <Button onClick={() => use.say({ of: "strip", id: use.last, walked: false })}>
            Undo {use.last}
          </Button>
        ) : null}
      </div>
      {use.error ? <Refused text={asRefusal(use.error).text} /> : null}
    </div>
  );
}

/** Both ways of the grid: ticked as a whole, or strip by strip. */
export function Ways({ grid, use }: { grid: Grid; use: ReturnType<typeof useGrid> }) {
  return grid.ways.map((w) => {
    const asked = use.asked?.of === "way" && use.asked.id === w.id ? use.asked.walked : null;
    return (
      <div key={w.id}>
        <Tick
          name={`way-${w.id}`}
          label={
            <>
              {w.label} <span className="text-quiet">{w.count_text}</span>
            </>
          }
          checked={asked ?? w.done}
          onChange={(walked) => use.say({ of: "way", id: w.id, walked })}
        />
        {w.strips.length ? (
          <Fold summary={`Strips of ${w.id}, one by one`} className="mb-1 pl-9">
            <fieldset className="flex flex-wrap gap-1" aria-label={`Strips of ${w.id}`}>
              {w.strips.map((s) => (
                <button
                  key={s.id}
                  type="button"
                  className={`min-h-11 min-w-12 rounded-md border-2 px-2 text-sm font-semibold ${s.walked ? "border-mark bg-mark-bg text-mark" : "border-edge bg-sheet"}`}
                  aria-pressed={s.walked}
                  title={s.text}
                  onClick={() => use.say({ of: "strip", id: s.id, walked: !s.walked })}
                >
                  {s.id}
                  {s.walked ? " ✓" : ""}
                </button>
              ))}
            </fieldset>
          </Fold>
        ) : null}
      </div>
    );
  });
}

/** How far apart the walks are; without it one tap sets what is usual. */
export function Spacing(p: {
  job: Job;
  value: string;
  usual: string;
  onSet: (text: string) => Promise<void>;
}) {
  const form = useEntryForm({ start: { spacing: p.value || p.usual } });
  const { spacing } = useWatch({ control: form.control });
  return (
    <EntryForm
      form={form}
      send={(typed) => p.onSet(typed.spacing)}
      className="flex max-w-xs items-start gap-2"
    >
      <div className="grow">
        <TextEntry form={form} name="spacing" label="Between walks" quantity="distance" units={p.job.units} />
        <FormError form={form} />
      </div>
      <Button type="submit" className="mt-6" disabled={spacing === p.value}>
        {p.usual ? "Lay out strips" : "Set"}
      </Button>
    </EntryForm>
  );
}
