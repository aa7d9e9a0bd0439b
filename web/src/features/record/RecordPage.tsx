import { Download, Printer } from "lucide-react";
import { Link, useParams } from "react-router";
import { BASE } from "../../api/base";
import type { Schemas } from "../../api/client";
import { useRecord } from "../../api/queries";
import { formatter, when } from "../../api/units";
import { CoverStrip } from "../../pictures/CoverStrip";
import { TraceRibbon } from "../../pictures/TraceRibbon";
import { UtilityTag } from "../../pictures/UtilityTag";
import { VerdictBadge } from "../../pictures/Verdict";
import { Button, buttonClass } from "../../ui/Button";
import { useTitle } from "../../ui/useTitle";
import { Wait } from "../../ui/Wait";
import { ChangeList } from "../history/History";
import { Struck } from "../history/Struck";
import { MarkItem } from "../marks/MarksPage";
import { FoundPlan } from "../site/FoundPlan";
import { FaultRecord } from "./FaultRecord";
import { Long } from "./Long";
import { SondeRecord } from "./SondeRecord";

type Record = Schemas["RecordView"];

/** The printable page: who, when, with what, what was found, what was not proved. */
export default function RecordPage() {
  const { jobId } = useParams();
  const record = useRecord(Number(jobId));
  return (
    <div className="mx-auto w-full max-w-4xl p-4 sm:p-8">
      <Wait query={record} doing="Putting the record together">
        {(r) => <RecordView record={r} />}
      </Wait>
    </div>
  );
}

