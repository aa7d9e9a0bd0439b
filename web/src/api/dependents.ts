/** Which answers depend on which kind of stored thing: after a change only these are read again. */

/** Families of queries, by the first and third part of their key: `job.found` is `["job", id, "found"]`. */
const SETUP = [
  "setup",
  "setup.remedies",
  "setup.trace",
  "setup.sweep",
  "setup.across",
  "setup.identity",
  "station",
];
const LINE = ["line", "line.plan", "line.marks", "line.sonde", "line.fault", "stop"];
const SHOWN = ["job", "job.record", "job.found", "job.standing"];

const DEPENDENTS = {
  jobs: ["jobs", "kits"],
  practice: ["practice"],
  yard: ["job.yard"],
  job: ["jobs", "kits", "job", "job.*", ...LINE, ...SETUP],
  checks: ["job", "job.before", "job.record"],
  noise: [...SHOWN, "job.before", "job.work", "line.plan", ...SETUP],
  grid: ["job", "job.before", "job.record"],
  passive: [
    ...SHOWN,
    "job.before",
    "job.yard",
    "job.site",
    "line.marks",
    "setup.trace",
    "setup.remedies",
    "setup.identity",
    "station",
  ],
  marking: [
    ...SHOWN,
    "line.sonde",
    "stop",
    "job.marking",
    "job.site",
    "job.work",
    "line.marks",
    "setup.trace",
    "setup.identity",
    "station",
  ],
  line: ["jobs", "job", "job.*", ...LINE, ...SETUP],
  site: ["job", "job.*", ...LINE, ...SETUP],
  background: ["job.site"],
  setup: [...SHOWN, "job.yard", ...SETUP],
  reading: [...SHOWN, ...SETUP],
  candidate: [...SHOWN, "setup.sweep", "setup.trace"],
  frame: [...SHOWN, "line.fault"],
  stop: [...SHOWN, "line.sonde", "stop"],
  station: [...SHOWN, "setup.trace", "setup.remedies", "setup.identity", "station"],
  identity: [...SHOWN, "setup", "setup.trace", "setup.remedies", "setup.identity", "station"],
  mark: ["jobs", ...SHOWN, "line.marks", "line.sonde", "line.fault", "setup.trace", "station", "stop"],
  kit: [
    "kits",
    "rules",
    ...SHOWN,
    "job.before",
    "job.work",
    "line.plan",
    "line.sonde",
    "line.fault",
    "stop",
    ...SETUP,
  ],
  rules: ["kits", "rules", ...SHOWN, "job.work", "line.plan", "line.sonde", "line.fault", "stop", ...SETUP],
} satisfies Record<string, string[]>;

/** What was changed. */
export type Kind = keyof typeof DEPENDENTS;

/** Whether the answer under a key may be another one after a thing of that kind has changed. */
export function dependsOn(key: readonly unknown[], kind: Kind): boolean {
  const [thing, , part] = key;
  const family = typeof part === "string" ? `${thing}.${part}` : `${thing}`;
  const touched: readonly string[] = DEPENDENTS[kind];
  return touched.includes(family) || (family.startsWith("job.") && touched.includes("job.*"));
}
