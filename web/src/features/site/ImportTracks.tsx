import { FileUp } from "lucide-react";
import { useRef, useState } from "react";
import { api, asRefusal, type Refusal, type Schemas, take } from "../../api/client";
import { buttonClass } from "../../ui/Button";
import { Choice, Field } from "../../ui/Field";
import type { PanelProps } from "./drawing";

/** Lines of a GeoJSON or GPX file as routes: read, shown, and given to lines one by one. */
export function ImportTracks({ job, form }: PanelProps) {
  const [found, setFound] = useState<Schemas["TracksView"] | null>(null);
  const [refused, setRefused] = useState<Refusal | null>(null);
  const [system, setSystem] = useState("");
  const [text, setText] = useState("");
  const [busy, setBusy] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const read = (content: string, as: string) => {
    setBusy(true);
    setRefused(null);
    take(
      api.POST("/api/jobs/{job_id}/site/tracks", {
        params: { path: { job_id: job.id } },
        body: { text: content, system: as },
      }),
    )
      .then((tracks) => setFound(tracks as Schemas["TracksView"]))
      .catch((e) => setRefused(asRefusal(e)))
      .finally(() => setBusy(false));
  };
  const onFile = (list: FileList | null) => {
    const one = list?.[0];
    if (!one) return;
    setFound(null);
    one
      .text()
      .then((content) => {
        setText(content);
        read(content, system);
      })
      .finally(() => {
        if (file.current) file.current.value = "";
      });
  };
  return (
    <div className="mt-3 border-t border-edge pt-3">
      <label className={`${buttonClass("plain")} cursor-pointer`}>
        <FileUp aria-hidden className="size-5" /> Import GeoJSON or GPX
        <input
          ref={file}
          type="file"
          accept=".geojson,.json,.gpx,application/geo+json"
          className="sr-only"
          onChange={(e) => onFile(e.target.files)}
        />
      </label>
      {busy ? <p role="status">Reading the file</p> : null}
      {refused ? (
        <p role="alert" className="mt-2 font-semibold text-hold">
          {refused.text}
        </p>
      ) : null}
      {refused?.field === "system" ? (
        <div className="mt-2 flex flex-wrap items-start gap-2">
          <div className="grow">
            <Field
              name="system"
              label="Coordinate system"
              value={system}
              onChange={setSystem}
              hint="EPSG:25832, or “site” for metres on this plan"
            />
          </div>
          <button type="button" className={`${buttonClass("main")} mt-6`} onClick={() => read(text, system)}>
            Read again
          </button>
        </div>
      ) : null}
      {found ? (
        <ul className="mt-2 grid gap-2">
          {found.tracks.map((t) => (
            <li key={t.route} className="rounded-md border border-edge p-2">
              <strong>{t.name}</strong>, {t.length_text}
              {t.notice ? <p className="text-sm text-quiet">{t.notice}</p> : null}
              <Choice
                name={`track-${t.name}`}
                label="Use it as the route of"
                value=""
                options={[
                  { id: "", label: "Choose a line" },
                  ...job.lines.map((l) => ({ id: String(l.id), label: l.name })),
                ]}
                onChange={(id) => {
                  if (!id) return;
                  form.setValue(`routes.${id}`, t.route);
                  form.setValue("origin", found.origin);
                }}
              />
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
