import { Check, Footprints } from "lucide-react";
import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useChange, usePractice } from "../../api/queries";
import { when } from "../../api/units";
import { useWho } from "../../api/who";
import { Button, buttonClass } from "../../ui/Button";
import { Tick } from "../../ui/Field";
import { Refused } from "../../ui/Refused";
import { useRemembered } from "../../ui/useRemembered";
import { useTitle } from "../../ui/useTitle";
import { Views } from "../../ui/Views";
import { Wait } from "../../ui/Wait";
import { CrewCard } from "./CrewCard";

type Level = Schemas["DifficultyView"]["id"];

/** Where to be wrong safely: lessons in the order of the work, random sites, and how everybody did. */
export default function PracticePage() {
  useTitle("Practice yard");
  const who = useWho();
  const practice = usePractice(who);
  const [view, setView] = useState("lessons");
  const [feet, setFeet] = useRemembered("vessel-yard-feet");
  const [refused, setRefused] = useState<Refusal | null>(null);
  const go = useNavigate();
  const stop = useRef<AbortController | null>(null);
  const start = useChange("practice", (body: Schemas["StartForm"]) => {
    stop.current = new AbortController();
    return take(api.POST("/api/practice", { body, signal: stop.current.signal }));
  });
  const begin = (body: Schemas["StartForm"]) =>
    start.mutateAsync({ ...body, technician: who, units: feet ? "imperial" : "metric" }).then(
      ({ id }) => go(`/jobs/${id}/yard`),
      (e) => setRefused(stop.current?.signal.aborted ? null : asRefusal(e)),
    );
  return (
    <div className="mx-auto w-full max-w-6xl p-3 sm:p-5">
      <h1>Practice yard</h1>
      <p className="mb-3">
        A place to be wrong safely. The ground is hidden, the instruments are simulated, and the same judge
        checks your readings. At the end you see what lay there.
      </p>
      <Tick name="feet" label="Exercises in feet and inches" checked={feet} onChange={setFeet} />
      {refused ? <Refused text={refused.text} /> : null}
      <Wait query={practice} doing="Reading the lessons">
        {(p) => (
          <>
            <Running exercises={p.running} />
            <Views
              label="Of the yard"
              value={view}
              onChange={setView}
              views={[
                {
                  id: "lessons",
                  label: "Lessons",
                  note: `${p.lessons.filter((l) => l.passed).length} of ${p.lessons.length}`,
                  show: <Lessons lessons={p.lessons} busy={start.isPending} onStart={begin} />,
                },
                {
                  id: "random",
                  label: "Random sites",
                  show: (
                    <Random
                      levels={p.levels}
                      busy={start.isPending}
                      onStart={begin}
                      onStop={() => stop.current?.abort()}
                    />
                  ),
                },
                { id: "history", label: "Ended", note: String(p.ended.length), show: <Ended of={p.ended} /> },
                { id: "crew", label: "Crew", show: <CrewCard /> },
              ]}
            />
          </>
        )}
      </Wait>
    </div>
  );
}