function RecordView({ record: r }: { record: Record }) {
  const job = r.job;
  useTitle("Record", job.name);
  return (
    <>
      <div className="no-print mb-4 flex flex-wrap gap-2">
        <Link to={`/jobs/${job.id}`} className={buttonClass("plain")}>
          Back to the job
        </Link>
        <Button look="main" onClick={() => window.print()}>
          <Printer aria-hidden className="size-5" /> Print
        </Button>
        <a href={`${BASE}/api/jobs/${job.id}/export`} download className={buttonClass("plain")}>
          <Download aria-hidden className="size-5" /> Job file
        </a>
        <a href={`${BASE}/api/jobs/${job.id}/found.csv`} download className={buttonClass("plain")}>
          <Download aria-hidden className="size-5" /> CSV
        </a>
        {job.tied ? (
          <a href={`${BASE}/api/jobs/${job.id}/found.geojson`} download className={buttonClass("plain")}>
            <Download aria-hidden className="size-5" /> GeoJSON
          </a>
        ) : null}
      </div>
      <h1>{job.name}</h1>
      <p className="font-semibold">
        {[job.address, job.notice && `notice ${job.notice}`, job.client, job.contact]
          .filter(Boolean)
          .join(" · ")}
      </p>
      <p>{job.dig}</p>
      <p className="mt-1 text-sm">
        Located by {job.technician}. {job.due_at ? `Due ${when(job.due_at)}. ` : ""}Record of{" "}
        {when(r.printed_at)}.
      </p>
      <p className="mt-3 rounded-md border-2 border-ink p-3 font-semibold">
        Marks show where lines were found. They are not permission to dig: local codes, the lines' owners and
        qualified staff decide. Stretches without a mark are not located.
      </p>
      <section className="mt-4" aria-label="Results">
        <h2 className="sr-only">Results</h2>
        <FoundPlan job={job} />
        <ul className="mt-3">
          {r.lines.map((l) => (
            <Result key={l.line.id} line={l.line} marks={l.marks} />
          ))}
        </ul>
        {r.standing.crossings.length ? (
          <ul aria-label="Depths that contradict each other" className="mt-2 font-semibold text-hold">
            {r.standing.crossings.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        ) : null}
      </section>
      <h2 className="mt-8 break-before-page border-t-4 border-ink pt-3 text-2xl">Annex: evidence</h2>
      <p className="text-sm">
        Soil: {job.soil_text}. Kit: {job.kit_name}.
      </p>
      <BeforeRecord before={r.before} />
      {r.lines.map((l) => (
        <LineRecord
          key={l.line.id}
          record={l}
          job={job}
          due={r.standing.lines.find((x) => x.id === l.line.id)?.due ?? []}
        />
      ))}
      <section className="mt-6 border-t-4 border-ink pt-3" aria-label="Changes to the record">
        <h2 className="text-xl">Changes to the record</h2>
        <p className="text-sm">
          What was corrected, struck out, withdrawn or imported, with the values before.
        </p>
        {r.changes.length ? <ChangeList entries={r.changes} /> : <p>None.</p>}
      </section>
    </>
  );
}

const STATE = {
  marked: { word: "Marked", ink: "text-mark" },
  doubtful: { word: "DOUBTFUL", ink: "text-care" },
  missing: { word: "NOT LOCATED", ink: "text-hold" },
} as const;

/** One line for who digs: from where to where it is marked, how deep, and where it is not located. */
function Result({ line: l, marks }: { line: Schemas["LineRecord"]["line"]; marks: Schemas["MarkView"][] }) {
  const standing = marks.filter((m) => m.withdrawn_at === null && m.walk_id === null);
  const last = [...standing].sort((a, b) => a.marked_at.localeCompare(b.marked_at)).at(-1);
  return (
    <li className="break-inside-avoid border-t border-edge py-2" data-result={l.id}>
      <div className="flex flex-wrap items-center gap-x-3">
        <UtilityTag utility={l.utility} />
        <strong className="text-lg">{l.name}</strong>
        <span className="text-sm text-quiet">
          {last ? `last marked by ${last.technician}, ${when(last.marked_at)}` : "no mark"}
        </span>
      </div>
      <div className="my-1">
        <CoverStrip cover={l.cover} tall />
      </div>
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {l.cover.stretches.map((s) => (
          <li key={s.start_m} data-stretch={s.state}>
            <strong className={STATE[s.state].ink}>{STATE[s.state].word}</strong> {s.text}
            {s.depth_text ? <strong>, {s.depth_text}</strong> : null}
          </li>
        ))}
      </ul>
    </li>
  );
}

const SAID = { yes: "Yes", no: "NO", not_needed: "Not needed", "": "Not answered" } as const;

function BeforeRecord({ before: b }: { before: Record["before"] }) {
  const read = b.noise.filter((n) => n.here);
  return (
    <section className="mt-6 border-t-4 border-ink pt-3" aria-label="Before">
      <h2 className="text-xl">Before anything was switched on</h2>
      <p className="font-semibold">{b.headline}</p>
      <ul className="mt-1 text-sm sm:columns-2">
        {b.groups
          .flatMap((g) => g.checks)
          .map((c) => (
            <li key={c.id} className="break-inside-avoid">
              <strong>{SAID[c.answer]}:</strong> {c.text}
              {c.note ? ` (${c.note})` : ""}
            </li>
          ))}
      </ul>
      <p className="mt-2 text-sm">
        <strong>Noise.</strong>{" "}
        {read.length ? read.map((n) => `${n.freq_text}: ${n.text}.`).join(" ") : "Not read."}
      </p>
      <p className="text-sm">
        <strong>Passive sweep.</strong> {b.passive.headline}{" "}
        {b.passive.hits
          .map((h) => [h.text, h.place && `At ${h.place}.`, h.note && `${h.note}.`].filter(Boolean).join(" "))
          .join(" ")}
      </p>
    </section>
  );
}

function LineRecord({
  record: r,
  job,
  due,
}: {
  record: Schemas["LineRecord"];
  job: Record["job"];
  due: string[];
}) {
  const l = r.line;
  // a mark at a fault locates no line
  const locating = r.marks.filter((m) => m.walk_id === null);
  return (
    <section className="mt-6 border-t-4 border-ink pt-3" aria-label={l.name}>
      <h2 className="text-xl">
        {l.name} ({l.utility.label}, {l.utility.colour.toLowerCase()})
      </h2>
      <p className="text-sm">
        {l.preset_label}, about {l.length_text}, expected {l.depth_text}. Near end: {l.near_text}. Far end:{" "}
        {l.far_text}. Beside it: {l.beside_text}.
      </p>
      {r.hookups.length === 0 && r.sonde.length === 0 ? (
        <p className="mt-2 font-bold">
          {l.hollow && !l.steps.includes("trace") ? "No sonde run" : "No hookup"}: not located.
        </p>
      ) : null}
      {r.hookups.map((h, i) => {
        const trace = r.traces[i];
        return (
          <div key={h.id} className="mt-4">
            <h3>
              {h.title}{" "}
              <span className="font-normal text-quiet">
                {h.technician}, {when(h.created_at)}
              </span>
            </h3>
            <p className="text-sm">
              Receiver {h.rx_freq_text || "frequency not checked"}. Safe order:{" "}
              {h.steps.filter((s) => s.done).length} of {h.steps.length} steps done.
            </p>
            <ul className="text-sm">
              {h.readings.map((x) => (
                <li key={x.id}>
                  Transmitter {x.volts_text}, {x.amps_text}, {x.ohms_text} at {x.freq_text} ({x.technician},{" "}
                  {when(x.taken_at)}){x.change_text ? `, ${x.change_text}` : ""}
                  {x.beside_text ? `, ${x.beside_text}` : ""}
                  {x.counts ? "" : ". Not counted: started again after it"}
                  {x.doubt_text ? <strong>. {x.doubt_text}</strong> : null}
                </li>
              ))}
            </ul>
            <Struck entries={h.struck} />
            <p className="font-semibold first-letter:uppercase">{h.headline}</p>
            {trace?.stations.length ? (
              <>
                <p className="font-semibold">{trace.identity_text}</p>
                <TraceRibbon
                  trace={trace}
                  format={formatter(job.units)}
                  chosen={null}
                  onChoose={() => undefined}
                />
                {trace.end_text ? (
                  <p className="text-sm">
                    {trace.end_text} {trace.end_step}
                  </p>
                ) : null}
                <Long
                  items={trace.stations}
                  what="stations"
                  className="mt-1"
                  row={(s) => (
                    <li
                      key={s.id}
                      className="flex flex-wrap items-baseline gap-x-3 border-t border-edge py-1 text-sm"
                    >
                      <strong>{s.distance_text}</strong>
                      <VerdictBadge verdict={s.verdict} />
                      <span>
                        {s.current_text}, depth {s.depth_text}, peak to null {s.peak_null_text}, neighbour{" "}
                        {s.neighbour_text}
                      </span>
                      <span className="text-quiet">
                        {s.technician}, {when(s.taken_at)}
                        {s.note ? ` · ${s.note}` : ""}
                      </span>
                      {s.verdict === "mark" ? null : <span className="w-full">{s.headline}</span>}
                    </li>
                  )}
                />
              </>
            ) : null}
            {trace ? <Struck entries={trace.struck} /> : null}
          </div>
        );
      })}
      {r.sonde.map((run) => (
        <SondeRecord key={run.run.id} record={run} line={l} job={job} />
      ))}
      {r.faults.map((f) => (
        <FaultRecord key={f.walk.id} record={f} line={l} job={job} />
      ))}
      <h3 className="mt-4">Marks</h3>
      {locating.length === 0 ? <p className="font-bold">None: not located.</p> : null}
      {locating.length && due.length ? (
        <p className="font-bold">Still due when this was printed: {due.join(" ")}</p>
      ) : null}
      <Long
        items={r.marks}
        what="marks"
        className="mt-1 grid gap-2"
        row={(m) => <MarkItem key={m.id} mark={m} />}
      />
    </section>
  );
}
