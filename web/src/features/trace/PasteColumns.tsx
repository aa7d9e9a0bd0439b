import { FileUp } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import { useWatch } from "react-hook-form";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { useChange } from "../../api/queries";
import { Button, buttonClass } from "../../ui/Button";
import { keep } from "../../ui/draft";
import { Choice } from "../../ui/Field";
import { useToast } from "../../ui/Toasts";
import { useEntryForm } from "../../ui/useEntryForm";

type Columns = Schemas["ColumnsView"];

/** What each column holds is remembered for every table with the same names. */
const key = (c: Columns) => `vessel-columns:${c.columns.map((x) => x.name).join("|")}`;

const ask = (setupId: number, text: string, mapping: string[] | null, store: boolean) =>
  take(
    api.POST("/api/setups/{setup_id}/columns", {
      params: { path: { setup_id: setupId } },
      body: { text, mapping, store },
    }),
  );

/** Many stations at once, pasted or from a file: columns are named once, every line is judged like a typed one. */
export function PasteColumns({ setupId, onDone }: { setupId: number; onDone: () => void }) {
  const form = useEntryForm({ start: { text: "" }, draft: `columns-${setupId}` });
  const { text = "" } = useWatch({ control: form.control });
  const [mapping, setMapping] = useState<string[] | null>(null);
  const [found, setFound] = useState<Columns | null>(null);
  const [refused, setRefused] = useState<Refusal | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const toast = useToast();
  const store = useChange("station", () => ask(setupId, text, mapping ?? held(found), true));
  useEffect(() => {
    if (!text.trim()) {
      setFound(null);
      return;
    }
    let live = true;
    const timer = setTimeout(async () => {
      try {
        let answer = await ask(setupId, text, mapping, false);
        const before = mapping === null ? localStorage.getItem(key(answer)) : null;
        if (before) answer = await ask(setupId, text, JSON.parse(before) as string[], false);
        if (!live) return;
        setFound(answer);
        setRefused(null);
      } catch (e) {
        if (live) setRefused(asRefusal(e));
      }
    }, 300);
    return () => {
      live = false;
      clearTimeout(timer);
    };
  }, [setupId, text, mapping]);
  const choose = (k: number, field: string) => {
    if (!found) return;
    const next = (mapping ?? held(found)).map((f, i) => (i === k ? field : f));
    keep(key(found), next);
    setMapping(next);
  };
  const onText = (text: string) => {
    setMapping(null);
    form.put({ text });
  };
  const onStore = () =>
    store.mutateAsync(undefined).then(
      (answer) => {
        onText(answer.left);
        toast(`Added ${answer.taken} ${answer.taken === 1 ? "station" : "stations"}.`);
        if (!answer.left) onDone();
      },
      (e) => setRefused(asRefusal(e)),
    );
  return (
    <div className="grid gap-3">
      <label className="block font-semibold" htmlFor="columns-text">
        One station a line
      </label>
      <textarea
        id="columns-text"
        className="field font-mono"
        rows={7}
        value={text}
        placeholder={"Distance\tCurrent\tDepth\n12\t27.5\t0.76"}
        onChange={(e) => onText(e.target.value)}
      />
      <label className={`${buttonClass("plain")} cursor-pointer justify-self-start`}>
        <FileUp aria-hidden className="size-5" /> From a file
        <input
          ref={file}
          type="file"
          accept=".csv,.tsv,.txt,text/plain,text/csv"
          className="sr-only"
          onChange={(e) => {
            e.target.files?.[0]?.text().then(onText);
            if (file.current) file.current.value = "";
          }}
        />
      </label>
      {refused ? (
        <p role="alert" className="font-semibold text-hold">
          {refused.text}
        </p>
      ) : null}
      {found ? (
        <>
          <div className="grid gap-x-3 sm:grid-cols-2">
            {found.columns.map((c, k) => (
              <Choice
                key={c.name}
                name={`column-${k}`}
                label={`${c.name} holds`}
                value={c.field}
                hint={c.sample}
                onChange={(field) => choose(k, field)}
                options={[{ id: "", label: "not used" }, ...found.fields]}
              />
            ))}
          </div>
          {found.doubts.length ? (
            <ul aria-label="Worth a second look" className="grid gap-1">
              {found.doubts.map((text) => (
                <li key={text} className="border-l-4 border-care pl-3">
                  {text}
                </li>
              ))}
            </ul>
          ) : null}
          {found.problems.length ? (
            <ul aria-label="Lines that cannot be taken" className="grid gap-1">
              {found.problems.slice(0, 8).map((p) => (
                <li key={p.line} className="text-hold">
                  <strong>Line {p.line}:</strong> {p.text}
                </li>
              ))}
              {found.problems.length > 8 ? <li>and {found.problems.length - 8} more.</li> : null}
            </ul>
          ) : null}
          <Button look="main" disabled={store.isPending || found.good === 0} onClick={onStore}>
            {store.isPending
              ? "Checking stations"
              : `Add ${found.good} ${found.good === 1 ? "station" : "stations"}${found.problems.length ? `, leave ${found.problems.length} here` : ""}`}
          </Button>
        </>
      ) : (
        <p className="text-quiet">
          Tabs, semicolons, commas or spaces between; a first line of names helps. Lengths and currents as you
          would type them.
        </p>
      )}
    </div>
  );
}

const held = (c: Columns | null) => c?.columns.map((x) => x.field) ?? [];