function Running({ exercises }: { exercises: Schemas["ExerciseListed"][] }) {
  if (!exercises.length) return null;
  return (
    <section className="card mb-3" aria-label="Exercises begun">
      <ul className="grid gap-2">
        {exercises.slice(0, 3).map((e) => (
          <li key={e.job_id} className="flex flex-wrap items-center gap-2">
            <span className="grow">
              <strong>{e.name}</strong>{" "}
              <span className="text-quiet">
                {e.technician}, begun {when(e.started_at)}
              </span>
            </span>
            <Link className={buttonClass()} to={`/jobs/${e.job_id}/yard`}>
              <Footprints aria-hidden className="size-5" /> Go on
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Lessons(p: {
  lessons: Schemas["LessonListed"][];
  busy: boolean;
  onStart: (body: Schemas["StartForm"]) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <ol className="grid gap-x-6 lg:grid-cols-2">
        {p.lessons.map((l) => (
          <li key={l.id} className="flex items-center gap-3 border-t border-edge py-2" data-lesson={l.id}>
            <span
              className={`grid size-9 shrink-0 place-items-center rounded-full border-2 font-bold ${l.passed ? "border-mark bg-mark-bg text-mark" : "border-edge"}`}
            >
              {l.passed ? <Check aria-label="Passed" className="size-5" /> : l.order}
            </span>
            <div className="min-w-0 grow">
              <p className="leading-tight font-semibold">{l.name}</p>
              <p className="text-sm text-quiet">
                {l.point}
                {l.tries ? ` Best score ${l.best ?? 0}.` : ""}
              </p>
            </div>
            <Button
              disabled={p.busy}
              aria-label={`Start ${l.name}`}
              onClick={() => p.onStart({ lesson: l.id })}
            >
              {l.tries ? "Again" : "Start"}
            </Button>
          </li>
        ))}
      </ol>
      <input
        ref={file}
        type="file"
        accept=".json"
        aria-label="Lesson file"
        className="sr-only"
        tabIndex={-1}
        onChange={async (e) => {
          const chosen = e.target.files?.[0];
          e.target.value = "";
          if (chosen) p.onStart({ file: await chosen.text() });
        }}
      />
      <Button className="mt-3" disabled={p.busy} onClick={() => file.current?.click()}>
        Open a lesson file
      </Button>
    </>
  );
}

function Random(p: {
  levels: Schemas["DifficultyView"][];
  busy: boolean;
  onStart: (body: Schemas["StartForm"]) => void;
  onStop: () => void;
}) {
  const [level, setLevel] = useState<Level>("easy");
  const [seed, setSeed] = useState("");
  const wrong = seed !== "" && !/^\d{1,9}$/.test(seed);
  return (
    <div className="max-w-xl">
      <fieldset>
        <legend className="font-semibold">How hard</legend>
        {p.levels.map((l) => (
          <label key={l.id} className="flex min-h-11 items-center gap-3">
            <input
              type="radio"
              name="level"
              className="size-5"
              checked={level === l.id}
              onChange={() => setLevel(l.id)}
            />
            <span>
              <strong>{l.label}.</strong> {l.note}
            </span>
          </label>
        ))}
      </fieldset>
      <label className="mt-2 block">
        <span className="font-semibold">Seed</span>
        <input
          className="field"
          inputMode="numeric"
          value={seed}
          placeholder="Empty: any site"
          aria-invalid={wrong}
          onChange={(e) => setSeed(e.target.value.trim())}
        />
      </label>
      <p className={`mb-3 text-sm ${wrong ? "font-semibold text-hold" : "text-quiet"}`}>
        {wrong
          ? "A seed is a whole number of up to nine digits."
          : "A colleague who types the same seed and level gets the same site."}
      </p>
      <Button
        look="main"
        disabled={p.busy || wrong}
        onClick={() => p.onStart({ level, seed: seed === "" ? null : Number(seed) })}
      >
        Start a random site
      </Button>
      {p.busy ? (
        <p role="status" className="mt-2 flex flex-wrap items-center gap-3">
          Laying the site, and trying how much of it can be proved
          <Button onClick={p.onStop}>Cancel</Button>
        </p>
      ) : null}
    </div>
  );
}

function Ended({ of }: { of: Schemas["ExerciseListed"][] }) {
  if (!of.length) return <p>Nothing ended yet. Start with the first lesson.</p>;
  return (
    <ul>
      {of.map((e) => (
        <li key={e.job_id} className="flex flex-wrap items-center gap-2 border-t border-edge py-2">
          <span className="grow">
            <strong>{e.name}</strong> {e.level ? `(${e.level}, seed ${e.seed})` : ""}{" "}
            <span className="text-quiet">
              {e.technician}, {when(e.ended_at ?? e.started_at)}
            </span>
          </span>
          <span className={e.passed ? "font-bold text-mark" : "font-semibold"}>
            {e.passed ? "Passed" : "Not passed"}, score {e.score}
            {e.strikes ? `, ${e.strikes} ${e.strikes === 1 ? "strike" : "strikes"}` : ""}
          </span>
          <Link className={buttonClass("quiet")} to={`/jobs/${e.job_id}/yard`}>
            Debrief
          </Link>
        </li>
      ))}
    </ul>
  );
}
